"""text-out-of-box: text that runs out of its block sideways, inside the window."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import FIELDS, Look, SeenText, more_alike
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.quoting import quoted
from redcrate.core.units import LayoutUnit, format_px, nearest_from_px

_LEAST = 2 * 64  # 1/64 px: slanted letters lean out nearly as far
_LONGEST = 32  # characters of a text that are quoted


def find(look: Look) -> Iterator[Finding]:
    """The texts that reach furthest to the right out of their blocks, once for each kind of block.

    What reaches out of the window makes the page scroll, and is told as that.
    """
    furthest: dict[Element, SeenText] = {}
    for text in look.texts_seen:
        if (
            text.is_read
            and text.element.tag not in FIELDS
            and _over(look, text) > _LEAST
            and not _is_elsewhere(look, text)
        ):
            known = furthest.get(text.element)
            if known is None or known.rect.right < text.rect.right:
                furthest[text.element] = text
    kinds: dict[object, list[SeenText]] = {}
    for element, text in furthest.items():
        kinds.setdefault((element.tag, element.classes), []).append(text)
    for alike in kinds.values():
        yield _finding(look, sorted(alike, key=lambda t: -_over(look, t)))


def _over(look: Look, text: SeenText) -> LayoutUnit:
    """By how much it reaches beyond its block's border box on the right."""
    box = look.box(text.element)
    if box is None or box.box is None:
        return LayoutUnit(0)
    return LayoutUnit(text.rect.right - box.border_box.right)


def _is_elsewhere(look: Look, text: SeenText) -> bool:
    """Whether it is clipped there, reaches out of the window, or is painted elsewhere."""
    window = nearest_from_px(look.page.viewport.width)
    last = Rect(text.rect.right - 1, text.rect.y, LayoutUnit(1), text.rect.height)
    beyond = text.rect.right > window or text.at.placed in look.page.painted
    return beyond or look.is_clipped_away(text, last)


def _finding(look: Look, alike: list[SeenText]) -> Finding:
    text = alike[0]
    element, over = text.element, _over(look, text)
    elements = tuple(t.element for t in alike)
    wraps = text.piece.box.style.white_space not in ("pre", "nowrap")
    what = quoted(text.piece.text.split()[-1] if wraps else look.line_of(text), _LONGEST)
    return Finding(
        "text-out-of-box",
        Severity.SUSPICIOUS,
        f"“{what}” overflows {element.label} by {format_px(over)} px{more_alike(len(alike))}.",
        elements,
        {"over": over / 64},
        look.source(element, "width"),
        tuple(_ways(look, list(elements), wraps=wraps)),
        minor=not any(_is_noticed(look, t) for t in alike),
    )


def _is_noticed(look: Look, text: SeenText) -> bool:
    """Whether the edge that it crosses is painted, or something else is there."""
    box = look.box(text.element)
    if box is None or look.is_painted(text.element):
        return True
    start = max(text.rect.x, box.border_box.right)
    place = Rect(start, text.letters.y, LayoutUnit(text.rect.right - start), text.letters.height)
    around = {text.element, *text.element.ancestors()}
    crossed = (
        look.box(e)
        for e in text.element.ancestors()
        if look.is_painted(e) and e.tag not in ("html", "body")
    )
    if any(b is not None and b.border_box.right < text.rect.right for b in crossed):
        return True
    others = (
        t
        for t in look.texts_seen
        if t.element not in around and text.element not in t.element.ancestors()
    )
    return any(
        t.letters.shared_with(place).width > 0 and t.letters.shared_with(place).height > 0
        for t in others
    )


def _ways(look: Look, elements: list[Element], *, wraps: bool) -> Iterator[MakeFix]:
    if wraps:
        words = "Break long words (overflow-wrap: anywhere)"
        yield look.ruling(words, elements, overflow_wrap="anywhere")
    else:
        yield look.ruling(
            "Allow its lines to wrap (white-space: normal)", elements, white_space="normal"
        )
        yield look.ruling("Allow horizontal scrolling (overflow-x: auto)", elements, overflow_x="auto")


FAMILY = Family(
    "text-out-of-box",
    "Text overflows its box",
    "A word longer than its block, or a line that cannot wrap, overflows the block and covers its neighbours.",
    "<h3 style='width:60px;margin:0;background:#cde'>unbreakable</h3>",
    find,
)
