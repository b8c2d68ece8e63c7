"""What a browser said of a page at one width."""

from collections.abc import Sequence
from typing import Any

from redcrate.core.proof.errors import BrowserFailed
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class BrowserBox:
    """One element there: html, body, or one in body. Amounts in px from the top left of the page.

    has_box: whether it is shown at all. display: its computed value. family: the one that its own text is set in, as
    far as it shows in the widths of letters; "" where it has no text.
    """

    tag: str
    has_box: bool
    x: float
    y: float
    width: float
    height: float
    display: str
    family: str


@dataclass(frozen=True, slots=True)
class Measured:
    """All of a page. width: of the window, without scroll bars. failed: families of fonts that could not be loaded.

    html: the document as it was after its scripts had run; "" where none were to run.
    """

    boxes: tuple[BrowserBox, ...]
    width: float
    height: float
    failed: tuple[str, ...]
    html: str


def measured(answer: Any) -> Measured:
    """What the script in the browser gave back. Raises BrowserFailed for what is no such answer."""
    problem = answer.get("problem") if isinstance(answer, dict) else "its answer cannot be read"
    if problem:
        raise BrowserFailed(f"the browser could not measure the page: {problem}.")
    try:
        boxes = tuple(_box(row) for row in answer["elements"])
        failed = tuple(str(name) for name in answer["failed"])
        return Measured(
            boxes, float(answer["width"]), float(answer["height"]), failed, str(answer["html"])
        )
    except (KeyError, TypeError, ValueError, IndexError):
        raise BrowserFailed(
            "the browser could not measure the page: its answer cannot be read."
        ) from None


def _box(row: Sequence[Any]) -> BrowserBox:
    tag, pieces, x, y, width, height, display, family = row
    return BrowserBox(
        str(tag),
        bool(pieces),
        float(x),
        float(y),
        float(width),
        float(height),
        str(display),
        str(family),
    )
