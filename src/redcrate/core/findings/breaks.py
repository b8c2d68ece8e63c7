"""Between which window widths something breaks: every ▲ of a page with its exact ranges, not at named widths only."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from redcrate.core.files.trial import Trial
from redcrate.core.findings.breaks_between_widths import FAMILY
from redcrate.core.findings.finding import Finding, Key, Severity
from redcrate.core.findings.register import OF_LAYOUT, findings_of
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.window_ranges import WindowRange
from redcrate.core.widths.looking import Looking, PageAt
from redcrate.core.widths.sampling import Likeness
from redcrate.core.widths.sweep import Sweep, Swept

_STEP = 64  # px, between the events of the page


@dataclass(frozen=True, slots=True, eq=False)
class Broken:
    """Something that breaks. finding: as it is in the narrowest of those windows. ranges: where it is so, px."""

    finding: Finding
    ranges: tuple[WindowRange, ...]

    def holds_at(self, widths: Sequence[float]) -> bool:
        """Whether one of some widths sees it."""
        return any(r.holds(w) for r in self.ranges for w in widths)


_LIKENESS: Likeness[frozenset[Key]] = Likeness(lambda one, other: one == other)


@dataclass(frozen=True, slots=True)
class WhatBreaks:
    """The question what breaks. texts: of the page's files, by their names."""

    texts: Mapping[str, str]

    @property
    def likeness(self) -> Likeness[frozenset[Key]]:
        """How two widths are compared."""
        return _LIKENESS

    def answer(self, page: Page) -> frozenset[Key]:
        """What makes each finding the same at another width."""
        return frozenset(f.key for f in self.findings(page))

    def findings(self, page: Page) -> tuple[Finding, ...]:
        """The findings themselves."""
        found = findings_of(page, self.texts, OF_LAYOUT)
        return tuple(f for f in found if f.severity is Severity.BREAKS)


class BreakSearch:
    """A search under way: `run` it, and read `broken`."""

    def __init__(self, page_at: PageAt, texts: Mapping[str, str], first: int, last: int) -> None:
        """page_at: the page at a width, px, and a page of another width to start from."""
        self._page_at = page_at
        self._first, self._last = first, last
        self._page: Page | None = None
        self._sweep = Sweep(page_at, first, last)
        self._found: dict[int, tuple[Finding, ...]] = {}  # at the widths that were looked at here
        self._question = WhatBreaks(texts)
        self._looking = Looking(self._look, self._question.likeness)
        self._samples = self._looking.samples

    @classmethod
    def of_trial(cls, trial: Trial, height: float, first: int, last: int) -> "BreakSearch":
        """A search in windows of that height, px; where the page's events are not known, they are swept for.

        Several processes look at a large page, where there may be.
        """
        search = cls(trial.in_windows(height), trial.texts, first, last)
        search._sweep = Sweep.of_trial(trial, height, first, last)
        search._looking.share_out(trial, height, search._question)
        return search

    def _look(self, width: int) -> frozenset[Key]:
        return frozenset(f.key for f in self._findings_at(width))

    def _findings_at(self, width: int) -> tuple[Finding, ...]:
        if width not in self._found:
            self._page = self._page_at(width, self._page)
            self._found[width] = self._question.findings(self._page)
        return self._found[width]

    def run(self, swept: Swept | None = None) -> Iterator[float]:
        """The page's events, then what is found beside each; yields how much is done, 0 to 1.

        swept: a sweep of the page in the same windows, if it was made already.
        """
        if swept is None:
            for done in self._sweep.run():
                yield done / 2
            swept = self._sweep.swept
        edges = {w for e in swept.events for w in (e.width - 1, e.width)}
        for _ in self._samples.look([self._last]):
            pass
        assert self._page is not None
        with self._looking.at_work(self._page):
            for done in self._samples.run(self._first, self._last, _STEP, edges):
                yield 0.5 + done / 2

    @property
    def broken(self) -> tuple[Broken, ...]:
        """What breaks, by the narrowest window in which it does."""
        runs: dict[Key, list[list[int]]] = {}
        before: frozenset[Key] = frozenset()
        for width in sorted(self._samples.at):
            keys = self._samples.at[width]
            for key in keys:
                if key in before:
                    runs[key][-1].append(width)
                else:
                    runs.setdefault(key, []).append([width])
            before = keys
        found = [self._one(key, parts) for key, parts in runs.items()]
        return tuple(sorted(found, key=lambda b: (b.ranges[0], b.finding.family)))

    def _one(self, key: Key, parts: Sequence[Sequence[int]]) -> Broken:
        finding = next(f for f in self._findings_at(parts[0][0]) if f.key == key)
        return Broken(finding, tuple(WindowRange(p[0], p[-1]) for p in parts))


def told_between(broken: Broken) -> Finding:
    """The finding that a page breaks at widths where nobody looks."""
    words = " and ".join(f"between {r.least} and {r.most} px" for r in broken.ranges[:3])
    more = f" and in {len(broken.ranges) - 3} more ranges" if len(broken.ranges) > 3 else ""
    inner = broken.finding
    return replace(
        inner,
        family=FAMILY.name,
        sentence=f"Breaks {words}{more}: {inner.sentence}",
        numbers={
            "first": float(broken.ranges[0].least),
            "last": float(broken.ranges[0].most),
            **inner.numbers,
        },
        fold="",
    )
