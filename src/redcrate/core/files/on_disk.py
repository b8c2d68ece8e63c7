"""Files that another program has changed while they are open here."""

from collections.abc import Mapping

from redcrate.core.edit.merging import differing_lines, merged
from redcrate.core.errors import PageNotReadable
from redcrate.core.files.reading import read_regular, reason_of
from redcrate.core.files.resources import Loaded
from redcrate.core.markup import SourceText, decode_css, decode_html
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class DiskChange:
    """One file that is not on disk what it was.

    gone: it is no longer there. edited: it was edited here too, so that somebody must choose.
    differing: the lines that differ between theirs and mine. both: both changes in one text; None
    where they touch the same lines.
    """

    name: str
    gone: bool
    edited: bool
    differing: tuple[str, ...] = ()
    both: str | None = None


def disk_changes(
    files: Mapping[str, Loaded], edited: Mapping[str, SourceText]
) -> tuple[DiskChange, ...]:
    """What has changed on disk. edited: the current texts of the files that were edited here."""
    found = []
    for name, loaded in files.items():
        try:
            data = read_regular(loaded.path)
        except OSError:
            found.append(DiskChange(name, True, name in edited))
            continue
        if data == loaded.data:
            continue
        if name not in edited:
            found.append(DiskChange(name, False, False))
            continue
        theirs, mine = _decoded(loaded, data).text, edited[name].text
        lines = differing_lines(mine, theirs, f"{name} here", f"{name} on disk")
        both = merged(loaded.source.text, mine, theirs)
        found.append(DiskChange(name, False, True, tuple(lines), both))
    return tuple(found)


def reread(loaded: Loaded) -> Loaded:
    """A file as it is on disk now. Raises PageNotReadable if it is gone or no text."""
    try:
        data = read_regular(loaded.path)
    except OSError as problem:
        raise PageNotReadable(
            f"the file cannot be read ({reason_of(problem)}).", where=loaded.source.name
        ) from None
    return Loaded(loaded.path, _decoded(loaded, data), data)


def _decoded(loaded: Loaded, data: bytes) -> SourceText:
    name = loaded.source.name
    if loaded.path.suffix.lower() == ".css":
        return decode_css(data, name, loaded.source.codec)
    return decode_html(data, name)
