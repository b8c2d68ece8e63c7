"""How wide the lettering of a drawing is, and how long it may be."""

from redcrate.core.text.fonts import choose_font
from redcrate.core.text.shaping import shape


def text_width(text: str, size: float, *, bold: bool = False) -> float:
    """The width of a label in px at `size` px."""
    face = choose_font(("sans-serif",), 700 if bold else 400, "normal").face
    return shape(face, text).sums[-1] * size / face.upem


def shortened(text: str, most: int) -> str:
    """A text with an ellipsis where it is longer than `most` characters."""
    return text if len(text) <= most else text[: most - 1] + "…"
