"""A line that turns out taller than the room beside floats allows is tried again, without a trace."""

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.layout.fragments import InlinePiece
from redcrate.core.session import Session
from tests.conftest import PageOf, box, by_id
from tests.laws import check_laws
from tests.snapshot import page_snapshot
from tests.trying import full

FLOATS = "<i style='float: left; width: 100px; height: 30px'></i>"
LOWER = "<i style='float: left; clear: left; width: 300px; height: 60px'></i>"
TALL = "<u id='tall' style='display: inline-block; width: 20px; height: 50px'></u>"


def test_spans_on_the_line_stand_on_it_once(page_of: PageOf) -> None:
    """The tall box reaches down to the wide float, so its whole line begins beside that one."""
    page = page_of(
        f"{FLOATS}{LOWER}<p><b id='b'>bold <em id='e'>and {TALL}</em></b> after</p>", "p { margin: 0 }"
    )
    check_laws(page)
    assert box(page, "b")[0] == 300
    assert box(page, "tall")[0] > 300
    paragraph = next(p for p in page.in_order if p.fragment.box.label == "p")
    pieces = [p for p in paragraph.fragment.lines[0].content if isinstance(p, InlinePiece)]
    assert [p.box.label for p in pieces] == ["b#b", "em#e"]
    assert box(page, "e")[2] < box(page, "b")[2]


def test_a_float_met_on_the_line_is_met_again(page_of: PageOf) -> None:
    """The first try puts the right float beside the tall box; the final line has room for it no more."""
    right = "<s id='f' style='float: right; width: 680px; height: 10px'></s>"
    page = page_of(f"{FLOATS}{LOWER}<p>a {TALL} {right} z</p>", "p { margin: 0 }", 1000)
    check_laws(page)
    assert sum(p.fragment.box.label == "s#f" for p in page.in_order) == 1
    assert box(page, "tall")[:2] == (pytest.approx(300 + 13, abs=3), 0)
    assert box(page, "f")[:2] == (320, 54)


def test_a_kept_block_pulled_up_to_a_float_is_laid_out_anew(page_of: PageOf, tmp_path: object) -> None:
    """Its content meets the float although the block begins below it: edit by edit as in full."""
    page_of(
        "<div id='f'></div><div id='gap'></div><div id='w'><p id='p'>some words that flow beside it</p></div>",
        "#f { float: left; width: 60px; height: 10px } #gap { height: 50px } p { margin: -30px 0 0 }"
        " #w { padding-top: 1px }",
        300,
    )
    session = Session(tmp_path / "page.html", 300)  # type: ignore[operator]
    text = session.document.text("page.html").text
    at = text.index("height: 10px") + len("height: ")
    for height, start in (("40", 60), ("15", 0), ("44", 60)):
        session.editor.apply(Patch((TextEdit("page.html", at, at + 2, height),), "another height"))
        assert page_snapshot(session.views.page) == page_snapshot(full(session))
        line = session.views.page.by_element[by_id(session.views.page, "p")].box
        assert line is not None
        assert line.fragment.lines[0].x == start * 64
