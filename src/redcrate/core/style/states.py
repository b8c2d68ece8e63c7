"""Selectors without the states and parts of elements that they ask for: what could match at some time.

`a.more:hover::after` speaks of every `a.more`, whether the pointer is over one or not.
"""

from functools import lru_cache
from typing import Any

from redcrate.core.style.css_syntax import component_values, css_text
from redcrate.core.style.selectors import Selector, SelectorNotUnderstood, compile_selectors

# Selectors 4 §8 to §12, and the HTML Standard §4.16.3: what changes while a page is used.
_STATES = frozenset(
    """active any-link autofill blank buffering checked current default defined disabled enabled focus focus-visible
    focus-within fullscreen future hover in-range indeterminate invalid link local-link modal muted open optional
    out-of-range past paused picture-in-picture placeholder-shown playing popover-open read-only read-write required
    seeking stalled target target-within user-invalid user-valid valid visited volume-locked""".split()
)
# Selectors 4 §3.6: with one colon too
_OLD_PARTS = frozenset(("before", "after", "first-line", "first-letter"))
_OF_SELECTORS = frozenset(("is", "where", "has", "matches", "any"))
_NEW_COMPOUND = frozenset((">", "+", "~", ",", "|"))


@lru_cache(maxsize=20_000)
def in_some_state(text: str) -> tuple[Selector, ...]:
    """The selectors of a rule without states; none where they cannot be read."""
    try:
        return tuple(compile_selectors(component_values(without_states(component_values(text)))))
    except SelectorNotUnderstood:
        return ()


def without_states(tokens: list[Any]) -> str:
    """The text of selectors without states and pseudo-elements; a compound of nothing else is `*`."""
    parts: list[str] = []
    begins = True  # whether a compound begins here
    at = 0
    while at < len(tokens):
        if not _is(tokens[at], ":"):
            parts.append(css_text([tokens[at]]))
            begins = not parts[-1].strip() or parts[-1] in _NEW_COMPOUND
            at += 1
            continue
        double = at + 1 < len(tokens) and _is(tokens[at + 1], ":")
        named = at + 1 + double
        if named >= len(tokens):
            break
        kept = "" if double else _kept(tokens[named])
        parts.append(kept or ("*" if begins else ""))
        begins = False
        at = named + 1
    return "".join(parts)


def _kept(token: Any) -> str:
    """What stays of a pseudo-class; "" if it is a state."""
    if token.type == "ident":
        plain = token.lower_value in _STATES or token.lower_value in _OLD_PARTS
        return "" if plain or token.lower_value.startswith("-") else f":{token.value}"
    if token.type != "function":
        return ""
    inside = css_text(token.arguments)
    stripped = without_states(token.arguments)
    if token.lower_name in _OF_SELECTORS:
        return f":{token.name}({stripped})"
    if token.lower_name == "not" and stripped != inside:
        return ""  # who is not in a state now may be so at any time
    return f":{token.name}({inside})"


def _is(token: Any, sign: str) -> bool:
    return bool(token.type == "literal" and token.value == sign)
