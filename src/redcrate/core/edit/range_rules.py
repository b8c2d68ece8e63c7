"""Rules for a range of window widths: which @media block is exactly that range, or where a new one goes.

A new block follows the page's own manner: how queries are written, from wide to narrow or from narrow to wide,
indentation, line ends.
"""

import re
from collections.abc import Iterator, Mapping, Sequence

from redcrate.core.edit.css_text import block_place
from redcrate.core.edit.patch import TextEdit
from redcrate.core.edit.rule_places import (
    appended,
    author_rules,
    last_sheet,
    newline_of,
    rule_text,
    sheet_at,
    step_of,
    with_style_element,
)
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.sheets import MediaRule, StyleRule
from redcrate.core.style.window_ranges import LEAST, MOST, WindowRange


@dataclass(frozen=True, slots=True, eq=False)
class RangeBlock:
    """An @media block of the page that is one range of widths and nothing else. number: its place in the cascade,
    counted in the author's rules: those before `number` come before what is written at its end.
    """

    rule: MediaRule
    window: WindowRange
    number: int


def range_blocks(page: Page) -> tuple[RangeBlock, ...]:
    """The page's blocks that are a plain range, in the order of the cascade."""
    ends: dict[int, int] = {}  # by the very query list: the number behind the last rule under it
    for number, rule in enumerate(author_rules(page)):
        ends.update((id(queries), number + 1) for queries in rule.media)
    found = []
    for media, window in _plain(page):
        end = ends.get(id(media.media[-1]))
        found.append(RangeBlock(media, window, _number_before(page, media) if end is None else end))
    return tuple(found)


def _plain(page: Page) -> Iterator[tuple[MediaRule, WindowRange]]:
    for sheet in page.source.sheets:
        yield from ((m, m.window) for m in sheet.media_rules if m.window is not None)


def _begins_in(rule: StyleRule, block: MediaRule) -> bool:
    """Whether a rule stands in a block: its queries are those of the block, to the very object."""
    own = rule.media[: len(block.media)]
    return rule.file == block.file and len(own) == len(block.media) and own[-1] is block.media[-1]


def stands_in(rule: StyleRule, block: MediaRule) -> bool:
    """Whether a rule stands right in a block, not in another one inside it."""
    return len(rule.media) == len(block.media) and _begins_in(rule, block)


def windows_of(page: Page) -> tuple[WindowRange, ...]:
    """The ranges that the page has rules for, each once, widest windows first."""
    found = {window for _, window in _plain(page)}
    return tuple(sorted(found, key=lambda w: (-w.most, -w.least)))


def windows_offered(page: Page, chosen: WindowRange | None) -> list[WindowRange]:
    """The ranges that edits may go to: those of the page's rules, and the one that is chosen."""
    found = list(windows_of(page))
    return found if chosen is None or chosen in found else [*found, chosen]


def number_of(page: Page, rule: StyleRule) -> int:
    """The place of a rule among the author's rules, in the order of the cascade."""
    return author_rules(page).index(rule)


def block_for(page: Page, window: WindowRange, after: StyleRule | None) -> RangeBlock | None:
    """The last block that is exactly this range; what is written at its end comes after the rule `after`."""
    least = number_of(page, after) + 1 if after is not None else 0
    fitting = [b for b in range_blocks(page) if b.window == window and b.number >= least]
    return fitting[-1] if fitting else None


def range_rules_edit(
    page: Page,
    texts: Mapping[str, str],
    window: WindowRange,
    rules: Sequence[tuple[str, str]],
    after: StyleRule | None,
) -> TextEdit:
    """The edit that writes rules (selector, declarations) for a range of widths, behind the rule `after`."""
    block = block_for(page, window, after)
    if block is not None:
        return _into_block(texts[block.rule.file], block.rule, rules)
    place = sheet_at(page, texts, after.file, after.start) if after is not None else None
    place = place or last_sheet(page, texts)
    if place is None:
        return with_style_element(page, texts, _block_text("", window, rules, compared=False, head=""))
    css = texts[place.file][place.span.start : place.span.end]
    here = [b for b in range_blocks(page) if b.rule.file == place.file]
    written = [b.rule.media[-1].text for b in here]
    compared = bool(written) and all(re.search("[<>]", t) for t in written)
    head = "screen and " if written and all(t.startswith("screen and ") for t in written) else ""
    text = _block_text(css, window, rules, compared=compared, head=head)
    least = number_of(page, after) + 1 if after is not None else 0
    following = next((b for b in _in_order(here, window) if _number_before(page, b.rule) >= least), None)
    if following is None:
        return appended(place, texts[place.file], text)
    return _in_front(texts[place.file], following.rule, text)


def _in_order(blocks: Sequence[RangeBlock], window: WindowRange) -> list[RangeBlock]:
    """The blocks that come behind a new one, if they run from wide to narrow or from narrow to wide."""
    upper = [b.window.most for b in blocks if b.window.least == LEAST]
    lower = [b.window.least for b in blocks if b.window.most == MOST]
    if len(upper) == len(blocks) and upper == sorted(upper, reverse=True) and window.least == LEAST:
        return [b for b in blocks if b.window.most < window.most]
    if len(lower) == len(blocks) and lower == sorted(lower) and window.most == MOST:
        return [b for b in blocks if b.window.least > window.least]
    return []


def _number_before(page: Page, block: MediaRule) -> int:
    """How many of the author's rules come before what is written in front of a block."""
    rules = author_rules(page)
    before = [n for n, r in enumerate(rules) if r.file == block.file and r.start < block.start]
    return max(before, default=-1) + 1


def _block_text(
    css: str, window: WindowRange, rules: Sequence[tuple[str, str]], *, compared: bool, head: str
) -> str:
    """An @media block in the manner of a sheet."""
    newline, query = newline_of(css), window.query(compared=compared)
    grouped = re.search(
        r"@media[^{}]*\{(\s*[^{}]+\{[^{}]*\})", css
    )  # their manner, where there are such blocks
    manner = grouped.group(1) if grouped else css
    inner = [rule_text(manner, selector, declarations) for selector, declarations in rules]
    if "\n" not in css.strip() and re.search(r"\}[^\s}]|\{\S", css):
        tight = query.replace(": ", ":") if not compared else query
        return f"@media {head}{tight}{{{''.join(inner)}}}"
    step = step_of(css)
    lines = [f"{step}{line}" for rule in inner for line in rule.split(newline)]
    return newline.join([f"@media {head}{query} {{", *lines, "}"])


def _into_block(text: str, media: MediaRule, rules: Sequence[tuple[str, str]]) -> TextEdit:
    """Rules at the end of a block."""
    block = block_place(text, media.start)
    inside = text[block.start : block.end] if block is not None else ""
    end = block.start + len(inside.rstrip()) if block is not None else len(text)
    newline = newline_of(text)
    inner = [rule_text(inside or text, selector, declarations) for selector, declarations in rules]
    if "\n" not in inside:
        return TextEdit(media.file, end, end, "".join(inner))
    indent = re.search(r"\n([ \t]*)\S", inside)
    own = text[text.rfind("\n", 0, media.start) + 1 : media.start]
    outer = own if not own.strip() else ""
    margin = indent.group(1) if indent else outer + step_of(text)
    lines = [f"{newline}{margin}{line}" for rule in inner for line in rule.split(newline)]
    return TextEdit(media.file, end, end, "".join(lines))


def _in_front(text: str, media: MediaRule, block: str) -> TextEdit:
    """A block in front of another one, and of the comment that speaks of that one."""
    at = media.start
    comment = re.search(r"/\*(?:[^*]|\*(?!/))*\*/[ \t]*\r?\n?[ \t]*\Z", text[:at])
    if comment and not text[text.rfind("\n", 0, comment.start()) + 1 : comment.start()].strip():
        at = comment.start()
    newline = newline_of(text)
    margin = text[text.rfind("\n", 0, at) + 1 : at]
    if margin.strip():
        return TextEdit(media.file, at, at, block)
    return TextEdit(
        media.file, at, at, f"{newline}{margin}".join(block.split(newline)) + newline * 2 + margin
    )
