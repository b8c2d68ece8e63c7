"""text-touches-edge: text that begins at the painted edge of a box."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.geometry import SIDES
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, PlacedBox, text_pieces
from redcrate.core.units import ZERO, LayoutUnit, format_px

_NEAR = 3 * 64


def find(look: Look) -> Iterator[Finding]:
    """Painted boxes whose text comes nearer than 3 px to an edge on the left or right; once for each kind."""
    nearest: dict[Element, tuple[LayoutUnit, str]] = {}
    for at in look.page.in_order:
        element = _painted_round(look, at)
        box = look.box(element) if element is not None else None
        if element is None or box is None or box.box is None:
            continue
        inner = box.padding_box
        for piece in text_pieces(at.fragment.lines):
            if not piece.text.strip():
                continue
            x = at.rect.x + piece.x
            for side, away in (("left", x - inner.x), ("right", inner.right - x - piece.width)):
                if (
                    -64 <= away < _NEAR
                    and _shows(look, element, side)
                    and _is_fixed(look, at, box, side)
                    and away < nearest.get(element, (_NEAR, ""))[0]
                ):
                    nearest[element] = (away, side)
    told: set[tuple[str, ...]] = set()
    for element, (away, side) in nearest.items():
        kind = (element.tag, *element.classes)
        if kind not in told:
            told.add(kind)
            yield _finding(look, element, away, side)


def _is_fixed(look: Look, at: PlacedBox, box: ElementBox, side: str) -> bool:
    """Whether text comes near on that side whatever it says: not where a ragged line happens to end there."""
    style = at.fragment.box.style
    starts = "right" if style.direction == "rtl" else "left"
    begins = {"start": starts, "end": "left" if starts == "right" else "right"}
    align = begins.get(style.text_align, style.text_align)
    if align not in ("left", "right") or side == align:
        return True
    between = at.content_rect.x - box.padding_box.x, box.padding_box.right - at.content_rect.right
    here, there = between if side == "left" else reversed(between)
    return here <= 0 < there or box.box is not None and box.box.fragment.box.is_atomic


def _painted_round(look: Look, at: PlacedBox) -> Element | None:
    """The nearest box around the lines whose edges can be seen; None if that is the page itself."""
    if not at.fragment.lines:
        return None
    found: PlacedBox | None = at
    while found is not None:
        element = found.fragment.box.element
        if element is not None and look.is_painted(element):
            plain = element.tag not in (
                "html",
                "body",
                "td",
                "th",
                "button",
                "input",
                "select",
                "textarea",
                "hr",
            )
            return element if plain else None
        found = found.container
    return None


def _shows(look: Look, element: Element, side: str) -> bool:
    return look.has_ground(element) or look.shows_border(element, side)


def _kind(look: Look, element: Element) -> str:
    return "coloured" if look.has_ground(element) else "ruled"


def _finding(look: Look, element: Element, away: LayoutUnit, side: str) -> Finding:
    return Finding(
        "text-touches-edge",
        Severity.SUSPICIOUS,
        f"The text in {element.label} touches its {_kind(look, element)} {side} edge: "
        f"{format_px(max(ZERO, away))} px between.",
        (element,),
        {"distance": away / 64},
        look.source(element, "background-color") or look.source(element, "border-left-width"),
        (
            look.typing(
                "give it 12 px of padding left and right, its width stays",
                element,
                "padding",
                ("left", "right"),
                "12px",
            ),
            look.typing(
                "give it 12 px of padding on all sides, its width stays",
                element,
                "padding",
                SIDES,
                "12px",
            ),
        ),
    )


FAMILY = Family(
    "text-touches-edge",
    "Text that touches an edge",
    "A background covers content and padding. Without padding the text begins right at the coloured edge.",
    "<p style='background:#cde;margin:0;width:150px'>no padding at all in here</p>",
    find,
)
