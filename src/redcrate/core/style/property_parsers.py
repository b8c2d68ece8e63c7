"""Parsers of single longhand values: component values → a specified value, or None if invalid.

A specified value is a keyword (str), a Dimension or CalcNode, a colour, or a plain tuple of these.
"""

from collections.abc import Callable
from typing import Any, TypeAlias

from redcrate.core.records import dataclass
from redcrate.core.style.calc import parse_length
from redcrate.core.style.colours import parsed_colour
from redcrate.core.style.css_syntax import css_text
from redcrate.core.style.font_sizes import SIZES
from redcrate.core.style.standards import standards
from redcrate.core.style.values import CalcNode, Dimension

Tokens: TypeAlias = list[Any]  # component values without white space and comments
Parser: TypeAlias = Callable[[Tokens], Any]

# CSS 2.2 §8.3: which of 1, 2, 3 or 4 values belongs to each of four places, clockwise.
ONE_TO_FOUR = ((0, 0, 0, 0), (0, 1, 0, 1), (0, 1, 2, 1), (0, 1, 2, 3))


@dataclass(frozen=True, slots=True)
class Url:
    """An address as written in url()."""

    address: str


def keyword(*allowed: str) -> Parser:
    """A parser of one keyword out of `allowed`."""
    names = frozenset(allowed)

    def parse(tokens: Tokens) -> Any:
        if len(tokens) == 1 and tokens[0].type == "ident" and tokens[0].lower_value in names:
            return tokens[0].lower_value
        return None

    return parse


# CSS Display 3 §2: the words of an outer and inner type, sorted, and the short keyword for them.
_DISPLAY_PAIRS: dict[tuple[str, ...], str] = {
    ("block", "flow"): "block",
    ("flow", "inline"): "inline",
    ("flow",): "block",
    ("block", "flow-root"): "flow-root",
    ("flow-root", "inline"): "inline-block",
    ("block", "list-item"): "list-item",
    ("block", "flow", "list-item"): "list-item",
    ("flow", "list-item"): "list-item",
    ("flow-root", "list-item"): "flow-root list-item",
    ("block", "flow-root", "list-item"): "flow-root list-item",
    ("inline", "list-item"): "inline list-item",
    ("flow", "inline", "list-item"): "inline list-item",
    ("flow-root", "inline", "list-item"): "inline flow-root list-item",
    **{("block", inner): inner for inner in ("flex", "grid", "table")},
    **{(inner, "inline"): f"inline-{inner}" for inner in ("flex", "grid")},
    ("inline", "table"): "inline-table",
}


def display(*allowed: str) -> Parser:
    """A parser of `display`: one keyword, or an outer and an inner type in any order."""
    single = keyword(*allowed)

    def parse(tokens: Tokens) -> Any:
        if len(tokens) == 1 and single(tokens) is not None:
            return single(tokens)
        if not all(t.type == "ident" for t in tokens):
            return None
        return _DISPLAY_PAIRS.get(tuple(sorted(t.lower_value for t in tokens)))

    return parse


def length(*keywords: str, percent: bool = True, negative: bool = True, number: bool = False) -> Parser:
    """A parser of one length (or percentage), or one of `keywords`."""
    of_keyword = keyword(*keywords)

    def parse(tokens: Tokens) -> Any:
        if len(tokens) != 1:
            return None
        found = parse_length(tokens[0], percent=percent, negative=negative, number=number)
        return found if found is not None else of_keyword(tokens)

    return parse


_FROM_CONTENT = ("min-content", "max-content", "fit-content")


@dataclass(frozen=True, slots=True)
class AspectRatio:
    """A preferred aspect ratio, width by height; natural_first: a replaced box's own comes first."""

    ratio: float
    natural_first: bool = False


def aspect_ratio(tokens: Tokens) -> Any:
    """CSS Sizing 4 §5.1: `auto`, a ratio, or both; a degenerate ratio is none."""
    words = [t for t in tokens if t.type == "ident"]
    rest = [t for t in tokens if t.type != "ident"]
    if len(words) > 1 or any(w.lower_value != "auto" for w in words):
        return None
    if words and tokens[0] is not words[0] and tokens[-1] is not words[0]:
        return None
    if not rest:
        return "auto" if words else None
    if len(rest) == 3 and rest[1].type == "literal" and rest[1].value == "/":
        numbers = [number([rest[0]]), number([rest[2]])]
    else:
        numbers = [number(rest), 1.0]
    if any(n is None or n < 0 for n in numbers) or any(t.type == "percentage" for t in rest):
        return None
    if not numbers[0] or not numbers[1] or max(numbers) == float("inf"):
        return "auto"
    return AspectRatio(numbers[0] / numbers[1], bool(words))


def size(*keywords: str) -> Parser:
    """A parser of a width or height: length, keyword, intrinsic size, or fit-content()."""
    simple = length(*keywords, "min-content", "max-content", "fit-content", "stretch", negative=False)
    old = {"-webkit-fill-available": "stretch", "-moz-available": "stretch"}
    old |= {f"-{maker}-{w}": w for maker in ("webkit", "moz") for w in _FROM_CONTENT}

    def parse(tokens: Tokens) -> Any:
        found = simple(tokens)
        if found is not None or len(tokens) != 1:
            return found
        token = tokens[0]
        if token.type == "ident":
            return old.get(token.lower_value)
        if token.type == "function" and token.lower_name == "fit-content":
            inner = [t for t in token.arguments if t.type not in ("whitespace", "comment")]
            limit = parse_length(inner[0], negative=False) if len(inner) == 1 else None
            return None if limit is None else CalcNode("fit-content", (limit,))
        return None

    return parse


def colour(tokens: Tokens) -> Any:
    """A colour, or the keyword `currentcolor`: CSS Color 4."""
    return parsed_colour(tokens[0]) if len(tokens) == 1 else None


def paint(tokens: Tokens) -> Any:
    """SVG 2 §13.2: a colour, or none; paint servers and pictures are left to the picture itself."""
    return _none(tokens) or colour(tokens)


def integer(tokens: Tokens) -> Any:
    """A whole number."""
    if len(tokens) == 1 and tokens[0].type == "number" and tokens[0].is_integer:
        return tokens[0].int_value
    return None


_CONTAINED = {"strict": ("layout", "paint", "size", "style"), "content": ("layout", "paint", "style")}


def z_index(tokens: Tokens) -> Any:
    """CSS 2.2 §9.9.1: a whole number, or auto."""
    whole = integer(tokens)
    return _auto(tokens) if whole is None else whole


_auto = keyword("auto")
_none = keyword("none")


def contain(tokens: Tokens) -> Any:
    """CSS Containment 2 §3: what is kept apart from the page, `strict` and `content` spelled out."""
    words = [t.lower_value if t.type == "ident" else "" for t in tokens]
    if words == ["none"]:
        return ()
    if len(words) == 1 and words[0] in _CONTAINED:
        return _CONTAINED[words[0]]
    allowed = {"size", "inline-size", "layout", "style", "paint"}
    valid = (
        len(set(words)) == len(words)
        and set(words) <= allowed
        and not {"size", "inline-size"} <= set(words)
    )
    return tuple(words) if valid and words else None


def contained_size(tokens: Tokens) -> Any:
    """CSS Sizing 4 §4.4: `none` or a length; what `auto` remembers there is nothing of."""
    rest = tokens[1:] if tokens and keyword("auto")(tokens[:1]) else tokens
    return length("none", percent=False, negative=False)(rest)


def margin_trim(tokens: Tokens) -> Any:
    """CSS Box 4 §3.2, of the block axis: the edges at which the margins of children go."""
    words = [t.lower_value if t.type == "ident" else "" for t in tokens]
    if words == ["none"]:
        return ()
    if words == ["block"]:
        return ("block-start", "block-end")
    allowed = len(set(words)) == len(words) and set(words) <= {"block-start", "block-end"}
    return tuple(words) if allowed and words else None


def line_clamp(tokens: Tokens) -> Any:
    """CSS Overflow 4 §5.1.4: `none` (0) or how many lines are shown."""
    lines = 0 if keyword("none")(tokens) else integer(tokens)
    return lines if lines is not None and (lines > 0 or tokens[0].type == "ident") else None


def factor(tokens: Tokens) -> Any:
    """A number of at least 0, as a float: CSS Flexbox 1 §7.1."""
    if len(tokens) == 1 and tokens[0].type == "number" and tokens[0].value >= 0:
        return float(tokens[0].value)
    return None


def number(tokens: Tokens) -> Any:
    """A number or percentage of one, as a float (opacity)."""
    if len(tokens) == 1 and tokens[0].type == "number":
        return float(tokens[0].value)
    if len(tokens) == 1 and tokens[0].type == "percentage":
        return float(tokens[0].value) / 100
    return None


def as_written(tokens: Tokens) -> Any:
    """Any value, kept as its text: for properties that are only painted or not computed yet."""
    parts = [css_text([t]) for t in tokens]  # spaces are gone from the tokens; they stand between values
    return " ".join(parts).replace(" ,", ",").strip() if tokens else None


def by_grammar(name: str) -> Parser:
    """A parser of what the standards allow for a property, kept as its text."""

    def parse(tokens: Tokens) -> Any:
        return as_written(tokens) if standards().grammars.allows(name, tokens) else None

    return parse


def font_family(tokens: Tokens) -> Any:
    """A list of family names: CSS Fonts 4 §2.1.

    `serif` in quotes is the name of a family like any other, and keeps them here: engines ask the machine for it. Other
    generic names in quotes come to the fonts that stand for them.
    """
    families: list[str] = []
    words: list[str] = []
    for token in [*tokens, None]:
        if token is None or (token.type == "literal" and token.value == ","):
            if not words:
                return None
            families.append(" ".join(words))
            words = []
        elif token.type == "string" and not words:
            words.append('"serif"' if token.value.lower() == "serif" else token.value)
        elif token.type == "ident":
            words.append(token.value)
        else:
            return None
    return tuple(families)


def font_size(tokens: Tokens) -> Any:
    """A length, percentage or size keyword: CSS Fonts 4 §2.5."""
    return length(*SIZES, "smaller", "larger", negative=False)(tokens)


def font_features(tokens: Tokens) -> Any:
    """CSS Fonts 4 §6.12: `normal`, or tags with a number, `on` or `off`; as pairs of tag and number."""
    if keyword("normal")(tokens):
        return ()
    found: list[tuple[str, int]] = []
    for part in split_commas(tokens):
        if not 1 <= len(part) <= 2 or part[0].type != "string" or len(part[0].value) != 4:
            return None
        value = _feature_value(part[1]) if len(part) == 2 else 1
        if value is None or value < 0:
            return None
        found.append((part[0].value, value))
    return tuple(found)


def font_variations(tokens: Tokens) -> Any:
    """CSS Fonts 4 §7.2: `normal`, or the axes of a font with a number each; as pairs of tag and number."""
    if keyword("normal")(tokens):
        return ()
    found: dict[str, float] = {}
    for part in split_commas(tokens):
        if len(part) != 2 or part[0].type != "string" or len(part[0].value) != 4:
            return None
        if part[1].type != "number":
            return None
        found[part[0].value] = part[1].value
    return tuple(found.items())


# CSS Fonts 4 §6.7: groups of words of which each may give one, and the features that they stand for.
_NUMERIC = (
    {"lining-nums": "lnum", "oldstyle-nums": "onum"},
    {"proportional-nums": "pnum", "tabular-nums": "tnum"},
    {"diagonal-fractions": "frac", "stacked-fractions": "afrc"},
    {"ordinal": "ordn"},
    {"slashed-zero": "zero"},
)


def variant_numeric(tokens: Tokens) -> Any:
    """How figures look: `normal`, or words; as pairs of a feature's tag and 1."""
    if keyword("normal")(tokens):
        return ()
    words = [t.lower_value if t.type == "ident" else "" for t in tokens]
    found = [[group[w] for w in words if w in group] for group in _NUMERIC]
    if not words or max(map(len, found)) > 1 or sum(map(len, found)) != len(words):
        return None
    return tuple((tag, 1) for tags in found for tag in tags)


def _feature_value(token: Any) -> int | None:
    if token.type == "ident":
        return {"on": 1, "off": 0}.get(token.lower_value)
    found: int | None = integer([token])
    return found


def font_weight(tokens: Tokens) -> Any:
    """A weight from 1 to 1000 or a keyword: CSS Fonts 4 §2.2."""
    found = keyword("normal", "bold", "bolder", "lighter")(tokens)
    if found is not None:
        return found
    if len(tokens) == 1 and tokens[0].type == "number" and 1 <= tokens[0].value <= 1000:
        return int(tokens[0].value)
    return None


def split_commas(tokens: Tokens) -> list[Tokens]:
    """The token lists between top-level commas."""
    parts: list[Tokens] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == ",":
            parts.append([])
        else:
            parts[-1].append(token)
    return parts


def border_spacing(tokens: Tokens) -> Any:
    """One or two lengths: CSS 2.2 §17.6.1."""
    found = [parse_length(t, percent=False, negative=False) for t in tokens]
    if not 1 <= len(found) <= 2 or None in found:
        return None
    return (found[0], found[-1])


@dataclass(frozen=True, slots=True)
class TextIndent:
    """An indent. hanging: of all lines but those; each_line: also of lines after forced breaks."""

    length: Any  # specified: a Dimension or CalcNode; computed: a LengthValue
    hanging: bool = False
    each_line: bool = False


def text_indent(tokens: Tokens) -> Any:
    """CSS Text 3 §7.1: a length with `hanging` and `each-line` in any order."""
    words = [t.lower_value for t in tokens if t.type == "ident"]
    rest = [t for t in tokens if t.type != "ident"]
    found = parse_length(rest[0]) if len(rest) == 1 else None
    if found is None or len(set(words)) != len(words) or not set(words) <= {"hanging", "each-line"}:
        return None
    return TextIndent(found, "hanging" in words, "each-line" in words)


def hyphenate_character(tokens: Tokens) -> Any:
    """CSS Text 4 §6.3: `auto` or a string."""
    if len(tokens) == 1 and tokens[0].type == "string":
        return tokens[0].value
    return keyword("auto")(tokens)


def spacing(tokens: Tokens) -> Any:
    """letter-spacing and word-spacing: a length or `normal`."""
    return length("normal", percent=False)(tokens)


def text_decoration_line(tokens: Tokens) -> Any:
    """`none` or some of the lines, as a tuple of keywords: CSS Text Decoration 3 §2.1."""
    names = [t.lower_value for t in tokens if t.type == "ident"]
    allowed = {"underline", "overline", "line-through", "blink"}
    if names == ["none"]:
        return ()
    if len(names) == len(tokens) and names and set(names) <= allowed:
        return tuple(names)
    return None


def overflow(tokens: Tokens) -> Any:
    """One axis of overflow: CSS Overflow 3 §3.1, whose `overlay` is an old name of auto."""
    found = keyword("visible", "hidden", "scroll", "auto", "clip", "overlay")(tokens)
    return "auto" if found == "overlay" else found


def vertical_align(tokens: Tokens) -> Any:
    """A keyword or a length: CSS 2.2 §10.8.1."""
    return length("baseline", "sub", "super", "top", "text-top", "middle", "bottom", "text-bottom")(
        tokens
    )


def tab_size(tokens: Tokens) -> Any:
    """A number of spaces or a length: CSS Text 3 §4.2."""
    if len(tokens) == 1:
        return parse_length(tokens[0], percent=False, number=True, negative=False)
    return None


def corner(tokens: Tokens) -> Any:
    """One corner's radius: one or two lengths."""
    found = [parse_length(t, negative=False) for t in tokens]
    if not 1 <= len(found) <= 2 or None in found:
        return None
    return (found[0], found[-1])


def is_specified_length(value: Any) -> bool:
    """Whether a specified value is a length with units still to be resolved."""
    return isinstance(value, (Dimension, CalcNode))
