"""Fixes that hold: each is tried on the page at all widths before anybody is offered it."""

from collections.abc import Callable, Generator, Iterator, Mapping, Sequence
from dataclasses import replace

from redcrate.core.edit.choices import Moved, what_moves
from redcrate.core.edit.patch import Patch
from redcrate.core.errors import RedCrateError
from redcrate.core.findings.finding import Finding, Fix, Key, MakeFix, Severity
from redcrate.core.findings.register import finding_steps, is_of_writing, needs_no_layout, read_by
from redcrate.core.own_faults import own_faults
from redcrate.core.page import Page

MOST_FIXES = 4
# A window width, px → the page and the texts after a patch.
PageAfter = Callable[[float], tuple[Page, Mapping[str, str]]]
Try = Callable[[Patch], PageAfter]


class Verifier:
    """Tries fixes on a page.

    pages, found: the page and its findings at each width, px. attempt: what a patch makes of the page.
    """

    def __init__(
        self,
        pages: Mapping[float, Page],
        found: Mapping[float, Sequence[Finding]],
        attempt: Try,
    ) -> None:
        self._pages = pages
        self._found = found
        self._attempt = attempt
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

        It holds if at no width a finding of this family and rule is left, and none that breaks or is
        suspicious is new. The fix tells how many elements it moves that the finding does not speak of.
        A way is tried once.
        """
        if way not in self._verdicts:
            self._verdicts[way] = yield from self._verdict(way, finding)
        return self._verdicts[way]

    def _verdict(self, way: MakeFix, finding: Finding) -> Generator[None, None, Fix | None]:
        try:
            fix = worked_out(way)
            if fix is None or needs_no_layout(finding):
                return fix
            return (yield from self._tried(fix, finding))
        except RedCrateError:
            return None

    def mends_too(self, finding: Finding) -> frozenset[Key]:
        """The keys of the other findings that its first fix that holds mends at all widths."""
        return self._mended.get(finding.key, frozenset())

    def _tried(self, fix: Fix, finding: Finding) -> Generator[None, None, Fix | None]:
        after = self._attempt(fix.patch)
        left: set[Key] = set()
        moves = 0
        for width in self._widths_for(finding):
            page, texts = after(width)
            yield
            found = yield from without_names(finding_steps(page, texts, read_by(finding)))
            if any(_is_same(f, finding) for f in found):
                return None
            if any(_forbids(f, finding) and not self._known & set(_places(f)) for f in found):
                return None
            left.update(f.key for f in found)
            moves = max(moves, _others_moved(self._pages[width], page, finding))
        if finding.key not in self._mended:
            families = read_by(finding)
            now = {f.key for those in self._found.values() for f in those if f.family in families}
            self._mended[finding.key] = frozenset(now - left - {finding.key})
        return replace(fix, moves=moves)

    def _widths_for(self, finding: Finding) -> list[float]:
        """Where it is seen first: most fixes that do not hold fail there."""
        return sorted(
            self._pages, key=lambda w: not any(f.key == finding.key for f in self._found.get(w, ()))
        )


def worked_out(way: MakeFix) -> Fix | None:
    """What a way comes to; raises RedCrateError where it cannot be worked out, or Red Crate fails."""
    with own_faults("this fix"):
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


def _others_moved(before: Page, after: Page, finding: Finding) -> int:
    """How many elements, besides its own, are of another size or further left or right in what is around them.

    What is only pushed down does not count.
    """
    own = set(finding.elements)
    around_own = {a for e in own for a in e.ancestors()}
    if len(before.elements) != len(after.elements):
        return 0
    moved = {m.element.index: m for m in what_moves(before, after)}
    count = 0
    for index, move in moved.items():
        element = before.elements[index]
        inside = element in own or any(a in own for a in element.ancestors())
        if inside or element in around_own or move.before is None or move.after is None:
            continue
        around = moved.get(element.parent.index) if element.parent is not None else None
        count += _sideways(move) != _sideways(around) or move.after[2:] != move.before[2:]
    return count


def _sideways(moved: Moved | None) -> int:
    if moved is None or moved.before is None or moved.after is None:
        return 0
    return moved.after[0] - moved.before[0]
