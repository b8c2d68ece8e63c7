"""The register of longhand properties: initial value, inheritance, parser.

`attribute` is the field of `ComputedStyle` that holds the computed value. What else CSS has is known to
`standards.py`, so that a page that uses it is told truly what happened.
"""

from dataclasses import dataclass
from sys import intern
from typing import Any

from redcrate.core.geometry import SIDES
from redcrate.core.style import backgrounds, generated, grid, images, transforms
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.values import Dimension

CORNERS = ("top-left", "top-right", "bottom-right", "bottom-left")
BORDER_STYLES = (
    "none",
    "hidden",
    "dotted",
    "dashed",
    "solid",
    "double",
    "groove",
    "ridge",
    "inset",
    "outset",
)
DISPLAYS = (
    "none",
    "block",
    "inline",
    "inline-block",
    "list-item",
    "flow-root",
    "contents",
    "table",
    "inline-table",
    "table-row-group",
    "table-header-group",
    "table-footer-group",
    "table-row",
    "table-cell",
    "table-column",
    "table-column-group",
    "table-caption",
    "flex",
    "inline-flex",
    "grid",
    "inline-grid",
    "-webkit-box",
    "flow-root list-item",
    "inline list-item",
    "inline flow-root list-item",
)


# CSS Fonts 4 §6.6.
CAPS = (
    "normal",
    "small-caps",
    "all-small-caps",
    "petite-caps",
    "all-petite-caps",
    "unicase",
    "titling-caps",
)

# Values of text-align by which the align attribute also moves blocks: HTML Standard §15.3.3.
BLOCK_ALIGNS = {"-webkit-left": "left", "-webkit-center": "center", "-webkit-right": "right"}


@dataclass(frozen=True, slots=True)
class Property:
    """One longhand. initial: the specified initial value. attribute: the field of ComputedStyle."""

    name: str
    inherited: bool
    initial: Any
    parse: pp.Parser
    attribute: str


PROPERTIES: dict[str, Property] = {}


def _add(name: str, initial: Any, parse: pp.Parser, *, inherited: bool = False) -> None:
    # interned: as keywords they are then found among the many fields at once
    attribute = intern(name.lstrip("-").replace("-", "_") + ("_" if name == "float" else ""))
    PROPERTIES[name] = Property(name, inherited, initial, parse, attribute)


_ZERO = Dimension(0.0, "px")


def _add_boxes() -> None:
    for side in SIDES:
        _add(f"margin-{side}", _ZERO, pp.length("auto"))
        _add(f"padding-{side}", _ZERO, pp.length(negative=False))
        _add(side, "auto", pp.length("auto"))
        _add(
            f"border-{side}-width",
            "medium",
            pp.length("thin", "medium", "thick", percent=False, negative=False),
        )
        _add(f"border-{side}-style", "none", pp.keyword(*BORDER_STYLES))
        _add(f"border-{side}-color", "currentcolor", pp.colour)
    for axis in ("width", "height"):
        _add(axis, "auto", pp.size("auto"))
        _add(f"min-{axis}", "auto", pp.size("auto"))
        _add(f"max-{axis}", "none", pp.size("none"))
    for name in CORNERS:
        _add(f"border-{name}-radius", (_ZERO, _ZERO), pp.corner)
    _add("contain", (), pp.contain)
    for axis in ("width", "height"):
        _add(f"contain-intrinsic-{axis}", "none", pp.contained_size)
    _add("margin-trim", (), pp.margin_trim)
    _add("aspect-ratio", "auto", pp.aspect_ratio)
    _add("box-sizing", "content-box", pp.keyword("content-box", "border-box"))
    _add("outline-width", "medium", PROPERTIES["border-top-width"].parse)
    _add("outline-style", "none", pp.keyword("auto", *BORDER_STYLES))
    _add("outline-color", "currentcolor", pp.colour)
    _add("outline-offset", _ZERO, pp.length(percent=False))
    _add("box-shadow", (), backgrounds.shadows)


def _add_flow() -> None:
    _add("display", "inline", pp.display(*DISPLAYS))
    _add("position", "static", pp.keyword("static", "relative", "absolute", "fixed", "sticky"))
    _add("float", "none", pp.keyword("none", "left", "right", "inline-start", "inline-end"))
    _add("clear", "none", pp.keyword("none", "left", "right", "both", "inline-start", "inline-end"))
    _add("-webkit-box-orient", "horizontal", pp.keyword(*_ORIENTS))
    _add("-webkit-line-clamp", 0, pp.line_clamp)
    _add("overflow-x", "visible", pp.overflow)
    _add("overflow-y", "visible", pp.overflow)
    _add("visibility", "visible", pp.keyword("visible", "hidden", "collapse"), inherited=True)
    _add("direction", "ltr", pp.keyword("ltr", "rtl"), inherited=True)
    _add("vertical-align", "baseline", pp.vertical_align)
    _add("z-index", "auto", lambda t: pp.integer(t) if pp.integer(t) is not None else _auto(t))
    _add("opacity", 1.0, pp.number)
    _add("content", "normal", generated.content)
    _add("initial-letter", "normal", generated.initial_letter)
    _add("quotes", "auto", generated.quotes, inherited=True)
    _add("counter-reset", (), generated.counters(0))
    _add("counter-increment", (), generated.counters(1))
    _add("counter-set", (), generated.counters(0))
    _add("box-decoration-break", "slice", pp.keyword("slice", "clone"))
    _add("object-fit", "fill", pp.keyword("fill", "contain", "cover", "none", "scale-down"))


def _add_transforms() -> None:
    _add("transform", (), transforms.transform)
    for name in ("translate", "rotate", "scale"):
        _add(name, (), getattr(transforms, name))
    _add("transform-origin", images.Point(images.HALF, images.HALF), transforms.origin)


_auto = pp.keyword("auto")
_ORIENTS = ("horizontal", "vertical", "inline-axis", "block-axis")


def _add_text() -> None:
    def inherited(name: str, initial: Any, parse: pp.Parser) -> None:
        _add(name, initial, parse, inherited=True)

    inherited("color", pp.BLACK, pp.colour)
    inherited("font-family", ("serif",), pp.font_family)
    inherited("font-size", "medium", pp.font_size)
    inherited("font-style", "normal", pp.keyword("normal", "italic", "oblique"))
    inherited("font-weight", "normal", pp.font_weight)
    inherited("font-kerning", "auto", pp.keyword("auto", "normal", "none"))
    inherited("font-feature-settings", (), pp.font_features)
    inherited("font-variant-caps", "normal", pp.keyword(*CAPS))
    inherited("line-height", "normal", pp.length("normal", number=True, negative=False))
    inherited(
        "text-align",
        "start",
        pp.keyword("start", "end", "left", "right", "center", "justify", "match-parent", *BLOCK_ALIGNS),
    )
    inherited(
        "text-align-last",
        "auto",
        pp.keyword("auto", "start", "end", "left", "right", "center", "justify"),
    )
    inherited("text-indent", pp.TextIndent(_ZERO), pp.text_indent)
    inherited("text-justify", "auto", pp.keyword("auto", "none", "inter-word"))
    inherited("hyphens", "manual", pp.keyword("none", "manual"))
    inherited("hyphenate-character", "auto", pp.hyphenate_character)
    inherited("text-transform", "none", pp.keyword("none", "uppercase", "lowercase", "capitalize"))
    inherited(
        "white-space",
        "normal",
        pp.keyword("normal", "pre", "nowrap", "pre-wrap", "pre-line", "break-spaces"),
    )
    inherited("letter-spacing", "normal", pp.spacing)
    inherited("word-spacing", "normal", pp.spacing)
    inherited("overflow-wrap", "normal", pp.keyword("normal", "break-word", "anywhere"))
    inherited("word-break", "normal", pp.keyword("normal", "break-all", "keep-all", "break-word"))
    inherited("text-wrap-mode", "wrap", pp.keyword("wrap", "nowrap"))
    inherited("line-break", "auto", pp.keyword("auto", "loose", "normal", "strict", "anywhere"))
    inherited("tab-size", Dimension(8.0, ""), pp.tab_size)
    inherited("list-style-type", "disc", pp.by_grammar("list-style-type"))
    inherited("list-style-position", "outside", pp.keyword("inside", "outside"))
    inherited("list-style-image", "none", images.image)
    _add("text-decoration-line", (), pp.text_decoration_line)
    _add("text-decoration-color", "currentcolor", pp.colour)
    _add("text-decoration-style", "solid", pp.keyword("solid", "double", "dotted", "dashed", "wavy"))


def _add_background() -> None:
    _add("background-color", pp.TRANSPARENT, pp.colour)
    _add("background-image", ("none",), images.images)
    start, boxes = images.Point(images.ZERO, images.ZERO), pp.keyword(*backgrounds.BOXES)
    clips = pp.keyword(*backgrounds.BOXES, "text", "border-area")
    layered = backgrounds.layered
    _add("background-position", (start,), layered(images.position))
    _add("background-size", (backgrounds.TileSize(),), layered(backgrounds.tile_size))
    _add("background-repeat", (("repeat", "repeat"),), layered(backgrounds.repeat))
    _add("background-origin", ("padding-box",), layered(boxes))
    _add("background-clip", ("border-box",), layered(clips))
    _add("background-attachment", ("scroll",), layered(pp.keyword("scroll", "fixed", "local")))


_APPEARANCES = (
    "auto none base base-select textfield menulist-button button checkbox listbox menulist meter progress-bar "
    "push-button radio searchfield slider-horizontal square-button textarea"
).split()


def _add_tables_flex_grid() -> None:
    _add("appearance", "auto", pp.keyword(*_APPEARANCES))
    _add("table-layout", "auto", pp.keyword("auto", "fixed"))
    _add("border-collapse", "separate", pp.keyword("separate", "collapse"), inherited=True)
    _add("border-spacing", (_ZERO, _ZERO), pp.border_spacing, inherited=True)
    _add("caption-side", "top", pp.keyword("top", "bottom"), inherited=True)
    _add("empty-cells", "show", pp.keyword("show", "hide"), inherited=True)
    _add("flex-direction", "row", pp.keyword("row", "row-reverse", "column", "column-reverse"))
    _add("flex-wrap", "nowrap", pp.keyword("nowrap", "wrap", "wrap-reverse"))
    _add("flex-grow", 0.0, pp.factor)
    _add("flex-shrink", 1.0, pp.factor)
    _add("flex-basis", "auto", pp.size("auto", "content"))
    _add("order", 0, pp.integer)
    for name in ("align-items", "align-self", "align-content"):
        _add(name, "normal" if name != "align-self" else "auto", pp.by_grammar(name))
    for name in ("justify-content", "justify-items", "justify-self"):
        _add(name, "normal" if name != "justify-self" else "auto", pp.by_grammar(name))
    _add("row-gap", "normal", pp.length("normal", negative=False))
    _add("column-gap", "normal", pp.length("normal", negative=False))
    for axis in ("columns", "rows"):
        _add(f"grid-template-{axis}", (), grid.track_list)
        _add(f"grid-auto-{axis}", (grid.AUTO_TRACK,), grid.track_sizes)
    _add("grid-template-areas", (), grid.areas)
    _add("grid-auto-flow", "row", grid.auto_flow)
    for axis in ("column", "row"):
        for end in ("start", "end"):
            _add(f"grid-{axis}-{end}", grid.AUTO_LINE, grid.line)


_add_boxes()
_add_flow()
_add_transforms()
_add_text()
_add_background()
_add_tables_flex_grid()

# Logical longhands (CSS Logical 1) in horizontal writing: name → (ltr, rtl) physical longhand.
LOGICAL: dict[str, tuple[str, str]] = {}


def _add_logical() -> None:
    sides = {
        "block-start": ("top", "top"),
        "block-end": ("bottom", "bottom"),
        "inline-start": ("left", "right"),
        "inline-end": ("right", "left"),
    }
    for logical, (ltr, rtl) in sides.items():
        for head in ("margin", "padding"):
            LOGICAL[f"{head}-{logical}"] = (f"{head}-{ltr}", f"{head}-{rtl}")
        LOGICAL[f"inset-{logical}"] = (ltr, rtl)
        for tail in ("width", "style", "color"):
            LOGICAL[f"border-{logical}-{tail}"] = (f"border-{ltr}-{tail}", f"border-{rtl}-{tail}")
    for logical, physical in (("inline-size", "width"), ("block-size", "height")):
        for head in ("", "min-", "max-"):
            LOGICAL[head + logical] = (head + physical, head + physical)


_add_logical()
