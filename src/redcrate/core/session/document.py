"""The files of the page that is open: as they are on disk, and as they are now."""

from collections.abc import Mapping
from pathlib import Path

from redcrate.core.errors import OutsideFolder
from redcrate.core.files.copying import CopyReport, copy_page
from redcrate.core.files.loading import Assembled, Told, assemble, nobody_is_told, read_page
from redcrate.core.files.on_disk import DiskChange, disk_changes
from redcrate.core.files.resources import Loaded, Resources
from redcrate.core.files.saving import save_bytes
from redcrate.core.files.settings import PageSettings, read_settings, write_settings
from redcrate.core.files.trial import Trial
from redcrate.core.markup import SourceText


class Document:
    """The texts of one page with its stylesheets; edits of them come from the editor.

    assembled: the page's source, parsed, as the texts are now. settings: what the page's settings file
    says. may_write_outside: whether its user has said that files outside the page's folder are saved too.
    """

    def __init__(self, path: Path, told: Told = nobody_is_told) -> None:
        """Read `path`; raises PageNotReadable with a sentence if that cannot be done.

        told: is told what is being read; what it raises ends the work.
        """
        self.path = path
        self.may_write_outside = False
        self._html: Loaded = read_page(path)
        self.resources = Resources(path)
        self.settings: PageSettings = read_settings(path)
        self._edited: Mapping[str, SourceText] = {}
        self._no_longer_named: dict[str, Loaded] = {}  # sheets that the page has named, by name
        self.assembled: Assembled = assemble(self._html.source, self.resources, told=told)

    @property
    def html_name(self) -> str:
        """The name of the HTML file among the page's files."""
        return self._html.source.name

    @property
    def files(self) -> dict[str, Loaded]:
        """The page's files by name, as they were read."""
        return {self.html_name: self._html, **self.assembled.files}

    @property
    def every_file(self) -> dict[str, Loaded]:
        """The page's files, and sheets that were edited while it named them."""
        return {**self._no_longer_named, **self.files}

    def text(self, name: str) -> SourceText:
        """The current text of a file of the page."""
        return self._edited.get(name) or self.every_file[name].source

    def texts(self) -> dict[str, str]:
        """The current text of all files, by name."""
        return {name: self.text(name).text for name in self.files}

    @property
    def edited_files(self) -> tuple[str, ...]:
        """The names of the files whose text is not the one on disk, whether the page still names them or not."""
        files = self.every_file
        return tuple(n for n, s in self._edited.items() if n in files and s.encode() != files[n].data)

    @property
    def is_edited(self) -> bool:
        """Whether anything is not saved."""
        return bool(self.edited_files)

    @property
    def edits(self) -> dict[str, SourceText]:
        """The texts that were edited since they were read, by name."""
        return dict(self._edited)

    def edits_with(self, changed: Mapping[str, str]) -> dict[str, SourceText]:
        """The edited texts as they would be with other texts in some files; nothing changes."""
        return {**self._edited, **{n: self.text(n).with_text(t) for n, t in changed.items()}}

    def assembled_with(self, edited: Mapping[str, SourceText], earlier: Assembled | None) -> Assembled:
        """The page's source with those edited texts, parsed; nothing changes.

        earlier: what is taken over where an edit does not concern it; None: everything is parsed.
        """
        html = edited.get(self.html_name, self._html.source)
        return assemble(html, self.resources, edited.get, earlier)

    def trial(self) -> Trial:
        """The document as it is now, to try things on while it goes on."""
        sources = {name: self.text(name) for name in self.files}
        return Trial(sources, self.html_name, self.resources, self.assembled, dict(self._edited))

    def take(self, edited: Mapping[str, SourceText], assembled: Assembled) -> None:
        """Go on with other texts, which were parsed already."""
        left = {n: f for n, f in self.every_file.items() if n in edited and n not in assembled.files}
        self._no_longer_named = {n: f for n, f in left.items() if n != self.html_name}
        self._edited, self.assembled = edited, assembled

    def note_on_disk(self, loaded: Loaded) -> None:
        """A file is on disk as `loaded` says."""
        if loaded.source.name == self.html_name:
            self._html = loaded
        elif loaded.source.name in self._no_longer_named:
            self.resources.keep_sheet(loaded)
            self._no_longer_named[loaded.source.name] = loaded
        else:
            self.resources.keep_sheet(loaded)
            self.assembled.files[loaded.source.name] = loaded

    def write(self) -> tuple[str, ...]:
        """Write every edited file; returns their names.

        Raises PageNotWritable; what could not be written stays in memory. Raises OutsideFolder before anything is
        written where files outside the page's folder were edited and `may_write_outside` is not set, and ChangedOnDisk
        for a file that another program has changed meanwhile.
        """
        outside = tuple(n for n in self.edited_files if self.resources.outside(self.every_file[n].path))
        if outside and not self.may_write_outside:
            raise OutsideFolder(outside, self.html_name)
        saved: list[str] = []
        for name in self.edited_files:
            loaded, source = self.every_file[name], self._edited[name]
            data = source.encode()
            save_bytes(loaded.path, data, expected=loaded.data)
            self.note_on_disk(Loaded(loaded.path, source, data))
            saved.append(name)
        return tuple(saved)

    def write_copy(self, goal: Path, *, overwrite: bool = False) -> CopyReport:
        """Write the page with its stylesheets and pictures to another place; this one stays open.

        Raises FileIsThere with what would be overwritten, unless that is wanted, and PageNotWritable.
        """
        texts = {name: self.text(name).encode() for name in self.files}
        markup = self.assembled.page.markup
        return copy_page(self.path, goal, markup, self.resources, texts, overwrite=overwrite)

    def keep_settings(self, settings: PageSettings) -> None:
        """Keep other settings beside the page. Raises PageNotWritable; they hold all the same."""
        self.settings = settings
        write_settings(self.path, settings)

    def disk_changes(self) -> tuple[DiskChange, ...]:
        """The files that another program has changed since they were read or saved."""
        return disk_changes(self.every_file, {n: self.text(n) for n in self.edited_files})
