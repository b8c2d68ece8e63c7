"""How the document is seen: its pages by window width, the selection, and one preview with an owner."""

from collections.abc import Sequence

from redcrate.core.files.loading import Assembled
from redcrate.core.markup import Element, Markup
from redcrate.core.markup.elements import at_path
from redcrate.core.page import Page, compute_page
from redcrate.core.session.changes import Change, Listeners
from redcrate.core.session.document import Document
from redcrate.core.style.media import DEFAULT_HEIGHT, Viewport

_NARROWEST, _WIDEST = 1.0, 20_000.0  # px


class Views:
    """The pages of one document.

    page: at the width that is worked at. widths: those that the page is looked at, px.
    """

    def __init__(self, document: Document, width: float, listeners: Listeners) -> None:
        self._document = document
        self._listeners = listeners
        self.viewport = Viewport(width, DEFAULT_HEIGHT)
        self.page: Page = compute_page(document.assembled.page, self.viewport)
        self._others: dict[float, Page] = {}  # at other widths, perhaps of earlier texts
        self._selection: tuple[tuple[int, ...], ...] = ()
        self._preview: Page | None = None
        self._owner: object = None

    # -- pages

    def page_of(self, assembled: Assembled, width: float | None = None) -> Page:
        """The page of another source, at the width that is seen now or at another one; nothing changes.

        Raises LayoutBug where the computation fails.
        """
        page = self.page if width is None else self.page_at(width)
        return compute_page(assembled.page, page.viewport, page)

    def page_at(self, width: float) -> Page:
        """The document in a window of another width, px; kept until the document changes."""
        if width == self.viewport.width:
            return self.page
        source = self._document.assembled.page
        known = self._others.get(width)
        if known is None or known.source is not source:
            viewport = Viewport(width, self.viewport.height)
            known = self._others[width] = compute_page(source, viewport, known or self.page)
        return known

    def forget_width(self, width: float) -> None:
        """No longer keep the page at a width."""
        self._others.pop(width, None)

    def set_width(self, width: float) -> None:
        """See the page in a window of another width, in px; at least 1."""
        width = min(max(_NARROWEST, width), _WIDEST)
        if width == self.viewport.width:
            return
        page = self.page_at(width)
        self.forget_width(width)
        self.viewport, self.page = page.viewport, page
        self._drop()
        self._listeners.tell(Change.PAGE)

    def show(self, page: Page, selected_at: Sequence[int] | None = None) -> None:
        """Show the page of a changed document; nobody is told yet.

        selected_at: the offsets of the start tags that are selected in a tree that was parsed anew.
        """
        before, self.page = self.page.source.markup.root, page
        self._drop()
        if selected_at is not None and page.source.markup.root is not before:
            self._selection = _paths_at(page.source.markup, selected_at)

    # -- selection

    @property
    def selected(self) -> Element | None:
        """The element that was selected last."""
        return self._at(self._selection[-1]) if self._selection else None

    @property
    def selection(self) -> tuple[Element, ...]:
        """All selected elements; the last one is the one that panels speak of."""
        found = (self._at(path) for path in self._selection)
        return tuple(e for e in found if e is not None)

    def _at(self, path: tuple[int, ...]) -> Element | None:
        return at_path(self.page.elements[0], path)

    def select(self, *elements: Element | None) -> None:
        """Select elements of the page, or none; the last one is the one that panels speak of."""
        paths = tuple(e.path for e in elements if e is not None)
        if paths != self._selection:
            self._selection = paths
            self._listeners.tell(Change.SELECTION)

    # -- preview

    @property
    def shown_page(self) -> Page:
        """The page that is shown: the document's, or a preview of what it would become."""
        return self._preview or self.page

    def preview(self, owner: object, page: Page | None) -> None:
        """Show another page of the same document for a while; None: no longer.

        The preview belongs to the `owner` who showed it last: nobody else's None takes it down.
        """
        if page is None and self._owner is not owner:
            return
        if page is not self._preview:
            self._preview, self._owner = page, owner if page is not None else None
            self._listeners.tell(Change.PREVIEW)

    def _drop(self) -> None:
        self._preview = self._owner = None


def _paths_at(markup: Markup, offsets: Sequence[int]) -> tuple[tuple[int, ...], ...]:
    """The paths of the elements whose start tags stand at `offsets`."""
    wanted = set(offsets)
    found: dict[int, tuple[int, ...]] = {}
    for element in markup.listed:
        tag = markup.start_tag(element)
        if tag is not None and tag.start in wanted:
            found[tag.start] = element.path
    return tuple(found[o] for o in offsets if o in found)
