"""A sheet that is looked at: the page of a view with its marks; hovering and selecting, no editing."""

from PyQt6.QtCore import QEvent, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.sheet.dimensions import Dimensions, Surface, dimensions_of, seen_ink
from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.sheet.page_viewport import PageViewport
from redcrate.app.sheet.rulers import RULER
from redcrate.app.sheet.tools import SelectTool
from redcrate.core.diagram.label_places import Bands
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.session import Change, Session
from redcrate.core.session.page_view import PageView


class LookingSheet(PageViewport):
    """The page as it will look; a click selects, a second one the parent, with Alt the deepest.

    Several can stand side by side over views of one document at different widths: the selection is one in all.
    """

    picked = pyqtSignal()  # a block was clicked
    hovered = pyqtSignal(object)  # the element under the pointer, or None

    def __init__(self, session: Session, view: PageView, parent: QWidget | None = None) -> None:
        super().__init__(view, session.document.resources, parent)
        self.select_tool = SelectTool(self, view)
        self._hovered: Element | None = None
        self.shows_chains = True
        self._aside = False  # the key that puts dimensions aside is held
        self._seen: tuple[Page, object, Surface] | None = None
        self._found: tuple[Element, Dimensions] | None = None
        self._lit: tuple[Element, ...] = ()
        self._space = False
        self.setAccessibleName("Sheet")
        self.setAccessibleDescription(
            "The page drawn to scale at one viewport width. Click a block to select it."
        )
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        session.listen(self._changed)

    # -- what is shown

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self.show_anew()
            self._hovered = None
        elif change is Change.PREVIEW:
            self.show_other()
        self.renew_picture()

    def light_up(self, elements: tuple[Element, ...]) -> None:
        """Show which elements an edit would touch; none: no longer."""
        self._lit = elements
        self.renew_picture()

    def hover(self, element: Element | None) -> None:
        """Show an element as if the pointer were over it."""
        if element is not self._hovered:
            self._hovered = element
            self.renew_picture()

    # -- painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Desk, page, hovered and selected box, rulers."""
        viewport = self.viewport()
        assert viewport is not None
        painter = QPainter(viewport)
        self.paint_page(painter)
        self.paint_over(painter)
        self._paint_marks(self._marks(painter))
        self.paint_rulers(painter)

    def paint_over(self, painter: QPainter) -> None:
        """What lies over the page and under the marks."""

    def _marks(self, painter: QPainter) -> SheetMarks:
        viewport = self.viewport()
        assert viewport is not None
        ratio = viewport.devicePixelRatioF()
        return SheetMarks(
            painter,
            self.shown_page,
            self.to_screen,
            self.scale,
            viewport.size(),
            RULER,
            ratio,
            self._surface().ink if self._view.selected is not None else Bands(),
        )

    def _surface(self) -> Surface:
        """What is seen, with what stays readable; kept until the page, its place or the scale changes."""
        viewport = self.viewport()
        assert viewport is not None
        origin, page = self.origin(), self.shown_page
        key = (self.scale, origin.x(), origin.y(), viewport.size())
        if self._seen is None or self._seen[0] is not page or self._seen[1] != key:
            ink = seen_ink(self._page_painter.shown(self.exposed()), self.to_screen)
            surface = Surface(self.to_screen, self.scale, viewport.size(), RULER, ink)
            self._seen, self._found = (page, key, surface), None
        return self._seen[2]

    def dimensions(self) -> Dimensions | None:
        """The dimensions of the selected box; None where they are aside: switched off, in the way, or not asked for."""
        element = self._view.selected
        if element is None or not self.shows_chains or self.is_busy or self._aside:
            return None
        surface, element = self._surface(), self._same_element(element)
        if self._found is None or self._found[0] is not element:
            box = self.shown_page.box_of(element)
            found = Dimensions() if box is None else dimensions_of(self.shown_page, box, surface)
            self._found = element, found
        found = self._found[1]
        return None if self.cursor_at is not None and found.is_over(self.cursor_at) else found

    def _same_element(self, element: Element) -> Element:
        """The element on the page that is shown, which may be of another parse."""
        elements = self.shown_page.elements
        return elements[element.index] if 0 <= element.index < len(elements) else element

    def _paint_marks(self, marks: SheetMarks) -> None:
        """Everything over the page."""
        selected = self._view.selected
        marks.lit([self._same_element(e) for e in self._lit])
        for element in self._view.selection[:-1]:
            marks.outline(self._same_element(element), Qt.PenStyle.SolidLine)
        if self._hovered is not None and self._hovered is not selected and not self.is_busy:
            marks.hover(self._same_element(self._hovered))
        if selected is not None:
            marks.selected(self._same_element(selected), self.dimensions())

    @property
    def is_busy(self) -> bool:
        """Whether something is being dragged, so that marks would be in the way."""
        return False

    # -- pointer

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Hover, or pan."""
        assert event is not None
        position = event.position()
        self.cursor_at = position
        if not self.pan(event):
            self._over(position)
        self.renew_picture()

    def _over(self, position: QPointF) -> None:
        found = self.select_tool.element_at(position)
        if found is not self._hovered:
            self._hovered = found
            self.hovered.emit(found)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Select: again: the parent; with Alt: the deepest one; the middle button or space pans."""
        assert event is not None
        left = event.button() is Qt.MouseButton.LeftButton
        if event.button() is Qt.MouseButton.MiddleButton or (self._space and left):
            self.begin_pan(event)
            return
        position = event.position()
        if not left or position.x() < RULER or position.y() < RULER:
            return
        deepest = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if self.takes_hold(position, deepest=deepest):
            return
        more = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        self._pick(position, deepest=deepest, more=more)

    def takes_hold(self, position: QPointF, *, deepest: bool) -> bool:
        """Whether a press there begins something else than a selection."""
        return False

    def _pick(self, position: QPointF, *, deepest: bool = False, more: bool = False) -> None:
        if self.select_tool.select_at(position, deepest=deepest, more=more) is not None:
            self.picked.emit()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The end of panning."""
        self.end_pan()

    def leaveEvent(self, event: QEvent | None) -> None:
        """Nothing is hovered outside."""
        self._hovered = self.cursor_at = None
        self.hovered.emit(None)
        self.renew_picture()

    # -- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Space pans; D puts the dimensions aside while it is held; arrows walk the tree."""
        assert event is not None
        if event.key() == Qt.Key.Key_Space:
            self._space = True
        elif event.key() == Qt.Key.Key_D and not event.modifiers():
            self._aside = True
            self.renew_picture()
        elif self.select_tool.key(event):
            self.renew_picture()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        """Space pans, and D puts the dimensions aside, only while they are held."""
        if event is not None and event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
        if event is not None and event.key() == Qt.Key.Key_D and not event.isAutoRepeat():
            self._aside = False
            self.renew_picture()
        super().keyReleaseEvent(event)
