"""The sweep: no event missed and none invented, straight pieces in words, files for others."""

import csv
import io
import json
from importlib.resources import files
from pathlib import Path

import jsonschema
import pytest
from click.testing import CliRunner

from redcrate.cli.commands import commands
from redcrate.core.diagram.drawing import Label
from redcrate.core.diagram.sweep_plot import sweep_plot
from redcrate.core.units import LayoutUnit
from redcrate.core.widths.events import EventKind
from redcrate.core.widths.pieces import Piece
from redcrate.core.widths.standing_at import Quantity
from tests.conftest import CASES, DEMO
from tests.core.widths.every_px import held_against_every_px, sweep_of

DRAFT = DEMO.parent.parent / "ploverfield-draft" / "index.html"
PAGES = sorted(p for p in CASES.glob("*.html") if not p.stem.startswith("gen-"))[::6]
# Floats in the midst of text, whose drops hang on which words happen to fill the line before them: some last fewer
# px than a step. Looked at in every px they are found too.
FINER_THAN_A_STEP = ("gen-inline-011", "gen-float-006")


@pytest.mark.parametrize("part", range(4))
def test_no_event_is_missed_and_none_invented(part: int) -> None:
    """Held against a layout at every integer width, on 32 of the reference pages."""
    assert len(PAGES) >= 30
    for path in PAGES[part::4]:
        held = held_against_every_px(path, 320, 380)
        assert (held.missed, held.invented) == ([], []), path.stem
        assert held.off <= 32, path.stem


@pytest.mark.parametrize(
    ("path", "select", "first", "last"),
    [(DEMO, "article.plot", 480, 660), (DRAFT, "", 720, 840)],
    ids=["plot", "draft"],
)
def test_the_demo_pages_are_swept_exactly(path: Path, select: str, first: int, last: int) -> None:
    """With a small part of the layouts."""
    held = held_against_every_px(path, first, last, select)
    assert (held.missed, held.invented) == ([], [])
    assert held.off <= 4 and held.looked_at < 150


def test_heights_and_lines_on_demand() -> None:
    """With lines the height is exact too."""
    held = held_against_every_px(DEMO, 580, 700, "section.notice", lines=True)
    assert (held.missed, held.invented) == ([], []) and held.off <= 4
    sweep = sweep_of(DEMO, 400, 700, "p", lines=True)
    kinds = {e.kind for e in sweep.swept.events}
    assert EventKind.LINES in kinds and Quantity.HEIGHT in sweep.swept.pieces
    assert Quantity.HEIGHT not in sweep_of(DEMO, 400, 420, "p").swept.pieces


@pytest.mark.parametrize("name", FINER_THAN_A_STEP)
def test_what_is_finer_than_a_step_is_found_in_every_px(name: str) -> None:
    """After looking at every px nothing is missing."""
    path = CASES / f"{name}.html"
    assert held_against_every_px(path, 400, 416).missed != [] or name == "gen-float-006"
    sweep = sweep_of(path, 400, 416)
    *_, done = sweep.look_at_every_px()
    whole = sweep_of(path, 400, 416)
    for _ in whole.look_at_every_px():
        pass
    assert done == 1.0 and sweep.looked_at == 17
    assert [e.key for e in sweep.swept.events] == [e.key for e in whole.swept.events]


def events(tmp_path: Path, html: str, select: str = "", first: int = 300, last: int = 900) -> list[str]:
    """The sentences of the events of a page."""
    (tmp_path / "p.html").write_text(
        f"<!doctype html><style>body{{margin:0}}</style>{html}", encoding="utf-8"
    )
    return [e.sentence for e in sweep_of(tmp_path / "p.html", first, last, select).swept.events]


def test_each_kind_of_event_at_its_exact_px(tmp_path: Path) -> None:
    """Limits, rows, drops, boxes that come and go, content that is too wide, the page, media rules."""
    half = "<div class=a></div><div class=b></div>"
    css = "<style>div{float:left;height:9px;width:50%}.b{width:250px}</style>"
    assert events(tmp_path, css + half) == [
        "Up to 499 px: div.b wraps, short by 0.5 px",
        "From 500 px: div.a, 2 per row (1 below)",
    ]
    list_of = (
        "<style>div{float:left;height:9px;width:200px}@media (max-width:500px){div{float:none}}</style>"
    )
    assert events(tmp_path, list_of + 3 * "<div></div>", last=590)[1:] == [
        "From 501 px: div begins the next row",
        "From 501 px: div ×2, 2 per row (1 below)",
    ]
    assert events(
        tmp_path, "<style>div{width:50%;max-width:300px;min-width:200px}</style><div>x</div>"
    ) == [
        "Up to 399 px: min-width limits div",
        "From 601 px: max-width limits div",
    ]
    assert events(tmp_path, "<div style='width:555px;height:3px'></div>") == [
        "Up to 554 px: the content of html and body overflows",
        "Up to 554 px: the page overflows the viewport",
    ]
    media = "<style>@media (400px < width <= 600px){p{display:none}}</style><p>x</p>"
    assert events(tmp_path, media) == [
        "From 401 px: media query (400px < width <= 600px) applies",
        "Up to 400 px: p is shown",
        "Up to 600 px: media query (400px < width <= 600px) applies",
        "From 601 px: p is shown",
    ]
    inside = "<style>div{max-width:600px}</style><div><p>x</p></div>"
    assert events(tmp_path, inside, "p") == ["From 601 px: max-width limits div"]
    clipped = "<div style='overflow:hidden'><p style='width:555px'>x</p></div>"
    assert events(tmp_path, clipped) == ["Up to 554 px: the content of div overflows"]


def test_many_names_in_an_event(tmp_path: Path) -> None:
    """Three are told, alike ones counted; of four and more the first two, and how many more."""
    media = "<style>@media (max-width:400px){.g{display:none}}</style>"
    for tags, told in (
        ("<p class=g></p><b class=g></b><i class=g></i>", "p.g, b.g and i.g are shown"),
        (
            "<p class=g></p><b class=g></b><b class=g></b><i class=g></i>",
            "p.g, b.g ×2 and i.g are shown",
        ),
        (
            "<p class=g></p><b class=g></b><i class=g></i><u class=g></u>",
            "p.g, b.g and 2 more are shown",
        ),
    ):
        assert f"From 401 px: {told}" in events(tmp_path, media + tags)


def test_what_flickers_is_one_event() -> None:
    """Shares whose cut decides from px to px: looked at in every px, told once for each block."""
    sweep = sweep_of(CASES / "float-shares-of-seven.html", 320, 620)
    assert sweep.looked_at == 301
    told = [e.sentence for e in sweep.swept.events]
    assert len(told) < 12 and any("changes from px to px" in t for t in told), told


def test_a_bend_without_an_event_is_found(tmp_path: Path) -> None:
    """What a value does by itself: a width of max(), which no limit takes over."""
    (tmp_path / "p.html").write_text(
        "<!doctype html><style>body{margin:0}p{width:max(200px,50%)}</style><p>x"
    )
    sweep = sweep_of(tmp_path / "p.html", 300, 900, "p")
    assert sweep.swept.events == ()
    told = [(p.first, p.last, p.words) for p in sweep.swept.pieces[Quantity.WIDTH]]
    assert [w for _, _, w in told] == ["200 px", "half of the viewport"] and abs(told[0][1] - 400) <= 1


def test_pieces_in_words() -> None:
    """Named shares, percentages with few digits, and what is added."""

    def words(first: int, last: int, start: float, end: float) -> str:
        return Piece(first, last, LayoutUnit(round(start * 64)), LayoutUnit(round(end * 64))).words

    assert words(400, 800, 176, 376) == "half of the viewport, less 24"
    assert words(400, 800, 400, 800) == "the viewport"
    assert words(300, 900, 100, 300) == "a third of the viewport"
    assert words(521, 1000, 247.24, 458) == "44 % of the viewport, plus 18"
    assert words(320, 900, 290, 290) == "290 px"
    assert Piece(3, 9, None, None).words == "no box"


def run(*arguments: object) -> str:
    """What the command prints."""
    result = CliRunner().invoke(commands, ["sweep", *(str(a) for a in arguments)])
    assert result.exit_code == 0, result.output
    return result.output


def test_the_command_prints_json_csv_and_svg(tmp_path: Path) -> None:
    """JSON by its schema, the same numbers as CSV, and a plot with its words."""
    schema = json.loads(
        (files("redcrate.core.widths") / "sweep_schema.json").read_text(encoding="utf-8")
    )
    given = (DEMO, "--select", ".plot", "--from", 420, "--to", 1010)
    found = json.loads(run(*given))
    jsonschema.validate(found, schema)
    assert (
        found["element"] == "article.plot"
        and found["pieces"]["width"][0]["words"] == "the viewport, less 40"
    )
    assert [e["at"] for e in found["events"]] == [521, 634, 1001, 1001]
    rows = list(csv.DictReader(io.StringIO(run(*given, "--format", "csv"))))
    widths = [(int(r["from"]), int(r["to"])) for r in rows if r["what"] == "width"]
    assert widths == [(p["from"], p["to"]) for p in found["pieces"]["width"]]
    target = tmp_path / "s.svg"
    assert run(*given, "--format", "svg", "-o", target) == ""
    assert "44 % of the viewport, plus 18" in target.read_text(encoding="utf-8")
    result = CliRunner().invoke(commands, ["sweep", *(str(g) for g in given), "-o", str(target)])
    assert result.exit_code == 2 and "already exists" in result.output
    assert run(*given, "--force", "-o", target) == "" and target.read_text(encoding="utf-8")[0] == "{"
    jsonschema.validate(json.loads(run(DEMO, "--to", 350, "--lines")), schema)


def test_the_command_refuses_in_sentences(tmp_path: Path) -> None:
    """No such element, ends the wrong way round, heights without lines."""
    for arguments, words in (
        (("--select", ".nobody"), "no element matches"),
        (("--from", "900", "--to", "400"), "less than"),
        (("--quantity", "height"), "--lines"),
        (("--select", ")"), "not a selector"),
        (("--to", "330", "-o", str(tmp_path / "no" / "x.json")), "x.json"),
    ):
        result = CliRunner().invoke(commands, ["sweep", str(DEMO), *arguments])
        assert result.exit_code == 2 and words in result.output, result.output


def test_the_plot_draws_what_was_swept() -> None:
    """Every event is listed once, every piece has its words, nothing lies outside the sheet."""
    swept = sweep_of(DEMO, 420, 1010, "article.plot").swept
    drawing = sweep_plot(swept, Quantity.WIDTH, "index.html")
    labels = [s for s in drawing.shapes if isinstance(s, Label)]
    texts = [s.text for s in labels]
    assert all(texts.count(e.sentence) == 1 for e in swept.events)
    assert all(any(p.words in t for t in texts) for p in swept.pieces[Quantity.WIDTH])
    assert all(0 <= s.x <= drawing.width and 0 <= s.y <= drawing.height for s in labels)


def test_numbers_of_events_that_stand_close_are_in_lines_of_their_own(tmp_path: Path) -> None:
    """Numbers of neighbouring px stand one over another; where one has room beside the first, it stands there."""
    rules = "".join(
        f"@media (max-width: {w}px) {{ .m{w} {{ display: none }} }}" for w in (400, 408, 412)
    )
    page = tmp_path / "p.html"
    blocks = "".join(f"<p class=m{w}>x</p>" for w in (400, 408, 412))
    page.write_text(f"<!doctype html><style>{rules}</style>{blocks}", encoding="utf-8")
    drawing = sweep_plot(sweep_of(page, 320, 1000, "body").swept, Quantity.WIDTH, "p.html")
    numbers = [s for s in drawing.shapes if isinstance(s, Label) and s.anchor == "middle" and s.bold]
    assert [n.text for n in numbers] == ["1", "2", "3"]
    first, second, third = numbers
    assert 9 < second.x - first.x < 14 and first.y - second.y > 8, "a number takes 14 px"
    assert third.x - first.x > 14 and third.y == first.y
