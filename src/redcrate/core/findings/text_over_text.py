"""text-over-text: two texts that are painted over each other."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import FIELDS, Look, SeenText, more_alike
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.quoting import quoted
from redcrate.core.units import format_px, listed

_LEAST = 4 * 64  # 1/64 px across and down: letters that touch are still read
_LONGEST = 24  # characters of a text that are quoted

Pair = tuple[SeenText, SeenText, Rect]


def find(look: Look) -> Iterator[Finding]:
    """Texts of two blocks whose letters share a place, where no ground lies between them; once for each two kinds."""
    worst: dict[tuple[Element, Element], Pair] = {}
    for one, other, shared in _overlaps(look):
        key = one.element, other.element
        if key not in worst or _area(worst[key][2]) < _area(shared):
            worst[key] = (one, other, shared)
    kinds: dict[object, list[Pair]] = {}
    for (first, second), pair in worst.items():
        kind = (first.tag, first.classes, second.tag, second.classes)
        kinds.setdefault(kind, []).append(pair)
    for alike in kinds.values():
        yield _finding(look, max(alike, key=lambda p: _area(p[2])), len(alike))


def _area(rect: Rect) -> int:
    return rect.width * rect.height


def _overlaps(look: Look) -> Iterator[Pair]:
    """The pairs, from the top of the page down."""
    texts = sorted(
        (t for t in look.texts_seen if t.is_read and t.element.tag not in FIELDS),
        key=lambda t: t.letters.y,
    )
    open_: list[SeenText] = []
    for text in texts:
        mine = text.letters
        open_ = [o for o in open_ if o.letters.bottom > mine.y]
        for other in open_:
            shared = mine.shared_with(other.letters)
            if (
                shared.width > _LEAST
                and shared.height > _LEAST
                and _are_apart(look, other, text, shared)
            ):
                yield other, text, shared
        open_.append(text)


def _are_apart(look: Look, one: SeenText, other: SeenText, shared: Rect) -> bool:
    """Whether two texts are of different blocks, stay where they are while the page scrolls, and are both seen there."""
    first, second = one.element, other.element
    if first is second or one.piece.text.strip() == other.piece.text.strip():
        return False
    if any(look.is_clipped_away(t, shared) or _moves(look, t) for t in (one, other)):
        return False
    return not (_covers(look, first, second, shared) or _covers(look, second, first, shared))


def _moves(look: Look, text: SeenText) -> bool:
    """Whether it stays at the window while the page scrolls, or is painted elsewhere than it stands."""
    around = (text.element, *text.element.ancestors())
    moved = any(look.style(e).position in ("fixed", "sticky") for e in around)
    return moved or text.at.placed in look.page.painted


def _covers(look: Look, element: Element, other: Element, place: Rect) -> bool:
    """Whether an element, or one around it but not around the other one, has a ground that covers a place."""
    for one in _up_to(element, other):
        box = look.box(one)
        if box is not None and look.has_ground(one) and box.border_box.shared_with(place) == place:
            return True
    return False


def _finding(look: Look, pair: Pair, count: int) -> Finding:
    one, other, shared = pair
    half = 2 * shared.height >= min(one.letters.height, other.letters.height)
    first, second = one.element, other.element
    return Finding(
        "text-over-text",
        Severity.BREAKS if half else Severity.SUSPICIOUS,
        f"“{_words(other)}” in {second.label} overlaps “{_words(one)}” in {first.label} by "
        f"{format_px(shared.width)} × {format_px(shared.height)} px{more_alike(count)}.",
        (second, first),
        {"width": shared.width / 64, "over": shared.height / 64},
        look.source(second, "position") or look.source(second, "margin-top"),
        tuple(_ways(look, first, second)),
    )


def _words(text: SeenText) -> str:
    return quoted(text.piece.text, _LONGEST)


def _ways(look: Look, first: Element, second: Element) -> Iterator[MakeFix]:
    """What was taken out of the flow goes back into it, both where both were; margins that pull are gone."""
    own = [*_up_to(second, first), *_up_to(first, second)]
    out = [e for e in own if look.style(e).position == "absolute"]
    for those in [out[:1], out] if len(out) > 1 else [out]:
        if those:
            names = listed([e.label for e in those])
            yield look.setting(
                f"Return {names} to normal flow (position: static)",
                *((e, "position", "static") for e in those),
            )
    for one in own:
        box = look.box(one)
        if box is not None and box.margin.top < 0:
            yield look.setting(f"Remove the top margin of {one.label} (0)", (one, "margin-top", "0"))


def _up_to(element: Element, other: Element) -> Iterator[Element]:
    """An element and those around it that are not around another one too."""
    around = {other, *other.ancestors()}
    for one in (element, *element.ancestors()):
        if one in around:
            return
        yield one


FAMILY = Family(
    "text-over-text",
    "Text overlaps text",
    "Positioned boxes and boxes with negative margins can overlap other boxes: then both texts are unreadable.",
    "<div style='position:relative;height:24px'><b style='position:absolute;left:0'>one link</b>"
    "<b style='position:absolute;left:20px'>another link</b></div>",
    find,
)
