"""The title block of a drawing: what is drawn, of which page, at which width, how."""

from redcrate.core.diagram.board import SIZE, SMALL, THIN, Board
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Drawing, Stroke
from redcrate.core.diagram.label_places import Place
from redcrate.core.diagram.lettering import cut_to, text_width
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import format_number, format_px, nearest_from_px

_ROW = 18.0
_LEAST = 480.0  # how wide a sheet is at least
_NARROWEST, _WIDEST = 330.0, 460.0
_PAD = 6.0


@dataclass(frozen=True, slots=True)
class Sheet:
    """What a title block says beside the name. how: the manner, as in `written 640px · content-box`.

    scale: drawn px for one px; None where thin parts are widened. titled: whether there is a title block at all.
    """

    page: Page
    page_name: str
    how: str
    scale: float | None
    titled: bool = True


def finished(board: Board, name: str, sheet: Sheet, title: str, description: str) -> Drawing:
    """The drawing with its title block below on the right."""
    if not sheet.titled:
        return board.finish(title, description)
    window = format_px(nearest_from_px(sheet.page.viewport.width))
    manner = "to scale" if sheet.scale else "schematic: thin parts widened"
    left, right, top = board.left, max(board.right, board.left + _LEAST), board.bottom + 20
    with board.part("title-block"):
        board.line(left, top, right, top, Stroke("hairline", 0.8))
    rows = (
        (sheet.page_name or "page", f"at width {window} px"),
        (manner, scale_text(sheet.scale), "Red Crate"),
    )
    _block(board, right, top + 8, name, sheet.how, rows)
    return board.finish(title, description)


def scale_text(scale: float | None) -> str:
    """The scale, as a drawing office writes it."""
    if scale is None:
        return "scale —"
    one, other = (scale, 1.0) if scale > 1 else (1.0, 1 / scale)
    return f"scale {format_number(one)} : {format_number(other)}"


def _block(
    board: Board, right: float, top: float, name: str, how: str, rows: tuple[tuple[str, ...], ...]
) -> None:
    """The block, which ends at `right`. name, how: its first row. rows: the cells of the others."""
    needed = [text_width(name, SIZE, bold=True) + text_width(how, SMALL) + 4 * _PAD]
    needed += [sum(text_width(t, SMALL) + 2 * _PAD for t in row) + 2 for row in rows]
    width = min(_WIDEST, max(_NARROWEST, *needed))
    place = Place(right - width, top, width, _ROW * (len(rows) + 1))
    with board.part("title-block"):
        board.area(place, Fill.PAPER, THIN)
        _first_row(board, place, name, how)
        for number, row in enumerate(rows, 1):
            y = top + _ROW * number
            board.line(place.x, y, right, y)
            _cells(board, place.x, right, y, row)


def _first_row(board: Board, place: Place, name: str, how: str) -> None:
    """Name and manner share the width: the name is cut to two thirds at most."""
    inner = place.width - 3 * _PAD
    how = cut_to(how, max(inner / 3, inner - text_width(name, SIZE, bold=True)), SMALL)
    name = cut_to(name, inner - text_width(how, SMALL), SIZE, bold=True)
    y = place.y + 13
    board.text(place.x + _PAD, y, name, SIZE, bold=True)
    if how:
        right = place.x + place.width - _PAD
        board.text(right, y, how, SMALL, colour="second_ink", anchor="end")


def _cells(board: Board, left: float, right: float, y: float, row: tuple[str, ...]) -> None:
    """The cells of a row from the right: each as wide as its text, the first takes the rest."""
    for text in reversed(row[1:]):
        width = min(text_width(text, SMALL) + 2 * _PAD, (right - left) / 2)
        board.text(right - width + _PAD, y + 13, cut_to(text, width - _PAD, SMALL), SMALL)
        board.line(right - width, y, right - width, y + _ROW)
        right -= width
    board.text(left + _PAD, y + 13, cut_to(row[0], right - left - 2 * _PAD, SMALL), SMALL)
