"""What a learner has done so far: one small JSON file, and nothing else is kept."""

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from redcrate.core.errors import PageNotWritable
from redcrate.core.files.saving import save_bytes
from redcrate.core.predictions.question import Topic
from redcrate.core.predictions.record import Record, record_of


class Progress:
    """file: progress.json, which may not be there yet."""

    def __init__(self, file: Path) -> None:
        self._file = file

    def _data(self) -> dict[str, Any]:
        try:
            kept = json.loads(self._file.read_text(encoding="utf-8"))
        except (OSError, ValueError, RecursionError):
            return {}
        return kept if isinstance(kept, dict) else {}

    def _texts(self, name: str) -> tuple[str, ...]:
        found = self._data().get(name, [])
        return tuple(t for t in found if isinstance(t, str)) if isinstance(found, list) else ()

    def _keep(self, changed: Mapping[str, Any]) -> None:
        try:
            self._file.parent.mkdir(parents=True, exist_ok=True)
        except OSError as problem:
            raise PageNotWritable(f"({problem.strerror}).", where=str(self._file)) from None
        text = json.dumps({**self._data(), **changed}, indent=1, ensure_ascii=False)
        save_bytes(self._file, text.encode("utf-8"))

    def passed(self) -> frozenset[str]:
        """The names of the exercises that were passed."""
        return frozenset(self._texts("passed"))

    def keep_passed(self, name: str) -> None:
        """An exercise was passed. Raises PageNotWritable."""
        self._keep({"passed": sorted(self.passed() | {name})})

    def opened(self) -> tuple[Path, ...]:
        """The files of exercises that were opened from elsewhere, in that order."""
        return tuple(Path(t) for t in self._texts("opened"))

    def keep_opened(self, file: Path) -> None:
        """An exercise was opened from elsewhere. Raises PageNotWritable."""
        self._keep({"opened": list(dict.fromkeys((*self._texts("opened"), str(file))))})

    def predictions(self) -> Record:
        """How many predictions were right."""
        return record_of(self._data().get("predictions"))

    def keep_prediction(self, topic: Topic, *, is_right: bool) -> None:
        """A prediction was made. Raises PageNotWritable."""
        self._keep({"predictions": self.predictions().with_one(topic, is_right=is_right).data})
