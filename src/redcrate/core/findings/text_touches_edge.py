"""text-touches-edge: text that begins at the painted edge of a box."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look, more_alike
from redcrate.core.findings.shown import has_letters
from redcrate.core.geometry import SIDES, Side
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, PlacedBox
from redcrate.core.units import ZERO, LayoutUnit, format_px

_NEAR = 3 * 64


def find(look: Look) -> Iterator[Finding]:
    """Painted boxes whose text comes nearer than 3 px to an edge on the left or right; by kind."""
    nearest: dict[Element, tuple[LayoutUnit, str]] = {}
    for text in look.texts_seen:
        element = _painted_round(look, text.at)
        box = look.box(element) if element is not None else None
        if element is None or box is None or box.box is None or not has_letters(text.piece.text):
            continue
        inner = box.padding_box
        for side, away in (("left", text.rect.x - inner.x), ("right", inner.right - text.rect.right)):
            if (
                -64 <= away < _NEAR
                and _shows(look, element, side)
                and _is_fixed(look, text.at, box, side)
                and away < nearest.get(element, (_NEAR, ""))[0]
            ):
                nearest[element] = (away, side)
    kinds: dict[tuple[str, ...], list[Element]] = {}
    for element in nearest:
        kinds.setdefault((element.tag, *element.classes), []).append(element)
    for alike in kinds.values():
        first = min(alike, key=lambda e: nearest[e][0])
        yield _finding(look, [first, *(e for e in alike if e is not first)], *nearest[first])


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


def _near(away: LayoutUnit) -> str:
    return "touches" if away < 64 else "nearly touches"


def _kind(look: Look, element: Element) -> str:
    return "coloured" if look.has_ground(element) else "ruled"


def _finding(look: Look, alike: list[Element], away: LayoutUnit, side: str) -> Finding:
    element = alike[0]
    return Finding(
        "text-touches-edge",
        Severity.SUSPICIOUS,
        f"The text in {element.label} {_near(away)} its {_kind(look, element)} {side} edge: "
        f"{format_px(max(ZERO, away))} px between{more_alike(len(alike))}.",
        tuple(alike),
        {"distance": away / 64},
        look.source(element, "background-color") or look.source(element, "border-left-width"),
        (
            _padded(look, alike, ("left", "right"), "left and right"),
            _padded(look, alike, SIDES, "on all sides"),
        ),
    )


def _padded(look: Look, alike: list[Element], sides: tuple[Side, ...], where: str) -> MakeFix:
    """12 px of padding: of a single one, or where a rule speaks of all, the width gives; else by a new rule."""
    sentence = f"give it 12 px of padding {where}"
    element = alike[0]
    if len(alike) > 1 and not look.has_rule(element):
        return look.ruling(sentence, alike, **{f"padding_{side}": "12px" for side in sides})
    return look.typing(f"{sentence}, its width stays", element, "padding", sides, "12px")


FAMILY = Family(
    "text-touches-edge",
    "Text that touches an edge",
    "A background covers content and padding. Without padding the text begins right at the coloured edge.",
    "<p style='background:#cde;margin:0;width:150px'>no padding at all in here</p>",
    find,
)
