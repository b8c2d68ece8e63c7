"""How far fragments reach: found anew only for what an edit made, whatever is shifted, nested or overflows."""

from pathlib import Path

import pytest

from redcrate.core.geometry import Rect
from redcrate.core.layout import extents
from redcrate.core.session import Session
from redcrate.core.units import LayoutUnit
from tests.conftest import PageOf, by_id

PAGES = [
    ("<div id=a style='position: relative; top: 900px; left: 50px; height: 10px'></div>", 910),
    ("<div style='height: 20px'><p id=a style='margin: 0; position: relative; top: 900px'>x</p></div>", None),
    ("<div style='float: left; height: 950px'></div>", 950),
    ("<div style='position: absolute; top: 990px; height: 7px'></div>", 997),
    ("<p style='margin: 0; line-height: 10px'>a<b style='display: inline-block; height: 970px'></b></p>", None),
    ("<div style='height: 5px'><div style='height: 960px'></div></div>", 960),
]  # fmt: skip


@pytest.mark.parametrize(("body", "height"), PAGES)
def test_the_lowest_box_makes_the_page(page_of: PageOf, body: str, height: float | None) -> None:
    """The laws compare with a walk over all boxes; where nothing hangs on a font, the number itself."""
    page = page_of(body)
    assert page.height > 900 * 64
    assert height is None or page.height == height * 64


def test_what_overflows_reaches_where_it_is_painted(page_of: PageOf) -> None:
    """A long word out of its box is asked for beside it; what is transformed is told."""
    page = page_of(
        "<p id=a style='width: 10px; margin: 0'>Ploverfieldallotments</p><i style='rotate: 3deg'>x</i>"
    )
    beside = Rect(*(LayoutUnit(n * 64) for n in (60, 2, 5, 5)))
    found = [b.fragment.box.element for b in page.reaching(beside)]
    assert by_id(page, "a") in found
    assert not page.is_transformed, "an inline box is not transformed"
    assert page_of("<p style='rotate: 3deg'>x</p>").is_transformed


@pytest.mark.parametrize(
    ("style", "extent"),
    [
        ("position: relative; left: 70px; top: 5px", (0, 0, 120, 35)),
        ("position: relative; left: -70px; top: -15px", (-60, -5, 100, 30)),
        ("margin-left: -30px; width: 310px", (-20, 0, 290, 30)),
    ],
)
def test_an_extent_holds_what_is_shifted(page_of: PageOf, style: str, extent: tuple[float, ...]) -> None:
    """A block of 100 by 30 px with one in it, 10 px further in and down, 40 wide: what both cover."""
    inner = f"<div style='height: 20px; width: 40px; {style}'></div>"
    page = page_of(f"<div id=a style='width: 80px; height: 20px; padding: 10px 10px 0'>{inner}</div>")
    box = page.box_of(by_id(page, "a"))
    assert box is not None and box.box is not None
    found = page.layouts.extents.of(box.box.fragment)
    assert (found.left / 64, found.top / 64, found.right / 64, found.bottom / 64) == extent
    assert found.reach == found.right


def test_an_edit_asks_for_what_it_made(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Of three hundred boxes those around the one that changed."""
    path = tmp_path / "p.html"
    path.write_text(
        "<!doctype html>" + "<div><p>a</p><p>b</p></div>" * 100 + "<p id=z style='height: 9px'>c"
    )
    session = Session(path)
    assert session.views.page.height > 0
    asked: list[object] = []
    own = extents._around
    monkeypatch.setattr(extents, "_around", lambda f, *rest: asked.append(f) or own(f, *rest))
    last = by_id(session.views.page, "z")
    session.editor.apply(session.editor.plan(last, "height", ("",), "19").patch)
    assert session.views.page.height > 0
    assert 0 < len(asked) <= 4
