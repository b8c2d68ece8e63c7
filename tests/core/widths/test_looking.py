"""A pool of worker processes sees of a page what one sees alone, and what goes wrong with it costs nothing but time."""

import os
import pickle
from collections.abc import Callable, Iterator
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.files.trial import Trial
from redcrate.core.findings.breaks import BreakSearch
from redcrate.core.processes import WorkersLost
from redcrate.core.session import Session
from redcrate.core.style.media import Viewport
from redcrate.core.widths import looking
from redcrate.core.widths.looking import WorkerPool
from redcrate.core.widths.standing_at import HowItStands, Quantity
from redcrate.core.widths.sweep import Sweep
from tests.conftest import DEMO
from tests.snapshot import page_snapshot

ASKED = HowItStands(None, (Quantity.OVER,), lines=False)


@pytest.fixture
def trial(monkeypatch: pytest.MonkeyPatch) -> Trial:
    """The demo with an edit that is not saved, taken for a large page where two may work."""
    monkeypatch.setattr(looking, "_LARGE", 10)
    monkeypatch.setattr(os, "sched_getaffinity", lambda _: {0, 1})
    html = DEMO.read_text(encoding="utf-8").replace("<body", "<body style='min-width: 560px'", 1)
    return Trial.of_file(DEMO).with_html(html)


@pytest.fixture
def looked_here(monkeypatch: pytest.MonkeyPatch) -> list[int]:
    """The widths that are looked at in this process."""
    seen: list[int] = []
    look = Sweep._look
    monkeypatch.setattr(Sweep, "_look", lambda self, width: seen.append(width) or look(self, width))
    return seen


def alone(trial: Trial) -> Sweep:
    """A sweep that nobody helps with."""
    sweep = Sweep(lambda width, known: trial.page(Viewport(width, 800), known), 480, 680)
    assert list(sweep.run())[-1] == 1.0
    return sweep


def test_a_pool_sees_what_one_sees(trial: Trial, looked_here: list[int]) -> None:
    """The same widths, pieces and events, of the texts as they are here; and it does most of the work."""
    one = alone(trial)
    looked_here.clear()
    pool = Sweep.of_trial(trial, 800, 480, 680)
    steps = list(pool.run())
    assert steps == sorted(steps) and steps[-1] == 1.0
    assert any("overflows the viewport" in e.sentence for e in pool.swept.events), "the edit is seen"
    assert (pool.swept.pieces, pool.swept.events) == (one.swept.pieces, one.swept.events)
    assert pool.looked_at == one.looked_at > 20
    assert len(looked_here) == 1 + 4, "the page as such, and a few while they come"


@pytest.mark.parametrize("lost", ["__init__", "look_at", "look_into"])
def test_what_a_lost_pool_leaves_is_looked_at_here(
    trial: Trial, lost: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Where there are no processes, or they die in the midst of it."""
    does: Callable[..., Iterator[object]] = getattr(WorkerPool, lost)

    def fails(*given: object, **named: object) -> Iterator[object]:
        if lost != "__init__":
            found = does(*given, **named)
            yield next(found)
        raise WorkersLost

    def fails_at_once(*_: object, **__: object) -> None:
        raise WorkersLost

    monkeypatch.setattr(WorkerPool, lost, fails_at_once if lost == "__init__" else fails)
    sweep = Sweep.of_trial(trial, 800, 480, 680)
    assert list(sweep.run())[-1] == 1.0
    one = alone(trial)
    assert (sweep.swept.pieces, sweep.swept.events) == (one.swept.pieces, one.swept.events)


def test_a_fault_in_a_process_loses_the_pool(trial: Trial) -> None:
    """It comes to light where the same is done again."""
    pool = WorkerPool(trial.snapshot(), 800, ASKED, 1)
    assert [width for width, _ in pool.look_at([480, 500])] == [480, 500]
    with pytest.raises(WorkersLost):
        list(pool.look_at(["no width"]))  # type: ignore[list-item]
    pool.close()


def test_a_sweep_that_is_given_up_lets_its_pool_go(
    trial: Trial, monkeypatch: pytest.MonkeyPatch
) -> None:
    """At once, however far it is."""
    closed: list[WorkerPool[Any]] = []
    close = WorkerPool.close
    monkeypatch.setattr(WorkerPool, "close", lambda self: closed.append(self) or close(self))
    run = Sweep.of_trial(trial, 800, 480, 680).run()
    next(run)
    assert not closed
    run.close()  # type: ignore[attr-defined]
    assert len(closed) == 1
    with pytest.raises(WorkersLost):
        list(closed[0].look_at([500]))


def test_a_pool_finds_what_breaks(trial: Trial, monkeypatch: pytest.MonkeyPatch) -> None:
    """The same findings in the same ranges; they are made here only where one begins."""
    alone = BreakSearch(
        lambda width, known: trial.page(Viewport(width, 800), known), trial.texts, 480, 640
    )
    pool = BreakSearch.of_trial(trial, 800, 480, 640)
    assert list(alone.run())[-1] == list(pool.run())[-1] == 1.0
    looked: list[int] = []
    look = BreakSearch._findings_at
    monkeypatch.setattr(
        BreakSearch, "_findings_at", lambda self, width: looked.append(width) or look(self, width)
    )
    told = [(b.finding.sentence, b.ranges) for b in pool.broken]
    assert told and told == [(b.finding.sentence, b.ranges) for b in alone.broken]
    assert set(looked) == {ranges[0].least for _, ranges in told}


@pytest.mark.parametrize(
    ("elements", "cores", "number"),
    [(399, 8, 0), (400, 8, 4), (400, 3, 3), (400, 1, 0), (9000, 8, 2), (20_000, 2, 1), (20_001, 8, 0)],
)
def test_how_many_processes(
    elements: int, cores: int, number: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    """As many as there are cores, up to four, and no more pages than there is memory for."""
    monkeypatch.setattr(os, "sched_getaffinity", lambda _: set(range(cores)))
    page = SimpleNamespace(elements=range(elements))
    assert looking.worker_count(page) == number  # type: ignore[arg-type]


def test_a_page_is_the_same_wherever_its_texts_are_sent(demo_copy: Path) -> None:
    """At first, and after an edit, when the process has an earlier page of it; in all that can be seen."""
    session = Session(demo_copy, 900)
    there: Trial | None = None
    for new in ("", "main { padding: 3px 7% } "):
        session.editor.apply(Patch((TextEdit("style.css", 0, 0, new),), "typed"))
        sent = pickle.loads(pickle.dumps(session.document.trial().snapshot()))
        there = Trial.of_snapshot(sent, there)
        for width in (900, 391):
            here = session.views.page_at(width)
            assert page_snapshot(there.page(here.viewport)) == page_snapshot(here), (new, width)
