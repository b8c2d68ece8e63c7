"""Why here, distances and choices: sentences that are what the layout did, and previews that come true."""

from pathlib import Path

import pytest

from redcrate.core.edit.choices import CHOICES, choice_patch, current_choice, moved_sentence, what_moves
from redcrate.core.errors import EditRefused
from redcrate.core.explain import across, down
from redcrate.core.explain.distances import distances
from redcrate.core.explain.position import position
from redcrate.core.session import Session
from tests.conftest import CASES, PageOf, by_id, load

HERE = [
    ("<p id='x' style='width:300px;margin:0 auto'>a</p>", "350 px on each side, so it is centred"),
    (
        "<center><p id='x' style='width:300px'>a</p></center>",
        "around it moves it: 350 px on its left, 350 px on",
    ),
    (
        "<div align=right><p id='x' style='width:300px'>a</p></div>",
        "around it moves it: 700 px on its left, 0 px on",
    ),
    (
        "<p id='x' style='width:300px;margin:0 0 0 auto'>a</p>",
        "Only the left margin is auto: its 700 px push the box to the right",
    ),
    (
        "<p id='x' style='width:300px;margin-right:auto'>a</p>",
        "Only the right margin is auto: 700 px are free beside",
    ),
    (
        "<p id='x' style='width:1300px;margin:0 auto'>a</p>",
        "wider than its containing block, so auto margins are 0",
    ),
    (
        "<div style='margin-trim:block'><p id='x' style='margin:30px 0'>a</p></div>",
        "margin-trim of div removes its 30 px of top margin",
    ),
    ("<p id='x' style='margin-left:30px'>a</p>", "30 px in from the left edge"),
    ("<p id='x' style='margin-left:-30px'>a</p>", "30 px out beyond the left edge"),
    (
        "<p style='margin:0 0 30px'>a</p><p id='x' style='margin:20px 0'>b</p>",
        "30 px above it: 2 margins collapse (30 and 20); the bottom",
    ),
    (
        "<p style='margin:0 0 10px'>a</p><p id='x' style='margin:20px 0'>b</p>",
        "20 px above it: 2 margins collapse (10 and 20); its own top margin counts",
    ),
    ("<p style='margin:0 0 30px'>a</p><p id='x' style='margin:-12px 0'>b</p>", "18 px above it"),
    ("<p id='x' style='float:right;width:9px'>a</p>", "It floats right in body"),
    (
        "<i style='float:left;width:60%'>a</i><i id='x' style='float:left;width:50%'>b</i>",
        "400 px available higher up, short by 100 px: it moves below",
    ),
    (
        "<i style='float:left;height:50px'>a</i><p id='x' style='clear:both;margin:0'>b</p>",
        "Clearance of 50 px moves it below the floats",
    ),
    (
        "<p id='x' style='position:relative;left:7px;top:-3px'>a</p>",
        "moves it 7 px right and 3 px up; other boxes",
    ),
    (
        "<p id='x' style='position:absolute'>a</p>",
        "(position: absolute); its containing block is the initial containing block.",
    ),
    (
        "<p style='position:relative'><i id='x' style='position:absolute'>a</i></p>",
        "(position: absolute); its containing block is p.",
    ),
    (
        "<p style='position:relative'><i id='x' style='position:fixed'>a</i></p>",
        "(position: fixed); its containing block is the initial containing block.",
    ),
    (
        "<p style='transform:scale(1)'><i id='x' style='position:fixed'>a</i></p>",
        "(position: fixed); its containing block is p.",
    ),
    (
        "<style>html{position:relative}</style><i id='x' style='position:absolute'>a</i>",
        "(position: absolute); its containing block is html.",
    ),
    (
        "<style>html{transform:scale(1)}</style><i id='x' style='position:fixed'>a</i>",
        "(position: fixed); its containing block is html.",
    ),
    ("<p>a <b id='x'>b</b></p>", "is inline in p, on one line"),
    ("<p style='width:60px'><b id='x'>one two three four five</b></p>", "lines"),
    ("<p><i id='x' style='display:inline-block'>b</i></p>", "It is in a line of p"),
]


@pytest.mark.parametrize(("body", "sentence"), HERE)
def test_why_here(page_of: PageOf, body: str, sentence: str) -> None:
    """Each way of coming to a place, with its px."""
    page = page_of(body, "p { margin: 0 }" if "margin" not in body else "")
    told = [r.sentence for r in position(page, by_id(page, "x"))]
    assert any(sentence in s for s in told), told


@pytest.mark.parametrize("part", range(4))
def test_sentences_and_distances_agree_with_the_geometry(part: int) -> None:
    """On reference pages: what is called centred is; a distance ends at an edge; nothing raises."""
    for path in sorted(CASES.glob("*.html"))[part::16]:
        page = load(path, 1000, 800)
        edges = {
            e
            for b in page.by_element.values()
            for r in (b.border_box,)
            for e in (r.x, r.right, r.y, r.bottom)
        }
        edges |= {e for b in page.by_element.values() if b.container
                  for r in (b.container.content_rect,) for e in (r.x, r.right, r.y, r.bottom)}  # fmt: skip
        for element, box in page.by_element.items():
            for reason in position(page, element):
                if "so it is centred" in reason.sentence and box.container is not None:
                    room = box.container.content_rect
                    shift = box.box.placed.shift_x if box.box else 0
                    assert (
                        abs(
                            (box.border_box.x - shift - room.x)
                            - (room.right - box.border_box.right + shift)
                        )
                        <= 1
                    )
            for distance in distances(page, element):
                start = distance.x if distance.is_across else distance.y
                assert start in edges and start + distance.length in edges
                assert distance.length >= 0 or distance.to == "container"


@pytest.mark.parametrize("name", sorted(CHOICES))
def test_a_choice_does_what_it_showed(tmp_path: Path, name: str) -> None:
    """For every value on a page of blocks, floats and text: the preview is the page; undo gives every byte."""
    html = (
        "<!doctype html><style>p{padding:9px;border:1px solid;width:300px;height:40px}i{float:left}</style>"
        "<div style='width:500px'><i>float</i><p id=a>some <b id=b>bold</b> text</p><p>after</p></div>"
    )
    (tmp_path / "p.html").write_text(html)
    session = Session(tmp_path / "p.html", 800)
    for ident in ("a", "b"):
        for value in CHOICES[name]:
            element = by_id(session.views.page, ident)
            if value == current_choice(session.views.page, element, name):
                continue
            try:
                patch = choice_patch(session.views.page, session.document.texts(), element, name, value)
            except EditRefused:
                continue
            seen = session.editor.page_after(patch)
            moved = what_moves(session.views.page, seen)
            sentence = moved_sentence(moved, element)
            session.editor.apply(patch)
            assert current_choice(session.views.page, by_id(session.views.page, ident), name) == value
            now = [b.border_box for b in session.views.page.by_element.values()]
            assert now == [b.border_box for b in seen.by_element.values()]
            assert (sentence == "no box would move") is (not moved)
            session.editor.undo()
            assert session.document.text("p.html").text == html


@pytest.mark.parametrize(
    ("css", "name", "value"),
    [
        ("", "text-align", "left"), ("text-align: end", "text-align", "right"), ("text-align: center", "text-align", "center"),
        ("overflow: hidden", "overflow", "hidden"), ("float: right", "float", "right"), ("clear: both", "clear", "both"),
        ("display: inline; float: left", "display", "inline"), ("align-self: start", "align-self", "start"),
    ],
)  # fmt: skip
def test_the_choice_that_stands(page_of: PageOf, css: str, name: str, value: str) -> None:
    """As a designer would name it: sides for the start and the end of a line, the display that was written."""
    page = page_of("<p id='x'>a</p>", f"p {{ {css} }}")
    assert current_choice(page, by_id(page, "x"), name) == value


CLAMP = "display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 1"
SIZES = [
    # element, what is said of its width, of its height
    (f"<div id='x' style='{CLAMP}'>a<br>b</div>", "", "from the visible lines; the others overflow"),
    (f"<div id='x' style='{CLAMP}'><p>a</p><p>b</p></div>", "", "from the visible lines; the others overflow"),
    (f"<div id='x' style='{CLAMP}'>a</div>", "", "from 1 line"),
    ("<div id='x' style='contain: size'>a</div>", "it fills its containing block body", "because of contain, its content does not count"),
    ("<div id='x' style='contain: inline-size; float: left'>a</div>", "because of contain its content counts as 0 px", "from 1 line"),
    ("<input id='x'>", "the default width of this field: 177 px", "from 1 line"),
    ("<div id='x' style='aspect-ratio: 2; max-height: 30px'>a</div>", "a limit of the height times the ratio: 60 px", "the other size times the ratio"),
    ("<div id='x' style='aspect-ratio: 1; height: 1px'>abcdef</div>", "the content, which needs more than the ratio gives", "height: 1px"),
]  # fmt: skip


@pytest.mark.parametrize(("element", "wide", "tall"), SIZES)
def test_why_this_wide_and_this_tall(page_of: PageOf, element: str, wide: str, tall: str) -> None:
    """The reasons are those of the layout."""
    page = page_of(element)
    found = by_id(page, "x")
    assert any(wide in r.sentence for r in across(page, found).reasons)
    assert any(tall in r.sentence for r in down(page, found).reasons)
