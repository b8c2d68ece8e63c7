"""table-wider-than-container: a table whose columns cannot become as narrow as what it stands in."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.table_facts import TableColumn, TableFacts
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, PlacedBox
from redcrate.core.quoting import quoted
from redcrate.core.units import LayoutUnit, format_px

_SLACK = 32  # half a px: nobody sees less


def find(look: Look) -> Iterator[Finding]:
    """CSS 2.2 §17.5.2: tables that stick out of their container, with the column and the word that do it."""
    for element, box in look.boxes:
        facts = None if box.box is None else box.box.fragment.facts
        if box.box is None or not isinstance(facts, TableFacts) or box.box.container is None:
            continue
        holder = box.box.container
        over = box.border_box.right - holder.content_rect.right
        if over <= _SLACK or holder.fragment.box.style.overflow_x not in ("visible", "clip"):
            continue
        if look.style(element).position in ("absolute", "fixed") or not needs_more(facts, holder):
            continue
        yield _finding(look, element, box, facts, over)


def needs_more(facts: TableFacts, holder: PlacedBox) -> bool:
    """Whether its columns cannot be as narrow as what it stands in: it is not just a width that was written."""
    return sum(column.least for column in facts.columns) > holder.content_rect.width


def _finding(
    look: Look, element: Element, box: ElementBox, facts: TableFacts, over: LayoutUnit
) -> Finding:
    assert box.box is not None and box.box.container is not None
    holder = box.box.container
    number, widest = max(enumerate(facts.columns, 1), key=lambda c: c[1].least)
    room = format_px(holder.content_rect.width)
    return Finding(
        "table-wider-than-container",
        Severity.BREAKS,
        f"{element.label} is {format_px(box.border_box.width)} px wide and overflows "
        f"{holder.fragment.box.label} ({room} px) by {format_px(over)} px. "
        f"{_who(look, number, widest)}",
        (element,),
        {"over": over / 64, "room": holder.content_rect.width / 64},
        look.source(element, "width"),
        (
            look.setting(
                "Break long words (overflow-wrap: anywhere)", (element, "overflow-wrap", "anywhere")
            ),
            look.setting(
                "Use equal columns (table-layout: fixed)",
                (element, "table-layout", "fixed"),
                (element, "width", "100%"),
            ),
        ),
    )


def _who(look: Look, number: int, column: TableColumn) -> str:
    least = format_px(column.least)
    word = _longest_word(look, column)
    if word:
        return f"Column {number} needs {least} px for “{word}”."
    return f"Column {number} needs {least} px."


def _longest_word(look: Look, column: TableColumn) -> str:
    """The longest word of the cell that asks for most; "" where it is no text that asks."""
    element = None if column.least_by is None else column.least_by.element
    if element is None:
        return ""
    words = [
        w
        for t in look.texts_seen
        if element in (t.element, *t.element.ancestors())
        for w in t.piece.text.split()
    ]
    return quoted(max(words, key=len, default=""))


FAMILY = Family(
    "table-wider-than-container",
    "Table wider than its container",
    "A table is never narrower than the longest words and widest images of its columns, whatever its "
    "width property. Words that break, or table-layout: fixed, make it fit.",
    "<div style='width:150px;border:1px solid'><table><tr><td>unbreakableword<td>anotherlongword</table></div>",
    find,
)
