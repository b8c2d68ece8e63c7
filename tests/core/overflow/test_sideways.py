"""By how much a page is wider than its window, as browsers count it: CSS Overflow 3 §2.2, §3.3."""

import pytest

from redcrate.core.overflow.sideways import over_the_window, sideways
from tests.conftest import PageOf

WIDE = "width: 1100px; height: 9px"

# A body, and how much wider than a window of 1000 px the page is.
PAGES = {
    "a block": (f"<div style='{WIDE}'></div>", 100),
    "an absolute one": (f"<div style='{WIDE}; position: absolute; left: 20px'></div>", 120),
    "one that is hidden": (f"<div style='{WIDE}; visibility: hidden; position: absolute'></div>", 100),
    "one that is transparent": (f"<div style='{WIDE}; opacity: 0'></div>", 100),
    "none at all": (f"<div style='{WIDE}; display: none'></div>", 0),
    "one fixed to the window": (f"<div style='{WIDE}; position: fixed'></div>", 0),
    "one in a fixed one": (f"<div style='position: fixed; width: 9px'><div style='{WIDE}'></div></div>", 0),
    "one fixed to a box": (f"<div style='transform: scale(1)'><div style='{WIDE}; position: fixed; left: 0'></div></div>", 100),
    "a clipped one": (f"<div style='overflow: hidden'><div style='{WIDE}'></div></div>", 0),
    "a scrolled one": (f"<div style='overflow-x: auto'><div style='{WIDE}'></div></div>", 0),
    "one that leaves what clips": (
        f"<div style='overflow: hidden'><div style='{WIDE}; position: absolute'></div></div>", 100,
    ),
    "one that what clips contains": (
        f"<div style='overflow: hidden; position: relative'><div style='{WIDE}; position: absolute'></div></div>", 0,
    ),
    "one without height": ("<div style='width: 1100px'></div>", 0),
    "one to the left": ("<div style='width: 50px; height: 9px; margin-left: -100px'></div>", 0),
    "one that is moved": (f"<div style='{WIDE}; transform: translateX(-100px)'></div>", 0),
    "one that is moved out": ("<div style='width: 100px; height: 9px; transform: translateX(950px)'></div>", 50),
    "a line": (f"<p style='margin: 0'><i style='display: inline-block; {WIDE}'></i></p>", 100),
}  # fmt: skip


@pytest.mark.parametrize(("body", "over"), PAGES.values(), ids=PAGES)
def test_what_counts(page_of: PageOf, body: str, over: float) -> None:
    """To the px; the whole answer and the quick one are the same."""
    page = page_of(body, "body { margin: 0 }")
    assert over_the_window(page) / 64 == over == sideways(page).over(page) / 64


@pytest.mark.parametrize(
    ("css", "over"),
    [("html { overflow-x: hidden }", 0), ("body { overflow: hidden }", 0), ("html { overflow: auto } body { overflow-x: hidden }", 0),
     ("html { overflow: clip }", 0), ("body { overflow-x: auto }", 100)],
)  # fmt: skip
def test_the_windows_own_overflow(page_of: PageOf, css: str, over: float) -> None:
    """The root's, or body's where the root has none: what cannot be scrolled is not wider."""
    page = page_of(f"<div style='{WIDE}'></div>", f"body {{ margin: 0 }} {css}")
    assert over_the_window(page) / 64 == over


def test_who_comes_first(page_of: PageOf) -> None:
    """Of boxes in one another the outermost that reaches out of one that does not."""
    page = page_of(
        f"<section><div id=a style='{WIDE}'><p id=b>x</p></div></section>", "body { margin: 0 }"
    )
    first = [b.at.fragment.box.label for b in sideways(page).beyond.values() if b.is_first]
    assert first == ["div#a"] and len(sideways(page).beyond) == 2
