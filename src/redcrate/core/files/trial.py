"""The files of a page as they are at one moment: its page in any window, and as it would be after a patch.

Nothing is written, and what happens to the document meanwhile does not matter: another thread may work on it.
"""

from collections.abc import Callable, Mapping
from pathlib import Path

from redcrate.core.edit.patch import Patch, apply_patch
from redcrate.core.files.copying import CopyReport, copy_page
from redcrate.core.files.loading import Assembled, assemble, read_page
from redcrate.core.files.resources import Resources
from redcrate.core.markup import SourceText
from redcrate.core.page import Page, compute_page
from redcrate.core.records import dataclass
from redcrate.core.style.media import Viewport


@dataclass(frozen=True, slots=True)
class PageSnapshot:
    """A trial as it is sent to another process. sources: of all files, by their names on the page."""

    page: Path
    html_name: str
    sources: dict[str, SourceText]


class Trial:
    """What a page could be. texts: of the HTML file and the stylesheets, by their names on the page."""

    def __init__(
        self,
        sources: Mapping[str, SourceText],
        html_name: str,
        resources: Resources,
        assembled: Assembled,
        edited: Mapping[str, SourceText],
    ) -> None:
        """sources: all files, of which `edited` are not as on disk. assembled: what they are, parsed."""
        self._sources = sources
        self._html_name = html_name
        self._resources = resources
        self._assembled = assembled
        self._edited = edited
        self.texts = {name: source.text for name, source in sources.items()}

    @classmethod
    def of_file(cls, path: Path) -> "Trial":
        """The page as it is on disk; raises PageNotReadable."""
        resources, html = Resources(path), read_page(path).source
        assembled = assemble(html, resources)
        sources = {html.name: html, **{name: f.source for name, f in assembled.files.items()}}
        return cls(sources, html.name, resources, assembled, {})

    @classmethod
    def of_snapshot(cls, snapshot: PageSnapshot, earlier: "Trial | None" = None) -> "Trial":
        """The trial that was sent. earlier: of the same page; what did not change is not parsed again."""
        resources, sources = Resources(snapshot.page), snapshot.sources
        known = earlier._assembled if earlier is not None else None
        assembled = assemble(sources[snapshot.html_name], resources, sources.get, known)
        return cls(sources, snapshot.html_name, resources, assembled, sources)

    def snapshot(self) -> PageSnapshot:
        """What makes the same trial in another process; files that change meanwhile do not matter there either."""
        return PageSnapshot(self.path, self._html_name, dict(self._sources))

    @property
    def path(self) -> Path:
        """The HTML file."""
        return self._resources.page

    def data(self) -> dict[Path, bytes]:
        """The bytes of all files as they are now, saved or not."""
        return {self._resources.folder / name: s.encode() for name, s in self._sources.items()}

    def copy_to(self, goal: Path, *, overwrite: bool = False) -> CopyReport:
        """Write the page as it is now to another place, with all that it uses.

        Raises FileIsThere with what would be overwritten, unless that is wanted, and PageNotWritable.
        """
        data = {name: source.encode() for name, source in self._sources.items()}
        markup = self._assembled.page.markup
        return copy_page(self.path, goal, markup, self._resources, data, overwrite=overwrite)

    def used_files(self) -> frozenset[Path]:
        """The pictures and fonts that its pages have asked for so far."""
        return self._resources.local_files()

    def with_html(self, text: str) -> "Trial":
        """The same with another document, and the files that this one names."""
        html = self._sources[self._html_name].with_text(text)
        edited = {**self._edited, self._html_name: html}
        assembled = assemble(html, self._resources, edited.get)
        sources = {html.name: html, **{n: f.source for n, f in assembled.files.items()}}
        return Trial({**sources, **edited}, html.name, self._resources, assembled, edited)

    def page(self, viewport: Viewport, known: Page | None = None) -> Page:
        """The page in a window. known: at another width, whose results are used again."""
        return compute_page(self._assembled.page, viewport, known)

    def in_windows(self, height: float) -> Callable[[int, Page | None], Page]:
        """What gives the page in a window of a width and of that height, px, from the page in another window."""
        return lambda width, known: self.page(Viewport(width, height), known)

    def after(self, patch: Patch) -> Callable[[Page], tuple[Page, Mapping[str, str]]]:
        """What gives a page of this trial, and the texts, as they would be after a patch."""
        changed, _ = apply_patch(patch, self.texts)
        edited = {**self._edited, **{n: self._sources[n].with_text(t) for n, t in changed.items()}}
        html = edited.get(self._html_name, self._sources[self._html_name])
        after = assemble(html, self._resources, edited.get, self._assembled).page
        texts = {**self.texts, **changed}
        return lambda page: (compute_page(after, page.viewport, page), texts)
