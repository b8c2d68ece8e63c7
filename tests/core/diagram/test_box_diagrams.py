"""Box diagrams: no label on another or off the sheet, every side's number there, every number the report's."""

import re
from collections import Counter
from itertools import combinations
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redcrate.core.diagram.board import place_of
from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram, has_box
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Area, Drawing, Label, Segment
from redcrate.core.diagram.series import Before, Kind, Series
from redcrate.core.files.trial import Trial
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.report import element_report
from redcrate.core.style.media import Viewport
from redcrate.core.units import format_number
from tests.conftest import DEMO, PageOf, by_id, load

SIDES = ("top", "right", "bottom", "left")
NUMBER = re.compile(r"-?\d+(?:\.\d+)?")

px = st.one_of(st.sampled_from([0, 1, 3, 16, 99999.98]), st.floats(0, 400), st.floats(0, 99999.98)).map(
    lambda n: f"{n:.2f}px"
)
margins = st.one_of(px, st.just("auto"), st.floats(-300, 0).map(lambda n: f"{n:.2f}px"))
words = st.text(
    st.characters(blacklist_categories=("Cs", "Cc"), blacklist_characters="<>&'\" \\"), max_size=80
)


@st.composite
def styles(draw: st.DrawFn) -> str:
    """The style of one element: any numbers on any sides, any way to stand."""
    rules = [f"padding-{side}: {draw(px)}" for side in SIDES if draw(st.booleans())]
    rules += [f"margin-{side}: {draw(margins)}" for side in SIDES if draw(st.booleans())]
    rules += [f"border-{side}: {draw(px)} solid" for side in SIDES if draw(st.booleans())]
    rules += [f"{name}: {draw(px)}" for name in ("width", "height", "max-width") if draw(st.booleans())]
    for name, values in (
        ("box-sizing", ("content-box", "border-box")),
        ("display", ("block", "inline", "inline-block", "list-item", "none")),
        ("float", ("none", "none", "left", "right")),
        ("position", ("static", "static", "relative", "absolute")),
        ("outline", ("none", "3px solid")),
        ("box-shadow", ("none", "0 0 3px #000")),
    ):
        rules.append(f"{name}: {draw(st.sampled_from(values))}")
    rules += [f"{side}: {draw(px)}" for side in ("left", "top") if draw(st.booleans())]
    return "; ".join(rules)


def labels_of(drawing: Drawing, part: str = "") -> list[Label]:
    """The labels of a drawing, or of those of its parts whose names end so."""
    parts = [p for p in drawing.parts if p.name.endswith(part)]
    return [s for p in parts for s in p.shapes if isinstance(s, Label)]


def check_labels(drawing: Drawing) -> None:
    """None on another one, all inside the sheet."""
    places = [place_of(label) for label in labels_of(drawing)]
    for one, other in combinations(places, 2):
        assert not one.meets(other), drawing.title
    for place in map(place_of, drawing.shapes):
        assert place.x >= 0 and place.x + place.width <= drawing.width
        assert place.y >= 0 and place.y + place.height <= drawing.height


def numbers_in(labels: list[Label]) -> Counter[str]:
    """How often each number stands in some labels."""
    return Counter(n for label in labels for n in NUMBER.findall(label.text))


def check_numbers(page: Page, element: Element, drawing: Drawing) -> None:
    """The chains hold the report's numbers and no others; a side without room is named with its 0."""
    report = element_report(page, element)
    edges = [report[part] for part in ("margin", "border", "padding")]
    for ends, size, name in (
        (("left", "right"), "width", "across"),
        (("top", "bottom"), "height", "down"),
    ):
        own = [e[side] for e in edges for side in ends if e[side]] + [report["content_box"][size]]
        assert numbers_in(labels_of(drawing, f"chain-{name}")) == Counter(map(format_number, own))
        border = report["border_box"][size]
        sums = {
            "padding": border - sum(report["border"][s] for s in ends),
            "border": border,
            "margin": border + sum(report["margin"][s] for s in ends),
        }
        said = labels_of(drawing, f"-box-{name}")
        assert set(numbers_in(said)) == {format_number(n) for n in sums.values()}
        assert all(part in " ".join(label.text for label in said) for part in sums)
    names = " ".join(label.text for label in labels_of(drawing, "names"))
    for part in ("margin", "border", "padding"):
        if any(report[part].values()):
            assert part in names


@given(st.lists(styles(), min_size=4, max_size=8), words, words)
@settings(max_examples=60)
def test_any_box_can_be_read(
    tmp_path_factory: pytest.TempPathFactory, made: list[str], name: str, caption: str
) -> None:
    """Any numbers, negative margins, selectors of 80 characters, captions in any script; both scale modes."""
    path = tmp_path_factory.getbasetemp() / "any-box.html"
    body = "".join(f'<div class="{name}" style="{style}">some words</div>' for style in made)
    path.write_text(f"<!doctype html><meta charset=utf-8><body>{body}", encoding="utf-8")
    page = load(path)
    for number, element in enumerate(page.elements):
        options = DiagramOptions(to_scale=bool(number % 2), page_name=caption)
        drawing = box_diagram(page, element, options)
        check_labels(drawing)
        box = page.box_of(element)
        if box is not None and box.box is not None:
            check_numbers(page, element, drawing)


@given(
    st.lists(styles(), min_size=2, max_size=2), st.lists(styles(), min_size=2, max_size=2), st.booleans()
)
@settings(max_examples=30)
def test_steps_comparisons_and_plans_can_be_read(
    tmp_path_factory: pytest.TempPathFactory, before: list[str], after: list[str], to_scale: bool
) -> None:
    """Of any two states of a box, whatever became of it: inline, without a box, somewhere else."""
    states = []
    for number, made in enumerate((before, after)):
        path = tmp_path_factory.getbasetemp() / f"state-{number}.html"
        body = "".join(f'<div style="{style}">some words</div>' for style in made)
        path.write_text(f"<!doctype html><meta charset=utf-8><body>{body}", encoding="utf-8")
        states.append(Trial.of_file(path))
    earlier, page = (trial.page(Viewport(900, 600)) for trial in states)
    options = DiagramOptions(to_scale=to_scale)
    for kind in (Kind.STEPS, Kind.COMPARE, Kind.PLAN):
        series = Series(page, kind, options, None, Before(earlier, "before", "now"), states[1])
        for element in page.elements[1:]:
            check_labels(series.sheet(element))


@pytest.mark.parametrize("to_scale", [False, True])
def test_every_element_of_the_demo(to_scale: bool) -> None:
    """Inline elements too: each of their lines has its numbers, with the sums across."""
    page = load(DEMO, 1100, 800)
    for element in filter(lambda e: has_box(page, e), page.elements):
        drawing = box_diagram(page, element, DiagramOptions(to_scale=to_scale))
        check_labels(drawing)
        box = page.box_of(element)
        assert box is not None
        texts = [label.text for label in labels_of(drawing)]
        for piece in box.pieces[:8]:
            assert any(t.endswith(f"box {format_number(piece.width / 64)}") for t in texts)
        assert ("to scale" in texts) is to_scale


def texts_of(page: Page, ident: str, **options: Any) -> list[str]:
    """What is written on the diagram of the element with that id."""
    return [
        label.text
        for label in labels_of(box_diagram(page, by_id(page, ident), DiagramOptions(**options)))
    ]


def test_what_is_said_beside_the_numbers(page_of: PageOf) -> None:
    """Written beside used, which box width means, margins that met struck out with the winner, no room for outlines."""
    page = page_of(
        "<h2 id=h>x</h2><p id=p>y</p><div id=b></div><div id=m></div><ul><li id=l>z</ul>",
        "h2 { margin: 24px 0; padding: 2em 5% } p { margin: 16px 0 } div { width: 400px; padding: 20px; margin: 0 auto;"
        " box-sizing: border-box } #m { max-width: 100px } #b { border: solid red; border-width: 1px 0; outline: 3px "
        "solid; box-shadow: 0 0 1px red }",
    )  # fmt: skip
    head = texts_of(page, "h")
    assert {
        "top and bottom 2em → 48",
        "right and left 5% → 50",
        "counts; collapses with the top",
        "margin of p#p",
    } <= set(head)
    para = texts_of(page, "p")
    assert {"margin-top 16", "collapses with the bottom margin of h2#h: 24 px counts"} <= set(para)
    drawing = box_diagram(page, by_id(page, "p"))
    struck = [s for p in drawing.parts if p.name == "chain-down" for s in p.shapes
              if isinstance(s, Segment) and s.stroke.width == 1.2]  # fmt: skip
    label = next(s for s in labels_of(drawing, "chain-down") if s.text == "16")
    place = place_of(label)
    assert any(
        s.x1 < place.x and s.x2 > place.x + place.width and place.y < s.y1 < label.y for s in struck
    )
    both = texts_of(page, "b")
    assert {"outline 3 and shadow", "outside layout", "border and padding box"} & set(both) >= {
        "outside layout"
    }
    assert {"right and left auto → 300", "top and bottom 1 solid", "right and left 0"} <= set(both)
    assert "padding and border box 400 = width" in both and "360" in both
    assert "padding and border box 100 = max-width" in texts_of(page, "m")
    assert {"marker •", "outside: not part of layout"} <= set(texts_of(page, "l"))
    bare = texts_of(page, "b", names=False, sums=False, written=False)
    assert "outside layout" not in bare and not any("box 400" in t for t in bare) and "360" in bare


def test_where_a_box_stands(page_of: PageOf) -> None:
    """A float beside the place it was refused, an absolute box by its offsets, a relative one beside its place."""
    page = page_of(
        "<div id=w><p id=a>x</p><p id=d>y</p></div><div id=s><b id=o>z</b></div><i id=r>r</i>",
        "#w { width: 400px } p { float: left; width: 210px; margin: 0; height: 20px } #s { clear: both; position:"
        " relative; height: 100px; border: 2px solid } #o { position: absolute; left: 30px; top: 5%; width: 50px; "
        "height: 10px; margin: 1px } #r { display: block; position: relative; left: 12px; top: -3px }",
    )  # fmt: skip
    assert {"short by 20 px", "needs 210, 190 available"} <= set(texts_of(page, "d"))
    place = next(t for t in texts_of(page, "d") if t.startswith("Position in"))
    assert place == "Position in div#w, scale 1 : 1"
    offsets = set(texts_of(page, "o"))
    assert {"left 30", "top 5", "right auto → 914", "bottom auto → 83"} <= offsets
    assert "moved 12 across, -3 down" in texts_of(page, "r")
    assert not any("Position in" in t for t in texts_of(page, "w"))
    assert not any("Position in" in t for t in texts_of(page, "d", standing=False))
    page = page_of(
        "<p style='margin: 0; height: 30px'>x</p><b id=w>y</b><p><i style='position: relative'>words<u id=n>z</u></i></p>",
        "#w { position: absolute; right: 20px; bottom: 10px; width: 50px; height: 40px } #n { position: absolute; left: 0; "
        "width: 5px; height: 5px }",
    )
    corner = set(texts_of(page, "w"))  # of the window, not of the little that html is high
    assert {"right 20", "bottom 10", "left auto → 930", "top auto → 750"} <= corner
    assert any(t.startswith("Position in the initial containing block, scale") for t in corner)
    assert any(t.startswith("Position in an inline box of p, ") for t in texts_of(page, "n"))
    assert "left 0" in texts_of(page, "n")


def test_an_inline_element_line_by_line(page_of: PageOf) -> None:
    """Its left side on the first line, its right one on the last; what pushes nothing is told; the baseline is there."""
    page = page_of(
        "<p id=p>some <a id=a>words that go on</a></p>",
        "p { width: 100px; font: 16px/30px 'Liberation Sans' } a { padding: 4px 10px; border: 1px solid; margin: 5px }",
    )
    drawing = box_diagram(page, by_id(page, "a"))
    texts = [label.text for label in labels_of(drawing)]
    assert {
        "line 1 of 2",
        "line 2 of 2",
        "line height 30",
        "painted, do not affect layout",
        "have no effect",
    } <= set(texts)
    assert "inline, 2 lines" in texts and any(t.startswith("baseline ") for t in texts)
    boxes = [p.shapes[0] for p in drawing.parts if p.name == "line-box"]
    lines = [p.shapes[0] for p in drawing.parts if p.name == "baseline"]
    baseline = next(float(t.split()[1]) for t in texts if t.startswith("baseline "))
    for box, line in zip(boxes, lines, strict=True):
        assert isinstance(box, Area) and isinstance(line, Segment)
        assert (line.y1 - box.y) / box.height == pytest.approx(baseline / 30, abs=0.01)
    chains = [p for p in drawing.parts if p.name == "chain-across"]
    sides = [[s.text for s in p.shapes if isinstance(s, Label)] for p in chains]
    assert sides[0][:3] == ["5", "1", "10"] and len(sides[0]) == 4
    assert sides[1][1:] == ["10", "1", "5"] and len(sides[1]) == 4


def test_without_a_box_the_sheet_says_why(page_of: PageOf) -> None:
    """Not displayed, inside such a thing, inside a picture; and where that was written."""
    page = page_of(
        "<div id=n><b id=i>x</b></div><video><p id=v>y</p></video><p id=c>z</p><video id=u></video>",
        "#n { display: none } #c, #u { display: contents }",
    )
    assert "div#n has no box: display: none." in texts_of(page, "n")
    assert any(t.startswith("display: none · #n, page.html line") for t in texts_of(page, "n"))
    assert "b#i has no box: div#n around it has display: none." in texts_of(page, "i")
    assert "p#v has no box: video does not show its content." in texts_of(page, "v")
    assert any("only its content has boxes" in t for t in texts_of(page, "c"))
    assert any(
        t.startswith("video#u has no box: display: contents counts as none") for t in texts_of(page, "u")
    )
    drawing = box_diagram(page, by_id(page, "n"))
    check_labels(drawing)
    assert any(isinstance(s, Area) and s.stroke and s.stroke.dashes for s in drawing.shapes)


def test_a_long_selector_is_cut(page_of: PageOf) -> None:
    """In the title block, beside the manner; the file's own name stays."""
    page = page_of(f"<div id={'a-long-name' * 12} style='height: 5px'></div>")
    element = next(e for e in page.elements if e.id)
    drawing = box_diagram(page, element, DiagramOptions(page_name=str(Path("a") / "page.html")))
    check_labels(drawing)
    assert any(label.bold and label.text.endswith("…") for label in labels_of(drawing, "title-block"))


def test_a_fault_of_ours_is_a_sentence_on_its_sheet(
    page_of: PageOf, monkeypatch: pytest.MonkeyPatch
) -> None:
    """One drawing that fails takes none of the others along."""
    page = page_of("<p id=a>x</p><p id=b>y</p>")
    right = Series(page).sheet(by_id(page, "b"))
    monkeypatch.setattr("redcrate.core.diagram.series.box_diagram", lambda *_: 1 / 0)
    broken = Series(page).sheet(by_id(page, "a"))
    check_labels(broken)
    said = " ".join(label.text for label in labels_of(broken, "without-box"))
    assert "the drawing of p#a" in said and "division by zero" in said
    assert broken.title == "No drawing of p#a" and right.title == "Box diagram of p#b"


def test_the_inside_of_a_container_is_drawn_with_its_numbers(page_of: PageOf) -> None:
    """Tracks, gaps and free room of a grid; numbers as layout has them, none over another; none for a block."""
    css = "#g { display: grid; grid-template-columns: 90px 110px; gap: 12px; width: 300px } p { margin: 0; height: 40px }"
    page = page_of("<div id=g><p></p><p></p><p></p></div><div id=b><p></p></div>", css)
    drawing = box_diagram(page, by_id(page, "g"), DiagramOptions())
    parts = {p.name: p for p in drawing.parts}
    fills = [s.fill for s in parts["inside"].shapes if isinstance(s, Area) and s.fill is not None]
    assert fills.count(Fill.MARGIN) == 2 and Fill.UNSPENT in fills
    texts = [s.text for s in parts["inside-numbers"].shapes if isinstance(s, Label)]
    assert {"90", "110", "12"} <= set(texts)
    plain = box_diagram(page, by_id(page, "b"), DiagramOptions())
    assert "inside" not in {p.name for p in plain.parts}
