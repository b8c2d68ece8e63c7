"""Conditions on boxes: when each holds, and what is said of what was measured."""

from typing import Any

import pytest

from redcrate.core.errors import EditRefused
from redcrate.core.exercises.conditions import judge
from redcrate.core.exercises.exercise import condition
from tests.conftest import PageOf

BODY = "<div id=a><p id=b>x</p><p id=c>y</p></div><div id=d><i class=k></i><i class=k></i><i class=k></i></div><p id=gone>z</p>"
CSS = """#a { width: 400px; padding: 5px } p { margin: 0; height: 30px } #b { width: 300px; margin: 0 50px 24px; border: 2px solid; padding: 6px }
#c { width: 450px } #gone { display: none } #d { width: 310px } .k { float: left; width: 100px; height: 9px; margin-right: 5px }"""

CASES = [
    ({"is": "size", "of": "#b", "box": "content", "axis": "width", "px": 300}, True, "The content of p#b is 300 px wide."),
    ({"is": "size", "of": "#b", "box": "padding", "axis": "width", "px": 312}, True, "The padding box of p#b is 312 px wide."),
    ({"is": "size", "of": "#b", "box": "border", "axis": "width", "px": 300}, False, "The border box of p#b is 316 px wide: 16 px too much."),
    ({"is": "size", "of": "#b", "box": "margin", "axis": "height", "px": 80}, False, "The margin box of p#b is 70 px high: short by 10 px."),
    ({"is": "size", "of": "p", "box": "content", "axis": "height", "px": 30}, True, "The content of p#b is 30 px high."),
    ({"is": "size", "of": "p", "box": "content", "axis": "width", "px": 300}, False, "The content of p#c is 450 px wide: 150 px too much."),
    ({"is": "size", "of": "#c", "box": "border", "axis": "width", "px": 452, "tolerance": 2}, True, "The border box of p#c is 450 px wide."),
    ({"is": "edge", "of": "#b", "part": "margin", "side": "bottom", "px": 24}, True, "The bottom margin of p#b is 24 px."),
    ({"is": "edge", "of": "#b", "part": "padding", "side": "left", "px": 5}, False, "The left padding of p#b is 6 px, not 5."),
    ({"is": "edge", "of": "#b", "part": "border", "side": "top", "px": 2}, True, "The top border of p#b is 2 px."),
    ({"is": "centred", "of": "#b"}, False, "p#b has 50 px on its left and 34 px on its right."),
    ({"is": "centred", "of": "#b", "tolerance": 16}, True, "p#b has 50 px on its left and 34 px on its right."),
    ({"is": "inside", "of": "#b"}, True, "p#b fits into div#a."),
    ({"is": "inside", "of": "#c"}, False, "p#c overflows div#a by 50 px."),
    ({"is": "apart", "of": "#b", "to": "#c", "px": 24}, True, "From p#b down to p#c there are 24 px."),
    ({"is": "apart", "of": "#b", "to": "#d", "px": 24}, False, "From p#b down to div#d there are 59 px, not 24."),
    ({"is": "apart", "of": "#b", "to": "#gone", "px": 24}, False, "The page shows no #gone."),
    ({"is": "share-line", "of": ".k", "count": 3}, False, "2 of 3 are in one row; the task asks for 3."),
    ({"is": "share-line", "of": ".k:not(:last-child)", "count": 2}, True, "All 2 are in one row."),
    ({"is": "share-line", "of": ".k:not(:last-child)", "count": 3}, False, "2 of 2 are in one row; the task asks for 3."),
    ({"is": "share-line", "of": ".k:not(:last-child)", "count": 1}, False, "2 of 2 are in one row; the task asks for 1."),
    ({"is": "share-line", "of": "#a, #d", "count": 2}, False, "1 of 2 are in one row; the task asks for 2."),
    ({"is": "inside", "of": "#gone"}, False, "The page shows no #gone."),
]  # fmt: skip


@pytest.mark.parametrize(("data", "holds", "said"), CASES)
def test_a_condition(page_of: PageOf, data: dict[str, Any], holds: bool, said: str) -> None:
    """Of all elements that are meant; the first for which it does not hold is told."""
    verdict = judge(condition(data), page_of(BODY, CSS))
    assert (verdict.holds, verdict.said) == (holds, said)


def test_a_selector_that_is_none_is_said_to_be_so(page_of: PageOf) -> None:
    """A trainer hears of it."""
    with pytest.raises(EditRefused, match="is not a selector"):
        judge(condition({"is": "inside", "of": "##"}), page_of(BODY))
