"""What a prediction was worth: what was said beside what it became."""

from typing import TypeAlias

from redcrate.core.geometry import Rect
from redcrate.core.predictions.question import (
    NumberQuestion,
    Outcome,
    OutcomeQuestion,
    PlaceQuestion,
    Question,
)
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, format_px, from_px

Answer: TypeAlias = LayoutUnit | Rect | Outcome

_AS_GOOD_AS = LayoutUnit(32)  # 1/64 px: rounding does not count
_NEAR = from_px(8)  # a ghost is moved by hand


@dataclass(frozen=True, slots=True)
class Told:
    """An answered question. answer: a length (1/64 px), the ghost's place, or the outcome that was chosen."""

    question: Question
    answer: Answer
    is_right: bool
    sentence: str


def told(question: Question, answer: Answer) -> Told:
    """What an answer was worth, in a friendly sentence. Raises TypeError for one of another kind."""
    match question, answer:
        case NumberQuestion(), int():
            return _number(question, answer)
        case PlaceQuestion(), Rect():
            return _place(question, answer)
        case OutcomeQuestion(), Outcome():
            right = answer is question.outcome
            words = f"Yes: {question.outcome.label}." if right else f"No: {question.outcome.label}."
            return Told(question, answer, right, words)
    raise TypeError(f"{answer!r} is not an answer to a question of the kind “{question.kind}”")


def _number(question: NumberQuestion, said: LayoutUnit) -> Told:
    found = question.after.amount
    if abs(said - found) <= _AS_GOOD_AS:
        return Told(question, said, True, f"Yes: {format_px(found)} px.")
    off = format_px(abs(said - found))
    more = "less" if found < said else "more"
    words = f"It is {format_px(found)} px, {off} {more} than your answer."
    return Told(question, said, False, words)


def _place(question: PlaceQuestion, ghost: Rect) -> Told:
    across, down = question.after.x - ghost.x, question.after.y - ghost.y
    if max(abs(across), abs(down)) <= _NEAR:
        return Told(question, ghost, True, "Yes: the box is there.")
    ways = [
        f"{format_px(abs(n))} px further {words[n < 0]}"
        for n, words in ((across, ("right", "left")), (down, ("down", "up")))
        if abs(n) > _NEAR
    ]
    return Told(question, ghost, False, f"It is {' and '.join(ways)}.")
