"""A box of the box tree: what layout works on.

A box is never changed: what layout finds out about it is kept beside the tree (`layout/cache.py`).
When a value changes, only the boxes above it are built anew; the others are the same objects, and
what is kept for them still holds.
"""

from collections.abc import Iterator
from dataclasses import field
from enum import Enum
from functools import lru_cache
from weakref import ref

from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.markup.elements import DocumentMode, Element
from redcrate.core.records import changed, dataclass, put
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH


class BoxKind(Enum):
    """What a box is, as far as layout must tell boxes apart."""

    BLOCK = "block container"  # holds blocks or lines; inline-level for inline-block
    INLINE = "inline"
    TEXT = "text"
    BREAK = "forced break"
    REPLACED = "replaced"


class InnerDisplay(Enum):
    """Which formatting context lays out what is in a box: CSS Display 3 §2.2, inner display types.

    A block container's is block or inline by what it holds (CSS 2.2 §9.4).
    """

    __hash__ = object.__hash__  # the context is looked up for each box

    BLOCKS = "block"
    LINES = "inline"
    FLEX = "flex"
    GRID = "grid"
    TABLE = "table"
    TABLE_PART = "row, row group or column of a table"  # laid out by the table
    FIELDSET = "fieldset with its legend"
    REPLACED = "replaced"
    NONE = "none"  # inline boxes, text and breaks are laid out by the lines that they stand in


@dataclass(frozen=True, slots=True, eq=False, weakref_slot=True, repr=False)
class Box:
    """One box.

    element: None for anonymous boxes. pseudo: which pseudo-element of it, or "". picture: the address of
    a picture that the style gives, not an element. first_line: the same lines as long as they are the
    first one, where that has a style of its own. begins_here, ends_here: whether
    an inline box that a block splits begins or ends here (CSS 2.2 §9.2.1.1). inner: which formatting
    context lays out what it holds. holds_floats: floats inside belong to the same block formatting context
    as this box. reads_height: its layout hangs on the height of its containing block; inside_reads: that of a box in
    it hangs on its own. depth: how deep boxes nest in it, itself counted. laid_out_as: what the box asked for where
    blocks stand in for it. stands_for: the same box before it took another room or another
    picture. overflow_counts: False where it is the window's.
    """

    kind: BoxKind
    style: ComputedStyle
    element: Element | None = None
    children: "tuple[Box, ...]" = ()
    pseudo: str = field(default="", kw_only=True)
    text: str = field(default="", kw_only=True)
    intrinsic: IntrinsicSize | None = field(default=None, kw_only=True)
    marker: str | None = field(default=None, kw_only=True)
    picture: str = field(default="", kw_only=True)
    first_line: "Box | None" = field(default=None, kw_only=True)
    begins_here: bool = field(default=True, kw_only=True)
    ends_here: bool = field(default=True, kw_only=True)
    inner: InnerDisplay = field(default=InnerDisplay.NONE, kw_only=True)
    holds_floats: bool = field(default=False, kw_only=True)
    laid_out_as: str = field(default="", kw_only=True)
    overflow_counts: bool = field(default=True, kw_only=True)
    stands_for: "ref[Box] | None" = field(default=None, kw_only=True)
    is_out_of_flow: bool = field(init=False)
    is_float: bool = field(init=False)
    is_inline_level: bool = field(init=False)
    establishes_bfc: bool = field(init=False)
    inside_reads: bool = field(init=False)
    reads_height: bool = field(init=False)
    depth: int = field(init=False)

    def __post_init__(self) -> None:
        """What a box says of itself follows from its style and from the boxes in it."""
        style, flows = self.style, self.kind in _INLINE_KINDS
        out = not flows and style.position in ("absolute", "fixed")
        floats = not flows and style.float_ != "none"
        flows_inline = not out and not floats and style.display.startswith("inline")
        put(
            self,
            "inner",
            self.inner if self.inner is not InnerDisplay.NONE else _INNER.get(self.kind, self.inner),
        )
        put(self, "is_out_of_flow", out)
        put(self, "is_float", floats)
        put(self, "is_inline_level", flows or flows_inline)
        put(self, "establishes_bfc", _establishes_bfc(self))
        inside = _reads_inside(self.children)
        put(self, "inside_reads", inside)
        put(self, "reads_height", _hangs_on_height(self, style, inside=inside))
        put(self, "depth", 1 + max([c.depth for c in self.children], default=0))

    def with_first_line(self, twin: "Box") -> "Box":
        """The box with a twin for its first line."""
        return changed(self, first_line=twin)

    def with_children(self, children: "tuple[Box, ...]") -> "Box":
        """The box with other children of the same kinds."""
        return changed(self, children=children)

    def restyled(self, style: ComputedStyle, children: "tuple[Box, ...]") -> "Box":
        """The box with a style that asks for the same box, and children that are the same but for such styles."""
        inside = self.inside_reads if children is self.children else _reads_inside(children)
        return changed(
            self,
            style=style,
            children=children,
            stands_for=ref(self),
            inside_reads=inside,
            reads_height=_hangs_on_height(self, style, inside=inside),
        )

    def __repr__(self) -> str:
        return f"<{self.kind.value} {self.label}>"

    @property
    def in_flow(self) -> bool:
        """Neither a float nor absolutely positioned."""
        return not self.is_float and not self.is_out_of_flow

    @property
    def children_inline(self) -> bool:
        """Whether it is a block container that holds lines."""
        return self.inner is InnerDisplay.LINES

    @property
    def is_anonymous_block(self) -> bool:
        """A block container in flow that stands for no element: CSS 2.2 §9.2.1.1."""
        return self.element is None and self.kind is BoxKind.BLOCK and not self.style.is_item

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


_INLINE_KINDS = (BoxKind.INLINE, BoxKind.TEXT, BoxKind.BREAK)
_INNER = {BoxKind.BLOCK: InnerDisplay.BLOCKS, BoxKind.REPLACED: InnerDisplay.REPLACED}


@lru_cache(maxsize=20_000)
def _reads_height(style: ComputedStyle) -> bool:
    """Whether a size, a limit or an offset of the block axis is a share of the containing block's."""
    values = (
        style.height,
        style.min_height,
        style.max_height,
        *((style.top, style.bottom) if style.position == "relative" else ()),
    )
    return any(v == "stretch" or (not isinstance(v, NO_LENGTH) and v.has_percent) for v in values)


def _reads_inside(children: tuple[Box, ...]) -> bool:
    """Whether the layout of a box in a box hangs on that one's height."""
    return any(child.reads_height for child in children)


def _hangs_on_height(box: Box, style: ComputedStyle, *, inside: bool) -> bool:
    """Whether the layout of a box of that style hangs on the height of its containing block.

    By itself, or through it the layout of what is in it (inside).
    """
    flows = box.kind in _INLINE_KINDS
    through = flows or box.is_anonymous_block or style.document_mode is DocumentMode.QUIRKS
    return (not flows and _reads_height(style)) or (through and inside)


def scrolls_nothing(style: ComputedStyle) -> bool:
    """Whether overflow is visible (or only clipped): CSS Overflow 3 §3.1, no scroll container."""
    plain = ("visible", "clip")
    return style.overflow_x in plain and style.overflow_y in plain


def _establishes_bfc(box: Box) -> bool:
    """CSS 2.2 §9.4.1 and CSS Display 3 §2: what starts a block formatting context.

    So does the root's box, whatever its style (its element has no parent).
    """
    style = box.style
    if box.kind is BoxKind.REPLACED:
        return True
    if box.kind is not BoxKind.BLOCK or box.element is None:
        return box.kind is BoxKind.BLOCK and (
            box.is_inline_level or style.is_item or style.display.startswith("table")
        )
    return (
        box.is_float
        or style.is_item
        or box.is_out_of_flow
        or box.is_inline_level
        or style.display not in ("block", "list-item")
        or "layout" in style.contain
        or "paint" in style.contain
        or (box.overflow_counts and not scrolls_nothing(style))
        or (box.element.parent is None and not box.pseudo)
        or _is_of_fieldset(box.element)
    )


def _is_of_fieldset(element: Element) -> bool:
    """HTML Standard §15.3.13: a fieldset, or a legend in one."""
    if element.tag == "legend":
        return element.parent is not None and element.parent.tag == "fieldset"
    return element.tag == "fieldset"
