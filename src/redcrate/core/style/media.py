"""Media queries: CSS Media Queries 4, with the range syntax (§2.4.3).

A query list is kept as a parsed value and evaluated for a viewport. Media lengths in em count with
the initial font size of 16 px (§1.3).
"""

from typing import Any, TypeAlias

from redcrate.core.records import dataclass
from redcrate.core.style.calc import parse_length, significant
from redcrate.core.style.values import Dimension, FontUnits, LengthContext, compute_length

DEFAULT_HEIGHT = 800  # px of a window, where nothing else is asked for
DEFAULT_WIDTHS = (1100, 820, 390)  # px: the first one is shown


@dataclass(frozen=True, slots=True)
class Viewport:
    """The window's inside, px; scroll bars take no room."""

    width: float
    height: float


@dataclass(frozen=True, slots=True)
class Feature:
    """One feature test: name, comparison ("=", "<", "<=", ">", ">=" or "" for bare) and value."""

    name: str
    comparison: str
    value: float | str | None


@dataclass(frozen=True, slots=True)
class Both:
    """`and` (all) or `or` (any) of conditions."""

    every: bool
    parts: "tuple[Condition, ...]"


@dataclass(frozen=True, slots=True)
class Negated:
    """`not` a condition."""

    part: "Condition"


@dataclass(frozen=True, slots=True)
class Unknown:
    """What no standard knows; false, and stays so when negated (§3.1)."""


Condition: TypeAlias = Feature | Both | Negated | Unknown


@dataclass(frozen=True, slots=True)
class MediaQuery:
    """One query: media type, whether it is negated, and its condition."""

    media_type: str = "all"
    negated: bool = False
    condition: Condition | None = None


@dataclass(frozen=True, slots=True)
class MediaList:
    """Queries between commas, and how they were written."""

    queries: tuple[MediaQuery, ...]
    text: str

    def matches(self, viewport: Viewport) -> bool:
        """Whether the rules inside apply at `viewport`; an empty list always does (§3)."""
        return not self.queries or any(_query_matches(q, viewport) for q in self.queries)


def _query_matches(query: MediaQuery, viewport: Viewport) -> bool:
    verdict: bool | None = query.media_type in ("all", "screen")
    if verdict and query.condition is not None:
        verdict = _holds(query.condition, viewport)
        if verdict is None:
            return False
    return verdict != query.negated


def _holds(condition: Condition, viewport: Viewport) -> bool | None:
    """Three-valued truth: None is unknown (§3.1)."""
    if isinstance(condition, Unknown):
        return None
    if isinstance(condition, Negated):
        inner = _holds(condition.part, viewport)
        return None if inner is None else not inner
    if isinstance(condition, Both):
        verdicts = [_holds(p, viewport) for p in condition.parts]
        decisive = not condition.every
        if decisive in verdicts:
            return decisive
        return None if None in verdicts else not decisive
    return _feature_holds(condition, viewport)


def _feature_holds(feature: Feature, viewport: Viewport) -> bool | None:
    wide = viewport.width > viewport.height
    texts = {
        "orientation": "landscape" if wide else "portrait",
        "prefers-color-scheme": "light",
        "prefers-reduced-motion": "no-preference",
        "hover": "hover",
        "any-hover": "hover",
        "pointer": "fine",
        "any-pointer": "fine",
        "scripting": "none",
        "update": "fast",
        "prefers-contrast": "no-preference",
    }
    if feature.name in texts:
        actual = texts[feature.name]
        if feature.comparison == "":
            return actual not in ("none", "no-preference")
        return feature.value == actual
    ratio = viewport.width / viewport.height if viewport.height else float("inf")
    numbers = {
        "width": viewport.width,
        "height": viewport.height,
        "device-width": viewport.width,
        "device-height": viewport.height,
        "aspect-ratio": ratio,
        "color": 8.0,
        "monochrome": 0.0,
        "grid": 0.0,
        "resolution": 1.0,
    }
    if feature.name not in numbers:
        return None
    number = numbers[feature.name]
    if feature.comparison == "":
        return number != 0
    if not isinstance(feature.value, (int, float)):
        return None
    return _compare(number, feature.comparison, float(feature.value))


def _compare(left: float, comparison: str, right: float) -> bool:
    if comparison == "<":
        return left < right
    if comparison == "<=":
        return left <= right
    if comparison == ">":
        return left > right
    if comparison == ">=":
        return left >= right
    return left == right


_MIRRORED = {"<": ">", "<=": ">=", ">": "<", ">=": "<=", "=": "="}
_INITIAL_FONT = FontUnits(16, 8, 8, 12, 16, 18)
_MEDIA_LENGTHS = LengthContext(_INITIAL_FONT, _INITIAL_FONT, 0, 0)


def parse_media_list(tokens: list[Any], text: str) -> MediaList:
    """The query list of an @media prelude; what is malformed becomes `not all` (§3.2)."""
    parts: list[list[Any]] = [[]]
    for token in significant(tokens):
        if token.type == "literal" and token.value == ",":
            parts.append([])
        else:
            parts[-1].append(token)
    if parts == [[]]:
        return MediaList((), text)
    return MediaList(tuple(_parse_query(p) for p in parts), text)


_NEVER = MediaQuery(negated=True)


def _parse_query(tokens: list[Any]) -> MediaQuery:
    if not tokens:
        return _NEVER
    rest = list(tokens)
    negated = False
    if rest[0].type == "ident":
        word = rest[0].lower_value
        typed = len(rest) > 1 and rest[1].type == "ident"
        if word in ("not", "only") and typed:
            negated = word == "not"
            rest.pop(0)
            word = rest[0].lower_value
        if word != "not":
            rest.pop(0)
            if not rest:
                return MediaQuery(word, negated)
            if rest[0].type != "ident" or rest[0].lower_value != "and":
                return _NEVER
            condition = _parse_condition(rest[1:])
            return MediaQuery(word, negated, condition) if condition else _NEVER
    condition = _parse_condition(rest)
    return MediaQuery("all", False, condition) if condition else _NEVER


def _parse_condition(tokens: list[Any], depth: int = 0) -> Condition | None:
    """§3: conditions joined by one kind of `and` or `or`, or one `not`."""
    if not tokens or depth > 32:
        return None
    if tokens[0].type == "ident" and tokens[0].lower_value == "not":
        inner = _parse_condition(tokens[1:2], depth + 1)
        return Negated(inner) if inner is not None and len(tokens) == 2 else None
    if len(tokens) % 2 == 0:
        return None
    joints = {t.lower_value if t.type == "ident" else "?" for t in tokens[1::2]}
    parts = [_parse_in_parens(t, depth) for t in tokens[0::2]]
    if None in parts or not joints <= {"and", "or"} or len(joints) > 1:
        return None
    found = tuple(p for p in parts if p is not None)
    return found[0] if len(found) == 1 else Both("or" not in joints, found)


def _parse_in_parens(token: Any, depth: int) -> Condition | None:
    if token.type == "function":
        return Unknown()
    if token.type != "() block":
        return None
    inner = significant(token.content)
    nested = inner and (
        inner[0].type == "() block" or (inner[0].type == "ident" and inner[0].lower_value == "not")
    )
    if nested:
        return _parse_condition(inner, depth + 1) or Unknown()
    return _parse_feature(inner) or Unknown()


def _parse_feature(tokens: list[Any]) -> Condition | None:
    words: list[Any] = []
    i = 0
    while i < len(tokens):
        token = tokens[i]
        if token.type == "literal" and token.value in ("<", ">", "<=", ">=", "="):
            sign = token.value
            follows = tokens[i + 1] if i + 1 < len(tokens) else None
            if follows is not None and follows.type == "literal" and follows.value == "=":
                sign, i = sign + "=", i + 1
            words.append(sign)
        else:
            words.append(token)
        i += 1
    if len(words) == 1 and not isinstance(words[0], str) and words[0].type == "ident":
        return Feature(words[0].lower_value, "", None)
    if len(words) >= 3 and getattr(words[1], "value", None) == ":":
        return _plain_feature(words)
    return _range_feature(words)


def _plain_feature(words: list[Any]) -> Condition | None:
    name = words[0].lower_value if words[0].type == "ident" else ""
    value = _feature_value(words[2:])
    if value is None:
        return None
    for prefix, comparison in (("min-", ">="), ("max-", "<=")):
        if name.startswith(prefix):
            return Feature(name[4:], comparison, value)
    return Feature(name, "=", value)


def _range_feature(words: list[Any]) -> Condition | None:
    signs = [w for w in words if isinstance(w, str)]
    if not signs:
        return None
    sides: list[list[Any]] = [[]]
    for word in words:
        if isinstance(word, str):
            sides.append([])
        else:
            sides[-1].append(word)
    name_at = next((i for i, s in enumerate(sides) if len(s) == 1 and s[0].type == "ident"), None)
    if name_at is None:
        return None
    name = sides[name_at][0].lower_value
    tests: list[Condition] = []
    for i, sign in enumerate(signs):
        if i + 1 == name_at:
            value, comparison = _feature_value(sides[i]), _MIRRORED.get(sign, "=")
        elif i == name_at:
            value, comparison = _feature_value(sides[i + 1]), sign
        else:
            return None
        if value is None:
            return None
        tests.append(Feature(name, comparison, value))
    return tests[0] if len(tests) == 1 else Both(True, tuple(tests))


def _feature_value(tokens: list[Any]) -> float | str | None:
    if len(tokens) == 3 and tokens[1].type == "literal" and tokens[1].value == "/":
        top, bottom = tokens[0], tokens[2]
        if top.type == bottom.type == "number" and bottom.value:
            return float(top.value / bottom.value)
        return None
    if len(tokens) != 1:
        return None
    token = tokens[0]
    if token.type == "ident":
        return str(token.lower_value)
    if token.type == "number":
        return float(token.value)
    if token.type == "dimension" and token.lower_unit in ("dppx", "x"):
        return float(token.value)
    found = parse_length(token, percent=False)
    if found is None or isinstance(found, str):
        return None
    if isinstance(found, Dimension) and found.unit.startswith("v"):
        return None
    return compute_length(found, _MEDIA_LENGTHS).resolve_px(0)
