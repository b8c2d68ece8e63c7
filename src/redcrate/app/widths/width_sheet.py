"""One of several sheets: the document at a width of its own, brought up to date in its own time."""

from PyQt6.QtCore import QPointF, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

from redcrate.app.sheet.looking_sheet import LookingSheet
from redcrate.app.sheet.rulers import RULER
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.session import Change, Session
from redcrate.core.session.page_view import ViewAt


class WidthSheet(LookingSheet):
    """Shows the page of its width as it was last computed, until its turn has come after an edit.

    scrolled: by the user, to a place of the page: the element at the upper edge, and how far below it that is (px).
    """

    scrolled = pyqtSignal(object, float)
    renewed = pyqtSignal()  # its turn came

    def __init__(self, session: Session, view: ViewAt, parent: QWidget | None = None) -> None:
        self._kept: Page = view.page
        self._following = False
        super().__init__(session, view, parent)
        self.shows_chains = False
        self._turn = QTimer(self)
        self._turn.setSingleShot(True)
        self._turn.setInterval(0)
        self._turn.timeout.connect(self.show_anew)
        bar = self.verticalScrollBar()
        assert bar is not None
        bar.valueChanged.connect(lambda _: self._tell())

    @property
    def shown_page(self) -> Page:
        """The page as it was when its turn last came."""
        return self._kept

    def show_anew(self) -> None:
        """Its turn has come: the page is computed, and painted when it is seen."""
        self._kept = self._view.page
        super().show_anew()
        self.renewed.emit()

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._hovered = None
            if self.isVisible():
                self._turn.start()
        elif change is Change.SELECTION:
            self.renew_picture()

    # -- scrolling together

    def _tell(self) -> None:
        if self._following or not self.isVisible():
            return
        top = -self.origin().y() + RULER
        element = self._kept.at_point(*self.page_point(self._upper_middle()))
        box = self._kept.box_of(element) if element is not None else None
        if element is not None and box is not None:
            self.scrolled.emit(element, top / self.scale - box.border_box.y / 64)

    def _upper_middle(self) -> QPointF:
        viewport = self.viewport()
        assert viewport is not None
        return QPointF(viewport.width() / 2, RULER + 4.0)

    def follow(self, element: Element, below: float) -> None:
        """Scroll so that the upper edge is as far below the top of an element as elsewhere, if it is there at all."""
        same = self._same_element(element)
        box, bar = self._kept.box_of(same), self.verticalScrollBar()
        if box is None or bar is None:
            return
        self._following = True
        inside = min(below, box.border_box.height / 64)
        bar.setValue(round((box.border_box.y / 64 + inside) * self.scale))
        self._following = False
