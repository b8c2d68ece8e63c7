"""The numbers of list items: HTML Standard §4.4.8."""

from redcrate.core.markup.elements import Element
from redcrate.core.markup.numbers import parse_integer
from redcrate.core.style.styling import StyledTree


def ordinals_in(parent: Element, styled: StyledTree) -> dict[Element, int]:
    """The numbers of all list items among the children of `parent`: HTML Standard §4.4.8."""
    styles = styled.styles  # children outside body, such as head, have none
    items = [c for c in parent.child_elements if c in styles and styles[c].display.endswith("list-item")]
    step, number = 1, 0
    if parent.tag == "ol":
        backwards = "reversed" in parent.attributes
        step = -1 if backwards else 1
        start = parse_integer(parent.attributes.get("start", ""))
        number = (start if start is not None else len(items) if backwards else 1) - step
    found: dict[Element, int] = {}
    for item in items:
        value = parse_integer(item.attributes.get("value", "")) if item.tag == "li" else None
        number = number + step if value is None else value
        found[item] = number
    return found
