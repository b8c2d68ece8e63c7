"""The ghost of a box, moved to where it will be: with the pointer, or with the arrows."""

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent

from redcrate.app.predict.marks import paint_ghost, paint_told
from redcrate.app.sheet.arrows import ARROWS
from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.sheet.page_viewport import PageViewport
from redcrate.core.geometry import Rect
from redcrate.core.predictions.question import PlaceQuestion
from redcrate.core.session import Session
from redcrate.core.units import format_px, from_px, nearest_from_px


class GhostTool:
    """ghost: where it is now, while a place is asked for."""

    def __init__(self, viewport: PageViewport, session: Session) -> None:
        self._viewport = viewport
        self._session = session
        self._question: PlaceQuestion | None = None
        self._from: tuple[QPointF, Rect] | None = None
        self.ghost: Rect | None = None

    def follow(self) -> None:
        """Another question, or none."""
        waiting = self._session.predict_first.waiting
        asked = waiting.question if waiting is not None else None
        if asked is self._question:
            return
        self._question = asked if isinstance(asked, PlaceQuestion) else None
        self.ghost = None if self._question is None else self._question.before
        self._from = None

    @property
    def is_seen(self) -> bool:
        """Whether a ghost is on the sheet: one that is moved, or where one was put."""
        told = self._session.predict_first.told
        return self.ghost is not None or (told is not None and told.question.kind == "place")

    # -- with the pointer

    def press(self, position: QPointF) -> bool:
        """Take hold of the ghost, if it is there."""
        if self.ghost is None or not self._viewport.to_screen(self.ghost).contains(position):
            return False
        self._from = position, self.ghost
        return True

    def move(self, event: QMouseEvent) -> bool:
        """The ghost follows the pointer, while it is held."""
        if self._from is None:
            return False
        start, ghost = self._from
        way = (event.position() - start) / self._viewport.scale
        self.ghost = ghost.moved(nearest_from_px(round(way.x())), nearest_from_px(round(way.y())))
        return True

    def release(self) -> bool:
        """Let go; whether it was held."""
        held, self._from = self._from is not None, None
        return held

    # -- with the keyboard

    def key(self, event: QKeyEvent) -> bool:
        """Arrows move it by 1 px, with Shift by 10; whether this was one."""
        way = ARROWS.get(Qt.Key(event.key()))
        if self.ghost is None or way is None:
            return False
        step = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        self.ghost = self.ghost.moved(from_px(step * way[0]), from_px(step * way[1]))
        return True

    # -- what is drawn

    def paint(self, marks: SheetMarks) -> None:
        """The ghost, or what was said beside what it became."""
        predicting = self._session.predict_first
        if self.ghost is not None and self._question is not None:
            begun = self._question.before
            moved = (
                f"{format_px(self.ghost.x - begun.x)} across, {format_px(self.ghost.y - begun.y)} down"
            )
            paint_ghost(marks, self.ghost, moved)
        elif predicting.told is not None and predicting.width == self._session.views.viewport.width:
            paint_told(marks, predicting.told)
