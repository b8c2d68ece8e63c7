"""The value definition syntax of the standards (CSS Values 4 §2): does a value match a property's grammar?

Only asked about values that the core itself does not take, to tell what CSS does not allow from what
CSS allows and the core does not compute. In doubt a value counts as allowed: a designer must never read
that valid CSS is wrong.
"""

import re
from collections.abc import Callable, Iterator, Sequence
from functools import cache
from typing import Any, TypeAlias

from redcrate.core.records import dataclass
from redcrate.core.style.calc import MATH_FUNCTIONS
from redcrate.core.style.colours import parsed_colour
from redcrate.core.style.css_syntax import CSS_WIDE, functions_in
from redcrate.core.style.values import LENGTH_UNITS

_LEXEME = re.compile(
    r"""\s*( <'?[^<>]*(?:\[[^\]]*\])?'?> | [-\w@∞]+\( | [-\w@]+ | \|\| | && | \#\? | \+\# | \{[\d,]*\} | '[^']*'
    | [\[\]|?*+\#!,/()=:<>;] )""",
    re.VERBOSE,
)
_MOST_STEPS = 20_000
_LEAST_OF_RANGE = re.compile(r"\[\s*0\s*,")


@dataclass(frozen=True, slots=True)
class Leaf:
    """One word of a grammar: a keyword, a sign, `<type>`, `<'property'>` or `name(`."""

    text: str


@dataclass(frozen=True, slots=True)
class Combined:
    """Parts joined by " " (all, in order), "&&" (all), "||" (one or more) or "|" (one)."""

    how: str
    parts: "tuple[Node, ...]"


@dataclass(frozen=True, slots=True)
class Repeated:
    """A part `least` to `most` times, with commas between where `commas` says so."""

    part: "Node"
    least: int
    most: int
    commas: bool = False


Node: TypeAlias = Leaf | Combined | Repeated
_NOTHING = Combined(" ", ())


@cache
def parse_grammar(text: str) -> Node:
    """The tree of a grammar; juxtaposition binds closer than &&, that than ||, that than |."""
    lexemes = [m.group(1).strip() for m in _LEXEME.finditer(text)]
    node, _ = _alternatives(lexemes, 0)
    return node


def _alternatives(lexemes: list[str], at: int, level: int = 0) -> tuple[Node, int]:
    """One level of combinators: "|", "||", "&&", then parts side by side."""
    operators = ("|", "||", "&&")
    if level == len(operators):
        return _juxtaposed(lexemes, at)
    parts: list[Node] = []
    while True:
        part, at = _alternatives(lexemes, at, level + 1)
        parts.append(part)
        if at >= len(lexemes) or lexemes[at] != operators[level]:
            break
        at += 1
    return (parts[0] if len(parts) == 1 else Combined(operators[level], tuple(parts))), at


def _juxtaposed(lexemes: list[str], at: int) -> tuple[Node, int]:
    parts: list[Node] = []
    while at < len(lexemes) and lexemes[at] not in ("|", "||", "&&", "]", ")"):
        part, at = _one(lexemes, at)
        parts.append(part)
    return (parts[0] if len(parts) == 1 else Combined(" ", tuple(parts))), at


def _one(lexemes: list[str], at: int) -> tuple[Node, int]:
    """One part with its multipliers; a function's arguments are read over."""
    node: Node
    if lexemes[at] == "[":
        node, at = _alternatives(lexemes, at + 1)
    elif lexemes[at].endswith("("):
        node = Leaf(lexemes[at])
        depth, at = 1, at + 1
        while at < len(lexemes) and depth:
            depth += {"(": 1, ")": -1}.get(lexemes[at][-1], 0)
            at += 1
        at -= 1
    else:
        node = Leaf(lexemes[at].strip("'") if len(lexemes[at]) > 1 else lexemes[at])
    at += 1
    while at < len(lexemes) and (multiplier := _MULTIPLIERS.get(lexemes[at][0])):
        if lexemes[at] == "!":
            at += 1
            continue
        node = multiplier(node, lexemes[at])
        at += 1
    return node, at


def _counted(node: Node, text: str) -> Node:
    """{2}, {1,4} and {1,}; behind a # it is the count of that list."""
    low, comma, high = text[1:-1].partition(",")
    least = int(low or 0)
    most = (int(high) if high else _MANY) if comma else least
    if isinstance(node, Repeated) and node.commas and node.most == _MANY:
        return Repeated(node.part, least, most, commas=True)
    return Repeated(node, least, most)


_MANY = 99
_MULTIPLIERS: dict[str, Callable[[Node, str], Node]] = {
    "?": lambda node, _: Repeated(node, 0, 1),
    "*": lambda node, _: Repeated(node, 0, _MANY),
    "+": lambda node, text: Repeated(
        Repeated(node, 1, _MANY), 1, _MANY if "#" in text else 1, "#" in text
    ),
    "#": lambda node, text: Repeated(node, 0 if "?" in text else 1, _MANY, commas=True),
    "{": _counted,
    "!": lambda node, _: node,
}


class TooManySteps(Exception):
    """The match was given up; internal."""


_KIND = re.compile(r"<'?([a-z-]+)")
_NOT_WORDS = re.compile(r"<[^>]*>|\{[^}]*\}|[a-z-]+\(")
_WORD = re.compile(r"[a-z][a-z-]+")


class Grammars:
    """Matches values against the grammars of `properties` and `types`."""

    def __init__(self, properties: dict[str, str], types: dict[str, str]) -> None:
        self._properties = properties
        self._types = types
        self._steps = 0

    def allows(self, name: str, tokens: Sequence[Any]) -> bool:
        """Whether the standards allow these component values (without white space) for a property.

        The CSS-wide keywords are allowed for every one: CSS Cascade 5 §7.3.
        """
        grammar = self._properties.get(name)
        if not grammar or _hold_substitution(tokens) or _is_css_wide(tokens):
            return True
        self._steps = 0
        try:
            return any(end == len(tokens) for end in self._match(parse_grammar(grammar), tokens, 0))
        except (TooManySteps, RecursionError):
            return True

    def keywords(self, name: str) -> frozenset[str]:
        """The words that a property may take somewhere in its value, those of its types too."""
        found: set[str] = set()
        texts, seen = [self._properties.get(name) or ""], set()
        while texts:
            text = texts.pop()
            found.update(_WORD.findall(_NOT_WORDS.sub(" ", text)))
            for kind in _KIND.findall(text):
                if kind not in seen:
                    seen.add(kind)
                    texts.append(self._types.get(kind) or "")
        return frozenset(found)

    def _match(self, node: Node, tokens: Sequence[Any], at: int) -> Iterator[int]:
        """All places up to which `node` may match the tokens from `at` on."""
        self._steps += 1
        if self._steps > _MOST_STEPS:
            raise TooManySteps
        if isinstance(node, Leaf):
            yield from self._leaf(node.text, tokens, at)
        elif isinstance(node, Repeated):
            yield from self._repeated(node, tokens, at, 0)
        elif node.how == "|":
            for part in node.parts:
                yield from self._match(part, tokens, at)
        elif node.how == " ":
            yield from self._in_order(node.parts, tokens, at)
        else:
            yield from self._any_order(node.parts, tokens, at, every=node.how == "&&")

    def _in_order(self, parts: tuple[Node, ...], tokens: Sequence[Any], at: int) -> Iterator[int]:
        if not parts:
            yield at
            return
        for end in self._match(parts[0], tokens, at):
            yield from self._in_order(parts[1:], tokens, end)

    def _any_order(
        self,
        parts: tuple[Node, ...],
        tokens: Sequence[Any],
        at: int,
        *,
        every: bool,
        begun: bool = False,
    ) -> Iterator[int]:
        if not parts or (begun and not every):
            yield at
        for i, part in enumerate(parts):
            rest = parts[:i] + parts[i + 1 :]
            for end in self._match(part, tokens, at):
                if end > at or every:
                    yield from self._any_order(rest, tokens, end, every=every, begun=True)

    def _repeated(self, node: Repeated, tokens: Sequence[Any], at: int, done: int) -> Iterator[int]:
        if done >= node.least:
            yield at
        if done >= node.most:
            return
        start = at
        if done and node.commas:
            if at >= len(tokens) or not _is_sign(tokens[at], ","):
                return
            start = at + 1
        for end in self._match(node.part, tokens, start):
            if end > at:
                yield from self._repeated(node, tokens, end, done + 1)

    def _leaf(self, text: str, tokens: Sequence[Any], at: int) -> Iterator[int]:  # noqa: C901 a case for each kind of leaf
        if text.startswith("<'"):
            yield from self._reference(self._properties.get(text[2:-2].split(" ")[0]), tokens, at)
        elif text.startswith("<") and len(text) > 1:
            name = text[1:-1].split(" ")[0]
            test = _BASIC.get(name)
            if test is not None:
                if at < len(tokens) and test(tokens[at], bool(_LEAST_OF_RANGE.search(text))):
                    yield at + 1
            elif name.endswith("()"):
                yield from self._leaf(name[:-1], tokens, at)
            elif name in ("any-value", "declaration-value", "declaration-list"):
                yield len(tokens)
            elif not (at < len(tokens) and _below(text, tokens[at])):
                yield from self._reference(self._types.get(name), tokens, at)
        elif text == ",":  # §2.1: a comma stands only between things that are there
            if at < len(tokens) and _is_sign(tokens[at], ","):
                yield at + 1
            elif at in (0, len(tokens)):
                yield at
        elif at < len(tokens) and _is_word(tokens[at], text):
            yield at + 1

    def _reference(self, grammar: str | None, tokens: Sequence[Any], at: int) -> Iterator[int]:
        if grammar:
            yield from self._match(parse_grammar(grammar), tokens, at)
        elif at < len(tokens):  # a type whose grammar is prose
            yield at + 1


_SUBSTITUTING = frozenset(("var", "env", "attr", "if", "inherit", "random-item"))


def _is_css_wide(tokens: Sequence[Any]) -> bool:
    return len(tokens) == 1 and tokens[0].type == "ident" and tokens[0].lower_value in CSS_WIDE


def _hold_substitution(tokens: Sequence[Any]) -> bool:
    """var() and its like anywhere make any value possible."""
    return any(f.lower_name in _SUBSTITUTING for f in functions_in(tokens))


def _below(text: str, token: Any) -> bool:
    """Whether a token is a number below the range that a reference names: §2.3, `<length [0,∞]>`."""
    numeric = token.type in ("number", "percentage", "dimension")
    return bool(numeric and token.value < 0 and _LEAST_OF_RANGE.search(text))


def _is_sign(token: Any, sign: str) -> bool:
    return bool(token.type == "literal" and token.value == sign)


def _is_word(token: Any, text: str) -> bool:
    if token.type == "ident":
        return bool(token.lower_value == text.lower())
    if token.type == "function":
        return text.lower() == f"{token.lower_name}("
    return _is_sign(token, text)


def _calculates(token: Any) -> bool:
    return bool(token.type == "function" and token.lower_name in _CALCULATING)


_CALCULATING = MATH_FUNCTIONS | frozenset(
    """round mod rem abs sign sin cos tan asin acos atan atan2 pow sqrt hypot log exp anchor
    anchor-size calc-size progress sibling-index sibling-count calc-mix random""".split()
)


def _number(token: Any, not_negative: bool) -> bool:
    return _calculates(token) or (token.type == "number" and not (not_negative and token.value < 0))


def _integer(token: Any, not_negative: bool) -> bool:
    whole = token.type == "number" and token.is_integer and not (not_negative and token.value < 0)
    return _calculates(token) or whole


def _percentage(token: Any, not_negative: bool) -> bool:
    return _calculates(token) or (token.type == "percentage" and not (not_negative and token.value < 0))


def _dimension(*units: str) -> Callable[[Any, bool], bool]:
    def test(token: Any, not_negative: bool) -> bool:
        if token.type == "number" and token.value == 0 and "px" in units:
            return True
        fits = token.type == "dimension" and token.lower_unit in units
        return _calculates(token) or (fits and not (not_negative and token.value < 0))

    return test


def _colour(token: Any, _: bool) -> bool:
    if token.type == "function":
        return token.lower_name in _COLOURING
    if token.type == "ident" and token.lower_value in _SYSTEM_COLOURS:
        return True
    return parsed_colour(token) is not None


_COLOURING = frozenset(
    """rgb rgba hsl hsla hwb lab lch oklab oklch color color-mix contrast-color device-cmyk light-dark
    color-layers alpha""".split()
)
_SYSTEM_COLOURS = frozenset(
    """accentcolor accentcolortext activetext buttonborder buttonface buttontext canvas canvastext
    field fieldtext graytext highlight highlighttext linktext mark marktext selecteditem
    selecteditemtext visitedtext currentcolor transparent activeborder activecaption appworkspace
    background buttonhighlight buttonshadow captiontext inactiveborder inactivecaption
    inactivecaptiontext infobackground infotext menu menutext scrollbar threeddarkshadow threedface
    threedhighlight threedlightshadow threedshadow window windowframe windowtext""".split()
)


def _ident(token: Any, _: bool) -> bool:
    return bool(token.type == "ident")


def _url(token: Any, _: bool) -> bool:
    return token.type == "url" or (token.type == "function" and token.lower_name in ("url", "src"))


def _line_names(token: Any, _: bool) -> bool:
    """CSS Grid 1 §7.2.2: names in brackets, which are one block here."""
    words = token.content if token.type == "[] block" else None
    return words is not None and all(w.type in ("ident", "whitespace", "comment") for w in words)


# The types that no grammar spells out: CSS Values 4 §4 to §9, CSS Color 4 §4, CSS Grid 1 §7.
_BASIC: dict[str, Callable[[Any, bool], bool]] = {
    "length": _dimension(*LENGTH_UNITS),
    "percentage": _percentage,
    "number": _number,
    "integer": _integer,
    "angle": lambda t, n: _dimension("deg", "grad", "rad", "turn")(t, n) or _is_zero(t),
    "time": _dimension("s", "ms"),
    "frequency": _dimension("hz", "khz"),
    "resolution": _dimension("dpi", "dpcm", "dppx", "x"),
    "flex": _dimension("fr"),
    "decibel": _dimension("db"),
    "semitones": _dimension("st"),
    "zero": lambda t, _: _is_zero(t),
    "color": _colour,
    "string": lambda t, _: bool(t.type == "string"),
    "url": _url,
    "ident": _ident,
    "custom-ident": _ident,
    "dashed-ident": _ident,
    "id": lambda t, _: bool(t.type == "hash"),
    "hash-token": lambda t, _: bool(t.type == "hash"),
    "system-color": _colour,
    "line-names": _line_names,
}


def _is_zero(token: Any) -> bool:
    return bool(token.type == "number" and token.value == 0)
