"""Images that are not there (HTML Standard §15.4.2), inside markers (CSS Lists 3 §3), contents of what has none."""

from pathlib import Path

import pytest

from tests.conftest import PageOf, box, by_id, load
from tests.laws import check_laws

IMAGES = [
    # attributes, width and height of the box; text is 20 px a line
    ("src='no.png'", 16, 16), ("src='no.png' alt=''", 0, 0), ("", 0, 0), ("alt=''", 0, 0),
    ("src='no.png' width=40 height=30", 40, 30),
    ("src='no.png' alt='' width=40 height=30", 40, 30),
    ("src='no.png' style='width:40px'", 16, 16), ("src='no.png' style='aspect-ratio:1;width:40px'", 16, 16),
    ("src='no.png' alt='a' style='width:40px;height:30px;display:block'", 40, 30),
    ("src='no.png' alt='a' width=40 height=30 style='float:left'", 40, 30),
]  # fmt: skip


@pytest.mark.parametrize(("attributes", "width", "height"), IMAGES, ids=[i[0] for i in IMAGES])
def test_image(page_of: PageOf, attributes: str, width: float, height: float) -> None:
    """The size of the box in a line."""
    page = page_of(f"<p><img id='d' {attributes}></p>", "p { line-height: 20px }")
    check_laws(page)
    assert box(page, "d")[2:] == (width, height)


@pytest.mark.parametrize("sizes", ["", "width=40 height=30", "style='width:40px;height:30px'"])
def test_alternative_text_stands_beside_the_icon(page_of: PageOf, sizes: str) -> None:
    """It is as wide as 16 px and the text, on the baseline of the line, as inline text is: sizes do not count."""
    page = page_of(f"<p><img id='d' src='no.png' alt='a fence' {sizes}> <span id='t'>a fence</span></p>")
    check_laws(page)
    image, text = box(page, "d"), box(page, "t")
    assert image[2] == pytest.approx(16 + text[2], abs=0.02)
    assert image[3] == 18 and abs(image[1] - text[1]) <= 1


@pytest.mark.parametrize(
    ("attributes", "size"),
    [
        ("alt='a fence' width=40", (40, 40)),
        ("alt='a fence' width=40 height=30", (40, 30)),
        ("style='height:30px'", (30, 30)),
    ],
)
def test_in_quirks_mode_it_has_the_size_of_the_picture(
    tmp_path: Path, attributes: str, size: tuple[int, int]
) -> None:
    """One that is given is the other one too."""
    path = tmp_path / "old.html"
    path.write_text(f"<p><img id=d src=no.png {attributes}>", encoding="utf-8")
    assert box(load(path), "d")[2:] == size


@pytest.mark.parametrize(
    ("kind", "first"), [("decimal", "1. "), ("upper-roman", "I. "), ("'-> '", "-> ")]
)
def test_an_inside_marker_pushes_the_text(page_of: PageOf, kind: str, first: str) -> None:
    """It is the first thing in the line, as wide as its text."""
    css = f"li {{ list-style: inside {kind} }} span {{ white-space: pre }}"
    page = page_of(f"<ol style='padding: 0'><li><b id='d'>x</b></ol><span id='t'>{first}</span>", css)
    check_laws(page)
    assert box(page, "d")[0] == pytest.approx(box(page, "t")[2], abs=0.02)


def test_a_symbol_takes_the_room_that_engines_give_it(page_of: PageOf) -> None:
    """A third of the ascent (14 or 29 px) wide, rounded, with its margins: 22 px at 16 px; in proportion else."""
    for size, room in ((16, 22), (32, 43)):
        css = f"li {{ list-style: inside disc; font-size: {size}px }}"
        page = page_of("<ul style='padding: 0'><li><b id='d'>x</b></ul>", css)
        assert box(page, "d")[0] == room


def test_an_empty_item_with_an_inside_marker_has_a_line(page_of: PageOf) -> None:
    """With an outside one, or none, it has no height."""
    heights = []
    for style in ("inside", "inside none", "inside square"):
        page = page_of("<ul><li id='d'></ul>", f"li {{ list-style: {style}; line-height: 20px }}")
        check_laws(page)
        heights.append(box(page, "d")[3])
    assert heights == [20, 0, 20]


@pytest.mark.parametrize(
    ("body", "rest", "height"),
    [
        ("<details id='d'>text<summary id='s'>s</summary><p id='r'>x</details>", False, 20),
        ("<details id='d' open>text<summary id='s'>s</summary><p id='r'>x</details>", True, 60),
        ("<details id='d'><div style='display: contents'><p id='r'>x</div></details>", False, 20),
        ("<details id='d' open><p id='r'>x</details>", True, 40),
        ("<details id='d'><summary>s</summary><summary id='r'>x</summary></details>", False, 20),
    ],
)
def test_details(page_of: PageOf, body: str, rest: bool, height: float) -> None:
    """HTML Standard §15.5.4: the first summary, or one of our own, then the rest if it is open."""
    page = page_of(body, "body { line-height: 20px } p { margin: 0 }")
    check_laws(page)
    assert box(page, "d")[3] == height
    assert (page.box_of(by_id(page, "r")) is not None) is rest
    if "id='s'" in body:
        assert box(page, "s")[1] == 0


def test_an_empty_item_gives_its_block_a_baseline(page_of: PageOf) -> None:
    """The outside marker stands on it: an inline-block round it does not hang from its bottom edge."""
    css = "p { margin: 0; line-height: 20px } b { display: inline-block } i { display: list-item }"
    page = page_of("<p id='p'>x<b id='b'><i></i></b></p>", css)
    assert box(page, "p")[3] == 20 and box(page, "b")[1:] == (0, 0, 20)


def test_contents_of_what_has_no_contents_is_none(page_of: PageOf) -> None:
    """CSS Display 3, Appendix B: replaced elements and breaks are not displayed at all; others leave their content."""
    page = page_of(
        "<p id=p>a<video class=c></video><img class=c width=50><input class=c><br class=c>b<span id=s class=c><i id=i>c"
        "</i></span></p>",
        ".c { display: contents } p { font: 20px/20px 'Liberation Sans' }",
    )
    assert box(page, "p")[3] == 20
    shown = [e.id or e.tag for e in page.elements if page.box_of(e) is not None]
    assert shown == ["html", "body", "p", "i"]
