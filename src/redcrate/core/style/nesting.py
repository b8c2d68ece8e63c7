"""Selectors that stand in other rules, written out: CSS Nesting 1 §2 and §3, CSS Cascade 6 §2.5.

Works on tokens: `&` becomes `:is(…)` of the selectors around, `:scope` the root of an @scope rule.
"""

from collections.abc import Sequence
from typing import Any, TypeAlias

from tinycss2.ast import FunctionBlock, LiteralToken, WhitespaceToken

from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.property_parsers import split_commas
from redcrate.core.style.selectors import SelectorNotUnderstood

Tokens: TypeAlias = list[Any]
_MOST_TOKENS = 4000  # a rule that doubles its selectors at each level grows without end
_COMBINATORS = (">", "+", "~")


def nested_prelude(prelude: Sequence[Any], around: Sequence[Any]) -> Tokens:
    """The selectors of a rule inside a style rule whose selectors are `around`.

    One that does not say where the outer element stands is about what is inside it. Raises
    SelectorNotUnderstood where they grow too long.
    """
    return _written_out(prelude, "&", _matches_any("is", around))


def scoped_prelude(prelude: Sequence[Any], root: Sequence[Any]) -> Tokens:
    """The selectors of a rule in an @scope rule with these selectors of its root.

    `:scope` counts as a class, what is implied counts nothing.
    """
    plain = _matches_any("where", root)
    counted = [*plain, *component_values(":nth-child(n)")]
    tokens = _replaced(list(prelude), "&", plain)
    return _joined([_scoped(part, plain, counted) for part in split_commas(tokens)])


def _scoped(part: Tokens, plain: Tokens, counted: Tokens) -> Tokens:
    spelled, found = _with_scope(part, counted)
    words = significant(spelled)
    relative = bool(words) and words[0].type == "literal" and words[0].value in _COMBINATORS
    return spelled if found and not relative else [*plain, _space(), *spelled]


def _with_scope(tokens: Tokens, counted: Tokens) -> tuple[Tokens, bool]:
    """`tokens` with `:scope` spelled out, and whether it (or the root that `&` stood for) was there."""
    out: Tokens = []
    found = False
    for token in tokens:
        after_colon = bool(out) and out[-1].type == "literal" and out[-1].value == ":"
        if after_colon and token.type == "ident" and token.lower_value == "scope":
            out[-1:] = counted
            found = True
        elif token.type == "function":
            inner, inside = _with_scope(token.arguments, counted)
            out.append(FunctionBlock(token.source_line, token.source_column, token.name, inner))
            found = found or inside or inner == counted[1].arguments
        else:
            out.append(token)
    return out, found


def _written_out(prelude: Sequence[Any], sign: str, replacement: Tokens) -> Tokens:
    parts: list[Tokens] = []
    for part in split_commas(list(prelude)):
        words = significant(part)
        relative = bool(words) and words[0].type == "literal" and words[0].value in _COMBINATORS
        if relative or not _holds(part, sign):
            part = [*replacement, _space(), *part]
        parts.append(_replaced(part, sign, replacement))
    return _joined(parts)


def _matches_any(name: str, selectors: Sequence[Any]) -> Tokens:
    return [LiteralToken(0, 0, ":"), FunctionBlock(0, 0, name, _without_edges(selectors))]


def _without_edges(tokens: Sequence[Any]) -> Tokens:
    """The selectors without what no element is: those of pseudo-elements (CSS Nesting 1 §3.1)."""
    kept = [p for p in split_commas(list(tokens)) if not _names_pseudo_element(p)]
    return _joined(kept)


def _names_pseudo_element(part: Tokens) -> bool:
    signs = [t.type == "literal" and t.value == ":" for t in part]
    return any(a and b for a, b in zip(signs, signs[1:], strict=False))


def _joined(parts: Sequence[Tokens]) -> Tokens:
    out: Tokens = []
    for part in parts:
        out += [LiteralToken(0, 0, ","), *part] if out else part
    if _size(out) > _MOST_TOKENS:
        raise SelectorNotUnderstood("the rules around it make it too long")
    return out


def _size(tokens: Sequence[Any]) -> int:
    return sum(1 + (_size(t.arguments) if t.type == "function" else 0) for t in tokens)


def _holds(tokens: Sequence[Any], sign: str) -> bool:
    return any(
        (t.type == "literal" and t.value == sign) or (t.type == "function" and _holds(t.arguments, sign))
        for t in tokens
    )


def _replaced(tokens: Sequence[Any], sign: str, replacement: Tokens) -> Tokens:
    """`tokens` with `sign` replaced, inside functions too; in front of a name it comes behind it."""
    out: Tokens = []
    for token in tokens:
        if token.type == "literal" and token.value == sign:
            out += replacement
        elif token.type == "function":
            inner = _replaced(token.arguments, sign, replacement)
            out.append(FunctionBlock(token.source_line, token.source_column, token.name, inner))
        else:
            out.append(token)
    return out


def _space() -> Any:
    return WhitespaceToken(0, 0, " ")
