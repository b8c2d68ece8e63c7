"""Fixes that hold: each is tried on the page at all widths before anybody is offered it."""

from collections.abc import Callable, Generator, Iterator, Mapping, Sequence
from dataclasses import replace

from redcrate.core.edit.patch import Patch
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError
from redcrate.core.findings.effects import SEEN, Effects, effects_of, grown, told_effects
from redcrate.core.findings.finding import Finding, Fix, Key, MakeFix, RangedWay, Severity
from redcrate.core.findings.register import finding_steps, is_of_writing, needs_no_layout, read_by
from redcrate.core.page import Page
from redcrate.core.style.window_ranges import LEAST, MOST, WindowRange

MOST_FIXES = 4
# A window width, px → the page and the texts after a patch.
PageAfter = Callable[[float], tuple[Page, Mapping[str, str]]]
Try = Callable[[Patch], PageAfter]


class Verifier:
    """Tries fixes on a page.

    pages, found: the page and its findings at each width, px. attempt: what a patch makes of the page. page_at: the
    page, and the texts, at any width, px; without it fixes are for all widths.
    """

    def __init__(
        self,
        pages: Mapping[float, Page],
        found: Mapping[float, Sequence[Finding]],
        attempt: Try,
        page_at: PageAfter | None = None,
    ) -> None:
        self._pages = pages
        self._found = found
        self._attempt = attempt
        self._page_at = page_at
        self._known = {p for those in found.values() for f in those for p in _places(f)}
        self._mended: dict[Key, frozenset[Key]] = {}
        self._verdicts: dict[MakeFix, Fix | None] = {}

    def fixes(self, finding: Finding, most: int = MOST_FIXES) -> tuple[Fix, ...]:
        """The first `most` fixes of a finding that hold."""
        kept: list[Fix] = []
        for way in finding.ways:
            fix = self.verify(way, finding) if len(kept) < most else None
            if fix is not None:
                kept.append(fix)
        return tuple(kept)

    def verify(self, way: MakeFix, finding: Finding) -> Fix | None:
        """One way worked out and tried; None if it does not hold."""
        steps = self.steps(way, finding)
        while True:
            try:
                next(steps)
            except StopIteration as end:
                found: Fix | None = end.value
                return found

    def steps(self, way: MakeFix, finding: Finding) -> Generator[None, None, Fix | None]:
        """The same in small steps, so that a window stays fluid meanwhile; returns the fix.

        It holds if at no width a finding of this family and rule is left, none that breaks or is suspicious is new, and
        the page does not become wider. Where it changes something at widths at which there is nothing to mend, it is
        for the range at which there is, if it can be. The fix tells all that it changes. A way is tried once.
        """
        if way not in self._verdicts:
            self._verdicts[way] = yield from self._verdict(way, finding)
        return self._verdicts[way]

    def _verdict(self, way: MakeFix, finding: Finding) -> Generator[None, None, Fix | None]:
        try:
            fix = worked_out(way)
            if fix is None or needs_no_layout(finding):
                return fix
            effects = yield from self._tried(fix, finding)
            if effects is None:
                return None
            ranged = yield from self._for_a_range(way, finding, effects)
            return ranged or _told(fix, effects)
        except RedCrateError:
            return None

    def _for_a_range(
        self, way: MakeFix, finding: Finding, effects: Sequence[Effects]
    ) -> Generator[None, None, Fix | None]:
        """The same for the widths only at which there is something to mend, if it changes anything at others."""
        holds = self._holds(finding)
        if not isinstance(way, RangedWay) or all(e.is_none for e in effects if e.width not in holds):
            return None
        window = yield from self._range_of(finding, holds)
        if window is None:
            return None
        try:
            with error_boundary("this fix"):
                fix = way.make(window)
            found = (yield from self._tried(fix, finding)) if fix is not None else None
        except RedCrateError:
            return None
        return None if fix is None or found is None else _told(fix, found)

    def _holds(self, finding: Finding) -> list[float]:
        """The widths at which a finding is there."""
        return [w for w, those in self._found.items() if any(f.key == finding.key for f in those)]

    def _range_of(
        self, finding: Finding, holds: Sequence[float]
    ) -> Generator[None, None, WindowRange | None]:
        """The windows up to, or from, the px at which it is gone; None where it comes and goes."""
        others = [w for w in self._pages if w not in holds]
        if not holds or not others or self._page_at is None:
            return None
        narrow, wide = max(holds) < min(others), min(holds) > max(others)
        if not (narrow or wide):
            return None
        there, gone = (max(holds), min(others)) if narrow else (min(holds), max(others))
        inside, outside = int(there), int(gone)
        while abs(outside - inside) > 1:
            middle = (inside + outside) // 2
            page, texts = self._page_at(middle)
            yield
            found = yield from without_names(finding_steps(page, texts, {finding.family}))
            if any(f.key == finding.key for f in found):
                inside = middle
            else:
                outside = middle
        return WindowRange(LEAST, inside) if narrow else WindowRange(inside, MOST)

    def mends_too(self, finding: Finding) -> frozenset[Key]:
        """The keys of the other findings that its first fix that holds mends at all widths."""
        return self._mended.get(finding.key, frozenset())

    def _tried(self, fix: Fix, finding: Finding) -> Generator[None, None, list[Effects] | None]:
        """What a fix changes at all widths; None where it does not hold."""
        after = self._attempt(fix.patch)
        left: set[Key] = set()
        effects: list[Effects] = []
        for width in self._widths_for(finding):
            page, texts = after(width)
            yield
            found = yield from without_names(finding_steps(page, texts, read_by(finding)))
            if any(_is_same(f, finding) for f in found):
                return None
            if any(_forbids(f, finding) and not self._known & set(_places(f)) for f in found):
                return None
            left.update(f.key for f in found)
            effects.append(effects_of(self._pages[width], page, finding.elements))
            if effects[-1].wider > SEEN:
                return None
        if finding.key not in self._mended:
            families = read_by(finding)
            now = {f.key for those in self._found.values() for f in those if f.family in families}
            self._mended[finding.key] = frozenset(now - left - {finding.key})
        return effects

    def _widths_for(self, finding: Finding) -> list[float]:
        """Where it is seen first: most fixes that do not hold fail there."""
        return sorted(
            self._pages, key=lambda w: not any(f.key == finding.key for f in self._found.get(w, ()))
        )


def worked_out(way: MakeFix) -> Fix | None:
    """What a way comes to; raises RedCrateError where it cannot be worked out, or Red Crate fails."""
    with error_boundary("this fix"):
        return way()


def without_names(steps: Generator[str, None, list[Finding]]) -> Generator[None, None, list[Finding]]:
    """Steps of a search, where nobody reads which family they are about."""
    while True:
        try:
            next(steps)
        except StopIteration as end:
            found: list[Finding] = end.value
            return found
        yield


def _forbids(new: Finding, finding: Finding) -> bool:
    """Whether a new finding speaks against a fix: what a slip of writing had only hidden does not."""
    if is_of_writing(finding):
        return new.severity is Severity.BREAKS
    return new.severity is not Severity.ADVICE and not new.minor


def _places(finding: Finding) -> Iterator[tuple[str, object]]:
    """Where it stands, by its element and by its declaration; one of both may be another one afterwards."""
    if finding.elements:
        yield finding.family, finding.elements[0].path
    if finding.cause is not None and finding.cause.selector:
        yield finding.family, (finding.cause.file, finding.cause.selector, finding.cause.declaration)


def _is_same(found: Finding, finding: Finding) -> bool:
    """Whether it is the finding still, or another one of its family and rule."""
    if found.family != finding.family:
        return False
    if found.key == finding.key:
        return True
    one, other = found.cause, finding.cause
    if one is None or other is None or not other.selector:
        return False
    return (one.file, one.selector, one.declaration) == (other.file, other.selector, other.declaration)


def _told(fix: Fix, effects: Sequence[Effects]) -> Fix:
    """A fix that tells all that it changes."""
    ordered = sorted(effects, key=lambda e: e.width)
    moves = max((e.others for e in ordered), default=0)
    return replace(fix, moves=moves, changes=told_effects(ordered), taller=grown(ordered))
