"""The drawing of an exercise, as its page is or solved: of the box that it asks about, or of what holds the boxes."""

from typing import assert_never

from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.page_plan import PlanOptions, page_plan
from redcrate.core.exercises.conditions import (
    Apart,
    Centred,
    EdgeIs,
    Inside,
    ShareLine,
    SizeIs,
    elements_of,
)
from redcrate.core.exercises.exercise import Exercise
from redcrate.core.exercises.solution import solving_patch
from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.style.media import DEFAULT_HEIGHT, Viewport

_LEVELS = 2  # of a plan: what stands beside what, not what is in it


def solved_page(exercise: Exercise) -> Page | None:
    """The page as the exercise's own solution makes it, in its window; None where none is kept.

    Raises PageNotReadable.
    """
    trial = Trial.of_file(exercise.page)
    patch = solving_patch(exercise.solution, trial.texts)
    start = trial.page(Viewport(exercise.window, DEFAULT_HEIGHT))
    return None if patch is None else trial.after(patch)(start)[0]


def task_drawing(exercise: Exercise, page: Page) -> Drawing | None:
    """What the first condition is about, drawn with its numbers; None where the page has no such element.

    page: as the exercise begins, as it is now, or one that passes. Raises RedCrateError where it cannot be drawn.
    """
    first = exercise.conditions[0]
    element = next(elements_of(first, page), None)
    if element is None:
        return None
    match first:
        case ShareLine() | Inside() | Apart():
            parent = element.parent
            around = parent if parent is not None and parent.index >= 0 else element
            return page_plan(page, around, PlanOptions(_LEVELS, title=False))
        case SizeIs() | EdgeIs() | Centred():
            return box_diagram(page, element, DiagramOptions(title=False, standing=False))
        case _:
            assert_never(first)
