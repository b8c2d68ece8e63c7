"""Drawings as PNG and PDF: the sizes, the inks, and numbers that stay text."""

from itertools import combinations
from pathlib import Path

from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QPainter
from PyQt6.QtSvg import QSvgRenderer
from PyQt6.QtWidgets import QApplication

from redcrate.app.painting.drawing_files import drawing_image
from redcrate.cli.commands import commands
from redcrate.cli.reading import load
from redcrate.core.diagram.box_diagram import box_diagram
from redcrate.core.diagram.codes import LIGHT, PRINT
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.label_places import Place
from redcrate.core.diagram.paper import MOST_ON_A_PAGE, PAPERS, pages_of
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
        "must be an .svg, .png, .pdf or .html file"
        in draw(DEMO, "--format", "png", "-o", tmp_path / "x.pdf")[1]
    )
    assert "Give the name of the pdf file" in draw(DEMO, "--format", "pdf")[1]
    assert draw(DEMO, "--kind", "plan", "-o", tmp_path / "plan.pdf")[0] == 0
    assert "1100 of the viewport's 1100 px" in " ".join(
        PdfReader(tmp_path / "plan.pdf").pages[0].extract_text().split()
    )


def test_sheets_of_paper_hold_several_with_a_bookmark_each(qapp: QApplication, tmp_path: Path) -> None:
    """A4 lying or upright, all on it and none smaller than need be; bookmarks lead to the pages by selector."""
    target = tmp_path / "a4.pdf"
    assert (
        draw(
            DEMO, "--select", "article, section, aside, h1", "--paper", "a4", "--each", "2", "-o", target
        )[0]
        == 0
    )
    reader, page = PdfReader(target), load(DEMO, 1100, 800)
    shown = [e for e in page.elements if e.tag in ("article", "section", "aside", "h1")]
    assert len(reader.pages) == (len(shown) + 1) // 2
    for sheet in reader.pages:
        sides = sorted((float(sheet.mediabox.width), float(sheet.mediabox.height)))
        assert abs(sides[0] - 595.28) < 1 and abs(sides[1] - 841.89) < 1
    marks = [o for o in reader.outline if not isinstance(o, list)]
    assert [m.title for m in marks] == [e.label for e in shown]
    assert [reader.get_destination_page_number(m) for m in marks] == [n // 2 for n in range(len(shown))]
    assert f"2 of {len(reader.pages)}" in " ".join(reader.pages[1].extract_text().split())


@given(
    st.lists(st.tuples(st.floats(60, 3000), st.floats(60, 3000)), min_size=1, max_size=30),
    st.sampled_from(sorted(PAPERS)),
    st.integers(1, MOST_ON_A_PAGE),
)
def test_drawings_keep_inside_their_cells(
    sizes: list[tuple[float, float]], name: str, each: int
) -> None:
    """On any paper: each once, in order, inside the page, none over another or larger than itself."""
    drawings = [Drawing(w, h, (), "x") for w, h in sizes]
    pages = pages_of(drawings, PAPERS[name], each)
    assert [c.number for p in pages for c in p.cells] == list(range(len(drawings)))
    for sheet in pages:
        assert 1 <= len(sheet.cells) <= each
        places = []
        for cell in sheet.cells:
            assert 0 < cell.scale <= 0.75
            drawing = drawings[cell.number]
            places.append(
                Place(
                    cell.x, cell.y, drawing.width * cell.scale - 1e-6, drawing.height * cell.scale - 1e-6
                )
            )
        for place in places:
            assert place.x >= 20 and place.x + place.width <= sheet.width - 20
            assert place.y >= 20 and place.y + place.height <= sheet.height - 20
        assert not any(a.meets(b) for a, b in combinations(places, 2))


def test_svg_and_png_show_the_same(qapp: QApplication, tmp_path: Path) -> None:
    """Both rasterised: the same ink in the same places, but for the edges of letters."""
    for name, arguments in {
        "a": ("--select", ".notice"),
        "b": ("--kind", "plan"),
        "c": ("--select", "nav a"),
    }.items():
        for ending in ("svg", "png"):
            assert draw(DEMO, *arguments, "-o", tmp_path / f"{name}.{ending}")[0] == 0
        png = QImage(str(tmp_path / f"{name}.png")).convertToFormat(QImage.Format.Format_Grayscale8)
        svg = QImage(png.size(), QImage.Format.Format_RGB32)
        painter = QPainter(svg)
        QSvgRenderer(str(tmp_path / f"{name}.svg")).render(painter)
        painter.end()
        svg = svg.convertToFormat(QImage.Format.Format_Grayscale8)
        small = [
            i.scaled(
                i.width() // 6, i.height() // 6, transformMode=Qt.TransformationMode.SmoothTransformation
            )
            for i in (png, svg)
        ]
        greys = [
            [i.pixelColor(x, y).lightness() for y in range(i.height()) for x in range(i.width())]
            for i in small
        ]
        unlike = sum(abs(one - other) > 40 for one, other in zip(*greys, strict=True))
        assert unlike / len(greys[0]) < 0.01, name
        assert min(greys[0]) < 200, "nothing is drawn"
