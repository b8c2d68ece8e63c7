"""Large stylesheet files as they were read, for the next page that uses them, and for the same one opened again."""

from collections import OrderedDict
from threading import Lock
from typing import NamedTuple

from redcrate.core.markup.source_text import SourceText
from redcrate.core.style.sheets import Sheet

_LEAST, _MOST = 16_000, 2**23  # characters of a sheet that is kept, and of all that are


class Asked(NamedTuple):
    """What decides how a file is read. media: of the element that names it. base: the way to its folder."""

    source: SourceText
    media: str
    quirks: bool
    base: str


class SheetsRead:
    """The sheets that were read last; threads may share it. A sheet never changes."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._sheets: OrderedDict[Asked, Sheet] = OrderedDict()

    def of(self, asked: Asked) -> Sheet | None:
        """What was read of a file, if it was."""
        with self._lock:
            if asked in self._sheets:
                self._sheets.move_to_end(asked)
            return self._sheets.get(asked)

    def keep(self, asked: Asked, sheet: Sheet) -> None:
        """Keep what was read; not of small files, nor of those whose imports may change while they do not."""
        if sheet.imports or not _LEAST <= len(asked.source.text) <= _MOST:
            return
        with self._lock:
            self._sheets[asked] = sheet
            while sum(len(one.source.text) for one in self._sheets) > _MOST:
                self._sheets.popitem(last=False)


SHEETS_READ = SheetsRead()
