"""Images that are not there (HTML Standard §15.4.2) and inside markers (CSS Lists 3 §3)."""

import pytest

from tests.conftest import PageOf, box
from tests.laws import check_laws

IMAGES = [
    # attributes, width and height of the box; text is 20 px a line
    ("src='no.png'", 16, 16), ("src='no.png' alt=''", 0, 0), ("", 0, 0), ("alt=''", 0, 0),
    ("src='no.png' width=40 height=30", 40, 30),
    ("src='no.png' alt='' width=40 height=30", 40, 30),
]  # fmt: skip


@pytest.mark.parametrize(("attributes", "width", "height"), IMAGES, ids=[i[0] for i in IMAGES])
def test_image(page_of: PageOf, attributes: str, width: float, height: float) -> None:
    """The size of the box in a line."""
    page = page_of(f"<p><img id='d' {attributes}></p>", "p { line-height: 20px }")
    check_laws(page)
    assert box(page, "d")[2:] == (width, height)


@pytest.mark.parametrize("sizes", ["", "width=40 height=30"])
def test_alternative_text_stands_beside_the_icon(page_of: PageOf, sizes: str) -> None:
    """It is as wide as 16 px and the text, on the baseline of the line, as inline text is: sizes do not count."""
    page = page_of(f"<p><img id='d' src='no.png' alt='a fence' {sizes}> <span id='t'>a fence</span></p>")
    check_laws(page)
    image, text = box(page, "d"), box(page, "t")
    assert image[2] == pytest.approx(16 + text[2], abs=0.02)
    assert image[3] == 18 and abs(image[1] - text[1]) <= 1


@pytest.mark.parametrize(
    ("kind", "first"), [("decimal", "1. "), ("upper-roman", "I. "), ("'-> '", "-> ")]
)
def test_an_inside_marker_pushes_the_text(page_of: PageOf, kind: str, first: str) -> None:
    """It is the first thing in the line, as wide as its text."""
    css = f"li {{ list-style: inside {kind} }} span {{ white-space: pre }}"
    page = page_of(f"<ol style='padding: 0'><li><b id='d'>x</b></ol><span id='t'>{first}</span>", css)
    check_laws(page)
    assert box(page, "d")[0] == pytest.approx(box(page, "t")[2], abs=0.02)


def test_an_empty_item_with_an_inside_marker_has_a_line(page_of: PageOf) -> None:
    """With an outside one, or none, it has no height."""
    heights = []
    for style in ("inside", "inside none", "inside square"):
        page = page_of("<ul><li id='d'></ul>", f"li {{ list-style: {style}; line-height: 20px }}")
        check_laws(page)
        heights.append(box(page, "d")[3])
    assert heights == [20, 0, 20]
