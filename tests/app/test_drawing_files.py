"""Drawings as PNG and PDF: the sizes, the inks, and numbers that stay text."""

from pathlib import Path

from click.testing import CliRunner
from pypdf import PdfReader
from PyQt6.QtGui import QImage
from PyQt6.QtWidgets import QApplication

from redcrate.app.painting.drawing_files import drawing_image
from redcrate.cli.main import commands
from redcrate.cli.reading import load
from redcrate.core.diagram.box_diagram import box_diagram
from redcrate.core.diagram.codes import LIGHT, PRINT
from redcrate.core.units import format_px
from tests.conftest import DEMO, by_id


def draw(*arguments: object) -> tuple[int, str]:
    """The exit status and the output of `redcrate draw`."""
    result = CliRunner().invoke(commands, ["draw", *(str(a) for a in arguments)])
    assert result.exception is None or isinstance(result.exception, SystemExit), result.exception
    return result.exit_code, result.output


def test_a_pdf_has_a_page_for_each_and_its_numbers_as_text(qapp: QApplication, tmp_path: Path) -> None:
    """As large as its drawing; the report's width and height of each block can be searched for."""
    target = tmp_path / "all.pdf"
    assert draw(DEMO, "--all", "-o", target) == (0, "")
    reader, page = PdfReader(target), load(DEMO, 1100, 800)
    shown = [e for e in page.elements if page.box_of(e) is not None and e.tag != "br"]
    assert len(reader.pages) == len(shown) == 44
    for element, sheet in zip(shown, reader.pages, strict=True):
        drawing, box = box_diagram(page, element), page.box_of(element)
        assert box is not None
        words = sheet.extract_text().split()
        assert format_px(box.fragments[0].width) in words and format_px(box.fragments[0].height) in words
        assert abs(float(sheet.mediabox.width) - drawing.width * 0.75) <= 1


def test_a_png_is_as_fine_as_asked_for(qapp: QApplication, tmp_path: Path) -> None:
    """Its size times the scale; black on white alone for print, the part codes on the screen."""
    page = load(DEMO, 1100, 800)
    drawing = box_diagram(page, by_id(page, "tides"))
    assert draw(
        DEMO, "--select", "#tides", "--scale", "3", "--palette", "print", "-o", tmp_path / "t.png"
    ) == (0, "")
    image = QImage(str(tmp_path / "t.png"))
    assert (image.width(), image.height()) == (round(drawing.width * 3), round(drawing.height * 3))
    greys = [
        image.pixelColor(x, y) for x in range(0, image.width(), 7) for y in range(0, image.height(), 7)
    ]
    assert all(abs(c.red() - c.blue()) < 3 and abs(c.red() - c.green()) < 3 for c in greys)
    assert min(c.lightness() for c in greys) < 30 and max(c.lightness() for c in greys) == 255
    plain = drawing_image(drawing, LIGHT)
    assert plain.width() == round(drawing.width) and plain != drawing_image(drawing, PRINT)


def test_a_folder_of_pictures_and_what_cannot_be_written(qapp: QApplication, tmp_path: Path) -> None:
    """Named as the SVG files are; a folder that is none, and formats that contradict the file, are sentences."""
    assert draw(DEMO, "--select", ".plot", "--format", "png", "-o", tmp_path / "d")[0] == 0
    assert {p.name for p in (tmp_path / "d").iterdir()} == {
        f"article.plot{n}.png" for n in ("", "-2", "-3")
    }
    for name in ("no/where.pdf", "no/where.png", "no/where.svg"):
        status, text = draw(DEMO, "--select", "h1", "-o", tmp_path / name)
        assert status == 2 and "cannot be written" in text
    assert (
        "must be an .svg, .png or .pdf file"
        in draw(DEMO, "--format", "png", "-o", tmp_path / "x.pdf")[1]
    )
    assert "name the pdf file" in draw(DEMO, "--format", "pdf")[1]
    assert draw(DEMO, "--kind", "plan", "-o", tmp_path / "plan.pdf")[0] == 0
    assert "1100 of the window's 1100 px" in " ".join(
        PdfReader(tmp_path / "plan.pdf").pages[0].extract_text().split()
    )
