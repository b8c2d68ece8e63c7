"""mixed-sizing-in-row: blocks of one row of which some count padding into their width and some do not."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.units import ZERO, LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """Rows with written widths in both sizing modes, where padding or border makes the difference."""
    for row in look.rows:
        items = [i.element for i in row.items if look.size_written(i.element) and i.element.tag != "img"]
        outer = [e for e in items if look.style(e).box_sizing == "border-box"]
        inner = [e for e in items if e not in outer and _edges(look, e)]
        if not outer or not inner or len(items) < 2:
            continue
        one = inner[0]
        values = []
        for element in inner:
            box = look.box(element)
            assert box is not None
            values += [
                (element, "box-sizing", "border-box"),
                (element, "width", f"{box.border_box.width / 64:g}px"),
            ]
        yield Finding(
            "mixed-sizing-in-row",
            Severity.SUSPICIOUS,
            f"In the row of {row.container.label} {outer[0].label} has box-sizing: border-box and "
            f"{one.label} has not: {format_px(_edges(look, one))} px are added to its width.",
            (one, *outer),
            {"extra": _edges(look, one) / 64},
            look.source(outer[0], "box-sizing"),
            tuple(_ways(look, inner, values)),
        )


def _ways(look: Look, inner: list[Element], values: list[tuple[Element, str, str]]) -> Iterator[MakeFix]:
    if not any(look.is_fluid(e) for e in inner):
        yield look.setting(
            "Use box-sizing: border-box on all blocks and keep their current widths", *values
        )
    yield look.setting(
        "Use box-sizing: border-box on all blocks and keep the written widths",
        *((e, "box-sizing", "border-box") for e in inner),
    )


def _edges(look: Look, element: Element) -> LayoutUnit:
    box = look.box(element)
    return box.padding.across + box.border.across if box is not None else ZERO


FAMILY = Family(
    "mixed-sizing-in-row",
    "Mixed box-sizing in a row",
    "Some blocks of the row have box-sizing: border-box, others have not: the same written width gives different blocks.",
    "<div style='width:220px;overflow:hidden'><p style='float:left;width:90px;padding:0 "
    "9px;margin:0;background:#cde;box-sizing:border-box'>in</p><p "
    "style='float:left;width:90px;padding:0 9px;margin:0;background:#dec'>on top</p></div>",
    find,
)
