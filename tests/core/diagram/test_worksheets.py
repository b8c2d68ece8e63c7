"""Worksheets: numbers are left out, names and givens are not, and the drawing itself is the key."""

from pathlib import Path

import pytest
from click.testing import CliRunner

from redcrate.cli.commands import commands
from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram
from redcrate.core.diagram.drawing import Drawing, Label
from redcrate.core.diagram.worksheet import Blank, worksheet
from redcrate.core.session import Session
from tests.conftest import DEMO


@pytest.fixture(scope="module")
def key() -> Drawing:
    """The notice of the demo."""
    page = Session(DEMO).views.page
    return box_diagram(
        page,
        next(e for e in page.elements if "notice" in e.classes),
        DiagramOptions(page_name="h1 / p2.html"),
    )


def texts(drawing: Drawing) -> dict[str, list[str]]:
    """The labels of each part."""
    found: dict[str, list[str]] = {}
    for part in drawing.parts:
        found.setdefault(part.name, []).extend(s.text for s in part.shapes if isinstance(s, Label))
    return found


def test_all_numbers_are_left_out(key: Drawing) -> None:
    """Of chains, sums and names; the CSS, the window and the page's name stay."""
    sheet = texts(worksheet(key, Blank.ALL))
    assert sheet["chain-across"] == ["__", "__", "__", "___ = width", "__", "__", "__"]
    assert sheet["content"] == ["content", "___ × ____"] and sheet["border-box-across"] == [
        "border box ___"
    ]
    assert sheet["names"] == ["border __", "__ solid", "padding", "margin"]
    assert sheet["title-block"] == texts(key)["title-block"]
    assert not any(c.isdigit() for c in worksheet(key, Blank.ALL).description)


def test_sums_alone_are_left_out(key: Drawing) -> None:
    """What the boxes come to is asked; their parts are given."""
    sheet, whole = texts(worksheet(key, Blank.SUMS)), texts(key)
    for name, labels in sheet.items():
        assert (labels == whole[name]) != ("-box-" in name)
    assert sheet["margin-box-down"] == ["margin box", "____"]


def test_the_command_draws_the_sheet_and_the_key(tmp_path: Path) -> None:
    """An option more for the sheet; in a report the sums in words are left open too, and what would tell them is not there."""

    def drawn(*more: str) -> str:
        return CliRunner().invoke(commands, ["draw", str(DEMO), "--select", ".notice", *more]).output

    assert "margin box 680" in drawn() and "margin box ___" in drawn("--blank", "sums")
    assert ">560 = width<" in drawn("--blank", "sums") and ">___ = width<" in drawn("--blank", "all")
    sums, every, key = (
        drawn(*b, "--format", "html") for b in (("--blank", "sums"), ("--blank", "all"), ())
    )
    assert "+ 560 content + 36 right padding" in sums and "= ___ px of 1000 px in main#plots" in sums
    assert "+ ___ content + __ right padding" in every and "1000 px in main" not in every
    assert "= 680 px of 1000 px" in key and "width: 560px" in key
    for sheet in (sums, every):
        assert "680" not in sheet and "width: 560px" not in sheet and "<h2>Findings" not in sheet
