"""A box of the box tree: what layout works on.

A box is never changed after it was built, except that layout keeps its results in `cache`. When a
value changes, only the boxes above it are built anew; the others are the same objects, and so are
their kept results.
"""

from collections.abc import Iterator
from enum import Enum
from typing import Any

from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.markup.elements import Element
from redcrate.core.style.computed import ComputedStyle


class BoxKind(Enum):
    """What a box is, as far as layout must tell boxes apart."""

    BLOCK = "block container"  # holds blocks or lines; inline-level for inline-block
    INLINE = "inline"
    TEXT = "text"
    BREAK = "forced break"
    REPLACED = "replaced"


class Box:
    """One box.

    element: None for anonymous boxes. pseudo: "before", "after" or "". part_start, part_end: whether
    an inline box that a block splits begins or ends here (CSS 2.2 §9.2.1.1). children_inline: the
    block container holds lines. holds_floats: floats inside belong to the same block formatting
    context as this box. laid_out_as: what the box asked for where blocks stand in for it.
    """

    depth: int
    __slots__ = (
        "cache",
        "children",
        "children_inline",
        "depth",
        "element",
        "establishes_bfc",
        "holds_floats",
        "inline_content",
        "intrinsic",
        "is_float",
        "is_inline_level",
        "is_out_of_flow",
        "kind",
        "laid_out_as",
        "marker",
        "part_end",
        "part_start",
        "pseudo",
        "self_collapsing",
        "style",
        "text",
        "widths_cache",
    )

    def __init__(
        self,
        kind: BoxKind,
        style: ComputedStyle,
        element: Element | None = None,
        children: "tuple[Box, ...]" = (),
        *,
        pseudo: str = "",
        text: str = "",
        intrinsic: IntrinsicSize | None = None,
        marker: str | None = None,
    ) -> None:
        self.kind = kind
        self.style = style
        self.element = element
        self.children = children
        self.pseudo = pseudo
        self.text = text
        self.intrinsic = intrinsic
        self.marker = marker
        self.part_start = True
        self.part_end = True
        self.is_out_of_flow = style.position in ("absolute", "fixed") and kind not in _NEVER_OUT
        self.is_float = style.float_ != "none" and kind not in _NEVER_OUT
        self.is_inline_level = kind in _NEVER_OUT or (
            style.display.startswith("inline") and not self.is_out_of_flow and not self.is_float
        )
        self.establishes_bfc = establishes_bfc(self)
        self.children_inline = False
        self.holds_floats = False
        self.depth = 1 + max((c.depth for c in children), default=0)
        self.laid_out_as = ""
        self.self_collapsing: bool | None = None
        self.inline_content: Any = None
        self.widths_cache: Any = None
        self.cache: dict[Any, Any] = {}

    @property
    def in_flow(self) -> bool:
        """Neither a float nor absolutely positioned."""
        return not self.is_float and not self.is_out_of_flow

    @property
    def is_anonymous_block(self) -> bool:
        """A block container that stands for no element: CSS 2.2 §9.2.1.1."""
        return self.element is None and self.kind is BoxKind.BLOCK

    @property
    def is_atomic(self) -> bool:
        """An inline-level box that stands in a line as one piece."""
        return self.is_inline_level and self.kind in (BoxKind.BLOCK, BoxKind.REPLACED)

    @property
    def label(self) -> str:
        """How people call it."""
        if self.element is None:
            return "anonymous box"
        return self.element.label + (f"::{self.pseudo}" if self.pseudo else "")

    def walk(self) -> "Iterator[Box]":
        """This box and all inside, in order."""
        stack = [self]
        while stack:
            box = stack.pop()
            yield box
            stack.extend(reversed(box.children))


_NEVER_OUT = (BoxKind.INLINE, BoxKind.TEXT, BoxKind.BREAK)


def scrolls_nothing(style: ComputedStyle) -> bool:
    """Whether overflow is visible (or only clipped): CSS Overflow 3 §3.1, no scroll container."""
    plain = ("visible", "clip")
    return style.overflow_x in plain and style.overflow_y in plain


def establishes_bfc(box: Box, *, overflow: bool = True) -> bool:
    """CSS 2.2 §9.4.1 and CSS Display 3 §2: what starts a block formatting context.

    overflow: whether the box's own overflow counts; body's is the window's.
    """
    style = box.style
    if box.kind is BoxKind.REPLACED:
        return True
    if box.kind is not BoxKind.BLOCK or box.element is None:
        return box.kind is BoxKind.BLOCK and box.is_inline_level
    return (
        box.is_float
        or box.is_out_of_flow
        or box.is_inline_level
        or style.display not in ("block", "list-item")
        or (overflow and not scrolls_nothing(style))
    )
