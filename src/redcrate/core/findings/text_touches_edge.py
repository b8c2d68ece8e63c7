"""text-touches-edge: text that begins at the painted edge of a box."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look, SeenText, more_alike
from redcrate.core.geometry import Side
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, PlacedBox
from redcrate.core.units import ZERO, LayoutUnit, format_px

_NEAR = LayoutUnit(3 * 64)

_AT_EDGE = 64  # 1/64 px: further from its block's edge a line ends by chance


def find(look: Look) -> Iterator[Finding]:
    """Painted boxes whose text comes nearer than 3 px to an edge on the left or right; by kind."""
    nearest: dict[Element, dict[Side, LayoutUnit]] = {}
    for text in look.texts_seen:
        element = _painted_round(look, text.at)
        box = look.box(element) if element is not None else None
        if element is None or box is None or box.box is None or not text.is_read:
            continue
        inner = box.padding_box
        distances: tuple[tuple[Side, LayoutUnit], ...] = (
            ("left", text.rect.x - inner.x),
            ("right", inner.right - text.rect.right),
        )
        for side, away in distances:
            if (
                LayoutUnit(-64) <= away < _NEAR
                and _shows(look, element, side)
                and _is_fixed(text, box, side)
            ):
                sides = nearest.setdefault(element, {})
                sides[side] = min(away, sides.get(side, _NEAR))
    kinds: dict[tuple[str, ...], list[Element]] = {}
    for element in nearest:
        kinds.setdefault((element.tag, *element.classes), []).append(element)
    for alike in kinds.values():
        first = min(alike, key=lambda e: min(nearest[e].values()))
        yield _finding(look, [first, *(e for e in alike if e is not first)], nearest[first])


def _is_fixed(text: SeenText, box: ElementBox, side: str) -> bool:
    """Whether text comes near on that side whatever it says: not where a ragged line happens to end there."""
    at = text.at
    style = at.fragment.box.style
    starts = "right" if style.direction == "rtl" else "left"
    begins = {"start": starts, "end": "left" if starts == "right" else "right"}
    align = begins.get(style.text_align, style.text_align)
    if align not in ("left", "right") or side == align:
        edge = (
            at.content_rect.x - text.rect.x
            if side == "left"
            else text.rect.right - at.content_rect.right
        )
        return abs(edge) < _AT_EDGE or align == "center"
    between = at.content_rect.x - box.padding_box.x, box.padding_box.right - at.content_rect.right
    here, there = between if side == "left" else reversed(between)
    hugs = box.box is not None and box.box.fragment.box.is_atomic
    return hugs or (here <= 0 < there and style.white_space in ("normal", "pre-line", "pre-wrap"))


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


def _finding(look: Look, alike: list[Element], near: dict[Side, LayoutUnit]) -> Finding:
    element = alike[0]
    side, away = min(near.items(), key=lambda one: one[1])
    return Finding(
        "text-touches-edge",
        Severity.SUSPICIOUS,
        f"The text in {element.label} {_near(away)} its {_kind(look, element)} {side} edge: "
        f"{format_px(max(ZERO, away))} px apart{more_alike(len(alike))}.",
        tuple(alike),
        {"distance": away / 64},
        look.source(element, "background-color") or look.source(element, "border-left-width"),
        (_padded(look, alike, tuple(near)),),
    )


def _padded(look: Look, alike: list[Element], sides: tuple[Side, ...]) -> MakeFix:
    """12 px of padding on the sides concerned: of a single one, or where a rule speaks of all, the width gives; else by
    a new rule.
    """
    sentence = f"Add 12 px of padding ({', '.join(sides)})"
    element = alike[0]
    if len(alike) > 1 and not look.has_rule(element):
        return look.ruling(sentence, alike, **{f"padding_{side}": "12px" for side in sides})
    return look.typing(f"{sentence}, keep its width", element, "padding", sides, "12px")


FAMILY = Family(
    "text-touches-edge",
    "Text touches an edge",
    "A background covers content and padding. Without padding the text starts at the coloured edge.",
    "<p style='background:#cde;margin:0;width:150px'>no padding at all in here</p>",
    find,
)
