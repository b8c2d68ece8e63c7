"""Typed sizes and paddings of items: the property that works is written, and nothing else changes."""

from math import ceil
from pathlib import Path

import pytest

from redcrate.core.edit.gives import Gives, plan_term
from redcrate.core.session import Session
from tests.conftest import by_id

PAGE = "<!doctype html>\n<style>\nbody {{ margin: 0 }}\n#r {{ {container} }}\n#a {{ {item} }}\n#b {{ width: 50px; height: 20px }}\n</style>\n<div id=r><p id=a>{words}</p><p id=b>b</p></div>\n"


def opened(folder: Path, container: str, item: str, words: str = "a") -> Session:
    """A page with two items, #a and #b, in #r."""
    path = folder / "p.html"
    path.write_text(PAGE.format(container=container, item=item, words=words), encoding="utf-8")
    return Session(path, 600)


def item_rule(session: Session) -> str:
    """What the rule of #a says now."""
    text = next(iter(session.document.texts().values()))
    return text.split("#a {", 1)[1].split("}", 1)[0].strip()


FLEX = "display: flex; width: 600px"


@pytest.mark.parametrize(
    ("container", "item", "part", "typed", "written", "size"),
    [
        (FLEX, "width: 200px", "width", "240px", "width: 240px", 240),
        (FLEX, "flex: 0 0 200px; width: 90px", "width", "240px", "flex: 0 0 200px; flex-basis: 240px; width: 90px", 240),
        (FLEX, "flex-basis: 30%", "width", "240px", "flex-basis: 240px", 240),
        (FLEX, "flex: 1", "width", "240px", "flex: 1; flex-basis: 240px; flex-grow: 0", 240),
        (FLEX, "flex: 0 1 700px; min-width: 0", "width", "400px", "flex: 0 1 700px; flex-basis: 400px; flex-shrink: 0; min-width: 0", 400),
        ("display: flex; flex-direction: column; height: 300px", "flex: 1", "height", "80px",
         "flex: 1; flex-basis: 80px; flex-grow: 0", 80),
        (FLEX, "flex: 1; height: 10px", "height", "80px", "flex: 1; height: 80px", 80),
        ("display: grid; width: 600px; grid-template-columns: 1fr 1fr", "margin: 0", "width", "80px", "margin: 0; width: 80px", 80),
    ],
)  # fmt: skip
def test_a_typed_size_is_written_where_it_works(
    tmp_path: Path, container: str, item: str, part: str, typed: str, written: str, size: float
) -> None:
    """The item is then as large as was typed; undo gives every byte back."""
    session = opened(tmp_path, container, item)
    before = session.document.texts()
    page = session.views.page
    plan = plan_term(page, before, by_id(page, "a"), part, ("",), typed, Gives.BOX)
    session.editor.apply(plan.patch)
    assert item_rule(session) == written
    box = session.views.page.box_of(by_id(session.views.page, "a"))
    assert box is not None
    assert (box.content_box.width if part == "width" else box.content_box.height) == size * 64
    assert bool(plan.note) == ("flex-basis" in written)
    session.editor.undo()
    assert session.document.texts() == before


@pytest.mark.parametrize(
    ("container", "item", "written", "note"),
    [
        (FLEX, "flex: 1", "flex: 1; padding-left: 30px", "Its line sets the width"),
        (FLEX, "flex: 0 0 200px", "flex: 0 0 200px; flex-basis: 170px; padding-left: 30px", ""),
        (FLEX, "width: 200px", "width: 170px; padding-left: 30px", ""),
        (FLEX, "width: 200px; box-sizing: border-box", "width: 200px; box-sizing: border-box; padding-left: 30px", "includes padding"),
        (FLEX, "margin: 0", "margin: 0; padding-left: 30px", "comes from the content"),
        ("display: grid; width: 600px", "margin: 0", "margin: 0; padding-left: 30px", "Its container sets the width"),
    ],
)  # fmt: skip
def test_content_gives_on_items(
    tmp_path: Path, container: str, item: str, written: str, note: str
) -> None:
    """Padding grows: the base size gives, or the container sees to it by itself."""
    session = opened(tmp_path, container, item)
    page = session.views.page
    box = page.box_of(by_id(page, "a"))
    assert box is not None
    plan = plan_term(
        page, session.document.texts(), by_id(page, "a"), "padding", ("left",), "30px", Gives.CONTENT
    )
    session.editor.apply(plan.patch)
    assert sorted(item_rule(session).split("; ")) == sorted(written.split("; "))
    assert note in plan.note
    after = session.views.page.box_of(by_id(session.views.page, "a"))
    assert after is not None
    grows = "from the content" in note
    assert (after.border_box.width == box.border_box.width) != grows


@pytest.mark.parametrize(
    ("columns", "kept"),
    [
        ("auto 1fr", "{a} 1fr"),
        ("[one] min-content [two] 1fr 90px", "[one] {a} [two] 1fr 90px"),
        ("repeat(2, 1fr); width: 50px", "minmax({a}, 1fr) 1fr; width: 50px"),
        ("repeat(2, 1fr)", None),
        ("fit-content(300px) 1fr", "{a} 1fr"),
        ("minmax(40px, max-content) repeat(2, [x] 60px)", "{a} [x] 60px [x] 60px"),
        ("auto auto", "{a} auto"),
        ("repeat(auto-fill, minmax(30px, 1fr))", None),
        ("200px 1fr", None),
        ("1fr 1fr; grid-template: none / auto 1fr", None),
    ],
)  # fmt: skip
def test_a_column_that_grows_with_its_content_keeps_its_size_where_the_content_gives(
    tmp_path: Path, columns: str, kept: str | None
) -> None:
    """CSS Grid 1 §12.5: in px, or as a fraction with that as its least; else nothing but the padding is written."""
    container = f"display: grid; width: 300px; grid-template-columns: {columns}"
    session = opened(tmp_path, container, "margin: 0", words="A word")
    page = session.views.page
    box = page.box_of(by_id(page, "a"))
    assert box is not None
    texts = session.document.texts()
    plan = plan_term(page, texts, by_id(page, "a"), "padding", ("left",), "30px", Gives.CONTENT)
    session.editor.apply(plan.patch)
    text = next(iter(session.document.texts().values()))
    size = f"{ceil(box.border_box.width / 0.64) / 100:g}"
    written = columns if kept is None else kept.format(a=f"{size}px")
    assert f"grid-template-columns: {written} }}" in text
    assert "padding-left: 30px" in item_rule(session)
    assert ("so the column gets" in plan.note) == (kept is not None)
    after = session.views.page.box_of(by_id(session.views.page, "a"))
    assert after is not None and (kept is None or after.border_box.width == box.border_box.width)


def test_a_gap_is_a_term_that_can_be_typed(tmp_path: Path) -> None:
    """Of the container, between its columns; what was there is told."""
    session = opened(tmp_path, FLEX + "; gap: 12px", "flex: 1")
    page = session.views.page
    plan = session.editor.plan(by_id(page, "r"), "column-gap", ("",), "20")
    session.editor.apply(plan.patch)
    assert plan.lines == ("column gap 12px → 20px",)
    box = session.views.page.box_of(by_id(session.views.page, "b"))
    one = session.views.page.box_of(by_id(session.views.page, "a"))
    assert box is not None and one is not None
    assert box.border_box.x - one.border_box.right == 20 * 64
