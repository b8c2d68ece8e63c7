"""List boxes and the boxes of their options: HTML Standard §15.5.16, with the sizes that engines give them."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.session import Session
from tests.conftest import PageOf, box, by_id

CSS = (
    "select { font: 16px 'Liberation Mono'; border: 1px solid }"  # 9.6 px a letter; a row 19.1875 + 1 px
)

SIZES = [
    # attributes and style, options, width and height of the list
    ("multiple", "<option>abc<option>a", 3 * 9.6 + 6, 4 * 20.1875 + 2), ("size=3", "<option>a", 9.6 + 6, 3 * 20.1875 + 2),
    ("size=2 style='height: 50px; width: 90px'", "<option>a", 92, 52), ("size=3 style='line-height: 3'", "<option>a", 9.6 + 6, 3 * 20.1875 + 2),
    ("size=2", "<option style='padding: 10px'>a<option>b", 9.6 + 22, 2 * 39.1875 + 2),
    ("size=2", "<optgroup label='abcdef'><option>a</optgroup>", 6 * 9.6 + 6, 2 * 20.1875 + 2),
    ("size=2", "<optgroup label='a'><option>abc</optgroup>", 3 * 9.6 + 24, 2 * 20.1875 + 2), ("size=2", "", 2, 2 * 19 + 2),
    ("size=2", "<option style='box-sizing: border-box'>a", 9.6 + 6, 2 * 19.1875 + 2),
    ("size=2 style='display: block'", "<option>a", 9.6 + 6, 2 * 20.1875 + 2),
    ("size=2", "<option>a<option style='display: none'>abcdef", 9.6 + 6, 2 * 20.1875 + 2),
    ("size=2 style='box-sizing: border-box; padding: 4px'", "<option>a", 9.6 + 14, 2 * 20.1875 + 10),
]  # fmt: skip


@pytest.mark.parametrize(("start", "options", "width", "height"), SIZES)
def test_sizes(page_of: PageOf, start: str, options: str, width: float, height: float) -> None:
    """As wide as the widest option, as high as so many of the highest rows; line-height has no say."""
    page = page_of(
        f"<select id='d' {start}>{options}</select>", f"{CSS} select {{ box-sizing: content-box }}"
    )
    assert box(page, "d")[2:] == (pytest.approx(width, abs=0.1), pytest.approx(height, abs=0.02))


def test_options_have_boxes_one_under_another(page_of: PageOf) -> None:
    """Those in a group stand below its label; those of a menu that is closed have none."""
    inside = "<option id='a'>a</option><optgroup id='g' label='x'><option id='b'>b</option></optgroup>"
    page = page_of(
        f"<select id='d' multiple style='width: 100px'>{inside}</select><select>{inside.replace('id=', 'name=')}</select>",
        CSS,
    )
    assert [box(page, i)[:2] for i in "agb"] == [(1, 1), (1, 21.1875), (1, 41.375)]
    assert {box(page, i)[2] for i in "agb"} == {98}
    assert box(page, "g")[3] == 2 * 20.1875
    assert sum(e.tag == "option" and page.box_of(e) is not None for e in page.elements) == 2


def test_an_option_that_changes_makes_its_list_another_one(tmp_path: Path) -> None:
    """After an edit the list is as wide and as high as on a fresh page."""
    path = tmp_path / "page.html"
    text = f"<!doctype html><style>{CSS} .x {{ }}</style><select multiple id='d'><option class='x'>a</select>"
    path.write_text(text, encoding="utf-8")
    session = Session(path, 400)
    before = box(session.views.page, "d")
    at = text.index(".x {") + 4
    session.editor.apply(Patch((TextEdit("page.html", at, at, "padding: 10px"),), "values"))
    after = box(session.views.page, "d")
    assert (after[2] - before[2], after[3] - before[3]) == (16, 4 * 19)
    assert by_id(session.views.page, "d").tag == "select"
