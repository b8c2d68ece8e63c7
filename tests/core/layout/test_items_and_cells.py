"""Flex lines, grids and tables whose boxes are worked out by hand; the reference pages have the rest."""

import pytest

from redcrate.core.layout.table_facts import TableFacts
from redcrate.core.units import LayoutUnit
from tests.conftest import PageOf, box, by_id

# The container's style, the styles of its items, and x, y, width, height of each item.
FLEX = {
    "grow": ("width: 300px", ["flex: 1", "flex: 2"], [(0, 0, 100, 10), (100, 0, 200, 10)]),
    "less than all": ("width: 300px", ["flex-grow: 0.2", "flex-grow: 0.3"], [(0, 0, 60, 10), (60, 0, 90, 10)]),
    "shrink by size": ("width: 300px", ["width: 300px; min-width: 0", "width: 100px; min-width: 0"],
                       [(0, 0, 225, 10), (225, 0, 75, 10)]),
    "frozen, then again": ("width: 300px", ["flex: 1; max-width: 30px", "flex: 1", "flex: 1"],
                           [(0, 0, 30, 10), (30, 0, 135, 10), (165, 0, 135, 10)]),
    "wrap and gap": ("width: 100px; flex-wrap: wrap; gap: 5px 10px", ["width: 60px", "width: 40px", "width: 50px"],
                     [(0, 0, 60, 10), (0, 15, 40, 10), (50, 15, 50, 10)]),
    "a share of no height is the content": ("width: 50px; flex-direction: column", ["flex: 1; height: auto; overflow: auto; padding: 7px 0"],
                                            [(0, 0, 50, 14)]),
    "no length at all": ("width: 50px; flex-direction: column", ["flex: 1 1 0px; height: 10px; overflow: auto"], [(0, 0, 50, 0)]),
    "wrap-reverse": ("width: 100px; flex-wrap: wrap-reverse; height: 40px; align-content: flex-start",
                     ["width: 60px", "width: 60px"], [(0, 30, 60, 10), (0, 20, 60, 10)]),
    "row-reverse": ("width: 100px; flex-direction: row-reverse", ["width: 30px", "width: 20px"],
                    [(70, 0, 30, 10), (50, 0, 20, 10)]),
    "rtl": ("width: 100px; direction: rtl", ["width: 30px", "width: 20px"], [(70, 0, 30, 10), (50, 0, 20, 10)]),
    "between": ("width: 100px; justify-content: space-between", ["width: 20px"] * 3,
                [(0, 0, 20, 10), (40, 0, 20, 10), (80, 0, 20, 10)]),
    "around": ("width: 100px; justify-content: space-around", ["width: 30px"] * 2, [(10, 0, 30, 10), (60, 0, 30, 10)]),
    "evenly": ("width: 100px; justify-content: space-evenly", ["width: 20px"] * 2, [(20, 0, 20, 10), (60, 0, 20, 10)]),
    "too much in the middle": ("width: 100px; justify-content: center", ["flex: none; width: 140px"], [(-20, 0, 140, 10)]),
    "safe": ("width: 100px; justify-content: safe center", ["flex: none; width: 140px"], [(0, 0, 140, 10)]),
    "auto margins": ("width: 100px", ["width: 20px", "width: 20px; margin-left: auto"], [(0, 0, 20, 10), (80, 0, 20, 10)]),
    "auto on both sides of both": ("width: 121px", ["width: 20px; margin: 0 auto", "width: 20px; margin-left: auto"],
                                   [(27, 0, 20, 10), (101, 0, 20, 10)]),
    "auto above, in a line that is too low": ("width: 100px; height: 4px", ["width: 20px; margin: auto 0"], [(0, 0, 20, 10)]),
    "auto above": ("width: 100px; height: 50px", ["width: 20px; margin: auto 0"], [(0, 20, 20, 10)]),
    "stretch": ("width: 100px; height: 50px", ["width: 20px; height: auto", "width: 20px; height: auto; align-self: center"],
                [(0, 0, 20, 50), (20, 25, 20, 0)]),
    "stretched as far as content": ("width: 100px; height: 60px", ["width: 20px; height: auto; max-height: max-content; padding: 5px 0"],
                                    [(0, 0, 20, 10)]),
    "stretched lines": ("width: 50px; height: 60px; flex-wrap: wrap", ["width: 40px; height: auto"] * 2,
                        [(0, 0, 40, 30), (0, 30, 40, 30)]),
    "order": ("width: 100px", ["width: 20px; order: 1", "width: 30px"], [(30, 0, 20, 10), (0, 0, 30, 10)]),
    "column": ("width: 100px; height: 90px; flex-direction: column", ["flex: 1; height: auto", "height: 30px"],
               [(0, 0, 100, 60), (0, 60, 100, 30)]),
    "column-reverse": ("width: 100px; height: 90px; flex-direction: column-reverse", ["height: 20px", "height: 30px"],
                       [(0, 70, 100, 20), (0, 40, 100, 30)]),
    "columns that wrap": ("width: 100px; height: 50px; flex-flow: column wrap", ["height: 30px; width: 20px"] * 2,
                          [(0, 0, 20, 30), (50, 0, 20, 30)]),
    "min-height": ("width: 100px; min-height: 80px; flex-direction: column", ["flex: 1; height: auto", "height: 30px"],
                   [(0, 0, 100, 50), (0, 50, 100, 30)]),
    "basis in percent": ("width: 200px", ["flex: 0 0 25%", "flex: 0 0 calc(50% - 10px)"], [(0, 0, 50, 10), (50, 0, 90, 10)]),
    "border-box": ("width: 200px", ["flex: 0 0 80px; padding: 0 10px; box-sizing: border-box", "flex: 0 0 80px; padding: 0 10px"],
                   [(0, 0, 80, 10), (80, 0, 100, 10)]),
    "absolute in the middle": ("width: 100px; height: 50px; justify-content: center; align-items: end; position: relative",
                               ["position: absolute; width: 20px"], [(40, 40, 20, 10)]),
    "as wide as the line is high": ("width: 900px; height: 60px",
                                    ["height: auto; aspect-ratio: 3/2", "height: auto; aspect-ratio: 2; padding: 10px",
                                     "height: auto; aspect-ratio: 2; padding: 10px; box-sizing: border-box"],
                                    [(0, 0, 90, 60), (90, 0, 100, 60), (190, 0, 120, 60)]),
}  # fmt: skip
GRID = {
    "lengths and fractions": ("width: 300px; grid-template-columns: 60px 1fr 2fr", [""] * 3,
                              [(0, 0, 60, 10), (60, 0, 80, 10), (140, 0, 160, 10)]),
    "gaps": ("width: 210px; grid-template-columns: repeat(3, 1fr); gap: 5px 15px", [""] * 4,
             [(0, 0, 60, 10), (75, 0, 60, 10), (150, 0, 60, 10), (0, 15, 60, 10)]),
    "auto-fill": ("width: 250px; grid-template-columns: repeat(auto-fill, 100px)", [""] * 3,
                  [(0, 0, 100, 10), (100, 0, 100, 10), (0, 10, 100, 10)]),
    "auto-fit": ("width: 300px; grid-template-columns: repeat(auto-fit, minmax(50px, 1fr)); gap: 20px", [""] * 2,
                 [(0, 0, 140, 10), (160, 0, 140, 10)]),
    "fewer than one fraction": ("width: 100px; grid-template-columns: 0.5fr", [""], [(0, 0, 50, 10)]),
    "content": ("width: 200px; grid-template-columns: auto auto; justify-content: start", ["width: 30px", "width: 50px"],
                [(0, 0, 30, 10), (30, 0, 50, 10)]),
    "auto stretches": ("width: 200px; grid-template-columns: auto auto", ["width: 30px", "width: 50px"],
                       [(0, 0, 30, 10), (90, 0, 50, 10)]),
    "a span over auto": ("width: 200px; grid-template-columns: auto auto; justify-content: start",
                         ["grid-column: span 2; width: 100px", "width: 20px", "width: 10px"],
                         [(0, 0, 100, 10), (0, 10, 20, 10), (55, 10, 10, 10)]),
    "a span up to the limits": ("width: 200px; grid-template-columns: minmax(auto, 30px) auto; justify-content: start",
                                ["grid-column: span 2; width: 100px", "", ""], [(0, 0, 100, 10), (0, 10, 30, 10), (30, 10, 70, 10)]),
    "minmax": ("width: 100px; grid-template-columns: minmax(20px, 60px) minmax(20px, 1fr)", ["", ""],
               [(0, 0, 60, 10), (60, 0, 40, 10)]),
    "fit-content": ("width: 300px; grid-template-columns: fit-content(40px) 10px", ["", ""],
                    [(0, 0, 0, 10), (0, 0, 10, 10)]),
    "lines": ("width: 90px; grid-template-columns: repeat(3, 30px)", ["grid-column: 2 / 4", "grid-column: -2; grid-row: 2"],
              [(30, 0, 60, 10), (60, 10, 30, 10)]),
    "names": ("width: 90px; grid-template-columns: [a] 30px [b] 30px [a] 30px", ["grid-column: b / a 2", "grid-column: a 2"],
              [(30, 0, 30, 10), (60, 0, 30, 10)]),
    "areas": ("width: 90px; grid-template: 'x x' 20px '. y' 15px / 1fr 2fr", ["grid-area: y", "grid-area: x"],
              [(30, 20, 60, 10), (0, 0, 90, 10)]),
    "rows of areas": ("width: 60px; grid-template: 'x' 'y' / 1fr; grid-auto-rows: 30px", [""] * 3,
                      [(0, 0, 60, 10), (0, 10, 60, 10), (0, 20, 60, 10)]),
    "dense": ("width: 90px; grid-template-columns: repeat(3, 30px); grid-auto-flow: dense",
              ["grid-column: span 2", "grid-column: span 2", ""], [(0, 0, 60, 10), (0, 10, 60, 10), (60, 0, 30, 10)]),
    "dense, in rows of their own": (
        "width: 90px; grid: auto-flow dense / repeat(3, 30px); grid-auto-columns: 30px",
        ["grid-area: 1 / 2", "grid-row: 1; grid-column: span 2", "grid-row: 1", "grid-row: 2"],
        [(30, 0, 30, 10), (60, 0, 60, 10), (0, 0, 30, 10), (0, 10, 30, 10)]),
    "sparse, in rows of their own": (
        "width: 90px; grid: auto-flow / repeat(3, 30px); grid-auto-columns: 30px",
        ["grid-area: 1 / 2", "grid-row: 1; grid-column: span 2", "grid-row: 1", "grid-row: 2"],
        [(30, 0, 30, 10), (60, 0, 60, 10), (120, 0, 30, 10), (0, 10, 30, 10)]),
    "a tall item in a share of rows": ("width: 60px; grid-template-rows: 2fr 1fr", ["height: 100px", ""],
                                       [(0, 0, 60, 100), (0, 100, 60, 10)]),
    "rows as high as the share of the tallest": ("width: 60px; grid-template-rows: 2fr 1fr", ["height: 100px", "height: auto"],
                                                 [(0, 0, 60, 100), (0, 100, 60, 50)]),
    "a tall item takes more than its share": ("width: 60px; height: 90px; grid-template-rows: 2fr 1fr",
                                              ["height: 80px", "height: auto"], [(0, 0, 60, 80), (0, 80, 60, 10)]),
    "sparse": ("width: 90px; grid-template-columns: repeat(3, 30px)", ["grid-column: span 2", "grid-column: span 2", ""],
               [(0, 0, 60, 10), (0, 10, 60, 10), (60, 10, 30, 10)]),
    "by column": ("width: 90px; grid-template-rows: 20px 20px; grid-auto-columns: 30px; grid-auto-flow: column", [""] * 3,
                  [(0, 0, 30, 10), (0, 20, 30, 10), (30, 0, 30, 10)]),
    "all in one": ("width: 90px; grid: 20px 20px / auto-flow 30px", [""] * 3, [(0, 0, 30, 10), (0, 20, 30, 10), (30, 0, 30, 10)]),
    "all in one, dense": ("width: 90px; grid: auto-flow dense 20px / repeat(3, 30px)",
                          ["grid-column: span 2", "grid-column: span 2", ""], [(0, 0, 60, 10), (0, 20, 60, 10), (60, 0, 30, 10)]),
    "implicit rows": ("width: 50px; grid-auto-rows: 20px 30px", [""] * 3, [(0, 0, 50, 10), (0, 20, 50, 10), (0, 50, 50, 10)]),
    "before the first line": ("width: 60px; grid-template-columns: 30px; grid-auto-columns: 15px; justify-content: start",
                              ["grid-column: -3", "grid-column: 1"], [(0, 0, 15, 10), (15, 0, 30, 10)]),
    "stretch down": ("width: 60px; height: 80px; grid-template-rows: 1fr 3fr", ["height: auto", "height: auto"],
                     [(0, 0, 60, 20), (0, 20, 60, 60)]),
    "aligned": ("width: 60px; height: 50px; align-items: center; justify-items: end", ["width: 20px"], [(40, 20, 20, 10)]),
    "auto margins": ("width: 60px; height: 50px", ["width: 20px; margin: auto"], [(20, 20, 20, 10)]),
    "tracks apart": ("width: 100px; grid-template-columns: 20px 20px 20px; justify-content: space-between", [""] * 3,
                     [(0, 0, 20, 10), (40, 0, 20, 10), (80, 0, 20, 10)]),
    "rtl": ("width: 100px; direction: rtl; grid-template-columns: 30px 50px", ["", ""], [(70, 0, 30, 10), (20, 0, 50, 10)]),
    "order": ("width: 60px; grid-template-columns: 30px 30px", ["order: 1", ""], [(30, 0, 30, 10), (0, 0, 30, 10)]),
    "absolute in an area": ("width: 90px; grid-template-columns: 30px 60px; position: relative; height: 20px",
                            ["position: absolute; grid-column: 2; right: 0; width: 10px"], [(80, 0, 10, 10)]),
    "rows that are shares": ("width: 60px; height: 50px; grid-template-rows: 40% 1fr", ["", ""], [(0, 0, 60, 10), (0, 20, 60, 10)]),
    "shares of nothing": ("width: 60px; grid-template-rows: 50% 30px", ["", ""], [(0, 0, 60, 10), (0, 20, 60, 10)]),
}  # fmt: skip


@pytest.mark.parametrize(
    ("display", "case"),
    [("flex", c) for c in FLEX] + [("grid", c) for c in GRID],
)
def test_items_stand_where_the_sums_say(page_of: PageOf, display: str, case: str) -> None:
    """Each item's border box, from the container's corner; all items are 10 px high unless they say otherwise."""
    css, items, expected = (FLEX if display == "flex" else GRID)[case]
    body = "".join(f"<p id=i{n} style='{style}'></p>" for n, style in enumerate(items))
    base = f"p {{ margin: 0; height: 10px }} #c {{ display: {display}; {css} }}"
    page = page_of(f"<div id=c>{body}</div>", base)
    assert [box(page, f"i{n}") for n in range(len(items))] == [tuple(map(float, e)) for e in expected]


@pytest.mark.parametrize(
    ("flow", "number"), [("row wrap", 0), ("row wrap-reverse", 1), ("column wrap", 0)]
)
def test_the_baseline_of_flex_lines(page_of: PageOf, flow: str, number: int) -> None:
    """CSS Flexbox 1 §8.5: a container stands in a line on the baseline of its uppermost line of a row, of its first column."""
    css = f"span {{ display: inline-flex; flex-flow: {flow}; width: 40px; height: 90px }} b {{ flex: none; width: 40px }}"
    body = "<p>a<u id=u style='display:inline-block'>c</u><span><b id=b0>a</b><b id=b1>a</b></span></p>"
    page = page_of(body, css)
    assert box(page, "u")[1] == box(page, f"b{number}")[1]


# What is in the table, and the boxes of what has an id; cells are 10 px high and have no padding.
TABLES = {
    "auto widths": ("", "<tr><td style='width:30px' id=a><td style='width:50px' id=b>",
                    {"t": (0, 0, 80, 10), "a": (0, 0, 30, 10), "b": (30, 0, 50, 10)}),
    "more than they ask": ("width:160px", "<tr><td style='width:30px' id=a><td style='width:50px' id=b>",
                           {"a": (0, 0, 60, 10), "b": (60, 0, 100, 10)}),
    "auto takes it": ("width:160px", "<tr><td style='width:30px' id=a><td id=b><i></i>", {"a": (0, 0, 30, 10), "b": (30, 0, 130, 10)}),
    "a width beside a largest share": ("width:160px", "<tr><td style='width:30px;max-width:100%' id=a><td id=b><i></i>",
                                       {"a": (0, 0, 30, 10), "b": (30, 0, 130, 10)}),
    "shares": ("width:200px", "<tr><td style='width:25%' id=a><td id=b><i></i>", {"a": (0, 0, 50, 10), "b": (50, 0, 150, 10)}),
    "shares of what it asks": ("", "<tr><td style='width:20%' id=a><td style='width:160px' id=b>",
                               {"t": (0, 0, 200, 10), "a": (0, 0, 40, 10), "b": (40, 0, 160, 10)}),
    "a thousand columns at most": ("width:1000px;table-layout:fixed", "<tr><td colspan=5000 id=a><tr><td id=b><td id=c>",
                                   {"a": (0, 0, 1000, 10), "b": (0, 10, 1, 10), "c": (1, 10, 1, 10)}),
    "fixed": ("width:200px;table-layout:fixed", "<tr><td style='width:80px' id=a><td id=b><td id=c>",
              {"a": (0, 0, 80, 10), "b": (80, 0, 60, 10), "c": (140, 0, 60, 10)}),
    "fixed, shares of more than is left": (
        "width:200px;table-layout:fixed", "<tr><td style='width:80px' id=a><td style='width:75%' id=b><td style='width:25%' id=c>",
        {"a": (0, 0, 80, 10), "b": (80, 0, 90, 10), "c": (170, 0, 30, 10)}),
    "fixed, shares of more than all": (
        "width:200px;table-layout:fixed", "<tr><td style='width:100%' id=a><td style='width:300%' id=b>",
        {"a": (0, 0, 50, 10), "b": (50, 0, 150, 10)}),
    "fixed, lengths of more than all": (
        "width:200px;table-layout:fixed", "<tr><td style='width:250px' id=a><td style='width:20%' id=b><td id=c>",
        {"a": (0, 0, 250, 10), "b": (250, 0, 0, 10), "c": (250, 0, 0, 10)}),
    "columns": ("width:200px;table-layout:fixed", "<col style='width:40px'><col span=2><tr><td id=a><td id=b><td id=c>",
                {"a": (0, 0, 40, 10), "b": (40, 0, 80, 10), "c": (120, 0, 80, 10)}),
    "spacing": ("border-spacing:4px 6px", "<tr><td style='width:30px' id=a><td style='width:30px' id=b><tr><td id=c>",
                {"t": (0, 0, 72, 38), "a": (4, 6, 30, 10), "b": (38, 6, 30, 10), "c": (4, 22, 30, 10)}),
    "colspan": ("", "<tr><td colspan=2 style='width:90px' id=a><tr><td style='width:30px' id=b><td id=c><i></i>",
                {"a": (0, 0, 90, 10), "b": (0, 10, 30, 10), "c": (30, 10, 60, 10)}),
    "rowspan": ("", "<tr><td rowspan=2 style='height:50px' id=a><i></i><td id=b><i></i><tr><td id=c><i></i>",
                {"t": (0, 0, 40, 50), "a": (0, 0, 20, 50), "b": (20, 0, 20, 25), "c": (20, 25, 20, 25)}),
    "rowspan over spacing": ("border-spacing:6px", "<tr><td rowspan=2 style='height:50px' id=a><i></i><td id=b><i></i><tr><td id=c>"
                             "<i></i>", {"t": (0, 0, 58, 62), "a": (6, 6, 20, 50), "b": (32, 6, 20, 22), "c": (32, 34, 20, 22)}),
    "row heights": ("height:90px", "<tr><td id=a style='height:auto'><i></i><tr style='height:30px'><td id=b>",
                    {"a": (0, 0, 20, 60), "b": (0, 60, 20, 30)}),
    "in the middle": ("", "<tr><td style='height:40px'><i></i><td style='vertical-align:middle'><i id=a></i><td "
                      "style='vertical-align:bottom'><i id=b></i>", {"a": (20, 15, 20, 10), "b": (40, 30, 20, 10)}),
    "head and foot": ("", "<tfoot><tr><td id=f><i></i></tfoot><tbody><tr><td id=b><i></i></tbody><thead><tr><td id=h><i></i></thead>",
                      {"h": (0, 0, 20, 10), "b": (0, 10, 20, 10), "f": (0, 20, 20, 10)}),
    "captions": ("width:60px", "<caption id=u style='height:8px'></caption><caption id=d style='caption-side:bottom;height:7px'>"
                 "</caption><tr><td id=a>", {"t": (0, 0, 60, 25), "u": (0, 0, 60, 8), "a": (0, 8, 60, 10), "d": (0, 18, 60, 7)}),
    "collapsed": ("border-collapse:collapse;border:4px solid", "<tr><td id=a style='width:20px'><td id=b style='width:20px;"
                  "border:10px solid'>", {"t": (0, 0, 64, 30), "a": (2, 5, 27, 20), "b": (29, 5, 30, 20)}),
    "round a group of columns": ("border-collapse:collapse", "<colgroup style='border:6px solid'><col><col><col></colgroup>"
                                 "<tr><td id=a style='width:20px'><td id=b style='width:20px'><td id=c style='width:20px'>",
                                 {"a": (3, 3, 23, 16), "b": (26, 3, 20, 16), "c": (46, 3, 23, 16)}),
    "hidden wins": ("border-collapse:collapse;border:8px solid", "<tr><td id=a style='width:20px;border:2px hidden'>",
                    {"t": (0, 0, 20, 10)}),
    "a row left out": ("border-spacing:2px", "<tr style='visibility:collapse'><td id=x><i></i><tr><td id=a><i></i>",
                       {"t": (0, 0, 24, 14), "a": (2, 2, 20, 10)}),
    "right to left": ("direction:rtl", "<tr><td style='width:30px' id=a><td style='width:50px' id=b>",
                      {"a": (50, 0, 30, 10), "b": (0, 0, 50, 10)}),
    "no narrower than its words": ("width:5px", "<tr><td id=a><i></i><td><i></i>", {"t": (0, 0, 40, 10)}),
}  # fmt: skip


@pytest.mark.parametrize("case", TABLES)
def test_cells_stand_where_the_sums_say(page_of: PageOf, case: str) -> None:
    """Tables, captions, cells and what is in them."""
    css, inside, expected = TABLES[case]
    base = (
        "table { border-spacing: 0 } td { padding: 0; height: 10px; vertical-align: top }"
        " i { display: block; width: 20px; height: 10px }"
    )
    page = page_of(f"<table id=t style='{css}'>{inside}</table>", base)
    assert {name: box(page, name) for name in expected} == {
        name: tuple(map(float, place)) for name, place in expected.items()
    }


@pytest.mark.parametrize(
    ("body", "tags"),
    [
        ("<b style='display:table-cell'>a</b>", ["table", "table-row"]),
        ("<div style='display:table'><b>a</b></div>", ["table-row", "table-cell"]),
        ("<div style='display:table-row'>a</div>", ["table", "table-cell"]),
        ("<div style='display:table'><div style='display:table-row'>a</div> </div>", ["table-cell"]),
        ("<p><span>x <b style='display:table-cell'>a</b> y</span></p>", ["inline-table", "table-row"]),
    ],
)
def test_what_is_missing_of_a_table_is_put_round(page_of: PageOf, body: str, tags: list[str]) -> None:
    """CSS 2.2 §17.2.1: anonymous tables, rows and cells."""
    page = page_of(body)
    made = [b.fragment.box.style.display for b in page.in_order if b.fragment.box.element is None]
    assert [d for d in made if "table" in d] == tags


def test_text_between_items_is_one(page_of: PageOf) -> None:
    """A run of text is an item; white space alone is none; what floats does not."""
    css = "#c { display: flex; gap: 10px } i { float: right; width: 20px }"
    page = page_of("<div id=c>one <b>two</b>   <i></i></div>", css)
    container = page.box_of(by_id(page, "c"))
    assert container is not None and container.box is not None
    children = container.box.fragment.children
    assert len(children) == 3 and children[0].fragment.box.element is None
    assert children[2].x - (children[1].x + children[1].fragment.width) == LayoutUnit(640)


@pytest.mark.parametrize(
    ("css", "sizes"),
    [
        ("display: inline-flex", 90), ("display: inline-flex; gap: 5px", 95), ("display: inline-flex; flex-direction: column", 60),
        ("display: inline-flex; flex-flow: column wrap; height: 10px; gap: 5px", 95),
        ("display: inline-flex; flex-wrap: wrap; gap: 5px", 95),
        ("display: inline-grid; grid-template-columns: auto auto", 90), ("display: inline-grid", 60),
        ("display: inline-grid; grid-template-columns: 1fr 1fr", 120), ("display: inline-table", 60),
        ("display: inline-grid; grid-template-columns: repeat(2, minmax(0, 20px))", 40),
    ],
)  # fmt: skip
def test_a_container_is_as_wide_as_its_items_ask(page_of: PageOf, css: str, sizes: float) -> None:
    """Content sizes of containers (Flexbox 1 §9.9, Grid 1 §5.2)."""
    page = page_of(
        "<div id=c><p></p><p class=w></p></div>",
        f"p {{ margin: 0; width: 30px; height: 9px }} .w {{ width: 60px }} #c {{ {css} }}",
    )
    assert box(page, "c")[2] == sizes


@pytest.mark.parametrize(
    ("css", "margins"),
    [
        ("margin: auto", (1312, 2656, 1312, 2656)),
        ("margin: auto 0 0 auto", (2624, 0, 0, 5312)),
        ("margin: 0 auto auto 0", (0, 5312, 2624, 0)),
        ("margin: auto 0; height: 61px", (0, 0, -640, 0)),
    ],
)
def test_auto_margins_of_an_item(page_of: PageOf, css: str, margins: tuple[int, ...]) -> None:
    """CSS Flexbox 1 §8.1: each side's share of what is left, 1/64 px; where nothing is, the one behind takes the lack."""
    page = page_of(
        f"<div><p id=p style='{css}'></p></div>",
        "div { display: flex; width: 103px; height: 51px } p { width: 20px; height: 10px }",
    )
    found = page.box_of(by_id(page, "p"))
    assert found is not None
    margin = found.margin
    assert (margin.top, margin.right, margin.bottom, margin.left) == margins


def test_who_owns_collapsed_borders(page_of: PageOf) -> None:
    """CSS 2.2 §17.6.2.1: the wider one; of equal ones that of the cell further left or up, of a cell before its row's."""
    page = page_of(
        "<table id=t><tr id=r><td id=a><td id=b><tr><td id=c><td id=d style='border: 3px solid'></table>",
        "table { border-collapse: collapse } tr, td { border: 2px solid }",
    )
    found = page.box_of(by_id(page, "t"))
    assert found is not None and found.box is not None
    facts = found.box.fragment.facts
    assert isinstance(facts, TableFacts) and facts.collapsed is not None
    edges = [*facts.collapsed.beside.items(), *facts.collapsed.above.items()]
    own = [(place, e.owner.element.id, e.side) for place, e in edges if e.owner and e.owner.element]
    assert own == [
        ((0, 0), "a", "left"), ((0, 1), "a", "right"), ((0, 2), "b", "right"),
        ((1, 0), "c", "left"), ((1, 1), "d", "left"), ((1, 2), "d", "right"),
        ((0, 0), "a", "top"), ((0, 1), "b", "top"), ((1, 0), "a", "bottom"), ((1, 1), "d", "top"),
        ((2, 0), "c", "bottom"), ((2, 1), "d", "bottom"),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("control", "fills"),
    [
        ("<input id=a>", True), ("<input id=a type=range>", True), ("<input id=a type=checkbox>", True), ("<input id=a type=file>", True),
        ("<select id=a><option>b</select>", True), ("<textarea id=a></textarea>", True), ("<button id=a>b</button>", True),
        ("<canvas id=a width=20></canvas>", False), ("<input id=a size=4 style='width: 90px'>", False),
    ],
)  # fmt: skip
def test_controls_fill_their_areas(page_of: PageOf, control: str, fills: bool) -> None:
    """CSS Grid 1 §6.2: what a program draws has no size that holds it back, but one that is given."""
    css = (
        "#g { display: grid; grid-template: 70px / 300px } #g > * { margin: 0; box-sizing: border-box }"
    )
    wide, high = box(page_of(f"<div id=g>{control}</div>", css), "a")[2:]
    assert (wide == 300) == fills and (high == 70) == (fills or "style" in control)


def test_a_wide_item_asks_tracks_without_a_least_size_too(page_of: PageOf) -> None:
    """CSS Grid 1 §12.5: as wide as its content would like, a grid counts what its tracks have already."""
    css = "#g { display: inline-grid; grid-template-columns: auto minmax(0, auto); font-size: 0 }"
    word = "<u style='display: inline-block; width: 60px'></u>"
    items = f"<i style='width: 20px'></i><i style='width: 80px'></i><i style='grid-column: 1 / 3'>{word} {word}</i>"
    assert box(page_of(f"<div id=g>{items}</div>", css), "g")[2] == 140
