"""What a typed value comes to for an element: the same steps that the cascade and layout take."""

from typing import Any

from redcrate.core.explain.terms import physical_winner
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.declarations import CssWide, Pending, parse_declaration
from redcrate.core.style.values import CalcNode, Dimension, LengthValue, compute_length
from redcrate.core.units import LayoutUnit, border_width


def specified(page: Page, element: Element, longhand: str) -> Any:
    """The specified value that won for a longhand; None if none did, or if it holds var()."""
    winner = page.origin_of(element, physical_winner(page, element, longhand))
    if winner is None or isinstance(winner.value, (CssWide, Pending)):
        return None
    return winner.value


def computed_length(page: Page, element: Element, value: Dimension | CalcNode) -> LengthValue:
    """A specified length computed with the element's fonts and the page's window."""
    style = page.style_of(element)
    fonts = {
        "font_family": style.font_family,
        "font_weight": style.font_weight,
        "font_style": style.font_style,
    }
    return compute_length(value, page.styled.computer.context(fonts, style.font_size))


def parsed_value(longhand: str, text: str) -> Any:
    """The specified value of `text` for a longhand; None if it is none or a CSS-wide keyword."""
    found = parse_declaration(longhand, component_values(text))
    value = None if found is None else found.get(longhand)
    return None if isinstance(value, (CssWide, Pending)) else value


def used_length(
    page: Page, element: Element, longhand: str, text: str, basis: LayoutUnit
) -> LayoutUnit | None:
    """What `text` comes to in 1/64 px, with percentages of `basis`; None for keywords."""
    value = parsed_value(longhand, text)
    if value in _BORDER_KEYWORDS:
        return border_width(_BORDER_KEYWORDS[value])
    if not isinstance(value, (Dimension, CalcNode)):
        return None
    length = computed_length(page, element, value)
    if longhand.startswith("border"):
        return border_width(length.resolve_px(0.0))
    return length.resolve(basis)


_BORDER_KEYWORDS = {"thin": 1.0, "medium": 3.0, "thick": 5.0}
