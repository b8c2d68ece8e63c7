"""Drawings as PNG and PDF files, without a display."""

import os
from collections.abc import Sequence
from pathlib import Path

from PyQt6.QtCore import QMarginsF, QSizeF
from PyQt6.QtGui import QColor, QGuiApplication, QImage, QPageSize, QPainter, QPdfWriter

from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.theme.look import load_fonts
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Drawing, paint
from redcrate.core.errors import PageNotWritable

_PT_PER_PX = 0.75  # CSS Values 4 §6.2
_DOTS_PER_INCH = 1200
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
        raise PageNotWritable(f"{path}: it cannot be written.", remedy="Look at the folder's rights.")


def write_pdf(drawings: Sequence[Drawing], path: Path, palette: Palette) -> None:
    """Write drawings as a PDF, one a page, each page as large as its drawing; raises PageNotWritable."""
    try:
        path.open("ab").close()
    except OSError as problem:
        raise PageNotWritable(
            f"{path}: it cannot be written ({problem.strerror}).", remedy="Look at the folder's rights."
        ) from None
    writer = QPdfWriter(str(path))
    writer.setResolution(_DOTS_PER_INCH)
    writer.setTitle(drawings[0].title if len(drawings) == 1 else f"{len(drawings)} drawings")
    writer.setCreator("Red Crate")
    painter = QPainter()
    for number, drawing in enumerate(drawings):
        _take_size(writer, drawing)
        if number:
            writer.newPage()
        else:
            painter.begin(writer)
        dots = _DOTS_PER_INCH * _PT_PER_PX / 72
        painter.resetTransform()
        painter.scale(dots, dots)
        paint(drawing, DrawingEnd(painter, palette=palette, ratio=_FINE))
    painter.end()


def _take_size(writer: QPdfWriter, drawing: Drawing) -> None:
    """The next page is as large as the drawing."""
    size = QSizeF(drawing.width * _PT_PER_PX, drawing.height * _PT_PER_PX)
    exact = QPageSize.SizeMatchPolicy.ExactMatch
    writer.setPageSize(QPageSize(size, QPageSize.Unit.Point, "", exact))
    writer.setPageMargins(QMarginsF(0, 0, 0, 0))
