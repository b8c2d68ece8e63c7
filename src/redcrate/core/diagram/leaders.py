"""The names of a box's parts, each led to its part: what was written, what became of it, what takes no room."""

from collections.abc import Iterator

from redcrate.core.diagram.board import SIZE, SMALL, Board
from redcrate.core.diagram.figure import Figure
from redcrate.core.diagram.label_places import Place, spread
from redcrate.core.diagram.lettering import wrapped
from redcrate.core.explain import Term
from redcrate.core.explain.terms import split_values
from redcrate.core.geometry import SIDES
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import format_px

_WIDEST = 170.0  # of the texts on the left
_ASIDE = 42.0  # from the texts to the box
_LINE, _GAP = 14.0, 10.0
_TOP_GAP = 30.0  # from the text above to the box


@dataclass(frozen=True, slots=True)
class Named:
    """A name with lines below it, and the place on the drawing that it is about."""

    name: str
    below: tuple[str, ...]
    x: float
    y: float


def written_text(term: Term) -> str:
    """The written value beside the used one, where they differ: `50% → 400`."""
    used = format_px(term.used)
    if not term.written or {f"{used}px", used} & set(split_values(term.written)):
        return ""
    return f"{term.written} → {used}"


def name_parts(page: Page, figure: Figure, *, written: bool, also: tuple[Named, ...] = ()) -> None:
    """Name the parts left of the box, and a top margin that met another one above it.

    written: whether values are told that are not as they were written. also: what else is to be named.
    """
    found = [*_parts(page, figure, written=written), *_met(figure, "bottom"), *also]
    with figure.board.part("names"):
        _on_the_left(figure.board, figure.place("margin"), figure.place("border"), found)
        for named in _met(figure, "top"):
            _above(figure.board, figure, named)


def content_named(figure: Figure, name: str, below: tuple[str, ...]) -> Named:
    """The content box, where it has no room for its own label."""
    at = figure.place("content")
    return Named(name, below, at.x + min(6.0, at.width / 2), at.y + at.height / 2)


def _terms(figure: Figure, part: str) -> dict[str, Term]:
    found = {t.side: t for t in (*figure.high.terms, *figure.wide.terms) if t.part == part}
    return {side: found[side] for side in SIDES if side in found}


def _parts(page: Page, figure: Figure, *, written: bool) -> Iterator[Named]:
    """Margin, border and padding as far as there are any."""
    for part in ("margin", "border", "padding"):
        terms = _terms(figure, part)
        if not any(t.used for t in terms.values() if not _has_own_name(t)):
            continue
        amounts = {t.used for t in terms.values()}
        name = f"{part} {format_px(amounts.pop())}" if len(amounts) == 1 and len(terms) == 4 else part
        below = _styles(page, figure, terms) if part == "border" else []
        if written:
            below += _written(terms)
        none = {side: "0" for side, t in terms.items() if not t.used}
        below += [f"{sides} {text}" for sides, text in _grouped(none)]
        yield Named(name, tuple(below), *_target(figure, part, terms))


def _target(figure: Figure, part: str, terms: dict[str, Term]) -> tuple[float, float]:
    """A point in the part: on its left side, else on the first that takes room."""
    spans = {
        t.side: (a + b) / 2 for t, a, b in (*figure.wide.spans(), *figure.high.spans()) if t.part == part
    }
    place = figure.place(part)
    if terms["left"].used:
        return spans["left"], place.y + place.height * (0.5 if part == "border" else 0.6)
    for side in ("top", "bottom"):
        if side in terms and terms[side].used:
            return place.x + min(14.0, place.width / 2), spans[side]
    return spans["right"], place.y + 3


def _styles(page: Page, figure: Figure, terms: dict[str, Term]) -> list[str]:
    """The border's styles: once, where all sides are alike."""
    style = page.style_of(figure.element)
    found = {
        side: f"{format_px(t.used)} {getattr(style, f'border_{side}_style')}"
        for side, t in terms.items()
        if t.used
    }
    if len(found) == 4 and len(set(found.values())) == 1:
        return [next(iter(found.values()))]
    return [f"{sides} {text}" for sides, text in _grouped(found)]


def _written(terms: dict[str, Term]) -> list[str]:
    found = {side: text for side, t in terms.items() if (text := written_text(t)) and t.used}
    if len(found) == 4 and len(set(found.values())) == 1:
        return [next(iter(found.values()))]
    return [f"{sides} {text}" for sides, text in _grouped(found)]


def _grouped(by_side: dict[str, str]) -> Iterator[tuple[str, str]]:
    """Sides of which the same is to be said, together."""
    for text in dict.fromkeys(by_side.values()):
        sides = [s for s, t in by_side.items() if t == text]
        yield (", ".join(sides[:-1]) + " and " + sides[-1] if len(sides) > 1 else sides[0]), text


def _has_own_name(term: Term) -> bool:
    """Whether it is a margin above or below of which there is more to say than its amount."""
    return term.part == "margin" and term.side in ("top", "bottom") and bool(term.used and term.why)


def _met(figure: Figure, side: str) -> Iterator[Named]:
    """A margin above or below that met another one, and which one won (CSS 2.2 §8.3.1)."""
    for term, start, end in figure.high.spans():
        if term.side == side and _has_own_name(term):
            place = figure.place("border")
            x = place.x + min(place.width * 0.4, 80.0 if side == "bottom" else 140.0)
            yield Named(f"margin-{side} {format_px(term.used)}", (term.why,), x, (start + end) / 2)


def _on_the_left(board: Board, outer: Place, border: Place, found: list[Named]) -> None:
    """The names in a column left of the box."""
    highest = min(outer.y, border.y)
    column_of_names(board, min(outer.x, border.x) - _ASIDE, highest, found, to_left=True)


def column_of_names(
    board: Board, edge: float, highest: float, found: list[Named], *, to_left: bool
) -> None:
    """Names in a column that begins at `edge`, in the order of what they are about, none above `highest`."""
    if not found:
        return
    way, anchor = (-1, "end") if to_left else (1, "start")
    found = sorted(found, key=lambda n: n.y)
    texts = [
        [
            *wrapped(n.name, _WIDEST, SIZE, 1),
            *(line for b in n.below for line in wrapped(b, _WIDEST, SMALL, 3)),
        ]
        for n in found
    ]
    sizes = [_LINE * len(t) for t in texts]
    middles = spread([n.y for n in found], sizes, _GAP)
    lowered = max(0.0, highest + sizes[0] / 2 - middles[0])
    for named, lines, size, middle in zip(found, texts, sizes, middles, strict=True):
        y = middle + lowered - size / 2
        for number, text in enumerate(lines):
            size_of, shade = (SIZE, "ink") if number == 0 else (SMALL, "second_ink")
            board.text(edge, y + _LINE * number + 11, text, size_of, colour=shade, anchor=anchor)
        bend = edge - way * 18
        board.line(edge - way * 4, y + 7, bend, y + 7)
        board.line(bend, y + 7, named.x, named.y)
        board.dot(named.x, named.y)


def _above(board: Board, figure: Figure, named: Named) -> None:
    """A name above the box."""
    lines = [named.name, *(line for b in named.below for line in wrapped(b, 300, SMALL, 2))]
    top = min(figure.place("margin").y, figure.place("border").y)
    y = top - _TOP_GAP - _LINE * (len(lines) - 1)
    board.dot(named.x, named.y)
    board.line(named.x, named.y, named.x + 40, y - 4)
    board.line(named.x + 40, y - 4, named.x + 54, y - 4)
    for number, text in enumerate(lines):
        size, shade = (SIZE, "ink") if number == 0 else (SMALL, "second_ink")
        board.text(named.x + 58, y + _LINE * number, text, size, colour=shade)
