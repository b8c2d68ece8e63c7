"""Which text is the first letter of which block container: CSS Pseudo-Elements 4 §2.2."""

from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache
from typing import TypeAlias
from unicodedata import category

from redcrate.core.boxes.generated_content import GeneratedContent
from redcrate.core.boxes.replaced_elements import stands_alone
from redcrate.core.markup.elements import Element, Text
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle, LineHeight
from redcrate.core.style.styling import StyledTree
from redcrate.core.style.values import Length
from redcrate.core.text.fonts import choose_font
from redcrate.core.text.inline_fonts import inline_font

_WHITE = " \t\n\r\f"
_PUNCTUATION = frozenset(("Ps", "Pe", "Pi", "Pf", "Po"))
_BLOCK_CONTAINERS = frozenset(
    ("block", "list-item", "inline-block", "flow-root", "table-cell", "table-caption")
)
_TRANSPARENT = frozenset(("block", "inline", "list-item", "flow-root", "contents", "inline list-item"))


@dataclass(frozen=True, slots=True)
class FirstLetter:
    """A first letter that has a style of its own.

    text: the text that it begins; None where that is the ::before of its owner. block: the element whose
    first letter it is. start, end: of the letter, with the punctuation round it, in that text.
    """

    text: Text | None
    block: Element
    style: ComputedStyle
    start: int
    end: int


# By the element in whose content (or ::before) the text stands.
FirstLetters: TypeAlias = dict[Element, FirstLetter]
_Found: TypeAlias = tuple[Element, Text | None, str]


def first_letters(styled: StyledTree, generated: GeneratedContent) -> FirstLetters:
    """The first letters of a page that ::first-letter styles; inner block containers come first."""
    found: FirstLetters = {}
    for (block, kind), style in styled.pseudo.items():
        if kind != "first-letter" or styled.styles[block].display not in _BLOCK_CONTAINERS:
            continue
        for owner, text, data in _first_text(styled, generated, block):
            span = letter_span(data)
            if span is not None:
                found[owner] = FirstLetter(text, block, _as_letter(style, styled.styles[block]), *span)
    return found


def letter_span(text: str) -> tuple[int, int] | None:
    """§2.2: the first letter of a text with the punctuation before and after it; None if there is none."""
    start = len(text) - len(text.lstrip(_WHITE))
    at = _past(text, start, _PUNCTUATION)
    if at == len(text) or text[at].isspace():
        return None
    at = _past(text, at + 1, frozenset(("Mn", "Mc", "Me")))
    return start, _past(text, at, _PUNCTUATION)


def _past(text: str, at: int, categories: frozenset[str]) -> int:
    while at < len(text) and category(text[at]) in categories:
        at += 1
    return at


@lru_cache(maxsize=1000)
def _as_letter(style: ComputedStyle, block: ComputedStyle) -> ComputedStyle:
    """§2.2.3: an inline box, or a float; it is never positioned."""
    if isinstance(style.initial_letter, tuple):
        size, sink = style.initial_letter
        if sink == size:
            return _sunk(style, block, sink)
    display = "inline" if style.float_ == "none" else "block"
    return replace(style, display=display, position="static")


def _sunk(style: ComputedStyle, block: ComputedStyle, lines: int) -> ComputedStyle:
    """CSS Inline 3 §7.4: from the cap height of the first line to the baseline of the last one it sinks to.

    It stands beside its lines as a float does.
    """
    around = inline_font(block)
    line = around.leading_ascent + around.leading_descent
    face = choose_font(style.font_family, style.font_weight, style.font_style).face
    cap_height = around.face.metrics(block.font_size).cap_height + (lines - 1) * line / 64
    tall = ((lines - 1) * line + around.leading_ascent) / 64
    return replace(
        style,
        display="block",
        position="static",
        float_="left" if style.direction == "ltr" else "right",
        font_size=cap_height * face.upem / face.cap_height,
        line_height=LineHeight("length", tall),
        height=Length(tall),
    )


def _first_text(styled: StyledTree, generated: GeneratedContent, block: Element) -> Iterator[_Found]:
    """The text that the first line of a block container begins with, if it is not an inner one's."""
    stack: list[Element | Text] = [block]
    while stack:
        node = stack.pop()
        if isinstance(node, Text):
            if node.parent is not None and node.data.strip(_WHITE):
                yield node.parent, node, node.data
                return
            continue
        style = styled.styles.get(node)
        if node is not block:
            if style is None or _is_passed_over(style):
                continue
            own = (node, "first-letter") in styled.pseudo and style.display in _BLOCK_CONTAINERS
            if own or style.display not in _TRANSPARENT or stands_alone(node):
                return
        before = styled.pseudo.get((node, "before"))
        if before is not None and not _is_passed_over(before):
            if before.display == "inline":
                yield node, None, generated.first_text(node, before)
            return
        stack.extend(reversed(node.children))


def _is_passed_over(style: ComputedStyle) -> bool:
    out_of_flow = style.position in ("absolute", "fixed") or style.float_ != "none"
    return style.display == "none" or out_of_flow
