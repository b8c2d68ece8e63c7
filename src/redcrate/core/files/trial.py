"""The files of a page, read once: its page in any window, and as it would be after a patch. Nothing is written."""

from collections.abc import Callable, Mapping
from pathlib import Path

from redcrate.core.edit.patch import Patch, apply_patch
from redcrate.core.files.loading import Resources, assemble, read_page
from redcrate.core.page import Page, compute_page
from redcrate.core.style.media import Viewport


class Trial:
    """What a page could be. Raises PageNotReadable.

    texts: of the HTML file and the stylesheets, by their names on the page.
    """

    def __init__(self, path: Path) -> None:
        self._resources = Resources(path)
        self._html = read_page(path).source
        self._assembled = assemble(self._html, self._resources)
        self._sources = {
            self._html.name: self._html,
            **{name: file.source for name, file in self._assembled.files.items()},
        }
        self.texts = {name: source.text for name, source in self._sources.items()}

    def page(self, viewport: Viewport, known: Page | None = None) -> Page:
        """The page in a window. known: at another width, whose results are used again."""
        return compute_page(self._assembled.page, viewport, known)

    def after(self, patch: Patch) -> Callable[[Page], tuple[Page, Mapping[str, str]]]:
        """What gives a page of this trial, and the texts, as they would be after a patch."""
        changed, _ = apply_patch(patch, self.texts)
        edited = {n: self._sources[n].with_text(t) for n, t in changed.items()}
        html = edited.get(self._html.name, self._html)
        after = assemble(html, self._resources, edited.get, self._assembled).page
        texts = {**self.texts, **changed}
        return lambda page: (compute_page(after, page.viewport, page), texts)
