"""Where an element stands in the source, as a whole and with its lines, and how things are indented."""

import re
from collections.abc import Iterator

from redcrate.core.errors import EditRefused
from redcrate.core.markup.elements import Element, Markup, Span, Text
from redcrate.core.records import dataclass

VOID = frozenset(
    "area base br col embed hr img input link meta source track wbr".split()
)  # HTML Standard §13.1.2
_KEEPS_LINES = re.compile(r"<(?:pre|textarea)\b", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Extent:
    """An element's characters.

    span: from its start tag to its end. inside: between its tags; None for a void element. lines: the
    span with the indentation before it and the line end after it, where nothing else stands there.
    indent: that indentation. own_lines: whether it has its lines to itself.
    """

    span: Span
    inside: Span | None
    lines: Span
    indent: str
    own_lines: bool


def extent_of(markup: Markup, element: Element) -> Extent:
    """Where an element stands; raises EditRefused for one that the parser implied."""
    start = markup.start_tag(element)
    if start is None:
        raise EditRefused(
            f"{element.label} has no tag in the source.",
            where=markup.source.name,
            remedy="Add its tag to the page first.",
        )
    end = markup.end_tag(element)
    inside = None
    if element.tag not in VOID:
        inside = Span(start.end, end.start if end is not None else _last_end(markup, element, start.end))
    last = end.end if end is not None else inside.end if inside is not None else start.end
    span = Span(start.start, last)
    text = markup.source.text
    line = text.rfind("\n", 0, span.start) + 1
    indent = text[line : span.start]
    after = re.compile(r"[ \t]*(\r\n|\n|\r|\Z)").match(text, span.end)
    own = not indent.strip() and after is not None
    lines = Span(line, after.end()) if own and after is not None else span
    return Extent(span, inside, lines, indent if own else "", own)


def _last_end(markup: Markup, element: Element, start: int) -> int:
    """Where the content of an element without an end tag ends: after the last node inside."""
    last = start
    stack: list[Element | Text] = list(element.children)
    while stack:
        node = stack.pop()
        if isinstance(node, Text):
            span = markup.places.text(node)
            if span is not None:
                text = markup.source.text[span.start : span.end].rstrip()
                last = max(last, span.start + len(text))
            continue
        for tag in (markup.start_tag(node), markup.end_tag(node)):
            last = max(last, tag.end if tag else 0)
        stack.extend(node.children)
    return last


def newline_of(text: str) -> str:
    """The line end that a text uses."""
    return "\r\n" if "\r\n" in text else "\n"


def indent_step(markup: Markup) -> str:
    """By how much children stand further in than their parents on this page; two spaces if unknown."""
    for child, parent in _own_line_pairs(markup):
        if child.startswith(parent) and len(child) > len(parent):
            return child[len(parent) :]
    return "  "


def _own_line_pairs(markup: Markup) -> Iterator[tuple[str, str]]:
    for element in markup.listed:
        parent = element.parent
        if parent is None or not (markup.start_tag(element) and markup.start_tag(parent)):
            continue
        inner, outer = extent_of(markup, element), extent_of(markup, parent)
        if inner.own_lines and outer.own_lines:
            yield inner.indent, outer.indent


def reindented(text: str, before: str, after: str) -> str:
    """Source text that stood at one indentation, for another one; text that keeps lines is left alone."""
    if before == after or _KEEPS_LINES.search(text):
        return text
    lines = text.splitlines(keepends=True)
    moved = [
        after + line[len(before) :] if line.startswith(before) and line.strip() else line
        for line in lines[1:]
    ]
    return "".join([*lines[:1], *moved])
