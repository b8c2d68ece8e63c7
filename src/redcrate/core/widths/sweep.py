"""The sweep: an element, or the page, as a function of the window's width, with the events between straight pieces.

Layout is straight in the window's width between events, so a few dozen layouts do instead of a thousand.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from redcrate.core.markup.elements import Element, at_path
from redcrate.core.page import Page
from redcrate.core.widths.events import Event, events_between, media_events, settled
from redcrate.core.widths.pieces import Piece, on_a_line, pieces_of
from redcrate.core.widths.sampling import Samples
from redcrate.core.widths.standing_at import Quantity, Standing, standing_of

PageAt = Callable[[int, Page | None], Page]
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
    ) -> None:
        """page_at: the page at a width, px, and a page of another width to start from. path: of the element in the
        tree; None: the page. lines: whether line counts are events too, and heights are drawn.
        """
        self._page_at = page_at
        self.first, self.last = first, last
        self._path = path
        self._lines = lines
        self._page: Page | None = None
        own = (
            [Quantity.WIDTH, Quantity.X, Quantity.ROW, Quantity.OVER]
            if path is not None
            else [Quantity.OVER]
        )
        self.quantities = (*own, Quantity.HEIGHT) if lines else tuple(own)
        self._samples: Samples[Standing] = Samples(
            self._look, Standing.is_like, lambda one, other: one.amounts == other.amounts, _straight
        )

    @property
    def is_of_page(self) -> bool:
        """Whether it is of the page, not of one element."""
        return self._path is None

    def _look(self, width: int) -> Standing:
        self._page = self._page_at(width, self._page)
        return standing_of(self._page, self._element(self._page), self.quantities, lines=self._lines)

    def _element(self, page: Page) -> Element | None:
        return at_path(page.elements[0], self._path) if self._path is not None else None

    def run(self) -> Iterator[float]:
        """Yields how much is done, 0 to 1."""
        self._samples.state(self.last)
        page = self._page
        assert page is not None
        step = _STEP if len(page.elements) < _LARGE else _LARGE_STEP
        step *= 1 if self.is_of_page else 2  # what is sloped is looked at in the middle of each step too
        edges = [w for e in media_events(page, self.first, self.last) for w in (e.width - 1, e.width)]
        for start in range(self.first, self.last - _NEAR, _PROBES):
            near = [self._samples.state(w) for w in range(start, start + _NEAR)]
            yield 0.1 * (start - self.first) / (self.last - self.first)
            if any(_flickers(*three) for three in zip(near, near[1:], near[2:], strict=False)):
                yield from self.look_at_every_px()  # the cut to 1/64 px decides something from px to px
                return
        yield from self._samples.run(self.first, self.last, step, edges)

    def look_at_every_px(self) -> Iterator[float]:
        """Also what is so within less than a step, and the same on both sides; yields how much is done, 0 to 1."""
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
        for low, high in zip(known, known[1:], strict=False):
            if high - low == 1:
                events += events_between(page, high, self._samples.at[low], self._samples.at[high])
        breaks = frozenset(e.width for e in events)
        pieces = {q: self._pieces(n, known, breaks) for n, q in enumerate(self.quantities)}
        element = self._element(page)
        return Swept(
            element.label if element else "the page", self.first, self.last, pieces, settled(events)
        )

    def _pieces(self, number: int, known: Sequence[int], breaks: frozenset[int]) -> tuple[Piece, ...]:
        amounts = [(w, self._samples.at[w].amounts[number]) for w in known]
        edges = frozenset(
            b for (a, x), (b, y) in zip(amounts, amounts[1:], strict=False) if b - a == 1 and b in breaks
        )
        return pieces_of(amounts, edges)


def _straight(
    low: int, one: Standing, middle: int, between: Standing, high: int, other: Standing
) -> bool:
    amounts = zip(one.amounts, between.amounts, other.amounts, strict=True)
    return all(on_a_line(low, a, middle, b, high, c) for a, b, c in amounts)


def _flickers(one: Standing, between: Standing, other: Standing) -> bool:
    """Whether an element is otherwise at one px than at the px before and after it."""
    return any(
        state == other.elements.get(number) != between.elements.get(number)
        for number, state in one.elements.items()
    )
