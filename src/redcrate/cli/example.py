"""The whole example on the demo page, without a display: reports, drawings, a picture of the window."""

import json
import os
from pathlib import Path

from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram, has_box
from redcrate.core.diagram.codes import PRINT
from redcrate.core.diagram.page_plan import PlanOptions, page_plan
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.diagram.sweep_plot import sweep_plot
from redcrate.core.files.loading import assemble, read_page
from redcrate.core.files.resources import Resources
from redcrate.core.files.trial import Trial
from redcrate.core.findings.checking import Fixes, check_page
from redcrate.core.handout import html_report
from redcrate.core.page import Page, compute_page
from redcrate.core.report import box_report, report_text
from redcrate.core.style.media import DEFAULT_WIDTHS, Viewport
from redcrate.core.widths.standing_at import Quantity
from redcrate.core.widths.sweep import Sweep
from redcrate.core.widths.sweep_report import sweep_json

_WIDTH, _HEIGHT = 1100, 800


def run_example(page_path: Path, folder: Path) -> list[Path]:
    """Write the example's results into `folder`; returns the files.

    Raises RedCrateError if the demo page cannot be read.
    """
    folder.mkdir(parents=True, exist_ok=True)
    source = assemble(read_page(page_path).source, Resources(page_path)).page
    page = compute_page(source, Viewport(_WIDTH, _HEIGHT))
    name = f"{page_path.parent.name}/{page_path.name}"
    written = [
        _write(folder / "report.json", json.dumps(box_report(page, name), indent=1) + "\n"),
        _write(folder / "report.txt", report_text(page, name)),
        _write(folder / "notice-diagram.svg", _diagram(page, name)),
        _write(folder / "boxes.html", _handout(page_path, page, name)),
        _write(
            folder / "page-plan.svg", drawing_svg(page_plan(page, None, PlanOptions(page_name=name)))
        ),
    ]
    written += _sweep(page_path, page_path.name, folder)
    picture = folder / "window.png"
    _picture(page_path, picture)
    plan = folder / "page-plan.pdf"
    _plan_pdf(page, name, plan)
    return [*written, picture, plan]


def _write(path: Path, text: str) -> Path:
    path.write_text(text, encoding="utf-8")
    return path


def _diagram(page: Page, name: str) -> str:
    element = next(e for e in page.elements if "notice" in e.classes)
    return drawing_svg(box_diagram(page, element, DiagramOptions(page_name=name)))


def _sweep(path: Path, name: str, folder: Path) -> list[Path]:
    """How a plot changes with the window's width: as numbers, and as a plot."""
    trial = Trial.of_file(path)
    page = trial.page(Viewport(1600, _HEIGHT))
    plot = next(e for e in page.elements if "plot" in e.classes)
    sweep = Sweep.of_trial(trial, _HEIGHT, 320, 1600, plot.path)
    for _ in sweep.run():
        pass
    numbers = json.dumps(sweep_json(sweep.swept, page, name), indent=1) + "\n"
    drawing = drawing_svg(sweep_plot(sweep.swept, Quantity.WIDTH, name))
    return [_write(folder / "plot-sweep.json", numbers), _write(folder / "plot-sweep.svg", drawing)]


def _handout(path: Path, page: Page, name: str) -> str:
    """The HTML report of every box, with the findings at the usual widths."""
    found = check_page(path, (_WIDTH, *DEFAULT_WIDTHS), _HEIGHT, fixes=Fixes.NONE)
    shown = [e for e in page.elements if has_box(page, e)]
    return html_report(page, name, shown, [c.held for c in found.checked])


def _plan_pdf(page: Page, name: str, target: Path) -> None:
    from redcrate.app.painting.drawing_files import write_pdf

    write_pdf([("page plan", page_plan(page, None, PlanOptions(page_name=name)))], target, PRINT)


def _picture(page_path: Path, target: Path) -> None:
    """A PNG of the real window at 1280 × 800, drawn offscreen."""
    os.environ["QT_QPA_PLATFORM"] = "offscreen"
    from redcrate.app.picture import picture_of_bench

    picture_of_bench(page_path, target, select=".notice")
