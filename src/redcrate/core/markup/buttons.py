"""Which elements are buttons: HTML Standard §4.10.6 and §4.10.5.1."""

from redcrate.core.markup.elements import Element

_KINDS = frozenset(("button", "submit", "reset"))


def is_button(element: Element | None) -> bool:
    """Whether it is a button, written as an element of that name or as an input."""
    return element is not None and (element.tag == "button" or is_input_button(element))


def is_input_button(element: Element) -> bool:
    """Whether it is an input that is a button with its value as the label."""
    return element.tag == "input" and element.attributes.get("type", "").lower() in _KINDS
