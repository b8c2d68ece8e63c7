"""What the pointer and the keys do on a sheet: select blocks, drag an edge, drag the window's width.

Each tool is told of presses, moves and releases, and says whether they were for it.
"""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent

from redcrate.app.sheet import edge_drag
from redcrate.app.sheet.edge_drag import EDGES, BoxEdge, DragState
from redcrate.app.sheet.page_viewport import PageViewport
from redcrate.app.sheet.rulers import RULER
from redcrate.core.errors import RedCrateError
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session
from redcrate.core.session.page_view import PageView
from redcrate.core.session.views import Views
from redcrate.core.units import nearest_from_px

_REACH = 5  # screen px within which an edge is taken hold of
_SNAP = 5  # screen px within which it catches on other blocks' edges
_CLICK = 3  # screen px that the pointer moves in a click

# Tells a sentence, and whether it is about something wrong.
Say = Callable[[str, bool], object]

_OUTWARDS = {
    "left": Qt.Key.Key_Left, "right": Qt.Key.Key_Right, "top": Qt.Key.Key_Up, "bottom": Qt.Key.Key_Down,
}  # fmt: skip


class SelectTool:
    """A click selects, a second one the parent; with Alt the deepest, with Ctrl one more."""

    def __init__(self, viewport: PageViewport, view: PageView) -> None:
        self._viewport = viewport
        self._view = view
        self._climbed: tuple[Element, Element] | None = (
            None  # from the element clicked on to the one selected
        )

    def element_at(self, position: QPointF) -> Element | None:
        """The innermost element under a place of the viewport."""
        return self._view.page.at_point(*self._viewport.page_point(position))

    def select_at(
        self, position: QPointF, *, deepest: bool = False, more: bool = False
    ) -> Element | None:
        """Select what lies there; returns it."""
        found = self.element_at(position)
        selected = self._view.selected
        if more and found is not None:
            others = [e for e in self._view.selection if e is not found]
            self._view.select(*others, found)
            return None
        if found is not None and selected is not None and not deepest:
            again = found is selected or self._climbed == (found, selected)
            if again and selected.parent is not None:
                self._climbed = found, selected.parent
                found = selected.parent
        self._view.select(found)
        return found

    def key(self, event: QKeyEvent) -> bool:
        """Arrows walk the tree; whether this was one that leads somewhere."""
        target = self._step(event.key())
        if target is None:
            return False
        self._view.select(target)
        return True

    def _step(self, key: int) -> Element | None:
        """Up to the parent, down to the first child, sideways to siblings."""
        selected = self._view.selected
        if selected is None:
            return self._view.page.elements[0] if key == Qt.Key.Key_Down else None
        if key == Qt.Key.Key_Up:
            return selected.parent
        if key == Qt.Key.Key_Down:
            shown = [e for e in selected.child_elements if e.index >= 0]
            return shown[0] if shown else None
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and selected.parent is not None:
            siblings = [e for e in selected.parent.child_elements if e.index >= 0]
            if selected not in siblings:
                return None
            at = siblings.index(selected) + (1 if key == Qt.Key.Key_Right else -1)
            return siblings[at] if 0 <= at < len(siblings) else None
        return None


class WidthTool:
    """The right edge of the page is the window's: dragged, it is another width."""

    def __init__(self, viewport: PageViewport, views: Views) -> None:
        self._viewport = viewport
        self._views = views
        self.held = False

    def is_at(self, position: QPointF) -> bool:
        """Whether a place of the viewport is on the edge."""
        right = self._viewport.origin().x() + self._views.viewport.width * self._viewport.scale
        return abs(position.x() - right) <= _REACH and position.y() > RULER

    def press(self, position: QPointF) -> bool:
        """Take hold of the edge, if it is there."""
        self.held = self.is_at(position)
        return self.held

    def move(self, position: QPointF) -> bool:
        """The edge follows the pointer, while it is held."""
        if self.held:
            along = position.x() - self._viewport.origin().x()
            self._views.set_width(round(along / self._viewport.scale))
        return self.held

    def release(self) -> None:
        """Let go."""
        self.held = False


class EdgeTool:
    """Edges of the selected box: dragged with the pointer, or focused and moved with the arrows.

    drag: what is being dragged, and what it would write. near: the edge under the pointer. focused: the
    edge that the arrows move.
    """

    def __init__(self, viewport: PageViewport, session: Session, say: Say) -> None:
        self._viewport = viewport
        self._session = session
        self._say = say
        self.drag: DragState | None = None
        self.drag_from: QPointF | None = None
        self.near: BoxEdge | None = None
        self.focused: BoxEdge | None = None

    @property
    def shown(self) -> BoxEdge | None:
        """The edge that is marked."""
        return self.drag.edge if self.drag is not None else self.focused or self.near

    def forget(self) -> None:
        """Another box is selected."""
        self.drag = self.near = self.focused = None

    def edge_under(self, position: QPointF) -> BoxEdge | None:
        """The edge that a press there would take hold of."""
        selected = self._session.views.selected
        box = self._session.views.page.box_of(selected) if selected is not None else None
        if box is None:
            return None
        reach = nearest_from_px(_REACH / self._viewport.scale)
        return edge_drag.edge_at(box, *self._viewport.page_point(position), reach=reach)

    # -- with the pointer

    def press(self, position: QPointF) -> bool:
        """Take hold of an edge, if one is there."""
        edge = self.edge_under(position)
        if edge is None:
            return False
        self.drag = edge_drag.begin(self._session, edge)
        self.drag_from = position
        return True

    def move(self, event: QMouseEvent) -> bool:
        """The edge follows the pointer, while it is held: both sides with Shift, all four with Ctrl."""
        if self.drag is None or self.drag_from is None:
            return False
        way = event.position() - self.drag_from
        along = way.x() if self.drag.edge.is_across else way.y()
        keys = event.modifiers()
        self.drag = edge_drag.dragged_by(
            self._session,
            self.drag,
            nearest_from_px(along / self._viewport.scale),
            both=bool(keys & Qt.KeyboardModifier.ShiftModifier),
            all_four=bool(keys & Qt.KeyboardModifier.ControlModifier),
            snap=nearest_from_px(_SNAP / self._viewport.scale),
        )
        self._session.views.preview(self, self.drag.preview)
        return True

    def release(self, position: QPointF) -> bool:
        """Let go: a drag is one step. False where it was a click after all."""
        drag, start, self.drag, self.drag_from = self.drag, self.drag_from, None, None
        if drag is None or start is None:
            return True
        self._session.views.preview(self, None)
        if (position - start).manhattanLength() < _CLICK:
            return False
        if drag.plan is None:
            self._say(drag.problem, True)
        elif drag.plan.patch.edits:
            self._do(drag)
        return True

    def _do(self, drag: DragState, merges: str = "") -> None:
        assert drag.plan is not None
        try:
            done = self._session.predict_first.offer(
                drag.plan.patch, merges=merges, said=drag.plan.asked
            )
        except RedCrateError as problem:
            self._say(problem.sentence, True)
            return
        if not done:
            return
        stopped = f"Stopped: {drag.problem}" if drag.problem else drag.plan.note
        self._say(f"Changed {'; '.join(drag.plan.lines)}. {stopped}".strip(), False)

    def give_up(self) -> bool:
        """Let go of an edge without a change; whether one was held."""
        held = self.drag is not None
        self.drag = self.drag_from = None
        self._session.views.preview(self, None)
        return held

    # -- with the keyboard

    def focus_next(self, step: int = 1) -> None:
        """Give the focus to the next edge of the selected box, round all of them, then none."""
        selected = self._session.views.selected
        box = self._session.views.page.box_of(selected) if selected is not None else None
        if box is None or box.box is None:
            return
        order = (None, *EDGES)
        self.focused = order[(order.index(self.focused) + step) % len(order)]
        if self.focused is not None:
            self._say(f"Edge: {self.focused.label}. Arrows: move 1 px; Shift: 10 px; Esc: leave.", False)

    def nudge(self, step: float) -> None:
        """Move the focused edge outwards by `step` px; a row of nudges is one step."""
        edge = self.focused
        state = edge_drag.begin(self._session, edge) if edge is not None else None
        if state is None or edge is None:
            return
        way = nearest_from_px(step) * (-1 if edge.side in ("left", "top") else 1)
        state = edge_drag.dragged_by(self._session, state, way)
        if state.plan is None:
            self._say(state.problem, True)
            return
        self._do(state, merges=f"nudge {edge.label}")
        self.focused = edge

    def key(self, event: QKeyEvent) -> bool:
        """Keys that are about edges: E, Esc, and arrows while one is focused; whether this was one."""
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if event.key() == Qt.Key.Key_E:
            self.focus_next(-1 if shift else 1)
            return True
        if event.key() == Qt.Key.Key_Escape:
            if not self.give_up():
                self.focused = None
            return True
        if self.focused is None:
            return False
        across = (Qt.Key.Key_Left, Qt.Key.Key_Right)
        down = (Qt.Key.Key_Up, Qt.Key.Key_Down)
        if event.key() not in (across if self.focused.is_across else down):
            return False
        fine = event.modifiers() & Qt.KeyboardModifier.AltModifier
        step = 0.1 if fine else 10.0 if shift else 1.0
        self.nudge(step if event.key() == _OUTWARDS[self.focused.side] else -step)
        return True
