"""What a page holds gives no orders to terminals, spreadsheets and build servers."""

import csv
import io
import json
from pathlib import Path

import pytest
from click.testing import CliRunner, Result
from hypothesis import given
from hypothesis import strategies as st

from redcrate.cli.commands import commands
from redcrate.core.plain_output import csv_text, for_terminals, json_text
from redcrate.core.report import report_csv
from tests.conftest import PageOf

ACTING = "\x1b]0;owned\x07\x9b31m\u202e"


@given(st.text())
def test_nothing_acts_and_data_stays_data(text: str) -> None:
    """Whatever the text: no control character is left but tab and line feed; JSON gives it back."""
    shown = for_terminals(text)
    assert not [c for c in shown if c not in "\t\n" and (ord(c) < 32 or 0x7F <= ord(c) < 0xA0)]
    assert json.loads(json_text({"a": [text]})) == {"a": [text]}
    assert for_terminals(json_text(text)) == json_text(text)
    (row,) = csv.reader(io.StringIO(csv_text([[text, 5]])))
    assert (row[1] == "5" and not row[0].startswith(("=", "+", "@", "-"))) or row[0].lstrip(
        "+-"
    ).replace(".", "").isdigit()


@pytest.mark.parametrize(
    ("cell", "written"),
    [
        ("=1+1", "'=1+1"), ("+cmd|' /C calc'!A0", "'+cmd|' /C calc'!A0"), ("-2+3", "'-2+3"), ("@SUM(A1)", "'@SUM(A1)"),
        ("\tx", "'\tx"), ("-12.5", "-12.5"), ("+3", "+3"), (-4, "-4"), ("plain", "plain"), ("\x1b[2J", "'\\x1b[2J"),
    ],
)  # fmt: skip
def test_cells_that_would_be_computed_are_text(cell: object, written: str) -> None:
    """Numbers stay numbers."""
    ((found,),) = csv.reader(io.StringIO(csv_text([[cell]])))
    assert found == written


def test_reports_and_checks_of_a_page_that_tries(page_of: PageOf, tmp_path: Path) -> None:
    """Classes, ids, texts and file names: in every format of every command that prints them."""
    name = "=cmd" + "".join(c if c != " " else "" for c in ACTING)
    body = f"<p class='{name}' id='@x{ACTING}' style='widht: 5px'>{ACTING}</p><div style='height:5px'><div style='height: 50%'></div></div>"
    page = tmp_path / f"a b#{ACTING.replace('/', '')}%.html"
    page.write_text(f"<!doctype html><link rel=stylesheet href='{ACTING}.css'>{body}", encoding="utf-8")

    def run(*given: str) -> Result:
        return CliRunner().invoke(commands, [given[0], str(page), *given[1:]])

    outputs = [run("report", "--format", form) for form in ("json", "csv", "text")]
    outputs += [
        run("check", "--widths", "500", "--format", f) for f in ("text", "json", "sarif", "github")
    ]
    outputs += [
        run("sweep", "--select", "p", "--format", "csv"),
        run("draw", "--select", "p"),
    ]
    for result in outputs:
        assert result.exit_code in (0, 1), result.output
        assert not set(result.output) & set("\x1b\x07\x9b\u202e")
    assert ACTING in run("fix", "--family", "invalid-value").output, (
        "a diff that a program reads is exact"
    )
    sarif = json.loads(outputs[5].output)
    uri = sarif["runs"][0]["results"][0]["locations"][0]["physicalLocation"]["artifactLocation"]["uri"]
    assert "%20" in uri and "%23" in uri and "%1B" in uri and "%25.html" in uri
    rows = list(csv.reader(io.StringIO(report_csv(page_of("<p id='=1+1'>x", "")))))
    assert [row[2] for row in rows if row[1] == "p"] == ["'=1+1"]
