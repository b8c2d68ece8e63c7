"""The session: what is open, seen, edited, undone and saved."""

import os
from pathlib import Path

import pytest

from redcrate.core.edit.choices import other_sizing_patch
from redcrate.core.errors import OutsideFolder, PageNotWritable
from redcrate.core.page import compute_page
from redcrate.core.session import Change, Session
from tests.snapshot import page_snapshot


def notice(session: Session) -> object:
    """The demo page's notice board."""
    return next(e for e in session.views.page.elements if "notice" in e.classes)


def test_listeners_hear_what_changed(demo_copy: Path) -> None:
    """Selection, page, history and gives, each when it happens."""
    session = Session(demo_copy)
    heard: list[Change] = []
    session.listen(heard.append)
    session.views.select(session.views.page.elements[3])
    session.views.select(session.views.page.elements[3])
    session.views.set_width(820)
    assert heard == [Change.SELECTION, Change.PAGE]


def test_an_edited_page_equals_one_opened_anew(demo_copy: Path) -> None:
    """After edits, widths and undo, the geometry is that of a full computation."""
    session = Session(demo_copy)
    session.views.select(notice(session))  # type: ignore[arg-type]
    for typed in ("30", "8%", "2em"):
        assert session.views.selected is not None
        session.editor.apply(
            session.editor.plan(session.views.selected, "padding", ("left",), typed).patch
        )
        session.views.set_width(820 if session.views.viewport.width == 1100 else 1100)
        fresh = compute_page(session.views.page.source, session.views.viewport)
        assert page_snapshot(session.views.page) == page_snapshot(fresh)
    for _ in range(3):
        session.editor.undo()
    assert not session.document.is_edited
    assert session.editor.redo() is not None and session.document.is_edited


def test_a_trial_has_the_document_of_its_moment(demo_copy: Path) -> None:
    """With what is not saved, in every file; a patch tried on it changes nothing, nor do later edits change it."""
    session = Session(demo_copy)
    board = notice(session)
    session.editor.apply(session.editor.plan(board, "padding", ("left",), "30").patch)  # type: ignore[arg-type]
    trial, page = session.document.trial(), session.views.page
    element = notice(session)
    patch = other_sizing_patch(page, trial.texts, element)  # type: ignore[arg-type]
    session.editor.undo()
    other, texts = trial.after(patch)(page)
    box = other.by_element[next(e for e in other.elements if "notice" in e.classes)]
    assert box.padding.left == 30 * 64 and "box-sizing: border-box" in texts["index.html"]
    assert box.border_box.width == 566 * 64
    assert page_snapshot(trial.page(page.viewport)) == page_snapshot(page)
    assert "box-sizing: border-box" not in session.document.text("index.html").text


def test_saving_writes_the_edited_file_only(demo_copy: Path) -> None:
    """Other files keep their bytes and times; permissions stay; nothing is left beside it."""
    css = demo_copy.with_name("style.css")
    os.chmod(css, 0o640)
    html_bytes, names = demo_copy.read_bytes(), sorted(os.listdir(demo_copy.parent))
    session = Session(demo_copy)
    session.editor.apply(session.editor.plan(notice(session), "padding", ("left",), "30").patch)  # type: ignore[arg-type]
    assert session.disk.save() == ("style.css",)
    assert b"24px 36px 24px 30px" in css.read_bytes()
    assert css.stat().st_mode & 0o777 == 0o640
    assert demo_copy.read_bytes() == html_bytes
    assert sorted(os.listdir(demo_copy.parent)) == names
    assert not session.document.is_edited and session.disk.save() == ()
    session.editor.undo()
    assert session.document.is_edited


def test_a_symbolic_link_stays_one(demo_copy: Path, tmp_path: Path) -> None:
    """The file behind the link is replaced; outside the page's folder only where that is wanted."""
    css, real = demo_copy.with_name("style.css"), tmp_path / "real.css"
    css.rename(real)
    css.symlink_to(real)
    session = Session(demo_copy)
    session.editor.apply(session.editor.plan(notice(session), "padding", ("left",), "30").patch)  # type: ignore[arg-type]
    before = real.read_bytes()
    with pytest.raises(OutsideFolder, match=r"style\.css: outside the page's folder"):
        session.disk.save()
    assert real.read_bytes() == before
    session.document.may_write_outside = True
    session.disk.save()
    assert css.is_symlink() and b"24px 36px 24px 30px" in real.read_bytes()


def test_a_folder_that_cannot_be_written_is_a_sentence(
    demo_copy: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The old file is untouched, the work is still there, and a later save succeeds."""
    session = Session(demo_copy)
    session.editor.apply(session.editor.plan(notice(session), "padding", ("left",), "30").patch)  # type: ignore[arg-type]
    css = demo_copy.with_name("style.css")
    before = css.read_bytes()

    def full(source: object, target: object) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patched:
        patched.setattr(os, "replace", full)
        with pytest.raises(PageNotWritable, match="No space left"):
            session.disk.save()
    assert css.read_bytes() == before and session.document.is_edited
    assert [n for n in os.listdir(css.parent) if "saving" in n] == []
    assert session.disk.save() == ("style.css",)


@pytest.mark.parametrize("codec", ["utf-8", "utf-8-sig", "iso-8859-1", "utf-16"])
def test_encodings_keep_every_byte(tmp_path: Path, codec: str) -> None:
    """Byte order mark, legacy encodings, CRLF and a missing last newline survive an edit."""
    path = tmp_path / "p.html"
    text = "<!doctype html>\r\n<meta charset='{}'>\r\n<p id=a style='width: 90px'>gr\u00fc\u00dfe</p>"
    data = text.format("iso-8859-1" if codec == "iso-8859-1" else "utf-8").encode(codec)
    path.write_bytes(data)
    session = Session(path)
    paragraph = next(e for e in session.views.page.elements if e.tag == "p")
    assert "gr\u00fc\u00dfe" in paragraph.text_content()
    session.editor.apply(session.editor.plan(paragraph, "width", ("",), "80").patch)
    session.disk.save()
    assert path.read_bytes() == data.replace(
        "90px".encode(codec)[-len("90px".encode("utf-16-le")) :] if codec == "utf-16" else b"90px",
        "80px".encode("utf-16-le") if codec == "utf-16" else b"80px",
    )
    session.editor.undo()
    session.disk.save()
    assert path.read_bytes() == data
