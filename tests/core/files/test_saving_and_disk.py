"""Files that people also edit elsewhere: changes on disk, unsaved work, save as, and saves that are cut off."""

import json
import os
import signal
import subprocess
import sys
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.edit.merging import merged
from redcrate.core.edit.page_template import Frame, MainKind, WrapperKind, frame_css, frame_html
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.errors import EditRefused, PageNotReadable, PageNotWritable
from redcrate.core.files.loading import read_page
from redcrate.core.files.recovery import RecoveryFolder
from redcrate.core.rows import rows_of
from redcrate.core.session import Session
from tests.conftest import CASES, ROOT


def pad(session: Session, value: str = "30", merges: str = "") -> None:
    """Type into the left padding of the notice board."""
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    session.editor.apply(session.editor.plan(notice, "padding", ("left",), value).patch, merges=merges)


def test_a_file_changed_by_another_program(demo_copy: Path) -> None:
    """Unedited: read again. Edited: mine, theirs, or both where they do not meet; undo still works."""
    css = demo_copy.with_name("style.css")
    session = Session(demo_copy)
    assert session.document.disk_changes() == ()
    first = css.read_text()
    css.write_text(first + "\n.later { color: red }\n")
    (change,) = session.document.disk_changes()
    assert (change.name, change.edited) == ("style.css", False)
    session.disk.take_theirs("style.css")
    assert session.document.disk_changes() == () and ".later" in session.document.text("style.css").text
    pad(session)
    mine = session.document.text("style.css").text
    css.write_text(css.read_text().replace(".later", ".last"))
    (change,) = session.document.disk_changes()
    assert change.edited and any(line.startswith("+.last") for line in change.differing)
    assert change.both == mine.replace(".later", ".last")
    session.disk.take_both(change)
    assert (
        session.document.text("style.css").text == change.both and session.document.disk_changes() == ()
    )
    session.editor.undo()
    assert session.document.text("style.css").text == mine
    session.disk.keep_mine("style.css")
    assert (
        session.document.is_edited and session.disk.save() == ("style.css",) and css.read_text() == mine
    )
    css.unlink()
    (change,) = session.document.disk_changes()
    assert change.gone
    with pytest.raises(PageNotReadable):
        session.disk.take_theirs("style.css")


@given(st.lists(st.sampled_from("abcd"), max_size=6), st.data())
def test_merging_keeps_both_or_refuses(base: list[str], data: st.DataObject) -> None:
    """With one side unchanged the other one is taken; equal changes count once; order never matters."""
    text = "".join(f"{c}\n" for c in base)
    mine, theirs = (
        "".join(f"{c}\n" for c in data.draw(st.lists(st.sampled_from("abcdxy"), max_size=6)))
        for _ in "12"
    )
    assert merged(text, text, theirs) == theirs and merged(text, mine, text) == mine
    assert merged(text, mine, mine) == mine
    assert merged(text, mine, theirs) == merged(text, theirs, mine)


def test_unsaved_work_survives_a_kill(demo_copy: Path, tmp_path: Path) -> None:
    """A process that is killed after its edits; the next one takes the steps back, one by one."""
    script = (
        "import os, sys\nfrom pathlib import Path\nfrom redcrate.core.files.recovery import RecoveryFolder\n"
        "from redcrate.core.session import Session\nfrom tests.core.files.test_saving_and_disk import pad\n"
        "session = Session(Path(sys.argv[1]), recovery=RecoveryFolder(Path(sys.argv[2])))\n"
        "pad(session, '30'); pad(session, '31'); session.disk.keep_unsaved(); os.kill(os.getpid(), 9)\n"
    )
    folder = tmp_path / "kept"
    root = ROOT
    done = subprocess.run(
        [sys.executable, "-c", script, str(demo_copy), str(folder)], cwd=root, check=False
    )
    assert done.returncode == -signal.SIGKILL
    session = Session(demo_copy, recovery=RecoveryFolder(folder))
    work = session.disk.unsaved_work()
    assert work is not None and work.fits and len(work.steps) == 2
    session.disk.take_back(work)
    assert "31px" in session.document.text("style.css").text and len(session.editor.history.done) == 2
    session.disk.save()
    assert session.disk.unsaved_work() is None
    pad(session, "40")
    session.disk.keep_unsaved()
    demo_copy.with_name("style.css").write_text("p { top: 0 }")
    later = Session(demo_copy, recovery=RecoveryFolder(folder))
    work = later.disk.unsaved_work()
    assert work is not None and not work.fits
    with pytest.raises(EditRefused, match="changed since"):
        later.disk.take_back(work)
    next(folder.glob("*.json")).write_text("{ damaged")
    assert later.disk.unsaved_work() is None


def test_what_is_kept_is_what_is_unsaved(demo_copy: Path, tmp_path: Path) -> None:
    """Steps since the save; steps back past the save; another way after that."""
    session = Session(demo_copy, recovery=RecoveryFolder(tmp_path / "kept"))
    pad(session, "30")
    session.disk.save()
    for undo, typed in ((True, ""), (False, "33")):
        if undo:
            session.editor.undo()
        else:
            pad(session, typed)
        session.disk.keep_unsaved()
        other = Session(demo_copy, recovery=RecoveryFolder(tmp_path / "kept"))
        work = other.disk.unsaved_work()
        assert work is not None
        other.disk.take_back(work)
        assert other.document.texts() == session.document.texts()


STEPS = ["open", "fdopen", "fsync", "chmod", "replace"]


@pytest.mark.parametrize("step", STEPS)
def test_a_save_that_is_killed_leaves_a_whole_file(demo_copy: Path, step: str) -> None:
    """At every step of a save the file is the old one or the new one, never half of it."""
    script = (
        "import os, sys\nfrom pathlib import Path\nfrom redcrate.core.session import Session\n"
        "from tests.core.files.test_saving_and_disk import pad\nsession = Session(Path(sys.argv[1])); pad(session)\n"
        f"def die(*a, **k): os.kill(os.getpid(), 9)\nos.{step} = die\nsession.disk.save()\n"
    )
    css = demo_copy.with_name("style.css")
    before = css.read_bytes()
    root = ROOT
    done = subprocess.run([sys.executable, "-c", script, str(demo_copy)], cwd=root, check=False)
    assert done.returncode == -signal.SIGKILL
    assert css.read_bytes() == before
    session = Session(demo_copy)
    pad(session)
    session.disk.save()
    assert sorted(os.listdir(css.parent)) == sorted(
        {*os.listdir(css.parent)} - {".style.css.redcrate-saving"}
    )
    assert b"30px" in css.read_bytes()


def test_save_as_takes_what_the_page_uses(demo_copy: Path, tmp_path: Path) -> None:
    """Sheets and pictures by the same names; the original is untouched; the copy is the same page."""
    session = Session(demo_copy)
    pad(session)
    before = {p.name: p.read_bytes() for p in demo_copy.parent.rglob("*") if p.is_file()}
    report = session.document.write_copy(tmp_path / "new" / "copy.html")
    assert "style.css" in report.copied and any(n.endswith((".svg", ".png")) for n in report.copied)
    copy = Session(report.page)
    assert [b.border_box for b in copy.views.page.by_element.values()] == [
        b.border_box for b in session.views.page.by_element.values()
    ]
    assert not [n for n in copy.views.page.notices if "not found" in n.sentence]
    assert {p.name: p.read_bytes() for p in demo_copy.parent.rglob("*") if p.is_file()} == before
    with pytest.raises(PageNotWritable, match="the page itself"):
        session.document.write_copy(demo_copy)


def test_a_held_key_is_one_step(demo_copy: Path) -> None:
    """Steps in a row of one name are one; one undo takes all of them back; a save ends the row."""
    session = Session(demo_copy)
    first = session.document.texts()
    for value in ("25", "26", "27"):
        pad(session, value, merges="held")
    assert len(session.editor.history.done) == 1 and "27px" in session.document.text("style.css").text
    assert "→ 27px" in session.editor.history.done[0].sentence
    session.editor.undo()
    assert session.document.texts() == first
    session.editor.redo()
    session.disk.save()
    pad(session, "28", merges="held")
    assert len(session.editor.history.done) == 2
    session.editor.go_to(0)
    assert session.document.texts() == first and session.document.is_edited


BAD = {
    "imports itself": ("@import 's.css'; p { width: 9px }", "<p>x"),
    "missing": (None, "<p>x"),
    "outside": ("p { width: 9px }", "<link rel=stylesheet href='../../../../etc/passwd'><p>x"),
    "one id twice": ("#a { width: 9px }", "<p id=a>x<p id=a>y"),
}


@pytest.mark.parametrize("case", BAD)
def test_odd_pages_open_edit_and_save(tmp_path: Path, case: str) -> None:
    """A notice, one edit, undo, save: identical bytes."""
    css, body = BAD[case]
    if css is not None:
        (tmp_path / "s.css").write_text(css)
    html = f"<!doctype html><link rel=stylesheet href=s.css>{body}"
    (tmp_path / "p.html").write_text(html)
    session = Session(tmp_path / "p.html")
    assert session.views.page.notices or case == "one id twice"
    paragraph = next(e for e in session.views.page.elements if e.tag == "p")
    session.editor.apply(session.editor.plan(paragraph, "width", ("",), "12").patch)
    assert session.views.page.style_of(paragraph).width.px == 12
    session.editor.undo()
    session.disk.save()
    assert (tmp_path / "p.html").read_text() == html
    assert css is None or (tmp_path / "s.css").read_text() == css


def test_a_large_file_and_an_unreadable_one(tmp_path: Path) -> None:
    """30 MB open; more than the limit is a sentence; bytes that are no UTF-16 are kept or told."""
    (tmp_path / "big.html").write_bytes(b"<!doctype html><p>x</p><!--" + b"y" * 30 * 2**20 + b"-->")
    session = Session(tmp_path / "big.html")
    session.editor.apply(Patch((TextEdit("big.html", 15, 15, "<hr>"),), "a rule"))
    session.editor.undo()
    assert not session.document.is_edited
    (tmp_path / "odd.html").write_bytes(b"\xff\xfe<\x00p\x00>\x00\x00\xd8")
    try:
        assert read_page(tmp_path / "odd.html").source.encode() == (tmp_path / "odd.html").read_bytes()
    except PageNotReadable as told:
        assert "odd.html" in told.sentence


@pytest.mark.parametrize("path", sorted(CASES.glob("*.html"))[::4], ids=lambda p: p.stem)
def test_open_edit_undo_save_keeps_every_byte(tmp_path: Path, path: Path) -> None:
    """On reference pages: a padding typed into the first box that takes one, then taken back and saved."""
    target = tmp_path / path.name
    target.write_bytes(path.read_bytes())
    session = Session(target)
    for element in session.views.page.elements[1:8]:
        try:
            session.editor.apply(session.editor.plan(element, "padding", ("left",), "7").patch)
        except EditRefused:
            continue
    while session.editor.undo():
        pass
    assert not session.document.is_edited
    session.disk.save()
    assert target.read_bytes() == path.read_bytes()


@pytest.mark.parametrize("wrapper", WrapperKind)
@pytest.mark.parametrize(
    ("main", "columns", "gap"),
    [(MainKind.COLUMNS, 3, 20), (MainKind.COLUMNS, 7, 0), (MainKind.ASIDE, 1, 15)],
)
def test_a_new_page_stands_as_asked(
    tmp_path: Path, wrapper: WrapperKind, main: MainKind, columns: int, gap: float
) -> None:
    """The frame's rows fill the wrapper exactly, nothing drops, and there is no notice."""
    share = 80 if wrapper is WrapperKind.SHARE else 960
    frame = Frame("A & B", wrapper, share, True, ("One", "<Two>"), main, columns, gap, 30, 4)
    (tmp_path / "style.css").write_text(frame_css(frame))
    (tmp_path / "p.html").write_text(frame_html(frame))
    session = Session(tmp_path / "p.html", 1200)
    assert session.views.page.notices == ()
    wrapped = next(e for e in session.views.page.elements if "wrapper" in e.classes)
    box = session.views.page.box_of(wrapped)
    assert box is not None and box.border_box.width == 960 * 64 and box.border_box.x == 120 * 64
    for part, count in (("main", columns if main is MainKind.COLUMNS else 2), ("footer", 4)):
        (row,) = rows_of(
            session.views.page, next(e for e in session.views.page.elements if e.tag == part)
        )
        assert len(row.items) == count and row.dropped is None
        assert row.left < 64 or main is MainKind.ASIDE
    assert "A &amp; B" in session.document.text("p.html").text
    json.dumps(session.document.texts())
