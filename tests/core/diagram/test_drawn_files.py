"""`redcrate draw`: one file or many, named after their elements, never over another file."""

import xml.etree.ElementTree as ET
from pathlib import Path

from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

from redcrate.cli.commands import commands
from redcrate.core.diagram.file_names import file_names
from tests.conftest import DEMO

SVG = "{http://www.w3.org/2000/svg}"


def draw(*arguments: object) -> tuple[int, str]:
    """The exit status and the output of `redcrate draw`."""
    result = CliRunner().invoke(commands, ["draw", *(str(a) for a in arguments)])
    assert result.exception is None or isinstance(result.exception, SystemExit), result.exception
    return result.exit_code, result.output


def texts_in(path: Path) -> list[str]:
    """All texts of an SVG file."""
    return [t.text or "" for t in ET.parse(path).getroot().iter(f"{SVG}text")]


def test_all_elements_into_a_folder(tmp_path: Path) -> None:
    """A drawing each, valid as XML, text as text; what else is in the folder stays; a second run asks first."""
    folder = tmp_path / "drawings"
    folder.mkdir()
    (folder / "mine.txt").write_text("keep")
    assert draw(DEMO, "--all", "-o", folder) == (0, f"exported 44 drawings to {folder}\n")
    files = sorted(folder.glob("*.svg"))
    assert len(files) == 44 and (folder / "mine.txt").read_text() == "keep"
    notice = ET.parse(folder / "section.notice.svg").getroot()
    texts = [t.text for t in notice.iter(f"{SVG}text")]
    assert "section.notice" in texts and "border box 636" in texts
    before = (folder / "h1.svg").read_bytes()
    status, text = draw(DEMO, "--all", "--scale-mode", "true", "-o", folder)
    assert status == 2 and "already exists" in text and (folder / "h1.svg").read_bytes() == before
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
    """Nothing matches, not a selector at all, no box, several drawings without a folder."""
    assert draw(DEMO, "--select", ".none")[0] == 2
    assert "is invalid or unknown" in draw(DEMO, "--select", "p[")[1]
    status, text = draw(DEMO, "--all")
    assert status == 2 and "44 drawings: give a folder" in text
    page = tmp_path / "p.html"
    page.write_text("<p id=n style='display:none'>x</p><p>y</p>")
    assert "p#n has no box: display: none." in draw(page, "--select", "#n")[1]
    assert (
        draw(page, "--select", "p", "-o", tmp_path / "two")[1]
        == f"exported 2 drawings to {tmp_path}/two\n"
    )
    assert (
        draw(page, "--all", "-o", tmp_path / "shown")[1] == f"exported 3 drawings to {tmp_path}/shown\n"
    )
    status, text = draw(page, "--kind", "steps", "--select", "#n")
    assert status == 2 and "no box of its own to add up" in text
    for wrong in (("--kind", "compare"), ("--with-width", "500"), ("--each", "4"), ("--against", DEMO)):
        assert draw(page, *wrong)[0] == 2
    (tmp_path / "there.svg").write_text("mine")
    status, text = draw(page, "-o", tmp_path / "there.svg")
    assert status == 2 and "--force" in text and (tmp_path / "there.svg").read_text() == "mine"
    assert draw(page, "-o", tmp_path / "x.gif")[0] == 2


def test_each_part_is_a_group_with_an_id(tmp_path: Path) -> None:
    """Of every drawing: valid XML, title and description, ids that differ, also where one HTML file holds many."""
    assert draw(DEMO, "--all", "-o", tmp_path / "all")[0] == 0
    for path in (tmp_path / "all").iterdir():
        root = ET.parse(path).getroot()
        ids = [e.get("id") for e in root.iter() if e.get("id")]
        assert len(ids) == len(set(ids)) and {"title", "desc", "title-block"} <= set(ids)
        title, desc = root.find(f"{SVG}title"), root.find(f"{SVG}desc")
        assert title is not None and (title.text or "").startswith("Box diagram of ")
        assert desc is not None and (desc.text or "").endswith(" px")


def test_what_no_xml_may_hold_is_replaced(tmp_path: Path) -> None:
    """Names and values with control characters, lone surrogates and markup: valid all the same."""
    page = tmp_path / "p.html"
    page.write_bytes(
        b"<!doctype html><meta charset=utf-8><p class='a\x01b\x7f' id='&lt;&amp;&#xFFFF;'>x"
    )
    assert draw(page, "--select", "p", "-o", tmp_path / "p.svg")[0] == 0
    assert any("\ufffd" in text and "<&" in text for text in texts_in(tmp_path / "p.svg"))


def test_steps_add_one_part_at_a_time(tmp_path: Path) -> None:
    """Each with its sum; last the other sizing mode, with the box that width then means."""
    page = tmp_path / "p.html"
    page.write_text(
        "<!doctype html><body><div style='width: 200px; height: 50px; padding: 10px 20px; border: 2px solid; margin: -5px'>"
    )
    assert draw(page, "--kind", "steps", "--select", "div", "-o", tmp_path / "s.svg")[0] == 0
    texts = texts_in(tmp_path / "s.svg")
    for words in ("1  content (content-box)", "2  + padding", "3  + border", "4  + margin",
                  "5  the same values with border-box", "across: content 200 = width",
                  "across: 20 + 200 + 20 = padding box 240", "down: 2 + 10 + 50 + 10 + 2 = border box 74",
                  "across: (-5) + 2 + 20 + 200 + 20 + 2 + (-5) = margin box 234",
                  "across: 2 + 20 + 156 + 20 + 2 = border box 200 = width"):  # fmt: skip
        assert words in texts, texts
    page.write_text("<!doctype html><body><div style='width: 0; padding: 20px'>")
    assert draw(page, "--kind", "steps", "--select", "div", "-o", tmp_path / "z.svg")[0] == 0
    assert "across: 20 + 0 + 20 = padding box 40" in texts_in(tmp_path / "z.svg")
    page.write_text(
        "<!doctype html><style>p { box-sizing: border-box !important; margin: 0 }</style><p>x"
    )
    assert draw(page, "--kind", "steps", "--all", "-o", tmp_path / "all")[0] == 0
    names = {p.name for p in (tmp_path / "all").iterdir()}
    assert names == {"html-steps.svg", "body-steps.svg", "p-steps.svg"}
    assert not any("the same values" in t for t in texts_in(tmp_path / "all" / "p-steps.svg"))


def test_before_and_after(tmp_path: Path) -> None:
    """Two widths, or two states of a page: each number that differs stands in the later figure and in the list."""
    wide = (
        "<!doctype html><body style='margin: 0'><div id=a style='width: 50%; padding: 5px'>x</div><p>y"
    )
    (tmp_path / "old.html").write_text(wide)
    (tmp_path / "new.html").write_text(wide.replace("padding: 5px", "padding: 5px 8px 5px 5px"))
    new = tmp_path / "new.html"
    arguments = ("--kind", "compare", "--select", "#a", "--width", "800")
    assert draw(new, *arguments, "--with-width", "600", "-o", tmp_path / "w.svg")[0] == 0
    texts = texts_in(tmp_path / "w.svg")
    assert {
        "at width 600 px",
        "at width 800 px",
        "content width 300 → 400 (+100)",
        "400 (+100) = width",
    } <= set(texts)
    assert draw(new, *arguments, "--against", tmp_path / "old.html", "-o", tmp_path / "s.svg")[0] == 0
    texts = texts_in(tmp_path / "s.svg")
    wanted = {
        "Differences",
        "padding-right 5 → 8 (+3)",
        "border box width 410 → 413 (+3)",
        "8 (+3)",
        "5",
    }
    assert wanted <= set(texts) and not any("padding-left" in t for t in texts)
    assert draw(new, *arguments, "--against", new, "-o", tmp_path / "n.svg")[0] == 0
    assert "The numbers of this box are equal." in texts_in(tmp_path / "n.svg")
    (tmp_path / "gone.html").write_text("<!doctype html><body><p>only")
    status, text = draw(new, *arguments, "--against", tmp_path / "gone.html")
    assert status == 2 and "is not on the other page" in text


def test_the_print_palette_has_no_grounds(tmp_path: Path) -> None:
    """Black and white alone, with the patterns."""
    assert draw(DEMO, "--select", ".notice", "--palette", "print", "-o", tmp_path / "n.svg")[0] == 0
    text = (tmp_path / "n.svg").read_text()
    colours = {part[:7].lower() for part in text.split('="#')[1:] for part in ["#" + part]}
    assert colours == {"#000000", "#ffffff"} and 'id="fill-padding"' in text


@given(st.lists(st.text(max_size=90), max_size=12))
def test_names_are_safe_and_differ(labels: list[str]) -> None:
    """Whatever elements are called: plain characters, no path, no two alike where capitals count for nothing."""
    names = list(file_names(labels, ".svg"))
    assert len(names) == len(labels) and len({n.casefold() for n in names}) == len(names)
    assert all(n == Path(n).name and not n.startswith((".", "-")) and len(n) < 110 for n in names)
