"""What follows from what: small pages, what a browser has otherwise, and the causes that are left."""

import pytest

from redcrate.core.proof.comparing import compare
from redcrate.core.proof.measured import measured
from tests.conftest import PageOf
from tests.driving import Rows, answer_of

Otherwise = dict[
    str, tuple[float, float, float, float]
]  # by how much x, y, width and height are larger there, by id

CASES: dict[str, tuple[str, str, Otherwise, dict[str, tuple[str, ...]]]] = {
    "centred in a wider one": (
        "<div id=a><p id=b>", "#a { width: 300px } #b { width: 100px; margin: 0 auto }",
        {"a": (0, 0, 20, 0), "b": (10, 0, 0, 0)}, {"a": ("width",)}),
    "at the right of a wider one": (
        "<div id=a><p id=b>", "#a { width: 300px } #b { width: 100px; margin: 0 0 0 200px }",
        {"a": (0, 0, 20, 0), "b": (20, 0, 0, 0)}, {"a": ("width",)}),
    "moved with what it is in": (
        "<div id=a><p id=b>", "#a { width: 300px }", {"a": (30, 8, 0, 0), "b": (30, 8, 0, 0)}, {"a": ("x", "y")}),
    "moved the other way": (
        "<div id=a><p id=b>", "#a { width: 300px }", {"a": (30, 0, 0, 0), "b": (-30, 0, 0, 0)}, {"a": ("x",), "b": ("x",)}),
    "behind a wider one in a line": (
        "<p><b id=a>x</b><i id=b>y</i><i id=c>z</i>", "",
        {"a": (0, 0, 9, 0), "b": (9, 0, 0, 0), "c": (9, 0, 0, 0)}, {"a": ("width",)}),
    "narrower at the right edge": (
        "<p id=a>", "#a { float: right; width: 90px }", {"a": (30, 0, -30, 0)}, {"a": ("width",)}),
    "narrower in the middle": (
        "<p id=a>", "#a { width: 90px; margin: 0 auto }", {"a": (15, 0, -30, 0)}, {"a": ("width",)}),
    "narrower, and moved by something else": (
        "<p id=a>", "#a { width: 90px }", {"a": (40, 0, -30, 0)}, {"a": ("x", "width")}),
    "at the foot of a taller one": (
        "<div id=a><p id=b>", "#a { height: 90px; position: relative } #b { position: absolute; bottom: 0 }",
        {"a": (0, 0, 0, 20), "b": (0, 20, 0, 0)}, {"a": ("height",)}),
    "in the middle of a taller one": (
        "<div id=a><p id=b>", "#a { height: 90px; display: flex; align-items: center }",
        {"a": (0, 0, 0, 20), "b": (0, 10, 0, 0)}, {"a": ("height",)}),
    "lower and less high, at its foot": (
        "<p id=a>", "#a { height: 90px; position: absolute; bottom: 0 }", {"a": (0, 30, 0, -30)}, {"a": ("height",)}),
    "lower and less high, in its middle": (
        "<p id=a>", "#a { height: 90px }", {"a": (0, 15, 0, -30)}, {"a": ("height",)}),
    "below a taller one, and beside what is lower": (
        "<p id=a><p id=b><p id=c>", "", {"a": (0, 0, 0, 7), "b": (0, 7, 0, 0), "c": (0, 7, 0, 0)}, {"a": ("height",)}),
    "a share of a wider one": (
        "<div id=a><p id=b>", "#a { width: 300px } #b { width: 50% }",
        {"a": (0, 0, 20, 0), "b": (0, 0, 10, 0)}, {"a": ("width",)}),
    "no share of it": (
        "<div id=a><p id=b>", "#a { width: 300px } #b { width: 150px }",
        {"a": (0, 0, 20, 0), "b": (0, 0, 20, 0)}, {"a": ("width",), "b": ("width",)}),
    "as wide as its text": (
        "<div id=a><b id=b>x</b>", "#a { float: left }", {"a": (0, 0, 9, 0), "b": (0, 0, 9, 0)}, {"b": ("width",)}),
    "as wide as what reaches furthest": (
        "<div id=a><p id=b>x</p><p id=c>y</p>", "#a { float: left } p { float: left; width: 40px }",
        {"a": (0, 0, 16, 0), "b": (0, 0, 9, 0), "c": (9, 0, 7, 0)}, {"b": ("width",), "c": ("width",)}),
    "as high as what is in it": (
        "<div id=a><p id=b>x</p><p id=c>y</p>", "",
        {"a": (0, 0, 0, 12), "b": (0, 0, 0, 5), "c": (0, 5, 0, 7)}, {"b": ("height",), "c": ("height",)}),
    "as high as what is moved in it, and longer": (
        "<div id=o><div id=a><p id=b>x</p></div></div>", "#o { height: 300px; padding-top: 1px }",
        {"o": (0, 4, 0, 0), "a": (0, 4, 0, 5), "b": (0, 4, 0, 5)}, {"o": ("y",), "b": ("height",)}),
    "narrower, so that its lines break elsewhere": (
        "<p id=a>x", "#a { width: 90px }", {"a": (0, 0, -30, 18)}, {"a": ("width",)}),
    "higher at the same width": (
        "<p id=a>x", "#a { width: 90px }", {"a": (0, 0, 0, 18)}, {"a": ("height",)}),
    "stretched to a line that is taller": (
        "<div id=a><p id=b>x</p><p id=c>y</p>", "#a { display: flex } #b { height: 50px }",
        {"a": (0, 0, 0, 7), "b": (0, 0, 0, 7), "c": (0, 0, 0, 7)}, {"b": ("height",)}),
    "a share of a height": (
        "<div id=a><p id=b>", "#a { height: 90px } #b { height: 100% }",
        {"a": (0, 0, 0, 20), "b": (0, 0, 0, 20)}, {"a": ("height",)}),
    "no share of a height": (
        "<div id=a><p id=b>", "#a { height: 90px } #b { height: 50px }",
        {"a": (0, 0, 0, 20), "b": (0, 0, 0, 20)}, {"a": ("height",), "b": ("height",)}),
    "less than the tolerance explains nothing": (
        "<p id=a>x</p><p id=b>y</p>", "", {"a": (0, 0.4, 0, 0.3), "b": (0, 0.7, 0, 0)}, {"b": ("y",)}),
}  # fmt: skip


@pytest.mark.parametrize("name", CASES)
def test_causes(page_of: PageOf, name: str) -> None:
    """Body and html are as here, so that what is asked about follows from nothing further out."""
    body, css, otherwise, causes = CASES[name]
    page = page_of(body, css)

    def change(rows: Rows) -> None:
        for element, row in zip(page.elements, rows, strict=True):
            for part, more in enumerate(otherwise.get(element.id or "", (0, 0, 0, 0))):
                row[2 + part] += more

    found = compare(page, measured(answer_of(page, change)), 0.5)
    assert {d.element.id: d.own for d in found.causes} == causes
