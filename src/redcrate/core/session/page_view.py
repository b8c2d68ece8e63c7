"""What a sheet shows: a page at one width with the selection; the one that is worked at, or another one beside it."""

from typing import Protocol

from redcrate.core.markup import Element
from redcrate.core.page import Page
from redcrate.core.session.views import Views
from redcrate.core.style.media import Viewport


class PageView(Protocol):
    """A page as it is seen. shown_page: the document's, or a preview of what it would become."""

    @property
    def page(self) -> Page:
        """The document's page at the width of this view."""
        ...

    @property
    def shown_page(self) -> Page:
        """What is shown."""
        ...

    @property
    def viewport(self) -> Viewport:
        """The window that the page is laid out for."""
        ...

    @property
    def selected(self) -> Element | None:
        """The element that was selected last."""
        ...

    @property
    def selection(self) -> tuple[Element, ...]:
        """All selected elements."""
        ...

    def select(self, *elements: Element | None) -> None:
        """Select elements, for all views of the document."""
        ...


class ViewAt:
    """The document at a width of its own, px; the selection is that of all views."""

    def __init__(self, views: Views, width: float) -> None:
        self._views = views
        self._width = width

    @property
    def page(self) -> Page:
        """The document's page at that width, computed when it is asked for."""
        return self._views.page_at(self._width)

    @property
    def shown_page(self) -> Page:
        """The page: previews are of the width that is worked at."""
        return self.page

    @property
    def viewport(self) -> Viewport:
        """The window of that width."""
        return Viewport(self._width, self._views.viewport.height)

    @property
    def selected(self) -> Element | None:
        """The element that was selected last."""
        return self._views.selected

    @property
    def selection(self) -> tuple[Element, ...]:
        """All selected elements."""
        return self._views.selection

    def select(self, *elements: Element | None) -> None:
        """Select elements, for all views of the document."""
        self._views.select(*elements)

    def set_width(self, width: float) -> None:
        """See it at another width from now on; what was known of the other one goes."""
        if width != self._width:
            self._views.forget_width(self._width)
            self._width = width

    def close(self) -> None:
        """The page of this width is no longer kept."""
        self._views.forget_width(self._width)
