"""The sweep: an element, or the page, as a function of the window's width, with the events between straight pieces.

Layout is straight in the window's width between events, so a few dozen layouts do instead of a thousand.
"""

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from dataclasses import dataclass

from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.style.media import Viewport
from redcrate.core.widths.events import Event, events_between, media_events, settled
from redcrate.core.widths.looking import Asked, Crew, CrewLost, Looker, PageAt, hands
from redcrate.core.widths.pieces import Piece, pieces_of
from redcrate.core.widths.sampling import Samples, Stretch
from redcrate.core.widths.standing_at import LIKENESS, Quantity, Standing

_NEAR, _PROBES = 4, 320  # so many px next to one another, every so many px
_STEP, _LARGE, _LARGE_STEP = 16, 400, 32  # px; from so many elements on every so many px


@dataclass(frozen=True, slots=True, eq=False)
class Swept:
    """What a sweep has found. label: of the element, or "the page". pieces: by quantity, narrowest window first."""

    label: str
    first: int
    last: int
    pieces: dict[Quantity, tuple[Piece, ...]]
    events: tuple[Event, ...]


class Sweep:
    """A sweep under way: `run` it, and read `swept` whenever you like."""

    def __init__(
        self,
        page_at: PageAt,
        first: int,
        last: int,
        path: tuple[int, ...] | None = None,
        *,
        lines: bool = False,
        crew_for: Callable[[Asked], Crew] | None = None,
    ) -> None:
        """page_at: the page at a width, px, and a page of another width to start from. path: of the element in the
        tree; None: the page. lines: whether line counts are events too, and heights are drawn. crew_for: who looks at
        many widths of a large page at once.
        """
        self.first, self.last = first, last
        self._lines = lines
        own = (
            [Quantity.WIDTH, Quantity.X, Quantity.ROW, Quantity.OVER]
            if path is not None
            else [Quantity.OVER]
        )
        self.quantities = (*own, Quantity.HEIGHT) if lines else tuple(own)
        self._asked = Asked(path, self.quantities, lines)
        self._looker = Looker(page_at, self._asked)
        self._crew_for = crew_for
        self._crew: Crew | None = None
        self._samples = Samples(LIKENESS, self._looker.look, self._look_at, self._look_into)

    @classmethod
    def of_trial(
        cls,
        trial: Trial,
        height: float,
        first: int,
        last: int,
        path: tuple[int, ...] | None = None,
        *,
        lines: bool = False,
    ) -> "Sweep":
        """A sweep of a page in windows of that height, px; several processes look at a large one, where there may be."""

        def crew_for(asked: Asked) -> Crew:
            return Crew(trial.parcel(), height, asked, hands())

        return cls(
            lambda width, known: trial.page(Viewport(width, height), known),
            first,
            last,
            path,
            lines=lines,
            crew_for=crew_for if hands() > 1 else None,
        )

    @property
    def is_of_page(self) -> bool:
        """Whether it is of the page, not of one element."""
        return self._asked.path is None

    def _look_at(self, widths: Sequence[int]) -> Iterator[tuple[int, Standing]]:
        missing = set(widths)
        if self._crew is not None and len(widths) > _NEAR:  # few are done before they have come
            try:
                for width, standing in self._crew.look_at(widths):
                    missing.discard(width)
                    yield width, standing
            except CrewLost:
                self._dismiss()
        for width in sorted(missing):
            yield width, self._looker.look(width)

    def _look_into(self, stretches: Sequence[Stretch[Standing]]) -> Iterator[tuple[int, Standing]]:
        if self._crew is not None:
            try:
                yield from self._crew.look_into(stretches)
                return
            except CrewLost:
                self._dismiss()
        for stretch in stretches:
            yield from LIKENESS.looked_into(stretch, self._looker.look)

    def _dismiss(self) -> None:
        if self._crew is not None:
            self._crew.close()
        self._crew = None

    def run(self) -> Iterator[float]:
        """Yields how much is done, 0 to 1."""
        for _ in self._samples.look([self.last]):
            pass
        with self._many_looked_at() as page:
            step = _STEP if len(page.elements) < _LARGE else _LARGE_STEP
            step *= 1 if self.is_of_page else 2  # the middle of a step is looked at for slopes too
            rules = media_events(page, self.first, self.last)
            edges = [w for event in rules for w in (event.width - 1, event.width)]
            starts = range(self.first, self.last - _NEAR, _PROBES)
            for number, start in enumerate(starts):
                for done in self._samples.look(range(start, start + _NEAR)):
                    yield 0.1 * (number + done) / len(starts)
            if any(self._flickers_at(start) for start in starts):
                rest = self._samples.every(self.first, self.last)
            else:
                rest = self._samples.run(self.first, self.last, step, edges)
            for done in rest:
                yield 0.1 + 0.9 * done
            yield 1.0

    def _flickers_at(self, start: int) -> bool:
        """Whether the cut to 1/64 px decides something from px to px."""
        near = [self._samples.at[w] for w in range(start, start + _NEAR)]
        return any(_flickers(*three) for three in zip(near, near[1:], near[2:], strict=False))

    @contextmanager
    def _many_looked_at(self) -> Iterator[Page]:
        """With a crew, where the page is large enough for one."""
        page = self._looker.page
        assert page is not None
        if self._crew_for is not None and len(page.elements) >= _LARGE:
            with suppress(CrewLost):
                self._crew = self._crew_for(self._asked)
        try:
            yield page
        finally:
            self._dismiss()

    def look_at_every_px(self) -> Iterator[float]:
        """Also what is so within less than a step, and the same on both sides; yields how much is done, 0 to 1."""
        with self._many_looked_at():
            yield from self._samples.every(self.first, self.last)

    @property
    def looked_at(self) -> int:
        """At how many widths the page was laid out so far."""
        return len(self._samples.at)

    @property
    def swept(self) -> Swept:
        """What is known so far."""
        page = self._looker.page
        assert page is not None
        known = sorted(self._samples.at)
        events = media_events(page, self.first, self.last)
        for low, high in zip(known, known[1:], strict=False):
            if high - low == 1:
                events += events_between(page, high, self._samples.at[low], self._samples.at[high])
        breaks = frozenset(e.width for e in events)
        pieces = {q: self._pieces(n, known, breaks) for n, q in enumerate(self.quantities)}
        element = self._looker.element
        return Swept(
            element.label if element else "the page", self.first, self.last, pieces, settled(events)
        )

    def _pieces(self, number: int, known: Sequence[int], breaks: frozenset[int]) -> tuple[Piece, ...]:
        amounts = [(w, self._samples.at[w].amounts[number]) for w in known]
        edges = frozenset(
            b for (a, x), (b, y) in zip(amounts, amounts[1:], strict=False) if b - a == 1 and b in breaks
        )
        return pieces_of(amounts, edges)


def _flickers(one: Standing, between: Standing, other: Standing) -> bool:
    """Whether an element is otherwise at one px than at the px before and after it."""
    return any(
        state == other.elements.get(number) != between.elements.get(number)
        for number, state in one.elements.items()
    )
