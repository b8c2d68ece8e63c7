"""One declaration: from its component values to the longhands that it sets."""

from threading import Lock
from typing import Any

from redcrate.core.records import dataclass
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import CSS_WIDE, DEEPEST, functions_in, is_beyond
from redcrate.core.style.properties import LOGICAL, PROPERTIES
from redcrate.core.style.shorthands import SHORTHANDS, longhands_of, parse_longhand
from redcrate.core.style.standards import old_name_of


@dataclass(frozen=True, slots=True)
class CssWide:
    """One of the keywords that every property takes: CSS Cascade 4 §7.3."""

    keyword: str


@dataclass(frozen=True, slots=True, eq=False)
class Pending:
    """A value with var(): parsed after substitution (CSS Variables 1 §3). `name` may be a shorthand."""

    name: str
    tokens: tuple[Any, ...]


# CSS Cascade 4 §3.2: `all` takes only the CSS-wide keywords.
_ALL = tuple(n for n in PROPERTIES if n != "direction")


def parse_declaration(name: str, value: list[Any]) -> dict[str, Any] | None:
    """The longhands that `name: value` sets, or None if it is no valid declaration."""
    if name.startswith("--"):
        return {name: tuple(value)}
    names = _ALL if name == "all" else longhands_of(name)
    if not names:
        alias = old_name_of(name)
        return parse_declaration(alias, value) if alias != name else None
    tokens = significant(value)
    if not tokens:
        return None
    substituted = ("var",) if name == "content" else ("var", "attr")  # attr() there is read by itself
    if any(f.lower_name in substituted for f in functions_in(tokens)):
        pending = Pending(name, tuple(value))
        return dict.fromkeys(names, pending)
    if len(tokens) == 1 and tokens[0].type == "ident" and tokens[0].lower_value in CSS_WIDE:
        return dict.fromkeys(names, CssWide(tokens[0].lower_value))
    if name == "all":
        return None
    if name in PROPERTIES or name in LOGICAL:
        found = parse_longhand(name, tokens)
        return None if found is None else {name: found}
    return SHORTHANDS[name].expand(tokens)


_LONGEST_KEPT = 2000  # characters of a value
_MOST_TOKENS = 20_000  # of a value; one with more is invalid


class ParsedDeclarations:
    """The longhands of declarations by their text: one object for each, for all sheets of the program.

    The oldest go when there are too many. Threads may share it.
    """

    def __init__(self, kept: int) -> None:
        self._kept = kept
        self._lock = Lock()
        self._found: dict[tuple[str, str], dict[str, Any] | None] = {}

    def of(self, name: str, text: str, value: list[Any]) -> dict[str, Any] | None:
        """What `name: value` sets; None if it is no valid declaration. text: of `value`."""
        if len(text) > _LONGEST_KEPT:
            return None if is_beyond(value, _MOST_TOKENS, DEEPEST) else parse_declaration(name, value)
        key = (name, text)
        with self._lock:
            if key in self._found:
                return self._found[key]
        found = parse_declaration(name, value)
        with self._lock:
            if len(self._found) >= self._kept:
                del self._found[next(iter(self._found))]
            return self._found.setdefault(key, found)


PARSED = ParsedDeclarations(20_000)
