"""Colours of every space of Color 4, and mixtures of Color 5, against what a browser paints on white."""

import pytest
import tinycss2

from redcrate.core.style.colours import Colour, Mixed, parsed_colour

PAINTED = [
    ("oklch(0.7 0.1 200)", (64, 177, 183)),
    ("oklab(0.7 0.1 .1)", (229, 127, 78)),
    ("lab(50 20 30)", (161, 105, 69)),
    ("lch(50 20 30)", (151, 108, 103)),
    ("color(display-p3 .5 .6 .2)", (121, 154, 20)),
    ("color(srgb-linear .5 .5 .5)", (188, 188, 188)),
    ("color(xyz .3 .3 .3)", (162, 145, 143)),
    ("hwb(10 20% 30%)", (179, 72, 51)),
    ("color(rec2020 .3 .3 .3)", (91, 91, 91)),
    ("oklch(none 0.1 none)", (1, 0, 0)),
    ("color-mix(in srgb, red, blue)", (128, 0, 128)),
    ("color-mix(in oklab, red 30%, lime)", (172, 205, 0)),
    ("color-mix(in hsl longer hue, red, lime)", (0, 0, 255)),
    ("color-mix(in lch, white, black)", (119, 119, 119)),
    ("color(prophoto-rgb .3 .4 .5)", (16, 126, 150)),
    ("color(a98-rgb .3 .4 .5)", (60, 102, 129)),
    ("color-mix(in oklch, #123456 20%, #fedcba)", (225, 174, 164)),
    ("color-mix(in srgb, rgb(255 0 0/.5), blue)", (127, 63, 191)),
    ("oklch(0.623 0.214 259.815)", (43, 127, 255)),
    ("oklch(0.9 0.4 140)", (0, 255, 0)),
    ("rgb(from #336699 calc(r * 1.5) g b)", (77, 102, 153)),
    ("rgb(from red r g b / 50%)", (255, 128, 128)),
    ("hsl(from #336699 h s calc(l + 20))", (102, 153, 204)),
    ("oklch(from #336699 calc(l * 1.2) c h / alpha)", (80, 132, 185)),
    ("lab(from #336699 calc(l - 20) a b)", (0, 55, 102)),
    ("lch(from green l c calc(h + 90))", (0, 132, 189)),
    ("hwb(from teal h w calc(b + 10))", (0, 103, 103)),
    ("color(from #336699 srgb b g r)", (153, 102, 51)),
    ("color(from #336699 xyz x y calc(z*2))", (0, 107, 212)),
    ("rgb(from red none g b)", (0, 0, 0)),
    ("oklab(from rgb(0 0 0 / .75) l a b / calc(alpha - .25))", (128, 128, 128)),
    ("rgb(from color-mix(in srgb, red, blue) r g b)", (128, 0, 128)),
    ("rgba(calc(10 + 20), 40, 50, 1)", (30, 40, 50)),
    ("hsl(calc(120deg + 30deg) 50% calc(20% + 10%))", (38, 115, 77)),
    ("hsl(120, calc(100% - 50%), min(40%, 60%))", (51, 153, 51)),
    ("rgb(calc(infinity) calc(1 / 0) 0)", (255, 255, 0)),
]


def of(text: str) -> Colour | Mixed | str | None:
    """The colour of a text."""
    return parsed_colour(tinycss2.parse_one_component_value(text))


@pytest.mark.parametrize(("text", "wanted"), PAINTED)
def test_they_are_what_a_browser_paints(text: str, wanted: tuple[int, int, int]) -> None:
    """To one step of 255."""
    found = of(text)
    assert isinstance(found, Colour)
    on_white = [c * found.alpha + 255 * (1 - found.alpha) for c in (found.red, found.green, found.blue)]
    assert all(abs(a - b) <= 1 for a, b in zip(on_white, wanted, strict=True)), (found, wanted)


def test_shares_and_what_is_no_colour() -> None:
    """Shares that do not make a whole thin the mixture out; a light page takes the first of light-dark()."""
    assert of("color-mix(in srgb, red 20%, blue 20%)") == Colour(128, 0, 128, 0.4)
    assert of("color-mix(in srgb, red 75%, blue)") == of("color-mix(in srgb, blue, 75% red)")
    assert of("color-mix(in hsl, hsl(10 100% 50%), hsl(350 100% 50%))") == Colour(255, 0, 0)
    assert of("color-mix(in hsl longer hue, hsl(10 100% 50%), hsl(350 100% 50%))") == Colour(0, 255, 255)
    assert of("light-dark(red, blue)") == Colour(255, 0, 0)
    assert of("CurrentColor") == "currentcolor"
    mixed = of("color-mix(in srgb, color-mix(in srgb, currentColor, blue), white 20%)")
    assert isinstance(mixed, Mixed) and mixed.computed(Colour(255, 0, 0)) == Colour(153, 51, 153)
    thin = of("rgb(from currentcolor b g calc(r / 2) / .5)")
    assert isinstance(thin, Mixed) and thin.computed(Colour(100, 20, 30)) == Colour(30, 20, 50, 0.5)
    for text in (
        "color-mix(in srgb, red)", "color-mix(red, blue)", "color-mix(in srgb, red 0%, blue 0%)",
        "color-mix(in srgb, red 120%, blue)", "color-mix(in nowhere, red, blue)", "color-mix(in nowhere, currentcolor, blue)", "light-dark(red)", "3px",
        "color-mix(in hsl sideways hue, red, blue)", "rgb(from red r g)", "rgb(from red x g b)", "rgb(from 3px r g b)",
        "rgb(calc(1px + 2px) 0 0)", "hsl(from red calc(h + 120deg) s l)", "rgb(from red r g b 1 / 1)", "rgb(from red r / g b)",
        "rgb(from)", "color(from red nowhere r g b)", "rgb(from currentcolor r g)", "rgb(r g b)", "rgb(calc(1em) 0 0)",
    ):  # fmt: skip
        assert of(text) is None, text
    nested = "color-mix(in srgb, " * 30 + "red" + ", blue)" * 30
    assert of(nested) is None, "no deeper than anybody writes"
