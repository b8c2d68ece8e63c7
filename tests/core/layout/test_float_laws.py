"""Floats and margins against plain models: the nine rules of CSS 2.2 §9.5.1, and collapsing §8.3.1."""

# mypy: disable-error-code="arg-type"
# Plain numbers stand for layout units.

from dataclasses import dataclass
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.boxes.box import Box
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.margins import MarginSet


@dataclass(frozen=True)
class Wanted:
    """A float that wants a place."""

    side: str
    clear: str
    width: int
    height: int
    drop: int  # how much further down the flow is than at the float before


WANTED = st.builds(
    Wanted,
    st.sampled_from(["left", "right"]),
    st.sampled_from(["none", "none", "none", "left", "right", "both"]),
    st.integers(0, 130),
    st.integers(0, 60),
    st.integers(0, 20),
)


def overlaps(a: tuple[int, int, int, int], b: tuple[int, int, int, int]) -> bool:
    """Whether two rectangles share more than an edge."""
    return a[0] < b[0] + b[2] and b[0] < a[0] + a[2] and a[1] < b[1] + b[3] and b[1] < a[1] + a[3]


@given(st.lists(WANTED, max_size=14), st.integers(60, 200))
def test_floats_obey_the_nine_rules(wanted: list[Wanted], room: int) -> None:
    """Each float against all before it, with nothing but rectangles."""
    placed: list[Any] = []
    context, y = FloatContext(), 0
    for one in wanted:
        y += one.drop
        place = context.place(one.side, one.clear, one.width, one.height, y, 0, room)
        rect = (place.x, place.y, one.width, one.height)
        fits = one.width <= room
        assert place.y >= y  # rule 4: not above where the flow stands
        assert all(place.y >= r[1] for _, r in placed)  # rule 5: not above an earlier float
        for side, other in placed:
            if fits and min(one.height, other[3]) > 0:
                assert not overlaps(rect, other), "rules 2, 3 and 7"
            if one.clear in (side, "both"):
                assert place.y >= other[1] + other[3]  # §9.5.2
        if fits:
            assert place.x >= 0 and place.x + one.width <= room  # rules 1 and 7
        for refusal in place.refusals:
            assert refusal.missing > 0 and y <= refusal.y < place.y
            assert refusal.missing == one.width - refusal.room
        assert _no_higher_place(place.y, one, placed, y, room), "rule 8: as high as possible"
        placed.append((one.side, rect))


def _no_higher_place(
    found: int, one: Wanted, placed: list[tuple[str, tuple[int, int, int, int]]], y: int, room: int
) -> bool:
    """Whether the line at every higher y has too little room, by looking at each of them."""
    least = max([y, *(r[1] for _, r in placed)])
    for side, rect in placed:
        if one.clear in (side, "both"):
            least = max(least, rect[1] + rect[3])
    for line in range(least, found):
        lefts = [r[0] + r[2] for s, r in placed if s == "left" and r[1] <= line < r[1] + r[3]]
        rights = [r[0] for s, r in placed if s == "right" and r[1] <= line < r[1] + r[3]]
        if one.width <= min([room, *rights]) - max([0, *lefts]):
            return False
    return True


@given(st.lists(WANTED, max_size=10), st.integers(0, 200), st.integers(1, 40))
def test_the_room_between_floats(wanted: list[Wanted], y: int, height: int) -> None:
    """As much as the rectangles leave at every y of the band, and the next step changes something."""
    context, rects = FloatContext(), []
    for one in wanted:
        place = context.place(one.side, "none", min(one.width, 90), one.height, 0, 0, 200)
        rects.append((one.side, place.x, place.y, min(one.width, 90), one.height))
    band = [r for r in rects if r[4] and r[2] < y + height and y < r[2] + r[4]]
    left = max([0, *(r[1] + r[3] for r in band if r[0] == "left")])
    right = min([200, *(r[1] for r in band if r[0] == "right")])
    assert context.room(y, height, 0, 200) == (left, right)
    edges = {e for r in rects if r[4] for e in (r[2], r[2] + r[4])}
    step = context.next_step(y)
    assert not [e for e in edges if y < e < step and step < 10**9] or step <= min(
        e for e in edges if e > y
    )


@given(st.lists(st.integers(-50, 50), max_size=9))
def test_margins_collapse_to_the_extremes(amounts: list[int]) -> None:
    """The largest positive and the most negative one, in any order; joining sets is as adding one by one."""
    box: Box = object.__new__(Box)
    whole = MarginSet()
    for amount in amounts:
        whole = whole.including(box, "top", amount)
    assert whole.used == max([0, *amounts]) + min([0, *amounts])
    assert [m.amount for m in whole.members] == [a for a in amounts if a]
    for cut in range(len(amounts) + 1):
        first, second = MarginSet(), MarginSet()
        for amount in amounts[:cut]:
            first = first.including(box, "top", amount)
        for amount in amounts[cut:]:
            second = second.including(box, "top", amount)
        assert first.joined(second) == whole
