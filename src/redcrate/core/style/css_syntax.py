"""The one module that knows `tinycss2`: text → tokens and syntax nodes (CSS Syntax 3).

Every node keeps its line and column, so texts are handed over without a change in length.
"""

import re
from collections.abc import Iterable, Iterator
from typing import Any

import tinycss2
from tinycss2.ast import FunctionBlock, ParenthesesBlock, ParseError, StringToken

# A whole number of thousands of digits is more than Python turns into an int; as a decimal fraction
# of the same length it is the same value to 200 digits, which is far beyond any limit here.
_SCHEME = re.compile(r"[a-zA-Z][a-zA-Z0-9+.-]*:")
_LONG_INTEGER = re.compile(r"(?<![.\d])\d{301,}(?![.\deE])")

CSS_WIDE = ("inherit", "initial", "unset", "revert", "revert-layer")  # CSS Cascade 5 §7.3


DEEPEST = 64  # blocks, functions and parentheses in one another
_CLOSES = {")": "(", "]": "[", "}": "{"}
_NO_BRACKETS = re.compile(r"[^()\[\]{}]+")
_CLOSING = re.compile(r"[)\]}]")
# What holds no blocks: comments, strings, what is escaped.
_APART = re.compile(r"/\*.*?(?:\*/|\Z)|\"(?:\\.|[^\"\\\n])*\"|'(?:\\.|[^'\\\n])*'|\\.", re.DOTALL)


def is_deep(text: str) -> bool:
    """Whether blocks, functions and parentheses may stand in one another deeper than is read.

    Brackets are counted as they stand first: strings and comments can hide no more depth than they have closing ones.
    """
    if text.count("(") + text.count("{") + text.count("[") <= DEEPEST:
        return False
    hidden = sum(len(_CLOSING.findall(part)) for part in _APART.findall(text))
    return _depth(text) + hidden > DEEPEST and _depth(_APART.sub(" ", text)) > DEEPEST


def _depth(text: str) -> int:
    """How deep brackets stand in one another; one that closes what is not open closes nothing (CSS Syntax 3 §5.4.8)."""
    deepest, stack = 0, []
    for bracket in _NO_BRACKETS.sub("", text):
        opened = _CLOSES.get(bracket)
        if opened is None:
            stack.append(bracket)
            deepest = max(deepest, len(stack))
        elif stack and stack[-1] == opened:
            stack.pop()
    return deepest


def _without_deep(nodes: list[Any]) -> list[Any]:
    """The nodes, in which what stands deeper than is read is an error: Python would nest as deep with it."""
    stack = [(nodes, 0)]
    while stack:
        level, depth = stack.pop()
        for node in level:
            inside = [
                p
                for n in ("prelude", "content", "arguments", "value")
                if type(p := getattr(node, n, None)) is list
            ]
            for part in inside:
                if depth < DEEPEST:
                    stack.append((part, depth + 1))
                elif part:
                    fault = ParseError(
                        node.source_line, node.source_column, ")", "blocks nested too deeply"
                    )
                    part[:] = [fault]
    return nodes


def _readable(text: str) -> str:
    return _LONG_INTEGER.sub(lambda m: f"{'9' * 200}.{'0' * (len(m.group()) - 201)}", text)


def component_values(text: str) -> list[Any]:
    """§5.4.10: a list of component values."""
    tokens: list[Any] = tinycss2.parse_component_value_list(_readable(text))
    return _without_deep(tokens) if is_deep(text) else tokens


def stylesheet_nodes(text: str, deep: bool | None = None) -> list[Any]:
    """§5.4.3: the rules of a stylesheet, without comments and white space. deep: whether it `is_deep`, if known."""
    nodes: list[Any] = tinycss2.parse_stylesheet(
        _readable(text), skip_comments=True, skip_whitespace=True
    )
    return _without_deep(nodes) if (is_deep(text) if deep is None else deep) else nodes


def rule_nodes(content: "str | list[Any]") -> list[Any]:
    """§5.4.4: the rules inside a block, from its text (which is not deep) or from what was read before."""
    given = _readable(content) if isinstance(content, str) else content
    nodes: list[Any] = tinycss2.parse_rule_list(given, skip_comments=True, skip_whitespace=True)
    return nodes


def block_contents(content: "str | list[Any]") -> list[Any]:
    """§5.4.5: declarations and rules of a block, from its text or from what was read before."""
    given = _readable(content) if isinstance(content, str) else content
    nodes: list[Any] = tinycss2.parse_blocks_contents(given, skip_comments=True, skip_whitespace=True)
    return _without_deep(nodes) if isinstance(content, str) and is_deep(content) else nodes


def is_beyond(tokens: Iterable[Any], most: int, deepest: int) -> bool:
    """Whether there are more than `most` tokens, blocks gone into, or more than `deepest` levels of them."""
    left = most
    stack = [(iter(tokens), 0)]
    while stack:
        level, depth = stack[-1]
        token = next(level, None)
        if token is None:
            stack.pop()
            continue
        left -= 1
        inside = getattr(token, "content", None) or getattr(token, "arguments", None)
        if left < 0 or (inside and depth >= deepest):
            return True
        if inside:
            stack.append((iter(inside), depth + 1))
    return False


def css_text(nodes: list[Any]) -> str:
    """The text of nodes as it may be shown; never to be written into a file."""
    text: str = tinycss2.serialize(nodes)
    return text


def with_base(tokens: Iterable[Any], base: str) -> list[Any]:
    """Component values with the addresses in them counted from another folder (CSS Values 4 §4.5).

    base: the way from there to the folder that they count from now; "" changes nothing.
    """
    if not base:
        return list(tokens)
    out: list[Any] = []
    for token in tokens:
        line, column = token.source_line, token.source_column
        if token.type == "url" and _is_relative(token.value):
            out += component_values(f"url({_quoted(f'{base}/{token.value}')})")
        elif token.type == "function":
            inner = with_base(token.arguments, base)
            if token.lower_name == "url":
                strings = (t.type == "string" and _is_relative(t.value) for t in token.arguments)
                pairs = zip(token.arguments, strings, strict=True)
                inner = [
                    StringToken(line, column, f"{base}/{t.value}", _quoted(f"{base}/{t.value}"))
                    if s
                    else t
                    for t, s in pairs
                ]
            out.append(FunctionBlock(line, column, token.name, inner))
        elif token.type == "() block":
            out.append(ParenthesesBlock(line, column, with_base(token.content, base)))
        else:
            out.append(token)
    return out


def _is_relative(address: str) -> bool:
    start = address.lstrip()[:1]
    return bool(start) and start not in "/#" and not _SCHEME.match(address.lstrip())


def _quoted(text: str) -> str:
    escaped = text.replace("\\", "\\\\").replace('"', '\\"').replace("\n", "\\a ")
    return f'"{escaped}"'


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
