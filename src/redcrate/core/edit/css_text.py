"""Places inside CSS source text: where a declaration's value and a rule's block begin and end.

A scanner of its own over the author's characters (CSS Syntax 3 §4.3), since an edit must know the
very range that it replaces and nothing may be written anew that it does not concern.
"""

import re

from redcrate.core.markup.elements import Span
from redcrate.core.records import dataclass

_TOKEN = re.compile(
    r"""/\*.*?(?:\*/|\Z)|"(?:\\.|[^"\\\n])*"?|'(?:\\.|[^'\\\n])*'?|\\.|[(){}\[\];:]""",
    re.DOTALL,
)
_PAIRS = {")": "(", "]": "[", "}": "{"}
_IMPORTANT = re.compile(r"\s*!\s*important\s*\Z", re.IGNORECASE)
_SPACE_OR_COMMENT = re.compile(r"(?:\s|/\*.*?(?:\*/|\Z))*", re.DOTALL)
_REST_OF_LINE = re.compile(r"[ \t]*(?:\r?\n)")
_TRAILING = re.compile(r"(?:\s|/\*(?:[^*]|\*(?!/))*\*/)*\Z")


@dataclass(frozen=True, slots=True)
class DeclarationPlace:
    """A declaration in the text.

    whole: from its name to the end of its value, `!important` included. value: the value alone.
    semicolon: whether one follows.
    """

    whole: Span
    value: Span
    important: bool
    semicolon: bool


def declaration_place(text: str, start: int, end: int | None = None) -> DeclarationPlace:
    """The declaration that begins at `start`; the text ends at `end`."""
    limit = len(text) if end is None else end
    colon = text.index(":", start, limit)
    value_start = min(_skip_space(text, colon + 1), limit)
    stop = end_of_value(text, value_start, limit)
    raw = text[value_start:stop]
    trailing = _TRAILING.search(raw)
    raw = raw[: trailing.start()] if trailing else raw
    whole_end = value_start + len(raw)
    match = _IMPORTANT.search(raw)
    value_end = value_start + (match.start() if match else len(raw))
    return DeclarationPlace(
        Span(start, whole_end),
        Span(value_start, value_end),
        match is not None,
        text[stop : stop + 1] == ";",
    )


def _skip_space(text: str, at: int) -> int:
    match = _SPACE_OR_COMMENT.match(text, at)
    return match.end() if match else at


def end_of_value(text: str, start: int, limit: int) -> int:
    """Where a value that begins at `start` ends: at `;`, at an unmatched `}`, or at `limit`."""
    open_brackets: list[str] = []
    for match in _TOKEN.finditer(text, start, limit):
        token = match.group()
        if token in ("(", "[", "{"):
            open_brackets.append(token)
        elif token in _PAIRS:
            if not open_brackets:
                if token == "}":
                    return match.start()
            elif open_brackets[-1] == _PAIRS[token]:
                open_brackets.pop()
        elif token == ";" and not open_brackets:
            return match.start()
    return limit


def block_place(text: str, rule_start: int) -> Span | None:
    """The inside of the block of the rule whose prelude begins at `rule_start`.

    A block that is never closed ends with the text. None if there is no block.
    """
    opened: int | None = None
    depth = 0
    for match in _TOKEN.finditer(text, rule_start):
        token = match.group()
        if token == "{":
            depth += 1
            if opened is None:
                opened = match.end()
        elif token == "}" and depth:
            depth -= 1
            if depth == 0 and opened is not None:
                return Span(opened, match.start())
    return None if opened is None else Span(opened, len(text))


def insertion(text: str, block: Span, declaration: str) -> tuple[int, str]:
    """Where a declaration goes at the end of a block, and the text to insert there.

    It follows the block's own manner: one line or many, its indentation, a semicolon or none. Rules
    inside stay behind it (CSS Nesting 1 §3.2).
    """
    block = _before_rules(text, block)
    inside = text[block.start : block.end]
    trailing = _trailing_white(inside)
    body = inside[: len(inside) - trailing]
    at = block.start + len(body)
    last = _last_significant(body)
    separator = "" if last in (";", "") else ";"
    if not body.strip():
        spaced = trailing or text[block.end : block.end + 1].isspace()
        return block.start, f" {declaration};{'' if spaced else ' '}"
    if "\n" in inside:
        indent = _indentation(inside) or "  "
        newline = "\r\n" if "\r\n" in inside else "\n"
        return at, f"{separator}{newline}{indent}{declaration};"
    tight = bool(re.search(r";\S", body)) or not inside.startswith((" ", "\t"))
    space = "" if tight else " "
    if tight:
        declaration = re.sub(r":\s+", ":", declaration, count=1)
    closing = ";" if last == ";" else ""
    return at, f"{separator}{space}{declaration}{closing}"


def _before_rules(text: str, block: Span) -> Span:
    """The part of a block in front of the first rule that stands in it."""
    start, depth = block.start, 0
    for match in _TOKEN.finditer(text, block.start, block.end):
        token = match.group()
        if token == "{" and not depth:
            prelude = text[_skip_space(text, start) : match.start()]
            if not prelude.startswith("--"):  # else the value of a custom property
                return Span(block.start, start)
        if token in ("(", "[", "{"):
            depth += 1
        elif token in _PAIRS:
            depth -= 1
        elif token == ";" and not depth:
            start = match.end()
    return block


def declaration_removal(text: str, start: int) -> tuple[int, int]:
    """What is taken out with the declaration at `start`: its semicolon, and its line if it has one."""
    place = declaration_place(text, start)
    end = end_of_value(text, place.value.start, len(text))
    if text[end : end + 1] == ";":
        end += 1
    else:
        end = place.whole.end
    line = text.rfind("\n", 0, start) + 1
    rest_of_line = _REST_OF_LINE.match(text, end)
    if rest_of_line and not text[line:start].strip():
        return line, rest_of_line.end()
    while end < len(text) and text[end] in " \t":
        end += 1
    return start, end


def _trailing_white(text: str) -> int:
    return len(text) - len(text.rstrip())


def _last_significant(text: str) -> str:
    """The last character that is no white space or comment."""
    match = _TRAILING.search(text)
    body = text[: match.start()] if match else text
    return body[-1:]


def _indentation(inside: str) -> str:
    """The indentation of the block's last indented line that holds something."""
    found = ""
    for line in inside.splitlines():
        if line.strip():
            found = line[: len(line) - len(line.lstrip())] or found
    return found
