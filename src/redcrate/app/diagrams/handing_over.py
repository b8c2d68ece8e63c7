"""Handing drawings over: files of every kind and printed pages, made off the interface thread."""

import json
from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtGui import QPainter
from PyQt6.QtPrintSupport import QPrinter

from redcrate.app.background_task import Step
from redcrate.app.painting.drawing_files import paint_page, write_pdf, write_png
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.file_names import file_names
from redcrate.core.diagram.paper import Paper, pages_of
from redcrate.core.diagram.series import Series
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.errors import FileIsThere, PageNotWritable
from redcrate.core.files.saving import write_made
from redcrate.core.files.settings import PageSettings
from redcrate.core.files.trial import Trial
from redcrate.core.findings.at_widths import Held, held_at
from redcrate.core.findings.checking import is_told
from redcrate.core.findings.register import findings_of
from redcrate.core.handout import ReportOptions, html_report
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.report import box_report, report_csv
from redcrate.core.style.media import Viewport
from redcrate.core.units import counted


@dataclass(frozen=True, slots=True, eq=False)
class Goods:
    """What is handed over: drawings of the elements, in a palette. force: whether files may be written over."""

    series: Series
    elements: tuple[Element, ...]
    palette: Palette
    force: bool = False

    def named(self, step: Step) -> list[tuple[str, Drawing]]:
        """All drawings with the names of their elements."""
        drawings = []
        for number, element in enumerate(self.elements):
            drawings.append((element.label, self.series.sheet(element)))
            step(number + 1, len(self.elements))
        return drawings


def write_folder(goods: Goods, folder: Path, ending: str, scale: float, step: Step) -> str:
    """An SVG or PNG file each, named after the elements. Raises FileIsThere, PageNotWritable."""
    paths = [folder / name for name in file_names((e.label for e in goods.elements), ending)]
    there = next((p for p in paths if p.exists()), None)
    if there is not None and not goods.force:
        raise FileIsThere(
            f"{there.name} already exists in {folder.name}: nothing was exported.",
            remedy="Choose another folder, or select “Overwrite existing files”.",
        )
    for number, (path, element) in enumerate(zip(paths, goods.elements, strict=True)):
        drawing = goods.series.sheet(element)
        if ending == ".png":
            write_png(drawing, path, goods.palette, scale)
        else:
            write_made(path, drawing_svg(drawing, goods.palette))
        step(number + 1, len(paths))
    drawings = counted(len(paths), "1 drawing", "{count} drawings")
    return f"Exported {drawings} to {folder.name}."


def write_pdf_file(goods: Goods, path: Path, paper: Paper | None, each: int, step: Step) -> str:
    """One PDF. Raises PageNotWritable."""
    total = 2 * len(goods.elements)
    named = goods.named(lambda done, _: step(done, total))
    pages = None if paper is None else pages_of([d for _, d in named], paper, each)
    count = len(named) if pages is None else len(pages)
    written = iter(range(1, count + 1))
    half = len(goods.elements)
    write_pdf(
        named, path, goods.palette, pages, lambda: step(half + half * next(written) // count, total)
    )
    drawings = counted(len(named), "1 drawing", "{count} drawings")
    return f"Exported {drawings} to {path.name}."


@dataclass(frozen=True, slots=True, eq=False)
class Checking:
    """What the findings of a report are looked for in: the page at these widths, px."""

    trial: Trial
    widths: Sequence[float]
    settings: PageSettings

    def held(self, series: Series, step: Callable[[], None]) -> tuple[Held, ...]:
        """The findings that are not silenced. step: called before each width; what it raises ends the work."""
        page, found = series.page, {}
        for width in self.widths:
            step()
            at = page
            if width != page.viewport.width:
                at = self.trial.page(Viewport(width, page.viewport.height), page)
            found[width] = tuple(
                f for f in findings_of(at, self.trial.texts) if is_told(f, self.settings)
            )
        return held_at(found)


def write_report(goods: Goods, path: Path, checking: Checking, step: Step) -> str:
    """The HTML report. Raises PageNotWritable."""
    count = len(goods.elements)
    tells = goods.series.blank is None  # a worksheet tells no findings
    held = checking.held(goods.series, lambda: step(0, count)) if tells else ()
    series = goods.series
    options = ReportOptions(series.options, goods.palette, series.depth, series.blank)
    name = goods.series.options.page_name
    text = html_report(
        goods.series.page, name, goods.elements, held, options, lambda done: step(done, count)
    )
    write_made(path, text)
    elements = counted(count, "1 element", "{count} elements")
    return f"Exported the report of {elements} to {path.name}."


def write_boxes(goods: Goods, path: Path, step: Step) -> str:
    """All boxes of the page as CSV or JSON. Raises PageNotWritable."""
    page, name = goods.series.page, goods.series.options.page_name
    step(0, 1)
    is_csv = path.suffix.lower() == ".csv"
    write_made(path, report_csv(page) if is_csv else json.dumps(box_report(page, name), indent=1) + "\n")
    step(1, 1)
    return f"Exported the boxes of {len(page.elements)} elements to {path.name}."


def print_pages(goods: Goods, printer: QPrinter, each: int, step: Step) -> str:
    """Print the drawings on the printer's paper. Raises PageNotWritable."""
    named = goods.named(step)
    points = printer.pageLayout().fullRectPoints()
    upright = Paper(*sorted((float(points.width()), float(points.height()))))
    drawings = [d for _, d in named]
    pages = pages_of(drawings, upright, each)
    lies = pages[0].width > pages[0].height
    printer.setFullPage(True)
    layout = printer.pageLayout()
    layout.setOrientation(layout.Orientation.Landscape if lies else layout.Orientation.Portrait)
    printer.setPageLayout(layout)
    painter = QPainter(printer)
    if not painter.isActive():
        raise PageNotWritable(
            "the printer does not accept pages.", remedy="Check the printer, or export a PDF."
        )
    for number, page in enumerate(pages):
        if number:
            printer.newPage()
        foot = f"{number + 1} of {len(pages)}"
        paint_page(painter, page, foot, drawings, goods.palette, printer.resolution() / 72)
    painter.end()
    return counted(len(pages), "Sent 1 page to the printer.", "Sent {count} pages to the printer.")
