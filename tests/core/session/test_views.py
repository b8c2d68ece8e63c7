"""How a document is seen: pages by width, one preview with an owner, what listeners are told."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.files.loading import assemble
from redcrate.core.files.resources import Resources
from redcrate.core.page import compute_page
from redcrate.core.session import Change, Session
from redcrate.core.style.media import Viewport
from tests.snapshot import page_snapshot


def padded(session: Session) -> Patch:
    """A wider padding of the notice."""
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    return session.editor.plan(notice, "padding", ("left",), "44").patch


@pytest.fixture
def session(demo_copy: Path) -> Session:
    """The demo page, open."""
    return Session(demo_copy)


def test_a_preview_is_taken_down_by_its_owner_alone(session: Session) -> None:
    """Somebody else's None says nothing; a newer preview takes over; an edit drops it."""
    views, told = session.views, list[Change]()
    session.listen(told.append)
    page, other = session.editor.page_after(padded(session)), session.editor.page_as_saved()
    views.preview("findings", page)
    views.preview("a scan", None)
    assert views.shown_page is page and views.page is not page
    views.preview("steps", other)
    views.preview("findings", None)
    assert views.shown_page is other
    views.preview("steps", None)
    assert views.shown_page is views.page and told == [Change.PREVIEW] * 3
    views.preview("steps", other)
    session.editor.apply(padded(session))
    assert views.shown_page is views.page
    views.preview("steps", other)
    views.set_width(700)
    assert views.shown_page is views.page and views.viewport.width == 700


def test_pages_at_other_widths_follow_the_document(session: Session) -> None:
    """They are kept, brought up to date when they are asked for, and equal pages computed anew."""
    widths = (390, 820, 1280)
    before = {w: session.views.page_at(w) for w in widths}
    assert all(session.views.page_at(w) is before[w] for w in widths)
    assert session.views.page_at(session.views.viewport.width) is session.views.page
    session.editor.apply(padded(session))
    document = session.document
    for width in widths:
        page = session.views.page_at(width)
        assert page is not before[width] and page is session.views.page_at(width)
        source = assemble(
            document.text(document.html_name), Resources(document.path), document.text
        ).page
        assert page_snapshot(page) == page_snapshot(compute_page(source, Viewport(width, 800)))
    session.views.set_width(820)
    assert session.views.page.viewport.width == 820


def test_the_selection_is_told_and_frees_the_write_target(session: Session) -> None:
    """Whoever listens finds the target of the next edit free already."""
    first, second = session.views.page.elements[2:4]
    session.views.select(first)
    session.editor.set_writes_to("style attribute")
    seen: list[tuple[Change, str]] = []
    session.listen(lambda change: seen.append((change, session.editor.writes_to)))
    session.views.select(first)
    session.views.select(first, second)
    session.views.select()
    assert seen == [(Change.SELECTION, "")] * 2 and session.views.selected is None


def test_a_text_that_goes_away_takes_its_edits_with_it(session: Session) -> None:
    """Texts, history and page change at once, or not at all."""
    name = session.document.html_name
    text = session.document.text(name).text
    at = text.index("<p")
    session.editor.apply(Patch((TextEdit(name, at, at, "<p>new</p>"),), "a paragraph"))
    assert session.document.edited_files == (name,) and len(session.editor.history.done) == 1
    session.disk.take_theirs(name)
    assert session.document.text(name).text == text and not session.document.is_edited
    assert session.editor.history.done == ()
