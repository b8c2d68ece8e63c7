"""Parsers of generated content and first letters: CSS Content 3 §2 and §3.1, CSS Lists 3 §4."""

from typing import Any

from redcrate.core.style import property_parsers as pp
from redcrate.core.style.calc import significant
from redcrate.core.style.property_parsers import Parser, Tokens

_QUOTES = ("open-quote", "close-quote", "no-open-quote", "no-close-quote")


def content(tokens: Tokens) -> Any:
    """A keyword, or a tuple of parts; what follows a slash is spoken only.

    ("string", text), ("url", address), ("quote", keyword), ("attr", name[, text where it is missing]),
    ("counter", name, style[, text between, for all of that name]).
    """
    found = pp.keyword("normal", "none")(tokens)
    if found is not None:
        return found
    slash = next((i for i, t in enumerate(tokens) if t.type == "literal" and t.value == "/"), None)
    parts = [_part(token) for token in tokens[:slash]]
    return None if None in parts else tuple(parts) or None


def _part(token: Any) -> tuple[str, ...] | None:
    if token.type == "string":
        return ("string", token.value)
    if token.type == "url":
        return ("url", token.value)
    if token.type == "ident" and token.lower_value in _QUOTES:
        return ("quote", token.lower_value)
    if token.type != "function":
        return None
    inner = significant(token.arguments)
    if token.lower_name == "url" and len(inner) == 1 and inner[0].type == "string":
        return ("url", inner[0].value)
    if token.lower_name == "attr":
        return _attribute(pp.split_commas(inner))
    if token.lower_name in ("counter", "counters"):
        return _counter(pp.split_commas(inner), all_of_them=token.lower_name == "counters")
    return None


def _attribute(arguments: list[Tokens]) -> tuple[str, ...] | None:
    """CSS Values 5 §7.7, as far as it gives a text."""
    if len(arguments) > 2 or len(arguments[0]) != 1 or arguments[0][0].type != "ident":
        return None
    fallback = arguments[1] if len(arguments) == 2 else []
    texts = [t.value for t in fallback if t.type == "string"]
    return ("attr", arguments[0][0].lower_value, *texts[:1])


def _counter(arguments: list[Tokens], *, all_of_them: bool) -> tuple[str, ...] | None:
    """CSS Lists 3 §4.5: name, the text between (of counters()), style."""
    wanted = ["ident", "string"] if all_of_them else ["ident"]
    if not len(wanted) <= len(arguments) <= len(wanted) + 1 or any(len(a) != 1 for a in arguments):
        return None
    words = [a[0] for a in arguments]
    if [w.type for w in words[: len(wanted)]] != wanted:
        return None
    style = "decimal"
    if len(words) > len(wanted):
        if words[-1].type != "ident":
            return None
        style = words[-1].lower_value
    return ("counter", words[0].value, style, *([words[1].value] if all_of_them else []))


def initial_letter(tokens: Tokens) -> Any:
    """CSS Inline 3 §7.3: (how many lines tall, how many lines it sinks)."""
    if pp.keyword("normal")(tokens):
        return "normal"
    size = pp.number(tokens[:1]) if tokens and tokens[0].type == "number" else None
    if size is None or size < 1 or len(tokens) > 2:
        return None
    if len(tokens) == 1 or pp.keyword("drop")(tokens[1:]):
        return (size, int(size))
    sink = 1 if pp.keyword("raise")(tokens[1:]) else pp.integer(tokens[1:])
    return None if sink is None or sink < 1 else (size, sink)


def quotes(tokens: Tokens) -> Any:
    """`auto`, `none`, or pairs of an opening and a closing mark."""
    found = pp.keyword("auto", "none")(tokens)
    if found is not None:
        return found
    if not tokens or len(tokens) % 2 or any(t.type != "string" for t in tokens):
        return None
    return tuple((a.value, b.value) for a, b in zip(tokens[::2], tokens[1::2], strict=True))


def counters(default: int) -> Parser:
    """A parser of `none` or of names, each with a whole number or `default`; a tuple of pairs."""

    def parse(tokens: Tokens) -> Any:
        if pp.keyword("none")(tokens):
            return ()
        found: list[tuple[str, int]] = []
        may_have_number = False
        for token in tokens:
            number = pp.integer([token])
            if token.type == "ident" and token.lower_value not in ("none", "initial", "inherit"):
                found.append((token.value, default))
                may_have_number = True
            elif number is not None and may_have_number:
                found[-1] = (found[-1][0], number)
                may_have_number = False
            else:
                return None
        return tuple(found) or None

    return parse
