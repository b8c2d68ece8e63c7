"""How an element flows, in CSS's words: CSS 2.2 §9.2 and §9.5."""

from redcrate.core.markup.elements import Element
from redcrate.core.page import Page


def flow_of(page: Page, element: Element) -> str:
    """“none” without a box, “float left”, else the display value."""
    style = page.style_of(element)
    if page.box_of(element) is None:
        return "none"
    if style.float_ != "none":
        return f"float {style.float_}"
    return style.display
