"""Our own small data files: settings, progress, unsaved work. One class says what is in a file; the rest follows from it.

People, other programs and accidents write into these files too. A part that is malformed is passed over with a
sentence and stays in the file; nothing else is lost. A file that is no JSON at all is set aside, not written over.
"""

import json
import os
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import field
from pathlib import Path
from typing import Any, Generic, TypeVar, get_args, get_origin

import msgspec

from redcrate.core.errors import PageNotWritable
from redcrate.core.files.reading import read_regular, reason_of
from redcrate.core.files.saving import save_bytes
from redcrate.core.records import dataclass

Content = TypeVar("Content", bound=msgspec.Struct)
_MOST = 16 * 2**20  # bytes
_TOLD = 120  # characters of what is wrong


@dataclass(frozen=True, slots=True)
class _NoNumber:
    """NaN and the infinities, which are no JSON (RFC 8259 §6): no part that wants a number takes them."""

    text: str


@dataclass(frozen=True, slots=True)
class DataFile(Generic[Content]):
    """What a file holds. content: what is well. faults: a sentence for each part that is not.

    is_damaged: it is there, but is no JSON.
    """

    path: Path
    content: Content
    faults: tuple[str, ...] = ()
    is_damaged: bool = False
    _raw: Mapping[str, Any] = field(default_factory=dict)
    _passed_over: Mapping[str, Any] = field(default_factory=dict)

    def write(self, content: Content) -> "DataFile[Content]":
        """Write other content; what is unknown or malformed in the file stays in it. Raises PageNotWritable.

        Returns the file as it is now.
        """
        if self.is_damaged:
            _set_aside(self.path)
        every = _tidy(msgspec.to_builtins(content))
        fresh = {n: v for n, v in every.items() if v not in ({}, [])}
        unknown = {
            name: value
            for name, value in self._raw.items()
            if name not in content.__struct_encode_fields__
        }
        whole = {**fresh, **unknown}
        for name, part in self._passed_over.items():
            whole[name] = _together(whole.get(name), part)
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as problem:
            raise PageNotWritable(
                f"the folder cannot be made ({reason_of(problem)}).", where=str(self.path.parent)
            ) from None
        text = json.dumps(whole, indent=1, ensure_ascii=False, default=lambda it: float(it.text))
        save_bytes(self.path, f"{text}\n".encode("utf-8", "surrogatepass"))
        return DataFile(self.path, content, self.faults, False, self._raw, self._passed_over)


def read_data(path: Path, kind: type[Content]) -> DataFile[Content]:
    """The file at `path` as `kind` says; what is not there is as usual. Raises nothing: faults are told."""
    try:
        raw = parse_json(read_regular(path, _MOST))
    except FileNotFoundError:
        return DataFile(path, kind())
    except OSError as problem:
        return DataFile(path, kind(), (f"{path.name} is not read: {reason_of(problem)}.",))
    except ValueError:
        return DataFile(path, kind(), (f"{path.name} is damaged: it is not JSON.",), is_damaged=True)
    if not isinstance(raw, dict):
        return DataFile(
            path, kind(), (f"{path.name} is damaged: it is not a JSON object.",), is_damaged=True
        )
    taken = _Taking(path.name)
    values = {
        part.name: value
        for part in msgspec.structs.fields(kind)
        if part.encode_name in raw
        and (value := taken.part(part.encode_name, raw[part.encode_name], part.type)) is not _NOTHING
    }
    return DataFile(path, kind(**values), tuple(taken.faults), False, raw, taken.passed_over)


def parse_json(data: bytes) -> Any:
    """JSON of strangers. Raises ValueError for what is none, however deep or long it is."""
    try:
        return json.loads(data.decode("utf-8-sig", "surrogatepass"), parse_constant=_NoNumber)
    except RecursionError:
        raise ValueError("it is nested too deeply") from None


_NOTHING: Any = object()


class _Taking:
    """Takes the parts of one file that are well."""

    def __init__(self, file: str) -> None:
        self._file = file
        self.faults: list[str] = []
        self.passed_over: dict[str, Any] = {}

    def part(self, name: str, value: Any, kind: Any) -> Any:
        """One part; of a list or an object what is well in it. _NOTHING where nothing is."""
        try:
            return _converted(value, kind)
        except (msgspec.ValidationError, RecursionError) as problem:
            inside = self._inside(name, value, kind)
            if inside is _NOTHING:
                self._pass_over(f"“{name}”", problem)
                self.passed_over[name] = value
            return inside

    def _inside(self, name: str, value: Any, kind: Any) -> Any:
        wanted, of = get_origin(kind), get_args(kind)
        if wanted is list and isinstance(value, list):
            good, bad = self._sorted(name, [([one], kind, one) for one in value])
            self.passed_over[name] = bad
            return [one for pair in good for one in pair]
        if wanted is dict and isinstance(value, dict) and of:
            good, left = self._sorted(name, [({k: v}, kind, (k, v)) for k, v in value.items()])
            self.passed_over[name] = dict(left)
            return {k: v for pair in good for k, v in pair.items()}
        return _NOTHING

    def _sorted(self, name: str, parts: list[tuple[Any, Any, Any]]) -> tuple[list[Any], list[Any]]:
        good, bad = [], []
        for one, kind, whole in parts:
            try:
                good.append(_converted(one, kind))
            except (msgspec.ValidationError, RecursionError) as problem:
                bad.append(whole)
                self._pass_over(f"an entry of “{name}”", problem)
        return good, bad

    def _pass_over(self, what: str, problem: Exception) -> None:
        why = str(problem).partition(" - at")[0][:_TOLD] or "nested too deeply"
        self.faults.append(f"{self._file}: {what} is ignored ({why}); it stays in the file.")


def _converted(value: Any, kind: Any) -> Any:
    return msgspec.convert(value, kind, str_keys=True)


def _tidy(value: Any) -> Any:
    """Whole numbers without a fraction, and keys as text: 390, not 390.0."""
    if isinstance(value, dict):
        return {f"{_tidy(name)}": _tidy(one) for name, one in value.items()}
    if isinstance(value, list):
        return [_tidy(one) for one in value]
    return int(value) if isinstance(value, float) and value.is_integer() else value


def _together(fresh: Any, passed_over: Any) -> Any:
    """What is written of a part: what is well now, and what was passed over."""
    if isinstance(fresh, list) and isinstance(passed_over, list):
        return [*fresh, *passed_over]
    if isinstance(fresh, dict) and isinstance(passed_over, dict):
        return {**passed_over, **fresh}
    return passed_over if fresh in (None, [], {}) else fresh  # somebody chose another value since


def _set_aside(path: Path) -> None:
    """A damaged file gets another name: there may be something in it that its owner misses."""
    with suppress(OSError):
        os.replace(path, path.with_name(f"{path.name}.damaged"))
