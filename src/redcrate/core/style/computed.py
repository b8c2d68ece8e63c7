"""Computed values of one element: CSS Cascade 4 §4.4.

Lengths are px, with percentages kept where only layout knows the base; border widths are in 1/64
px and already snapped, and 0 where the border style is none or hidden.
"""

from dataclasses import dataclass, fields
from operator import attrgetter

from redcrate.core.markup.elements import DocumentMode
from redcrate.core.style.backgrounds import Shadow, TileSize
from redcrate.core.style.grid import Areas, GridLine, TrackList, TrackSize
from redcrate.core.style.images import Image, Point
from redcrate.core.style.property_parsers import AspectRatio, Colour, TextIndent
from redcrate.core.style.values import LengthValue, OffsetValue, SizeValue
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True)
class LineHeight:
    """kind: "normal", "number" (value × font size, cut) or "length" (value in px, to the nearest)."""

    kind: str
    value: float = 0.0


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class ComputedStyle:
    """All computed values; a field is named as its property, with underscores, without a leading hyphen.

    document_mode: of the page, since old ones have old rules (Quirks Mode Standard).
    flow_display: `display` before §9.7 made a block of it (for the static place of absolute boxes).
    holds_items: whether boxes inside are flex or grid items, also where the element itself has no box
    (`display: contents`); is_item: whether its own box is one.
    font_size_keyword, font_size_absolute: how the size was given, which decides what becomes of it where
    a child's family is `monospace` (font_sizes.py).
    """

    document_mode: DocumentMode
    flow_display: str
    holds_items: bool
    is_item: bool
    display: str
    position: str
    float_: str
    clear: str
    direction: str
    box_sizing: str
    contain: tuple[str, ...]
    contain_intrinsic_width: OffsetValue
    contain_intrinsic_height: OffsetValue
    margin_trim: tuple[str, ...]
    aspect_ratio: AspectRatio | str
    webkit_box_orient: str
    webkit_line_clamp: int
    overflow_x: str
    overflow_y: str
    visibility: str
    width: SizeValue
    height: SizeValue
    min_width: SizeValue
    min_height: SizeValue
    max_width: SizeValue
    max_height: SizeValue
    top: OffsetValue
    right: OffsetValue
    bottom: OffsetValue
    left: OffsetValue
    margin_top: OffsetValue
    margin_right: OffsetValue
    margin_bottom: OffsetValue
    margin_left: OffsetValue
    padding_top: LengthValue
    padding_right: LengthValue
    padding_bottom: LengthValue
    padding_left: LengthValue
    border_top_width: LayoutUnit
    border_right_width: LayoutUnit
    border_bottom_width: LayoutUnit
    border_left_width: LayoutUnit
    border_top_style: str
    border_right_style: str
    border_bottom_style: str
    border_left_style: str
    border_top_color: Colour
    border_right_color: Colour
    border_bottom_color: Colour
    border_left_color: Colour
    border_top_left_radius: tuple[LengthValue, LengthValue]
    border_top_right_radius: tuple[LengthValue, LengthValue]
    border_bottom_right_radius: tuple[LengthValue, LengthValue]
    border_bottom_left_radius: tuple[LengthValue, LengthValue]
    outline_width: LayoutUnit
    outline_style: str
    outline_color: Colour
    outline_offset: LengthValue
    box_shadow: tuple[Shadow, ...]
    vertical_align: OffsetValue
    z_index: int | str
    transform: tuple[tuple[object, ...], ...]
    translate: tuple[tuple[object, ...], ...]
    rotate: tuple[tuple[object, ...], ...]
    scale: tuple[tuple[object, ...], ...]
    transform_origin: Point
    opacity: float
    content: tuple[tuple[str, ...], ...] | str
    initial_letter: tuple[float, int] | str
    quotes: tuple[tuple[str, str], ...] | str
    counter_reset: tuple[tuple[str, int], ...]
    counter_increment: tuple[tuple[str, int], ...]
    counter_set: tuple[tuple[str, int], ...]
    box_decoration_break: str
    object_fit: str
    color: Colour
    font_family: tuple[str, ...]
    font_size: float
    font_size_keyword: str
    font_size_absolute: bool
    font_style: str
    font_weight: int
    font_kerning: str
    font_feature_settings: tuple[tuple[str, int], ...]
    font_variant_caps: str
    line_height: LineHeight
    text_align: str
    text_align_last: str
    text_indent: TextIndent
    text_justify: str
    hyphens: str
    hyphenate_character: str
    text_transform: str
    white_space: str
    letter_spacing: float
    word_spacing: float
    overflow_wrap: str
    word_break: str
    text_wrap_mode: str
    line_break: str
    tab_size: tuple[str, float]
    list_style_type: str
    list_style_position: str
    list_style_image: Image
    text_decoration_line: tuple[str, ...]
    text_decoration_color: Colour
    text_decoration_style: str
    background_color: Colour
    background_image: tuple[Image, ...]
    background_position: tuple[Point, ...]
    background_size: tuple[TileSize, ...]
    background_repeat: tuple[tuple[str, str], ...]
    background_origin: tuple[str, ...]
    background_clip: tuple[str, ...]
    background_attachment: tuple[str, ...]
    appearance: str
    table_layout: str
    border_collapse: str
    border_spacing: tuple[LengthValue, LengthValue]
    caption_side: str
    empty_cells: str
    flex_direction: str
    flex_wrap: str
    flex_grow: float
    flex_shrink: float
    flex_basis: SizeValue
    order: int
    align_items: str
    align_self: str
    align_content: str
    justify_content: str
    justify_items: str
    justify_self: str
    row_gap: OffsetValue
    column_gap: OffsetValue
    grid_template_columns: TrackList
    grid_template_rows: TrackList
    grid_template_areas: Areas
    grid_auto_columns: tuple[TrackSize, ...]
    grid_auto_rows: tuple[TrackSize, ...]
    grid_auto_flow: str
    grid_column_start: GridLine
    grid_column_end: GridLine
    grid_row_start: GridLine
    grid_row_end: GridLine

    @property
    def is_transformed(self) -> bool:
        """Whether any property transforms the box: CSS Transforms 2 §6."""
        return bool(self.transform or self.translate or self.rotate or self.scale)

    @property
    def contains_fixed(self) -> bool:
        """Whether the box contains absolute boxes and even fixed ones (CSS Transforms 1 §3, Contain 2 §3)."""
        return self.is_transformed or "layout" in self.contain or "paint" in self.contain

    @property
    def shown_lines(self) -> int | None:
        """CSS Overflow 4 §5.1.4: how many lines the box shows; None where their number is not limited."""
        upright = self.webkit_box_orient in ("vertical", "block-axis")
        clamps = self.webkit_line_clamp and self.display == "-webkit-box" and upright
        return self.webkit_line_clamp if clamps else None

    @property
    def values(self) -> tuple[object, ...]:
        """All values in order, to compare: a style itself is one object among equal ones, and a key."""
        found: tuple[object, ...] = _VALUES(self)
        return found


# The fields that stand for no property of their own.
DERIVED_FIELDS = {
    "document_mode",
    "flow_display",
    "holds_items",
    "is_item",
    "font_size_keyword",
    "font_size_absolute",
}
COMPUTED_FIELDS = tuple(f.name for f in fields(ComputedStyle))
_VALUES = attrgetter(*COMPUTED_FIELDS)
