"""Elements whose content is not laid out by CSS, and the size that they have: HTML Standard §15.4."""

from redcrate.core.boxes.image_size import IntrinsicSize, svg_attributes_size
from redcrate.core.markup.buttons import is_input_button
from redcrate.core.markup.elements import Element
from redcrate.core.markup.numbers import parse_integer

_REPLACED_SIZES = {
    "video": IntrinsicSize(300, 150, 2.0),
    "canvas": IntrinsicSize(300, 150, 2.0),
    "iframe": IntrinsicSize(300, 150, None),
    "embed": IntrinsicSize(300, 150, None),
    "object": IntrinsicSize(300, 150, None),
    "audio": IntrinsicSize(300, 54, None),
    "progress": IntrinsicSize(160, 16, None),
    "meter": IntrinsicSize(80, 16, None),
}


_SWALLOWING = ("svg", "img", "input", "textarea", "select")
REPLACED_TAGS = frozenset((*_REPLACED_SIZES, *_SWALLOWING))
_EMPTY_LINE = "\u200b"  # a label without a letter is a line all the same


def is_image(element: Element) -> bool:
    """Whether its size is that of a picture file."""
    return element.tag == "img" or (
        element.tag == "input" and element.attributes.get("type", "").lower() == "image"
    )


def button_label(element: Element) -> str | None:
    """The text of an input element that is a button; None for others."""
    if not is_input_button(element):
        return None
    kind = element.attributes.get("type", "").lower()
    default = "" if kind == "button" else kind.capitalize()
    return element.attributes.get("value", default) or _EMPTY_LINE


def replaced_size(element: Element) -> IntrinsicSize | None:
    """The intrinsic size of a replaced element that is no picture; None for an element that is not replaced."""
    if element.tag == "svg":
        return svg_attributes_size(element.attributes)
    size = _REPLACED_SIZES.get(element.tag)
    if size is not None and element.tag in ("video", "canvas"):
        return _attribute_size(element, size)
    return size


def swallows(element: Element | None) -> bool:
    """Whether what is inside `element` generates no boxes of its own."""
    if element is None or element.tag not in REPLACED_TAGS:
        return False
    return not is_list_box(element)


def is_list_box(element: Element) -> bool:
    """Whether it is a select element that shows its options one under another (HTML Standard §4.10.7)."""
    return element.tag == "select" and ("multiple" in element.attributes or rows_of_list(element) > 1)


def rows_of_list(element: Element) -> int:
    """The display size of a select element: how many rows it shows."""
    number = parse_integer(element.attributes.get("size", ""))
    if number is not None and number > 0:
        return number
    return 4 if "multiple" in element.attributes else 1


def stands_alone(element: Element) -> bool:
    """Whether it stands in a line by itself, whatever it holds."""
    return element.tag in ("br", "wbr") or swallows(element)


def is_displayed(element: Element, display: str) -> bool:
    """Whether an element of that display value generates boxes, or what is in it: CSS Display 3 §2.5 and Appendix B."""
    return display != "none" and (display != "contents" or not stands_alone(element))


def _attribute_size(element: Element, size: IntrinsicSize) -> IntrinsicSize:
    """A canvas or video is as large as its attributes say."""
    numbers = []
    for name, fallback in (("width", size.width), ("height", size.height)):
        number = parse_integer(element.attributes.get(name, ""))
        numbers.append(float(number) if number is not None and number >= 0 else fallback)
    width, height = numbers
    return IntrinsicSize(width, height, width / height if width and height else None)
