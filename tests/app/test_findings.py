"""Findings, fixes, rows and centring in the window: seen, previewed, taken, undone, silenced."""

import json
import os
import shutil
import signal
from collections.abc import Callable, Generator
from pathlib import Path
from typing import Any

import pytest
from PyQt6.QtCore import QRect, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QLabel, QPushButton
from pytestqt.qtbot import QtBot

from redcrate.app.bench.arranging import button_texts
from redcrate.app.bench.findings_list import FindingsList
from redcrate.app.bench.sides import Side
from redcrate.app.findings import search
from redcrate.app.screens import bench_of, source_of
from redcrate.app.theme.look import colour
from redcrate.app.window import Window
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.files.trial import PageSnapshot
from redcrate.core.findings import Severity
from redcrate.core.findings.at_widths import is_cause
from redcrate.core.findings.register import finding_steps
from redcrate.core.findings.surveyor import Surveyor, _Desk
from redcrate.core.processes import WorkersLost
from redcrate.core.widths import looking
from tests.app.conftest import element, make_window
from tests.app.pointer import hover, press, settled
from tests.conftest import ROOT


@pytest.fixture
def draft(
    qtbot: QtBot, tmp_path: Path, request: pytest.FixtureRequest, monkeypatch: pytest.MonkeyPatch
) -> Window:
    """The window with a copy of the draft page; away: it is taken for a large one, which another process looks at."""
    monkeypatch.setattr(looking, "_LARGE", 10 if getattr(request, "param", "here") == "away" else 10_000)
    monkeypatch.setattr(os, "sched_getaffinity", lambda _: {0, 1})
    folder = tmp_path / "draft"
    shutil.copytree(ROOT / "demo" / "ploverfield-draft", folder)
    return make_window(qtbot, folder / "index.html")


BOTH = pytest.mark.parametrize("draft", ["here", "away"], indirect=True)


def test_findings_come_by_themselves(qtbot: QtBot, draft: Window) -> None:
    """After a moment: listed with shapes, counted on the button, marked in the outline, the bench fluid meanwhile."""
    found = bench_of(draft).findings
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    texts = [found.list.item(i).text() for i in range(found.list.count())]
    assert (
        texts[0].startswith("▲") and any(t.startswith("◆") for t in texts) and texts[-1].startswith("○")
    )
    assert bench_of(draft).side_buttons[Side.FINDINGS].text() == f"Findings {len(texts)}"
    footer = element(draft, "footer")
    assert footer in found.elements
    bench_of(draft).outline.view.scrollTo(bench_of(draft).outline.model.index_of(footer))
    rect = bench_of(draft).outline.view.visualRect(bench_of(draft).outline.model.index_of(footer))
    image = bench_of(draft).outline.view.viewport().grab().toImage()
    assert image.pixelColor(1, rect.center().y()) == QColor(colour("problem"))


@BOTH
def test_a_fix_is_seen_taken_and_undone(qtbot: QtBot, draft: Window) -> None:
    """F8 goes to the first one; a hover shows its fix on the sheet; a click takes it; the finding is gone."""
    assert draft.session is not None
    session, found, sheet = draft.session, bench_of(draft).findings, bench_of(draft).sheet
    found.search.look_now()
    draft.actions_by_name["next-finding"].trigger()
    first = found.current
    assert first is not None and first.severity is Severity.BREAKS
    assert found.isVisible() and session.views.selected is first.elements[0]
    fixes, before = found.search.fixes_now(), session.document.texts()
    assert fixes and all(f.patch.edits for f in fixes)
    button = next(
        b for b in found.findChildren(QPushButton) if b.text().lower().startswith("contain its floats")
    )
    hover(button, over=True)
    assert sheet.shown_page is not session.views.page and session.document.texts() == before
    hover(button, over=False)
    assert sheet.shown_page is session.views.page
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert session.document.texts() != before and len(session.editor.history.done) == 1
    assert first.key not in {f.key for f in found.search.look_now()}
    session.editor.undo()
    assert first.key in {f.key for f in found.search.look_now()} and session.document.texts() == before
    draft.actions_by_name["previous-finding"].trigger()
    assert found.current is not None


def test_a_finding_of_another_width_is_gone_to(qtbot: QtBot, draft: Window) -> None:
    """The row tells its widths; chosen with the pointer, the page is seen where it holds, and its block is selected."""
    assert draft.session is not None
    views, found = draft.session.views, bench_of(draft).findings
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    number = next(i for i, f in enumerate(found.findings) if f.family == "wider-than-viewport")
    item = found.list.item(number)
    assert item is not None and item.text().endswith(" px.  At 390 and 820 px.")
    assert views.viewport.width == 1100
    found.list.scrollToItem(item)
    press(found.list.viewport(), found.list.visualItemRect(item).center())
    assert views.viewport.width == 820 and views.selected is element(draft, "wrapper")
    qtbot.waitUntil(lambda: found.search.knows_all and bool(found.search.fixes), timeout=20_000)
    assert found.current is not None and found.current.family == "wider-than-viewport"


@BOTH
def test_the_first_fix_tells_what_else_it_mends(qtbot: QtBot, draft: Window) -> None:
    """The missing class makes the picture's gap; both findings stand in the list."""
    found = bench_of(draft).findings
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    number = next(i for i, f in enumerate(found.findings) if f.family == "class-missing-on-one")
    item, below = found.list.item(number), found.list.item(number + 1)
    assert below is not None and below.text().startswith("↳ ◆  6.39 px of empty space under img.drawing")
    found.list.scrollToItem(item)
    press(found.list.viewport(), found.list.visualItemRect(item).center())
    qtbot.waitUntil(lambda: bool(found.search.fixes), timeout=20_000)
    assert found.opened is not None
    labels = [label.text() for label in found.opened.findChildren(QLabel) if label.isVisible()]
    assert "The first fix also removes 1 other finding." in labels


@BOTH
def test_a_fix_of_an_earlier_text_is_not_taken(qtbot: QtBot, draft: Window) -> None:
    """An edit moves everything behind it: what was worked out before knows other places and is worked out anew."""
    assert draft.session is not None
    session, found = draft.session, bench_of(draft).findings
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    number = next(i for i, f in enumerate(found.findings) if f.family == "unit-missing")
    found.list.scrollToItem(found.list.item(number))
    press(found.list.viewport(), found.list.visualItemRect(found.list.item(number)).center())
    qtbot.waitUntil(lambda: found.search.knows_fixes, timeout=20_000)
    session.editor.apply(Patch((TextEdit("style.css", 0, 0, "/* before all */\n"),), "a remark"))
    before = session.document.texts()
    button = next(b for b in found.findChildren(QPushButton) if b.text().startswith("Add the unit px"))
    press(button)
    assert session.document.texts() == before
    qtbot.waitUntil(lambda: found.search.knows_all and found.search.knows_fixes, timeout=20_000)
    button = next(b for b in found.findChildren(QPushButton) if b.text().startswith("Add the unit px"))
    press(button)
    assert session.document.text("style.css").text == before["style.css"].replace("18 24", "18px 24px")


def test_causes_lead_to_the_source_and_families_teach(qtbot: QtBot, draft: Window) -> None:
    """Each finding has its paragraph and its live example; its cause opens on the Source screen."""
    found = bench_of(draft).findings
    qtbot.mouseClick(bench_of(draft).side_buttons[Side.FINDINGS], Qt.MouseButton.LeftButton)
    found.search.look_now()
    number = next(i for i, f in enumerate(found.findings) if f.family == "unit-missing")
    found.choose(number)
    assert found.opened is not None
    qtbot.mouseClick(found.opened.more, Qt.MouseButton.LeftButton)
    labels = [w.text() for w in found.findChildren(type(found.count))]
    assert any("Lengths other than 0 need a unit" in t for t in labels)
    cause = next(b for b in found.findChildren(QPushButton) if "style.css line" in b.text())
    qtbot.mouseClick(cause, Qt.MouseButton.LeftButton)
    assert source_of(draft).isVisible() and source_of(draft).file == "style.css"
    assert "padding: 18 24" in source_of(draft).editor("style.css").selectedText()


def test_minor_advice_is_listed_for_those_who_ask(qtbot: QtBot, draft: Window) -> None:
    """A box with its count, by pointer and by key; what is told else stays where it is, and undo goes on working."""
    assert draft.session is not None
    found = bench_of(draft).findings
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    usual = [f.key for f in found.findings]
    assert not any(f.minor for f in found.findings)
    number = int(found.minor.text().removeprefix("Minor advice (").removesuffix(")"))
    press(found.minor)
    assert found.minor.isChecked() and len(found.findings) == len(usual) + number
    assert [f.key for f in found.findings if not f.minor] == usual
    rows = [found.list.item(i).text() for i in range(found.list.count())]
    assert any(".bench-list matches no element" in row for row in rows)
    qtbot.keyClick(found.minor, Qt.Key.Key_Space)
    assert [f.key for f in found.findings] == usual


def test_silencing_is_kept_beside_the_page(qtbot: QtBot, draft: Window) -> None:
    """One less in the list, told in the counts, and still so when the page is opened again."""
    assert draft.session is not None
    found = bench_of(draft).findings
    count = len(found.search.look_now())
    found.go(1)
    family = found.current.family
    found.reader.silence()
    assert len(found.findings) == count - 1 and "1 ignored" in found.counts()
    kept = json.loads(draft.session.document.path.with_name("index.html.redcrate.json").read_text())
    assert kept["silenced"][0]["family"] == family
    again = make_window(qtbot, draft.session.document.path)
    assert len(bench_of(again).findings.search.look_now()) == count - 1


def test_fitting_a_row(qtbot: QtBot, window: Window) -> None:
    """Seen while hovered, told in numbers, taken as one step; nonsense is a sentence."""
    assert window.session is not None
    session, tool = window.session, bench_of(window).arranging
    window.actions_by_name["arrange"].trigger()
    session.views.select(element(window, "footer"))
    tool.fields["count"].setText("4")
    assert "width calc((100% - 60px) / 4)" in tool.found.text() and "px free" in tool.found.text()
    assert "4 of 220 px fit into 1000 px; gaps of 40 px" in tool.fits.text()
    before = session.document.texts()
    hover(tool.take_row, over=True)
    assert (
        bench_of(window).sheet.shown_page is not session.views.page
        and session.document.texts() == before
    )
    hover(tool.take_row, over=False)
    tool.fields["count"].setText("3")
    qtbot.mouseClick(tool.take_row, Qt.MouseButton.LeftButton)
    assert (
        "calc((100% - 40px) / 3)" in session.document.texts()["style.css"]
        and len(session.editor.history.done) == 1
    )
    tool.fields["count"].setText("many")
    assert "plain number" in tool.found.text() and not tool.take_row.isEnabled()


def test_a_row_in_an_empty_container(qtbot: QtBot, tmp_path: Path) -> None:
    """Its blocks are made and fitted, in one step."""
    (tmp_path / "p.html").write_text("<!doctype html>\n<body>\n<div id='r'>\n</div>\n</body>\n")
    window = make_window(qtbot, tmp_path / "p.html")
    assert window.session is not None
    session, tool = window.session, bench_of(window).arranging
    window.actions_by_name["arrange"].trigger()
    session.views.select(element(window, "r"))
    assert tool.container() is element(window, "r")
    first = session.document.texts()
    qtbot.mouseClick(tool.take_row, Qt.MouseButton.LeftButton)
    blocks = element(window, "r").child_elements
    assert [b.tag for b in blocks] == ["div"] * 3 and len(session.editor.history.done) == 1
    boxes = [session.views.page.by_element[b].border_box for b in blocks]
    assert (
        len({b.y for b in boxes}) == 1
        and len({b.width for b in boxes}) == 1
        and "float: left" in session.document.text("p.html").text
    )
    session.editor.undo()
    assert session.document.texts() == first


def test_centring_and_giving(qtbot: QtBot, window: Window) -> None:
    """How far off and why; a way is taken and the block stands in the middle; neighbours give px."""
    assert window.session is not None
    session, tool = window.session, bench_of(window).arranging
    window.actions_by_name["arrange"].trigger()
    session.views.select(element(window, "notice"))
    assert "Not centred" in tool.middle.text() and "A float moves to one side" in tool.middle.text()
    assert button_texts(tool.ways) == ["Set float: none and auto margins"]
    assert "aside#tides.tides" in tool.givers.text()
    tides = element(window, "tides")
    width = session.views.page.by_element[tides].content_box.width
    tool.fields["amount"].setText("14")
    qtbot.mouseClick(tool.give_buttons["Equal parts"], Qt.MouseButton.LeftButton)
    assert session.views.page.by_element[tides].content_box.width == width - 14 * 64
    session.editor.undo()
    session.views.select(element(window, "notice"))
    tool.renew()
    way = tool.ways.itemAt(0).widget()
    qtbot.mouseClick(way, Qt.MouseButton.LeftButton)
    assert "Centred" in tool.middle.text()


@pytest.mark.parametrize("draft", ["away"], indirect=True)
def test_the_window_goes_on_meanwhile(
    qtbot: QtBot, draft: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Nothing of a large page is looked at here, not even after an edit; if the process is lost, all is found here."""
    assert draft.session is not None
    found, here = bench_of(draft).findings, []
    steps = finding_steps
    monkeypatch.setattr(
        search, "finding_steps", lambda page, texts: here.append(page) or steps(page, texts)
    )
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    count = len(found.findings)
    draft.session.editor.apply(Patch((TextEdit("style.css", 0, 0, "#no { top: 1 }\n"),), "a slip"))
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    assert len(found.findings) > count and not here
    number = next(i for i, f in enumerate(found.findings) if f.ways and not is_cause(f))
    item = found.list.item(number)
    found.list.scrollToItem(item)
    press(found.list.viewport(), found.list.visualItemRect(item).center())
    assert (
        found.search._surveyor is not None
        and found.search._surveyor._number is not None
        and not found.search.fixes
    )
    os.kill(found.search._surveyor._number.result(), signal.SIGKILL)
    qtbot.waitUntil(lambda: found.search.knows_all and bool(found.search.fixes), timeout=20_000)
    assert len(here) >= 3 and len(found.findings) > count
    words = found.search.fixes[0].told.lower()
    press(next(b for b in found.findChildren(QPushButton) if b.text().lower() == words))
    assert len(draft.session.editor.history.done) == 2


class Near(Surveyor):
    """A surveyor in this process: it answers when it is let, and fails when it is to."""

    hired = 0
    held = False
    lets = 1000  # answers
    fails_at = ""

    def __init__(self) -> None:
        super().__init__()
        type(self).hired += 1
        self.desk = _Desk()
        self.texts = 0

    def renew(self, snapshot: PageSnapshot, height: float) -> None:
        """Other texts: whoever waits for an answer about the earlier ones waits for nothing."""
        self.texts += 1
        self.desk.renew(snapshot, height)

    def _answer(self, work: Callable[..., Any], *about: object) -> Generator[None, None, Any]:
        texts = self.texts
        yield
        while (self.held or not self.lets) and texts == self.texts:
            yield
        type(self).lets -= 1
        if texts != self.texts or work.__name__ == self.fails_at:
            raise WorkersLost
        return getattr(self.desk, work.__name__.removeprefix("_"))(*about)


@pytest.fixture
def near(monkeypatch: pytest.MonkeyPatch) -> type[Near]:
    """The kind of surveyor that windows hire."""
    monkeypatch.setattr(search, "Surveyor", Near)
    for name, value in (("hired", 0), ("held", False), ("fails_at", ""), ("lets", 1000)):
        monkeypatch.setattr(Near, name, value)
    return Near


def chosen(found: FindingsList, family: str) -> None:
    """Choose the first finding of a family with the pointer."""
    number = next(i for i, f in enumerate(found.findings) if f.family == family)
    item = found.list.item_of(found.findings[number].key)
    found.list.scrollToItem(item)
    press(found.list.viewport(), found.list.visualItemRect(item).center())
    assert found.current is not None and found.current.family == family


@pytest.mark.parametrize("fails", [False, True])
@pytest.mark.parametrize("draft", ["away"], indirect=True)
@pytest.mark.parametrize("family", ["image-descent-gap", "percent-height-without-reference"])
def test_fixes_come_in_spite_of_all(
    qtbot: QtBot,
    near: type[Near],
    draft: Window,
    family: str,
    fails: bool,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """A new search drops what is being tried, which is asked for again; a surveyor that fails once is asked no more.

    On a page where the list stays as it is, and on one where a finding is told once all widths are known: it stays open.
    """
    assert draft.session is not None
    if family == "image-descent-gap":
        html = "<!doctype html><title>t</title><div style='border:1px solid'><img alt=a src='pictures/badge.svg'></div>"
        draft.session.document.path.with_name("gap.html").write_text(html, encoding="utf-8")
        monkeypatch.setattr(looking, "_LARGE", 1)
        draft = make_window(qtbot, draft.session.document.path.with_name("gap.html"))
        assert draft.session is not None
        draft.session.keep_widths((draft.session.views.viewport.width,))
    session, found, here = draft.session, bench_of(draft).findings, []
    steps = finding_steps
    monkeypatch.setattr(
        search, "finding_steps", lambda page, texts: here.append(page) or steps(page, texts)
    )
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    assert found.search._step.interval() > 0, "it does not spin while it waits"
    hired = near.hired
    near.held, near.fails_at = not fails, "_verdict" if fails else ""
    chosen(found, family)
    if not fails:
        settled()
        assert not found.search.fixes
        session.keep_widths(session.widths)
        qtbot.waitUntil(lambda: not found.search.knows_all, timeout=20_000)
        near.held = False
    qtbot.waitUntil(lambda: found.search.knows_all and bool(found.search.fixes), timeout=20_000)
    assert bool(here) == fails and near.hired == hired


@pytest.mark.parametrize("draft", ["away"], indirect=True)
def test_whoever_chooses_another_finding_meanwhile_keeps_it(
    qtbot: QtBot, near: type[Near], draft: Window
) -> None:
    """While some widths are not known yet; the one that was open before does not come back."""
    assert draft.session is not None
    found = bench_of(draft).findings
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    near.held = True
    qtbot.waitUntil(lambda: found.count.text() == "Looking …", timeout=20_000)
    near.held = False
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    chosen(found, "percent-height-without-reference")
    assert "Looking" not in found.count.text()
    near.lets = 1
    draft.session.keep_widths(draft.session.widths)
    qtbot.waitUntil(lambda: found.current is None, timeout=20_000)
    chosen(found, "image-descent-gap")
    near.lets = 1000
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    assert found.current is not None and found.current.family == "image-descent-gap"


def test_new_rows_do_not_move_what_is_read(qtbot: QtBot, draft: Window) -> None:
    """The row that is read stays where it is when a worse finding comes above it; rows are whole when first seen."""
    found, session = bench_of(draft).findings, draft.session
    assert session is not None
    press(bench_of(draft).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    settled()
    metrics = found.list.fontMetrics()
    room = QRect(0, 0, found.list.viewport().width() - 26, 1000)
    for row in range(found.list.count()):
        item = found.list.item(row)
        assert item is not None
        words = metrics.boundingRect(room, int(Qt.TextFlag.TextWordWrap), item.text()).height()
        assert found.list.visualItemRect(item).height() >= words, item.text()
    bar = found.list.verticalScrollBar()
    assert bar is not None and bar.maximum() > 300
    bar.setValue(300)
    read = found.list.reading()
    assert read is not None
    before = [f.key for f in found.findings]
    main = next(e for e in session.views.page.elements if e.tag == "main")
    session.editor.apply(session.editor.plan(main, "width", ("",), "1900px").patch)
    qtbot.waitUntil(
        lambda: found.search.knows_all and [f.key for f in found.findings] != before, timeout=20_000
    )
    settled()
    assert found.list.reading() == read
