"""What the program remembers between runs: recent pages, the window's layout; one JSON file."""

import base64
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec import Struct, field, structs
from platformdirs import user_config_path, user_state_path

from redcrate.core.errors import PageNotWritable
from redcrate.core.files.data_files import read_data

if TYPE_CHECKING:
    from redcrate.core.files.recovery import RecoveryFolder

_RECENT = 8


class Kept(Struct):
    """settings.json. window, bench, findings: layouts of widgets, base64. outside: pages whose files elsewhere may be
    saved, or shown to a browser.
    """

    recent: list[str] = []
    window: str = ""
    bench: str = ""
    findings: str = ""
    knows_the_way: bool = field(default=False, name="knows the way")
    saves_outside: list[str] = field(default_factory=list, name="saves outside")
    shows_outside: list[str] = field(default_factory=list, name="shows outside")


class Settings:
    """The settings file; what is missing or malformed in it is as usual, and told by `faults`.

    predicts_first: whether a change is asked about first on the pages that are opened; it ends with the program.
    """

    def __init__(self, folder: Path | None = None) -> None:
        self._state = folder or user_state_path("redcrate")
        self._file = read_data((folder or user_config_path("redcrate")) / "settings.json", Kept)
        self._kept = self._file.content
        self.predicts_first = False

    @property
    def faults(self) -> tuple[str, ...]:
        """What of the file was passed over, a sentence each."""
        return self._file.faults

    @property
    def recovery(self) -> "RecoveryFolder":
        """Where unsaved work is kept."""
        from redcrate.core.files.recovery import RecoveryFolder  # the first frame need not wait for it

        return RecoveryFolder(self._state / "unsaved")

    @property
    def kept(self) -> Kept:
        """What is remembered now."""
        return self._kept

    @property
    def recent(self) -> list[Path]:
        """The pages that were opened last and are still there."""
        return [path for name in self._kept.recent if _is_file(path := Path(name))]

    def opened(self, page: Path) -> None:
        """A page was opened."""
        name = str(page.resolve())
        others = [str(p) for p in self.recent if str(p) != name]
        self.keep(recent=[name, *others][:_RECENT])

    def may(self, what: str, page: Path) -> bool:
        """Whether its user has said that a page `saves_outside` or `shows_outside` of its folder."""
        return str(page.resolve()) in getattr(self._kept, what)

    def allow(self, what: str, page: Path) -> None:
        """Its user says that it may from now on."""
        self.keep(**{what: [*getattr(self._kept, what), str(page.resolve())]})

    def keep_bytes(self, name: str, data: bytes) -> None:
        """Keep bytes, such as a window's layout."""
        self.keep(**{name: base64.b64encode(data).decode("ascii")})

    def bytes_of(self, name: str) -> bytes:
        """Kept bytes; empty if there are none."""
        try:
            return base64.b64decode(getattr(self._kept, name))
        except ValueError:
            return b""

    def keep(self, **changed: object) -> None:
        """Keep values; a folder that cannot be written makes no noise, they hold for this run."""
        self._kept = structs.replace(self._kept, **changed)
        with suppress(PageNotWritable):
            self._file = self._file.write(self._kept)


def _is_file(path: Path) -> bool:
    try:
        return path.is_file()
    except (OSError, ValueError):
        return False
