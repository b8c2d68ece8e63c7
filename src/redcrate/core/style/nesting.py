"""Selectors that stand in other rules, written out: CSS Nesting 1 §2 and §3, CSS Cascade 6 §2.5.

Works on tokens: `&` becomes `:is(…)` of the selectors around, `:scope` the root of an @scope rule.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import Any, TypeAlias

from tinycss2.ast import FunctionBlock, LiteralToken, WhitespaceToken

from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.property_parsers import split_commas
from redcrate.core.style.selectors import SelectorNotUnderstood

Tokens: TypeAlias = list[Any]
_MOST_TOKENS = 4000  # a rule that doubles its selectors at each level grows without end
_COMBINATORS = (">", "+", "~")


def nested_prelude(prelude: Sequence[Any], around: Sequence[Any], root: Sequence[Any]) -> Tokens:
    """The selectors of a rule inside a style rule whose selectors are `around`; root: of an @scope round it.

    One that does not say where the outer element stands is about what is inside it. Raises
    SelectorNotUnderstood where they grow too long.
    """
    outer = _matches_any("is", around)
    scope = _counted(_matches_any("where", root)) if root else []
    return _joined([_placed(part, outer, scope) for part in split_commas(list(prelude))])


def scoped_prelude(prelude: Sequence[Any], root: Sequence[Any]) -> Tokens:
    """The selectors of a rule in an @scope rule with these selectors of its root.

    `:scope` counts as a class, `&` and what is implied count nothing.
    """
    plain = _matches_any("where", root)
    return _joined([_placed(part, plain, _counted(plain)) for part in split_commas(list(prelude))])


def _counted(plain: Tokens) -> Tokens:
    """The same as specific as a class: any element is some child."""
    return [*plain, *component_values(":nth-child(n)")]


def _placed(part: Tokens, outer: Tokens, scope: Tokens) -> Tokens:
    """One selector with `&` as `outer` and `:scope` as `scope`; inside `outer` if it has neither.

    scope: empty where there is none, so that `:scope` keeps its own meaning.
    """
    words = significant(part)
    relative = bool(words) and words[0].type == "literal" and words[0].value in _COMBINATORS
    written, found = _written_out(part, outer, scope)
    return written if found and not relative else [*outer, WhitespaceToken(0, 0, " "), *written]


def _written_out(tokens: Sequence[Any], outer: Tokens, scope: Tokens) -> tuple[Tokens, bool]:
    """`tokens` with the signs written out, inside functions too, and whether there were any."""
    out: Tokens = []
    found = False
    for token in tokens:
        after_colon = bool(out) and out[-1].type == "literal" and out[-1].value == ":"
        if token.type == "literal" and token.value == "&":
            out += outer
            found = True
        elif scope and after_colon and token.type == "ident" and token.lower_value == "scope":
            out[-1:] = scope
            found = True
        elif token.type == "function":
            inner, inside = _written_out(token.arguments, outer, scope)
            out.append(FunctionBlock(token.source_line, token.source_column, token.name, inner))
            found = found or inside
        else:
            out.append(token)
    return out, found


def _matches_any(name: str, selectors: Sequence[Any]) -> Tokens:
    return [LiteralToken(0, 0, ":"), FunctionBlock(0, 0, name, _without_edges(selectors))]


def _without_edges(tokens: Sequence[Any]) -> Tokens:
    """The selectors without what no element is: those of pseudo-elements (CSS Nesting 1 §3.1)."""
    kept = [p for p in split_commas(list(tokens)) if not _names_pseudo_element(p)]
    return _joined(kept)


def _names_pseudo_element(part: Tokens) -> bool:
    signs = [t.type == "literal" and t.value == ":" for t in part]
    return any(a and b for a, b in pairwise(signs))


def _joined(parts: Sequence[Tokens]) -> Tokens:
    out: Tokens = []
    for part in parts:
        out += [LiteralToken(0, 0, ","), *part] if out else part
    if _size(out) > _MOST_TOKENS:
        raise SelectorNotUnderstood("the rules around it make it too long")
    return out


def _size(tokens: Sequence[Any]) -> int:
    return sum(1 + (_size(t.arguments) if t.type == "function" else 0) for t in tokens)
