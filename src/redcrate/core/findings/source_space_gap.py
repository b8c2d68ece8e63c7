"""source-space-gap: the space between inline-blocks that is a space of the source."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.shares import percent_sum
from redcrate.core.markup.elements import Text
from redcrate.core.rows import Row, RowKind
from redcrate.core.units import ZERO, format_px


def find(look: Look) -> Iterator[Finding]:
    """Rows of shares of 100 % that a space breaks, and rows that drop a block because of one."""
    for row in look.rows:
        if row.kind is not RowKind.INLINE:
            continue
        dropped = row.dropped
        elements = [i.element for i in row.items] + ([dropped.element] if dropped else [])
        shares = percent_sum(look, elements)
        breaks = dropped is not None and 0 < dropped.missing <= dropped.spaces + sum(
            g.spaces for g in row.gaps
        )
        if (
            not breaks
            or (shares is None and len(elements) < 3)
            or (shares is not None and not 99 <= shares <= 100.01)
        ):
            continue
        assert dropped is not None
        spaces = dropped.spaces or max((g.spaces for g in row.gaps), default=ZERO)
        if look.style(dropped.element).display != "inline-block":
            continue
        ways = [
            look.fix(
                "take the spaces between the blocks out of the source",
                partial(_without_spaces, look, row),
            ),
            look.setting(
                "let the blocks float: no spaces count then", *((e, "float", "left") for e in elements)
            ),
        ]
        yield Finding(
            "source-space-gap",
            Severity.BREAKS,
            f"{dropped.element.label} drops because of the space between the blocks in the source: {format_px(spaces)} px "
            f"each, {format_px(dropped.missing)} px too many.",
            (dropped.element, *(i.element for i in row.items)),
            {"space": spaces / 64, "over": dropped.missing / 64, "room": row.room / 64},
            look.source(dropped.element, "width"),
            tuple(ways),
        )


def _without_spaces(look: Look, row: Row) -> Patch | None:
    """The white space between the row's blocks and the dropped one taken out of the HTML."""
    markup = look.page.source.markup
    assert row.dropped is not None
    members = {*(i.element for i in row.items), row.dropped.element}
    edits = []
    for child, following in zip(row.container.children, row.container.children[1:]):
        if child in members and isinstance(following, Text) and not following.data.strip():
            span = markup.places.text(following)
            if span is not None and child is not row.dropped.element:
                edits.append(TextEdit(markup.source.name, span.start, span.end, ""))
    return (
        Patch(tuple(edits), f"spaces between the blocks of {row.container.label} taken out")
        if edits
        else None
    )


FAMILY = Family(
    "source-space-gap",
    "A space of the source stands between blocks",
    "Inline-blocks stand in a line like words: the line break between their tags is a space, 4 px or so wide. Four "
    "of 25 % need 100 % and three spaces.",
    "<div style='width:200px'><i style='display:inline-block;width:50%;background:#cde'>half</i> <i "
    "style='display:inline-block;width:50%;background:#dec'>half</i></div>",
    find,
)
