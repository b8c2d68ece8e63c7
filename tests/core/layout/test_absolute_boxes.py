"""Absolute boxes that stand by themselves between two offsets: CSS Positioned Layout 3 §4, CSS Align 3 §6."""

import pytest

from redcrate.core.explain.position import position
from tests.conftest import PageOf, box, by_id

CSS = """section { position: relative; width: 200px; height: 100px } #d { position: absolute; inset: 0; line-height: 20px }
i { display: inline-block; width: 30px; height: 20px; vertical-align: top }"""

PLACES = [
    # style, of the container too, x, y, width and height
    ("", "", (0, 0, 200, 100)), ("place-self: stretch", "", (0, 0, 200, 100)), ("place-self: auto normal", "", (0, 0, 200, 100)),
    ("justify-self: center", "", (85, 0, 30, 100)), ("align-self: center", "", (0, 40, 200, 20)),
    ("place-self: center", "", (85, 40, 30, 20)), ("place-self: end start; width: 50px", "", (0, 80, 50, 20)),
    ("place-self: center; inset: 10px 20px 30px 0", "", (75, 30, 30, 20)), ("place-self: center; margin: auto", "", (85, 40, 30, 20)),
    ("place-self: center; margin: 10px 0 0 30px", "", (100, 45, 30, 20)), ("justify-self: start", "direction: rtl", (170, 0, 30, 100)),
    ("justify-self: self-start; direction: ltr", "direction: rtl", (0, 0, 30, 100)), ("place-self: baseline", "", (0, 0, 30, 20)),
    ("place-self: center; width: 300px", "", (0, 40, 300, 20)), ("place-self: safe center; width: 300px", "", (0, 40, 300, 20)),
    ("place-self: unsafe end; width: 300px", "", (-100, 80, 300, 20)), ("place-self: center; left: auto", "", (170, 40, 30, 20)),
    ("place-self: safe center unsafe end; width: 300px", "", (-100, 40, 300, 20)),
]  # fmt: skip


@pytest.mark.parametrize(("style", "around", "place"), PLACES)
def test_places(page_of: PageOf, style: str, around: str, place: tuple[float, ...]) -> None:
    """As large as their content, and where they are told to be; too large, from the start on."""
    page = page_of(f"<section style='{around}'><div id='d' style='{style}'><i></i></div></section>", CSS)
    assert box(page, "d") == place


def test_what_places_them_is_told(page_of: PageOf) -> None:
    """The property of each axis that does; none where it fills what is between, or an offset is missing."""
    for style, told in (
        ("place-self: end center; left: auto", ["align-self: end"]),
        ("", []),
        ("justify-self: end", ["justify-self: end"]),
    ):
        page = page_of(f"<section><div id='d' style='{style}'><i></i></div></section>", CSS)
        said = [
            r.sentence for r in position(page, by_id(page, "d")) if "places it between" in r.sentence
        ]
        assert [sentence.partition(" places")[0] for sentence in said] == told


def test_a_line_that_a_grid_without_items_has_not(page_of: PageOf) -> None:
    """CSS Grid 1 §9.1: where no item makes an implicit track there is no line beyond the explicit ones; it counts as auto."""
    css = "#g { display: grid; position: relative; width: 300px } #b { position: absolute; grid-column: x; width: 10px; height: 5px }"
    assert box(page_of("<div id=g><div id=b></div></div>", css), "b")[0] == 0
