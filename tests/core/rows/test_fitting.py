"""Fitting rows, centring, and neighbours that give: the values, and what they come to when laid out."""

# mypy: disable-error-code="arg-type"
# Plain numbers stand for layout units.

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.edit.centring import centring
from redcrate.core.edit.row_edits import fit_row, neighbours_give
from redcrate.core.errors import EditRefused
from redcrate.core.rows import rows_of
from redcrate.core.rows.fitting import FitUnit, FitWay, RowWish, fit, how_many
from redcrate.core.session import Session
from tests.conftest import box, by_id

FRAME = "<!doctype html><style>body{margin:0}#r{width:961px;overflow:hidden}</style><div id=r>"


def opened(folder: Path, body: str) -> Session:
    """A session of a page with a container #r of 961 px."""
    (folder / "p.html").write_text(f"{FRAME}{body}</div>")
    return Session(folder / "p.html", 1100)


@given(
    st.integers(1, 20), st.floats(0, 12), st.floats(0, 9), st.floats(0, 4), st.booleans(), st.sampled_from(FitUnit),
    st.floats(300, 2000),
)  # fmt: skip
def test_a_fit_never_exceeds_its_room(
    count: int, gap: float, padding: float, border: float, border_box: bool, unit: FitUnit, room: float
) -> None:
    """Widths and gaps are at most the room, and less than 1 px a block is left."""
    wish = RowWish(count, round(gap), round(padding), round(border), border_box, unit)
    units = round(room * 64)
    try:
        found = fit(units, wish)
    except EditRefused:
        return
    assert sum(found.outer) + round(gap) * 64 * (count - 1) + found.left == units
    assert 0 <= found.left <= 64 * count


@pytest.mark.parametrize("unit", FitUnit)
@pytest.mark.parametrize("border_box", [True, False])
@pytest.mark.parametrize(
    ("count", "way"),
    [(3, FitWay.FLOATS), (7, FitWay.FLOATS), (4, FitWay.INLINE), (5, FitWay.FLEX), (3, FitWay.GRID)],
)
def test_a_fitted_row_stands_in_one_line(
    tmp_path: Path, unit: FitUnit, border_box: bool, count: int, way: FitWay
) -> None:
    """The children of a container, laid out, as the fit said; rows of the same many; undo gives every byte."""
    blocks = "".join(f"<p class=b>{n}</p>" for n in range(2 * count))
    session = opened(tmp_path, blocks)
    before = session.document.texts()
    wish = RowWish(count, 14, 6, 1, border_box, unit)
    patch, found = fit_row(
        session.views.page, session.document.texts(), by_id(session.views.page, "r"), wish, way=way
    )
    session.editor.apply(patch)
    rows = rows_of(session.views.page, by_id(session.views.page, "r"))
    assert [len(r.items) for r in rows] == [count, count]
    boxes = [session.views.page.box_of(i.element) for i in rows[0].items]
    widths = [b.border_box.width for b in boxes if b is not None]
    if way is FitWay.GRID:  # its tracks share the last steps of 1/64 px too
        assert all(0 <= w - o <= 64 for w, o in zip(widths, found.outer, strict=True))
    else:
        assert widths == list(found.outer)
    assert rows[0].sum + rows[0].left == rows[0].room
    assert session.views.page.notices == ()
    session.editor.undo()
    assert session.document.texts() == before


def test_unequal_shares_and_a_sidebar(tmp_path: Path) -> None:
    """35 and 65, and a fixed one with the rest; new blocks where there are none."""
    session = opened(tmp_path, "<p>a</p><p>b</p>")
    container = by_id(session.views.page, "r")
    for wish, first in ((RowWish(2, 20, first_share=35), 336.34), (RowWish(2, 20, first_px=200), 200)):
        patch, found = fit_row(session.views.page, session.document.texts(), container, wish)
        session.editor.apply(patch)
        (row,) = rows_of(session.views.page, by_id(session.views.page, "r"))
        assert abs(found.outer[0] / 64 - first) < 0.02 and found.left < 64 and len(row.items) == 2
        session.editor.undo()
    empty = opened(tmp_path, "")
    patch, _ = fit_row(
        empty.views.page, empty.document.texts(), by_id(empty.views.page, "r"), RowWish(3)
    )
    empty.editor.apply(patch)
    assert [e.tag for e in by_id(empty.views.page, "r").child_elements] == ["div"] * 3
    with pytest.raises(EditRefused, match="short by"):
        fit(100 * 64, RowWish(9, 10, 5))


def test_how_many_fit() -> None:
    """Both ways: how many of a width, with which gap."""
    assert how_many(1000 * 64, 220, 20) == (4, 40.0)
    assert how_many(1000 * 64, 250, 0) == (4, 0.0)
    assert how_many(100 * 64, 220, 20) == (0, 0.0)
    with pytest.raises(EditRefused):
        how_many(64, 0, 0)


CENTRED = [
    ("<p id=x style='width:300px'>a</p>", "Not centred: 661 px more on the right", 1),
    ("<p id=x style='width:300px;margin:0 auto'>a</p>", "Centred", 0),
    ("<p id=x>a</p>", "Centred: 0 px on each side. Its width is auto", 2),
    ("<p id=x style='float:left'>a</p>", "A float moves to one side", 1),
    ("<p><b id=x>b</b></p>", "text-align", 1),
    ("<p><svg id=x width=50 height=20></svg></p>", "text-align", 2),
    (
        "<p style='position:relative'><i id=x style='position:absolute;width:90px'>a</i></p>",
        "left: 0 and right: 0",
        1,
    ),
]


@pytest.mark.parametrize(("body", "sentence", "ways"), CENTRED)
def test_centring_by_what_works_for_its_kind(
    tmp_path: Path, body: str, sentence: str, ways: int
) -> None:
    """How far off, why, and ways each of which does centre it."""
    session = opened(tmp_path, body)
    found = centring(session.views.page, session.document.texts(), by_id(session.views.page, "x"))
    assert found is not None and sentence in found.sentence and len(found.ways) == ways, found
    for way in found.ways:
        session.editor.apply(way.patch)
        after = centring(session.views.page, session.document.texts(), by_id(session.views.page, "x"))
        assert after is not None and after.is_centred, (way.sentence, after.sentence)
        session.editor.undo()


@pytest.mark.parametrize(
    ("body", "writes_a_width"),
    [("<p id=x style='float:left'>a</p>", True), ("<p id=x style='float:left;width:90px'>a</p>", False),
     ("<div><svg id=x style='float:left;display:block' width=50 height=20></svg></div>", False)],
)  # fmt: skip
def test_a_float_that_is_centred_keeps_its_width(
    tmp_path: Path, body: str, writes_a_width: bool
) -> None:
    """The one it shrank to is written; a written one and a picture's own stay as they are."""
    session = opened(tmp_path, body)
    before, words = box(session.views.page, "x")[2], session.document.text("p.html").text.count("width")
    (way,) = centring(session.views.page, session.document.texts(), by_id(session.views.page, "x")).ways
    session.editor.apply(way.patch)
    assert session.document.text("p.html").text.count("width") - words == writes_a_width
    assert 0 <= box(session.views.page, "x")[2] - before < 1


def test_neighbours_give(tmp_path: Path) -> None:
    """In equal parts or in proportion; together exactly as much; what cannot give is refused."""
    style = "<style>p{float:left;margin:0}#a{width:400px}#b{width:300px}#c{width:100px}</style>"
    session = opened(tmp_path, style + "<p id=a>a<p id=b>b<p id=c>c")
    others = [by_id(session.views.page, "b"), by_id(session.views.page, "c")]
    for in_proportion, widths in ((False, (280, 80)), (True, (270, 90))):
        session.editor.apply(
            neighbours_give(
                session.views.page,
                session.document.texts(),
                others,
                40 * 64,
                in_proportion=in_proportion,
            )
        )
        boxes = [session.views.page.box_of(by_id(session.views.page, i)) for i in "bc"]
        assert tuple(b.border_box.width / 64 for b in boxes if b is not None) == widths
        session.editor.undo()
    with pytest.raises(EditRefused, match="short by"):
        neighbours_give(session.views.page, session.document.texts(), others[1:], 400 * 64)
    with pytest.raises(EditRefused):
        neighbours_give(session.views.page, session.document.texts(), [], 64)
