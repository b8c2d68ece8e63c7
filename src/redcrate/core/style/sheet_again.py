"""A stylesheet read again after an edit: the rule that the edit stands in is read, the others move with the text.

CSS Syntax 3 §5.4.3: between two rules a parser waits for nothing, so that what was read up to there holds whatever
follows. What lies behind the edit holds if the edited rule still ends in front of it.
"""

from collections.abc import Sequence
from dataclasses import replace
from operator import add
from typing import Any

from redcrate.core.markup.reparsing import difference
from redcrate.core.markup.source_text import SourceText
from redcrate.core.records import dataclass
from redcrate.core.style.css_syntax import stylesheet_nodes
from redcrate.core.style.media import MediaList
from redcrate.core.style.sheet_bounds import is_unclosed
from redcrate.core.style.sheet_reading import Around, BaseOf, SheetReader, no_base
from redcrate.core.style.sheets import MediaRule, Origin, Sheet, SheetPart, StyleRule

_GUARD = "a{}"  # read behind an edited rule: it comes out as it is where that rule has ended
_LISTS = ("rules", "told", "layers", "font_faces", "media_rules")


@dataclass(frozen=True, slots=True)
class _Stretch:
    """What of a sheet's text was edited: from part `at` up to part `end`, which became `by` longer."""

    at: int
    end: int
    by: int


def sheet_again(
    earlier: Sheet,
    source: SourceText,
    *,
    first_offset: int = 0,
    whole: SourceText | None = None,
    media: tuple[MediaList, ...] = (),
    quirks: bool = False,
    base_of: BaseOf = no_base,
) -> Sheet | None:
    """The sheet that `parse_sheet` would read from `source`; None where it must be read as a whole.

    earlier: an author's sheet, read in the same surroundings before the text changed.
    """
    if earlier.imports or earlier.source.name != source.name:
        return None
    if not earlier.parts or _hangs_on_places(earlier):
        return None
    whole = whole or source
    first_line = whole.line_of(first_offset)
    before = (earlier.source.text, earlier.first_offset, earlier.first_line)
    if before == (source.text, first_offset, first_line):
        return earlier
    stretch = _stretch(earlier, source)
    if stretch is None or is_unclosed(source.text):
        return None
    start, end = _part(earlier, stretch.at).start, _part(earlier, stretch.end).start + stretch.by
    text = SourceText(source.name, source.text[start:end] + _GUARD)
    *nodes, guard = stylesheet_nodes(text.text)
    if not _is_guard(guard):
        return None
    reader = SheetReader(text, Origin.AUTHOR, first_offset + start, whole, None, base_of)
    reader.quirks = quirks
    reader.read_parts(nodes, Around(media))
    if reader.imports:
        return None
    moved = replace(earlier, source=source, first_offset=first_offset, first_line=first_line)
    return _spliced(earlier, moved, reader, stretch)


def moved_style_attribute(sheet: Sheet, lines: int, by: int) -> Sheet:
    """A style attribute's sheet after the attribute moved in the file by so many lines and characters."""
    return replace(sheet, rules=_moved(sheet.rules, lines, by), told=_moved(sheet.told, lines, by))


def _hangs_on_places(sheet: Sheet) -> bool:
    """Whether layers are named by where they stand, or the notice in front is about the end of the sheet."""
    return sheet.parts[0].told > 0 or any(":" in word for name in sheet.layers for word in name)


def _stretch(sheet: Sheet, source: SourceText) -> _Stretch | None:
    """The part of the sheet inside which its text changed (the first character is the same), if it is one."""
    change = difference(sheet.source.text, source.text)
    if change is None:
        return _Stretch(len(sheet.parts), len(sheet.parts), 0)
    at = sum(1 for part in sheet.parts if part.start < change.start) - 1
    if at < 0 or change.end > _part(sheet, at + 1).start:
        return None
    return _Stretch(at, at + 1, change.by)


def _part(sheet: Sheet, at: int) -> SheetPart:
    """A part of the sheet, or where it ends behind the last one."""
    if at < len(sheet.parts):
        return sheet.parts[at]
    return SheetPart(len(sheet.source.text), *[len(getattr(sheet, name)) for name in _LISTS])


def _is_guard(node: Any) -> bool:
    """Whether a rule stands behind an edited one as it was put there."""
    if node.type != "qualified-rule":
        return False
    return [(t.type, getattr(t, "value", "")) for t in node.prelude] == [("ident", "a")]


def _spliced(earlier: Sheet, sheet: Sheet, reader: SheetReader, stretch: _Stretch) -> Sheet:
    """`sheet`, which stands for the earlier one with its text and place, with what was read for a stretch of it."""
    first, behind = _part(earlier, stretch.at), _part(earlier, stretch.end)
    by, lines = sheet.first_offset - earlier.first_offset, sheet.first_line - earlier.first_line
    more = sheet.source.line_of(behind.start + stretch.by) - earlier.source.line_of(behind.start)
    lists: dict[str, Any] = {}
    for name in _LISTS:
        items = getattr(earlier, name)
        before, after = items[: getattr(first, name)], items[getattr(behind, name) :]
        if name != "layers":  # which have no place
            before, after = _moved(before, lines, by), _moved(after, lines + more, by + stretch.by)
        read = reader.notices if name == "told" else getattr(reader, name)
        lists[name] = (*before, *read, *after)
    grown = [len(lists[name]) - len(getattr(earlier, name)) for name in _LISTS]
    parts = (
        *earlier.parts[: stretch.at],
        *[_counted_from(first, part) for part in reader.parts],
        *[_counted_from((stretch.by, *grown), part) for part in earlier.parts[stretch.end :]],
    )
    return replace(sheet, parts=parts, **lists)


def _counted_from(origin: Sequence[int], part: SheetPart) -> SheetPart:
    return SheetPart(*map(add, origin, part))


def _moved(items: tuple[Any, ...], lines: int, by: int) -> tuple[Any, ...]:
    """Rules, notices and others, with their places so much further down in the file."""
    if not lines and not by:
        return items
    return tuple([_moved_one(item, lines, by) for item in items])


def _moved_one(item: Any, lines: int, by: int) -> Any:
    if isinstance(item, StyleRule):
        return item.moved(lines, by)
    line = item.line + lines
    if isinstance(item, MediaRule):
        return replace(item, line=line, start=item.start + by)
    return replace(item, line=line, offset=item.offset + by)
