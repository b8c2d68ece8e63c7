"""Marking: which conditions of an exercise a page meets, and what to say to who made it."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any, assert_never

from redcrate.core.exercises.conditions import (
    Apart,
    Centred,
    Condition,
    EdgeIs,
    Inside,
    ShareLine,
    SizeIs,
    Verdict,
    elements_of,
    judge,
)
from redcrate.core.exercises.exercise import Exercise
from redcrate.core.explain.across import across
from redcrate.core.explain.down import down
from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.media import DEFAULT_HEIGHT, Viewport


@dataclass(frozen=True, slots=True)
class Marked:
    """page: which one. hints: in steps, from what the mistake looks like to the sum behind it; none where all is right."""

    page: Path
    verdicts: tuple[Verdict, ...]
    hints: tuple[str, ...]

    @property
    def passed(self) -> bool:
        """Whether all conditions hold."""
        return all(v.holds for v in self.verdicts)

    @property
    def held(self) -> int:
        """How many do."""
        return sum(v.holds for v in self.verdicts)


def mark_file(exercise: Exercise, page: Path) -> Marked:
    """Mark a page on disk. Raises PageNotReadable, and EditRefused where a condition's selector is none."""
    laid_out = Trial.of_file(page).page(Viewport(exercise.window, DEFAULT_HEIGHT))
    return mark(exercise, laid_out, page)


def mark(exercise: Exercise, page: Page, path: Path) -> Marked:
    """Mark a page that is laid out in the exercise's window."""
    verdicts = tuple(judge(c, page) for c in exercise.conditions)
    failed = [(c, v) for c, v in zip(exercise.conditions, verdicts, strict=True) if not v.holds]
    hints: tuple[str, ...] = ()
    if failed:
        hints = tuple(dict.fromkeys(_hints(exercise, page, *failed[0])))
    return Marked(path, verdicts, hints)


def _hints(exercise: Exercise, page: Page, failed: Condition, verdict: Verdict) -> Iterator[str]:
    """The mistake that its boxes show; what was measured; the sum behind that."""
    for hint in exercise.hints:
        if all(judge(c, page).holds for c in hint.when):
            yield hint.say
            break
    yield verdict.said
    match failed:
        case SizeIs():
            upright = failed.axis == "height"
        case EdgeIs():
            upright = failed.side in ("top", "bottom")
        case ShareLine() | Centred() | Apart() | Inside():
            return
        case _:
            assert_never(failed)
    for element in elements_of(failed, page):
        equation = down(page, element) if upright else across(page, element)
        if equation is not None and equation.reasons:
            yield equation.reasons[0].sentence
            return


def marked_json(exercise: Exercise, all_marked: list[Marked]) -> dict[str, Any]:
    """The marks of many pages as plain data."""
    return {
        "exercise": exercise.title,
        "pages": [
            {
                "page": str(m.page),
                "passed": m.passed,
                "conditions": [{"holds": v.holds, "said": v.said} for v in m.verdicts],
                "hints": list(m.hints),
            }
            for m in all_marked
        ],
    }


def marked_rows(all_marked: list[Marked]) -> Iterator[tuple[str, ...]]:
    """A table: the page, whether it passed, how many conditions hold, and the first thing to say."""
    yield "page", "passed", "conditions", "hint"
    for one in all_marked:
        word = "yes" if one.passed else "no"
        yield (
            str(one.page),
            word,
            f"{one.held} of {len(one.verdicts)}",
            one.hints[0] if one.hints else "",
        )
