"""Makes every picture in docs/screenshots from the demo page, offscreen."""

import os
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from redcrate.app.painting.drawing_end import DrawingEnd  # noqa: E402
from redcrate.app.picture import picture_of_bench  # noqa: E402
from redcrate.app.window import Window  # noqa: E402
from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram  # noqa: E402
from redcrate.core.diagram.drawing import paint  # noqa: E402
from redcrate.core.session import Session  # noqa: E402
from redcrate.demo_pages import demo_page  # noqa: E402

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"


def typing(window: Window) -> None:
    """30 typed into the left padding, not entered yet."""
    from PyQt6.QtTest import QTest

    assert window.bench is not None
    field = window.bench.budget.cell("across", "padding", "left").field
    field.setFocus()
    QTest.keyClicks(field, "60")


def refused(window: Window) -> None:
    """A value that cannot be."""
    from PyQt6.QtTest import QTest

    assert window.bench is not None
    field = window.bench.budget.cell("across", "padding", "left").field
    field.setFocus()
    QTest.keyClicks(field, "12,5")


def diagram_picture(target: Path) -> None:
    """The box diagram of the notice as PNG."""
    from PyQt6.QtGui import QColor, QImage, QPainter

    session = Session(demo_page())
    notice = next(e for e in session.page.elements if "notice" in e.classes)
    drawing = box_diagram(session.page, notice, DiagramOptions(page_name="ploverfield / index.html"))
    image = QImage(round(drawing.width), round(drawing.height), QImage.Format.Format_RGB32)
    image.fill(QColor("#FBFAF6"))
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    paint(drawing, DrawingEnd(painter))
    painter.end()
    image.save(str(target))


def main() -> None:
    """All pictures."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    page = demo_page()
    picture_of_bench(page, FOLDER / "bench.png", select=".notice")
    picture_of_bench(page, FOLDER / "bench-typing.png", select=".notice", prepare=typing)
    picture_of_bench(page, FOLDER / "bench-refused.png", select=".tides", prepare=refused)
    picture_of_bench(page, FOLDER / "bench-narrow.png", select=".path", width=390)
    picture_of_bench(page, FOLDER / "bench-inline.png", select="em")
    diagram_picture(FOLDER / "box-diagram.png")


if __name__ == "__main__":
    main()
