"""Grid values: track lists, areas, lines and the shorthands of them, CSS Grid 1 §7 and §8.

Specified values hold `Dimension` and `CalcNode` where computed ones hold lengths.
"""

from collections.abc import Iterator, Sequence
from typing import Any, TypeAlias

from redcrate.core.records import dataclass
from redcrate.core.style.calc import parse_length
from redcrate.core.style.standards import standards
from redcrate.core.style.values import CalcNode, Dimension, Length, MathLength

Tokens: TypeAlias = list[Any]


@dataclass(frozen=True, slots=True)
class Fraction:
    """A flexible length: §7.2.4."""

    factor: float


# A length (computed, or as specified), a flexible length, or auto, min-content, max-content.
Breadth: TypeAlias = Length | MathLength | Dimension | CalcNode | Fraction | str


@dataclass(frozen=True, slots=True)
class TrackSize:
    """How large a track is at least and at most; fit: the limit of fit-content(), else None."""

    least: Breadth
    most: Breadth
    fit: Breadth | None = None


@dataclass(frozen=True, slots=True)
class LineNames:
    """The names of one line."""

    names: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Repeat:
    """A piece of a track list, a number of times; 0 for auto-fill, -1 for auto-fit."""

    times: int
    entries: "tuple[TrackEntry, ...]"


@dataclass(frozen=True, slots=True)
class Subgrid:
    """The tracks are those of the grid around: CSS Grid 2 §9. names: of its own for their lines, one after the other."""

    names: "tuple[TrackEntry, ...]" = ()


TrackEntry: TypeAlias = TrackSize | LineNames | Repeat | Subgrid
TrackList: TypeAlias = tuple[TrackEntry, ...]
Areas: TypeAlias = tuple[tuple[str, ...], ...]
AUTO_FILL, AUTO_FIT = 0, -1
MOST_LINES = 1000  # of one axis; lines beyond are clamped (§8.5)


@dataclass(frozen=True, slots=True)
class GridLine:
    """A value of grid-row-start and its kin: §8.3. number 0: none is written."""

    name: str = ""
    number: int = 0
    is_span: bool = False

    @property
    def is_auto(self) -> bool:
        """Whether nothing is said."""
        return not self.name and not self.number


AUTO_LINE = GridLine()
AUTO_TRACK = TrackSize("auto", "auto")
_KEYWORDS = ("auto", "min-content", "max-content")


def _inside(tokens: Sequence[Any]) -> Tokens:
    return [t for t in tokens if t.type not in ("whitespace", "comment")]


def _arguments(function: Any) -> list[Tokens]:
    parts: list[Tokens] = [[]]
    for token in _inside(function.arguments):
        if token.type == "literal" and token.value == ",":
            parts.append([])
        else:
            parts[-1].append(token)
    return parts


def _breadth(token: Any) -> Breadth | None:
    if token.type == "ident" and token.lower_value in _KEYWORDS:
        word: str = token.lower_value
        return word
    if token.type == "dimension" and token.lower_unit == "fr":
        return Fraction(float(token.value)) if token.value >= 0 else None
    return parse_length(token, negative=False)


def _track(token: Any) -> TrackSize | None:
    """<track-size>: §7.2.1."""
    if token.type != "function" or token.lower_name not in ("minmax", "fit-content"):
        one = _breadth(token)
        if one is None:
            return None
        return TrackSize("auto" if isinstance(one, Fraction) else one, one)
    parts = _arguments(token)
    if token.lower_name == "fit-content":
        limit = parse_length(parts[0][0], negative=False) if len(parts[0]) == 1 else None
        return None if limit is None or len(parts) > 1 else TrackSize("auto", "max-content", limit)
    if len(parts) != 2 or any(len(p) != 1 for p in parts):
        return None
    least, most = _breadth(parts[0][0]), _breadth(parts[1][0])
    if least is None or most is None or isinstance(least, Fraction):
        return None
    return TrackSize(least, most)


def _names(block: Any) -> LineNames | None:
    words = _inside(block.content)
    if any(w.type != "ident" for w in words):
        return None
    return LineNames(tuple(w.value for w in words))


def _repeat(token: Any) -> Repeat | None:
    parts = _arguments(token)
    if len(parts) != 2 or len(parts[0]) != 1:
        return None
    count = parts[0][0]
    times: int | None = {"auto-fill": AUTO_FILL, "auto-fit": AUTO_FIT}.get(
        getattr(count, "lower_value", "")
    )
    if times is None and count.type == "number" and count.is_integer and count.value > 0:
        times = min(int(count.value), MOST_LINES)
    entries = _entries(parts[1])
    return None if times is None or not entries else Repeat(times, entries)


def _entries(tokens: Tokens) -> TrackList | None:
    found: list[TrackEntry | None] = []
    for token in tokens:
        if token.type == "[] block":
            found.append(_names(token))
        elif token.type == "function" and token.lower_name == "repeat":
            found.append(_repeat(token))
        else:
            found.append(_track(token))
    out = tuple(f for f in found if f is not None)
    return out if len(out) == len(found) else None


def track_list(tokens: Tokens) -> Any:
    """grid-template-columns and -rows; `none` is no tracks, a subgrid one entry."""
    if not standards().grammars.allows("grid-template-columns", tokens):
        return None
    if tokens[0].type == "ident" and tokens[0].lower_value == "none":
        return ()
    if tokens[0].type == "ident" and tokens[0].lower_value == "subgrid":
        names = _entries(tokens[1:])
        return None if names is None else (Subgrid(names),)
    return _entries(tokens)


def track_sizes(tokens: Tokens) -> Any:
    """grid-auto-columns and -rows: §7.6."""
    found = [_track(t) for t in tokens]
    return tuple(found) if found and all(f is not None for f in found) else None


def _area_row(token: Any) -> tuple[str, ...] | None:
    """One string of grid-template-areas: names, and dots for cells without one."""
    row: list[str] = []
    for word in token.value.split():
        row.append("" if set(word) == {"."} else word)
    return tuple(row) or None


def areas(tokens: Tokens) -> Any:
    """grid-template-areas: §7.3; rows of one length, each area a rectangle."""
    if len(tokens) == 1 and tokens[0].type == "ident" and tokens[0].lower_value == "none":
        return ()
    if not tokens or any(t.type != "string" for t in tokens):
        return None
    rows = [_area_row(t) for t in tokens]
    found = tuple(r for r in rows if r is not None)
    if len(found) != len(rows) or len({len(r) for r in found}) != 1:
        return None
    return (
        found if all(_is_rectangle(found, name) for name in {n for r in found for n in r if n}) else None
    )


def _is_rectangle(rows: Areas, name: str) -> bool:
    cells = [(y, x) for y, row in enumerate(rows) for x, n in enumerate(row) if n == name]
    left, right = min(x for _, x in cells), max(x for _, x in cells)
    top, bottom = cells[0][0], cells[-1][0]
    return len(cells) == (right - left + 1) * (bottom - top + 1)


def auto_flow(tokens: Tokens) -> Any:
    """grid-auto-flow: §7.7; the words in one order."""
    if not standards().grammars.allows("grid-auto-flow", tokens):
        return None
    if any(t.type != "ident" for t in tokens):
        return None  # what is substituted later, such as env()
    words = [t.lower_value for t in tokens]
    return " ".join(("column" if "column" in words else "row", *(["dense"] if "dense" in words else [])))


def line(tokens: Tokens) -> Any:
    """<grid-line>: §8.3."""
    name, number, is_span = "", 0, False
    for token in tokens:
        if token.type == "number" and token.is_integer and token.value and not number:
            number = max(-MOST_LINES, min(MOST_LINES, int(token.value)))
        elif token.type == "ident" and token.lower_value == "span" and not is_span:
            is_span = True
        elif token.type == "ident" and not name:
            name = token.value
        else:
            return None
    if not tokens or (is_span and (number < 0 or not (name or number))):
        return None
    if name.lower() == "auto":
        return None if number or is_span else AUTO_LINE
    return GridLine(name, number or is_span * 1, is_span)


def slashed(tokens: Tokens) -> list[Tokens]:
    """The parts between slashes."""
    parts: list[Tokens] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == "/":
            parts.append([])
        else:
            parts[-1].append(token)
    return parts


def lines(tokens: Tokens, count: int) -> tuple[GridLine, ...] | None:
    """The 1 to `count` lines of grid-column, grid-row and grid-area; a name stands for its opposite too (§8.4)."""
    parts = slashed(tokens)
    found = [line(p) for p in parts]
    if len(found) > count or any(f is None for f in found):
        return None
    for at in range(len(found), count):
        other = found[at - 2] if at >= 2 else found[0]
        is_name = other.name and not other.number
        found.append(other if is_name else AUTO_LINE)
    return tuple(found)


_TEMPLATE = ("grid-template-rows", "grid-template-columns", "grid-template-areas")


def template(tokens: Tokens) -> dict[str, Any] | None:
    """The shorthand grid-template: §7.4."""
    if len(tokens) == 1 and tokens[0].type == "ident" and tokens[0].lower_value == "none":
        return dict.fromkeys(_TEMPLATE, ())
    parts = slashed(tokens)
    if any(t.type == "string" for t in parts[0]):
        return _drawn(parts)
    if len(parts) != 2:
        return None
    rows, columns = track_list(parts[0]), track_list(parts[1])
    return (
        None
        if rows is None or columns is None
        else dict(zip(_TEMPLATE, (rows, columns, ()), strict=True))
    )


def _drawn(parts: list[Tokens]) -> dict[str, Any] | None:
    """Rows drawn as strings, each with its size and the names of its lines."""
    strings = [t for t in parts[0] if t.type == "string"]
    found = areas(strings)
    columns: TrackList | None = track_list(parts[1]) if len(parts) == 2 else ()
    rows = list(_row_tracks(parts[0]))
    tracks = [r for r in rows if r is not None]
    if len(parts) > 2 or found is None or columns is None or len(tracks) != len(rows):
        return None
    return dict(zip(_TEMPLATE, (tuple(tracks), columns, found), strict=True))


def _row_tracks(tokens: Tokens) -> Iterator[TrackEntry | None]:
    waiting = False  # a string whose size has not come yet
    for token in tokens:
        if token.type == "string":
            if waiting:
                yield AUTO_TRACK
            waiting = True
        elif token.type == "[] block":
            if waiting:
                yield AUTO_TRACK
            waiting = False
            yield _names(token)
        else:
            yield _track(token) if waiting else None
            waiting = False
    if waiting:
        yield AUTO_TRACK


def whole_grid(tokens: Tokens) -> dict[str, Any] | None:
    """The shorthand grid: §7.8."""
    initial = {
        "grid-auto-rows": (AUTO_TRACK,),
        "grid-auto-columns": (AUTO_TRACK,),
        "grid-auto-flow": "row",
    }
    parts = slashed(tokens)
    flowing = [any(t.type == "ident" and t.lower_value == "auto-flow" for t in p) for p in parts]
    if not any(flowing):
        drawn = template(tokens)
        return None if drawn is None else drawn | initial
    if len(parts) != 2 or all(flowing):
        return None
    by_row = flowing[0]
    words = [
        t for t in parts[not by_row] if t.type == "ident" and t.lower_value in ("auto-flow", "dense")
    ]
    rest = [t for t in parts[not by_row] if t not in words]
    sizes = track_sizes(rest) if rest else (AUTO_TRACK,)
    explicit = track_list(parts[by_row])
    if sizes is None or explicit is None or len(words) > 2:
        return None
    dense = " dense" if any(w.lower_value == "dense" for w in words) else ""
    axis, other = ("rows", "columns") if by_row else ("columns", "rows")
    return (
        dict.fromkeys(_TEMPLATE, ())
        | initial
        | {
            f"grid-template-{other}": explicit,
            f"grid-auto-{axis}": sizes,
            "grid-auto-flow": ("row" if by_row else "column") + dense,
        }
    )
