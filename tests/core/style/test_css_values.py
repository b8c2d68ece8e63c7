"""CSS text → values: shorthands against their longhands, calc against arithmetic, media queries, var()."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tinycss2 import parse_component_value_list

from redcrate.core.style.calc import parse_length
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.images import Gradient
from redcrate.core.style.media import Viewport, parse_media_list
from redcrate.core.style.property_parsers import Url
from redcrate.core.style.shorthands import SHORTHANDS
from redcrate.core.style.values import FontUnits, Length, LengthContext, compute_length
from redcrate.core.text.inline_fonts import features_of
from tests.conftest import PageOf, by_id

SHORT_AND_LONG = [
    ("margin: 1px", "margin-top:1px;margin-right:1px;margin-bottom:1px;margin-left:1px"),
    ("margin: 1px auto", "margin-top:1px;margin-right:auto;margin-bottom:1px;margin-left:auto"),
    ("margin: 1px 2% 3em", "margin-top:1px;margin-right:2%;margin-bottom:3em;margin-left:2%"),
    ("padding: 1px 2px 3px 4px", "padding-top:1px;padding-right:2px;padding-bottom:3px;padding-left:4px"),
    ("border: 3px dashed #123", "border-top:3px dashed #123;border-right:3px dashed #123;border-bottom:3px dashed #123;"
     "border-left:3px dashed #123"),
    ("border: solid", "border-width:medium;border-style:solid;border-color:currentcolor"),
    ("border-width: 1px 2px; border-style: solid", "border-top-width:1px;border-right-width:2px;border-bottom-width:1px;"
     "border-left-width:2px;border-top-style:solid;border-right-style:solid;border-bottom-style:solid;border-left-style:solid"),
    ("border-left: 2px solid red", "border-left-width:2px;border-left-style:solid;border-left-color:red"),
    ("background: #def", "background-color:#def;background-image:none"),
    ("background: url(x.png) no-repeat 3px 50% / 20px #def", "background-color:#def;background-image:url(x.png);"
     "background-repeat:no-repeat;background-position:3px 50%;background-size:20px"),
    ("font: italic bold 20px/1.5 Arial, serif", "font-style:italic;font-weight:bold;font-size:20px;line-height:1.5;"
     "font-family:Arial,serif"),
    ("overflow: hidden", "overflow-x:hidden;overflow-y:hidden"),
    ("overflow: hidden auto", "overflow-x:hidden;overflow-y:auto"),
    ("inset: 1px 2px", "top:1px;right:2px;bottom:1px;left:2px"),
    ("margin-inline: 4px 5px", "margin-left:4px;margin-right:5px"),
    ("padding-block: 4px", "padding-top:4px;padding-bottom:4px"),
    ("border-radius: 4px 6px", "border-top-left-radius:4px;border-top-right-radius:6px;border-bottom-right-radius:4px;"
     "border-bottom-left-radius:6px"),
    ("list-style: square inside", "list-style-type:square;list-style-position:inside"),
    ("outline: 2px solid #123", "outline-width:2px;outline-style:solid;outline-color:#123"),
    ("text-decoration: underline", "text-decoration-line:underline"),
    ("flex: 1 2 30px", "flex-grow:1;flex-shrink:2;flex-basis:30px"),
    ("gap: 3px 4px", "row-gap:3px;column-gap:4px"),
    ("inline-size: 40px", "width:40px"),
    ("min-block-size: 40px", "min-height:40px"),
    ("mask: luminance url(x.png) no-repeat center / 20px content-box no-clip subtract, linear-gradient(red, blue)",
     "mask-image:url(x.png),linear-gradient(red,blue);mask-position:center,0% 0%;mask-size:20px,auto;mask-repeat:no-repeat,repeat;"
     "mask-origin:content-box,border-box;mask-clip:no-clip,border-box;mask-mode:luminance,match-source;mask-composite:subtract,add"),
    ("border-image: url(x.png) 30 5% fill / 2 auto 3px / 4px round space", "border-image-source:url(x.png);"
     "border-image-slice:30 5% fill;border-image-width:2 auto 3px;border-image-outset:4px;border-image-repeat:round space"),
    ("border-image: url(x.png) 30; border: 2px solid", "border: 2px solid; border-image: none"),
    ("font-variant: small-caps tabular-nums ordinal", "font-variant-caps:small-caps;font-variant-numeric:ordinal tabular-nums"),
    ("font-variant-numeric: tabular-nums; font: 20px serif", "font: 20px serif"),
    ("text-emphasis: open triangle red", "text-emphasis-style:triangle open;text-emphasis-color:red"),
    ("text-emphasis: 'xy' ", "text-emphasis-style:'x';text-emphasis-color:currentcolor"),
]  # fmt: skip


@pytest.mark.parametrize(("short", "long"), SHORT_AND_LONG)
def test_a_shorthand_is_its_longhands(page_of: PageOf, short: str, long: str) -> None:
    """Both give one computed style; a shorthand after longhands sets all of them again."""
    pages = [
        page_of("<p id='a'>x</p>", f"#a {{ {css} }}")
        for css in (short, long, f"{long}; {short}", f"{short}; {long}")
    ]
    computed = [p.style_of(by_id(p, "a")).values for p in pages]
    assert computed[0] == computed[1] == computed[2] == computed[3]
    plain = page_of("<p id='a'>x</p>")
    assert computed[0] != plain.style_of(by_id(plain, "a")).values


INVALID = ["margin: 1px 2px 3px 4px 5px", "padding: -1px", "padding: auto", "border: 1px 2px", "font: Arial", "margin: 1px,2px",
           "overflow: sideways", "inset: red", "border-radius: -3px", "width: 10", "width: calc(1px + 2)", "color: 3px",
           "display: none none", "float: up", "margin: calc(1px * 1px)", "width: min()", "line-height: -2"]  # fmt: skip


@pytest.mark.parametrize("css", INVALID)
def test_an_invalid_declaration_changes_nothing(page_of: PageOf, css: str) -> None:
    """It is dropped as a whole, with a notice, and the one before it stands."""
    name = css.split(":")[0]
    page, plain = page_of("<p id='a'>x</p>", f"#a {{ {css} }}"), page_of("<p id='a'>x</p>")
    assert page.style_of(by_id(page, "a")).values == plain.style_of(by_id(plain, "a")).values
    assert any(name in n.sentence for n in page.notices)


CONTEXT = LengthContext(
    FontUnits(20.0, 9.0, 10.0, 14.0, 19.0, 24.0),
    FontUnits(16.0, 7.0, 8.0, 11.0, 15.0, 18.0),
    800.0,
    600.0,
)
UNITS = {"px": 1, "em": 20, "rem": 16, "vw": 8, "vh": 6, "vmin": 6, "vmax": 8, "in": 96, "pt": 96 / 72, "pc": 16,
         "cm": 96 / 2.54, "mm": 96 / 25.4, "q": 96 / 101.6, "ex": 9, "ch": 10, "cap": 14, "ic": 19,
         "lh": 24, "rex": 7, "rch": 8, "rcap": 11, "ric": 15, "rlh": 18, "svw": 8, "dvh": 6, "vi": 8, "cqmin": 6}  # fmt: skip


@st.composite
def sums(draw: st.DrawFn, depth: int = 3) -> tuple[str, float, float]:
    """A calc expression with its px and its percentage."""
    kind = draw(st.integers(0, 4 if depth else 1))
    if kind == 0:
        unit = draw(st.sampled_from(sorted(UNITS)))
        number = draw(st.integers(-50, 50))
        return f"{number}{unit}", number * UNITS[unit], 0.0
    if kind == 1:
        number = draw(st.integers(-50, 50))
        return f"{number}%", 0.0, float(number)
    left, right = draw(sums(depth - 1)), draw(sums(depth - 1))
    if kind == 2:
        return f"({left[0]} + {right[0]})", left[1] + right[1], left[2] + right[2]
    if kind == 3:
        return f"({left[0]} - {right[0]})", left[1] - right[1], left[2] - right[2]
    factor = draw(st.sampled_from([2, 3, -1, 0.5]))
    return f"({left[0]} * {factor})", left[1] * factor, left[2] * factor


@settings(deadline=None)
@given(sums(), st.integers(0, 2000))
def test_calc_is_arithmetic(expression: tuple[str, float, float], basis: int) -> None:
    """Any nesting of sums, differences and products with units and percentages."""
    text, px, percent = expression
    value = parse_length(parse_component_value_list(f"calc({text})")[0])
    assert value is not None
    assert compute_length(value, CONTEXT).resolve_px(float(basis)) == pytest.approx(
        px + percent * basis / 100, abs=1e-6
    )


COMPARED = [
    ("min(10px, 2em)", 10), ("max(10px, 2em)", 40), ("clamp(10px, 5%, 30px)", 25), ("clamp(30px, 1px, 10px)", 30),
    ("min(50%, 100px, 20em)", 100), ("calc(100% / 4 - 5px)", 120), ("max(0px, 10px - 20px)", 0), ("calc((1px + 2px) * 3)", 9),
    ("min(1px)", 1), ("calc(max(1em, 5px) + min(1px, 2px))", 21),
]  # fmt: skip


@pytest.mark.parametrize(("text", "px"), COMPARED)
def test_comparisons(text: str, px: float) -> None:
    """min, max and clamp of a basis of 500 px and a font of 20 px."""
    value = parse_length(parse_component_value_list(text)[0])
    assert value is not None and compute_length(value, CONTEXT).resolve_px(500.0) == pytest.approx(px)


MEDIA = [
    ("screen", True), ("print", False), ("all", True), ("not print", True), ("not all", False), ("", True),
    ("(min-width: 800px)", True), ("(min-width: 801px)", False), ("(max-width: 50em)", True), ("(width >= 800px)", True),
    ("(width > 800px)", False), ("(400px <= width < 900px)", True), ("(400px < width <= 799px)", False),
    ("screen and (min-width: 10px) and (max-width: 900px)", True), ("(min-width: 900px), (min-height: 600px)", True),
    ("(orientation: landscape)", True), ("(orientation: portrait)", False), ("not (min-width: 900px)", True),
    ("(min-width: 10px) or (min-width: 9000px)", True), ("(min-aspect-ratio: 4/3)", True), ("(aspect-ratio > 3/2)", False),
    ("(nonsense: 3)", False), ("not (nonsense: 3)", False), ("only screen and (height: 600px)", True), ("garbage garbage", False),
    ("(width)", True), ("(grid)", False), ("(orientation)", True), ("(nonsense)", False),
    ("(width: 800px) and ((height > 1px) or (height < 1px))", True), ("tty", False), ("screen, print", True),
]  # fmt: skip


@pytest.mark.parametrize(("query", "holds"), MEDIA)
def test_media_queries_at_800_by_600(query: str, holds: bool) -> None:
    """Types, ranges, and/or/not, unknown features (Media Queries 4 §3.1)."""
    assert (
        parse_media_list(parse_component_value_list(query), query).matches(Viewport(800, 600)) is holds
    )


VARS = [
    ("--w: 30px", "width: var(--w)", 30), ("--w: 30px", "width: var(--x, 44px)", 44), ("--w: 30px", "width: calc(var(--w) * 2)", 60),
    ("--w: var(--v); --v: 12px", "width: var(--w)", 12), ("--m: 1px 7px", "width: 50px; padding: var(--m)", 50),
    ("--w: ;", "width: var(--w) 33px", 33), ("--W: 5px; --w: 9px", "width: var(--w)", 9), ("--a: 2px", "width: var(--b, var(--a))", 2),
]  # fmt: skip


@pytest.mark.parametrize(("root", "rule", "width"), VARS)
def test_custom_properties(page_of: PageOf, root: str, rule: str, width: float) -> None:
    """Inherited, nested, with fallbacks, inside shorthands and calc; names keep their case."""
    page = page_of("<div><p id='a'>x</p></div>", f":root {{ {root} }} #a {{ {rule} }}")
    found = page.box_of(by_id(page, "a"))
    assert found is not None and found.content_box.width == width * 64


CASCADE = [
    ("p {W:1px} #a {W:2px}", 2), ("#a {W:2px} p {W:1px}", 2), ("p {W:1px} p {W:2px}", 2), (".c {W:1px} p {W:2px}", 1),
    ("p {W:1px !important} #a {W:2px}", 1), ("p {W:1px !important} p {W:2px !important}", 2), ("p.c {W:3px} .c {W:1px}", 3),
    ("* {W:1px}", 1), ("div p {W:4px} p {W:1px}", 4), ("#a {W:2px} @media (min-width: 10px) { p {W:9px !important} }", 9),
    ("#a {W:2px; W:3px}", 3), ("#a {W:3px; W:nonsense}", 3), ("p {W:5px} #a {W:revert; W:inherit}", None),
    (":is(#a, q) {W:7px} .c.c.c {W:1px}", 7), (":where(#a) {W:7px} p {W:1px}", 1), ("p:not(.d) {W:6px} p {W:1px}", 6),
]  # fmt: skip


@pytest.mark.parametrize(("css", "width"), CASCADE)
def test_the_cascade(page_of: PageOf, css: str, width: float | None) -> None:
    """Specificity, order, importance, media, fallbacks within a rule."""
    page = page_of(
        "<div style='width: 321px'><p id='a' class='c'>x</p></div>", css.replace("W:", "width:")
    )
    found = page.box_of(by_id(page, "a"))
    assert found is not None and found.content_box.width == (321 if width is None else width) * 64


ANGLES = [
    ("to right", 90), ("to left", 270), ("to top", 0), ("to bottom", 180), ("45deg", 45), ("0.5turn", 180), ("0", 0),
]  # fmt: skip


@pytest.mark.parametrize(("line", "angle"), ANGLES)
def test_lines_of_gradients(page_of: PageOf, line: str, angle: float) -> None:
    """CSS Images 3 §3.1.1: sides and angles, clockwise from the top."""
    page = page_of("<p id='d'>", f"p {{ background-image: linear-gradient({line}, red, blue) }}")
    (found,) = page.style_of(by_id(page, "d")).background_image
    assert isinstance(found, Gradient) and found.angle == angle


def test_corners_of_gradients_and_kinds_that_there_are_not(page_of: PageOf) -> None:
    """A corner is kept as one; an unknown kind is no image."""
    page = page_of("<p id='d'>", "p { background-image: linear-gradient(to top left, red, blue) }")
    (found,) = page.style_of(by_id(page, "d")).background_image
    assert isinstance(found, Gradient) and found.corner == (-1, -1)
    for wrong in (
        "mesh-gradient(red, blue)",
        "linear-gradient(red 1px 2px 3px, blue)",
        "no-such(red, blue)",
    ):
        page = page_of("<p id='d'>", f"p {{ background-image: {wrong} }}")
        assert page.style_of(by_id(page, "d")).background_image == ("none",), wrong
        assert page.notices, wrong
    for written, address in (
        ("image-set('b.png' 2x, 'a.png' 1x)", "a.png"),
        ("-webkit-image-set(url(b.png) 3x, url(a.png) 2x)", "a.png"),
        ("image-set('b.png' 0.5x, 'a.png' 192dpi)", "a.png"),
    ):
        page = page_of("<p id='d'>", f"p {{ background-image: {written} }}")
        assert page.style_of(by_id(page, "d")).background_image == (Url(address),), written


def test_substitutions_end(page_of: PageOf) -> None:
    """CSS Variables 1 §3.3: a value that grows beyond all bounds is none, whatever it would have come to."""
    for levels, families in ((7, 2**7 + 1), (14, 1)):
        steps = "".join(f"--x{n}: var(--x{n + 1}) var(--x{n + 1});" for n in range(levels))
        css = f"p {{ {steps} --x{levels}: a, ; font-family: var(--x0) serif }}"
        page = page_of("<p id='d'></p>", css)
        assert len(page.style_of(by_id(page, "d")).font_family) == families


def test_features_are_on_or_have_a_number(page_of: PageOf) -> None:
    """CSS Fonts 4 §6.12: on is 1, off is 0."""
    page = page_of(
        "<p id='a'></p><p id='b'></p>",
        "#a { font-feature-settings: 'liga' on, 'kern' off } #b { font-feature-settings: 'liga' 1, 'kern' 0 }",
    )
    styles = [page.style_of(by_id(page, name)).font_feature_settings for name in "ab"]
    assert styles[0] == styles[1]


def test_a_count_that_may_be_none(page_of: PageOf) -> None:
    """CSS Values 4 §5.1: a range that begins at 0 has 0 in it, and nothing below."""
    for value, told in (("0", "not computed"), ("7", "not computed"), ("-1", "cannot be")):
        page = page_of("<p>x</p>", f"p {{ hyphenate-limit-lines: {value} }}")
        assert any(told in n.sentence for n in page.notices), (value, page.notices)


@pytest.mark.parametrize(
    ("radius", "corners"),
    [("4px", (4, 4, 4, 4)), ("1px 2px", (1, 2, 1, 2)), ("1px 2px 3px", (1, 2, 3, 2)), ("1px 2px 3px 4px", (1, 2, 3, 4))],
)  # fmt: skip
def test_radii_of_corners(page_of: PageOf, radius: str, corners: tuple[int, ...]) -> None:
    """CSS Backgrounds 3 §5.1: clockwise from the top left; what is left out is as the opposite corner."""
    page = page_of("<p id='d'>", f"p {{ border-radius: {radius} / 7px }}")
    style = page.style_of(by_id(page, "d"))
    found = (style.border_top_left_radius, style.border_top_right_radius,
             style.border_bottom_right_radius, style.border_bottom_left_radius)  # fmt: skip
    assert found == tuple((Length(c), Length(7)) for c in corners)


_TRIED = (
    "1px",
    "none",
    "auto",
    "normal",
    "red",
    "solid",
    "hidden",
    "row",
    "1px serif",
    "wrap",
    "1",
    "a / b",
)


@pytest.mark.parametrize("name", sorted(SHORTHANDS))
def test_a_shorthand_sets_all_its_longhands(name: str) -> None:
    """CSS Cascade 4 §3.1: what is left out gets its initial value; nothing else is set."""
    values = [[t for t in component_values(text) if t.type != "whitespace"] for text in _TRIED]
    found = [sets for value in values if (sets := SHORTHANDS[name].expand(value))]
    assert found
    assert all(set(sets) == set(SHORTHANDS[name].longhands) for sets in found)


@pytest.mark.parametrize(
    ("written", "both"),
    [("repeat-x", ("repeat", "no-repeat")), ("repeat-y", ("no-repeat", "repeat")), ("space", ("space", "space")),
     ("round no-repeat", ("round", "no-repeat"))],
)  # fmt: skip
def test_how_a_picture_repeats(page_of: PageOf, written: str, both: tuple[str, str]) -> None:
    """CSS Backgrounds 3 §2.4: one word for an axis, for both, or one each."""
    page = page_of("<p id=d>x</p>", f"p {{ background-repeat: {written} }}")
    assert page.style_of(by_id(page, "d")).background_repeat == (both,)


def test_figures_are_features_which_settings_override(page_of: PageOf) -> None:
    """CSS Fonts 4 §7.2: what asks for a kind of figures comes before what names features."""
    css = "p { font-variant-numeric: slashed-zero tabular-nums; font-feature-settings: 'tnum' 0 }"
    page = page_of("<p id=d>1</p>", css)
    assert features_of(page.style_of(by_id(page, "d"))) == (("tnum", 1), ("zero", 1), ("tnum", 0))
    for wrong in ("tabular-nums proportional-nums", "tabular-nums 1", "ordinal ordinal"):
        page = page_of("<p id=d>1</p>", f"p {{ font-variant-numeric: {wrong} }}")
        assert page.style_of(by_id(page, "d")).font_variant_numeric == ()
