"""A sweep held against a layout at every integer width."""

from dataclasses import dataclass
from pathlib import Path

from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.style.media import Viewport
from redcrate.core.widths.events import Event, events_between, media_events, settled
from redcrate.core.widths.standing_at import standing_of
from redcrate.core.widths.sweep import Sweep

HEIGHT = 800.0


@dataclass(frozen=True, slots=True, eq=False)
class Held:
    """missed, invented: events. off: by how much a piece is away from its amounts at most, 1/64 px."""

    missed: list[str]
    invented: list[str]
    off: float
    looked_at: int


def sweep_of(path: Path, first: int, last: int, select: str = "", *, lines: bool = False) -> Sweep:
    """A sweep that has run: of the page, or of the first element with a label that begins like that."""
    trial = Trial.of_file(path)
    page = trial.page(Viewport(last, HEIGHT))
    found = next(e.path for e in page.elements if e.label.startswith(select)) if select else None
    sweep = Sweep(
        lambda w, known: trial.page(Viewport(w, HEIGHT), known), first, last, found, lines=lines
    )
    for _ in sweep.run():
        pass
    return sweep


def held_against_every_px(
    path: Path, first: int, last: int, select: str = "", *, lines: bool = False
) -> Held:
    """What the sweep has missed or invented."""
    sweep = sweep_of(path, first, last, select, lines=lines)
    trial, page, before = Trial.of_file(path), None, None
    events: list[Event] = []
    amounts = {}
    for width in range(first, last + 1):
        page = trial.page(Viewport(width, HEIGHT), page)
        element = next(e for e in page.elements if e.label.startswith(select)) if select else None
        now = standing_of(page, element, sweep.quantities, lines=lines)
        if before is not None:
            events += events_between(page, width, before, now)
        before, amounts[width] = now, now.amounts
    assert isinstance(page, Page)
    events = sorted([*media_events(page, first, last), *events], key=lambda e: e.width)
    real = {e.key: e.sentence for e in settled(events)}
    told = {e.key: e.sentence for e in sweep.swept.events}
    off = 0.0
    for number, pieces in enumerate(sweep.swept.pieces.values()):
        assert [p.first for p in pieces] == [first, *(p.last + 1 for p in pieces[:-1])]
        assert pieces[-1].last == last
        for piece in pieces:
            for width in range(piece.first, piece.last + 1):
                drawn, wanted = piece.at(width), amounts[width][number]
                assert (drawn is None) == (wanted is None)
                off = max(off, abs(drawn - wanted) if drawn is not None and wanted is not None else 0)
    return Held(
        sorted(f"{s} ({k[0]})" for k, s in real.items() if k not in told),
        sorted(f"{s} ({k[0]})" for k, s in told.items() if k not in real),
        off,
        sweep.looked_at,
    )
