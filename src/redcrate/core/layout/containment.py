"""Size containment: a box that is as large as if it held nothing (CSS Containment 2 §3.1, CSS Sizing 4 §4.4)."""

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.layout.fragments import ContentSizes
from redcrate.core.style.values import OffsetValue
from redcrate.core.units import ZERO, LayoutUnit


def contained_sizes(box: Box) -> ContentSizes | None:
    """The content sizes of a block container whose content does not count; None where it does."""
    style = box.style
    if box.kind is not BoxKind.BLOCK or not {"size", "inline-size"} & set(style.contain):
        return None
    width = _fixed(style.contain_intrinsic_width)
    return ContentSizes(width, width)


def contained_height(box: Box) -> LayoutUnit | None:
    """The auto height of a block container whose content does not count; None where it does."""
    if box.kind is not BoxKind.BLOCK or "size" not in box.style.contain:
        return None
    return _fixed(box.style.contain_intrinsic_height)


def contained_picture(box: Box) -> IntrinsicSize | None:
    """The intrinsic size of a replaced box as far as it counts."""
    if "size" not in box.style.contain:
        return box.intrinsic
    width, height = box.style.contain_intrinsic_width, box.style.contain_intrinsic_height
    return IntrinsicSize(_fixed(width) / 64, _fixed(height) / 64, None)


def _fixed(value: OffsetValue) -> LayoutUnit:
    return ZERO if isinstance(value, str) else value.resolve(ZERO)
