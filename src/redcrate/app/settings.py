"""What the program remembers between runs: recent pages, the window's layout; one JSON file."""

import base64
import json
from pathlib import Path
from typing import Any

from platformdirs import user_config_path, user_state_path

from redcrate.core.errors import PageNotWritable
from redcrate.core.files.recovery import RecoveryFolder
from redcrate.core.files.saving import save_bytes

_RECENT = 8


class Settings:
    """The settings file; a damaged or missing one counts as empty."""

    def __init__(self, folder: Path | None = None) -> None:
        self._file = (folder or user_config_path("redcrate")) / "settings.json"
        self._state = folder or user_state_path("redcrate")
        try:
            kept = json.loads(self._file.read_text(encoding="utf-8"))
        except (OSError, ValueError):
            kept = {}
        self._values: dict[str, Any] = kept if isinstance(kept, dict) else {}

    @property
    def recovery(self) -> RecoveryFolder:
        """Where unsaved work is kept."""
        return RecoveryFolder(self._state / "unsaved")

    @property
    def recent(self) -> list[Path]:
        """The pages that were opened last and are still there."""
        names = self._values.get("recent", [])
        return [Path(n) for n in names if isinstance(n, str) and Path(n).is_file()]

    def opened(self, page: Path) -> None:
        """A page was opened."""
        name = str(page.resolve())
        others = [str(p) for p in self.recent if str(p) != name]
        self.keep("recent", [name, *others][:_RECENT])

    def value(self, name: str) -> Any:
        """A kept value; None if there is none."""
        return self._values.get(name)

    def keep_bytes(self, name: str, data: bytes) -> None:
        """Keep bytes, such as a window's layout."""
        self.keep(name, base64.b64encode(data).decode("ascii"))

    def bytes_of(self, name: str) -> bytes:
        """Kept bytes; empty if there are none."""
        text = self._values.get(name)
        try:
            return base64.b64decode(text) if isinstance(text, str) else b""
        except ValueError:
            return b""

    def keep(self, name: str, value: Any) -> None:
        """Keep a value; a folder that cannot be written makes no noise, the value holds for this run."""
        self._values[name] = value
        try:
            self._file.parent.mkdir(parents=True, exist_ok=True)
            save_bytes(self._file, json.dumps(self._values, indent=1).encode("utf-8"))
        except (OSError, PageNotWritable):
            return
