"""Custom properties, var() and attr(): CSS Variables 1 §2–3, CSS Values 5 §7.7."""

from collections.abc import Mapping
from typing import Any, TypeAlias

from tinycss2.ast import FunctionBlock, ParenthesesBlock

from redcrate.core.style.attributes import holder, value_of
from redcrate.core.style.calc import significant

Customs: TypeAlias = Mapping[str, tuple[Any, ...]]
_LONGEST_SUBSTITUTION = 10_000
_DEEPEST = 64


class NoSubstitution(ValueError):
    """A var() that refers to nothing, or a cycle: the declaration is invalid at computed time."""


def computed_customs(declared: Customs, inherited: Customs) -> Customs:
    """The custom properties of an element: declared ones substituted, the rest inherited.

    Those that take part in a cycle are left out (§2.3).
    """
    if not declared:
        return inherited
    out = dict(inherited)
    resolver = _Resolver(declared, inherited)
    for name, tokens in declared.items():
        words = significant(list(tokens))
        if len(words) == 1 and words[0].type == "ident":
            if words[0].lower_value in ("inherit", "unset", "revert"):
                continue
            if words[0].lower_value == "initial":
                out.pop(name, None)
                continue
        try:
            out[name] = tuple(resolver.value(name))
        except NoSubstitution:
            out.pop(name, None)
    return out


def substitute(tokens: tuple[Any, ...], customs: Customs) -> list[Any]:
    """`tokens` with each var() replaced.

    Raises NoSubstitution if one has neither a value nor a fallback.
    """
    return _Resolver({}, customs).tokens(list(tokens), 0)


class _Resolver:
    """Substitutes with a guard against cycles and against growth without end."""

    def __init__(self, declared: Customs, inherited: Customs) -> None:
        self._declared = declared
        self._inherited = inherited
        self._open: set[str] = set()
        self._done: dict[str, list[Any]] = {}
        self._made = 0

    def value(self, name: str) -> list[Any]:
        """The substituted tokens of a custom property."""
        if name in self._done:
            return self._done[name]
        if name not in self._declared:
            if name in self._inherited:
                return list(self._inherited[name])
            raise NoSubstitution
        if name in self._open or len(self._open) > _DEEPEST:
            raise NoSubstitution
        self._open.add(name)
        try:
            self._done[name] = self.tokens(list(self._declared[name]), 0)
        finally:
            self._open.discard(name)
        return self._done[name]

    def tokens(self, tokens: list[Any], depth: int) -> list[Any]:
        """`tokens` substituted, functions and parentheses inside too."""
        if depth > _DEEPEST:
            raise NoSubstitution
        out: list[Any] = []
        for token in tokens:
            if token.type == "function" and token.lower_name == "var":
                out.extend(self._var(token, depth))
            elif token.type == "function" and token.lower_name == "attr":
                out.extend(self._attr(token, depth))
            elif token.type == "function":
                inner = self.tokens(token.arguments, depth + 1)
                out.append(FunctionBlock(token.source_line, token.source_column, token.name, inner))
            elif token.type == "() block":
                inner = self.tokens(token.content, depth + 1)
                out.append(ParenthesesBlock(token.source_line, token.source_column, inner))
            else:
                out.append(token)
        self._made += len(out)
        if self._made > _LONGEST_SUBSTITUTION:
            raise NoSubstitution
        return out

    def _attr(self, token: Any, depth: int) -> list[Any]:
        """CSS Values 5 §7.7: the attribute's value, the fallback, or an empty string where none is typed."""
        arguments = token.arguments
        comma = next(
            (i for i, t in enumerate(arguments) if t.type == "literal" and t.value == ","), None
        )
        words = significant(arguments[:comma] if comma is not None else arguments)
        if not words or words[0].type != "ident":
            raise NoSubstitution
        held = self._inherited.get(holder(words[0].value)) or ()
        found = value_of(held[0].value, words[1:]) if held else None
        if found is not None:
            return found
        if comma is not None:
            return self.tokens(arguments[comma + 1 :], depth + 1)
        empty = value_of("", words[1:])
        if empty is None:
            raise NoSubstitution
        return empty

    def _var(self, token: Any, depth: int) -> list[Any]:
        arguments = token.arguments
        comma = next(
            (i for i, t in enumerate(arguments) if t.type == "literal" and t.value == ","), None
        )
        names = significant(arguments[:comma] if comma is not None else arguments)
        if len(names) != 1 or names[0].type != "ident" or not names[0].value.startswith("--"):
            raise NoSubstitution
        try:
            return self.value(names[0].value)
        except NoSubstitution:
            if comma is None or names[0].value in self._open:
                raise
            return self.tokens(arguments[comma + 1 :], depth + 1)
