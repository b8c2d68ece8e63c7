"""size-overruled: a width or height that its line or its table does not ask for."""

from collections.abc import Iterator

from redcrate.core.explain.columns import table_around
from redcrate.core.explain.flexed import FlexSum, flex_sum
from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.flex_facts import BaseReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.style.values import NO_LENGTH
from redcrate.core.units import format_px

_NEAR = 64  # 1 px: the two sizes say the same


def find(look: Look) -> Iterator[Finding]:
    """CSS Flexbox 1 §7.2: flex-basis wins over the size; CSS 2.2 §17.5.2.1: only the first row counts."""
    for element, box in look.boxes:
        if box.box is None:
            continue
        found = flex_sum(box)
        if found is not None:
            yield from _by_basis(look, element, box, found)
        elif look.style(element).display == "table-cell":
            yield from _by_first_row(look, element, box)


def _by_basis(look: Look, element: Element, box: ElementBox, found: FlexSum) -> Iterator[Finding]:
    name = found.along
    size = look.style(element).width if name == "width" else look.style(element).height
    if found.item.base_reason is not BaseReason.BASIS or isinstance(size, NO_LENGTH):
        return
    if not _is_meant(look, element, name) or look.style(element).flex_basis == size:
        return
    inner = box.content_box.width if name == "width" else box.content_box.height
    fragment = box.box.fragment if box.box is not None else None
    basis = None if fragment is None else fragment.across.basis
    wanted = (
        size.resolve(basis) if basis is not None and (name == "width" or not size.has_percent) else inner
    )
    outer = box.border_box.width if name == "width" else box.border_box.height
    compared = outer if look.style(element).box_sizing == "border-box" else inner
    if abs(wanted - compared) <= _NEAR:
        return
    written = look.written(element, name)
    yield Finding(
        "size-overruled",
        Severity.SUSPICIOUS,
        f"{name}: {written} of {element.label} has no effect: {_basis(look, element)} overrides it, "
        f"the item is {format_px(outer)} px.",
        (element,),
        {"wanted": wanted / 64, "used": outer / 64},
        look.source(element, name),
        (
            look.setting(f"Use flex-basis: {written}", (element, "flex-basis", written)),
            look.removing(
                f"Remove {name}", *(w for w in (look.winner(element, name),) if w is not None)
            ),
        ),
    )


def _basis(look: Look, element: Element) -> str:
    """flex-basis as it is written, alone or with the other two."""
    source = look.source(element, "flex-basis")
    return "flex-basis" if source is None else source.declaration


def _by_first_row(look: Look, element: Element, box: ElementBox) -> Iterator[Finding]:
    around = table_around(box)
    width = look.style(element).width
    if around is None or not around[1].is_fixed or isinstance(width, NO_LENGTH):
        return
    assert box.box is not None
    cell = around[1].cells.get(box.box.fragment.box)
    if cell is None or cell.row == 0 or not _is_meant(look, element, "width"):
        return
    used, wanted = box.border_box.width, width.resolve(around[1].room)
    if min(abs(wanted - used), abs(wanted - box.content_box.width)) <= _NEAR:
        return
    table = around[0].fragment.box.label
    yield Finding(
        "size-overruled",
        Severity.SUSPICIOUS,
        f"width: {look.written(element, 'width')} of {element.label} has no effect: {table} uses the "
        f"widths of its first row (table-layout: fixed), the cell is {format_px(used)} px.",
        (element,),
        {"used": used / 64},
        look.source(element, "width"),
        (
            look.removing(
                "Remove width", *(w for w in (look.winner(element, "width"),) if w is not None)
            ),
        ),
    )


def _is_meant(look: Look, element: Element, name: str) -> bool:
    """Whether the value is for items, or for cells, alone."""
    display = look.style(element).display

    def fits(other: Element) -> bool:
        style = look.style(other)
        return style.is_item or style.display == display == "table-cell"

    return look.is_meant_for(element, name, fits)


FAMILY = Family(
    "size-overruled",
    "Size without effect",
    "In a flex line flex-basis overrides width: flex: 1 sets it to 0. In a table with table-layout: "
    "fixed only the widths of the first row count.",
    "<div style='display:flex;width:300px'><p style='flex:1;width:200px;margin:0;background:#cde'>one</p>"
    "<p style='flex:1;margin:0'>two</p></div>",
    find,
)
