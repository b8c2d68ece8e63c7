"""What reading a large stylesheet told, kept: of most of its rules nothing else is asked."""

import json
import os
from functools import cache
from pathlib import Path

import redcrate.core.style as style_rules
from redcrate.core.files.kept_work import kept_work
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.style.sheets import Sheet

_KIND = "notices"


class NoticesOf:
    """The notices of a sheet. read_as: what its reading hangs on beside its text; None: they are not kept."""

    def __init__(self, sheet: Sheet, read_as: str | None) -> None:
        self._sheet = sheet
        self._read_as = read_as
        self._found: tuple[Notice, ...] | None = None

    @property
    def is_known(self) -> bool:
        """Whether they can be told at once."""
        if self._found is None:
            self._found = self._sheet.notices if self._sheet.is_read else self._kept()
        return self._found is not None

    @property
    def notices(self) -> tuple[Notice, ...]:
        """All of them; where none were kept, all rules are read."""
        if not self.is_known:
            self._found = self._sheet.notices
            self._keep(self._found)
        assert self._found is not None
        return self._found

    def _keep(self, found: tuple[Notice, ...]) -> None:
        if self._read_as is not None:
            told = [(n.kind.value, n.sentence, n.line, n.offset) for n in found]
            kept_work().keep(_KIND, self._source(), json.dumps(told).encode())

    def _kept(self) -> tuple[Notice, ...] | None:
        data = None if self._read_as is None else kept_work().of(_KIND, self._source())
        try:
            return None if data is None else tuple([self._notice(*one) for one in json.loads(data)])
        except (TypeError, ValueError, RecursionError):
            return None

    def _notice(self, kind: str, sentence: str, line: int, offset: int) -> Notice:
        if not isinstance(sentence, str) or type(line) is not int or type(offset) is not int:
            raise TypeError("no notice")
        return Notice(NoticeKind(kind), sentence, self._sheet.source.name, line, offset)

    def _source(self) -> bytes:
        """What decides them: the text, how it is read, and the program as it is."""
        parts = (_program(), self._read_as or "", self._sheet.source.text)
        return "\0".join(parts).encode("utf-8", "surrogatepass")


@cache
def _program() -> str:
    """Tells this version of what reads stylesheets from others, also while it is being worked on."""
    folder = Path(next(iter(style_rules.__path__)))
    states = sorted(
        (e.name, e.stat().st_size, e.stat().st_mtime_ns) for e in os.scandir(folder) if e.is_file()
    )
    return repr(states)
