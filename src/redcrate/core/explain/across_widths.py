"""The sum across of one element at several window widths, side by side: what changes from width to width."""

from collections.abc import Mapping

from redcrate.core.explain.across import across
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import format_px

NAMES = ("margin", "border", "padding", "content", "padding", "border", "margin")


@dataclass(frozen=True, slots=True)
class AtWidth:
    """One row: the terms from left to right, border box, container and what is left of it, as text; "–" without a box.

    changed: which of them are other ones than at the width before.
    """

    width: float
    cells: tuple[str, ...]
    changed: frozenset[int]


def across_at_widths(pages: Mapping[float, tuple[Page, Element]]) -> tuple[AtWidth, ...]:
    """The rows, in the order of the pages. pages: by window width, px, with the element on each."""
    rows: list[AtWidth] = []
    for width, (page, element) in pages.items():
        cells = _cells(page, element)
        before = rows[-1].cells if rows else cells
        changed = frozenset(n for n, (a, b) in enumerate(zip(before, cells, strict=True)) if a != b)
        rows.append(AtWidth(width, cells, changed))
    return tuple(rows)


def _cells(page: Page, element: Element) -> tuple[str, ...]:
    equation, box = across(page, element), page.box_of(element)
    if equation is None or box is None or not equation.terms:
        return ("–",) * (len(NAMES) + 3)
    available = "–" if equation.available is None else format_px(equation.available)
    return (
        *(format_px(t.used) for t in equation.terms),
        format_px(box.border_box.width),
        available,
        format_px(equation.left),
    )
