"""Edits of whole rows: fit the children of a container, and let neighbours give when one block grows."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import TypeAlias

from tinycss2.serializer import serialize_identifier

from redcrate.core.edit.extents import extent_of
from redcrate.core.edit.gives import Gives, Planner
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.edit.range_rules import range_rules_edit
from redcrate.core.edit.rule_places import author_rules, new_rule_edit
from redcrate.core.edit.targets import WritesTo
from redcrate.core.edit.tree_edits import Where, added
from redcrate.core.edit.writing import Assignment, write_all
from redcrate.core.errors import EditRefused
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.rows.fitting import FitUnit, FitWay, RowFit, RowWish, fit
from redcrate.core.style.window_ranges import WindowRange
from redcrate.core.units import LayoutUnit, format_px


def row_room(page: Page, container: Element) -> LayoutUnit:
    """The width that a row in the container has, 1/64 px. Raises EditRefused for what holds no row."""
    box = page.box_of(container)
    if box is None or box.box is None or box.content_box.width <= 0:
        raise EditRefused(f"{container.label} has no width for a row.")
    return box.content_box.width


def fit_row(
    page: Page,
    texts: Mapping[str, str],
    container: Element,
    wish: RowWish,
    *,
    way: FitWay = FitWay.FLOATS,
    window: WindowRange | None = None,
) -> tuple[Patch, RowFit]:
    """The children of a container as rows of `wish.count`; window: in windows of that range only.

    A container without children gets that many div elements. Floats and inline-blocks have margins for gaps, but
    for the first of each row; flex and grid have gaps of their own.
    """
    columns = replace(wish, border_box=True)  # a column holds the whole box, however that is sized
    found = fit(row_room(page, container), columns if way is FitWay.GRID else wish)
    children = [c for c in container.child_elements if c.index >= 0]
    if not children:
        return _with_blocks(page, container, wish), found
    rules = _RULES[way](container, children, wish, found)
    sentence = f"{wish.count} in a row in {container.label}: {found.sentence}"
    if window is not None:
        written = author_rules(page)
        plain = [(selector, declarations) for selector, declarations, _ in rules]
        edit = range_rules_edit(page, texts, window, plain, written[-1] if written else None)
        return Patch((edit,), f"{sentence}, {window.words} px"), found
    edits = [new_rule_edit(page, texts, s, d, comment) for s, d, comment in rules]
    merged = TextEdit(edits[0].file, edits[0].start, edits[0].end, "".join(e.text for e in edits))
    return Patch((merged,), sentence), found


def _with_blocks(page: Page, container: Element, wish: RowWish) -> Patch:
    """New blocks first; a second call then fits them."""
    markup = page.source.markup
    one = added(markup, container, Where.INSIDE, "div", "1").edits[0]
    text = one.text
    parts = [text.replace(">1<", f">{n + 1}<") for n in range(wish.count)]
    inside = extent_of(markup, container)
    head = parts[0].rstrip() if inside.own_lines and "\n" in text else parts[0]
    body = head + "".join(p.rstrip() if p.startswith("\n") else p for p in parts[1:])
    tail = text[len(text.rstrip()) :] if text.startswith("\n") else ""
    edit = TextEdit(one.file, one.start, one.end, body + tail)
    return Patch((edit,), f"{wish.count} new blocks in {container.label}")


# Selector, declarations, and the comment that says what the rule is for.
_Rule: TypeAlias = tuple[str, str, str]


def _edges(wish: RowWish) -> list[str]:
    """Sizing, padding and border of one block."""
    values = [f"box-sizing: {'border-box' if wish.border_box else 'content-box'}"]
    if wish.padding:
        values.append(f"padding: {wish.padding:g}px")
    if wish.border:
        values.append(f"border: {wish.border:g}px solid")
    return values


def _floats(
    container: Element, children: Sequence[Element], wish: RowWish, found: RowFit
) -> list[_Rule]:
    return _with_margins(container, children, wish, found, "float: left", clears=True)


def _inline_blocks(
    container: Element, children: Sequence[Element], wish: RowWish, found: RowFit
) -> list[_Rule]:
    way = "display: inline-block; vertical-align: top"
    return _with_margins(container, children, wish, found, way, clears=False)


def _with_margins(
    container: Element,
    children: Sequence[Element],
    wish: RowWish,
    found: RowFit,
    way: str,
    *,
    clears: bool,
) -> list[_Rule]:
    """Blocks with their gaps as margins on the left, but for the first of each row."""
    selector = _selector(container, children)
    sizing, *edges = _edges(wish)
    values = [
        way,
        sizing,
        f"width: {found.widths[-1]}",
        f"margin: 0 0 0 {wish.gap:g}px",
        *edges,
    ]
    rules = [(selector, "; ".join(values), f"{wish.count} in a row")]
    reset = ["margin-left: 0"]
    if clears and wish.count > 1:
        reset.append("clear: left")
    if found.widths[0] != found.widths[-1]:
        reset.append(f"width: {found.widths[0]}")
    rules.append((_first_of_each(selector, wish), "; ".join(reset), ""))
    return rules


def _first_of_each(selector: str, wish: RowWish) -> str:
    return f"{selector}:nth-child({wish.count}n + 1)" if wish.count > 1 else f"{selector}:first-child"


def _flex_line(
    container: Element, children: Sequence[Element], wish: RowWish, found: RowFit
) -> list[_Rule]:
    """A container that wraps; each block as wide as the row has it, and no wider for its content."""
    selector = _selector(container, children)
    line = f"display: flex; flex-wrap: wrap; gap: {wish.gap:g}px"
    values = [f"flex: 0 0 {found.widths[-1]}", "min-width: 0", "margin: 0", *_edges(wish)]
    rules = [
        (_name_of(container), line, f"{wish.count} in a row"),
        (selector, "; ".join(values), ""),
    ]
    if found.widths[0] != found.widths[-1]:
        rules.append((_first_of_each(selector, wish), f"flex-basis: {found.widths[0]}", ""))
    return rules


def _grid(container: Element, children: Sequence[Element], wish: RowWish, found: RowFit) -> list[_Rule]:
    """A container with that many columns; shares are fractions that content does not blow up."""
    track = "minmax(0, 1fr)" if wish.unit is FitUnit.SHARE else found.widths[-1]
    first = found.widths[0] if found.widths[0] != found.widths[-1] else ""
    count = wish.count - bool(first)
    rest = f"repeat({count}, {track})" if count > 1 else track
    columns = f"{first} {rest}".strip() if count else first
    values = ["min-width: 0", "margin: 0", *_edges(wish)]
    grid = f"display: grid; grid-template-columns: {columns}; gap: {wish.gap:g}px"
    return [
        (_name_of(container), grid, f"{wish.count} in a row"),
        (_selector(container, children), "; ".join(values), ""),
    ]


_RULES: Mapping[FitWay, Callable[[Element, Sequence[Element], RowWish, RowFit], list[_Rule]]] = {
    FitWay.FLOATS: _floats,
    FitWay.INLINE: _inline_blocks,
    FitWay.FLEX: _flex_line,
    FitWay.GRID: _grid,
}


def _name_of(container: Element) -> str:
    """The shortest selector that people would give the container."""
    if container.id:
        return f"#{serialize_identifier(container.id)}"
    return f".{serialize_identifier(container.classes[0])}" if container.classes else container.tag


def _selector(container: Element, children: Sequence[Element]) -> str:
    """What means these children and, where that can be said, nothing else."""
    shared = [c for c in children[0].classes if all(c in e.classes for e in children)]
    tags = {e.tag for e in children}
    inner = f".{serialize_identifier(shared[0])}" if shared else tags.pop() if len(tags) == 1 else "*"
    return f"{_name_of(container)} > {inner}"


def neighbours_give(
    page: Page,
    texts: Mapping[str, str],
    neighbours: Sequence[Element],
    amount: LayoutUnit,
    *,
    in_proportion: bool = False,
    window: WindowRange | None = None,
) -> Patch:
    """The neighbours of a block that grew by `amount` (1/64 px) become narrower by as much together.

    In equal parts, or in proportion to their widths. Raises EditRefused if one would be negative.
    """
    boxes = [(n, b) for n in neighbours if (b := page.box_of(n)) is not None and b.box is not None]
    if not boxes:
        raise EditRefused("no neighbour can become narrower.")
    whole = sum(b.content_box.width for _, b in boxes)
    left, words = amount, []
    values: list[tuple[Element, list[Assignment]]] = []
    for number, (element, box) in enumerate(boxes):
        rest = len(boxes) - number
        share = amount * box.content_box.width // whole if in_proportion and whole else left // rest
        share = left if rest == 1 else share
        planner = Planner(page, element, box)
        planner.compensate("across", {"": share}, Gives.CONTENT)
        if not planner.assignments:
            raise EditRefused(f"{element.label} has no written width to reduce.")
        values.append((element, planner.assignments))
        words.append(f"{element.label} {format_px(share)} px")
        left -= share
    edits = tuple(write_all(values, page, texts, WritesTo(window=window)))
    return Patch(edits, f"{format_px(amount)} px taken from neighbours: {', '.join(words)}")
