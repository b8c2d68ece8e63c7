"""Shorthand properties: component values → longhands with their specified values.

Each expander returns a dict of longhand → specified value, or None if the value is invalid, in
which case the whole declaration is dropped (CSS Cascade 4 §4.3 and CSS 2.2 §4.2).
"""

from collections.abc import Callable
from typing import Any, TypeAlias

from redcrate.core.geometry import SIDES
from redcrate.core.records import dataclass
from redcrate.core.style import backgrounds, border_images, emphasis, grid, masks
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.colours import TRANSPARENT
from redcrate.core.style.css_syntax import css_text
from redcrate.core.style.images import image
from redcrate.core.style.keywords import CAPS, CORNERS
from redcrate.core.style.properties import LOGICAL, PROPERTIES
from redcrate.core.style.standards import standards
from redcrate.core.style.values import Dimension

Longhands: TypeAlias = dict[str, Any]
Expander: TypeAlias = Callable[[pp.Tokens], "Longhands | None"]


@dataclass(frozen=True, slots=True)
class Shorthand:
    """One shorthand: the longhands that it sets, always all of them, and what turns its value into theirs."""

    longhands: tuple[str, ...]
    expand: Expander


def parse_longhand(name: str, tokens: pp.Tokens) -> Any:
    """The specified value of the longhand `name`, physical or logical; None if invalid."""
    return PROPERTIES[LOGICAL[name][0] if name in LOGICAL else name].parse(tokens)


def _four_sides(names: tuple[str, ...]) -> Shorthand:
    """1–4 values clockwise from the top: CSS 2.2 §8.3."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        if not 1 <= len(tokens) <= 4:
            return None
        places = pp.ONE_TO_FOUR[len(tokens) - 1]
        return _all_valid({n: [tokens[p]] for n, p in zip(names, places, strict=True)})

    return Shorthand(names, expand)


def _two_values(first: str, second: str) -> Shorthand:
    """One value for both, or one each."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        if not 1 <= len(tokens) <= 2:
            return None
        return _all_valid({first: [tokens[0]], second: [tokens[-1]]})

    return Shorthand((first, second), expand)


def _two_alignments(first: str, second: str) -> Shorthand:
    """CSS Align 3 §6.4 and its kin: the same, where a value may have two words."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        if not 1 <= len(tokens) <= 4:
            return None
        both = [(tokens, tokens), *((tokens[:at], tokens[at:]) for at in range(1, len(tokens)))]
        found = (_all_valid({first: list(one), second: list(other)}) for one, other in both)
        return next((longhands for longhands in found if longhands is not None), None)

    return Shorthand((first, second), expand)


def _all_valid(parts: dict[str, pp.Tokens]) -> Longhands | None:
    out: Longhands = {}
    for name, tokens in parts.items():
        value = parse_longhand(name, tokens)
        if value is None:
            return None
        out[name] = value
    return out


def _any_order(*names: str) -> Shorthand:
    """Values in any order, each at most once; what is left out gets its initial value."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        found: Longhands = {}
        for token in tokens:
            for name in names:
                if name not in found:
                    value = parse_longhand(name, [token])
                    if value is not None:
                        found[name] = value
                        break
            else:
                return None
        if not found:
            return None
        return {n: found.get(n, _initial(n)) for n in names}

    return Shorthand(names, expand)


def _initial(name: str) -> Any:
    return PROPERTIES[LOGICAL[name][0] if name in LOGICAL else name].initial


def _border(*sides: str) -> Shorthand:
    """`border` and its sides: width, style and colour in any order, CSS Backgrounds 3 §4.4."""
    first = _any_order(*(f"border-{sides[0]}-{p}" for p in ("width", "style", "color")))
    of_side = {side: tuple(n.replace(sides[0], side) for n in first.longhands) for side in sides}

    def expand(tokens: pp.Tokens) -> Longhands | None:
        one = first.expand(tokens)
        if one is None:
            return None
        return {n: v for side in sides for n, v in zip(of_side[side], one.values(), strict=True)}

    return Shorthand(tuple(n for side in sides for n in of_side[side]), expand)


def _whole_border() -> Shorthand:
    """`border` itself, which takes a picture in the borders' place away too: CSS Backgrounds 3 §4.4."""
    sides = _border(*SIDES)
    images = {n: PROPERTIES[n].initial for n in _BORDER_IMAGE}

    def expand(tokens: pp.Tokens) -> Longhands | None:
        found = sides.expand(tokens)
        return None if found is None else found | images

    return Shorthand((*sides.longhands, *images), expand)


_BORDER_IMAGE = tuple(f"border-image-{p}" for p in ("source", "slice", "width", "outset", "repeat"))
_FONT = (
    "font-style",
    "font-variant-numeric",
    "font-variant-caps",
    "font-weight",
    "font-size",
    "line-height",
    "font-family",
    "font-optical-sizing",
    "font-variation-settings",
)


def _font(tokens: pp.Tokens) -> Longhands | None:
    """CSS Fonts 4 §2.7: style, weight, size/line-height and family, or a font of the system."""
    out = {n: PROPERTIES[n].initial for n in _FONT}
    if pp.keyword(*_SYSTEM_FONTS)(tokens):
        return out | _SYSTEM_FONT
    rest = list(tokens)
    while rest:
        size = pp.font_size([rest[0]])
        if size is not None:
            break
        token = rest.pop(0)
        if not _font_prefix(token, out):
            return None
    if not rest:
        return None
    out["font-size"] = pp.font_size([rest.pop(0)])
    if rest and rest[0].type == "literal" and rest[0].value == "/":
        height = PROPERTIES["line-height"].parse(rest[1:2])
        if height is None:
            return None
        out["line-height"] = height
        rest = rest[2:]
    family = pp.font_family(rest) if rest else None
    if family is None:
        return None
    out["font-family"] = family
    return out


def _font_prefix(token: Any, out: Longhands) -> bool:
    """Take one value in front of the size; False if it is none."""
    for name in ("font-style", "font-weight"):
        value = PROPERTIES[name].parse([token])
        if value is not None:
            if value != "normal":
                out[name] = value
            return True
    if pp.keyword("small-caps")([token]) is None:
        return False
    out["font-variant-caps"] = "small-caps"
    return True


# CSS Fonts 4 §2.7.1: what they are is for the system to say; here all are the same one.
_SYSTEM_FONTS = ("caption", "icon", "menu", "message-box", "small-caption", "status-bar")
_SYSTEM_FONT: Longhands = {"font-size": Dimension(16.0, "px"), "font-family": ("system-ui",)}


def _font_variant(tokens: pp.Tokens) -> Longhands | None:
    """CSS Fonts 4 §6.11: of all the variants those of capitals and of figures."""
    if not standards().grammars.allows("font-variant", tokens):
        return None
    caps = [t.lower_value for t in tokens if pp.keyword(*CAPS)([t])]
    figures = [t for t in tokens if pp.variant_numeric([t])]
    return {
        "font-variant-caps": caps[0] if caps else "normal",
        "font-variant-numeric": pp.variant_numeric(figures) if figures else (),
    }


def _background(tokens: pp.Tokens) -> Longhands | None:
    """CSS Backgrounds 3 §2.10: layers between commas, the colour in the last one."""
    layers = [backgrounds.layer(part) for part in pp.split_commas(tokens)]
    valid = [layer for layer in layers if layer is not None]
    if len(valid) != len(layers) or any(layer.colour is not None for layer in valid[:-1]):
        return None
    shade = valid[-1].colour
    out: Longhands = {"background-color": TRANSPARENT if shade is None else shade}
    for part in ("image", "position", "size", "repeat", "attachment"):
        first = PROPERTIES[f"background-{part}"].initial[0]
        given = [getattr(layer, part) for layer in valid]
        out[f"background-{part}"] = tuple(first if g is None else g for g in given)
    out["background-origin"] = tuple(la.boxes[0] if la.boxes else "padding-box" for la in valid)
    out["background-clip"] = tuple(la.boxes[-1] if la.boxes else "border-box" for la in valid)
    return out


def _list_style(tokens: pp.Tokens) -> Longhands | None:
    """CSS Lists 3 §2.5: type, position and image; `none` alone means both."""
    out: Longhands = {}
    nones = 0
    for token in tokens:
        if pp.keyword("none")([token]):
            nones += 1
        elif pp.keyword("inside", "outside")([token]) and "list-style-position" not in out:
            out["list-style-position"] = token.lower_value
        elif image([token]) is not None and "list-style-image" not in out:
            out["list-style-image"] = image([token])
        elif token.type in ("ident", "string") and "list-style-type" not in out:
            out["list-style-type"] = css_text([token])
        else:
            return None
    if not tokens or nones > 2:
        return None
    if nones and "list-style-type" not in out:
        out["list-style-type"] = "none"
    for name in ("list-style-type", "list-style-position", "list-style-image"):
        out.setdefault(name, PROPERTIES[name].initial)
    return out


def _flex(tokens: pp.Tokens) -> Longhands | None:
    """CSS Flexbox 1 §7.1.1: grow, shrink and basis."""
    if len(tokens) == 1 and pp.keyword("none")(tokens):
        return {"flex-grow": 0.0, "flex-shrink": 0.0, "flex-basis": "auto"}
    out: Longhands = {}
    numbers: list[float] = []
    for token in tokens:
        if token.type == "number" and (len(numbers) < 2 and (token.value != 0 or len(numbers) < 2)):
            numbers.append(float(token.value))
        elif "flex-basis" not in out:
            basis = PROPERTIES["flex-basis"].parse([token])
            if basis is None:
                return None
            out["flex-basis"] = basis
        else:
            return None
    if not tokens:
        return None
    out["flex-grow"] = numbers[0] if numbers else 1.0
    out["flex-shrink"] = numbers[1] if len(numbers) > 1 else 1.0
    # As browsers have it: a share, which of a height that hangs on content is the content.
    out.setdefault("flex-basis", Dimension(0.0, "%"))
    return out


def _text_wrap(tokens: pp.Tokens) -> Longhands | None:
    """CSS Text 4 §6.4: whether lines wrap, and how they are evened out; what that does to the last lines is not computed."""
    modes = [t for t in tokens if pp.keyword("wrap", "nowrap")([t])]
    styles = [t for t in tokens if pp.keyword("auto", "balance", "stable")([t])]
    if not tokens or len(modes) > 1 or len(styles) > 1 or len(modes) + len(styles) != len(tokens):
        return None
    return {
        "text-wrap-mode": modes[0].lower_value if modes else "wrap",
        "text-wrap-style": styles[0].lower_value if styles else "auto",
    }


def _text_decoration(tokens: pp.Tokens) -> Longhands | None:
    lines = [t for t in tokens if pp.text_decoration_line([t]) is not None]
    rest = [t for t in tokens if t not in lines]
    line = pp.text_decoration_line(lines) if lines else ()
    if line is None or not tokens:
        return None
    out: Longhands = {
        "text-decoration-line": line,
        "text-decoration-style": "solid",
        "text-decoration-color": "currentcolor",
        "text-decoration-thickness": "auto",
    }
    for token in rest:
        for name in ("text-decoration-style", "text-decoration-color", "text-decoration-thickness"):
            value = PROPERTIES[name].parse([token])
            if value is not None:
                out[name] = value
                break
        else:
            return None
    return out


def _radius(tokens: pp.Tokens) -> Longhands | None:
    """CSS Backgrounds 3 §5.1: 1–4 radii, a second set after a slash."""
    halves: list[pp.Tokens] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == "/":
            halves.append([])
        else:
            halves[-1].append(token)
    if len(halves) > 2 or not all(1 <= len(h) <= 4 for h in halves):
        return None
    out: Longhands = {}
    for i, name in enumerate(CORNERS):
        picked = [h[pp.ONE_TO_FOUR[len(h) - 1][i]] for h in halves]
        value = pp.corner(picked)
        if value is None:
            return None
        out[f"border-{name}-radius"] = value
    return out


def _grid_lines(*names: str) -> Shorthand:
    """`grid-column: 1 / 3` and the like: CSS Grid 1 §8.4."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        found = grid.lines(tokens, len(names))
        return None if found is None else dict(zip(names, found, strict=True))

    return Shorthand(names, expand)


def _contained(tokens: pp.Tokens) -> Longhands | None:
    """CSS Sizing 4 §4.4: one size for both axes, or one each; `auto` belongs to what follows it."""
    sizes: list[pp.Tokens] = []
    for token in tokens:
        if sizes and len(sizes[-1]) == 1 and pp.keyword("auto")(sizes[-1]):
            sizes[-1].append(token)
        else:
            sizes.append([token])
    if not 1 <= len(sizes) <= 2:
        return None
    return _all_valid({"contain-intrinsic-width": sizes[0], "contain-intrinsic-height": sizes[-1]})


def _sides(pattern: str) -> tuple[str, ...]:
    return tuple(pattern.replace("*", side) for side in SIDES)


_GRID = (
    "grid-template-rows",
    "grid-template-columns",
    "grid-template-areas",
    "grid-auto-rows",
    "grid-auto-columns",
    "grid-auto-flow",
)


_BACKGROUND = ("color", "image", "position", "size", "repeat", "attachment", "origin", "clip")
_MASK = ("image", "position", "size", "repeat", "origin", "clip", "mode", "composite")


SHORTHANDS: dict[str, Shorthand] = {
    "margin": _four_sides(_sides("margin-*")),
    "padding": _four_sides(_sides("padding-*")),
    "inset": _four_sides(_sides("*")),
    "border-width": _four_sides(_sides("border-*-width")),
    "border-style": _four_sides(_sides("border-*-style")),
    "border-color": _four_sides(_sides("border-*-color")),
    "border": _whole_border(),
    "border-inline": _border("inline-start", "inline-end"),
    "border-block": _border("block-start", "block-end"),
    "border-radius": Shorthand(tuple(f"border-{c}-radius" for c in CORNERS), _radius),
    "overflow": _two_values("overflow-x", "overflow-y"),
    "gap": _two_values("row-gap", "column-gap"),
    "grid-gap": _two_values("row-gap", "column-gap"),
    "outline": _any_order("outline-width", "outline-style", "outline-color"),
    "font": Shorthand(_FONT, _font),
    "font-variant": Shorthand(("font-variant-caps", "font-variant-numeric"), _font_variant),
    "background": Shorthand(tuple(f"background-{p}" for p in _BACKGROUND), _background),
    "mask": Shorthand(tuple(f"mask-{p}" for p in _MASK), masks.mask),
    "border-image": Shorthand(_BORDER_IMAGE, border_images.border_image),
    "text-emphasis": Shorthand(("text-emphasis-style", "text-emphasis-color"), emphasis.text_emphasis),
    "contain-intrinsic-size": Shorthand(
        ("contain-intrinsic-width", "contain-intrinsic-height"), _contained
    ),
    "list-style": Shorthand(("list-style-type", "list-style-position", "list-style-image"), _list_style),
    "flex": Shorthand(("flex-grow", "flex-shrink", "flex-basis"), _flex),
    "flex-flow": _any_order("flex-direction", "flex-wrap"),
    "text-decoration": Shorthand(
        (
            "text-decoration-line",
            "text-decoration-style",
            "text-decoration-color",
            "text-decoration-thickness",
        ),
        _text_decoration,
    ),
    "text-wrap": Shorthand(("text-wrap-mode", "text-wrap-style"), _text_wrap),
    "place-items": _two_alignments("align-items", "justify-items"),
    "place-content": _two_alignments("align-content", "justify-content"),
    "place-self": _two_alignments("align-self", "justify-self"),
    "grid-column": _grid_lines("grid-column-start", "grid-column-end"),
    "grid-row": _grid_lines("grid-row-start", "grid-row-end"),
    "grid-area": _grid_lines("grid-row-start", "grid-column-start", "grid-row-end", "grid-column-end"),
    "grid-template": Shorthand(_GRID[:3], grid.template),
    "grid": Shorthand(_GRID, grid.whole_grid),
    **{
        f"border-{side}": _border(side)
        for side in (*SIDES, "inline-start", "inline-end", "block-start", "block-end")
    },
    **{
        f"{head}-{axis}": _two_values(f"{head}-{axis}-start", f"{head}-{axis}-end")
        for head in ("margin", "padding", "inset")
        for axis in ("inline", "block")
    },
    **{
        f"border-{axis}-{tail}": _two_values(f"border-{axis}-start-{tail}", f"border-{axis}-end-{tail}")
        for axis in ("inline", "block")
        for tail in ("width", "style", "color")
    },
}


def longhands_of(name: str) -> tuple[str, ...]:
    """The longhands that the property `name` sets; itself if it is one; () if unknown."""
    if name in PROPERTIES or name in LOGICAL:
        return (name,)
    known = SHORTHANDS.get(name)
    return known.longhands if known is not None else ()
