"""What each stretch of HTML or CSS text is, for colouring: a plain scanner, no Qt."""

import re
from collections.abc import Iterator
from enum import IntEnum


class Kind(IntEnum):
    """What a stretch of text is; the value is the number of its style in the editor."""

    TEXT = 0
    TAG = 1
    ATTRIBUTE = 2
    STRING = 3
    COMMENT = 4
    SELECTOR = 5
    PROPERTY = 6
    VALUE = 7
    AT_RULE = 8
    PUNCTUATION = 9


Stretch = tuple[int, int, Kind]

_MARKUP = re.compile(
    r"(?P<comment><!--.*?(?:-->|\Z))|(?P<doctype><![^>]*>?)"
    r"|(?P<style><style\b[^>]*>)(?P<css>.*?)(?=</style|\Z)|(?P<tag></?[A-Za-z][^\s/>]*)(?P<rest>[^>]*>?)",
    re.DOTALL | re.IGNORECASE,
)
_REST = re.compile(r"""(?P<string>"[^"]*"?|'[^']*'?)|(?P<name>[^\s=/>"']+)|(?P<mark>[=/>])""")
_CSS = re.compile(
    r"""(?P<comment>/\*.*?(?:\*/|\Z))|(?P<string>"(?:\\.|[^"\\\n])*"?|'(?:\\.|[^'\\\n])*'?)"""
    r"""|(?P<at>@[\w-]+)|(?P<mark>[{};:,()])|(?P<word>[^\s{};:,()"'/]+|/)""",
    re.DOTALL,
)


def html_stretches(text: str) -> Iterator[Stretch]:
    """The coloured stretches of HTML; what lies between them is plain text."""
    for match in _MARKUP.finditer(text):
        if match["comment"] is not None or match["doctype"] is not None:
            yield match.start(), match.end(), Kind.COMMENT
        elif match["style"] is not None:
            yield match.start("style"), match.end("style"), Kind.TAG
            yield from css_stretches(text, match.start("css"), match.end("css"))
        else:
            yield match.start("tag"), match.end("tag"), Kind.TAG
            value = False
            for part in _REST.finditer(text, match.start("rest"), match.end("rest")):
                if part["mark"] is not None:
                    value = part["mark"] == "="
                    kind = Kind.PUNCTUATION if value else Kind.TAG
                elif part["string"] is not None or value:
                    kind, value = Kind.STRING, False
                else:
                    kind = Kind.ATTRIBUTE
                yield part.start(), part.end(), kind


def css_stretches(text: str, start: int = 0, end: int | None = None) -> Iterator[Stretch]:  # noqa: C901 a case for each kind of token
    """The coloured stretches of CSS between two offsets."""
    depth_is_rule: list[bool] = []  # for each open brace, whether declarations stand in it
    in_value = at_rule = False
    for match in _CSS.finditer(text, start, len(text) if end is None else end):
        mark = match["mark"]
        kind = Kind.PUNCTUATION
        if match["comment"] is not None:
            kind = Kind.COMMENT
        elif match["string"] is not None:
            kind = Kind.STRING
        elif match["at"] is not None:
            kind, at_rule = Kind.AT_RULE, True
        elif mark == "{":
            depth_is_rule.append(not at_rule)
            in_value = at_rule = False
        elif mark == "}":
            if depth_is_rule:
                depth_is_rule.pop()
            in_value = at_rule = False
        elif mark == ";":
            in_value = at_rule = False
        elif mark == ":" and depth_is_rule[-1:] == [True]:
            in_value = True
        elif match["word"] is not None:
            inside = depth_is_rule[-1:] == [True]
            kind = Kind.VALUE if in_value or at_rule else Kind.PROPERTY if inside else Kind.SELECTOR
        yield match.start(), match.end(), kind
