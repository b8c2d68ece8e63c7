"""Makes every picture in docs/screenshots from the demo page, offscreen.

With `--all-states` it makes pictures of every screen when it is empty, busy, wrong, full and in half a screen instead, in
out/states, to be looked at; they are not kept.
"""

import os
import shutil
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtTest import QTest as _QTest
from PyQt6.QtWidgets import QApplication

from redcrate.app.bench.sides import Side
from redcrate.app.painting.drawing_files import drawing_image
from redcrate.app.picture import picture_of_bench
from redcrate.app.screens import (
    SCREENS,
    bench_of,
    diagrams_of,
    exercises_of,
    findings_of,
    making_of,
    proof_of,
    source_of,
    widths_of,
)
from redcrate.app.theme.look import choose_palette
from redcrate.app.window import Window
from redcrate.core.comp.measuring import distance
from redcrate.core.diagram.choosing import Which
from redcrate.core.diagram.codes import DARK, LIGHT
from redcrate.core.diagram.page_plan import PlanOptions, page_plan
from redcrate.core.edit.gives import Gives
from redcrate.core.proof.browsers import find_browser
from redcrate.core.proof.errors import NoBrowser
from redcrate.core.session import Session
from redcrate.demo_pages import demo_page

QTest: Any = _QTest  # its own type says that each of its functions takes a QTest first
FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"


def type_into_padding(text: str) -> Callable[[Window], None]:
    """Type into the left padding, without Enter."""

    def prepare(window: Window) -> None:
        field = bench_of(window).budget.cell("across", "padding", "left").field
        field.setFocus()
        QTest.keyClicks(field, text)

    return prepare


def source(window: Window) -> None:
    """The Source screen at the rule of the notice, with two mistakes typed into it."""
    assert window.session is not None
    text = window.session.document.text("style.css").text
    line = text[: text.index(".notice {")].count("\n") + 1
    window.show_screen("source", ("style.css", line))
    editor = source_of(window).editor("style.css")
    editor.insertAt("  pading: 3px;\n  margin: 4px, 5px;\n", line, 0)
    source_of(window).take_typing()


def predicting(window: Window) -> None:
    """A padding that grows, predicted a little too small: what was said beside what it became."""
    assert window.session is not None
    session, bench = window.session, bench_of(window)
    session.predict_first.switch(True)
    bench.width_bar.predicts.setChecked(True)
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    plan = session.editor.plan(notice, "padding", ("left",), "30")
    session.predict_first.offer(plan.patch, said=plan.asked)
    QTest.keyClicks(bench.prediction.field, "554")
    bench.prediction.say.click()


def making(window: Window) -> None:
    """The page made an exercise of: three boxes pointed at, one condition and one hint chosen before."""
    assert window.session is not None
    session = window.session
    session.editor.set_gives(Gives.BOX)
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    session.editor.apply(session.editor.plan(notice, "padding", ("left",), "40").patch)
    window.show_screen("make-exercise")
    screen = making_of(window)
    screen.title.setText("Forty on the left")
    screen.task.setPlainText(
        "Set 40 px of padding on the left of the notice. The box becomes wider; keep the plots in one row."
    )
    session.views.select(next(e for e in session.views.page.elements if "notice" in e.classes))
    screen.ask.click()
    screen.offers.setCurrentRow(1)
    screen.amount.setText("556")
    screen.say.setText("The content is narrower, so the box did not change.")
    screen.give.click()
    session.views.select(*(e for e in session.views.page.elements if "plot" in e.classes))
    screen.ask.click()


def new_page(window: Window) -> None:
    """The screen on which a page is begun."""
    window.show_screen("new")


def findings(window: Window) -> None:
    """The findings of the draft, one of them read: why a block wraps."""
    window.show_screen("findings")
    screen = findings_of(window)
    screen.search.look_now()
    while screen.current is None or screen.current.family != "share-rounding":
        screen.go_to_finding(1)
    screen.search.look_now()
    screen.search.fixes_now()


def arranging(window: Window) -> None:
    """The tools for rows and centring, for the footer."""
    window.actions_by_name["arrange"].trigger()


def settled(window: Window) -> None:
    """All drawings of the contact sheet that are seen are made."""
    sheet = diagrams_of(window).sheet
    application = QApplication.instance()
    assert application is not None
    application.processEvents()
    while not all(sheet.is_current(sheet.entries.entries[row].element) for row in sheet._seen()):
        application.processEvents()


def side_by_side(window: Window) -> None:
    """The page at its three widths, a plot selected in all of them, with what was found at each."""
    window.show_screen("widths")
    application = QApplication.instance()
    assert application is not None
    while not all(column.found.text() for column in widths_of(window).columns):
        application.processEvents()


def sweeping(window: Window) -> None:
    """The sweep of a plot, both sides of the px at which a second one shares its row."""
    side_by_side(window)
    screen = widths_of(window)
    screen.below["Sweep"].setFocus()
    screen.below["Sweep"].click()
    application = QApplication.instance()
    assert application is not None
    while "laid out at" not in screen.sweep.words.text():
        application.processEvents()
    screen.sweep.events.setCurrentRow(1)
    application.processEvents()


def comp(window: Window) -> None:
    """The demo's comp over the page, the notice measured on it."""
    assert window.session is not None
    bench = bench_of(window)
    bench.show_side(Side.COMP)
    bench.comp.take(window.session.document.path.parent / "comp" / "ploverfield-1100.svg")
    bench.comp.measure.setChecked(True)
    tool = bench.sheet.measure_tool
    tool.measure, tool.at = distance((78, 250), (726, 250)), (726, 250)
    tool.told()


def contact_sheet(window: Window) -> None:
    """The drawings of the containers, alike ones as one."""
    window.show_screen("diagrams")
    diagrams_of(window).which.choose(Which.CONTAINERS)
    diagrams_of(window).folds.setChecked(True)
    settled(window)


def large_drawing(window: Window) -> None:
    """The drawing of the tides, large, with where they stand."""
    window.actions_by_name["diagram"].trigger()
    settled(window)


def drawings() -> None:
    """The plan of the page."""
    page = Session(demo_page()).views.page
    name = "ploverfield / index.html"
    drawing_image(page_plan(page, None, PlanOptions(page_name=name)), LIGHT).save(
        str(FOLDER / "page-plan.png")
    )


def exercising(window: Window) -> None:
    """An exercise with the mistake that is made most, checked, with two of its hints."""
    window.show_screen("exercises")
    screen = exercises_of(window)
    application = QApplication.instance()
    assert application is not None
    before = window.session
    screen.begin.click()
    while window.session is before:
        application.processEvents()
    session = window.session
    assert session is not None
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    session.editor.set_gives(Gives.BOX)
    session.editor.apply(session.editor.plan(notice, "padding", ("left", "right"), "30").patch)
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    session.editor.apply(session.editor.plan(notice, "width", ("",), "636").patch)
    window.show_screen("exercises")
    screen = exercises_of(window)
    screen.check.click()
    screen.hint.click()
    application.processEvents()


def proving(window: Window) -> None:
    """The page beside a browser: a number's field is another one there."""
    window.show_screen("proof")
    screen = proof_of(window)
    application = QApplication.instance()
    assert application is not None
    screen.ask.click()
    while screen.asking.is_asking:
        application.processEvents()
    screen.causes.setCurrentRow(0)
    application.processEvents()


def prove(folder: Path) -> None:
    """The picture of the Proof screen, of the cards with one more field."""
    try:
        find_browser()
    except NoBrowser as problem:
        print(f"proof.png stays as it is: {problem.sentence}")
        return
    page = folder / "index.html"
    text = page.read_text(encoding="utf-8")
    field = '<p>How many jars <input type="number"> <b>(at most twelve)</b></p>'
    page.write_text(text.replace("<main>", f"<main>{field}", 1), encoding="utf-8")
    picture_of_bench(page, FOLDER / "proof.png", width=1100, prepare=proving)


PICTURES: list[tuple[str, str, float | None, Callable[[Window], None] | None]] = [
    ("bench", ".notice", None, None),
    ("bench-typing", ".notice", None, type_into_padding("60")),
    ("predict-first", ".notice", None, predicting),
    ("make-exercise", "", None, making),
    ("source", ".notice", None, source),
    ("new-page", "", None, new_page),
    ("arrange", "footer", None, arranging),
    ("widths", ".plot", None, side_by_side),
    ("sweep", ".plot", None, sweeping),
    ("comp", ".notice", None, comp),
    ("diagrams", ".notice", None, contact_sheet),
    ("diagrams-large", ".tides", None, large_drawing),
]


CARDS = [("cards-row", "h1"), ("cards-grid", "#plots")]


def main() -> None:
    """All pictures."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        shutil.copytree(demo_page().parent, Path(folder) / "ploverfield")
        os.environ["XDG_DATA_HOME"] = str(Path(folder) / "data")  # a learner who has done nothing yet
        page = Path(folder) / "ploverfield" / "index.html"
        for name, select, width, prepare in PICTURES:
            picture_of_bench(page, FOLDER / f"{name}.png", select=select, width=width, prepare=prepare)
        draft = Path(folder) / "ploverfield-draft"
        shutil.copytree(demo_page("ploverfield-draft").parent, draft)
        picture_of_bench(draft / "index.html", FOLDER / "findings.png", prepare=findings)
        picture_of_bench(page, FOLDER / "exercises.png", prepare=exercising)
        cards = Path(folder) / "ploverfield-cards"
        shutil.copytree(demo_page("ploverfield-cards").parent, cards)
        for name, select in CARDS:
            target = FOLDER / f"{name}.png"
            picture_of_bench(cards / "index.html", target, select=select, width=1100)
        prove(cards)
        choose_palette(DARK)
        untouched = Path(folder) / "again" / "ploverfield"  # no comp lies over it
        shutil.copytree(demo_page().parent, untouched)
        picture_of_bench(
            untouched / "index.html", FOLDER / "bench-dark.png", select=".notice", dark=True
        )
        choose_palette(LIGHT)
    drawings()


EMPTY = "<!doctype html><title>Empty</title><p>One line."
STATES = Path(__file__).parent.parent / "out" / "states"


def at_work(name: str) -> Callable[[Window], None]:
    """A screen whose long work has just begun."""

    def prepare(window: Window) -> None:
        window.show_screen(name)
        if name == "widths":
            widths_of(window).below["Sweep"].click()
        elif name == "proof":
            proof_of(window).ask.click()
        elif name == "bench":
            bench_of(window).show_side(Side.FINDINGS)

    return prepare


def going_to(name: str) -> Callable[[Window], None]:
    """A screen as one comes to it."""
    return lambda window: window.show_screen(name)


def all_states() -> None:
    """Every screen in each of its states."""
    shutil.rmtree(STATES, ignore_errors=True)
    STATES.mkdir(parents=True)
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_DATA_HOME"] = str(Path(folder) / "data")
        empty = Path(folder) / "empty.html"
        empty.write_text(EMPTY, encoding="utf-8")
        pages = {"empty": empty}
        for name in ("ploverfield", "ploverfield-draft"):
            shutil.copytree(demo_page(name).parent, Path(folder) / name)
            pages["full" if name == "ploverfield" else "wrong"] = Path(folder) / name / "index.html"
        for screen in SCREENS:
            for state, page in pages.items():
                target = STATES / f"{screen.name}-{state}.png"
                picture_of_bench(page, target, select=".notice", prepare=going_to(screen.name))
            busy, half = (STATES / f"{screen.name}-{state}.png" for state in ("busy", "half"))
            picture_of_bench(pages["full"], busy, select=".plot", prepare=at_work(screen.name))
            picture_of_bench(
                pages["full"],
                half,
                select=".notice",
                size=(900, 600),
                prepare=going_to(screen.name),
            )


if __name__ == "__main__":
    all_states() if "--all-states" in sys.argv[1:] else main()
