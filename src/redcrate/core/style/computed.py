"""Computed values of one element (CSS Cascade 4 §4.4), and the table of all properties that are carried out.

The class of the computed values is the table: a row for each longhand, with its initial value, how a value is read, and
what it affects. What else CSS has is known to `standards.py`, so that a page that uses it is told truly what happened.
Lengths are px, with percentages kept where only layout knows the base; border widths are in 1/64 px and already
snapped, and 0 where the border style is none or hidden.
"""

from dataclasses import field, fields
from operator import attrgetter
from typing import Any

from redcrate.core.markup.elements import DocumentMode
from redcrate.core.records import dataclass
from redcrate.core.style import (
    backgrounds,
    border_images,
    effects,
    emphasis,
    generated,
    grid,
    images,
    masks,
    transforms,
)
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.backgrounds import Shadow, TileSize, layered
from redcrate.core.style.colours import BLACK, TRANSPARENT, Colour
from redcrate.core.style.grid import Areas, GridLine, TrackList, TrackSize
from redcrate.core.style.images import Image, Point
from redcrate.core.style.keywords import (
    ALIGNS,
    APPEARANCES,
    BLEND_MODES,
    BLOCK_ALIGNS,
    BORDER_STYLES,
    CAPS,
    CLIPS,
    DISPLAYS,
)
from redcrate.core.style.property import BOXES, INSIDE, LINES, PAINT, ROOM, row
from redcrate.core.style.property_parsers import AspectRatio, TextIndent
from redcrate.core.style.values import Dimension, LengthValue, OffsetValue, SizeValue
from redcrate.core.units import LayoutUnit

ZERO_PX = Dimension(0.0, "px")
LINE_WIDTH = pp.length("thin", "medium", "thick", percent=False, negative=False)

# Rows that several properties share.
_SIZE = row("auto", pp.size("auto"), INSIDE | ROOM)
_LARGEST = row("none", pp.size("none"), INSIDE | ROOM)
_CONTAINED_SIZE = row("none", pp.contained_size, INSIDE | ROOM)
_OVERFLOW = row("visible", pp.overflow, BOXES | INSIDE | ROOM | PAINT)
_OFFSET = row("auto", pp.length("auto"), ROOM)
_MARGIN = row(ZERO_PX, pp.length("auto"), ROOM)
_PADDING = row(ZERO_PX, pp.length(negative=False), ROOM)
_BORDER_WIDTH = row("medium", LINE_WIDTH, ROOM | PAINT)
_BORDER_STYLE = row("none", pp.keyword(*BORDER_STYLES), ROOM | PAINT)
_CURRENT_COLOUR = row("currentcolor", pp.colour, PAINT)
_RADIUS = row((ZERO_PX, ZERO_PX), pp.corner, PAINT)
_SPACING = row("normal", pp.spacing, LINES, inherited=True)
_GAP = row("normal", pp.length("normal", negative=False), INSIDE)
_TRACK_LIST = row((), grid.track_list, INSIDE)
_AUTO_TRACKS = row((grid.AUTO_TRACK,), grid.track_sizes, INSIDE)
_GRID_LINE = row(grid.AUTO_LINE, grid.line, ROOM)


BIDI = ("normal", "embed", "isolate", "bidi-override", "isolate-override", "plaintext")


@dataclass(frozen=True, slots=True)
class LineHeight:
    """kind: "normal", "number" (value × font size, cut) or "length" (value in px, to the nearest)."""

    kind: str
    value: float = 0.0


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class ComputedStyle:
    """All computed values, and the table of properties: a field is named as its property, and has its row.

    document_mode: of the page, since old ones have old rules (Quirks Mode Standard).
    default_margins: in quirks mode, the sides ("top", "bottom") whose margin is one that does not count at the edges of
    body and cells (HTML Standard §15.3.10).
    flow_display: `display` before §9.7 made a block of it (for the static place of absolute boxes).
    holds_items: whether boxes inside are flex or grid items, also where the element itself has no box
    (`display: contents`); is_item: whether its own box is one.
    font_size_keyword, font_size_absolute: how the size was given, which decides what becomes of it where
    a child's family is `monospace` (font_sizes.py).
    """

    document_mode: DocumentMode
    default_margins: frozenset[str]
    flow_display: str
    holds_items: bool
    is_item: bool
    display: str = field(metadata=row("inline", pp.display(*DISPLAYS), BOXES | LINES | INSIDE | ROOM))
    position: str = field(
        metadata=row(
            "static",
            pp.keyword("static", "relative", "absolute", "fixed", "sticky"),
            BOXES | LINES | INSIDE | ROOM,
        )
    )
    float_: str = field(
        metadata=row(
            "none",
            pp.keyword("none", "left", "right", "inline-start", "inline-end"),
            BOXES | LINES | INSIDE | ROOM,
        )
    )
    clear: str = field(
        metadata=row(
            "none", pp.keyword("none", "left", "right", "both", "inline-start", "inline-end"), ROOM
        )
    )
    direction: str = field(
        metadata=row("ltr", pp.keyword("ltr", "rtl"), LINES | INSIDE | ROOM, inherited=True)
    )
    unicode_bidi: str = field(metadata=row("normal", pp.keyword(*BIDI), LINES))
    box_sizing: str = field(
        metadata=row("content-box", pp.keyword("content-box", "border-box"), INSIDE | ROOM)
    )
    contain: tuple[str, ...] = field(metadata=row((), pp.contain, BOXES | INSIDE | ROOM | PAINT))
    contain_intrinsic_width: OffsetValue = field(metadata=_CONTAINED_SIZE)
    contain_intrinsic_height: OffsetValue = field(metadata=_CONTAINED_SIZE)
    margin_trim: tuple[str, ...] = field(metadata=row((), pp.margin_trim, INSIDE | ROOM))
    aspect_ratio: AspectRatio | str = field(metadata=row("auto", pp.aspect_ratio, INSIDE | ROOM))
    webkit_box_orient: str = field(
        metadata=row(
            "horizontal",
            pp.keyword("horizontal", "vertical", "inline-axis", "block-axis"),
            LINES | INSIDE,
            name="-webkit-box-orient",
        )
    )
    webkit_line_clamp: int = field(
        metadata=row(0, pp.line_clamp, LINES | INSIDE, name="-webkit-line-clamp")
    )
    overflow_x: str = field(metadata=_OVERFLOW)
    overflow_y: str = field(metadata=_OVERFLOW)
    visibility: str = field(
        metadata=row(
            "visible", pp.keyword("visible", "hidden", "collapse"), ROOM | PAINT, inherited=True
        )
    )
    width: SizeValue = field(metadata=_SIZE)
    height: SizeValue = field(metadata=_SIZE)
    min_width: SizeValue = field(metadata=_SIZE)
    min_height: SizeValue = field(metadata=_SIZE)
    max_width: SizeValue = field(metadata=_LARGEST)
    max_height: SizeValue = field(metadata=_LARGEST)
    top: OffsetValue = field(metadata=_OFFSET)
    right: OffsetValue = field(metadata=_OFFSET)
    bottom: OffsetValue = field(metadata=_OFFSET)
    left: OffsetValue = field(metadata=_OFFSET)
    margin_top: OffsetValue = field(metadata=_MARGIN)
    margin_right: OffsetValue = field(metadata=_MARGIN)
    margin_bottom: OffsetValue = field(metadata=_MARGIN)
    margin_left: OffsetValue = field(metadata=_MARGIN)
    padding_top: LengthValue = field(metadata=_PADDING)
    padding_right: LengthValue = field(metadata=_PADDING)
    padding_bottom: LengthValue = field(metadata=_PADDING)
    padding_left: LengthValue = field(metadata=_PADDING)
    border_top_width: LayoutUnit = field(metadata=_BORDER_WIDTH)
    border_right_width: LayoutUnit = field(metadata=_BORDER_WIDTH)
    border_bottom_width: LayoutUnit = field(metadata=_BORDER_WIDTH)
    border_left_width: LayoutUnit = field(metadata=_BORDER_WIDTH)
    border_top_style: str = field(metadata=_BORDER_STYLE)
    border_right_style: str = field(metadata=_BORDER_STYLE)
    border_bottom_style: str = field(metadata=_BORDER_STYLE)
    border_left_style: str = field(metadata=_BORDER_STYLE)
    border_top_color: Colour = field(metadata=_CURRENT_COLOUR)
    border_right_color: Colour = field(metadata=_CURRENT_COLOUR)
    border_bottom_color: Colour = field(metadata=_CURRENT_COLOUR)
    border_left_color: Colour = field(metadata=_CURRENT_COLOUR)
    border_top_left_radius: tuple[LengthValue, LengthValue] = field(metadata=_RADIUS)
    border_top_right_radius: tuple[LengthValue, LengthValue] = field(metadata=_RADIUS)
    border_bottom_right_radius: tuple[LengthValue, LengthValue] = field(metadata=_RADIUS)
    border_bottom_left_radius: tuple[LengthValue, LengthValue] = field(metadata=_RADIUS)
    border_image_source: Image = field(metadata=row("none", images.image, PAINT))
    border_image_slice: tuple[Any, ...] = field(
        metadata=row((*[border_images.WHOLE] * 4, False), border_images.slices, PAINT)
    )
    border_image_width: tuple[Any, ...] = field(
        metadata=row((border_images.ONCE,) * 4, border_images.widths, PAINT)
    )
    border_image_outset: tuple[Any, ...] = field(
        metadata=row((border_images.NOTHING,) * 4, border_images.outsets, PAINT)
    )
    border_image_repeat: tuple[str, str] = field(
        metadata=row(("stretch", "stretch"), border_images.repeats, PAINT)
    )
    outline_width: LayoutUnit = field(metadata=row("medium", LINE_WIDTH, PAINT))
    outline_style: str = field(metadata=row("none", pp.keyword("auto", *BORDER_STYLES), PAINT))
    outline_color: Colour = field(metadata=_CURRENT_COLOUR)
    outline_offset: LengthValue = field(metadata=row(ZERO_PX, pp.length(percent=False), PAINT))
    box_shadow: tuple[Shadow, ...] = field(metadata=row((), backgrounds.shadows, PAINT))
    vertical_align: OffsetValue = field(
        metadata=row("baseline", pp.vertical_align, LINES | INSIDE | ROOM)
    )
    z_index: int | str = field(metadata=row("auto", pp.z_index, PAINT))
    transform: tuple[tuple[object, ...], ...] = field(
        metadata=row((), transforms.transform, INSIDE | PAINT)
    )
    translate: tuple[tuple[object, ...], ...] = field(
        metadata=row((), transforms.translate, INSIDE | PAINT)
    )
    rotate: tuple[tuple[object, ...], ...] = field(metadata=row((), transforms.rotate, INSIDE | PAINT))
    scale: tuple[tuple[object, ...], ...] = field(metadata=row((), transforms.scale, INSIDE | PAINT))
    transform_origin: Point = field(
        metadata=row(Point(images.HALF, images.HALF), transforms.origin, PAINT)
    )
    opacity: float = field(metadata=row(1.0, pp.number, PAINT))
    clip_path: tuple[Any, ...] = field(metadata=row((), effects.clip_path, PAINT))
    filter: tuple[tuple[str, Any], ...] = field(metadata=row((), effects.filters, INSIDE | PAINT))
    backdrop_filter: tuple[tuple[str, Any], ...] = field(
        metadata=row((), effects.filters, INSIDE | PAINT)
    )
    mask_image: tuple[Image, ...] = field(metadata=row(("none",), images.images, PAINT))
    mask_position: tuple[Point, ...] = field(
        metadata=row((backgrounds.AT_START,), layered(images.position), PAINT)
    )
    mask_size: tuple[TileSize, ...] = field(
        metadata=row((TileSize(),), layered(backgrounds.tile_size), PAINT)
    )
    mask_repeat: tuple[tuple[str, str], ...] = field(
        metadata=row((("repeat", "repeat"),), layered(backgrounds.repeat), PAINT)
    )
    mask_origin: tuple[str, ...] = field(
        metadata=row(("border-box",), layered(pp.keyword(*masks.ORIGINS)), PAINT)
    )
    mask_clip: tuple[str, ...] = field(
        metadata=row(("border-box",), layered(pp.keyword(*masks.CLIPS)), PAINT)
    )
    mask_mode: tuple[str, ...] = field(
        metadata=row(("match-source",), layered(pp.keyword(*masks.MODES)), PAINT)
    )
    mask_composite: tuple[str, ...] = field(
        metadata=row(("add",), layered(pp.keyword(*masks.COMPOSITES)), PAINT)
    )
    mix_blend_mode: str = field(metadata=row("normal", pp.keyword(*BLEND_MODES), PAINT))
    isolation: str = field(metadata=row("auto", pp.keyword("auto", "isolate"), PAINT))
    content: tuple[tuple[str, ...], ...] | str = field(metadata=row("normal", generated.content, BOXES))
    initial_letter: tuple[float, int] | str = field(
        metadata=row("normal", generated.initial_letter, BOXES | LINES)
    )
    quotes: tuple[tuple[str, str], ...] | str = field(
        metadata=row("auto", generated.quotes, BOXES, inherited=True)
    )
    counter_reset: tuple[tuple[str, int], ...] = field(metadata=row((), generated.counters(0), BOXES))
    counter_increment: tuple[tuple[str, int], ...] = field(
        metadata=row((), generated.counters(1), BOXES)
    )
    counter_set: tuple[tuple[str, int], ...] = field(metadata=row((), generated.counters(0), BOXES))
    box_decoration_break: str = field(metadata=row("slice", pp.keyword("slice", "clone"), LINES | PAINT))
    object_fit: str = field(
        metadata=row("fill", pp.keyword("fill", "contain", "cover", "none", "scale-down"), PAINT)
    )
    object_position: Point = field(metadata=row(Point(images.HALF, images.HALF), images.position, PAINT))
    image_rendering: str = field(
        metadata=row(
            "auto", pp.keyword("auto", "smooth", "crisp-edges", "pixelated"), PAINT, inherited=True
        )
    )
    color: Colour = field(metadata=row(BLACK, pp.colour, PAINT, inherited=True))
    fill: Colour | str = field(metadata=row(BLACK, pp.paint, PAINT, inherited=True))
    stroke: Colour | str = field(metadata=row("none", pp.paint, PAINT, inherited=True))
    stroke_width: LengthValue = field(
        metadata=row(Dimension(1.0, "px"), pp.length(number=True), PAINT, inherited=True)
    )
    font_family: tuple[str, ...] = field(metadata=row(("serif",), pp.font_family, LINES, inherited=True))
    font_size: float = field(metadata=row("medium", pp.font_size, LINES, inherited=True))
    font_size_keyword: str
    font_size_absolute: bool
    font_style: str = field(
        metadata=row("normal", pp.keyword("normal", "italic", "oblique"), LINES, inherited=True)
    )
    font_weight: int = field(metadata=row("normal", pp.font_weight, LINES, inherited=True))
    font_kerning: str = field(
        metadata=row("auto", pp.keyword("auto", "normal", "none"), LINES, inherited=True)
    )
    font_feature_settings: tuple[tuple[str, int], ...] = field(
        metadata=row((), pp.font_features, LINES, inherited=True)
    )
    font_optical_sizing: str = field(
        metadata=row("auto", pp.keyword("auto", "none"), LINES, inherited=True)
    )
    font_variation_settings: tuple[tuple[str, float], ...] = field(
        metadata=row((), pp.font_variations, LINES, inherited=True)
    )
    font_variant_numeric: tuple[tuple[str, int], ...] = field(
        metadata=row((), pp.variant_numeric, LINES, inherited=True)
    )
    font_variant_caps: str = field(metadata=row("normal", pp.keyword(*CAPS), LINES, inherited=True))
    line_height: LineHeight = field(
        metadata=row("normal", pp.length("normal", number=True, negative=False), LINES, inherited=True)
    )
    text_align: str = field(
        metadata=row(
            "start", pp.keyword(*ALIGNS, "match-parent", *BLOCK_ALIGNS), LINES | ROOM, inherited=True
        )
    )
    text_align_last: str = field(
        metadata=row("auto", pp.keyword("auto", *ALIGNS), LINES, inherited=True)
    )
    text_indent: TextIndent = field(
        metadata=row(pp.TextIndent(ZERO_PX), pp.text_indent, LINES, inherited=True)
    )
    text_justify: str = field(
        metadata=row("auto", pp.keyword("auto", "none", "inter-word"), LINES, inherited=True)
    )
    hyphens: str = field(metadata=row("manual", pp.keyword("none", "manual"), LINES, inherited=True))
    hyphenate_character: str = field(metadata=row("auto", pp.hyphenate_character, LINES, inherited=True))
    text_transform: str = field(
        metadata=row(
            "none", pp.keyword("none", "uppercase", "lowercase", "capitalize"), LINES, inherited=True
        )
    )
    white_space: str = field(
        metadata=row(
            "normal",
            pp.keyword("normal", "pre", "nowrap", "pre-wrap", "pre-line", "break-spaces"),
            LINES,
            inherited=True,
        )
    )
    letter_spacing: float = field(metadata=_SPACING)
    word_spacing: float = field(metadata=_SPACING)
    overflow_wrap: str = field(
        metadata=row("normal", pp.keyword("normal", "break-word", "anywhere"), LINES, inherited=True)
    )
    word_break: str = field(
        metadata=row(
            "normal", pp.keyword("normal", "break-all", "keep-all", "break-word"), LINES, inherited=True
        )
    )
    text_wrap_mode: str = field(
        metadata=row("wrap", pp.keyword("wrap", "nowrap"), LINES, inherited=True)
    )
    text_wrap_style: str = field(
        metadata=row("auto", pp.keyword("auto", "balance", "stable"), LINES, inherited=True)
    )
    line_break: str = field(
        metadata=row(
            "auto", pp.keyword("auto", "loose", "normal", "strict", "anywhere"), LINES, inherited=True
        )
    )
    tab_size: tuple[str, float] = field(
        metadata=row(Dimension(8.0, ""), pp.tab_size, LINES, inherited=True)
    )
    list_style_type: str = field(
        metadata=row("disc", pp.by_grammar("list-style-type"), BOXES, inherited=True)
    )
    list_style_position: str = field(
        metadata=row("outside", pp.keyword("inside", "outside"), BOXES, inherited=True)
    )
    list_style_image: Image = field(metadata=row("none", images.image, BOXES, inherited=True))
    text_decoration_line: tuple[str, ...] = field(
        metadata=row((), pp.text_decoration_line, LINES | PAINT)
    )
    text_decoration_color: Colour = field(metadata=_CURRENT_COLOUR)
    text_decoration_style: str = field(
        metadata=row("solid", pp.keyword("solid", "double", "dotted", "dashed", "wavy"), PAINT)
    )
    text_decoration_thickness: LengthValue | str = field(
        metadata=row("auto", pp.length("auto", "from-font"), PAINT)
    )
    text_underline_offset: LengthValue | str = field(
        metadata=row("auto", pp.length("auto"), PAINT, inherited=True)
    )
    text_decoration_skip_ink: str = field(
        metadata=row("auto", pp.keyword("auto", "none", "all"), PAINT, inherited=True)
    )
    text_emphasis_style: str = field(metadata=row("", emphasis.style, PAINT, inherited=True))
    text_emphasis_color: Colour | str = field(metadata=row("", emphasis.colour, PAINT, inherited=True))
    text_emphasis_position: str = field(metadata=row("over", emphasis.position, PAINT, inherited=True))
    text_shadow: tuple[Shadow, ...] = field(
        metadata=row((), backgrounds.text_shadows, PAINT, inherited=True)
    )
    text_overflow: str = field(metadata=row("clip", pp.keyword("clip", "ellipsis"), PAINT))
    background_color: Colour = field(metadata=row(TRANSPARENT, pp.colour, PAINT))
    background_image: tuple[Image, ...] = field(metadata=row(("none",), images.images, PAINT))
    background_position: tuple[Point, ...] = field(
        metadata=row((backgrounds.AT_START,), layered(images.position), PAINT)
    )
    background_size: tuple[TileSize, ...] = field(
        metadata=row((TileSize(),), layered(backgrounds.tile_size), PAINT)
    )
    background_repeat: tuple[tuple[str, str], ...] = field(
        metadata=row((("repeat", "repeat"),), layered(backgrounds.repeat), PAINT)
    )
    background_origin: tuple[str, ...] = field(
        metadata=row(("padding-box",), layered(pp.keyword(*backgrounds.BOXES)), PAINT)
    )
    background_clip: tuple[str, ...] = field(
        metadata=row(("border-box",), layered(pp.keyword(*CLIPS)), PAINT)
    )
    background_attachment: tuple[str, ...] = field(
        metadata=row(("scroll",), layered(pp.keyword("scroll", "fixed", "local")), PAINT)
    )
    background_blend_mode: tuple[str, ...] = field(
        metadata=row(("normal",), layered(pp.keyword(*BLEND_MODES)), PAINT)
    )
    appearance: str = field(metadata=row("auto", pp.keyword(*APPEARANCES), BOXES))
    table_layout: str = field(metadata=row("auto", pp.keyword("auto", "fixed"), INSIDE))
    border_collapse: str = field(
        metadata=row("separate", pp.keyword("separate", "collapse"), INSIDE | ROOM, inherited=True)
    )
    border_spacing: tuple[LengthValue, LengthValue] = field(
        metadata=row((ZERO_PX, ZERO_PX), pp.border_spacing, INSIDE, inherited=True)
    )
    caption_side: str = field(
        metadata=row("top", pp.keyword("top", "bottom"), INSIDE | ROOM, inherited=True)
    )
    empty_cells: str = field(metadata=row("show", pp.keyword("show", "hide"), PAINT, inherited=True))
    flex_direction: str = field(
        metadata=row("row", pp.keyword("row", "row-reverse", "column", "column-reverse"), INSIDE)
    )
    flex_wrap: str = field(metadata=row("nowrap", pp.keyword("nowrap", "wrap", "wrap-reverse"), INSIDE))
    flex_grow: float = field(metadata=row(0.0, pp.factor, ROOM))
    flex_shrink: float = field(metadata=row(1.0, pp.factor, ROOM))
    flex_basis: SizeValue = field(metadata=row("auto", pp.size("auto", "content"), ROOM))
    order: int = field(metadata=row(0, pp.integer, ROOM))
    align_items: str = field(metadata=row("normal", pp.by_grammar("align-items"), INSIDE))
    align_self: str = field(metadata=row("auto", pp.by_grammar("align-self"), ROOM))
    align_content: str = field(metadata=row("normal", pp.by_grammar("align-content"), INSIDE))
    justify_content: str = field(metadata=row("normal", pp.by_grammar("justify-content"), INSIDE))
    justify_items: str = field(metadata=row("normal", pp.by_grammar("justify-items"), INSIDE))
    justify_self: str = field(metadata=row("auto", pp.by_grammar("justify-self"), ROOM))
    row_gap: OffsetValue = field(metadata=_GAP)
    column_gap: OffsetValue = field(metadata=_GAP)
    grid_template_columns: TrackList = field(metadata=_TRACK_LIST)
    grid_template_rows: TrackList = field(metadata=_TRACK_LIST)
    grid_template_areas: Areas = field(metadata=row((), grid.areas, INSIDE))
    grid_auto_columns: tuple[TrackSize, ...] = field(metadata=_AUTO_TRACKS)
    grid_auto_rows: tuple[TrackSize, ...] = field(metadata=_AUTO_TRACKS)
    grid_auto_flow: str = field(metadata=row("row", grid.auto_flow, INSIDE))
    grid_column_start: GridLine = field(metadata=_GRID_LINE)
    grid_column_end: GridLine = field(metadata=_GRID_LINE)
    grid_row_start: GridLine = field(metadata=_GRID_LINE)
    grid_row_end: GridLine = field(metadata=_GRID_LINE)

    @property
    def is_transformed(self) -> bool:
        """Whether any property transforms the box: CSS Transforms 2 §6."""
        return bool(self.transform or self.translate or self.rotate or self.scale)

    @property
    def contains_fixed(self) -> bool:
        """Whether the box contains absolute boxes and even fixed ones.

        CSS Transforms 1 §3, Contain 2 §3, Filter Effects 1 §5, Filter Effects 2 §2.
        """
        return (
            self.is_transformed
            or bool(self.filter)
            or bool(self.backdrop_filter)
            or "layout" in self.contain
            or "paint" in self.contain
        )

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


COMPUTED_FIELDS = tuple(f.name for f in fields(ComputedStyle))
_VALUES = attrgetter(*COMPUTED_FIELDS)
