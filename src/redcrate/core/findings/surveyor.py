"""A process that looks for the findings of a large page and tries their fixes, while the window goes on.

It stays as long as the page is worked at, and is handed the texts after each edit. What it answers is plain data: the
elements of a finding are told by their paths, its ways by their numbers, and it is asked again for what they are worth.
"""

import os
import signal
from collections.abc import Callable, Generator, Mapping
from contextlib import suppress
from typing import TYPE_CHECKING, Any, TypeVar

from redcrate.core.edit.patch import Patch
from redcrate.core.errors import RedCrateError
from redcrate.core.explain.terms import Source
from redcrate.core.files.trial import PageSnapshot, Trial
from redcrate.core.findings.finding import Finding, Fix, Key, MakeFix, Severity
from redcrate.core.findings.folding import folded
from redcrate.core.findings.register import findings_of
from redcrate.core.findings.verifying import PageAfter, Verifier, worked_out
from redcrate.core.markup.elements import Element, at_path
from redcrate.core.page import Page
from redcrate.core.processes import or_lost, settle_in, worker_processes
from redcrate.core.records import dataclass
from redcrate.core.style.media import Viewport

if TYPE_CHECKING:
    from concurrent.futures import Future, ProcessPoolExecutor

_Answer = TypeVar("_Answer")
Mended = frozenset[Key]  # the other findings that a fix mends


@dataclass(frozen=True, slots=True)
class FarWay:
    """A way out that another process knows, by its number among those of its finding."""

    number: int

    def __call__(self) -> None:
        """Nothing is known of it here."""


@dataclass(frozen=True, slots=True)
class ToldFinding:
    """A finding as it is sent to another process. paths: of its elements, from the root. ways: how many."""

    family: str
    severity: Severity
    sentence: str
    paths: tuple[tuple[int, ...], ...]
    numbers: dict[str, float]
    cause: Source | None
    ways: int
    fold: str
    fold_name: str
    minor: bool

    @classmethod
    def of(cls, finding: Finding) -> "ToldFinding":
        """A finding told."""
        return cls(
            finding.family,
            finding.severity,
            finding.sentence,
            tuple(e.path for e in finding.elements),
            finding.numbers,
            finding.cause,
            len(finding.ways),
            finding.fold,
            finding.fold_name,
            finding.minor,
        )

    def on(self, root: Element) -> Finding:
        """The finding on the elements of a page of the same texts. root: the page's."""
        found = (at_path(root, path) for path in self.paths)
        return Finding(
            self.family,
            self.severity,
            self.sentence,
            tuple(e for e in found if e is not None),
            self.numbers,
            self.cause,
            tuple(FarWay(number) for number in range(self.ways)),
            self.fold,
            self.fold_name,
            minor=self.minor,
        )


class Surveyor:
    """The process, from outside; what it is asked for comes in steps, so that nobody waits. Close it in the end.

    Where it fails, WorkersLost is raised: then its work is to be done here.
    """

    def __init__(self) -> None:
        self._pool: ProcessPoolExecutor | None = None
        self._number: Future[int] | None = None  # of the process
        self._asked: list[Future[Any]] = []

    def renew(self, snapshot: PageSnapshot, height: float) -> None:
        """Hand over the texts as they are now; what was asked about earlier ones is dropped. height: of the window, px."""
        for future in self._asked:
            future.cancel()
        self._asked = []
        with or_lost():
            if self._pool is None:
                self._pool = worker_processes(1, settle_in)
                self._number = self._pool.submit(os.getpid)
            self._asked.append(self._pool.submit(_renew, snapshot, height))

    def look(self, width: float) -> Generator[None, None, list[ToldFinding]]:
        """The findings in a window of that width, px."""
        return (yield from self._answer(_look, width))

    def verdict(
        self, key: Key, parts: tuple[Key, ...], number: int
    ) -> Generator[None, None, tuple[Fix | None, Mended]]:
        """What one way of a finding is worth, at all widths that were looked at. parts: those it stands for."""
        return (yield from self._answer(_verdict, key, parts, number))

    def tried(self, fix: Fix, finding: ToldFinding) -> Generator[None, None, tuple[Fix | None, Mended]]:
        """What a fix is worth that was worked out here."""
        return (yield from self._answer(_tried, fix, finding))

    def _answer(self, work: Callable[..., _Answer], *about: object) -> Generator[None, None, _Answer]:
        with or_lost():
            assert self._pool is not None
            future = self._pool.submit(work, *about)
        self._asked.append(future)
        while not future.done():
            yield
        with or_lost():
            return future.result()

    def close(self) -> None:
        """Nothing more is asked for; whatever it is at is for nothing."""
        if self._pool is None:
            return
        self._pool.shutdown(wait=False, cancel_futures=True)
        number = self._number
        if number is not None and number.done() and not number.cancelled() and not number.exception():
            with suppress(OSError):
                os.kill(number.result(), signal.SIGKILL)
        self._pool = None


class FarVerifier:
    """Tries fixes as a `Verifier` does, by a surveyor that has looked at the page at all its widths."""

    def __init__(self, surveyor: Surveyor) -> None:
        self._surveyor = surveyor
        self._verdicts: dict[tuple[Key, int], Fix | None] = {}
        self._mended: dict[Key, Mended] = {}

    def steps(self, way: MakeFix, finding: Finding) -> Generator[None, None, Fix | None]:
        """One way tried; it returns the fix, None where it does not hold."""
        asked = finding.key, finding.ways.index(way)
        if asked not in self._verdicts:
            self._verdicts[asked] = yield from self._verdict(way, finding)
        return self._verdicts[asked]

    def mends_too(self, finding: Finding) -> Mended:
        """The keys of the other findings that its first fix that holds mends at all widths."""
        return self._mended.get(finding.key, frozenset())

    def _verdict(self, way: MakeFix, finding: Finding) -> Generator[None, None, Fix | None]:
        if _is_far(finding):
            parts = tuple(part.key for part in finding.parts)
            fix, mended = yield from self._surveyor.verdict(finding.key, parts, finding.ways.index(way))
        else:
            try:
                here = worked_out(way)
            except RedCrateError:
                return None
            if here is None:
                return None
            fix, mended = yield from self._surveyor.tried(here, ToldFinding.of(finding))
        if fix is not None:
            self._mended.setdefault(finding.key, mended)
        return fix


def _is_far(finding: Finding) -> bool:
    """Whether it was found by a surveyor, or stands for findings that were."""
    ways = (*finding.ways, *(way for part in finding.parts for way in part.ways))
    return any(isinstance(way, FarWay) for way in ways)


class _Desk:
    """What the process knows: the texts, its pages and their findings by width, px."""

    def __init__(self) -> None:
        self._trial: Trial | None = None
        self._height = 0.0
        self._known: dict[float, Page] = {}  # of earlier texts too, to go on from
        self._pages: dict[float, Page] = {}
        self._found: dict[float, tuple[Finding, ...]] = {}

    def renew(self, snapshot: PageSnapshot, height: float) -> None:
        """Other texts of the page."""
        self._trial, self._height = Trial.of_snapshot(snapshot, self._trial), height
        self._pages, self._found = {}, {}

    def look(self, width: float) -> list[ToldFinding]:
        """The findings at a width."""
        assert self._trial is not None
        known = self._known.get(width) or next(iter(self._known.values()), None)
        page = self._trial.page(Viewport(width, self._height), known)
        self._known[width] = self._pages[width] = page
        self._found[width] = findings_of(page, self._trial.texts)
        return [ToldFinding.of(finding) for finding in self._found[width]]

    def verdict(self, key: Key, parts: tuple[Key, ...], number: int) -> tuple[Fix | None, Mended]:
        """One way of a finding."""
        finding = self._finding(key, parts)
        return self._tried(finding.ways[number], finding)

    def tried(self, fix: Fix, told: ToldFinding) -> tuple[Fix | None, Mended]:
        """A fix of a finding that was found elsewhere."""
        root = next(iter(self._pages.values())).source.markup.root
        return self._tried(lambda: fix, told.on(root))

    def _tried(self, way: MakeFix, finding: Finding) -> tuple[Fix | None, Mended]:
        verifier = Verifier(self._pages, self._found, self._attempt, self._page_at)
        return verifier.verify(way, finding), verifier.mends_too(finding)

    def _page_at(self, width: float) -> tuple[Page, Mapping[str, str]]:
        assert self._trial is not None
        near = min(self._pages, key=lambda w: abs(w - width))
        return self._trial.page(Viewport(width, self._height), self._pages[near]), self._trial.texts

    def _attempt(self, patch: Patch) -> PageAfter:
        assert self._trial is not None
        after = self._trial.after(patch)

        def page_after(width: float) -> tuple[Page, Mapping[str, str]]:
            return after(self._pages[width])

        return page_after

    def _finding(self, key: Key, parts: tuple[Key, ...]) -> Finding:
        """A finding by its key, or the one line for many of a kind."""
        own: dict[Key, Finding] = {}
        for finding in (f for those in self._found.values() for f in those):
            own.setdefault(finding.key, finding)
        return folded([own[part] for part in parts])[0] if parts else own[key]


_DESK = _Desk()  # of this process, where it is a surveyor's


def _renew(snapshot: PageSnapshot, height: float) -> None:
    _DESK.renew(snapshot, height)


def _look(width: float) -> list[ToldFinding]:
    return _DESK.look(width)


def _verdict(key: Key, parts: tuple[Key, ...], number: int) -> tuple[Fix | None, Mended]:
    return _DESK.verdict(key, parts, number)


def _tried(fix: Fix, told: ToldFinding) -> tuple[Fix | None, Mended]:
    return _DESK.tried(fix, told)
