"""Files that people also edit elsewhere: changes on disk, unsaved work, save as, and saves that are cut off."""

import json
import os
import signal
import subprocess
import sys
from hashlib import sha256
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.edit.merging import merged
from redcrate.core.edit.page_template import Frame, MainKind, WrapperKind, frame_css, frame_html
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.errors import EditRefused, PageNotReadable, PageNotWritable
from redcrate.core.files.loading import read_page
from redcrate.core.files.recovery import Fits, RecoveryFolder, UnsavedWork
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


KILLED = (
    "import os, sys\nfrom pathlib import Path\nfrom redcrate.core.files.recovery import RecoveryFolder\n"
    "from redcrate.core.session import Session\nfrom tests.core.files.test_saving_and_disk import pad\n"
    "session = Session(Path(sys.argv[1]), recovery=RecoveryFolder(Path(sys.argv[2])))\n"
)


def killed(page: Path, folder: Path, script: str) -> None:
    """Another process that works at the page, keeps what is unsaved in `folder`, and is killed."""
    given = [sys.executable, "-c", f"{KILLED}{script}", str(page), str(folder)]
    done = subprocess.run(given, cwd=ROOT, check=False)
    assert done.returncode == -signal.SIGKILL


def session_at(page: Path, folder: Path) -> Session:
    """A session that keeps what is unsaved in `folder`."""
    return Session(page, recovery=RecoveryFolder(folder))


def only_work(session: Session) -> UnsavedWork:
    """The one thing that an earlier run never saved."""
    (work,) = session.disk.unsaved_work()
    return work


def test_unsaved_work_survives_a_kill(demo_copy: Path, tmp_path: Path) -> None:
    """A process that is killed after its edits; the next one takes the steps back, one by one."""
    folder = tmp_path / "kept"
    killed(
        demo_copy,
        folder,
        "pad(session, '30'); pad(session, '31'); session.disk.keep_unsaved(); os.kill(os.getpid(), 9)\n",
    )
    session = session_at(demo_copy, folder)
    work = only_work(session)
    assert work.fits is Fits.ALL and len(work.steps) == 2
    session.disk.take_back(work)
    assert "31px" in session.document.text("style.css").text and len(session.editor.history.done) == 2
    assert session_at(demo_copy, folder).disk.unsaved_work() == (), "it is at work, and has it"
    session.disk.save()
    assert list(folder.glob("*")) == [], "what is saved is not kept"
    pad(session, "40")
    session.disk.keep_unsaved()
    session.disk.leave()
    next(folder.glob("*.json")).write_text("{ damaged")
    assert session_at(demo_copy, folder).disk.unsaved_work() == () and list(folder.glob("*.json"))


def test_what_another_program_wrote_since_is_merged_or_comes_back_by_undo(
    demo_copy: Path, tmp_path: Path
) -> None:
    """A text that was changed elsewhere after the crash: other lines stand beside ours, the same lines are ours."""
    css, folder = demo_copy.with_name("style.css"), tmp_path / "kept"
    first = css.read_text()
    session = session_at(demo_copy, folder)
    pad(session, "40")
    session.disk.keep_unsaved()
    mine = session.document.text("style.css").text
    session.disk.leave()
    for theirs, both in (
        (f"{first}\n.later {{ top: 0 }}\n", f"{mine}\n.later {{ top: 0 }}\n"),
        ("p {}", mine),
    ):
        css.write_text(theirs)
        later = session_at(demo_copy, folder)
        work = only_work(later)
        assert work.fits is Fits.CHANGED and work.changed == ("style.css",)
        later.editor.apply(work.steps[0])
        assert later.document.text("style.css").text == both
        later.editor.undo()
        assert later.document.text("style.css").text == theirs


def two_edits(session: Session) -> tuple[str, str]:
    """An edit in each of the page's two files; their texts then."""
    pad(session, "30")
    html = session.document.text("index.html").text
    session.editor.apply(
        Patch((TextEdit("index.html", len(html), len(html), "<!-- b -->"),), "a comment")
    )
    return session.document.text("style.css").text, session.document.text("index.html").text


def test_a_save_that_gets_half_way_is_finished_after_a_crash(demo_copy: Path, tmp_path: Path) -> None:
    """One file saved, the other refused: nothing is done twice, and what was not saved is still offered."""
    css, folder = demo_copy.with_name("style.css"), tmp_path / "kept"
    session = session_at(demo_copy, folder)
    texts = two_edits(session)
    real, save = os.replace, []

    def refusing(source: str, target: Path) -> None:
        if Path(target).name == "index.html":
            raise PermissionError(13, "the file is read-only")
        save.append(target)
        real(source, target)

    os.replace = refusing  # type: ignore[assignment]
    try:
        with pytest.raises(PageNotWritable):
            session.disk.save()
    finally:
        os.replace = real
    assert css.read_text() == texts[0] and session.document.edited_files == ("index.html",)
    session.disk.leave()  # a crash
    later = session_at(demo_copy, folder)
    later.disk.take_back(only_work(later))
    assert (later.document.text("style.css").text, later.document.text("index.html").text) == texts
    later.disk.save()
    assert (css.read_text(), demo_copy.read_text()) == texts


@pytest.mark.parametrize("after", ["style.css", "index.html"])
def test_a_kill_between_two_files_is_finished(demo_copy: Path, tmp_path: Path, after: str) -> None:
    """Killed right after a file was put in its place: old and new ones are told apart."""
    folder = tmp_path / "kept"
    killed(
        demo_copy,
        folder,
        "from tests.core.files.test_saving_and_disk import two_edits\ntwo_edits(session)\nreal = os.replace\n"
        "def replace(a, b):\n    real(a, b)\n"
        f"    if str(b).endswith({after!r}): os.kill(os.getpid(), 9)\nos.replace = replace\nsession.disk.save()\n",
    )
    session = session_at(demo_copy, folder)
    left = session.disk.unsaved_work()
    if after == "style.css":
        (work,) = left
        assert work.fits is Fits.PARTLY_SAVED and work.saved == ("style.css",)
        session.disk.take_back(work)
        session.disk.save()
    else:
        assert left == () and list(folder.glob("*.json")) == [], "all of it was saved"
    fresh = Session(demo_copy)
    assert "<!-- b -->" in fresh.document.text("index.html").text
    assert fresh.document.text("style.css").text.count("30px") == session.document.text(
        "style.css"
    ).text.count("30px")


def test_a_sheet_that_the_page_no_longer_names_is_saved_too(demo_copy: Path, tmp_path: Path) -> None:
    """It was edited while it was; after a crash it is offered as well."""
    css, folder = demo_copy.with_name("style.css"), tmp_path / "kept"
    session = session_at(demo_copy, folder)
    pad(session, "30")
    sheet = session.document.text("style.css").text
    html = session.document.text("index.html").text
    at = html.index("style.css")
    session.editor.apply(Patch((TextEdit("index.html", at, at + 9, "gone.css"),), "another sheet"))
    assert set(session.document.edited_files) == {"index.html", "style.css"}
    session.disk.keep_unsaved()
    session.disk.leave()
    later = session_at(demo_copy, folder)
    later.disk.take_back(only_work(later))
    assert set(later.disk.save()) == {"index.html", "style.css"} and css.read_text() == sheet
    assert not later.document.is_edited and later.editor.undo()


def test_what_the_first_version_kept_is_offered_where_it_fits(demo_copy: Path, tmp_path: Path) -> None:
    """It held steps and no texts."""
    folder, page = tmp_path / "kept", os.path.realpath(demo_copy)
    folder.mkdir()
    css = demo_copy.with_name("style.css")
    kept = {
        "version": 1, "page": page, "written_at": 1e9,
        "files": {"style.css": sha256(css.read_bytes()).hexdigest()},
        "steps": [{"sentence": "an edit", "edits": [["style.css", 0, 0, "/* kept */"]]}],
    }  # fmt: skip
    (folder / f"{sha256(page.encode()).hexdigest()[:24]}.json").write_text(json.dumps(kept))
    session = session_at(demo_copy, folder)
    session.disk.take_back(only_work(session))
    assert session.document.text("style.css").text.startswith("/* kept */")
    session.disk.save()
    (folder / f"{sha256(page.encode()).hexdigest()[:24]}.json").write_text(json.dumps(kept))
    assert session_at(demo_copy, folder).disk.unsaved_work() == (), "it fits no more"


def test_nothing_replaces_what_was_not_answered(demo_copy: Path, tmp_path: Path) -> None:
    """Typing before answering, undoing it, a second window, not now: all that was left is offered, newest first."""
    folder = tmp_path / "kept"
    for value in ("30", "31"):
        session = session_at(demo_copy, folder)
        pad(session, value)
        session.disk.keep_unsaved()
        session.disk.leave()
    session, second = session_at(demo_copy, folder), session_at(demo_copy, folder)
    for one in (session, second):
        pad(one, "33")
        one.disk.keep_unsaved()
    session.editor.undo()
    session.disk.keep_unsaved()
    works = session.disk.unsaved_work()
    assert [w.steps[0].sentence for w in works] == [
        w.steps[0].sentence for w in second.disk.unsaved_work()
    ]
    assert ["→ 31px" in works[0].steps[0].sentence, "→ 30px" in works[1].steps[0].sentence] == [
        True,
        True,
    ]
    html = session.document.text("index.html").text
    session.editor.apply(Patch((TextEdit("index.html", len(html), len(html), "<!-- b -->"),), "typed"))
    session.disk.take_back(works[0])
    assert "31px" in session.document.text("style.css").text and session.document.text(
        "index.html"
    ).text.endswith("<!-- b -->")
    with pytest.raises(EditRefused, match="same lines"):
        second.disk.take_back(works[1])
    assert len(second.disk.unsaved_work()) == 1
    second.disk.discard(works[1])
    assert second.disk.unsaved_work() == ()


def test_what_is_kept_is_what_is_unsaved(demo_copy: Path, tmp_path: Path) -> None:
    """Steps since the save; steps back past the save; another way after that."""
    session = session_at(demo_copy, tmp_path / "kept")
    pad(session, "30")
    session.disk.save()
    for undo, typed in ((True, ""), (False, "33")):
        if undo:
            session.editor.undo()
        else:
            pad(session, typed)
        session.disk.keep_unsaved()
        session.disk.leave()
        other = session_at(demo_copy, tmp_path / "kept")
        other.disk.take_back(only_work(other))
        assert other.document.texts() == session.document.texts()
        other.disk.forget_unsaved()


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
