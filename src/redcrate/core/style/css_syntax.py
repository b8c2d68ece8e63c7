"""The one door to `tinycss2`: text → tokens and syntax nodes (CSS Syntax 3).

Every node keeps its line and column, so texts are handed over without a change in length.
"""

import re
from collections.abc import Iterable, Iterator
from typing import Any

import tinycss2

# A whole number of thousands of digits is more than Python turns into an int; as a decimal fraction
# of the same length it is the same value to 200 digits, which is far beyond any limit here.
_LONG_INTEGER = re.compile(r"(?<![.\d])\d{301,}(?![.\deE])")


def _readable(text: str) -> str:
    return _LONG_INTEGER.sub(lambda m: f"{'9' * 200}.{'0' * (len(m.group()) - 201)}", text)


def component_values(text: str) -> list[Any]:
    """§5.4.10: a list of component values."""
    tokens: list[Any] = tinycss2.parse_component_value_list(_readable(text))
    return tokens


def stylesheet_nodes(text: str) -> list[Any]:
    """§5.4.3: the rules of a stylesheet, without comments and white space."""
    nodes: list[Any] = tinycss2.parse_stylesheet(
        _readable(text), skip_comments=True, skip_whitespace=True
    )
    return nodes


def rule_nodes(content: list[Any]) -> list[Any]:
    """§5.4.4: the rules inside a block that was read before."""
    nodes: list[Any] = tinycss2.parse_rule_list(content, skip_comments=True, skip_whitespace=True)
    return nodes


def block_contents(content: "str | list[Any]") -> list[Any]:
    """§5.4.5: declarations and rules of a block, from its text or from what was read before."""
    given = _readable(content) if isinstance(content, str) else content
    nodes: list[Any] = tinycss2.parse_blocks_contents(given, skip_comments=True, skip_whitespace=True)
    return nodes


def css_text(nodes: list[Any]) -> str:
    """The text of nodes as it may be shown; never to be written into a file."""
    text: str = tinycss2.serialize(nodes)
    return text


def functions_in(tokens: Iterable[Any]) -> Iterator[Any]:
    """All functions in a value, at any depth of functions and brackets; in no order."""
    stack = list(tokens)
    while stack:
        token = stack.pop()
        if token.type == "function":
            yield token
            stack.extend(token.arguments)
        elif token.type in ("() block", "[] block", "{} block"):
            stack.extend(token.content)
