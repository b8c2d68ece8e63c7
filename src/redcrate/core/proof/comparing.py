"""A page's boxes beside those that a browser measured: what differs, and from which first difference the rest follows."""

from collections.abc import Iterator, Sequence
from enum import Enum

from redcrate.core.markup.elements import IDLE, Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.proof.following import WRITTEN_SIZES, Following, Shift
from redcrate.core.proof.measured import BrowserBox, Measured
from redcrate.core.records import dataclass
from redcrate.core.text.fonts import choose_font, same_metrics
from redcrate.core.units import to_px

PARTS = ("x", "y", "width", "height")
# HTML Standard §15: what is drawn inside these is the browser's own affair, and no box of the page.
_LEFT_OUT = frozenset(("br", "wbr", "area", "option", "optgroup", "param", "source", "track"))
_CLOSED = frozenset(("svg", "select", "math", "iframe", "video", "audio", "object", "canvas"))


class DifferenceKind(Enum):
    """What a difference is about; the values are the words of the report."""

    BOX = "box"
    FONT = "font"
    SHOWN = "shown"


@dataclass(frozen=True, slots=True)
class Sizes:
    """A border box in px, from the top left of the page."""

    x: float
    y: float
    width: float
    height: float

    def part(self, name: str) -> float:
        """One of x, y, width and height."""
        value: float = getattr(self, name)
        return value


@dataclass(frozen=True, slots=True, eq=False)
class Difference:
    """An element whose box is another one there. None for a box that is not shown.

    parts: what differs, as in PARTS; own: those that follow from no other element. cause: the element that this follows
    from; None where it is a first one. fonts: the families here and there, where they are not the same.
    """

    element: Element
    kind: DifferenceKind
    here: Sizes | None
    there: Sizes | None
    parts: tuple[str, ...]
    own: tuple[str, ...]
    cause: Element | None
    fonts: tuple[str, str] | None

    def by(self, part: str) -> float:
        """By how many px the browser's is larger, or further right or down."""
        if self.here is None or self.there is None:
            return 0.0
        return self.there.part(part) - self.here.part(part)


@dataclass(frozen=True, slots=True, eq=False)
class Comparison:
    """One width. differences: in document order. other_tree: where the two trees part, in words; "" if they do not.

    width: of the window, px. width_there: of the browser's, which is another one where scroll bars take room.
    failed: families of fonts that the browser could not load.
    """

    page: Page
    width: float
    width_there: float
    compared: int
    differences: tuple[Difference, ...]
    other_tree: str
    failed: tuple[str, ...]

    @property
    def equal(self) -> int:
        """How many boxes are the same."""
        return self.compared - len(self.differences)

    @property
    def causes(self) -> tuple[Difference, ...]:
        """The first differences: those that follow from no other."""
        return tuple(d for d in self.differences if d.cause is None)

    def following(self, cause: Difference) -> tuple[Difference, ...]:
        """What follows from a cause."""
        return tuple(d for d in self.differences if d.cause is cause.element)


def compare(page: Page, there: Measured, tolerance: float) -> Comparison:
    """Hold a page against what a browser says of it. tolerance: how far a box may be off, px."""
    mine = [e for e in page.elements if not any(a.tag in IDLE for a in e.ancestors())]
    both = list(zip(mine, there.boxes, strict=False))
    other_tree = ""
    for number, (element, box) in enumerate(both):
        if element.tag.lower() != box.tag.lower():
            other_tree = f"at {element.label} here, {box.tag} there"
            both = both[:number]
            break
    else:
        if len(mine) != len(there.boxes):
            other_tree = f"{len(mine)} elements here, {len(there.boxes)} there"
    kept = [(e, b) for e, b in both if e.tag not in _LEFT_OUT and not _is_closed_in(e)]
    finder = _Differences(page, kept, tolerance)
    compared = sum(1 for e, b in kept if b.has_box or page.box_of(e) is not None)
    found = tuple(finder.all())
    return Comparison(page, page.viewport.width, there.width, compared, found, other_tree, there.failed)


def _is_closed_in(element: Element) -> bool:
    return any(e.tag in _CLOSED for e in element.ancestors())


class _Differences:
    """Finds what differs, element by element, and folds what follows."""

    def __init__(self, page: Page, both: Sequence[tuple[Element, BrowserBox]], tolerance: float) -> None:
        self.page = page
        self.tolerance = tolerance
        self.there = dict(both)
        self.shifts: dict[Element, Shift] = {}
        self.shown: dict[Element, bool] = {}
        for element, box in both:
            ours = page.box_of(element)
            if (ours is not None) != box.has_box:
                self.shown[element] = box.has_box
            elif ours is not None:
                self.shifts[element] = self._shift(ours, box)

    def _shift(self, ours: ElementBox, theirs: BrowserBox) -> Shift:
        here = sizes_of(self.page, ours)
        return Shift(
            theirs.x - here.x,
            theirs.y - here.y,
            theirs.width - here.width,
            theirs.height - here.height,
            ours,
        )

    def all(self) -> Iterator[Difference]:
        """All differences, in document order."""
        following = Following(self.shifts, self.tolerance)
        for element in self.there:
            if element in self.shown:
                yield self._other_shown(element)
            elif (shift := self.shifts.get(element)) is not None:
                parts = shift.beyond(self.tolerance)
                if parts:
                    yield self._other_box(element, parts, following)

    def _other_shown(self, element: Element) -> Difference:
        cause, above = None, element.parent
        while above is not None and self.shown.get(above) is self.shown[element]:
            cause, above = above, above.parent
        here = self.page.box_of(element)
        ours = None if here is None else sizes_of(self.page, here)
        theirs = _sizes(self.there[element]) if self.shown[element] else None
        return Difference(element, DifferenceKind.SHOWN, ours, theirs, (), (), cause, None)

    def _other_box(self, element: Element, parts: tuple[str, ...], following: Following) -> Difference:
        first = following.cause_of(element)
        cause = None if first is element else first
        own = following.own_parts(element) if cause is None else ()
        fonts = self._other_fonts(element, inside=self._hangs_on_content(element, own))
        kind = DifferenceKind.BOX if fonts is None else DifferenceKind.FONT
        here = self.page.box_of(element)
        assert here is not None
        ours, theirs = sizes_of(self.page, here), _sizes(self.there[element])
        return Difference(element, kind, ours, theirs, parts, own, cause, fonts)

    def _hangs_on_content(self, element: Element, own: tuple[str, ...]) -> bool:
        """Whether what is in it makes it as large as it is, in a direction in which it is another size by itself."""
        at = self.shifts[element].box.box
        if at is None:
            return bool(own)
        reasons = {"width": at.fragment.across.reason, "height": at.fragment.down.reason}
        return any(reasons.get(part) not in (None, *WRITTEN_SIZES) for part in own)

    def _other_fonts(self, element: Element, *, inside: bool) -> tuple[str, str] | None:
        """The families of the text in it, or of that which it stands among, where they are not the same.

        inside: what stands in it is looked at too.
        """
        for one in (element, element.parent, *(element.walk() if inside else ())):
            box = None if one is None else self.there.get(one)
            if one is None or box is None or not box.family:
                continue
            style = self.page.style_of(one)
            ours = choose_font(style.font_family, style.font_weight, style.font_style).face.family
            if same_metrics(ours) != same_metrics(box.family):
                return ours, box.family
        return None


def sizes_of(page: Page, box: ElementBox) -> Sizes:
    """Where a box of ours is seen: its border box after transforms, px."""
    at = box.box or box.container
    matrix = page.painted.get(at.placed) if at is not None else None
    rect = box.border_box if matrix is None else matrix.bounds(box.border_box)
    return Sizes(to_px(rect.x), to_px(rect.y), to_px(rect.width), to_px(rect.height))


def _sizes(box: BrowserBox) -> Sizes:
    return Sizes(box.x, box.y, box.width, box.height)
