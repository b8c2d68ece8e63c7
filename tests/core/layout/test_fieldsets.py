"""Fieldsets and their legends, worked out by hand from HTML Standard §15.3.13; sizes of lists and fields."""

import pytest

from redcrate.core.explain.across import across
from redcrate.core.explain.down import down
from redcrate.core.explain.position import position
from tests.conftest import PageOf, box, by_id

PLAIN = (
    "* { margin: 0; padding: 0; font: 16px/20px sans-serif } body { width: 300px }"
    " fieldset { border: 4px solid; padding: 6px } legend { width: 50px } p { height: 10px }"
)
LEGEND = "<fieldset id=f><legend id=l>x</legend><p id=p></p></fieldset>"
# Styles, what is inside, and the boxes of fieldset, legend and paragraph.
CASES = {
    "higher than the border": ("", LEGEND, [(0, 0, 300, 46), (10, 0, 50, 20), (10, 26, 280, 10)]),
    "lower than the border": ("fieldset { border-width: 30px 4px 4px }", LEGEND,
                              [(0, 0, 300, 56), (10, 5, 50, 20), (10, 36, 280, 10)]),
    "its margins count": ("legend { margin: 3px auto 7px }", LEGEND, [(0, 0, 300, 56), (125, 3, 50, 20), (10, 36, 280, 10)]),
    "a height holds it": ("fieldset { height: 100px } p { height: 50% }", LEGEND,
                          [(0, 0, 300, 120), (10, 0, 50, 20), (10, 26, 280, 42)]),
    "no wider than its words": ("legend { width: fit-content } .w { display: inline-block; width: 70px }",
                                LEGEND.replace(">x<", "><i class=w></i><"), [(0, 0, 300, 46), (10, 0, 70, 20), (10, 26, 280, 10)]),
    "a float is none": ("legend { float: left }", LEGEND, [(0, 0, 300, 40), (10, 10, 50, 20), (10, 10, 280, 10)]),
    "not the first child": ("", "<fieldset id=f>a<p id=p></p><legend id=l>x</legend><legend>y</legend></fieldset>",
                            [(0, 0, 300, 86), (10, 0, 50, 20), (10, 46, 280, 10)]),
    "moved": ("legend { position: relative; top: 5px; left: -3px }", LEGEND, [(0, 0, 300, 46), (7, 5, 50, 20), (10, 26, 280, 10)]),
    "floats below it": ("p { float: left; width: 20px; height: 40px }", LEGEND, [(0, 0, 300, 76), (10, 0, 50, 20), (10, 26, 20, 40)]),
    "margins stay inside": ("p { margin: 9px 0 }", LEGEND, [(0, 0, 300, 64), (10, 0, 50, 20), (10, 35, 280, 10)]),
    "it makes it wide": ("fieldset { float: left } legend { width: 90px } p { width: 20px }", LEGEND,
                         [(0, 0, 110, 46), (10, 0, 90, 20), (10, 26, 20, 10)]),
    "right to left": ("fieldset { direction: rtl }", LEGEND, [(0, 0, 300, 46), (240, 0, 50, 20), (10, 26, 280, 10)]),
}  # fmt: skip


@pytest.mark.parametrize("case", CASES)
def test_a_legend_stands_on_the_border(page_of: PageOf, case: str) -> None:
    """Border boxes of fieldset, legend and paragraph."""
    css, body, expected = CASES[case]
    page = page_of(body, PLAIN + css)
    assert [box(page, name) for name in ("f", "l", "p")] == [tuple(map(float, e)) for e in expected]


def test_why_a_legend_is_where_it_is(page_of: PageOf) -> None:
    """The border is named, and what the legend moves; so is what the height comes from."""
    page = page_of(LEGEND, PLAIN)
    said = [r.sentence for r in position(page, by_id(page, "l"))]
    assert said[:2] == [
        "It is on the top border of fieldset#f.",
        "It is taller than that border: the content below starts 16 px lower.",
    ]
    tall = down(page, by_id(page, "f"))
    assert tall is not None and "from its legend and the blocks inside" in tall.reasons[0].sentence
    low = page_of(LEGEND, PLAIN + "fieldset { border-width: 30px }")
    assert len(position(low, by_id(low, "l"))) == 1


@pytest.mark.parametrize(
    ("control", "size"),
    [
        (
            "<select id=c multiple style='font: 20px Liberation Mono'><option>x</select>",
            (18.015625, 102),
        ),
        (
            "<select id=c size=3 style='font: 16px/40px Liberation Mono'><option>xxx<optgroup><option>x</optgroup></select>",
            (34.8125, 62.5625),
        ),
        ("<select id=c size=2><option>x</select>", (12.671875, 36)),
        ("<select id=c size=1><option>x</select>", (29, 19)),
        ("<input id=c placeholder='a name that is much longer than the field is wide'>", (185, 21)),
        ("<input id=c type=password value=secret>", (185, 21)),
    ],
)
def test_controls_have_the_sizes_of_engines(
    page_of: PageOf, control: str, size: tuple[float, float]
) -> None:
    """Lists show their rows; what a field shows does not change it."""
    assert box(page_of(control), "c")[2:] == tuple(map(float, size))


@pytest.mark.parametrize(
    ("css", "box_of_a", "line"),
    [
        ("", (4, 3, 13, 13), 21),
        ("input { padding: 9px; border: 5px solid }", (4, 3, 13, 13), 21),
        ("input { padding: 9px; border: 5px solid; appearance: none }", (4, 3, 28, 28), 39),
        ("input { padding: 9px; border: 5px solid; -webkit-appearance: none }", (4, 3, 28, 28), 39),
    ],
)
def test_tick_boxes_stand_on_the_line(
    page_of: PageOf, css: str, box_of_a: tuple[float, ...], line: float
) -> None:
    """Their margin hangs below the baseline where a program draws them; else it stands on it, and edges count."""
    page = page_of(
        "<p id=p style='height:auto'><input type=checkbox id=a><input type=radio>x</p>",
        PLAIN.replace("*", "p") + css,
    )
    assert box(page, "a") == tuple(map(float, box_of_a)) and box(page, "p")[3] == line
    wide = across(page, by_id(page, "a"))
    said = " ".join(r.sentence for r in wide.reasons) if wide is not None else ""
    assert ("borders and paddings have no effect" in said) == ("padding" in css and "none" not in css)


def test_what_comes_later_in_the_tree_is_painted_later(page_of: PageOf) -> None:
    """The legend keeps its turn among the children, wherever it stands."""
    page = page_of("<fieldset id=f><p id=p></p><legend id=l>x</legend><hr><hr></fieldset>", PLAIN)
    frame = page.box_of(by_id(page, "f"))
    assert frame is not None and frame.box is not None
    tags = [c.fragment.box.element.tag for c in frame.box.fragment.children if c.fragment.box.element]
    assert tags == ["p", "legend", "hr", "hr"]
