"""A look at one laid-out page: what the families ask again and again, and how they write fixes."""

from collections.abc import Callable, Iterator, Mapping
from functools import cached_property

from redcrate.core.edit.gives import Gives, Plan, Planner, plan_term
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.edit.removal import removed_declaration
from redcrate.core.edit.targets import write_targets
from redcrate.core.edit.writing import Assignment, write_edits
from redcrate.core.explain.terms import Source, physical_winner, written_value
from redcrate.core.findings.finding import Fix, MakeFix
from redcrate.core.geometry import SIDES
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.rows import Row, rows_of
from redcrate.core.style.cascade import Winner
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.property_parsers import Colour
from redcrate.core.style.sheets import Origin
from redcrate.core.units import LayoutUnit

LOUD = frozenset(((255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 0), (0, 255, 255), (255, 0, 255)))


class Look:
    """One page with the texts that it was computed from."""

    def __init__(self, page: Page, texts: Mapping[str, str]) -> None:
        self.page = page
        self.texts = texts

    @cached_property
    def boxes(self) -> list[tuple[Element, ElementBox]]:
        """All elements with a box in body, in document order."""
        return [(e, b) for e, b in self.page.by_element.items() if e.tag not in ("html", "body")]

    @cached_property
    def rows(self) -> list[Row]:
        """All rows of the page."""
        return [r for e in self.page.elements for r in rows_of(self.page, e)]

    def style(self, element: Element) -> ComputedStyle:
        """The computed style of an element."""
        return self.page.style_of(element)

    def box(self, element: Element) -> ElementBox | None:
        """The box of an element."""
        return self.page.box_of(element)

    def winner(self, element: Element, longhand: str) -> Winner | None:
        """The author's declaration that set a longhand on the element itself; None if nobody did."""
        found = self.page.origin_of(element, physical_winner(self.page, element, longhand))
        if found is None or found.applied.rule.origin not in (Origin.AUTHOR, Origin.INLINE):
            return None
        return found

    def source(self, element: Element, longhand: str) -> Source | None:
        """Where a longhand was written by the author."""
        return written_value(self.page, element, longhand)[1] if self.winner(element, longhand) else None

    def written(self, element: Element, longhand: str) -> str:
        """The text of a longhand as the author wrote it; "" if nobody did."""
        return written_value(self.page, element, longhand)[0] if self.winner(element, longhand) else ""

    def size_written(self, element: Element, axis: str = "across") -> bool:
        """Whether the author gave the element a width (height) that is used."""
        box = self.box(element)
        if box is None or box.box is None:
            return False
        sizes = box.box.fragment.across if axis == "across" else box.box.fragment.down
        return sizes.reason in (SizeReason.SPECIFIED, SizeReason.PERCENT) and not sizes.limit

    # -- paint

    def ground(self, element: Element) -> Colour | None:
        """The colour that lies behind an element's content: its own or that of what is around it."""
        at: Element | None = element
        while at is not None:
            colour: Colour = self.style(at).background_color
            if colour.alpha > 0:
                return colour
            at = at.parent
        return None

    def has_ground(self, element: Element) -> bool:
        """Whether its background can be told from what is around it."""
        colour: Colour = self.style(element).background_color
        if any(i != "none" for i in self.style(element).background_image):
            return True
        around = self.ground(element.parent) if element.parent is not None else None
        if (colour.red, colour.green, colour.blue) in LOUD:
            return False  # thrown away again soon
        return colour.alpha > 0 and colour != (around or Colour(255, 255, 255))

    def is_painted(self, element: Element) -> bool:
        """Whether its edges can be seen: a background of its own or a border."""
        return self.has_ground(element) or any(self.shows_border(element, s) for s in SIDES)

    def shows_border(self, element: Element, side: str) -> bool:
        """Whether there is a border on that side, throw-away colours apart."""
        box = self.box(element)
        colour: Colour = getattr(self.style(element), f"border_{side}_color")
        loud = (colour.red, colour.green, colour.blue) in LOUD
        return box is not None and box.border.side(side) > 0 and not loud

    # -- fixes

    def fix(self, sentence: str, make: Callable[[], Patch | None]) -> MakeFix:
        """A fix that is worked out when it is asked for."""

        def way() -> Fix | None:
            patch = make()
            return Fix(sentence, patch) if patch is not None and patch.edits else None

        return way

    def setting(self, sentence: str, *values: tuple[Element, str, str]) -> MakeFix:
        """A fix that writes longhands: (element, longhand, value) each."""

        def make() -> Patch | None:
            by_element: dict[Element, list[Assignment]] = {}
            for element, longhand, value in values:
                by_element.setdefault(element, []).append(Assignment(longhand, value))
            edits: list[TextEdit] = []
            for element, assignments in by_element.items():
                edits += write_edits(self.page, self.texts, element, assignments)
            return Patch(tuple(dict.fromkeys(edits)), sentence)

        return self.fix(sentence, make)

    def typing(
        self, sentence: str, element: Element, part: str, sides: tuple[str, ...], value: str
    ) -> MakeFix:
        """A fix that types a value into a term while the content gives."""

        def make() -> Patch:
            plan = plan_term(self.page, self.texts, element, part, sides, value, Gives.CONTENT)
            return Patch(plan.patch.edits, sentence)

        return self.fix(sentence, make)

    def narrower(
        self, sentence: str, element: Element, by: LayoutUnit, *, alone: bool = False
    ) -> MakeFix:
        """A fix that takes `by` (1/64 px) off the written width, in its own unit.

        alone: where only this element is touched.
        """

        def make() -> Patch | None:
            box = self.box(element)
            if box is None:
                return None
            planner = Planner(self.page, element, box)
            planner.compensate("across", {"": by}, Gives.CONTENT)
            plan: Plan = planner.plan(self.texts, self._alone(element) if alone else "")
            return Patch(plan.patch.edits, sentence)

        return self.fix(sentence, make)

    def _alone(self, element: Element) -> str:
        """The key of a target for the width that touches this element only, a rule before its own style."""
        targets = [
            t
            for t in write_targets(self.page, element, "width")
            if t.touches == (element,) and not t.loses_to
        ]
        return next((t.key for t in targets if not t.selector), "")

    def removing(self, sentence: str, *winners: Winner) -> MakeFix:
        """A fix that takes declarations out."""

        def make() -> Patch:
            edits = []
            for winner in winners:
                declaration = winner.applied.declaration
                edits.append(
                    removed_declaration(self.page, self.texts, declaration.file, declaration.offset)
                )
            return Patch(tuple(dict.fromkeys(edits)), sentence)

        return self.fix(sentence, make)

    def siblings(self) -> Iterator[tuple[Element, list[Element]]]:
        """Each element with its children, where there are any."""
        for element in self.page.elements:
            if element.child_elements:
                yield element, element.child_elements
