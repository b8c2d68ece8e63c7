"""Dragging the edges of the selected box: which edge is meant, what value the pointer gives, snapping.

The value goes through the same plan as a typed one, so it obeys what gives and where it is written.
"""

from dataclasses import replace

from redcrate.core.edit.gives import Plan
from redcrate.core.edit.typed import dragged
from redcrate.core.errors import RedCrateError
from redcrate.core.explain.across import longhand_of
from redcrate.core.explain.terms import written_value
from redcrate.core.geometry import SIDES, Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.records import dataclass
from redcrate.core.session import Session
from redcrate.core.units import ZERO, LayoutUnit, format_px, from_px, nearest_from_px

_OUTWARDS = {"left": -1, "right": 1, "top": -1, "bottom": 1}
_OPPOSITE = {"left": "right", "right": "left", "top": "bottom", "bottom": "top"}
_PARTS = ("margin", "border", "padding", "content")


@dataclass(frozen=True, slots=True)
class BoxEdge:
    """One edge of the selected box: the outer edge of a part on one side."""

    part: str
    side: str

    @property
    def is_across(self) -> bool:
        """Whether it moves to the left and right."""
        return self.side in ("left", "right")

    @property
    def label(self) -> str:
        """How people call it."""
        if self.part == "content":
            return "width" if self.is_across else "height"
        return f"{self.part} {self.side}"


EDGES = tuple(
    BoxEdge(part, side)
    for side in ("left", "right", "top", "bottom")
    for part in _PARTS
    if part != "content" or side in ("right", "bottom")
)


def part_rect(box: ElementBox, part: str) -> Rect:
    """The rectangle whose edges are the outer edges of a part."""
    return {
        "margin": box.margin_box,
        "border": box.border_box,
        "padding": box.padding_box,
        "content": box.content_box,
    }[part]


def edge_place(box: ElementBox, edge: BoxEdge) -> LayoutUnit:
    """x or y of an edge, 1/64 px."""
    rect = part_rect(box, edge.part)
    return {"left": rect.x, "right": rect.right, "top": rect.y, "bottom": rect.bottom}[edge.side]


def edge_at(box: ElementBox, x: LayoutUnit, y: LayoutUnit, reach: LayoutUnit) -> BoxEdge | None:
    """The edge within `reach` of a point; where several lie on one another, inside means the inner part."""
    if box.box is None:
        return None
    found: list[tuple[LayoutUnit, int, BoxEdge]] = []
    for edge in EDGES:
        rect = part_rect(box, edge.part)
        along, start, end = (y, rect.y, rect.bottom) if edge.is_across else (x, rect.x, rect.right)
        away = abs((x if edge.is_across else y) - edge_place(box, edge))
        if away > reach or not start - reach <= along <= end + reach:
            continue
        inside = box.border_box.contains(x, y)
        order = (
            ("padding", "content", "border", "margin")
            if inside
            else ("margin", "border", "padding", "content")
        )
        found.append((away, order.index(edge.part), edge))
    return min(found, key=lambda f: f[:2])[2] if found else None


def used_of(box: ElementBox, edge: BoxEdge) -> LayoutUnit:
    """The used amount that the edge stands for, 1/64 px."""
    if edge.part == "content":
        return box.content_box.width if edge.is_across else box.content_box.height
    return {"margin": box.margin, "border": box.border, "padding": box.padding}[edge.part].side(
        edge.side
    )


@dataclass(frozen=True, slots=True)
class DragState:
    """A drag under way. amount: what the edge's value would be, px. snapped: the edge it caught, 1/64 px.

    problem: why it goes no further; with a plan, that of the last value that is possible.
    """

    edge: BoxEdge
    element: Element
    start_used: LayoutUnit
    start_place: LayoutUnit
    written: str
    amount: float
    sides: tuple[str, ...]
    plan: Plan | None = None
    preview: Page | None = None
    problem: str = ""
    snapped: LayoutUnit | None = None

    @property
    def place(self) -> LayoutUnit:
        """Where the dragged edge would be, if nothing else moved; 1/64 px."""
        return self.start_place + _OUTWARDS[self.edge.side] * (from_px(self.amount) - self.start_used)

    @property
    def label(self) -> str:
        """What follows the pointer."""
        sides = "" if len(self.sides) == 1 else f" ×{len(self.sides)}"
        value = f"{self.edge.label}{sides} {format_px(nearest_from_px(self.amount))}"
        if self.problem and self.plan is None:
            return self.problem
        return f"{value}: {self.problem}" if self.problem else value


def begin(session: Session, edge: BoxEdge) -> DragState | None:
    """Take hold of an edge of the selected box."""
    element = session.views.selected
    box = session.views.page.box_of(element) if element is not None else None
    if element is None or box is None or box.box is None:
        return None
    longhand = longhand_of(edge.part, edge.side, "across" if edge.is_across else "down")
    used = used_of(box, edge)
    written, _ = written_value(session.views.page, element, longhand)
    return DragState(edge, element, used, edge_place(box, edge), written, used / 64, (edge.side,))


def dragged_by(
    session: Session,
    state: DragState,
    delta: LayoutUnit,
    *,
    both: bool = False,
    all_four: bool = False,
    snap: LayoutUnit = ZERO,
) -> DragState:
    """The drag with the pointer `delta` (1/64 px) from where it began.

    both: the opposite side alike. all_four: all sides. snap: how near other blocks' edges catch.
    """
    edge = state.edge
    outwards = _OUTWARDS[edge.side]
    caught = _caught(session.views.page, state, state.start_place + delta, snap)
    if caught is not None:
        delta = caught - state.start_place
    new = state.start_used + outwards * delta
    amount = new / 64 if caught is not None else float(round(new / 64))
    sides: tuple[str, ...] = (edge.side,)
    if edge.part != "content" and all_four:
        sides = SIDES
    elif edge.part != "content" and both:
        sides = (edge.side, _OPPOSITE[edge.side])
    return valued(session, replace(state, amount=amount, sides=sides, snapped=caught))


def valued(session: Session, state: DragState) -> DragState:
    """The drag with its plan and its preview; beyond what is possible, those of the last possible value."""
    try:
        plan, problem = _planned(session, state, state.amount), ""
    except RedCrateError as refusal:
        problem = refusal.what
        last = _last_possible(session, state)
        if last is None:
            return replace(state, plan=None, preview=None, problem=problem, snapped=None)
        state = replace(state, amount=last, snapped=None)
        plan = _planned(session, state, last)
    try:
        hidden = session.predict_first.on  # what nobody is to see is not laid out
        preview = None if hidden else session.editor.page_after(plan.patch)
        return replace(state, plan=plan, preview=preview, problem=problem)
    except RedCrateError as fault:
        return replace(state, plan=None, preview=None, problem=fault.what)


def _planned(session: Session, state: DragState, amount: float) -> Plan:
    """What dragging to `amount` px would write; raises RedCrateError where that is impossible."""
    edge = state.edge
    part = edge.part if edge.part != "content" else "width" if edge.is_across else "height"
    text = dragged(state.written, state.start_used / 64, amount)
    return session.editor.plan(
        state.element, part, state.sides if edge.part != "content" else ("",), text
    )


def _last_possible(session: Session, state: DragState) -> float | None:
    """The whole px nearest to what was wanted that can be had, by halving; None if not even the start."""

    def possible(amount: float) -> bool:
        try:
            _planned(session, state, amount)
        except RedCrateError:
            return False
        return True

    near, far = state.start_used / 64, state.amount
    if not possible(near):
        return None
    while abs(far - near) > 1:
        middle = float(round((near + far) / 2))
        if middle in (near, far):
            break
        near, far = (middle, far) if possible(middle) else (near, middle)
    return near


def _caught(page: Page, state: DragState, place: LayoutUnit, snap: LayoutUnit) -> LayoutUnit | None:
    """The nearest edge of another block that the dragged edge comes near to."""
    if snap <= 0:
        return None
    best: tuple[LayoutUnit, LayoutUnit] | None = None
    mine = {state.element, *state.element.walk()}
    for element, box in page.by_element.items():
        if element in mine or box.box is None or element in state.element.ancestors():
            continue
        rect = box.border_box
        for other in (rect.x, rect.right) if state.edge.is_across else (rect.y, rect.bottom):
            away = abs(other - place)
            if away <= snap and (best is None or away < best[0]):
                best = (away, other)
    return best[1] if best else None
