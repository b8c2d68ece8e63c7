"""Drawings as PNG and PDF files, without a display."""

import os
from collections.abc import Callable, Sequence
from io import BytesIO
from pathlib import Path

from pypdf import PdfWriter
from PyQt6.QtCore import QBuffer, QMarginsF, QRectF, QSizeF
from PyQt6.QtGui import QColor, QGuiApplication, QImage, QPageSize, QPainter, QPdfWriter

from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.theme.look import load_fonts
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Drawing, Label, paint
from redcrate.core.diagram.paper import PaperPage, pages_to_fit
from redcrate.core.errors import PageNotWritable

_DOTS_PER_INCH = 1200
_EXACT = QPageSize.SizeMatchPolicy.ExactMatch
_FINE = 4.0  # patterns of a PDF are pictures of that many dots a px


def make_ready() -> QGuiApplication:
    """The application that fonts and pictures need; on a platform without a display if there is none yet."""
    known = QGuiApplication.instance()
    if isinstance(known, QGuiApplication):
        return known
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    application = QGuiApplication(["redcrate"])
    load_fonts()
    return application


def drawing_image(drawing: Drawing, palette: Palette, scale: float = 1.0) -> QImage:
    """A picture of a drawing, `scale` dots for one px of it."""
    width, height = round(drawing.width * scale), round(drawing.height * scale)
    image = QImage(max(1, width), max(1, height), QImage.Format.Format_RGB32)
    image.fill(QColor(palette.paper))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.scale(scale, scale)
    paint(drawing, DrawingEnd(painter, palette=palette, ratio=scale))
    painter.end()
    return image


def write_png(drawing: Drawing, path: Path, palette: Palette, scale: float = 1.0) -> None:
    """Write a drawing as a PNG picture; raises PageNotWritable."""
    if not drawing_image(drawing, palette, scale).save(str(path), "PNG"):
        raise PageNotWritable(
            f"{path}: it cannot be written.", remedy="Check the permissions of the folder."
        )


def write_pdf(
    named: Sequence[tuple[str, Drawing]],
    path: Path,
    palette: Palette,
    pages: Sequence[PaperPage] | None = None,
    step: Callable[[], None] = lambda: None,
) -> None:
    """Write drawings as a PDF with a bookmark for each; raises PageNotWritable.

    named: what each bookmark says, and the drawing. pages: where they stand; else one a page as large as its drawing.
    step: called after each page; what it raises ends the work, and nothing is written.
    """
    drawings = [drawing for _, drawing in named]
    pages = pages_to_fit(drawings) if pages is None else pages
    data = _with_bookmarks(_pdf(drawings, pages, palette, step), [name for name, _ in named], pages)
    try:
        path.write_bytes(data)
    except OSError as problem:
        raise PageNotWritable(
            f"{path}: it cannot be written ({problem.strerror}).",
            remedy="Check the permissions of the folder.",
        ) from None


def _pdf(
    drawings: Sequence[Drawing], pages: Sequence[PaperPage], palette: Palette, step: Callable[[], None]
) -> bytes:
    buffer = QBuffer()
    buffer.open(QBuffer.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(_DOTS_PER_INCH)
    writer.setTitle(drawings[0].title if len(drawings) == 1 else f"{len(drawings)} drawings")
    writer.setCreator("Red Crate")
    painter = QPainter()
    for number, page in enumerate(pages):
        size = QPageSize(QSizeF(page.width, page.height), QPageSize.Unit.Point, "", _EXACT)
        writer.setPageSize(size)
        writer.setPageMargins(QMarginsF(0, 0, 0, 0))
        if number:
            writer.newPage()
        else:
            painter.begin(writer)
        paint_page(
            painter, page, f"{number + 1} of {len(pages)}", drawings, palette, _DOTS_PER_INCH / 72
        )
        step()
    painter.end()
    return bytes(buffer.data().data())


def paint_page(
    painter: QPainter,
    page: PaperPage,
    foot: str,
    drawings: Sequence[Drawing],
    palette: Palette,
    dots: float,
) -> None:
    """Paint one page of paper. foot: its number; dots: of the device for one pt."""
    for cell in page.cells:
        painter.resetTransform()
        painter.scale(dots, dots)
        painter.translate(cell.x, cell.y)
        painter.scale(cell.scale, cell.scale)
        drawing = drawings[cell.number]
        painter.fillRect(QRectF(0, 0, drawing.width, drawing.height), QColor(palette.paper))
        paint(drawing, DrawingEnd(painter, palette=palette, ratio=_FINE))
    if page.foot is not None:
        painter.resetTransform()
        painter.scale(dots, dots)
        label = Label(page.width / 2, page.foot, foot, 8, colour="second_ink", anchor="middle")
        DrawingEnd(painter, palette=palette, ratio=_FINE).label(label)


def _with_bookmarks(data: bytes, names: Sequence[str], pages: Sequence[PaperPage]) -> bytes:
    """The same file with an outline: the name of each drawing leads to its page."""
    writer = PdfWriter(clone_from=BytesIO(data))
    for number, page in enumerate(pages):
        for cell in page.cells:
            writer.add_outline_item(title=names[cell.number], page_number=number)
    out = BytesIO()
    writer.write(out)
    return out.getvalue()
