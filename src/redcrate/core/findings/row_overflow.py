"""row-overflow: blocks whose widths share a row, but padding, border, margin or a space make one drop."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.shares import (
    base_widths,
    percent_sum,
    rounding_alone,
    widths_were_meant_for_one_row,
)
from redcrate.core.markup.elements import Element
from redcrate.core.rows import Row, RowKind
from redcrate.core.units import ZERO, format_px


def find(look: Look) -> Iterator[Finding]:
    """Rows in which the widths alone would fit, or shares that add up to more than the whole."""
    for row in look.rows:
        if row.dropped is None or not widths_were_meant_for_one_row(look, row):
            continue
        elements = [*(i.element for i in row.items), row.dropped.element]
        base = base_widths(look, elements)
        shares = percent_sum(look, elements)
        if shares is not None and shares > 100.005:
            if rounding_alone(row, shares):
                continue  # share-rounding speaks of it
            if shares <= 100.5:
                yield _finding(look, row, _cost(look, elements), tuple(_ways(look, row)))
                continue
            yield _finding(look, row, f"the shares add up to {shares:g} %", ())
        elif (
            base is not None
            and base <= row.room + 64
            and (row.kind is RowKind.FLOATS or row.dropped.missing > row.dropped.spaces)
        ):
            yield _finding(look, row, _cost(look, elements), tuple(_ways(look, row)))


def _cost(look: Look, elements: list[Element]) -> str:
    border = padding = margin = ZERO
    for element in elements:
        box = look.box(element)
        if box is not None:
            margin += box.margin.across
            if look.style(element).box_sizing != "border-box":
                border += box.border.across
                padding += box.padding.across
    parts = [
        f"{n} {format_px(a)}"
        for n, a in (("borders", border), ("paddings", padding), ("margins", margin))
        if a
    ]
    return f"{' and '.join(parts) or 'spaces'} come on top of the widths"


def _finding(look: Look, row: Row, why: str, ways: tuple[MakeFix, ...]) -> Finding:
    dropped = row.dropped
    assert dropped is not None
    element = dropped.element
    if not ways:
        ways = (_narrower(look, row),)
    return Finding(
        "row-overflow",
        Severity.BREAKS,
        f"{element.label} drops below its row: {why}, {format_px(dropped.missing)} px too many for "
        f"the {format_px(row.room)} px of {row.container.label}.",
        (element, *(i.element for i in row.items)),
        {
            "room": row.room / 64,
            "need": (row.sum + dropped.width + dropped.spaces) / 64,
            "over": dropped.missing / 64,
        },
        look.source(element, "width"),
        ways,
    )


def _narrower(look: Look, row: Row) -> MakeFix:
    dropped = row.dropped
    assert dropped is not None
    return look.narrower(
        f"take {format_px(dropped.missing)} px off the width of {dropped.element.label}",
        dropped.element,
        dropped.missing,
    )


def _ways(look: Look, row: Row) -> Iterator[MakeFix]:
    dropped = row.dropped
    assert dropped is not None
    elements = [*(i.element for i in row.items), dropped.element]
    inside = [e for e in elements if look.style(e).box_sizing != "border-box"]
    if inside:
        yield look.setting(
            "let padding and border count into the widths (box-sizing border-box)",
            *((e, "box-sizing", "border-box") for e in inside),
        )
    yield _narrower(look, row)


FAMILY = Family(
    "row-overflow",
    "A block drops out of its row",
    "Widths are for the content: padding, border and margin come on top. Two halves with a border each need "
    "100 % and 4 px, so the second one goes below. What fits is decided to a 64th of a pixel.",
    "<div style='width:200px;overflow:hidden'><p style='float:left;width:50%;border:2px solid;margin:0'>one</p>"
    "<p style='float:left;width:50%;border:2px solid;margin:0'>two</p></div>",
    find,
)
