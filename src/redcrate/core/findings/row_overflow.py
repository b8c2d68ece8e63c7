"""row-overflow: blocks whose widths share a row, but padding, border, margin or a space make one drop."""

from collections.abc import Iterator, Mapping

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.shares import (
    base_widths,
    cut_share,
    percent_sum,
    rounding_alone,
    widths_were_meant_for_one_row,
)
from redcrate.core.markup.elements import Element
from redcrate.core.rows import Dropped, Row, RowKind
from redcrate.core.style.values import Length
from redcrate.core.units import ZERO, LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:  # noqa: C901 the ways in which a row is too full
    """Rows whose widths alone would fit, shares of more than the whole, and pairs that never had the room."""
    for row in look.rows:
        if row.kind not in (RowKind.FLOATS, RowKind.INLINE):
            continue  # items that wrap are meant to
        if row.dropped is None or not widths_were_meant_for_one_row(look, row):
            continue
        elements = [*(i.element for i in row.items), row.dropped.element]
        base = base_widths(look, elements)
        shares = percent_sum(look, elements)
        if shares is not None and shares > 100.005:
            if rounding_alone(row, shares):
                continue  # share-rounding speaks of it
            if shares <= 100.5:
                yield _finding(look, row, _cost(look, row, elements), tuple(_ways(look, row)))
                continue
            yield _finding(
                look, row, f"the shares add up to {shares:g} %", (_shared_out(look, elements),)
            )
        elif base is None:
            continue
        elif base <= row.room + 64:
            if row.kind is RowKind.FLOATS or row.dropped.missing > row.dropped.spaces:
                yield _finding(look, row, _cost(look, row, elements), tuple(_ways(look, row)))
        elif row.kind is RowKind.FLOATS and _are_a_pair(look, elements):
            why = f"the two widths add up to {format_px(base)} px"
            yield _finding(look, row, why, tuple(_ways_of_a_pair(look, elements)))


def _are_a_pair(look: Look, elements: list[Element]) -> bool:
    """Whether they are the only two floats of their parent, and unlike: a column and its neighbour."""
    parent = elements[0].parent
    if len(elements) != 2 or parent is None:
        return False
    floats = [
        e for e in parent.child_elements if look.box(e) is not None and look.style(e).float_ != "none"
    ]
    return floats == elements and look.style(elements[0]).width != look.style(elements[1]).width


def _cost(look: Look, row: Row, elements: list[Element]) -> str:
    """What stands beside the widths, and how much more than the room it makes of them."""
    border = padding = margin = ZERO
    for element in elements:
        box = look.box(element)
        if box is not None:
            margin += box.margin.across
            if look.style(element).box_sizing != "border-box":
                border += box.border.across
                padding += box.padding.across
    parts = [
        f"{format_px(a)} px of {n}"
        for n, a in (("border", border), ("padding", padding), ("margin", margin))
        if a
    ]
    if not parts and row.kind is RowKind.INLINE:
        parts = ["the spaces between them"]
    return f"{' and '.join(parts) or 'px'} are added to the widths"


def _finding(look: Look, row: Row, why: str, ways: tuple[MakeFix, ...]) -> Finding:
    dropped = row.dropped
    assert dropped is not None
    element = dropped.element
    return Finding(
        "row-overflow",
        Severity.BREAKS,
        f"{element.label} wraps: {why}; the row of {row.container.label} has {format_px(row.room)} "
        f"px, short by {format_px(dropped.missing)} px.",
        (element, *(i.element for i in row.items)),
        {
            "room": row.room / 64,
            "need": (row.sum + dropped.width + dropped.spaces) / 64,
            "over": dropped.missing / 64,
        },
        look.source(element, "width"),
        ways,
    )


def _ways(look: Look, row: Row) -> Iterator[MakeFix]:
    dropped = row.dropped
    assert dropped is not None
    elements = [*(i.element for i in row.items), dropped.element]
    inside = [e for e in elements if look.style(e).box_sizing != "border-box"]
    if inside:
        yield look.setting(
            "Use box-sizing: border-box",
            *((e, "box-sizing", "border-box") for e in inside),
        )
    if percent_sum(look, elements) is not None:
        yield _shared_out(look, elements)
    if not look.is_fluid(dropped.element):
        yield _narrower(look, elements, dropped)


def _narrower(look: Look, elements: list[Element], dropped: Dropped) -> MakeFix:
    """What is missing, shared by those whose width the same declaration gives: it changes all of them."""
    winner = look.winner(dropped.element, "width")
    own = winner.applied.declaration if winner is not None else None
    alike = [e for e in elements if (w := look.winner(e, "width")) and w.applied.declaration is own]
    each = LayoutUnit(-(-dropped.missing // max(1, len(alike))))
    of = (
        f"each of the {len(alike)} widths" if len(alike) > 1 else f"the width of {dropped.element.label}"
    )
    return look.narrower(f"Subtract {format_px(each)} px from {of}", dropped.element, each)


def _shared_out(look: Look, elements: list[Element]) -> MakeFix:
    shares = {e: getattr(look.style(e).width, "percent", 0.0) for e in elements}
    return _in_proportion(look, "Share 100 % in the same proportion (box-sizing: border-box)", shares)


def _ways_of_a_pair(look: Look, elements: list[Element]) -> Iterator[MakeFix]:
    """The narrower one keeps its width and the other takes the rest; or both get shares."""
    outer = {e: box.margin_box.width for e in elements if (box := look.box(e)) is not None}
    one, other = sorted(elements, key=lambda e: outer[e])
    width, own = look.style(one).width, look.box(other)
    if isinstance(width, Length) and not width.percent and own is not None:
        rest = (outer[one] + own.margin.across) / 64
        yield look.setting(
            f"Let {other.label} fill the rest beside {one.label} (calc)",
            *_counted_in(look, other, f"calc(100% - {rest:g}px)"),
        )
    yield _in_proportion(look, "Give both a share of the row in the current proportion", outer)


def _in_proportion(look: Look, sentence: str, weights: Mapping[Element, float]) -> MakeFix:
    """The whole, less the margins, in a proportion; padding and border count in."""
    whole = sum(weights.values())
    values: list[tuple[Element, str, str]] = []
    for element, weight in weights.items():
        box = look.box(element)
        width = f"{cut_share(100 * weight / whole)}%"
        if box is not None and box.margin.across:
            width = f"calc({width} - {box.margin.across / 64:g}px)"
        values += _counted_in(look, element, width)
    return look.setting(sentence, *values)


def _counted_in(look: Look, element: Element, width: str) -> list[tuple[Element, str, str]]:
    """A width of the border box: padding and border, where there are any, count in."""
    box = look.box(element)
    edges = box is not None and box.padding.across + box.border.across > 0
    return [(element, "width", width), *([(element, "box-sizing", "border-box")] if edges else [])]


FAMILY = Family(
    "row-overflow",
    "Block wraps",
    "width is the width of the content: padding, border and margin are added. Two halves with a "
    "border need 100 % and 4 px, so the second one wraps. Layout compares in steps of 1/64 px.",
    "<div style='width:200px;overflow:hidden'><p style='float:left;width:50%;border:2px solid;margin:0'>one</p>"
    "<p style='float:left;width:50%;border:2px solid;margin:0'>two</p></div>",
    find,
)
