"""CSS 2.2 §8.3.1, clause by clause: which vertical margins meet, and where the boxes then stand.

Each drawing is a stack of boxes in a window of 400 px: `t` and `b` are margins above and below, `h` is a
height. Under it stand the top border edge and the height of each lettered box.
"""

import pytest

from tests.conftest import PageOf, box

T10 = "margin-top: 10px;"
T30 = "margin-top: 30px;"
B20 = "margin-bottom: 20px;"
B30 = "margin-bottom: 30px;"
H = "height: 50px;"

# clause → (boxes, {letter: (top, height)})
DRAWINGS = {
    "1. siblings: the larger of both": (
        f"<p id=a style='{H}{B20}'></p><p id=b style='{H}{T30}'></p>", {"a": (0, 50), "b": (80, 50)},
    ),
    "2. siblings: a negative one is taken from the positive one": (
        f"<p id=a style='{H}{B30}'></p><p id=b style='{H}margin-top: -12px'></p>", {"b": (68, 50)},
    ),
    "3. siblings: of two negative ones the more negative": (
        f"<p style='{H}margin-bottom: -5px'></p><p id=b style='{H}margin-top: -12px'></p>", {"b": (38, 50)},
    ),
    "4. a parent and its first child: one margin, above the parent": (
        f"<div id=p style='{T10}'><p id=a style='{H}{T30}'></p></div>", {"p": (30, 50), "a": (30, 50)},
    ),
    "5. border above keeps them apart": (
        f"<div id=p style='{T10}border-top: 1px solid'><p id=a style='{H}{T30}'></p></div>",
        {"p": (10, 81), "a": (41, 50)},
    ),
    "6. padding above keeps them apart": (
        f"<div id=p style='{T10}padding-top: 1px'><p id=a style='{H}{T30}'></p></div>",
        {"p": (10, 81), "a": (41, 50)},
    ),
    "7. a line above keeps them apart": (
        f"<div id=p style='{T10}line-height: 20px'>x<p id=a style='{H}{T30}'></p></div>",
        {"p": (10, 100), "a": (60, 50)},
    ),
    "8. clearance keeps them apart": (
        f"<i style='float: left; width: 9px; height: 60px'></i>"
        f"<div id=p style='{T10}'><p id=a style='{H}{T30}clear: left'></p></div>",
        {"p": (10, 110), "a": (70, 50)},
    ),
    "9. a parent of auto height and its last child": (
        f"<div id=p><p id=a style='{H}{B30}'></p></div><p id=n style='{H}{T10}'></p>",
        {"p": (0, 50), "n": (80, 50)},
    ),
    "10. a height keeps the last child's margin inside": (
        f"<div id=p style='height: 60px;{B20}'><p id=a style='{H}{B30}'></p></div><p id=n style='{H}'></p>",
        {"p": (0, 60), "n": (80, 50)},
    ),
    "11. padding below keeps it inside": (
        f"<div id=p style='padding-bottom: 1px'><p id=a style='{H}{B30}'></p></div><p id=n style='{H}'></p>",
        {"p": (0, 81), "n": (81, 50)},
    ),
    "12. border below keeps it inside": (
        f"<div id=p style='border-bottom: 1px solid'><p id=a style='{H}{B30}'></p></div><p id=n style='{H}'></p>",
        {"p": (0, 81), "n": (81, 50)},
    ),
    "13. a smallest height that is met lets it out": (
        f"<div id=p style='min-height: 10px'><p id=a style='{H}{B30}'></p></div><p id=n style='{H}'></p>",
        {"p": (0, 50), "n": (80, 50)},
    ),
    "14. through a box with nothing in it, which stands as if it had a border below": (
        f"<p style='{H}'></p><p id=e style='{T10}{B30}'></p><p id=n style='{H}'></p>",
        {"e": (60, 0), "n": (80, 50)},
    ),
    "15. not through one with a smallest height": (
        f"<p style='{H}'></p><p id=e style='{T10}{B30}min-height: 1px'></p><p id=n style='{H}'></p>",
        {"e": (60, 1), "n": (91, 50)},
    ),
    "16. not through one with a line": (
        f"<p style='{H}'></p><p id=e style='{T10}{B30}line-height: 9px'>x</p><p id=n style='{H}'></p>",
        {"e": (60, 9), "n": (99, 50)},
    ),
    "17. through one whose children it goes through": (
        f"<p style='{H}'></p><div id=e style='{T10}'><p style='{B30}'></p><p style='{T10}'></p></div>"
        f"<p id=n style='{H}'></p>",
        {"e": (80, 0), "n": (80, 50)},
    ),
    "18. an empty first box stands where its parent begins": (
        f"<div id=p style='{T10}'><p id=e style='{T30}'></p><p id=a style='{H}'></p></div>",
        {"p": (30, 50), "e": (30, 0), "a": (30, 50)},
    ),
    "19. a float's margins meet none": (
        f"<p style='{H}{B20}'></p><div id=f style='float: left;{T10}'><p id=a style='{H}{T30}'></p></div>",
        {"f": (80, 80), "a": (110, 50)},
    ),
    "20. a new formatting context holds its children's margins": (
        f"<div id=p style='{T10}overflow: hidden'><p id=a style='{H}{T30}{B20}'></p></div>",
        {"p": (10, 100), "a": (40, 50)},
    ),
    "21. its own margins meet those of its siblings": (
        f"<p style='{H}{B20}'></p><div id=p style='{T30}overflow: hidden;{H}'></div>", {"p": (80, 50)},
    ),
    "22. an absolute box's margins meet none": (
        f"<div id=p style='position: absolute; top: 0;{T10}'><p id=a style='{H}{T30}'></p></div>",
        {"p": (10, 80), "a": (40, 50)},
    ),
    "23. an inline-block's margins meet none": (
        f"<p style='line-height: 0'><span id=p style='display: inline-block; vertical-align: top;{T10}'>"
        f"<b id=a style='display: block;{H}{T30}'></b></span></p>",
        {"p": (10, 80), "a": (40, 50)},
    ),
    "24. what floats or is absolute between siblings does not keep them apart": (
        f"<p style='{H}{B20}'></p><i style='float: left'></i><i style='position: absolute'></i>"
        f"<p id=b style='{H}{T30}'></p>",
        {"b": (80, 50)},
    ),
    "25. through three levels at once": (
        f"<div id=o style='{T10}'><div id=p style='{T30}'><p id=a style='{H}margin-top: 20px'></p></div></div>",
        {"o": (30, 50), "p": (30, 50), "a": (30, 50)},
    ),
    "26. a largest height that takes over keeps the margin, which no longer meets the end": (
        f"<div id=p style='max-height: 20px'><p id=a style='{H}{B30}'></p></div><p id=n style='{H}'></p>",
        {"p": (0, 20), "n": (20, 50)},
    ),
}  # fmt: skip


@pytest.mark.parametrize("clause", DRAWINGS)
def test_drawing(page_of: PageOf, clause: str) -> None:
    """Each lettered box stands where the clause puts it."""
    boxes, places = DRAWINGS[clause]
    page = page_of(boxes, "body, p { margin: 0 }")
    assert {name: box(page, name)[1::2] for name in places} == places


def test_the_root_keeps_its_margins(page_of: PageOf) -> None:
    """Drawing 27: the root's margins meet none; those of body and of what it begins with are one."""
    css = f"html {{ {T10} }} body {{ margin: 20px 0 }} p {{ margin: 0 }}"
    page = page_of(f"<p id=a style='{H}{T30}'></p>", css)
    body = page.source.markup.body
    assert body is not None
    found = page.box_of(body)
    assert found is not None and found.border_box.y / 64 == box(page, "a")[1] == 40
