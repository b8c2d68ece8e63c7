"""Taking declarations out of the rules for a range, with the rules and blocks that are empty then."""

from collections.abc import Iterable, Mapping

from redcrate.core.edit.css_text import block_place, declaration_removal
from redcrate.core.edit.patch import TextEdit
from redcrate.core.edit.range_rules import stands_in
from redcrate.core.edit.rule_places import author_rules
from redcrate.core.markup.elements import Span
from redcrate.core.page import Page
from redcrate.core.style.sheets import Declaration, MediaRule, StyleRule


def emptied(
    page: Page, texts: Mapping[str, str], out: Mapping[StyleRule, Iterable[Declaration]]
) -> list[TextEdit]:
    """The edits that take declarations out of rules, an empty rule with them, and an empty @media block with that."""
    gone: dict[str, list[Span]] = {}
    whole: set[StyleRule] = set()
    for rule, declarations in out.items():
        text = texts[rule.file]
        spans = [Span(*declaration_removal(text, d.offset)) for d in declarations]
        if _is_bare(text, rule.start, spans):
            whole.add(rule)
            spans = [_with_space_before(text, rule.start)]
        gone.setdefault(rule.file, []).extend(spans)
    for block in _blocks_of(page, whole):
        spans = gone[block.file]
        if _is_bare(texts[block.file], block.start, spans):
            around = _with_space_before(texts[block.file], block.start)
            inner = [s for s in spans if around.start <= s.start and s.end <= around.end]
            gone[block.file] = [*(s for s in spans if s not in inner), around]
    return [
        TextEdit(file, span.start, span.end, "")
        for file, spans in gone.items()
        for span in sorted(spans, key=lambda s: s.start)
    ]


def _blocks_of(page: Page, rules: Iterable[StyleRule]) -> list[MediaRule]:
    """The blocks around rules, the inner ones first."""
    outer = {id(m) for r in rules for m in r.media}  # another block may have the same queries
    blocks = [b for s in page.source.sheets for b in s.media_rules if id(b.media[-1]) in outer]
    return sorted(blocks, key=lambda b: -b.start)


def _is_bare(text: str, start: int, gone: Iterable[Span]) -> bool:
    """Whether nothing is left in the block of the rule at `start` without some of its characters."""
    block = block_place(text, start)
    if block is None or text[block.end : block.end + 1] != "}":
        return False
    at, left = block.start, ""
    for span in sorted(gone, key=lambda s: s.start):
        if block.start <= span.start and span.end <= block.end:
            left += text[at : span.start]
            at = max(at, span.end)
    return not (left + text[at : block.end]).strip(" \t\r\n;")


def _with_space_before(text: str, start: int) -> Span:
    """A rule with the white space in front of it; at the beginning of a text, with what follows it."""
    block = block_place(text, start)
    end = block.end + 1 if block is not None else len(text)
    head = text[:start].rstrip()
    if head:
        return Span(len(head), end)
    return Span(start, end + len(text[end:]) - len(text[end:].lstrip()))


def declarations_for(
    page: Page, rules: Iterable[StyleRule], longhands: Iterable[str]
) -> dict[StyleRule, list[Declaration]]:
    """The declarations in some rules that set nothing but longhands of a list."""
    wanted = set(longhands)
    found = {r: [d for d in r.declarations if set(d.longhands) <= wanted] for r in rules}
    return {r: those for r, those in found.items() if those}


def rules_in(page: Page, block: MediaRule) -> list[StyleRule]:
    """The rules that stand right in an @media block."""
    return [r for r in author_rules(page) if stands_in(r, block)]
