"""Which question a change is worth: about what really becomes another, as computed before it is asked."""

import re
from collections.abc import Iterator

from redcrate.core.edit.choices import what_moves
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.predictions.numbers import both_of, number_questions
from redcrate.core.predictions.places import place_question
from redcrate.core.predictions.question import NumberQuestion, Question
from redcrate.core.predictions.rows import row_question
from redcrate.core.units import format_px

_NUMBER = re.compile(r"\d+(?:\.\d+)?")
_FLOW = ("float_", "clear", "position", "display")


def question_about(
    before: Page, after: Page, selected: Element | None, said: str, last: str = ""
) -> Question | None:
    """The question to ask about a change; None where it changes nothing that one could work out.

    said: what the learner knows of the change, in words: a number in it is not asked for. last: the kind
    that was asked last, which is not asked again where there is another one.
    """
    if not _are_alike(before, after):
        return None
    element = subject_of(before, after, selected)
    if element is None:
        return None
    known, first = _given(said), None
    for question in _questions(before, after, element):
        if isinstance(question, NumberQuestion) and format_px(question.after.amount) in known:
            continue
        if question.kind != last:
            return question
        first = first or question
    return first


def _given(said: str) -> set[str]:
    """The numbers that are written, of a change in words such as “padding left 36px → 30px; …”."""
    written = [part.rpartition("→")[2] for part in said.split(";")]
    return {number for part in written for number in _NUMBER.findall(part)}


def _are_alike(before: Page, after: Page) -> bool:
    """Whether the two pages have the same elements: what is added or taken out is no sum."""
    one, other = before.elements, after.elements
    return len(one) == len(other) and all(a.tag == b.tag for a, b in zip(one, other, strict=True))


def _questions(before: Page, after: Page, element: Element) -> Iterator[Question]:
    flows = _flows_otherwise(before, after, element)
    row = None if flows else row_question(before, after, element)
    if row is not None:
        yield row
    numbers, places = _numbers(before, after, element), _places(before, after, element)
    for questions in (places, numbers) if flows else (numbers, places):
        yield from questions


def _numbers(before: Page, after: Page, element: Element) -> Iterator[Question]:
    both = both_of(before, after, element)
    if both is not None:
        yield from number_questions(both)


def _places(before: Page, after: Page, element: Element) -> Iterator[Question]:
    place = place_question(before, after, element, what_moves(before, after))
    if place is not None:
        yield place


def _flows_otherwise(before: Page, after: Page, element: Element) -> bool:
    old, new = before.style_of(element), after.style_of(after.elements[element.index])
    return any(getattr(old, name) != getattr(new, name) for name in _FLOW)


def subject_of(before: Page, after: Page, selected: Element | None) -> Element | None:
    """The element that is asked about: the selected one where it changes, else the first that does.

    Of the page before.
    """
    if selected is not None and _measures(before, selected) != _measures(
        after, after.elements[selected.index]
    ):
        return selected
    pairs = zip(before.elements, after.elements, strict=True)
    return next((e for e, later in pairs if _edges(before, e) != _edges(after, later)), None)


def _edges(page: Page, element: Element) -> object:
    """What a box is made of, apart from its place and from the height that its content gives it."""
    box = page.box_of(element)
    if box is None or box.box is None:
        return None
    return box.margin, box.border, box.padding, box.content_box.width, _flow(page, element)


def _flow(page: Page, element: Element) -> object:
    style = page.style_of(element)
    return tuple(getattr(style, name) for name in _FLOW)


def _measures(page: Page, element: Element) -> object:
    box: ElementBox | None = page.box_of(element)
    return None if box is None else (_edges(page, element), box.border_box)
