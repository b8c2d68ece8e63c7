"""empty-tracks: more columns than items, so that room at the end of a grid stays empty."""

import re
from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.grid_facts import GridFacts, GridTrack, TrackReason
from redcrate.core.markup.elements import Element
from redcrate.core.units import LayoutUnit, format_px

_AT_START = ("normal", "start", "flex-start", "left", "stretch")
_FILL = re.compile(r"repeat\(\s*auto-fill\b", re.IGNORECASE)
# A repetition of one track of a fixed size.
_FIXED = re.compile(r"repeat\(\s*auto-fit\s*,\s*(\d*\.?\d+(?:px|r?em|ch|%))\s*\)", re.IGNORECASE)


def find(look: Look) -> Iterator[Finding]:
    """CSS Grid 1 §7.2.3.2: columns of an auto-fill that stay empty, or room that those of an auto-fit leave."""
    for element, box in look.boxes:
        facts = None if box.box is None else box.box.fragment.facts
        if not isinstance(facts, GridFacts) or not facts.areas:
            continue
        filled = max(area.columns[1] for area in facts.areas.values())
        empty = facts.columns[filled:]
        if not empty:
            continue
        if any(t.reason is TrackReason.EMPTY for t in empty):
            yield from _fitted(look, element, facts, len(empty))
        elif all(t.factor and not t.asked_by for t in empty):
            yield from _filled(look, element, facts, empty)


def _filled(
    look: Look, element: Element, facts: GridFacts, empty: tuple[GridTrack, ...]
) -> Iterator[Finding]:
    """Fractions of an auto-fill without items: with auto-fit the others would take their room."""
    written = look.written(element, "grid-template-columns")
    if not _FILL.search(written):
        return
    room = LayoutUnit(empty[-1].end - empty[0].start)
    text = f"{_columns(element, len(empty))}: auto-fill makes {len(facts.columns)}, of which "
    text += f"{len(facts.columns) - len(empty)} are used; {format_px(room)} px stay empty."
    fitted = _FILL.sub("repeat(auto-fit", written)
    fix = look.setting(
        "Share the row among the items (auto-fit)", (element, "grid-template-columns", fitted)
    )
    yield _finding(look, element, text, room, (fix,))


def _fitted(look: Look, element: Element, facts: GridFacts, count: int) -> Iterator[Finding]:
    """Columns that an auto-fit drops, but whose room nothing takes, since the others have a fixed size."""
    room = facts.left_across
    size = min(t.size for t in facts.columns if t.reason is not TrackReason.EMPTY)
    if room < size or look.style(element).justify_content not in _AT_START:
        return
    written = look.written(element, "grid-template-columns")
    text = f"{_columns(element, count)}, so auto-fit collapses it; the other columns stay "
    text += f"{format_px(size)} px wide, and {format_px(room)} px stay empty."
    larger = _FIXED.sub(r"repeat(auto-fit, minmax(\1, 1fr))", written)
    ways: tuple[MakeFix, ...] = ()
    if larger != written:
        way = "Let columns grow (minmax(…, 1fr))"
        ways = (look.setting(way, (element, "grid-template-columns", larger)),)
    yield _finding(look, element, text, room, ways)


def _columns(element: Element, count: int) -> str:
    words = f"{count} columns" if count > 1 else "one column"
    return f"{element.label} has no item in {words}"


def _finding(
    look: Look, element: Element, text: str, room: LayoutUnit, ways: tuple[MakeFix, ...]
) -> Finding:
    source = look.source(element, "grid-template-columns")
    return Finding("empty-tracks", Severity.ADVICE, text, (element,), {"room": room / 64}, source, ways)


FAMILY = Family(
    "empty-tracks",
    "Empty columns",
    "auto-fill makes as many columns as fit, even for fewer items; auto-fit collapses the empty "
    "ones, and fractions share their width.",
    "<div style='display:grid;grid-template-columns:repeat(auto-fill, minmax(40px, 1fr));width:200px'>"
    "<p style='margin:0;background:#cde'>one</p><p style='margin:0;background:#dce'>two</p></div>",
    find,
)
