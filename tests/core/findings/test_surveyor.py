"""What another process finds on a page, and what it says of fixes, is what is found here."""

import os
import signal
from collections.abc import Generator, Iterator
from dataclasses import replace
from pathlib import Path
from time import sleep
from typing import TypeVar

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.findings import findings_of
from redcrate.core.findings.at_widths import held_at
from redcrate.core.findings.finding import Finding, Fix, Key
from redcrate.core.findings.surveyor import FarVerifier, Surveyor
from redcrate.core.findings.verifying import MOST_FIXES, Verifier
from redcrate.core.processes import WorkersLost
from redcrate.core.session import Session
from tests.conftest import ROOT

DRAFT = ROOT / "demo" / "ploverfield-draft" / "index.html"
WIDTHS = (1100.0, 390.0)
Answer = TypeVar("Answer")


@pytest.fixture
def surveyor() -> Iterator[Surveyor]:
    """A surveyor that is let go in the end."""
    hired = Surveyor()
    yield hired
    hired.close()


def answer(steps: Generator[None, None, Answer], pause: float = 0.002) -> Answer:
    """What comes of it; pause: between two steps, s."""
    while True:
        try:
            next(steps)
        except StopIteration as end:
            found: Answer = end.value
            return found
        sleep(pause)


def looked_away(session: Session, surveyor: Surveyor) -> dict[float, list[Finding]]:
    """The findings at the widths, on the session's own elements."""
    surveyor.renew(session.document.trial().snapshot(), session.views.viewport.height)
    root = session.views.page.source.markup.root
    return {w: [told.on(root) for told in answer(surveyor.look(w))] for w in WIDTHS}


def looked_here(session: Session) -> dict[float, list[Finding]]:
    """The same, found here."""
    texts = session.document.texts()
    return {w: list(findings_of(session.views.page_at(w), texts)) for w in WIDTHS}


def told(found: dict[float, list[Finding]]) -> list[object]:
    """All that findings say, with the very elements."""
    return [
        (w, f.key, f.severity, f.sentence, f.elements, f.numbers, f.cause, len(f.ways), f.fold, f.fold_name)
        for w, those in found.items()
        for f in those
    ]  # fmt: skip


def fixes(
    found: dict[float, list[Finding]], verifier: Verifier | FarVerifier
) -> list[tuple[Key, list[Fix | None], frozenset[Key]]]:
    """What all ways of all findings are worth, those of many in one line too."""
    pause = 0.002 if isinstance(verifier, FarVerifier) else 0
    return [
        (
            f.key,
            [answer(verifier.steps(way, f), pause) for way in f.ways[:MOST_FIXES]],
            verifier.mends_too(f),
        )
        for f in (held.finding for held in held_at(found)[::2])  # the half: each is tried at all widths
    ]


def test_the_same_findings_and_fixes(surveyor: Surveyor, tmp_path: Path) -> None:
    """Of the page as it is here and now, with edits that are not saved; and again after the next one."""
    more = "".join(f".unused{n} {{ top: {n}px }}\n" for n in range(5))
    html = DRAFT.read_text(encoding="utf-8").replace("</head>", f"<style>{more}</style></head>")
    for part in ("style.css", "pictures"):
        (tmp_path / part).symlink_to(DRAFT.with_name(part))
    (tmp_path / "index.html").write_text(html, encoding="utf-8")
    session = Session(tmp_path / "index.html", WIDTHS[0])
    for edit in ("#x { top: 12 }\n", "img { margin-left: 3px }\n"):
        session.editor.apply(Patch((TextEdit("style.css", 0, 0, edit),), "an edit"))
        here, away = looked_here(session), looked_away(session, surveyor)
        assert told(here) == told(away) and len(here[390.0]) > 10
    pages = {w: session.views.page_at(w) for w in WIDTHS}
    known = fixes(here, Verifier(pages, here, session.editor.tried_at_widths))
    far = fixes(away, FarVerifier(surveyor))
    assert [(key, written(found), too) for key, found, too in known] == [
        (key, written(found), too) for key, found, too in far
    ]
    assert any(mended for _, _, mended in known)
    assert {f.moves for _, those, _ in far for f in those if f} > {0}
    many = next(h.finding for h in held_at(away) if h.finding.parts)
    assert answer(FarVerifier(surveyor).steps(many.ways[0], many)) is not None


def test_a_fix_that_was_worked_out_here(surveyor: Surveyor) -> None:
    """Of a finding that another search has found; one that does not hold, or cannot be worked out, is none."""
    session = Session(DRAFT, WIDTHS[0])
    here, _ = looked_here(session), looked_away(session, surveyor)
    pages = {w: session.views.page_at(w) for w in WIDTHS}
    near = Verifier(pages, here, session.editor.tried_at_widths)
    known, tried = fixes(here, near), fixes(here, FarVerifier(surveyor))
    assert [written(found) for _, found, _ in known] == [written(found) for _, found, _ in tried]
    assert any(None in found for _, found, _ in known)
    broken = replace(here[390.0][0], ways=(lambda: Fix(str(1 // 0), Patch((), "")),))
    assert answer(FarVerifier(surveyor).steps(broken.ways[0], broken)) is None


def written(found: list[Fix | None]) -> list[Patch | None]:
    """What fixes write; how much they move is told once, for the first finding that shares them."""
    return [None if fix is None else fix.patch for fix in found]


def test_a_lost_process_is_told(surveyor: Surveyor) -> None:
    """Whoever asks hears of it, while it waits and afterwards; closing it twice does nothing."""
    session = Session(DRAFT, WIDTHS[0])
    surveyor.renew(session.document.trial().snapshot(), 800)
    waiting = surveyor.look(390)
    next(waiting)
    assert surveyor._number is not None
    os.kill(surveyor._number.result(), signal.SIGKILL)
    with pytest.raises(WorkersLost):
        answer(waiting)
    with pytest.raises(WorkersLost):
        answer(surveyor.look(390))


def test_whoever_is_let_go_ends_at_once(surveyor: Surveyor) -> None:
    """Whatever it is at, and however often it is told."""
    surveyor.renew(Session(DRAFT, WIDTHS[0]).document.trial().snapshot(), 800)
    next(surveyor._answer(sleep, 60))
    assert surveyor._number is not None
    number = surveyor._number.result()
    for _ in range(2):
        surveyor.close()
    for _ in range(500):
        if not Path(f"/proc/{number}/cmdline").exists():
            return
        sleep(0.01)
    raise AssertionError("it goes on")


def test_an_answer_about_earlier_texts_never_comes(surveyor: Surveyor) -> None:
    """What was asked before the texts changed is dropped, and the next answer is about those that are."""
    session = Session(DRAFT, WIDTHS[0])
    snapshot = session.document.trial().snapshot()
    surveyor.renew(snapshot, 800)
    dropped = [surveyor.look(390), surveyor.verdict(("", (), ""), (), 0), surveyor.look(820)]
    for steps in dropped:
        next(steps)
    away = looked_away(session, surveyor)
    assert told(away) == told(looked_here(session))
    with pytest.raises(WorkersLost):
        answer(dropped[-1])
    key = next(f.key for f in away[390.0] if f.key not in {f.key for f in away[1100.0]})
    surveyor.renew(snapshot, 800)
    answer(surveyor.look(1100))
    with pytest.raises(
        WorkersLost
    ):  # of the widths that were looked at before nothing is known any more
        answer(surveyor.verdict(key, (), 0))
