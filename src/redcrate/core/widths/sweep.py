"""The sweep: an element, or the page, as a function of the window's width, with the events between straight pieces.

Layout is straight in the window's width between events, so a few dozen layouts do instead of a thousand.
"""

from collections.abc import Iterator, Sequence
from itertools import pairwise

from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.widths.events import Event, events_between, media_events, settled
from redcrate.core.widths.looking import Looking, PageAt, is_large
from redcrate.core.widths.pieces import Piece, pieces_of
from redcrate.core.widths.standing_at import HowItStands, Quantity, Standing

_NEAR, _PROBES = 4, 320  # so many px next to one another, every so many px
_STEP, _LARGE_STEP = 16, 32  # px; of a page, and of a large one


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
    ) -> None:
        """page_at: the page at a width, px, and a page of another width to start from. path: of the element in the
        tree; None: the page. lines: whether line counts are events too, and heights are drawn.
        """
        self._page_at = page_at
        self.first, self.last = first, last
        self._page: Page | None = None
        own = (
            [Quantity.WIDTH, Quantity.X, Quantity.ROW, Quantity.OVER]
            if path is not None
            else [Quantity.OVER]
        )
        self.quantities = (*own, Quantity.HEIGHT) if lines else tuple(own)
        self._question = HowItStands(path, self.quantities, lines)
        self._looking = Looking(self._look, self._question.likeness)
        self._samples = self._looking.samples

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
        sweep = cls(trial.in_windows(height), first, last, path, lines=lines)
        sweep._looking.share_out(trial, height, sweep._question)
        return sweep

    @property
    def is_of_page(self) -> bool:
        """Whether it is of the page, not of one element."""
        return self._question.path is None

    def _look(self, width: int) -> Standing:
        self._page = self._page_at(width, self._page)
        return self._question.answer(self._page)

    def run(self) -> Iterator[float]:
        """Yields how much is done, 0 to 1."""
        for _ in self._samples.look([self.last]):
            pass
        page = self._page
        assert page is not None
        with self._looking.at_work(page):
            step = _LARGE_STEP if is_large(page) else _STEP
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

    def look_at_every_px(self) -> Iterator[float]:
        """Also what is so within less than a step, and the same on both sides; yields how much is done, 0 to 1."""
        assert self._page is not None
        with self._looking.at_work(self._page):
            yield from self._samples.every(self.first, self.last)

    @property
    def looked_at(self) -> int:
        """At how many widths the page was laid out so far."""
        return len(self._samples.at)

    @property
    def swept(self) -> Swept:
        """What is known so far."""
        page = self._page
        assert page is not None
        known = sorted(self._samples.at)
        events = media_events(page, self.first, self.last)
        for low, high in pairwise(known):
            if high - low == 1:
                events += events_between(page, high, self._samples.at[low], self._samples.at[high])
        breaks = frozenset(e.width for e in events)
        pieces = {q: self._pieces(n, known, breaks) for n, q in enumerate(self.quantities)}
        element = self._question.element_of(page)
        return Swept(
            element.label if element else "the page", self.first, self.last, pieces, settled(events)
        )

    def _pieces(self, number: int, known: Sequence[int], breaks: frozenset[int]) -> tuple[Piece, ...]:
        amounts = [(w, self._samples.at[w].amounts[number]) for w in known]
        edges = frozenset(b for (a, x), (b, y) in pairwise(amounts) if b - a == 1 and b in breaks)
        return pieces_of(amounts, edges)


def _flickers(one: Standing, between: Standing, other: Standing) -> bool:
    """Whether an element is otherwise at one px than at the px before and after it."""
    return any(
        state == other.elements.get(number) != between.elements.get(number)
        for number, state in one.elements.items()
    )
