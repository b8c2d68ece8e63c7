"""`redcrate draw`: one file or many, named after their elements, never over another file."""

import xml.etree.ElementTree as ET
from pathlib import Path

from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from redcrate.cli.main import commands
from redcrate.core.diagram.file_names import file_names
from tests.conftest import DEMO

SVG = "{http://www.w3.org/2000/svg}"


def draw(*arguments: object) -> tuple[int, str]:
    """The exit status and the output of `redcrate draw`."""
    result = CliRunner().invoke(commands, ["draw", *(str(a) for a in arguments)])
    assert result.exception is None or isinstance(result.exception, SystemExit), result.exception
    return result.exit_code, result.output


def test_all_elements_into_a_folder(tmp_path: Path) -> None:
    """A drawing each, valid as XML, text as text; what else is in the folder stays; a second run asks first."""
    folder = tmp_path / "drawings"
    folder.mkdir()
    (folder / "mine.txt").write_text("keep")
    assert draw(DEMO, "--all", "-o", folder) == (0, f"wrote 44 drawings to {folder}\n")
    files = sorted(folder.glob("*.svg"))
    assert len(files) == 44 and (folder / "mine.txt").read_text() == "keep"
    notice = ET.parse(folder / "section.notice.svg").getroot()
    texts = [t.text for t in notice.iter(f"{SVG}text")]
    assert "section.notice" in texts and "border box 636" in texts
    before = (folder / "h1.svg").read_bytes()
    status, text = draw(DEMO, "--all", "--scale-mode", "true", "-o", folder)
    assert status == 2 and "it is there already" in text and (folder / "h1.svg").read_bytes() == before
    assert draw(DEMO, "--all", "--scale-mode", "true", "--force", "-o", folder)[0] == 0
    assert (folder / "h1.svg").read_bytes() != before


def test_chosen_ones(tmp_path: Path) -> None:
    """Several selectors, each element once in document order; one file has the first; plans of parts."""
    assert draw(DEMO, "--select", ".plot", "--select", "article, h1", "-o", tmp_path)[0] == 0
    names = {"h1.svg", "article.plot.svg", "article.plot-2.svg", "article.plot-3.svg"}
    assert {p.name for p in tmp_path.iterdir()} == names
    assert draw(DEMO, "--select", ".plot", "-o", tmp_path / "one.svg") == (0, "")
    one, first = (tmp_path / "one.svg").read_text(), (tmp_path / "article.plot.svg").read_text()
    assert one == first
    assert (
        draw(DEMO, "--kind", "plan", "--select", "#plots", "--depth", "1", "-o", tmp_path / "plans")[0]
        == 0
    )
    plan = (tmp_path / "plans" / "main-plots-plan.svg").read_text()
    assert "main#plots  1000 × 711.92" in plan and "1 level inside" in plan
    assert draw(DEMO, "--kind", "plan")[1].startswith("<svg")


def test_what_cannot_be_drawn_is_a_sentence(tmp_path: Path) -> None:
    """Nothing matches, no selector at all, no box, several drawings without a folder."""
    assert draw(DEMO, "--select", ".none")[0] == 2
    assert "is not understood" in draw(DEMO, "--select", "p[")[1]
    status, text = draw(DEMO, "--all")
    assert status == 2 and "44 drawings: name a folder" in text
    page = tmp_path / "p.html"
    page.write_text("<p id=n style='display:none'>x</p><p>y</p>")
    status, text = draw(page, "--select", "#n")
    assert status == 2 and "has no box to draw" in text
    assert draw(page, "--select", "p", "-o", tmp_path / "both") == (
        0,
        f"wrote 1 drawing to {tmp_path}/both\n",
    )
    assert draw(page, "-o", tmp_path / "x.gif")[0] == 2


def test_the_print_palette_has_no_grounds(tmp_path: Path) -> None:
    """Black and white alone, with the patterns."""
    assert draw(DEMO, "--select", ".notice", "--palette", "print", "-o", tmp_path / "n.svg")[0] == 0
    text = (tmp_path / "n.svg").read_text()
    colours = {part[:7].lower() for part in text.split('="#')[1:] for part in ["#" + part]}
    assert colours == {"#000000", "#ffffff"} and 'id="padding"' in text


@given(st.lists(st.text(max_size=90), max_size=12))
def test_names_are_safe_and_differ(labels: list[str]) -> None:
    """Whatever elements are called: plain characters, no path, no two alike where capitals count for nothing."""
    names = list(file_names(labels, ".svg"))
    assert len(names) == len(labels) and len({n.casefold() for n in names}) == len(names)
    assert all(n == Path(n).name and not n.startswith((".", "-")) and len(n) < 110 for n in names)
