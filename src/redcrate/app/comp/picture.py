"""Reading a comp: PNG, JPEG, WebP or SVG."""

from pathlib import Path

from PyQt6.QtCore import QByteArray, Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtSvg import QSvgRenderer

from redcrate.core.errors import RedCrateError
from redcrate.core.files.reading import read_regular, reason_of
from redcrate.core.files.vector_pictures import harmless

ENDINGS = (".png", ".jpg", ".jpeg", ".webp", ".svg")
_MOST_PX = 16_000  # of a side


class CompNotReadable(RedCrateError):
    """A picture that cannot be laid over the page."""


def read_comp(path: Path) -> QImage:
    """The picture in a file, 24 bits a px. Raises CompNotReadable."""
    try:
        data = read_regular(path)
    except OSError as problem:
        raise CompNotReadable(
            f"{path.name} cannot be read: {reason_of(problem)}.", remedy="Choose a picture again."
        ) from None
    found = _drawn(data) if path.suffix.lower() == ".svg" else QImage.fromData(data)
    if found is None or found.isNull():
        raise CompNotReadable(
            f"{path.name} is not a picture that Red Crate reads.",
            remedy="Choose a PNG, JPEG, WebP or SVG file.",
        )
    if max(found.width(), found.height()) > _MOST_PX:
        raise CompNotReadable(
            f"{path.name} has more than {_MOST_PX} px on a side.", remedy="Save it smaller."
        )
    return found.convertToFormat(QImage.Format.Format_RGB888)


def _drawn(data: bytes) -> QImage | None:
    """An SVG at its own size, on white."""
    vectors = harmless(data)
    if vectors is None:
        return None
    renderer = QSvgRenderer(QByteArray(vectors))
    size = renderer.defaultSize()
    if not renderer.isValid() or size.isEmpty() or max(size.width(), size.height()) > _MOST_PX:
        return None
    image = QImage(size, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    renderer.render(painter)
    painter.end()
    return image
