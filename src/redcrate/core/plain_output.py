"""Texts of strangers in what other programs read: terminals, spreadsheets, build servers. None of them is given an order.

What is shown is what was there: a character that would do something is written as its escape.
"""

import csv
import io
import json
import re
from collections.abc import Iterable
from typing import Any

# C0 but tab and line feed, delete, C1 (ECMA-48: terminals act on them), marks that turn the order of a line round, and
# what stands for bytes that are no text
_ACTING = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\u2028\u2029\u202a-\u202e\u2066-\u2069\ud800-\udfff]")
_FORMULA = re.compile(r"[=+\-@\t\r\n]")  # what a cell begins with that spreadsheets compute
_NUMBER = re.compile(r"[+-]?\d+(\.\d+)?\Z")


def for_terminals(text: str) -> str:
    """The text with what terminals act on written as an escape: `\\x1b`."""
    return _ACTING.sub(lambda m: _escape(m.group()), text)


def _escape(char: str) -> str:
    return f"\\x{ord(char):02x}" if ord(char) < 0x100 else f"\\u{ord(char):04x}"


def json_text(data: Any, *, indent: int | None = 1) -> str:
    """JSON (RFC 8259) in which nothing acts on a terminal either; without an indent in one line."""
    separators = None if indent is not None else (",", ":")
    text = json.dumps(data, ensure_ascii=False, indent=indent, separators=separators)
    return _ACTING.sub(lambda m: f"\\u{ord(m.group()):04x}", text)


def csv_text(rows: Iterable[Iterable[object]], *, lineterminator: str = "\n") -> str:
    """Comma-separated values (RFC 4180) of which no cell is a formula."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator=lineterminator)
    writer.writerows([_cell(value) for value in row] for row in rows)
    return out.getvalue()


def _cell(value: object) -> object:
    """A text that would be computed is led by an apostrophe, which spreadsheets take for "this is text"."""
    if not isinstance(value, str):
        return value
    begins = _FORMULA.match(value) or _ACTING.match(value)
    text = for_terminals(value)
    return f"'{text}" if begins and not _NUMBER.match(value) else text
