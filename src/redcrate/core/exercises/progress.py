"""What a learner has done so far: one small JSON file, and nothing else is kept."""

from pathlib import Path
from typing import Annotated

import msgspec

from redcrate.core.files.data_files import DataFile, read_data
from redcrate.core.predictions.question import Topic
from redcrate.core.predictions.record import Record, record_of

_Count = Annotated[int, msgspec.Meta(ge=0)]


class _Kept(msgspec.Struct):
    """progress.json. predictions: by topic, how many were right and how many were asked."""

    passed: list[str] = []
    opened: list[str] = []
    predictions: dict[str, tuple[_Count, _Count]] = {}


class Progress:
    """file: progress.json, which may not be there yet."""

    def __init__(self, file: Path) -> None:
        self._file = file

    def _kept(self) -> DataFile[_Kept]:
        return read_data(self._file, _Kept)

    @property
    def faults(self) -> tuple[str, ...]:
        """What of the file is malformed, a sentence each."""
        return self._kept().faults

    def _keep(self, file: DataFile[_Kept], **changed: object) -> None:
        file.write(msgspec.structs.replace(file.content, **changed))

    def passed(self) -> frozenset[str]:
        """The names of the exercises that were passed."""
        return frozenset(self._kept().content.passed)

    def keep_passed(self, name: str) -> None:
        """An exercise was passed. Raises PageNotWritable."""
        file = self._kept()
        self._keep(file, passed=sorted({*file.content.passed, name}))

    def opened(self) -> tuple[Path, ...]:
        """The files of exercises that were opened from elsewhere, in that order."""
        return tuple(Path(t) for t in self._kept().content.opened)

    def keep_opened(self, path: Path) -> None:
        """An exercise was opened from elsewhere. Raises PageNotWritable."""
        file = self._kept()
        self._keep(file, opened=list(dict.fromkeys((*file.content.opened, str(path)))))

    def predictions(self) -> Record:
        """How many predictions were right."""
        return record_of(self._kept().content.predictions)

    def keep_prediction(self, topic: Topic, *, is_right: bool) -> None:
        """A prediction was made. Raises PageNotWritable."""
        file = self._kept()
        record = record_of(file.content.predictions).with_one(topic, is_right=is_right)
        self._keep(file, predictions={**file.content.predictions, **record.data})
