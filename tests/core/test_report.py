"""The report's shape, and the drawing's numbers."""

import csv
import io
import json
from importlib.resources import files
from pathlib import Path

import jsonschema
import pytest
from click.testing import CliRunner

from redcrate.cli.commands import commands
from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram
from redcrate.core.diagram.drawing import Recorder, paint
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.report import box_report, report_csv
from tests.conftest import CASES, DEMO, PageOf, by_id, load

SCHEMA = json.loads((files("redcrate.core") / "report_schema.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize(
    "name", ["gen-mixed-001", "display-none-and-visibility-hidden", "position-fixed"]
)
def test_report_has_its_fixed_shape(name: str) -> None:
    """The schema holds, and elements are listed in document order."""
    report = box_report(load(CASES / f"{name}.html"), name)
    jsonschema.validate(report, SCHEMA)
    assert [e["index"] for e in report["elements"]] == list(range(len(report["elements"])))


def test_csv_has_a_line_for_each_element() -> None:
    """The same numbers as the JSON."""
    page = load(DEMO, 1100)
    rows = list(csv.DictReader(io.StringIO(report_csv(page))))
    assert len(rows) == len(page.elements)
    first = box_report(page, "x")["elements"][5]
    assert float(rows[5]["width"]) == first["border_box"]["width"]


def test_batch_prints_one_object_a_line(tmp_path: Path) -> None:
    """Pages that fail are objects with an error, and the order is kept."""
    listing = tmp_path / "list"
    listing.write_text(f"{DEMO}\t1100\t800\n{tmp_path}/none.html\t10\t10\nrubbish\n")
    result = CliRunner().invoke(commands, ["report", "--batch", str(listing)])
    lines = [json.loads(line) for line in result.output.splitlines()]
    assert result.exit_code == 0 and len(lines) == 3
    jsonschema.validate(lines[0], SCHEMA)
    assert "no such file" in lines[1]["error"] and "tabs" in lines[2]["error"]


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["report", "none.html"], "no such file"),
        (["draw", str(DEMO), "--select", ".nowhere"], "no element matches"),
        (["draw", str(DEMO), "--select", "]["], "invalid or unknown"),
        (["report", "--batch", "none"], "cannot be read"),
    ],
)
def test_errors_are_sentences_with_status_2(arguments: list[str], says: str) -> None:
    """No traceback on the command line."""
    result = CliRunner().invoke(commands, arguments)
    assert result.exit_code == 2
    assert says in result.output and "Traceback" not in result.output


def test_draw_writes_svg(tmp_path: Path) -> None:
    """Text stays text; the sums are those of the report."""
    target = tmp_path / "d.svg"
    arguments = ["draw", str(DEMO), "--select", ".notice", "-o", str(target)]
    assert CliRunner().invoke(commands, arguments).exit_code == 0
    svg = target.read_text(encoding="utf-8")
    assert ">border box 636</text>" in svg and 'id="fill-padding"' in svg


def test_diagram_shows_every_number_of_the_equation(page_of: PageOf) -> None:
    """Values, sums, the written value beside the used one, and outlines that take no room."""
    page = page_of(
        "<div id='a'>x</div>",
        "#a { width: 50%; padding: 3px 7px 5px 11px; border: solid 2px; margin: 13px; outline: 1px solid }",
    )
    recorder = Recorder()
    paint(box_diagram(page, by_id(page, "a"), DiagramOptions(page_name="x")), recorder)
    texts = [line[5:] for line in recorder.lines if line.startswith("text ")]
    for wanted in ("padding box 518", "border box 522", "margin box 548", "50% → 500", "7", "11",
                   "outside layout", "div#a", "at width 1000 px", "written 50% · content-box"):  # fmt: skip
        assert wanted in texts, texts
    fills = [line.split()[1] for line in recorder.lines if line.startswith("area")]
    assert fills[:4] == ["margin", "border", "padding", "content"]
    assert drawing_svg(box_diagram(page, by_id(page, "a"), DiagramOptions(to_scale=True))).startswith(
        "<svg"
    )
