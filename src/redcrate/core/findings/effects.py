"""All that a fix changes besides what it is for: at every width, on the whole page."""

from collections.abc import Collection, Sequence

from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.overflow.sideways import over_the_window
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit, counted, format_px, listed

SEEN = 32  # 1/64 px: a change of less is not told
_TOLD = 3


@dataclass(frozen=True, slots=True)
class Effects:
    """What a fix changes at one width, px.

    others: how many elements, besides those that the finding speaks of, have another size, or another distance to what
    is beside them. own: the size of the first of those spoken of before and after, 1/64 px; None where it is the same.
    taller, wider: how much further the page then reaches, 1/64 px.
    """

    width: float
    others: int
    own: tuple[LayoutUnit, LayoutUnit, LayoutUnit, LayoutUnit] | None
    taller: LayoutUnit
    wider: LayoutUnit

    @property
    def is_none(self) -> bool:
        """Whether nothing that can be seen is another one."""
        return not self.others and self.own is None and abs(self.taller) <= SEEN


def effects_of(before: Page, after: Page, spoken_of: Collection[Element]) -> Effects:
    """What is another one on the second page. spoken_of: elements of the first page."""
    pairs = _pairs(before, after)
    own = set(spoken_of)
    others = sum(
        one not in own
        and one.tag not in ("html", "body")
        and _is_changed(before, after, one, other, pairs)
        for one, other in pairs.items()
    )
    others += len(before.elements) - len(pairs)
    first = next(iter(spoken_of), None)
    return Effects(
        before.viewport.width,
        others,
        None if first is None else _own(before, after, first, pairs.get(first)),
        LayoutUnit(after.height - before.height),
        LayoutUnit(over_the_window(after) - over_the_window(before)),
    )


def _pairs(before: Page, after: Page) -> dict[Element, Element]:
    """The elements of both pages; where the tree is another one, those of the same path."""
    if len(before.elements) == len(after.elements):
        return dict(zip(before.elements, after.elements, strict=True))
    paths = {e.path: e for e in after.elements}
    return {e: paths[e.path] for e in before.elements if e.path in paths}


def _rect(page: Page, element: Element | None) -> Rect | None:
    box = page.box_of(element) if element is not None else None
    return box.border_box if box is not None else None


def _is_changed(
    before: Page, after: Page, one: Element, other: Element, pairs: dict[Element, Element]
) -> bool:
    old, new = _rect(before, one), _rect(after, other)
    if old is None or new is None:
        return old is not new
    if _far(old.width, new.width) or _far(old.height, new.height):
        return True
    beside = _beside(before, one)
    was = _rect(before, beside)
    now = _rect(after, pairs.get(beside)) if beside is not None else None
    if was is None or now is None:
        return was is not now
    inside = beside is one.parent
    return _moved(
        (old.x, old.width, was.x, was.width), (new.x, new.width, now.x, now.width), inside=inside
    ) or _moved(
        (old.y, old.height, was.y, was.height), (new.y, new.height, now.y, now.height), inside=inside
    )


def _beside(page: Page, element: Element) -> Element | None:
    """What an element's place counts from: the sibling before it that has a box, or else its parent."""
    parent = element.parent
    if parent is None:
        return None
    for earlier in reversed(parent.child_elements[: element.sibling_index]):
        if page.box_of(earlier) is not None:
            return earlier
    return parent


_Span = tuple[LayoutUnit, LayoutUnit, LayoutUnit, LayoutUnit]


def _moved(old: _Span, new: _Span, *, inside: bool) -> bool:
    """Whether one stretch stands elsewhere beside another one: neither from its start nor from its end as before."""

    def gaps(at: _Span) -> tuple[LayoutUnit, LayoutUnit]:
        x, length, of, by = at
        end = of + by - x - length if inside else x - of - by
        return LayoutUnit(x - of), LayoutUnit(end)

    (start, end), (now_start, now_end) = gaps(old), gaps(new)
    return _far(start, now_start) and _far(end, now_end)


def _far(one: LayoutUnit, other: LayoutUnit) -> bool:
    return abs(one - other) > SEEN


def _own(
    before: Page, after: Page, one: Element, other: Element | None
) -> tuple[LayoutUnit, LayoutUnit, LayoutUnit, LayoutUnit] | None:
    old, new = _rect(before, one), _rect(after, other)
    if old is None or new is None:
        return None
    if not (_far(old.width, new.width) or _far(old.height, new.height)):
        return None
    return old.width, old.height, new.width, new.height


def grown(effects: Sequence[Effects]) -> tuple[tuple[float, float], ...]:
    """The widths, px, at which the page becomes taller or shorter, and by how many px."""
    return tuple((e.width, e.taller / 64) for e in effects if abs(e.taller) > SEEN)


def told_effects(effects: Sequence[Effects]) -> str:
    """What is changed, in words; "" where that is nothing."""
    return ", ".join([*_told_others(effects), *_told_own(effects), *_told_height(effects)])


def _told_others(effects: Sequence[Effects]) -> list[str]:
    counts = [e.others for e in effects]
    most = max(counts, default=0)
    if not most:
        return []
    upto = "up to " if len(set(counts)) > 1 else ""
    return [f"changes {upto}" + counted(most, "1 other element", "{count} other elements")]


def _told_own(effects: Sequence[Effects]) -> list[str]:
    """The greatest change of height of what the finding speaks of."""
    resized = [(e, e.own) for e in effects if e.own is not None and _far(e.own[1], e.own[3])]
    if not resized:
        return []
    at, (_, old, _, new) = max(resized, key=lambda g: abs(g[1][3] - g[1][1]))
    where = f" at {at.width:g} px" if len(effects) > 1 else ""
    return [f"its height {format_px(old)} → {format_px(new)} px{where}"]


def _told_height(effects: Sequence[Effects]) -> list[str]:
    """How much taller or shorter the page becomes: at each width, or from the least to the most of many."""
    widths: dict[LayoutUnit, list[str]] = {}  # by amount
    for width, px in grown(effects):
        widths.setdefault(LayoutUnit(round(px * 64)), []).append(f"{width:g}")
    if not widths:
        return []
    if len(widths) == 1 and len(grown(effects)) == len(effects):
        return [f"the page becomes {_amount(next(iter(widths)))}"]
    if len(widths) <= _TOLD:
        told = [f"{_amount(amount)} at {listed(those)} px" for amount, those in widths.items()]
        return [f"the page becomes {listed(told)}"]
    return [f"the page becomes {_amount(min(widths))} to {_amount(max(widths))}"]


def _amount(taller: LayoutUnit) -> str:
    return f"{format_px(abs(taller))} px {'taller' if taller > ZERO else 'shorter'}"
