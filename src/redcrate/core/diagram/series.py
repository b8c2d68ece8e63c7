"""A series of drawings of one page as it is at one moment: what is drawn of each element, and how."""

from dataclasses import field, replace

from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram, sentence_sheet
from redcrate.core.diagram.comparison import State, comparison, same_element
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.page_plan import PlanOptions, page_plan
from redcrate.core.diagram.steps import steps
from redcrate.core.diagram.worksheet import Blank, worksheet
from redcrate.core.edit.choices import other_sizing_patch
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import EditRefused, RedCrateError
from redcrate.core.files.trial import Trial
from redcrate.core.labelled import Labelled
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass


class Kind(Labelled):
    """The kinds of drawings; the values are the words of the interface."""

    BOX = "box", "box diagrams"
    STEPS = "steps", "step by step"
    COMPARE = "compare", "before and after"
    PLAN = "plan", "page plan"


class NotOnOtherPage(RedCrateError):
    """The element of a comparison is on one of the pages alone."""


@dataclass(frozen=True, slots=True, eq=False)
class Before:
    """The other page of a comparison. caption: what it is; now: what the page itself is called beside it."""

    page: Page
    caption: str
    now: str


@dataclass(frozen=True, slots=True, eq=False)
class Series:
    """Everything that the drawings of a page need; nothing else is asked while they are made.

    depth: of plans, None for all levels. before: for comparisons. trial: for the other sizing mode in steps. blank: numbers
    that are left out, for a worksheet.
    """

    page: Page
    kind: Kind = Kind.BOX
    options: DiagramOptions = field(default_factory=DiagramOptions)
    depth: int | None = None
    before: Before | None = None
    trial: Trial | None = None
    blank: Blank | None = None

    def drawing(self, element: Element) -> Drawing:
        """The drawing of one element. Raises RedCrateError where this kind of drawing cannot be made of it."""
        drawing = self._whole(element)
        return drawing if self.blank is None else worksheet(drawing, self.blank)

    def _whole(self, element: Element) -> Drawing:
        if self.kind is Kind.PLAN:
            plan = PlanOptions(self.depth, self.options.page_name, title=self.options.title)
            return page_plan(self.page, element, plan)
        if self.kind is Kind.STEPS:
            return steps(self.page, element, self._in_other_mode(element), self.options)
        if self.kind is Kind.COMPARE and self.before is not None:
            return self._compared(element, self.before)
        return box_diagram(self.page, element, self.options)

    @property
    def small(self) -> "Series":
        """The same drawings for small pictures: without what stands beside the picture anyhow."""
        return replace(self, options=replace(self.options, title=False, standing=False))

    def sheet(self, element: Element) -> Drawing:
        """The drawing, or a sheet with the sentence that says why there is none, be it a fault of ours."""
        try:
            with error_boundary(f"the drawing of {element.label}"):
                return self.drawing(element)
        except RedCrateError as problem:
            return sentence_sheet(self.page, element, problem.sentence, self.options)

    def _compared(self, element: Element, before: Before) -> Drawing:
        there = same_element(element, before.page)
        if there is None:
            raise NotOnOtherPage(f"{element.label} is not on the other page.")
        states = State(before.page, there, before.caption), State(self.page, element, before.now)
        return comparison(*states, self.options)

    def _in_other_mode(self, element: Element) -> tuple[Page, Element] | None:
        """The page on which the element has the other sizing mode; None where that would not win."""
        if self.trial is None:
            return None
        try:
            patch = other_sizing_patch(self.page, self.trial.texts, element)
            other, _ = self.trial.after(patch)(self.page)
        except EditRefused:
            return None
        there = same_element(element, other)
        return (other, there) if there is not None else None
