"""The labelled drawing of one element's boxes, in drawing-office manner.

Every number is a term of the explanation's equations, so the drawing cannot disagree with them.
"""

from collections.abc import Iterator, Mapping

from redcrate.core.boxes.box import BoxKind
from redcrate.core.diagram.board import SIZE, Board
from redcrate.core.diagram.drawing import Drawing, Stroke
from redcrate.core.diagram.figure import Figure, Key, run_of, scale_of
from redcrate.core.diagram.inline_diagram import lines_of, rows_of_lines
from redcrate.core.diagram.inside_diagram import inside_diagram
from redcrate.core.diagram.label_places import Place
from redcrate.core.diagram.leaders import Named, content_named, name_parts, written_text
from redcrate.core.diagram.lettering import wrapped
from redcrate.core.diagram.standing import draw_standing
from redcrate.core.diagram.title_block import Sheet, finished
from redcrate.core.explain import Equation, Term, across, down
from redcrate.core.explain.absence import absence
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, counted, format_px, nearest_from_px

_LEFT, _TOP = 0.0, 0.0
_OUTSET = 5.0  # of the dashed line for outline and shadow
_SET = (SizeReason.SPECIFIED, SizeReason.PERCENT)


# Amounts across and down, by part and side.
Earlier = tuple[Mapping[Key, LayoutUnit], Mapping[Key, LayoutUnit]]
NOT_EARLIER: Earlier = ({}, {})


@dataclass(frozen=True, slots=True)
class DiagramOptions:
    """How to draw, and what is labelled.

    to_scale: true proportions; else thin parts are widened so that labels fit. names: of the parts, on leaders.
    written: values as they were written, where they differ from the used ones. sums: padding, border and margin box.
    standing: where a float or an absolute box stands, and the places that it was refused. title: the title block.
    """

    to_scale: bool = False
    page_name: str = ""
    names: bool = True
    written: bool = True
    sums: bool = True
    standing: bool = True
    title: bool = True


def box_diagram(page: Page, element: Element, options: DiagramOptions | None = None) -> Drawing:
    """The drawing of an element's boxes; of one without, the sentence that says why."""
    options = options or DiagramOptions()
    board = Board()
    equations = equations_of(page, element)
    scale = scale_of(equations) if options.to_scale and equations is not None else None
    how, scale = draw_box(board, page, element, options, scale, equations)
    sheet = Sheet(page, options.page_name, how, scale, options.title)
    title = f"Box diagram of {element.label}"
    return finished(board, element.label, sheet, title, _told(page, element, equations))


def draw_box(
    board: Board,
    page: Page,
    element: Element,
    options: DiagramOptions,
    scale: float | None,
    equations: tuple[Equation, Equation] | None,
    earlier: Earlier = NOT_EARLIER,
) -> tuple[str, float | None]:
    """Draw an element on a board, whatever kind of box it has; returns how it is, and the scale that it was drawn at.

    scale: of the figure of a block. equations: the element's. earlier: amounts at another time, told beside those
    that changed.
    """
    box = page.box_of(element)
    if box is None or equations is None:
        _without_box(board, page, element)
        return "no box", None
    if box.box is None:
        lines = lines_of(box)
        asked = {"to_scale": options.to_scale, "names": options.names, "sums": options.sums}
        drawn = rows_of_lines(board, page, box, lines, **asked)
        return counted(len(lines), "inline, 1 line", "inline, {count} lines"), drawn
    _draw_figure(_figure_on(board, page, element, equations, scale, earlier), page, options)
    if options.standing:
        draw_standing(board, page, box, board.bottom + 40)
    return _written(page, element, equations[0]), scale


def has_box(page: Page, element: Element) -> bool:
    """Whether there are boxes of the element to draw."""
    box = page.box_of(element)
    return box is not None and (box.box is not None or bool(box.pieces))


def equations_of(page: Page, element: Element) -> tuple[Equation, Equation] | None:
    """The equations across and down that a diagram draws; None without a box of any size."""
    wide, high = across(page, element), down(page, element)
    return None if wide is None or high is None or not wide.terms else (wide, high)


def _figure_on(
    board: Board,
    page: Page,
    element: Element,
    equations: tuple[Equation, Equation],
    scale: float | None,
    earlier: Earlier,
) -> Figure:
    """A figure at the board's origin, not drawn yet."""
    marks = _marks(page, element)
    wide = run_of(equations[0].terms, _LEFT, scale, down=False, earlier=earlier[0], marks=marks[0])
    high = run_of(equations[1].terms, _TOP, scale, down=True, earlier=earlier[1], marks=marks[1])
    return Figure(board, element, wide, high)


def _marks(page: Page, element: Element) -> tuple[dict[str, str], dict[str, str]]:
    """Behind which sum it is said that `width` and `height` mean it: the sizing mode's; CSS Sizing 3 §3.3."""
    box = page.box_of(element)
    if box is None or box.box is None:
        return {}, {}
    fragment = box.box.fragment
    part = "border" if page.style_of(element).box_sizing == "border-box" else "content"
    wide = fragment.across.limit or ("width" if fragment.across.reason in _SET else "")
    high = fragment.down.limit or ("height" if fragment.down.reason in _SET else "")
    return {part: f"= {wide}"} if wide else {}, {part: f"= {high}"} if high else {}


def _draw_figure(figure: Figure, page: Page, options: DiagramOptions) -> None:
    """Boxes, names and chains; each stands clear of those before it."""
    board = figure.board
    what, more = _content_name(page, figure.element)
    figure.boxes()
    _cross(figure, page)
    within = inside_diagram(figure, page)
    if within is not None:
        within.areas()
    terms = [next(t for t in run.terms if t.part == "content") for run in (figure.wide, figure.high)]
    texts = [t for t in map(written_text, terms) if t] if options.written else []
    with board.part("content"):
        label = " · ".join((*texts[:1], *more))
        inside = figure.content_label(what, label, back=within is not None)
    if within is not None:
        within.numbers()
    also = list(_takes_no_room(figure, page))
    if not inside:
        numbers = " × ".join(format_px(t.used) for t in terms)
        also.append(content_named(figure, f"{what} {numbers}", (*texts, *more)))
    if options.names:
        name_parts(page, figure, written=options.written, also=tuple(also))
    highest = min(figure.place("margin").y, figure.place("border").y) - 10
    figure.chain_down(highest, sums=options.sums)
    figure.chain_across(board.bottom, sums=options.sums)


def _content_name(page: Page, element: Element) -> tuple[str, tuple[str, ...]]:
    """What the content box holds, and the size that it has by itself."""
    box = page.box_of(element)
    if box is None or box.box is None or box.box.fragment.box.kind is not BoxKind.REPLACED:
        return "content", ()
    size = box.box.fragment.box.intrinsic
    if size is None or size.width is None or size.height is None:
        return element.tag, ()
    natural = " × ".join(format_px(nearest_from_px(n)) for n in (size.width, size.height))
    return element.tag, (f"natural size {natural}",)


def _cross(figure: Figure, page: Page) -> None:
    """Diagonals over the content of a replaced element, as over an opening in a plan."""
    box = page.box_of(figure.element)
    if box is None or box.box is None or box.box.fragment.box.kind is not BoxKind.REPLACED:
        return
    at = figure.place("content")
    right, bottom = at.x + at.width, at.y + at.height
    thin = Stroke("second_ink", 0.7)
    with figure.board.part("replaced"):
        for x, way_x in ((at.x, 1), (right, -1)):
            for y, way_y in ((at.y, 1), (bottom, -1)):  # from the corners, as far as no label stands
                figure.board.line(x, y, x + way_x * at.width * 0.28, y + way_y * at.height * 0.28, thin)


def _takes_no_room(figure: Figure, page: Page) -> Iterator[Named]:
    """Outline and shadow, dashed, and a marker outside: all of them take no room."""
    style = page.style_of(figure.element)
    at = figure.place("border")
    names = [f"outline {format_px(style.outline_width)}"] if style.outline_width > 0 else []
    names += ["shadow"] if style.box_shadow else []
    if names:
        out = Place(at.x - _OUTSET, at.y - _OUTSET, at.width + 2 * _OUTSET, at.height + 2 * _OUTSET)
        with figure.board.part("takes-no-room"):
            figure.board.area(out, None, Stroke("ink", 0.8, (5, 4)))
        yield Named(" and ".join(names), ("outside layout",), out.x, out.y + out.height)
    box = page.box_of(figure.element)
    marker = box.box.fragment.box.marker if box is not None and box.box is not None else None
    if marker and style.display == "list-item" and style.list_style_position == "outside":
        inner = figure.place("content")
        yield Named(f"marker {marker.strip()}", ("outside: not part of layout",), at.x, inner.y + 4)


# -- without a box


def _without_box(board: Board, page: Page, element: Element) -> None:
    """The sentence that says why there is no box."""
    if page.box_of(element) is not None:
        _sentences(board, f"{element.label} is inline and has no box of any size.")
        return
    reason = absence(page, element)
    _sentences(board, reason.sentence, reason.source.sentence if reason.source is not None else "")


def _sentences(board: Board, *sentences: str) -> None:
    """A dashed, empty frame with the sentences that say why nothing stands in it."""
    rows = [row for sentence in sentences for row in wrapped(sentence, 420, SIZE)]
    with board.part("without-box"):
        board.area(Place(0, 0, 480, 40 + 18.0 * len(rows)), None, Stroke("second_ink", 0.8, (4, 3)))
        for number, text in enumerate(rows):
            board.text(30, 34 + 18 * number, text, SIZE)


def sentence_sheet(page: Page, element: Element, sentence: str, options: DiagramOptions) -> Drawing:
    """A sheet that says why there is no drawing of the element."""
    board = Board()
    _sentences(board, sentence)
    sheet = Sheet(page, options.page_name, "", None, options.title)
    return finished(board, element.label, sheet, f"No drawing of {element.label}", sentence)


# -- the title block


def _written(page: Page, element: Element, wide: Equation) -> str:
    term: Term = next(t for t in wide.terms if t.part == "content")
    written = f"written {term.written}" if term.written else "width auto"
    return f"{written} · {page.style_of(element).box_sizing}"


def _told(page: Page, element: Element, found: tuple[Equation, Equation] | None) -> str:
    """The numbers of the drawing in words."""
    if found is None:
        return absence(page, element).sentence
    terms = [t for t in (*found[0].terms, *found[1].terms) if t.used or t.part == "content"]
    words = []
    for term in terms:
        name = term.longhand if term.part != "content" else f"content {term.longhand}"
        words.append(f"{name} {format_px(term.used)}")
    return f"{', '.join(words)} px"
