"""Shorthand properties: component values → longhands with their specified values.

Each expander returns a dict of longhand → specified value, or None if the value is invalid, in
which case the whole declaration is dropped (CSS Cascade 4 §4.3 and CSS 2.2 §4.2).
"""

from collections.abc import Callable
from typing import Any, TypeAlias

from redcrate.core.geometry import SIDES
from redcrate.core.style import backgrounds
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.css_syntax import component_values, css_text
from redcrate.core.style.images import image
from redcrate.core.style.properties import CAPS, CORNERS, LOGICAL, PROPERTIES
from redcrate.core.style.standards import standards
from redcrate.core.style.values import Dimension

Longhands: TypeAlias = dict[str, Any]
Expander: TypeAlias = Callable[[pp.Tokens], "Longhands | None"]


def parse_longhand(name: str, tokens: pp.Tokens) -> Any:
    """The specified value of the longhand `name`, physical or logical; None if invalid."""
    return PROPERTIES[LOGICAL[name][0] if name in LOGICAL else name].parse(tokens)


def four_sides(names: tuple[str, str, str, str]) -> Expander:
    """1–4 values clockwise from the top: CSS 2.2 §8.3."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        if not 1 <= len(tokens) <= 4:
            return None
        places = ((0, 0, 0, 0), (0, 1, 0, 1), (0, 1, 2, 1), (0, 1, 2, 3))[len(tokens) - 1]
        return _all_valid({n: [tokens[p]] for n, p in zip(names, places, strict=True)})

    return expand


def two_values(first: str, second: str) -> Expander:
    """One value for both, or one each."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        if not 1 <= len(tokens) <= 2:
            return None
        return _all_valid({first: [tokens[0]], second: [tokens[-1]]})

    return expand


def _all_valid(parts: dict[str, pp.Tokens]) -> Longhands | None:
    out: Longhands = {}
    for name, tokens in parts.items():
        value = parse_longhand(name, tokens)
        if value is None:
            return None
        out[name] = value
    return out


def any_order(*names: str) -> Expander:
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

    return expand


def _initial(name: str) -> Any:
    return PROPERTIES[LOGICAL[name][0] if name in LOGICAL else name].initial


def border(*sides: str) -> Expander:
    """`border` and its sides: width, style and colour in any order, CSS Backgrounds 3 §4.4."""
    first = any_order(*(f"border-{sides[0]}-{p}" for p in ("width", "style", "color")))

    def expand(tokens: pp.Tokens) -> Longhands | None:
        one = first(tokens)
        if one is None:
            return None
        out: Longhands = {}
        for side in sides:
            for name, value in one.items():
                out[name.replace(sides[0], side)] = value
        return out

    return expand


def _font(tokens: pp.Tokens) -> Longhands | None:
    """CSS Fonts 4 §2.7: style, weight, size/line-height and family, or a font of the system."""
    names = (
        "font-style",
        "font-variant-caps",
        "font-weight",
        "font-size",
        "line-height",
        "font-family",
    )
    out = {n: PROPERTIES[n].initial for n in names}
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
    """CSS Fonts 4 §6.11: of all the variants only that of capitals changes the bundled fonts."""
    if not standards().grammars.allows("font-variant", tokens):
        return None
    caps = [t.lower_value for t in tokens if pp.keyword(*CAPS)([t])]
    return {"font-variant-caps": caps[0] if caps else "normal"}


def _background(tokens: pp.Tokens) -> Longhands | None:
    """CSS Backgrounds 3 §2.10: layers between commas, the colour in the last one."""
    layers = [backgrounds.layer(part) for part in pp.split_commas(tokens)]
    valid = [layer for layer in layers if layer is not None]
    if len(valid) != len(layers) or any(layer.colour is not None for layer in valid[:-1]):
        return None
    shade = valid[-1].colour
    out: Longhands = {"background-color": pp.TRANSPARENT if shade is None else shade}
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
    out.setdefault("flex-basis", Dimension(0.0, "px"))
    return out


def _text_wrap(tokens: pp.Tokens) -> Longhands | None:
    """CSS Text 4 §6.4: whether lines wrap; how they are evened out is not computed."""
    modes = [t for t in tokens if pp.keyword("wrap", "nowrap")([t])]
    styles = [t for t in tokens if pp.keyword("auto")([t])]
    if not tokens or len(modes) > 1 or len(styles) > 1 or len(modes) + len(styles) != len(tokens):
        return None
    return {"text-wrap-mode": modes[0].lower_value if modes else "wrap"}


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
    }
    for token in rest:
        for name in ("text-decoration-style", "text-decoration-color"):
            value = PROPERTIES[name].parse([token])
            if value is not None:
                out[name] = value
                break
        else:
            if pp.length("auto", "from-font")([token]) is None:
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
        picked = [
            h[((0, 0, 0, 0), (0, 1, 0, 1), (0, 1, 2, 1), (0, 1, 2, 3))[len(h) - 1][i]] for h in halves
        ]
        value = pp.corner(picked)
        if value is None:
            return None
        out[f"border-{name}-radius"] = value
    return out


def _slashed(first: str, second: str) -> Expander:
    """`grid-column: 1 / 3` and the like."""

    def expand(tokens: pp.Tokens) -> Longhands | None:
        parts: list[pp.Tokens] = [[]]
        for token in tokens:
            if token.type == "literal" and token.value == "/":
                parts.append([])
            else:
                parts[-1].append(token)
        if len(parts) > 2 or not all(parts):
            return None
        end = css_text(parts[1]) if len(parts) > 1 else "auto"
        return {first: css_text(parts[0]), second: end}

    return expand


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


def _sides(pattern: str) -> tuple[str, str, str, str]:
    top, right, bottom, left = (pattern.replace("*", s) for s in SIDES)
    return top, right, bottom, left


SHORTHANDS: dict[str, Expander] = {
    "margin": four_sides(_sides("margin-*")),
    "padding": four_sides(_sides("padding-*")),
    "inset": four_sides(_sides("*")),
    "border-width": four_sides(_sides("border-*-width")),
    "border-style": four_sides(_sides("border-*-style")),
    "border-color": four_sides(_sides("border-*-color")),
    "border": border(*SIDES),
    "border-inline": border("inline-start", "inline-end"),
    "border-block": border("block-start", "block-end"),
    "border-radius": _radius,
    "overflow": two_values("overflow-x", "overflow-y"),
    "gap": two_values("row-gap", "column-gap"),
    "grid-gap": two_values("row-gap", "column-gap"),
    "outline": any_order("outline-width", "outline-style", "outline-color"),
    "font": _font,
    "font-variant": _font_variant,
    "background": _background,
    "contain-intrinsic-size": _contained,
    "list-style": _list_style,
    "flex": _flex,
    "flex-flow": any_order("flex-direction", "flex-wrap"),
    "text-decoration": _text_decoration,
    "text-wrap": _text_wrap,
    "place-items": two_values("align-items", "justify-items"),
    "place-content": two_values("align-content", "justify-content"),
    "place-self": two_values("align-self", "justify-self"),
    "grid-column": _slashed("grid-column-start", "grid-column-end"),
    "grid-row": _slashed("grid-row-start", "grid-row-end"),
}
for _side in (*SIDES, "inline-start", "inline-end", "block-start", "block-end"):
    SHORTHANDS[f"border-{_side}"] = border(_side)
for _axis in ("inline", "block"):
    for _head in ("margin", "padding", "inset"):
        SHORTHANDS[f"{_head}-{_axis}"] = two_values(f"{_head}-{_axis}-start", f"{_head}-{_axis}-end")
    for _tail in ("width", "style", "color"):
        SHORTHANDS[f"border-{_axis}-{_tail}"] = two_values(
            f"border-{_axis}-start-{_tail}", f"border-{_axis}-end-{_tail}"
        )

# Which longhands a shorthand sets, for edits and for `inherit` and the like.
SHORTHAND_LONGHANDS: dict[str, tuple[str, ...]] = {}


def longhands_of(name: str) -> tuple[str, ...]:
    """The longhands that the property `name` sets; itself if it is one; () if unknown."""
    if name in PROPERTIES or name in LOGICAL:
        return (name,)
    return SHORTHAND_LONGHANDS.get(name, ())


def _fill_longhands() -> None:
    probes = (
        "1px",
        "none",
        "auto",
        "normal",
        "red",
        "solid",
        "hidden",
        "row",
        "1px serif",
        "stretch",
        "visible",
        "1",
        "wrap",
    )
    for name, expand in SHORTHANDS.items():
        for probe in probes:
            tokens = [t for t in component_values(probe) if t.type != "whitespace"]
            found = expand(tokens)
            if found:
                SHORTHAND_LONGHANDS[name] = tuple(found)
                break


_fill_longhands()
