"""The text of a stylesheet cut into its rules, without a tokenizer: most rules of a large sheet match nothing.

Only what is beyond doubt is cut: a style rule whose selectors are surely valid and whose block holds declarations
alone, and the blocks of conditions round such rules. All else is a piece for the parser, from where it begins to where
it ends (CSS Syntax 3 §5.4.3 and §5.5.8: strings, comments, escapes, addresses and brackets count).
"""

import re
from collections.abc import Iterator
from functools import cache, lru_cache

from redcrate.core.records import dataclass

_STRING = r"\"(?:[^\"\\\n\r\f]|\\[^\n\r\f])*+\"|'(?:[^'\\\n\r\f]|\\[^\n\r\f])*+'"
_COMMENT = r"/\*(?s:.*?)\*/"
_ADDRESS = r"(?<![\w\\-])[uU][rR][lL]\([ \t\n\r\f]*+(?![\"'])[^\"'()\\\s]*+[ \t\n\r\f]*+\)"
_INSIDE = rf"{_ADDRESS}|{_STRING}|{_COMMENT}|/(?!\*)|[^{{}}()\[\]\"'\\/]++"
_BRACKETS = rf"\((?:{_INSIDE})*+\)"
for _ in range(2):
    _BRACKETS = rf"\((?:{_INSIDE}|{_BRACKETS})*+\)"
_DECLARATION_PART = rf"{_ADDRESS}|[^{{}}()\[\]\"'\\/@u]++|u|{_STRING}|{_COMMENT}|/(?!\*)|{_BRACKETS}"
_SPACE = rf"(?:[ \t\n\r\f]++|{_COMMENT})*+"

# Selectors that every parser takes: Selectors 4 §3.1, with names that need no escapes.
_NAME = r"-?[_a-zA-Z][\w-]*+"
_STATES = "|".join(
    """link visited hover active focus focus-visible focus-within target root empty checked disabled enabled
    required optional read-only read-write first-child last-child only-child first-of-type last-of-type only-of-type
    valid invalid indeterminate""".split()
)
_ATTRIBUTE = rf"\[[a-zA-Z][\w-]*+(?:[~|^$*]?=(?:{_NAME}|\"[^\"\\\n\r\f\]]*+\"|'[^'\\\n\r\f\]]*+'))?\]"
_NTH = r":nth-(?:last-)?(?:child|of-type)\((?:odd|even|\d+|-?\d*n(?:[+-]\d+)?)\)"
_SIMPLE = rf"\.{_NAME}|#{_NAME}|{_ATTRIBUTE}|{_NTH}|:(?:{_STATES})(?![\w(-])"
_NOT = rf":not\((?:{_NAME})?(?:{_SIMPLE})*+(?<!\()\)"
_COMPOUND = rf"(?:(?:{_NAME}|\*)|(?=[.#\[:]))(?:{_SIMPLE}|{_NOT})*+"
_END = r"(?:::?(?:before|after|first-line|first-letter)(?![\w(-])|::placeholder(?![\w(-]))(?=[ \t\n\r\f]*+(?:,|\Z))"
_BETWEEN = r"(?:[ \t\n\r\f]*+[>+~,][ \t\n\r\f]*+|[ \t\n\r\f]++)"
_SELECTORS = (
    rf"(?:(?:\A|(?<!\A){_BETWEEN}){_COMPOUND}(?:{_END})?)++"  # one copy of each part: they are long
)
_NOT_NAMES = re.compile(r"::?[\w-]++(?:\((?:[^()]++|\([^()]*+\))*+\))?|\[[^\]]*+\]", re.ASCII)
_NAMES = re.compile(rf"[.#]?{_NAME}", re.ASCII)

_RULE = rf"(?P<head>[^{{}}@;\\<!/]++)\{{(?P<block>(?:{_DECLARATION_PART})*+)\}}"
_KEYWORD = re.compile(r"@-?[_a-zA-Z]")
_CONDITION = re.compile(r"@(?:media|supports|layer|container)(?![\w\\-])", re.IGNORECASE | re.ASCII)
_CONDITION_HEAD = (
    rf"@(?:media|supports|layer|container)(?![\w\\-])(?:[^{{}}()\[\]\"'\\/;@]++|{_BRACKETS})*+\{{"
)
_DEEPEST = 8  # conditions in conditions
# An address in quotes is a function like others; what begins like one of these alone has no end.
_FUNCTION = r"(?<![\w\\-])url\((?=[ \t\n\r\f]*+[\"'])"
_TOKEN = (
    rf"{_ADDRESS}|{_STRING}|{_COMMENT}|\\[^\n\r\f]|(?P<opens>{_FUNCTION}|[({{\[])|(?P<closes>[)}}\]])|;"
    rf"|(?P<endless>[\"'\\]|/\*|(?<![\w\\-])url\()"
)
_CLOSES = {")": "(", "]": "[", "}": "{"}
_WHITE = " \t\n\r\f"
_BLANK = re.compile(_SPACE)


@cache
def _selectors() -> re.Pattern[str]:  # large patterns take longer to make than small sheets to read
    return re.compile(_SELECTORS, re.ASCII)


@cache
def _rule() -> re.Pattern[str]:
    return re.compile(_RULE, re.ASCII)


@cache
def _condition_head() -> re.Pattern[str]:
    return re.compile(_CONDITION_HEAD, re.IGNORECASE | re.ASCII)


@cache
def _token() -> re.Pattern[str]:
    return re.compile(_TOKEN, re.IGNORECASE | re.ASCII)


@dataclass(frozen=True, slots=True)
class Cut:
    """A piece of a sheet: from `start` to `end` in the text.

    A style rule has the text of its `head`; of that and of a condition, `inside` is where the block begins and ends,
    without its braces. A condition has the `rules` in it, where only the parser can tell these it has none.
    """

    start: int
    end: int
    head: str = ""
    inside: tuple[int, int] = (0, 0)
    rules: "tuple[Cut, ...]" = ()


def cuts(text: str, start: int, end: int) -> list[Cut] | None:
    """The rules of a stretch of a sheet; None where a parser must say where they end."""
    found = list(pieces(text, start, end))
    return found if _begin(text, found[-1].end if found else start, end) >= end else None


def pieces(text: str, start: int, end: int) -> Iterator[Cut]:
    """The rules of a stretch of a sheet, up to one of which only a parser can say where it ends."""
    at = _begin(text, start, end)
    while at < end:
        is_hidden = text.startswith(("<!--", "-->"), at)  # as sheets were from old browsers (§5.4.3)
        cut = None if is_hidden else _rule_at(text, at, end) or _other_rule(text, at, end)
        if cut is None:
            return
        yield cut
        at = _begin(text, cut.end, end)


def _begin(text: str, at: int, end: int) -> int:
    """Where the next rule begins: behind white space and comments."""
    match = _BLANK.match(text, at, end)
    return match.end() if match else at


def _rule_at(text: str, at: int, end: int, depth: int = 0) -> Cut | None:
    """A style rule, or a condition that holds nothing else and such conditions."""
    if text[at] != "@":
        return _style_rule(text, at, end)
    head = _condition_head().match(text, at, end) if depth < _DEEPEST else None
    if head is None:
        return None
    rules = []
    inner = _begin(text, head.end(), end)
    while inner < end and text[inner] != "}":
        cut = _rule_at(text, inner, end, depth + 1)
        if cut is None:
            return None
        rules.append(cut)
        inner = _begin(text, cut.end, end)
    return Cut(at, inner + 1, "", (head.end(), inner), tuple(rules)) if inner < end else None


def _style_rule(text: str, at: int, end: int) -> Cut | None:
    match = _rule().match(text, at, end)
    head = "" if match is None else match["head"].rstrip(_WHITE)
    if match is None or not _selectors().fullmatch(head):
        return None
    return Cut(at, match.end(), head, match.span("block"))


def _other_rule(text: str, at: int, end: int) -> Cut | None:
    """A rule that goes to the parser, or a condition with its block; None where it does not end."""
    is_at, first = text[at] == "@", 0
    if is_at and not _KEYWORD.match(text, at):
        return None
    opened: list[str] = []
    for match in _token().finditer(text, at, end):
        if match["endless"]:
            return None
        if match["opens"]:
            bracket = match["opens"][-1]
            if not opened and bracket == "{":
                first = match.end()
            opened.append(bracket)
        elif match["closes"]:
            if opened and opened[-1] == _CLOSES[match["closes"]]:
                opened.pop()
                if not opened and match["closes"] == "}":
                    return _whole_block(text, at, (first, match.start()))
        elif match.group() == ";" and is_at and not opened:
            return Cut(at, match.end())
    return None


def _whole_block(text: str, at: int, inside: tuple[int, int]) -> Cut:
    """A rule whose block ends at the end of `inside`."""
    if not _CONDITION.match(text, at):
        return Cut(at, inside[1] + 1)
    return Cut(at, inside[1] + 1, "", inside, tuple(cuts(text, *inside) or ()))


@lru_cache(maxsize=20_000)
def needed_names(head: str) -> tuple[frozenset[str], ...]:
    """For each selector of a rule the names that a page has if anything matches it: `.class`, `#id`, `tag`."""
    plain = _NOT_NAMES.sub("", head)
    return tuple(frozenset(_names(selector)) for selector in plain.split(","))


def _names(selector: str) -> Iterator[str]:
    for name in _NAMES.findall(selector):
        yield name if name[0] in ".#" else name.lower()
