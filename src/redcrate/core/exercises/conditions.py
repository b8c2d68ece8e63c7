"""Conditions on the boxes of a page: never on how its CSS is written."""

from collections.abc import Callable, Iterator, Sequence
from typing import Literal

from redcrate.core.edit.targets import matched, selectors_of
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.records import dataclass
from redcrate.core.rows import row_of
from redcrate.core.units import format_number

BoxName = Literal["margin", "border", "padding", "content"]
Axis = Literal["width", "height"]
Part = Literal["margin", "border", "padding"]
Side = Literal["top", "right", "bottom", "left"]


@dataclass(frozen=True, slots=True)
class Verdict:
    """Whether a condition holds, and what was measured, in a sentence."""

    holds: bool
    said: str


@dataclass(frozen=True, slots=True)
class SizeIs:
    """A box of each element that `of` matches is `px` wide or high."""

    of: str
    box: BoxName
    axis: Axis
    px: float
    tolerance: float = 0.5


@dataclass(frozen=True, slots=True)
class EdgeIs:
    """A margin, border or padding of each element is `px`, as used."""

    of: str
    part: Part
    side: Side
    px: float
    tolerance: float = 0.5


@dataclass(frozen=True, slots=True)
class ShareLine:
    """All elements that `of` matches, `count` of them, stand beside one another: each beside all the others."""

    of: str
    count: int


@dataclass(frozen=True, slots=True)
class Centred:
    """Each element has as much room at its left as at its right in what it stands in."""

    of: str
    tolerance: float = 1.0


@dataclass(frozen=True, slots=True)
class Apart:
    """From the lower border edge of the first `of` to the upper one of the first `to` there are `px`."""

    of: str
    to: str
    px: float
    tolerance: float = 0.5


@dataclass(frozen=True, slots=True)
class Inside:
    """No element sticks out of the content box of what it stands in, at either side."""

    of: str
    tolerance: float = 0.5


Condition = SizeIs | EdgeIs | ShareLine | Centred | Apart | Inside


def judge(condition: Condition, page: Page) -> Verdict:
    """Whether a condition holds on a page. Raises EditRefused where a selector is none."""
    boxes = _boxes(page, condition.of)
    if not boxes:
        return Verdict(False, f"The page shows no {condition.of}.")
    match condition:
        case SizeIs():
            return _all(boxes, lambda e, b: _size(condition, e, b))
        case EdgeIs():
            return _all(boxes, lambda e, b: _edge(condition, e, b))
        case Centred():
            return _all(boxes, lambda e, b: _centred(condition, e, b))
        case Inside():
            return _all(boxes, lambda e, b: _inside(condition, e, b))
        case ShareLine():
            return _share_line(condition, page, boxes)
        case Apart():
            return _apart(condition, page, boxes)


_Boxes = Sequence[tuple[Element, ElementBox]]


def _boxes(page: Page, selector: str) -> _Boxes:
    found = matched(page, selectors_of(selector))
    return [(e, box) for e in found if (box := page.box_of(e)) is not None]


def _all(boxes: _Boxes, one: Callable[[Element, ElementBox], Verdict]) -> Verdict:
    """The first element for which it does not hold counts."""
    verdicts = [one(e, b) for e, b in boxes]
    return next((v for v in verdicts if not v.holds), verdicts[0])


def _px(units: float) -> str:
    return format_number(round(units / 64, 2))


def _off(amount: float) -> str:
    off = format_number(abs(amount))
    return f"{off} px too much" if amount > 0 else f"short by {off} px"


def _rect(box: ElementBox, name: BoxName) -> Rect:
    return {
        "margin": box.margin_box,
        "border": box.border_box,
        "padding": box.padding_box,
        "content": box.content_box,
    }[name]


def _size(wanted: SizeIs, element: Element, box: ElementBox) -> Verdict:
    rect = _rect(box, wanted.box)
    is_width = wanted.axis == "width"
    found = rect.width if is_width else rect.height
    off = round(found / 64 - wanted.px, 2)
    what = "content" if wanted.box == "content" else f"{wanted.box} box"
    said = f"The {what} of {element.label} is {_px(found)} px {'wide' if is_width else 'high'}"
    holds = abs(off) <= wanted.tolerance
    return Verdict(holds, f"{said}." if holds else f"{said}: {_off(off)}.")


def _edge(wanted: EdgeIs, element: Element, box: ElementBox) -> Verdict:
    edges = {"margin": box.margin, "border": box.border, "padding": box.padding}[wanted.part]
    found = edges.side(wanted.side)
    holds = abs(found / 64 - wanted.px) <= wanted.tolerance
    said = f"The {wanted.side} {wanted.part} of {element.label} is {_px(found)} px"
    return Verdict(holds, f"{said}." if holds else f"{said}, not {format_number(wanted.px)}.")


def _room(box: ElementBox) -> tuple[float, float]:
    """The room at the left and the right of a border box in what it stands in, 1/64 px."""
    around = box.container.content_rect if box.container is not None else box.border_box
    return box.border_box.x - around.x, around.right - box.border_box.right


def _centred(wanted: Centred, element: Element, box: ElementBox) -> Verdict:
    left, right = _room(box)
    said = f"{element.label} has {_px(left)} px on its left and {_px(right)} px on its right."
    return Verdict(abs(left - right) / 64 <= wanted.tolerance, said)


def _inside(wanted: Inside, element: Element, box: ElementBox) -> Verdict:
    out = -min(_room(box))
    around = box.container.fragment.box.label if box.container is not None else "the page"
    if out / 64 > wanted.tolerance:
        return Verdict(False, f"{element.label} overflows {around} by {_px(out)} px.")
    return Verdict(True, f"{element.label} fits into {around}.")


def _share_line(wanted: ShareLine, page: Page, boxes: _Boxes) -> Verdict:
    beside = max(_in_line_with(page, element, boxes) for element, _ in boxes)
    holds = beside == wanted.count == len(boxes)
    if holds:
        return Verdict(True, f"All {beside} are in one row.")
    return Verdict(False, f"{beside} of {len(boxes)} are in one row; the task asks for {wanted.count}.")


def _in_line_with(page: Page, element: Element, boxes: _Boxes) -> int:
    """How many of the boxes stand in the row of an element, which has its line to itself where it is in none."""
    row = row_of(page, element)
    inside = set() if row is None else {i.element for i in row.items}
    return max(1, sum(e in inside for e, _ in boxes))


def _apart(wanted: Apart, page: Page, boxes: _Boxes) -> Verdict:
    others = _boxes(page, wanted.to)
    if not others:
        return Verdict(False, f"The page shows no {wanted.to}.")
    (upper, first), (lower, second) = boxes[0], others[0]
    found = second.border_box.y - first.border_box.bottom
    holds = abs(found / 64 - wanted.px) <= wanted.tolerance
    said = f"From {upper.label} down to {lower.label} there are {_px(found)} px"
    return Verdict(holds, f"{said}." if holds else f"{said}, not {format_number(wanted.px)}.")


def elements_of(condition: Condition, page: Page) -> Iterator[Element]:
    """The elements that a condition is about."""
    yield from matched(page, selectors_of(condition.of))
