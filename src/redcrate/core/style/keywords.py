"""Keywords that more than one property takes, or that layout gives a meaning."""

from redcrate.core.style.backgrounds import BOXES

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

ALIGNS = ("start", "end", "left", "right", "center", "justify")
CLIPS = (*BOXES, "text", "border-area")
APPEARANCES = (
    "auto none base base-select textfield menulist-button button checkbox listbox menulist meter progress-bar "
    "push-button radio searchfield slider-horizontal square-button textarea"
).split()

# Compositing 1 §6.2: how a box is mixed with what is behind it.
BLEND_MODES = (
    "normal", "multiply", "screen", "overlay", "darken", "lighten", "color-dodge", "color-burn", "hard-light",
    "soft-light", "difference", "exclusion", "hue", "saturation", "color", "luminosity", "plus-lighter",
)  # fmt: skip
