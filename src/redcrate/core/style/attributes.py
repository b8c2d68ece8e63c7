"""attr(): values that stand in attributes of the element, CSS Values 5 §7.7.

An attribute is handed down to the substitution as a custom property that no author can name, so that
elements with unlike attributes have unlike styles.
"""

from collections.abc import Callable, Iterable, Sequence
from typing import Any

from tinycss2.ast import IdentToken, StringToken

from redcrate.core.markup.elements import Element
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.calc import parse_length, significant
from redcrate.core.style.css_syntax import component_values, functions_in

_ABSENT = (IdentToken(0, 0, "initial"),)  # as a custom property: there is none


def holder(attribute: str) -> str:
    """The name under which the value of an attribute is handed down."""
    return f"--attr({attribute.lower()})"


def held_values(element: Element, names: Iterable[str]) -> tuple[tuple[str, str | None], ...]:
    """What an element has in these attributes; None where it has none."""
    return tuple((name, element.attributes.get(name)) for name in sorted(names))


def held_tokens(value: str | None) -> tuple[Any, ...]:
    """An attribute's value as the tokens of the property that hands it down."""
    return _ABSENT if value is None else (StringToken(0, 0, value, f'"{value}"'),)


def names_in(tokens: Sequence[Any]) -> set[str]:
    """The attributes that attr() functions in a value refer to."""
    found: set[str] = set()
    for function in functions_in(tokens):
        words = significant(function.arguments)
        if function.lower_name == "attr" and words and words[0].type == "ident":
            found.add(words[0].lower_value)
    return found


def value_of(value: str, kind: list[Any]) -> list[Any] | None:
    """The tokens that an attribute's value comes to as the kind that attr() asks for; None if it is none.

    kind: nothing or `raw-string` (a string), type(<syntax>), a unit, or a percent sign.
    """
    if not kind or (kind[0].type == "ident" and kind[0].lower_value == "raw-string"):
        return [StringToken(0, 0, value, f'"{value}"')]
    if len(kind) != 1:
        return None
    if kind[0].type == "function" and kind[0].lower_name == "type":
        syntax = "".join(t.serialize() for t in significant(kind[0].arguments)).lower()
        tokens = significant(component_values(value))
        fits = _SYNTAXES.get(syntax)
        return tokens if fits is not None and tokens and fits(tokens) else None
    unit = kind[0].value if kind[0].type in ("ident", "literal") else ""
    number = significant(component_values(value))
    if len(number) != 1 or number[0].type != "number" or not unit:
        return None
    found: list[Any] = component_values(f"{number[0].representation}{unit}")
    return found


def _one(test: Callable[[Any], bool]) -> Callable[[list[Any]], bool]:
    return lambda tokens: len(tokens) == 1 and test(tokens[0])


_SYNTAXES: dict[str, Callable[[list[Any]], bool]] = {
    "*": lambda tokens: True,
    "<length>": _one(lambda t: parse_length(t, percent=False) is not None),
    "<length-percentage>": _one(lambda t: parse_length(t) is not None),
    "<percentage>": _one(lambda t: bool(t.type == "percentage")),
    "<number>": _one(lambda t: bool(t.type == "number")),
    "<integer>": _one(lambda t: bool(t.type == "number" and t.is_integer)),
    "<color>": lambda tokens: pp.colour(tokens) is not None,
    "<custom-ident>": _one(lambda t: bool(t.type == "ident")),
    "<string>": _one(lambda t: bool(t.type == "string")),
}
