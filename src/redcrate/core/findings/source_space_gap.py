"""source-space-gap: the space between inline-blocks that is a space of the source."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.shares import percent_sum
from redcrate.core.markup.elements import Element, Text
from redcrate.core.rows import Dropped, Row, RowKind
from redcrate.core.units import ZERO, format_px

_CONTROLS = ("button", "input", "select")  # those stand apart on most pages


def find(look: Look) -> Iterator[Finding]:
    """Rows that drop a block because of a space, and painted blocks between which one is seen."""
    told: set[object] = set()
    for row in look.rows:
        if row.kind is not RowKind.INLINE or any(g.text for g in row.gaps):
            continue  # blocks in running text stand between words as words do
        if row.dropped is not None and _drops_for_a_space(look, row, row.dropped):
            yield _dropped(look, row, row.dropped)
        elif row.dropped is None and _shows_spaces(look, row):
            kind = (row.container, row.items[0].element.tag, row.items[0].element.classes)
            if kind not in told:
                told.add(kind)
                yield _seen(look, row)


def _drops_for_a_space(look: Look, row: Row, dropped: Dropped) -> bool:
    elements = [*(i.element for i in row.items), dropped.element]
    shares = percent_sum(look, elements)
    if look.style(dropped.element).display != "inline-block":
        return False
    if shares is None and (len(elements) < 3 or any(e.tag in _CONTROLS for e in elements)):
        return False
    if shares is not None and not 99 <= shares <= 100.01:
        return False
    return 0 < dropped.missing <= dropped.spaces + sum(g.spaces for g in row.gaps)


def _dropped(look: Look, row: Row, dropped: Dropped) -> Finding:
    elements = [*(i.element for i in row.items), dropped.element]
    spaces = dropped.spaces or max((g.spaces for g in row.gaps), default=ZERO)
    return Finding(
        "source-space-gap",
        Severity.BREAKS,
        f"{dropped.element.label} wraps because of the spaces between the tags, {format_px(spaces)} "
        f"px each: short by {format_px(dropped.missing)} px.",
        (dropped.element, *(i.element for i in row.items)),
        {"space": spaces / 64, "over": dropped.missing / 64, "room": row.room / 64},
        look.source(dropped.element, "width"),
        tuple(_ways(look, row, elements)),
    )


def _shows_spaces(look: Look, row: Row) -> bool:
    """Whether painted blocks of one kind stand apart by nothing but spaces of the source."""
    elements = [i.element for i in row.items]
    inner = [g for g in row.gaps if 0 <= g.after < len(elements) - 1]
    if (
        len(elements) < 3
        or len(inner) < len(elements) - 1
        or any(g.edges or not g.spaces for g in inner)
    ):
        return False
    if len({(e.tag, look.style(e).display) for e in elements}) > 1 or elements[0].tag in _CONTROLS:
        return False
    for element in elements:
        box = look.box(element)
        if box is None or look.style(element).display != "inline-block" or not look.has_ground(element):
            return False
        if box.margin.across:
            return False  # somebody has thought of the distance
    return True


def _seen(look: Look, row: Row) -> Finding:
    elements = [i.element for i in row.items]
    space = max(g.spaces for g in row.gaps)
    return Finding(
        "source-space-gap",
        Severity.ADVICE,
        f"{format_px(space)} px separate the {len(elements)} {elements[0].tag} blocks in "
        f"{row.container.label}: the spaces between their tags.",
        tuple(elements),
        {"space": space / 64},
        look.source(elements[0], "display"),
        tuple(_ways(look, row, elements)),
    )


def _ways(look: Look, row: Row, elements: list[Element]) -> Iterator[MakeFix]:
    yield look.fix(
        "Remove the spaces between the tags",
        partial(_without_spaces, look, row),
    )
    yield look.setting("Float the blocks (float: left)", *((e, "float", "left") for e in elements))


def _without_spaces(look: Look, row: Row) -> Patch | None:
    """The white space between the row's blocks and the dropped one taken out of the HTML."""
    markup = look.page.source.markup
    last = row.dropped.element if row.dropped is not None else row.items[-1].element
    members = {*(i.element for i in row.items), last}
    edits = []
    for child, following in zip(row.container.children, row.container.children[1:]):
        if child in members and isinstance(following, Text) and not following.data.strip():
            span = markup.places.text(following)
            if span is not None and child is not last:
                edits.append(TextEdit(markup.source.name, span.start, span.end, ""))
    return (
        Patch(tuple(edits), f"spaces between the tags in {row.container.label} removed")
        if edits
        else None
    )


FAMILY = Family(
    "source-space-gap",
    "Spaces between inline-blocks",
    "The line break between the tags of two inline-blocks is a space, about 4 px wide. Four of 25 % "
    "need 100 % and three spaces.",
    "<div style='width:200px'><i style='display:inline-block;width:50%;background:#cde'>half</i> <i "
    "style='display:inline-block;width:50%;background:#dec'>half</i></div>",
    find,
)
