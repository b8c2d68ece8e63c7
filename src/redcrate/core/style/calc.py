"""Parsing of lengths and math functions: CSS Values 4 §6 and §10."""

import math
from typing import Any

from redcrate.core.style.values import LENGTH_UNITS, CalcNode, Dimension, apply_math

MATH_FUNCTIONS = frozenset(("calc", "min", "max", "clamp", "-webkit-calc", "-moz-calc"))
_DEEPEST = 64
_MOST_FACTORS = 200  # with the signs between them: each nests in the one before
_CONSTANTS = {"pi": math.pi, "e": math.e, "infinity": math.inf, "-infinity": -math.inf}


class NotACalculation(ValueError):
    """The tokens make no valid calculation; internal to parsing."""


def significant(tokens: list[Any]) -> list[Any]:
    """The tokens without white space and comments.

    A string or url that the end of its file ends is a whole one: CSS Syntax 3 §4.3.5, §4.3.6.
    """
    kept = [t for t in tokens if t.type not in ("whitespace", "comment")]
    if kept and kept[-1].type == "error" and kept[-1].kind in ("eof-in-string", "eof-in-url"):
        kept.pop()
    return kept


def parse_length(
    token: Any, *, percent: bool = True, number: bool = False, negative: bool = True
) -> Dimension | CalcNode | None:
    """The length that one component value stands for, or None if it is none.

    percent: percentages are lengths too. number: so are plain numbers (`line-height: 1.5`).
    negative: values below 0 are allowed; a math function below 0 is clamped in use.
    """
    if token.type == "dimension":
        unit = token.lower_unit
        if unit in LENGTH_UNITS and (negative or token.value >= 0):
            return Dimension(float(token.value), unit)
    elif token.type == "percentage":
        if percent and (negative or token.value >= 0):
            return Dimension(float(token.value), "%")
    elif token.type == "number":
        if (token.value == 0 or number) and (negative or token.value >= 0):
            return Dimension(float(token.value), "" if number else "px")
    elif token.type == "function" and token.lower_name in MATH_FUNCTIONS:
        return _parse_math_length(token, percent, number)
    return None


def _parse_math_length(token: Any, percent: bool, number: bool) -> CalcNode | Dimension | None:
    try:
        node, kind = _parse_function(token, 0)
    except (NotACalculation, RecursionError):
        return None
    if kind == "number" and not number:
        return None
    if not percent and _holds_percent(node):
        return None
    return node


def _holds_percent(node: Any) -> bool:
    if isinstance(node, Dimension):
        return node.unit == "%"
    return isinstance(node, CalcNode) and any(_holds_percent(a) for a in node.args)


def _parse_function(token: Any, depth: int) -> tuple[CalcNode | Dimension, str]:
    """A math function as a node, and whether it is a "length" or a "number"."""
    if depth > _DEEPEST:
        raise NotACalculation
    if token.type == "() block":
        return _parse_sum(significant(token.content), depth + 1, token.content)
    name = token.lower_name
    if name not in MATH_FUNCTIONS:
        raise NotACalculation
    parts: list[list[Any]] = [[]]
    for inner in token.arguments:
        if inner.type == "literal" and inner.value == ",":
            parts.append([])
        else:
            parts[-1].append(inner)
    parsed = [_parse_sum(significant(p), depth + 1, p) for p in parts]
    if name.endswith("calc"):
        if len(parsed) != 1:
            raise NotACalculation
        return parsed[0]
    if name == "clamp" and len(parsed) != 3:
        raise NotACalculation
    kinds = {kind for _, kind in parsed}
    if len(kinds) != 1:
        raise NotACalculation
    return CalcNode(name, tuple(node for node, _ in parsed)), kinds.pop()


def _parse_sum(tokens: list[Any], depth: int, raw: list[Any]) -> tuple[CalcNode | Dimension, str]:
    """§10.1: <calc-sum>; `+` and `-` must have white space on both sides."""
    terms: list[list[Any]] = [[]]
    signs = [1.0]
    spaced = {id(t) for t, before, after in _neighbours(raw) if before and after}
    for token in tokens:
        if token.type == "literal" and token.value in "+-" and terms[-1]:
            if id(token) not in spaced:
                raise NotACalculation
            signs.append(1.0 if token.value == "+" else -1.0)
            terms.append([])
        else:
            terms[-1].append(token)
    parsed = [_parse_product(t, depth) for t in terms]
    kinds = {kind for _, kind in parsed}
    if len(kinds) != 1:
        raise NotACalculation
    if len(parsed) == 1:
        return parsed[0]
    nodes = tuple(
        n if sign > 0 else CalcNode("*", (n, Dimension(-1.0, "")))
        for (n, _), sign in zip(parsed, signs, strict=True)
    )
    return CalcNode("+", nodes), kinds.pop()


def _neighbours(raw: list[Any]) -> list[tuple[Any, bool, bool]]:
    def is_space(i: int) -> bool:
        return 0 <= i < len(raw) and raw[i].type in ("whitespace", "comment")

    return [(t, is_space(i - 1), is_space(i + 1)) for i, t in enumerate(raw)]


def _parse_product(tokens: list[Any], depth: int) -> tuple[CalcNode | Dimension, str]:
    if not tokens or len(tokens) % 2 == 0 or len(tokens) > _MOST_FACTORS:
        raise NotACalculation
    node, kind = _parse_value(tokens[0], depth)
    for operator, operand in zip(tokens[1::2], tokens[2::2], strict=True):
        if operator.type != "literal" or operator.value not in "*/":
            raise NotACalculation
        other, other_kind = _parse_value(operand, depth)
        if operator.value == "/":
            divisor = _number_of(other)
            if other_kind != "number":
                raise NotACalculation
            factor = math.copysign(math.inf, divisor) if divisor == 0 else 1 / divisor
            node = CalcNode("*", (node, Dimension(factor, "")))
        elif other_kind == "number":
            node = CalcNode("*", (node, Dimension(_number_of(other), "")))
        elif kind == "number":
            node, kind = CalcNode("*", (other, Dimension(_number_of(node), ""))), other_kind
        else:
            raise NotACalculation
    return node, kind


def _number_of(node: CalcNode | Dimension) -> float:
    if isinstance(node, Dimension):
        return node.value
    return apply_math(node.op, [_number_of(a) for a in node.args if not isinstance(a, str)])


def _parse_value(token: Any, depth: int) -> tuple[CalcNode | Dimension, str]:
    if token.type == "number":
        return Dimension(float(token.value), ""), "number"
    if token.type == "ident" and token.lower_value in _CONSTANTS:
        return Dimension(_CONSTANTS[token.lower_value], ""), "number"
    if token.type == "percentage":
        return Dimension(float(token.value), "%"), "length"
    if token.type == "dimension" and token.lower_unit in LENGTH_UNITS:
        return Dimension(float(token.value), token.lower_unit), "length"
    if token.type in ("function", "() block"):
        return _parse_function(token, depth)
    raise NotACalculation
