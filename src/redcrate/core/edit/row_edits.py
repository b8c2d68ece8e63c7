"""Edits of whole rows: fit the children of a container, and let neighbours give when one block grows."""

from collections.abc import Mapping, Sequence

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
from redcrate.core.rows.fitting import RowFit, RowWish, fit
from redcrate.core.style.window_ranges import WindowRange
from redcrate.core.units import LayoutUnit, format_px


def row_room(page: Page, container: Element) -> LayoutUnit:
    """The width that a row in the container has, 1/64 px. Raises EditRefused for what holds no row."""
    box = page.box_of(container)
    if box is None or box.box is None or box.content_box.width <= 0:
        raise EditRefused(f"{container.label} has no room for a row.")
    return box.content_box.width


def fit_row(
    page: Page,
    texts: Mapping[str, str],
    container: Element,
    wish: RowWish,
    *,
    inline: bool = False,
    window: WindowRange | None = None,
) -> tuple[Patch, RowFit]:
    """The children of a container as rows of `wish.count`; inline: as inline-blocks instead of floats; window: in
    windows of that range only.

    A container without children gets that many div elements. The first of each row has no gap before it.
    """
    found = fit(row_room(page, container), wish)
    children = [c for c in container.child_elements if c.index >= 0]
    if not children:
        return _with_blocks(page, container, wish), found
    rules = _rules(container, children, wish, found, inline)
    sentence = f"{wish.count} in a row in {container.label}: {found.sentence}"
    if window is not None:
        written = author_rules(page)
        plain = [(selector, declarations) for selector, declarations, _ in rules]
        edit = range_rules_edit(page, texts, window, plain, written[-1] if written else None)
        return Patch((edit,), f"{sentence}, for windows {window.words} px"), found
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


def _rules(
    container: Element, children: Sequence[Element], wish: RowWish, found: RowFit, inline: bool
) -> list[tuple[str, str, str]]:
    selector = _selector(container, children)
    way = "display: inline-block; vertical-align: top" if inline else "float: left"
    sizing = "border-box" if wish.border_box else "content-box"
    values = [
        way,
        f"box-sizing: {sizing}",
        f"width: {found.widths[-1]}",
        f"margin: 0 0 0 {wish.gap:g}px",
    ]
    if wish.padding:
        values.append(f"padding: {wish.padding:g}px")
    if wish.border:
        values.append(f"border: {wish.border:g}px solid")
    rules = [(selector, "; ".join(values), f"{wish.count} in a row")]
    first = f"{selector}:nth-child({wish.count}n + 1)" if wish.count > 1 else f"{selector}:first-child"
    reset = ["margin-left: 0"]
    if not inline and wish.count > 1:
        reset.append("clear: left")
    if found.widths[0] != found.widths[-1]:
        reset.append(f"width: {found.widths[0]}")
    rules.append((first, "; ".join(reset), ""))
    return rules


def _selector(container: Element, children: Sequence[Element]) -> str:
    """What means these children and, where that can be said, nothing else."""
    outer = (
        f"#{serialize_identifier(container.id)}"
        if container.id
        else f".{serialize_identifier(container.classes[0])}"
        if container.classes
        else container.tag
    )
    shared = [c for c in children[0].classes if all(c in e.classes for e in children)]
    tags = {e.tag for e in children}
    inner = f".{serialize_identifier(shared[0])}" if shared else tags.pop() if len(tags) == 1 else "*"
    return f"{outer} > {inner}"


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
        raise EditRefused("there is no neighbour that could give.")
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
            raise EditRefused(f"{element.label} has no width of its own that could give.")
        values.append((element, planner.assignments))
        words.append(f"{element.label} {format_px(share)} px")
        left -= share
    edits = tuple(write_all(values, page, texts, WritesTo(window=window)))
    return Patch(edits, f"neighbours give {format_px(amount)} px: {', '.join(words)}")
