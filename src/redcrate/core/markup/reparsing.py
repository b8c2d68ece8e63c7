"""The tree of an edited page, without parsing what the edit cannot reach.

An edit inside a <style> element's text, or one that changes a start tag in nothing but its style
attribute, leaves every element as it was: the tree is kept and only the table of places moves. Any
other edit parses the page anew.
"""

from collections.abc import Callable
from dataclasses import replace

from redcrate.core.markup.elements import Element, Markup, Span, Text
from redcrate.core.markup.parser import parse_html, start_tag_token
from redcrate.core.markup.source_text import SourceText
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Difference:
    """Two texts are alike but for [start, end) of the old one, which became `by` longer."""

    start: int
    end: int
    by: int


def reparse(markup: Markup, source: SourceText) -> Markup:
    """The markup of `source`, an edited version of the page of `markup`."""
    change = difference(markup.source.text, source.text)
    if change is None:
        return markup
    return (
        _in_style_text(markup, source, change)
        or _in_start_tag(markup, source, change)
        or parse_html(source)
    )


def difference(old: str, new: str) -> Difference | None:
    """Where two texts differ, as one stretch; None if they are equal."""
    if old == new:
        return None
    shorter = min(len(old), len(new))
    head = _common(shorter, lambda n: old[:n] == new[:n])
    tail = _common(shorter - head, lambda n: not n or old[-n:] == new[-n:])
    return Difference(head, len(old) - tail, len(new) - len(old))


def _common(longest: int, alike: Callable[[int], bool]) -> int:
    """The greatest n up to `longest` for which `alike(n)` holds, by halving."""
    low, high = 0, longest
    while low < high:
        middle = (low + high + 1) // 2
        if alike(middle):
            low = middle
        else:
            high = middle - 1
    return low


def _in_style_text(markup: Markup, source: SourceText, change: Difference) -> Markup | None:
    """HTML Standard §13.2.5.3: only an end tag of its own ends the text of a style element."""
    for element in markup.sheet_elements:
        text = next((c for c in element.children if isinstance(c, Text)), None)
        span = markup.places.text(text) if text is not None else None
        if span is None or not (span.start <= change.start and change.end <= span.end):
            continue
        css = source.text[span.start : span.end + change.by]
        if not css or "</style" in css.lower() or "\0" in css:
            return None
        return _moved(markup, source, span.start, change)
    return None


def _in_start_tag(markup: Markup, source: SourceText, change: Difference) -> Markup | None:
    found = _tag_round(markup, change)
    if found is None:
        return None
    element, tag = found
    if _is_cloned(markup, element):
        return None
    before = start_tag_token(markup.source.text[tag.start : tag.end])
    after = start_tag_token(source.text[tag.start : tag.end + change.by])
    if before is None or after is None or after["name"] != before["name"]:
        return None
    if after["selfClosing"] != before["selfClosing"]:
        return None
    old, new = dict(before["data"]), dict(after["data"])
    old.pop("style", None)
    style = new.pop("style", "")
    if old != new or list(old) != list(new):
        return None
    moved = _moved(markup, source, tag.start, change)
    return replace(moved, restyled={**markup.restyled, element: style})


# HTML Standard §13.2.4.3: the parser opens these again where a block has closed them.
_FORMATTING = frozenset("a b big code em font i nobr s small strike strong tt u".split())


def _is_cloned(markup: Markup, element: Element) -> bool:
    """Whether other elements may stand for the same tag: they carry its attributes too."""
    return element.tag in _FORMATTING and any(
        e.tag == element.tag and markup.start_tag(e) is None for e in markup.root.walk()
    )


_BRACKETS_TRIED = 40  # attribute values may hold some


def _tag_round(markup: Markup, change: Difference) -> tuple[Element, Span] | None:
    """The element whose start tag holds the change, its angle brackets apart."""
    text, at = markup.source.text, change.start
    for _ in range(_BRACKETS_TRIED):
        at = text.rfind("<", 0, at)
        if at < 0:
            return None
        number = markup.places.number_at(at)
        element = markup.numbered(number) if number is not None else None
        tag = markup.start_tag(element) if element is not None else None
        if element is not None and tag is not None:
            return (element, tag) if change.end < tag.end else None
    return None


def _moved(markup: Markup, source: SourceText, after: int, change: Difference) -> Markup:
    faults = tuple(
        replace(f, offset=f.offset + change.by) if f.offset >= change.end else f for f in markup.faults
    )
    return replace(markup, source=source, places=markup.places.moved(after, change.by), faults=faults)
