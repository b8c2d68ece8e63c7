"""The plan of a page: every block is named with its size, and no label stands on another."""

from itertools import combinations

import pytest

from redcrate.core.diagram.drawing import Area, Drawing, Label
from redcrate.core.diagram.label_places import Place
from redcrate.core.diagram.lettering import shortened, text_width
from redcrate.core.diagram.page_plan import NoPlan, PlanOptions, page_plan
from redcrate.core.page import Page
from redcrate.core.units import format_px
from tests.conftest import CASES, DEMO, PageOf, by_id, load

PAGES = [p for p in sorted(CASES.glob("*.html"))[::14] if "flex" not in p.stem]


def place_of(label: Label) -> Place:
    """Where a label stands, by the widths of its letters."""
    width = text_width(label.text, label.size, bold=label.bold)
    start = label.x - {"start": 0.0, "middle": width / 2, "end": width}[label.anchor]
    return Place(start, label.y - label.size * 0.75, width, label.size * 0.95)


def labels_of(drawing: Drawing) -> list[Label]:
    """All labels of a drawing."""
    return [s for s in drawing.shapes if isinstance(s, Label)]


def names_of(page: Page) -> list[str]:
    """What the plan must say: each block of body with the border box of the report."""
    body = page.source.markup.body
    assert body is not None
    found = []
    for element in body.walk():
        box = page.box_of(element)
        if box is not None and box.box is not None:
            rect = box.border_box
            label = shortened(element.label, 40)
            found.append(f"{label}  {format_px(rect.width)} × {format_px(rect.height)}")
    return found


@pytest.mark.parametrize("path", [DEMO, *PAGES], ids=lambda p: p.stem)
def test_every_block_is_named_once_and_nothing_overlaps(path: object) -> None:
    """On the plan or in the key, with the report's numbers; all labels apart from one another, on the sheet."""
    page = load(path, 1000, 800)  # type: ignore[arg-type]
    drawing = page_plan(page)
    labels = labels_of(drawing)
    texts = [label.text for label in labels]
    names = names_of(page)
    assert sorted(t for t in texts if " × " in t) == sorted(names)
    assert sum(isinstance(s, Area) and s.fill is None for s in drawing.shapes) == len(names)
    for one, other in combinations(map(place_of, labels), 2):
        assert not one.meets(other)
    for place in map(place_of, labels):
        assert place.x >= 0 and place.x + place.width <= drawing.width
        assert place.y >= 0 and place.y + place.height <= drawing.height


def test_a_part_of_the_page_to_a_depth(page_of: PageOf) -> None:
    """The plan of one element; deeper blocks than asked for are left out; chains of the first level with several."""
    page = page_of(
        "<div id=a style='width:400px'><p id=b style='height:90px'>x</p><p id=c style='height:60px'><b style='display:"
        "block'>y</b></p></div>", "p { margin: 0 }",
    )  # fmt: skip
    whole = [label.text for label in labels_of(page_plan(page, by_id(page, "a")))]
    assert {"div#a  400 × 150", "p#b  400 × 90", "p#c  400 × 60"} < set(whole)
    assert {"90", "60", "400 of the viewport's 1000 px"} < set(whole) and any(
        "b  400" in t for t in whole
    )
    flat = [label.text for label in labels_of(page_plan(page, by_id(page, "a"), PlanOptions(0, "P")))]
    assert [t for t in flat if " × " in t] == ["div#a  400 × 150"] and {"P", "at width 1000 px"} < set(
        flat
    )


def test_what_is_no_block_has_no_plan(page_of: PageOf) -> None:
    """An inline element, and one without a box."""
    page = page_of("<p><b id=i>x</b></p><p id=n style='display:none'>y</p>")
    for name in ("i", "n"):
        with pytest.raises(NoPlan, match="has no block"):
            page_plan(page, by_id(page, name))
