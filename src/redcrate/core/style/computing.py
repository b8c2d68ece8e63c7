"""Specified values → computed values: CSS Cascade 4 §4.4, and each property's own section."""

from collections.abc import Callable, Mapping
from dataclasses import fields, is_dataclass, replace
from functools import cache, cached_property
from operator import attrgetter
from typing import Any, TypeAlias

from redcrate.core.geometry import SIDES
from redcrate.core.markup.elements import DocumentMode
from redcrate.core.records import changed, dataclass
from redcrate.core.style import font_sizes
from redcrate.core.style.backgrounds import Shadow, TileSize
from redcrate.core.style.cascade import Cascaded, reverted, reverted_layer
from redcrate.core.style.colours import Mixed
from redcrate.core.style.computed import ComputedStyle, LineHeight
from redcrate.core.style.declarations import CssWide, Pending, parse_declaration
from redcrate.core.style.default_margins import default_margins
from redcrate.core.style.font_faces import WebFamily
from redcrate.core.style.grid import Repeat, TrackSize
from redcrate.core.style.images import Gradient, Point, Stop
from redcrate.core.style.media import Viewport
from redcrate.core.style.properties import LOGICAL, PROPERTIES
from redcrate.core.style.property import Property
from redcrate.core.style.property_parsers import TextIndent
from redcrate.core.style.values import (
    CalcNode,
    Dimension,
    FitContent,
    FontUnits,
    Length,
    LengthContext,
    LengthValue,
    compute_length,
)
from redcrate.core.style.variables import Customs, NoSubstitution, computed_customs, substitute
from redcrate.core.units import LayoutUnit, border_width, nearest_from_px

# (families, weight, style, size in px) → the units of that font, with the line height of `normal`.
FontMeasure: TypeAlias = Callable[[tuple[str, ...], int, str, float], FontUnits]
INITIAL_FONT_SIZE = 16.0
_BORDER_KEYWORDS = {"thin": 1.0, "medium": 3.0, "thick": 5.0}


@dataclass(frozen=True, slots=True, eq=False)
class Styled:
    """One element's computed style, with its custom properties for the children."""

    style: ComputedStyle
    customs: Customs


def half_em(families: tuple[str, ...], weight: int, style: str, size: float) -> FontUnits:
    """The measure of a font that nobody knows: CSS Values 4 §6.1.1 allows 0.5em."""
    return FontUnits(size, size / 2, size / 2, size * 0.75, size, size * 1.2)


_UNKNOWN_ROOT = half_em((), 400, "normal", INITIAL_FONT_SIZE)


_Made: TypeAlias = "dict[object, tuple[Cascaded, Styled | None, Styled]]"
_STYLES_KEPT = 20_000
_BUTTON_BLOCKS = frozenset(("block", "flow-root", "flex", "grid"))


class StyleComputer:
    """Computes styles for one viewport; equal styles are one object."""

    def __init__(
        self,
        viewport: Viewport,
        measure: FontMeasure = half_em,
        mode: DocumentMode = DocumentMode.NO_QUIRKS,
        families: Mapping[str, WebFamily] | None = None,
    ) -> None:
        """families: what the page brings along, by names in lower case."""
        self.families = families or {}
        self._viewport = viewport
        self._viewport_units: set[str] = set()  # that computed values refer to, here or earlier
        self._mode = mode
        self._measure = measure
        self._root = _UNKNOWN_ROOT
        self.filled: dict[tuple[ComputedStyle, float], ComputedStyle] = {}  # in quirks mode
        self._of_controls: dict[tuple[Styled, bool], Styled] = {}
        self._interned: dict[tuple[object, ...], ComputedStyle] = {}  # by their values
        self._made: _Made = {}  # that hold in every window
        self._made_here: _Made = {}  # that refer to this one

    def share_with(self, earlier: "StyleComputer") -> None:
        """Give out the same objects as `earlier` for equal styles, and count rem from the same root.

        A pass over the whole page computes the root anew.
        """
        self._root = earlier._root
        self._viewport_units = set(earlier._viewport_units)
        if len(earlier._interned) < _STYLES_KEPT:
            self._interned = earlier._interned
            self.filled = earlier.filled
            self._of_controls = earlier._of_controls
            same = earlier._mode is self._mode and earlier.families == self.families
            if same and len(earlier._made) + len(earlier._made_here) < _STYLES_KEPT:
                self._made = earlier._made
                if earlier._viewport == self._viewport:
                    self._made_here = earlier._made_here

    def alike_in(self, viewport: Viewport) -> bool:
        """Whether what was computed so far would be the same in a window of that size."""
        return viewport == self._viewport or not self._viewport_units

    def compute(self, cascaded: Cascaded, parent: Styled | None, *, is_root: bool = False) -> Styled:
        """The computed style of an element (or pseudo-element) inside `parent`.

        What was computed from the same values before, in this version of the page or an earlier one, in this window or
        another one that it does not refer to, is given out again.
        """
        above = (id(parent.style), id(parent.customs), self._root) if parent else None
        key = (cascaded.fingerprint, above, is_root)
        known = self._made.get(key) or self._made_here.get(key)
        if known is None:  # the cascade and the parent are kept so that what the key counts stays alive
            before, self._viewport_units = self._viewport_units, set()
            known = cascaded, parent, self._compute(cascaded, parent, is_root=is_root)
            (self._made_here if self._viewport_units else self._made)[key] = known
            self._viewport_units |= before
        elif is_root:
            self._root = self._units_of(known[2].style)
        return known[2]

    def of_control(self, styled: Styled, *, is_button: bool) -> Styled:
        """The style of a control: one that is inline is laid out as an inline-block (HTML Standard §15.5.1).

        A button that is a block is as wide as its content, and stands apart from floats around it (§15.5.2).
        """
        key = styled, is_button
        if key not in self._of_controls:
            style = styled.style
            if style.display == "inline":
                style = replace(style, display="inline-block", flow_display="inline-block")
            elif is_button and style.display in _BUTTON_BLOCKS and not style.is_item:
                display = "flow-root" if style.display == "block" else style.display
                width = "fit-content" if style.width == "auto" else style.width
                style = replace(style, display=display, width=width)
            shared = self._interned.setdefault(style.values, style)
            self._of_controls[key] = Styled(shared, styled.customs)
        return self._of_controls[key]

    def _compute(self, cascaded: Cascaded, parent: Styled | None, *, is_root: bool) -> Styled:
        declared = {n: w.value for n, w in cascaded.winners.items() if n.startswith("--")}
        customs = computed_customs(declared, parent.customs if parent else {})
        work = _Work(self, cascaded, parent.style if parent else None, customs)
        style = work.run(is_root=is_root)
        if is_root:
            self._root = self._units_of(style)
        return Styled(self._interned.setdefault(style.values, style), customs)

    def context(self, style: dict[str, Any], font_size: float) -> LengthContext:
        """What relative units mean for an element of that font."""
        font = self._measure(style["font_family"], style["font_weight"], style["font_style"], font_size)
        width, height = self._viewport.width, self._viewport.height
        return LengthContext(font, self._root, width, height, self._viewport_units)

    def _units_of(self, style: ComputedStyle) -> FontUnits:
        """The font-relative units of an element with that style."""
        font = self._measure(style.font_family, style.font_weight, style.font_style, style.font_size)
        return changed(font, lh=_line_height_px(style.line_height, font))


class _Work:
    """The computation for one element; a method object so that steps share what they found."""

    def __init__(
        self,
        computer: StyleComputer,
        cascaded: Cascaded,
        parent: ComputedStyle | None,
        customs: Customs,
    ) -> None:
        self.computer = computer
        self.cascaded = cascaded
        self.parent = parent
        self.customs = customs
        self.values: dict[str, Any] = {}
        self.specified: dict[str, Any] = {}

    def run(self, *, is_root: bool) -> ComputedStyle:
        """All computed values; fonts first, as lengths refer to them."""
        direction = self.specify("direction", self._winner_value("direction"))
        self.values["direction"] = direction if direction is not None else self._inherit("direction")
        self._map_logical(self.values["direction"])
        self._fonts(is_root)
        context = self.computer.context(self.values, self.values["font_size"])
        if is_root:
            context = changed(context, root=context.font)
        own = context.font
        self._line_height(self._with_line_height_around(context))
        own = changed(own, lh=_line_height_px(self.values["line_height"], own))
        self.context = changed(context, font=own, root=own if is_root else context.root)
        self._colour()
        self._rest()
        self._depend_on_others(is_root)
        mode = self.values["document_mode"] = self.computer._mode
        quirks = mode is DocumentMode.QUIRKS
        self.values["default_margins"] = default_margins(self.cascaded) if quirks else frozenset()
        return ComputedStyle(**self.values)

    def _winner_value(self, longhand: str) -> Any:
        winner = self.cascaded.winners.get(longhand)
        return None if winner is None else winner.value

    def _map_logical(self, direction: str) -> None:
        """Logical longhands become physical ones; the later winner of the two stays."""
        column = 1 if direction == "rtl" else 0
        for name, winner in self.cascaded.winners.items():
            if name in LOGICAL:
                self.specified[LOGICAL[name][column]] = (name, winner.value)
            elif not name.startswith("--"):
                self.specified[name] = (name, winner.value)

    def specify(self, written_as: str, value: Any) -> Any:
        """The specified value with var() substituted and CSS-wide keywords resolved.

        None means: as inherited or initial.
        """
        name = LOGICAL[written_as][0] if written_as in LOGICAL else written_as
        if isinstance(value, Pending):
            try:
                tokens = substitute(value.tokens, self.customs)
                found = parse_declaration(value.name, tokens)
            except NoSubstitution:
                found = None
            value = None if found is None else found.get(written_as)
            if isinstance(value, Pending):
                value = None
        if isinstance(value, CssWide):
            keyword = value.keyword
            if keyword.startswith("revert"):
                back = reverted_layer if keyword == "revert-layer" else reverted
                value = back(self.cascaded, written_as)
                keyword = value.keyword if isinstance(value, CssWide) else ""
            if keyword == "inherit":
                return CssWide("inherit")
            if keyword == "initial":
                return PROPERTIES[name].initial
            if keyword == "unset":
                return None
        return value

    def _specified(self, prop: Property) -> Any:
        """The specified value to compute, or a CssWide("inherit")."""
        found = self.specified.get(prop.name)
        value = None if found is None else self.specify(*found)
        if value is None:
            return CssWide("inherit") if prop.inherited and self.parent else prop.initial
        if isinstance(value, CssWide) and self.parent is None:
            return prop.initial
        return value

    def _inherit(self, attribute: str) -> Any:
        if self.parent is not None:
            return getattr(self.parent, attribute)
        return "ltr" if attribute == "direction" else None

    def _fonts(self, is_root: bool) -> None:
        """font-family, style, weight and size: CSS Fonts 4 §2."""
        parent = self.parent
        for name in ("font-family", "font-style"):
            value = self._specified(PROPERTIES[name])
            attribute = PROPERTIES[name].attribute
            inherits = isinstance(value, CssWide)
            self.values[attribute] = getattr(parent, attribute) if inherits else value
            if name == "font-family" and self.computer.families and not inherits:
                brought = self.computer.families
                self.values[attribute] = tuple(brought.get(f.lower(), f) for f in value)
        self.values["font_weight"] = _weight(
            self._specified(PROPERTIES["font-weight"]), parent.font_weight if parent else 400
        )
        size = self._specified(PROPERTIES["font-size"])
        base = parent.font_size if parent else INITIAL_FONT_SIZE
        context = self._with_line_height_around(self.computer.context(self.values, base))
        if is_root:
            context = changed(context, root=context.font)
        known = font_sizes.Known(
            base,
            parent.font_size_keyword if parent else "medium",
            parent is not None and parent.font_size_absolute,
            parent is not None and font_sizes.is_monospace(parent.font_family),
        )
        found = font_sizes.font_size(
            size if not isinstance(size, CssWide) else None, self.values["font_family"], known, context
        )
        self.values["font_size"] = found.px
        self.values["font_size_keyword"] = found.keyword
        self.values["font_size_absolute"] = found.absolute

    def _with_line_height_around(self, context: LengthContext) -> LengthContext:
        """For font sizes and line heights `lh` is that of the element around: CSS Values 4 §6.1.1."""
        if self.parent is None:
            return context
        return changed(context, font=changed(context.font, lh=self._around.lh))

    @cached_property
    def _around(self) -> FontUnits:
        assert self.parent is not None
        return self.computer._units_of(self.parent)

    def _line_height(self, context: LengthContext) -> None:
        """CSS 2.2 §10.8.1: a number is inherited as such, a percentage as the length."""
        value = self._specified(PROPERTIES["line-height"])
        if isinstance(value, CssWide) and self.parent is not None:
            self.values["line_height"] = self.parent.line_height
        elif isinstance(value, (str, CssWide)):
            self.values["line_height"] = LineHeight("normal")
        elif isinstance(value, Dimension) and value.unit == "":
            self.values["line_height"] = LineHeight("number", value.value)
        else:
            px = compute_length(value, context).resolve_px(self.values["font_size"])
            self.values["line_height"] = LineHeight("length", max(0.0, px))

    def _colour(self) -> None:
        value = self._specified(PROPERTIES["color"])
        around = self.parent.color if self.parent else PROPERTIES["color"].initial
        if isinstance(value, CssWide) or value == "currentcolor":
            value = around
        elif isinstance(value, Mixed):
            value = value.computed(around)
        self.values["color"] = value

    def _rest(self) -> None:
        """Values that are not specified are the parent's or the initial ones, all at once: CSS Cascade 4 §7."""
        values = self.values
        values.update(_initial_values())
        values.update(dict.fromkeys(_INITIALLY_CURRENT, values["color"]))
        if self.parent is not None:
            values.update(zip(_INHERITED, _inherited_of(self.parent), strict=True))
        for name in self.specified:
            prop = _REST.get(name)
            if prop is not None:
                values[prop.attribute] = self._compute(prop)

    def _compute(self, prop: Property) -> Any:
        value = self._specified(prop)
        if isinstance(value, CssWide):
            return getattr(self.parent, prop.attribute)
        return self.computed(prop, value)

    def computed(self, prop: Property, value: Any) -> Any:
        """The computed value of a specified one that is no keyword of the cascade."""
        if isinstance(value, (Dimension, CalcNode)):
            return self._length(prop, value)
        if value == "currentcolor":
            return self.values["color"]
        if isinstance(value, Mixed):
            return value.computed(self.values["color"])
        if isinstance(value, tuple) or is_dataclass(value):
            return self._inside(value)
        if prop.name in ("letter-spacing", "word-spacing"):
            return 0.0
        if value in _BORDER_KEYWORDS and prop.name.endswith("-width"):
            return border_width(_BORDER_KEYWORDS[value])
        return value

    def _inside(self, value: Any) -> Any:
        """A value made of others (layers, gradients, shadows): the lengths in it computed."""
        if isinstance(value, (Dimension, CalcNode)):
            return self._plain_length(value)
        if isinstance(value, tuple):
            return tuple(self._inside(v) for v in value)
        if isinstance(value, _MADE_OF_OTHERS):
            parts = {f.name: self._inside(getattr(value, f.name)) for f in fields(value)}
            shade = parts.get("colour")
            if shade == "currentcolor":
                parts["colour"] = self.values["color"]
            elif isinstance(shade, Mixed):
                parts["colour"] = shade.computed(self.values["color"])
            return type(value)(**parts)
        return value

    def _plain_length(self, value: Dimension | CalcNode) -> LengthValue:
        return compute_length(value, self.context)

    def _length(self, prop: Property, value: Dimension | CalcNode) -> Any:
        if isinstance(value, CalcNode) and value.op == "fit-content":
            inner = value.args[0]
            assert not isinstance(inner, str)
            return FitContent(self._plain_length(inner))
        if prop.name == "tab-size":
            if isinstance(value, Dimension) and value.unit == "":
                return ("spaces", value.value)
            return ("px", self._plain_length(value).resolve_px(0.0))
        length = self._plain_length(value)
        if prop.name in ("letter-spacing", "word-spacing"):
            return length.resolve_px(0.0)
        if prop.name in _SNAPPED:
            return border_width(length.resolve_px(0.0))
        below_zero = isinstance(length, Length) and length.px < 0 and not length.has_percent
        return Length(0.0) if below_zero and prop.name in _NEVER_NEGATIVE else length

    def _depend_on_others(self, is_root: bool) -> None:  # noqa: C901 a step for each such property
        """Values that hang on other properties of the same element."""
        values = self.values
        for side in (*SIDES, "outline"):
            head = side if side == "outline" else f"border_{side}"
            if values[f"{head}_style"] in ("none", "hidden"):
                values[f"{head}_width"] = 0
        for axis, other in (("x", "y"), ("y", "x")):
            mine, theirs = values[f"overflow_{axis}"], values[f"overflow_{other}"]
            if mine in ("visible", "clip") and theirs not in ("visible", "clip"):
                values[f"overflow_{axis}"] = "auto" if mine == "visible" else "hidden"
        if values["position"] in ("absolute", "fixed"):
            values["float_"] = "none"
        logical = {"inline-start": ("left", "right"), "inline-end": ("right", "left")}
        rtl = values["direction"] == "rtl"
        for name in ("float_", "clear"):
            if values[name] in logical:
                values[name] = logical[values[name]][rtl]
        if values["text_align"] == "match-parent":
            values["text_align"] = self.parent.text_align if self.parent else "start"
        out_of_line = values["float_"] != "none" or values["position"] in ("absolute", "fixed")
        around = self.parent is not None and self.parent.holds_items
        values["is_item"] = around and values["display"] != "contents"
        if around:  # Flexbox 1 §3, Grid 1 §3: neither does anything to an item
            values["float_"] = values["clear"] = "none"
        values["flow_display"] = values["display"]
        if out_of_line or is_root or around:
            values["display"] = _BLOCKIFIED.get(values["display"], values["display"])
        display = values["display"]
        values["holds_items"] = display in _OF_ITEMS or (display == "contents" and around)


_MADE_OF_OTHERS = (Gradient, Stop, Point, TileSize, Shadow, TextIndent, TrackSize, Repeat)
_OF_ITEMS = frozenset(("flex", "inline-flex", "grid", "inline-grid"))
# CSS Display 3 §2.7; CSS 2.2 §9.7.
_BLOCKIFIED = {
    "inline": "block",
    "inline-block": "block",
    "inline list-item": "list-item",
    "inline flow-root list-item": "flow-root list-item",
    "inline-table": "table",
    "inline-flex": "flex",
    "inline-grid": "grid",
    "contents": "contents",
    **dict.fromkeys(
        (
            "table-row-group",
            "table-header-group",
            "table-footer-group",
            "table-row",
            "table-cell",
            "table-column",
            "table-column-group",
            "table-caption",
        ),
        "block",
    ),
}
_DONE_FIRST = {
    "direction",
    "font-family",
    "font-style",
    "font-weight",
    "font-size",
    "line-height",
    "color",
}
_REST = {n: p for n, p in PROPERTIES.items() if n not in _DONE_FIRST}
_INHERITED = tuple(p.attribute for p in _REST.values() if p.inherited)
_inherited_of = attrgetter(*_INHERITED)
_INITIALLY_CURRENT = tuple(p.attribute for p in _REST.values() if p.initial == "currentcolor")


@cache
def _initial_values() -> Mapping[str, Any]:
    """The computed initial values; lengths among them hang on no font and no window."""
    computer = StyleComputer(Viewport(0.0, 0.0))
    work = _Work(computer, Cascaded((), {}, {}), None, {})
    work.values["color"] = PROPERTIES["color"].initial
    work.context = LengthContext(_UNKNOWN_ROOT, _UNKNOWN_ROOT, 0.0, 0.0, set())
    return {p.attribute: work.computed(p, p.initial) for p in _REST.values()}


_SNAPPED = frozenset((*(f"border-{s}-width" for s in SIDES), "outline-width"))
_NEVER_NEGATIVE = frozenset(
    (
        *(f"padding-{s}" for s in SIDES),
        *(f"{m}{a}" for m in ("", "min-", "max-") for a in ("width", "height")),
    )
)


def _weight(value: Any, parent: int) -> int:
    """CSS Fonts 4 §2.2.2: relative weights."""
    if isinstance(value, CssWide):
        return parent
    if value == "bolder":
        return 400 if parent < 350 else 700 if parent < 550 else max(900, parent)
    if value == "lighter":
        return 100 if parent < 550 else 400 if parent < 750 else 700
    if isinstance(value, int):
        return value
    return 700 if value == "bold" else 400


def _line_height_px(height: LineHeight, font: FontUnits) -> float:
    """A line height in px; font.lh is what `normal` comes to."""
    if height.kind == "normal":
        return font.lh
    return height.value * font.em if height.kind == "number" else height.value


def used_line_height(style: ComputedStyle) -> LayoutUnit | None:
    """The line height in 1/64 px; None for `normal`, which only the font knows.

    A length goes to the nearest step; a number multiplies the font size's nearest one, and what comes of it is cut.
    """
    height = style.line_height
    if height.kind == "normal":
        return None
    if height.kind == "number":
        return Length(height.value * (nearest_from_px(style.font_size) / 64)).fixed
    return nearest_from_px(height.value)
