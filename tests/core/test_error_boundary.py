"""A error in Red Crate's own ends at the core's entry: one error, one sentence, nothing changed."""

import json
from pathlib import Path
from typing import Any

import pytest
from click.testing import CliRunner

from redcrate.cli.commands import commands
from redcrate.core import page as page_module
from redcrate.core.boxes.box import Box
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.errors import LayoutBug
from redcrate.core.findings import findings_of
from redcrate.core.findings.finding import Family
from redcrate.core.findings.register import FAMILIES
from redcrate.core.layout.engine import layout_page
from redcrate.core.session import Change, Session
from tests.conftest import PageOf, box


def failing(root: Box) -> None:
    """Stands for a layout that goes wrong at the first paragraph."""
    paragraph = next(b for b in root.walk() if b.element is not None and b.element.tag == "p")
    raise KeyError(paragraph.text)


@pytest.fixture
def two_pages(tmp_path: Path) -> list[Path]:
    """A page with a paragraph and one without."""
    pages = []
    for name, body in (("a", "<p id='p' style='width: 30px'>x</p>"), ("b", "<div>x</div>")):
        path = tmp_path / f"{name}.html"
        path.write_text(f"<!doctype html>{body}", encoding="utf-8")
        pages.append(path)
    return pages


def fail_on_paragraphs(monkeypatch: pytest.MonkeyPatch) -> None:
    """Make the layout of every page with a paragraph fail."""
    real = layout_page

    def layout(root: Box, *given: Any) -> object:
        has_paragraph = any(b.element is not None and b.element.tag == "p" for b in root.walk())
        return failing(root) if has_paragraph else real(root, *given)

    monkeypatch.setattr(page_module, "layout_page", layout)


def test_an_unexpected_exception_names_page_element_and_cause(
    two_pages: list[Path], monkeypatch: pytest.MonkeyPatch
) -> None:
    """It is one of our errors, with the element that was worked on."""
    fail_on_paragraphs(monkeypatch)
    with pytest.raises(LayoutBug) as caught:
        Session(two_pages[0])
    assert caught.value.page == "a.html"
    assert caught.value.element == "p#p"
    assert isinstance(caught.value.cause, KeyError)
    assert "p#p" in caught.value.sentence and "error in Red Crate" in caught.value.sentence


def test_a_batch_goes_on_behind_a_fault(two_pages: list[Path], monkeypatch: pytest.MonkeyPatch) -> None:
    """The line of the page says what happened; the next page is computed; a bad line is told as such."""
    fail_on_paragraphs(monkeypatch)
    listing = two_pages[0].parent / "list"
    lines = [f"{two_pages[0]}\t500\t400", f"{two_pages[1]}\t500\t400", f"{two_pages[1]}\twide"]
    listing.write_text("\n".join(lines), encoding="utf-8")
    out = CliRunner().invoke(commands, ["report", "--batch", str(listing)])
    first, second, third = (json.loads(line) for line in out.output.splitlines())
    assert set(first) == {"page", "error"} and "error in Red Crate" in first["error"]
    assert second["elements"][-1]["tag"] == "div"
    assert "with tabs between" in third["error"]


@pytest.mark.parametrize("command", [["report"], ["check", "--widths", "500"], ["draw"]])
def test_the_command_line_says_one_sentence(
    command: list[str], two_pages: list[Path], monkeypatch: pytest.MonkeyPatch
) -> None:
    """Status 2, no traceback."""
    fail_on_paragraphs(monkeypatch)
    out = CliRunner().invoke(commands, [command[0], str(two_pages[0]), *command[1:]])
    assert out.exit_code == 2
    assert "error in Red Crate" in out.output and "Traceback" not in out.output


def test_a_failed_edit_changes_nothing(two_pages: list[Path], monkeypatch: pytest.MonkeyPatch) -> None:
    """Text, history, page, width and selection are as before; undo and redo too fail whole."""
    session = Session(two_pages[0])
    told: list[Change] = []
    text = session.document.text("a.html").text
    at = text.index("30px")
    session.editor.apply(Patch((TextEdit("a.html", at, at + 4, "40px"),), "wider"))
    session.listen(told.append)
    before = (
        session.document.texts(),
        session.editor.history,
        session.views.page,
        session.views.viewport,
    )
    with monkeypatch.context() as patched:
        fail_on_paragraphs(patched)
        for attempt in (
            lambda: session.editor.apply(Patch((TextEdit("a.html", at, at + 4, "50px"),), "wider")),
            session.editor.undo,
            lambda: session.views.set_width(777),
            session.disk.pictures_changed,
        ):
            with pytest.raises(LayoutBug):
                attempt()
            assert (
                session.document.texts(),
                session.editor.history,
                session.views.page,
                session.views.viewport,
            ) == before
    assert told == []
    session.editor.undo()
    assert session.document.text("a.html").text == text


def test_a_failing_family_of_findings_is_a_fault_too(
    page_of: PageOf, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Looking for findings is an entry of the core."""

    def find(look: object) -> list[object]:
        raise AttributeError("nothing there")

    page = page_of("<p>x</p>")
    monkeypatch.setitem(FAMILIES, "broken", Family("broken", "", "", "", find))  # type: ignore[arg-type]
    with pytest.raises(LayoutBug, match="nothing there"):
        findings_of(page, {"page.html": ""})


@pytest.mark.parametrize("keyword", ["fit-content(3px)", "fit-content(50%)", "min-content", "stretch"])
@pytest.mark.parametrize(
    "name", ["width", "height", "min-width", "min-height", "max-width", "max-height"]
)
@pytest.mark.parametrize("kind", ["", "float: left", "position: absolute", "display: inline-block"])
def test_a_size_keyword_stands_in_every_size(
    page_of: PageOf, keyword: str, name: str, kind: str
) -> None:
    """A keyword or function that only the content knows is no length anywhere, replaced boxes included."""
    page = page_of(
        "<div style='height: 300px'><div id='a'>x</div><img id='b' alt=''></div>",
        f"#a, #b {{ {name}: {keyword}; {kind} }}",
    )
    assert box(page, "a")[3] > 0


@pytest.mark.parametrize(
    "body",
    [
        "<style>body { display: list-item }</style>x",
        "<style>html { display: list-item }</style>x",
        "<img src='http://[x/' alt='x'><link rel=stylesheet href='http://[x/'>",
        "<style>@import 'http://[x/'; @import url(//[);</style>x",
        "<img src='a%00b'><img src='" + "a" * 5000 + "'><link rel=stylesheet href='" + "b" * 5000 + "'>",
        "<ol start='²'><li value='٣'>x<li value='" + "9" * 5000 + "'>y</ol><canvas width='²'></canvas>",
        "<p style='width: " + "9" * 5000 + "px; margin: 0" + "0" * 5000 + "'>x",
    ],
)
def test_what_once_took_the_core_down(page_of: PageOf, body: str) -> None:
    """A page comes out."""
    assert page_of(body).elements
