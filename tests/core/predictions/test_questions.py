"""What is asked about a change: what really becomes another, never what was said, and what the answer was worth."""

from pathlib import Path

import pytest

from redcrate.core.edit.choices import choice_patch
from redcrate.core.edit.gives import Gives
from redcrate.core.errors import EditRefused
from redcrate.core.explain.across import across
from redcrate.core.explain.down import down
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.predictions.answering import told
from redcrate.core.predictions.numbers import both_of, number_questions, sum_said
from redcrate.core.predictions.question import (
    NumberQuestion,
    Outcome,
    OutcomeQuestion,
    PlaceQuestion,
    Question,
    Topic,
)
from redcrate.core.predictions.record import Record, record_of
from redcrate.core.session import Change, Session
from redcrate.core.units import LayoutUnit, format_px, from_px
from tests.conftest import CASES, DEMO


def session_of(folder: Path, css: str, body: str) -> Session:
    """A page in a window of 800 px, with the switch on."""
    folder.mkdir(exist_ok=True)
    path = folder / "page.html"
    path.write_text(
        f"<!doctype html><html><head><style>body {{ margin: 0 }} {css}</style></head><body>{body}</body></html>",
        "utf-8",
    )
    session = Session(path, 800)
    session.predict_first.switch(True)
    return session


def element(session: Session, name: str) -> Element:
    """The element with an id."""
    return next(e for e in session.views.page.elements if e.id == name)


def typed(
    session: Session, name: str, part: str, side: str, value: str, gives: Gives = Gives.BOX
) -> Question | None:
    """The question about a typed term; None where it was done at once."""
    session.views.select(element(session, name))
    session.editor.set_gives(gives)
    plan = session.editor.plan(element(session, name), part, (side,), value)
    session.predict_first.offer(plan.patch, said=plan.asked)
    waiting = session.predict_first.waiting
    return None if waiting is None else waiting.question


def chosen(session: Session, name: str, what: str, value: str) -> Question | None:
    """The question about a taken choice."""
    one = element(session, name)
    session.views.select(one)
    patch = choice_patch(session.views.page, session.document.texts(), one, what, value)
    session.predict_first.offer(patch)
    waiting = session.predict_first.waiting
    return None if waiting is None else waiting.question


BOX = "#a { width: 400px; padding: 20px; border: 5px solid; margin: 10px 30px }"


@pytest.mark.parametrize(
    ("part", "side", "value", "gives", "kind", "amount", "why"),
    [
        ("padding", "left", "50px", Gives.BOX, "margin", 540, "30 margin + 5 border + 50 padding + 400 content"),
        ("padding", "left", "50px", Gives.CONTENT, "content", 370, "370 px content + 70 padding"),
        ("padding", "left", "50px", Gives.MARGINS, "border", 480, "5 border + 50 padding + 400 content"),
        ("padding", "top", "50px", Gives.BOX, "height", 98, "5 border + 50 padding + 18 content"),
        ("width", "", "300px", Gives.BOX, "margin", 410, "+ 300 content +"),
    ],
)  # fmt: skip
def test_sums(
    tmp_path: Path, part: str, side: str, value: str, gives: Gives, kind: str, amount: int, why: str
) -> None:
    """The widest box that changes; what gives is asked for and not told; the sum is the reason."""
    session = session_of(tmp_path, BOX, "<div id=a>x</div>")
    question = typed(session, "a", part, side, value, gives)
    assert isinstance(question, NumberQuestion) and question.topic is Topic.SUMS
    assert (question.kind, question.after.amount) == (kind, from_px(amount))
    assert why in question.why


def test_a_number_that_was_typed_is_not_asked_for(tmp_path: Path) -> None:
    """Without padding, border and margins the width is just what was typed: nothing is left to work out but the rest."""
    session = session_of(tmp_path, "#a { width: 400px }", "<div id=a>x</div>")
    question = typed(session, "a", "width", "", "300px")
    assert isinstance(question, NumberQuestion)
    assert (question.kind, question.after.amount) == ("left", from_px(500))
    assert question.why == "800 − 300 = 500."


@pytest.mark.parametrize(
    ("css", "side", "kind", "amount", "why"),
    [
        (
            "#a { margin-bottom: 10px } #b { margin-top: 30px }",
            "bottom",
            "gap",
            30,
            "2 margins collapse (20 and 30)",
        ),
        ("#a { margin-bottom: 10px } #b { margin-top: 30px }", "bottom", "gap", 30, ""),
        ("main { border: 1px solid }", "top", "top", 21, "20 px above it: its own top margin"),
        ("main { margin-top: 4px }", "top", "top", 0, "2 margins collapse"),
    ],
)
def test_margins_that_meet(
    tmp_path: Path, css: str, side: str, kind: str, amount: int, why: str
) -> None:
    """Between neighbours the larger one counts, and through a parent's edge they escape."""
    session = session_of(tmp_path, css, "<main id=m><div id=a>x</div><div id=b>y</div></main>")
    question = typed(session, "a", "margin", side, "20px")
    assert isinstance(question, NumberQuestion) and question.topic is Topic.MARGINS
    assert (question.kind, question.after.amount) == (kind, from_px(amount))
    assert why in question.why


def test_the_gap_above_is_asked_for_too(tmp_path: Path) -> None:
    """From the block that comes before in the flow; a float between them counts for none."""
    body = "<p id=a>x</p><div style='float:left'>f</div><div id=b>y</div>"
    session = session_of(tmp_path, "p { margin: 0 0 12px }", body)
    question = typed(session, "b", "margin", "top", "9px")
    assert isinstance(question, NumberQuestion) and question.after.amount == from_px(12)
    assert question.words == "How many px will there be from p#a down to div#b?"


@pytest.mark.parametrize("between", ["position: absolute", "display: inline-block", "float: left"])
def test_the_gap_is_that_to_the_next_block_in_flow(tmp_path: Path, between: str) -> None:
    """What is out of flow or stands on a line is none; of items the container decides, and no gap is asked for."""
    body = f"<main id=m><p id=a>x</p><b style='{between}'>f</b><p id=b>y</p></main>"
    for css, wanted in (("", "p#b"), ("main { display: grid }", "")):
        session = session_of(tmp_path / (wanted or "items"), f"p {{ margin: 0 0 12px }} {css}", body)
        before, one = session.views.page, element(session, "a")
        plan = session.editor.plan(one, "margin", ("bottom",), "20px")
        after = session.document.trial().after(plan.patch)(before)[0]
        both = both_of(before, after, one)
        assert both is not None
        gaps = [q.words for q in number_questions(both) if q.kind == "gap"]
        assert gaps == ([f"How many px will there be from p#a down to {wanted}?"] if wanted else [])


def test_of_two_that_change_the_selected_one_is_asked_about(tmp_path: Path) -> None:
    """Also where another one that changes comes before it; if nothing is selected, that one."""
    body = "<div id=a class=k>x</div><div id=b class=k>y</div>"
    for name, asked in (("b", "b"), ("a", "a")):
        session = session_of(tmp_path / name, ".k { width: 400px; padding: 5px }", body)
        question = typed(session, name, "padding", "left", "50px")
        assert isinstance(question, NumberQuestion) and question.element.id == asked


ROW = "main { width: 600px } .r { float: left; width: 180px; margin-right: 10px }"


@pytest.mark.parametrize(
    ("value", "outcome", "why"),
    [
        ("5px", Outcome.STAYS, "The row uses 585 of 600 px: 15 px free."),
        ("15px", Outcome.DROPS, "needs 205 px and the row has 190 px free: short by 15 px."),
    ],
)
def test_rows(tmp_path: Path, value: str, outcome: Outcome, why: str) -> None:
    """Floats that get tight: all stay, or the last drops."""
    body = "<main><div class=r id=a>x</div><div class=r id=b>y</div><div class=r id=c>z</div></main>"
    session = session_of(tmp_path, ROW, body)
    question = typed(session, "a", "padding", "left", value)
    assert isinstance(question, OutcomeQuestion) and question.outcome is outcome
    assert question.choices == (Outcome.STAYS, Outcome.DROPS, Outcome.STICKS_OUT)
    assert why in question.why


def test_a_row_that_sticks_out_and_one_that_takes_another(tmp_path: Path) -> None:
    """Flex items that may not shrink; a float that dropped and fits again, which is a fourth choice."""
    flex = "main { display: flex; width: 600px } .r { flex: none; width: 290px }"
    session = session_of(
        tmp_path, flex, "<main><div class=r id=a>x</div><div class=r id=b>y</div></main>"
    )
    question = typed(session, "a", "padding", "left", "30px")
    assert isinstance(question, OutcomeQuestion) and question.outcome is Outcome.STICKS_OUT
    assert question.why == "The row uses 640 of 600 px: 40 px too wide."
    wide = "main { width: 600px } #a { float: left; width: 400px } #b { float: left; width: 250px }"
    session = session_of(tmp_path, wide, "<main><div id=a>x</div><div id=b>y</div></main>")
    question = typed(session, "a", "width", "", "340px")
    assert isinstance(question, OutcomeQuestion)
    assert question.outcome is Outcome.COMES_UP and Outcome.COMES_UP in question.choices


def test_the_changed_one_itself_drops_and_an_exact_fit_does_not(tmp_path: Path) -> None:
    """The reason is what it lacked; with 0 left all stay, and with much room nobody asks about the row."""
    css = "main { width: 600px } div { float: left } #a { width: 400px } #b { width: 150px }"
    for width, outcome, why in (
        ("250px", Outcome.DROPS, "50 px"),
        ("200px", Outcome.STAYS, "The row uses 600 of 600 px: 0 px free."),
    ):
        session = session_of(tmp_path, css, "<main><div id=a>x</div><div id=b>y</div></main>")
        question = typed(session, "b", "width", "", width)
        assert isinstance(question, OutcomeQuestion) and question.outcome is outcome
        assert why in question.why
    narrow = css.replace("400px", "100px")
    session = session_of(tmp_path, narrow, "<main><div id=a>x</div><div id=b>y</div></main>")
    question = typed(session, "b", "padding", "left", "9px")
    assert isinstance(question, NumberQuestion) and question.kind == "margin"


def test_words_that_decide_the_width(tmp_path: Path) -> None:
    """Padding comes on top of them, which can be added up; what the words themselves take cannot."""
    session = session_of(tmp_path, "#a { float: left }", "<div id=a>some words</div>")
    question = typed(session, "a", "padding", "left", "30px")
    assert isinstance(question, NumberQuestion) and question.kind == "margin"
    session.predict_first.show_at_once()
    patch = choice_patch(
        session.views.page, session.document.texts(), element(session, "a"), "visibility", "hidden"
    )
    assert session.predict_first.offer(patch)
    assert typed(session, "a", "width", "", "10px") is not None
    session.predict_first.show_at_once()
    assert typed(session, "a", "width", "", "auto") is None, "as wide as the words: nobody knows"


def test_places(tmp_path: Path) -> None:
    """What flows otherwise is asked for its place, at the size that it will have; what is gone, for who moves up."""
    css = "#a { float: left; width: 100px; height: 50px } #b { clear: both; height: 20px }"
    session = session_of(tmp_path, css, "<div id=a></div><div id=b></div>")
    question = chosen(session, "a", "float", "right")
    assert isinstance(question, PlaceQuestion)
    assert question.after == Rect(*(from_px(n) for n in (700, 0, 100, 50)))
    assert (question.before.x, question.before.width) == (0, from_px(100))
    assert "floats right" in question.why
    session.predict_first.show_at_once()
    question = chosen(session, "a", "display", "none")
    assert isinstance(question, PlaceQuestion) and question.element.id == "b"
    assert question.after.y == 0 and question.before.y == from_px(50)


def test_what_is_not_asked(tmp_path: Path) -> None:
    """What changes no box, text that only looks otherwise, widths that words make, and what is off: done at once."""
    session = session_of(tmp_path, BOX, "<div id=a>x</div>")
    assert typed(session, "a", "width", "", "50%") is None, "as wide as before"
    session = session_of(tmp_path, "#a { width: 100px }", "<div id=a>some words that wrap</div>")
    assert chosen(session, "a", "text-align", "right") is None
    assert chosen(session, "a", "display", "inline-block") is None, "nobody knows how wide words are"
    session.predict_first.switch(False)
    assert typed(session, "a", "width", "", "60px") is None
    assert len(session.editor.history.done) == 3


def test_another_kind_is_asked_the_next_time(tmp_path: Path) -> None:
    """The same step again and again asks for one thing after the other."""
    session = session_of(tmp_path, BOX, "<div id=a>x</div>")
    kinds = []
    for px in (21, 22, 23):
        question = typed(session, "a", "padding", "left", f"{px}px")
        assert isinstance(question, NumberQuestion)
        kinds.append(question.kind)
        session.predict_first.answer(question.after.amount)
    assert kinds == ["margin", "border", "margin"]


def test_one_change_waits_at_a_time_and_is_one_step(tmp_path: Path) -> None:
    """A second one is refused; an answer does the first; what is told goes with the page."""
    session = session_of(tmp_path, BOX, "<div id=a>x</div>")
    predicting, before = session.predict_first, session.document.texts()
    question = typed(session, "a", "padding", "left", "50px", Gives.CONTENT)
    assert predicting.waiting is not None
    assert predicting.waiting.said == "div#a: padding left 20px → 50px", "what gives is not told"
    predicting.show_at_once()
    session.editor.undo()
    question = typed(session, "a", "padding", "left", "50px")
    assert question is not None and session.document.texts() == before
    with pytest.raises(EditRefused, match="another change waits"):
        typed(session, "a", "padding", "left", "60px")
    outcome = predicting.answer(from_px(500))
    assert predicting.told is outcome and not outcome.is_right
    assert outcome.sentence == "It is 540 px, 40 more than your answer."
    assert len(session.editor.history.done) == 1
    with pytest.raises(EditRefused, match="no change waits"):
        predicting.answer(from_px(1))
    heard: list[Change] = []
    session.listen(heard.append)
    one = element(session, "a")
    at_once = choice_patch(session.views.page, session.document.texts(), one, "text-align", "right")
    assert predicting.offer(at_once) and predicting.told is None
    assert heard.count(Change.PREDICTION) == 1, "what was told is of an earlier page"
    session.editor.undo()
    session.editor.undo()
    assert session.document.texts() == before and predicting.told is None


def test_what_answers_are_worth() -> None:
    """Half a px for numbers, 8 px for a hand that moves a ghost; words are never scolding."""
    from redcrate.core.predictions.question import Span

    def unit(px: float) -> LayoutUnit:
        return LayoutUnit(round(px * 64))

    span = Span(True, unit(10), unit(110), unit(0))
    number = NumberQuestion("margin", Topic.SUMS, None, "?", span, span, "")  # type: ignore[arg-type]
    assert told(number, unit(100.5)).is_right and not told(number, unit(100.52)).is_right
    assert told(number, unit(120)).sentence == "It is 100 px, 20 less than your answer."
    there = Rect(unit(50), unit(50), unit(10), unit(10))
    place = PlaceQuestion(None, "?", there, there, "")  # type: ignore[arg-type]
    assert told(place, there.moved(unit(8), unit(-8))).is_right
    assert told(place, there.moved(unit(9), unit(0))).sentence == "It is 9 px further left."
    row = OutcomeQuestion(None, "?", tuple(Outcome), Outcome.DROPS, "")  # type: ignore[arg-type]
    assert told(row, Outcome.DROPS).is_right
    assert told(row, Outcome.STAYS).sentence == "No: one block wraps."
    with pytest.raises(TypeError):
        told(row, there)


def test_the_record(tmp_path: Path) -> None:
    """Counts by topic in one sentence; data that is none is left out."""
    record = Record()
    for topic, right in (
        (Topic.SUMS, True),
        (Topic.SUMS, False),
        (Topic.MARGINS, False),
        (Topic.SUMS, True),
    ):
        record = record.with_one(topic, is_right=right)
    assert record.sentence == "Sums: 2 of 3 right; Collapsing margins: 0 of 1 right"
    assert record_of(record.data).counts == record.counts
    assert Record().sentence == ""
    assert record_of({"sums": (3, 1), "nothing of ours": (1, 1)}).counts == {}


@pytest.mark.parametrize("part", range(4))
def test_the_sum_that_is_said_is_the_box_that_is_laid_out(part: int) -> None:
    """On reference pages: the terms of the explanation add up to the place that is measured and drawn."""
    added = 0
    for path in [DEMO, *sorted(CASES.glob("*.html"))[part::12]]:
        page = Session(path).views.page
        for one in page.elements:
            both = both_of(page, page, one)
            if both is None:
                continue
            box = both.box
            for equation, kind, amount in (
                (across(page, one), "margin", box.margin_box.width),
                (across(page, one), "border", box.border_box.width),
                (down(page, one), "border", box.border_box.height),
            ):
                head, equals, total = sum_said(equation, kind).rpartition(" = ")
                if " + " in head and equals and "px" not in total:
                    assert total == f"{format_px(amount)}.", (path.stem, one.label, kind)
                    added += 1
    assert added > 100
