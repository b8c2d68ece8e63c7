"""The standard's rules for widths, heights and margins as tables: every combination of auto and given.

What is expected follows the wording of the section, step by step, in px; the layout is asked for the
box that comes out. Containers are 600 by 400 px; edges are 10 px of padding and 5 px of border.
"""

from itertools import product

import pytest

from redcrate.core.explain.position import position
from tests.conftest import PageOf, box, by_id

EDGES = 30.0  # both paddings and borders of one axis
AUTO = None
Given = float | None


def css(**values: object) -> str:
    """Declarations; None is auto, and what is not given is left out."""
    return "; ".join(
        f"{name.replace('_', '-')}: {'auto' if v is None else f'{v:g}px' if isinstance(v, float) else v}"
        for name, v in values.items()
    )


def limited(size: float, least: float, most: float) -> float:
    """§10.4 and §10.7: the largest size, then the smallest one."""
    return max(min(size, most), least)


LIMITS = {"free": (0.0, 9999.0), "min": (300.0, 9999.0), "max": (0.0, 120.0), "both": (300.0, 120.0)}


def in_flow(left: Given, width: Given, right: Given, direction: str) -> tuple[float, float, float]:
    """§10.3.3: left margin, content width and right margin of a block in a 600 px container."""
    if width is AUTO:
        left, right = left or 0.0, right or 0.0
        return left, 600 - EDGES - left - right, right
    if width + EDGES + (left or 0) + (right or 0) > 600:
        left, right = left or 0.0, right or 0.0
    if left is AUTO and right is AUTO:
        half = (600 - width - EDGES) / 2
        return half, width, half
    if left is AUTO:
        return 600 - width - EDGES - (right or 0), width, right or 0.0
    if right is AUTO:
        return left, width, 600 - width - EDGES - left
    if direction == "rtl":
        return 600 - width - EDGES - right, width, right
    return left, width, 600 - width - EDGES - left


@pytest.mark.parametrize("direction", ["ltr", "rtl"])
@pytest.mark.parametrize("limit", LIMITS)
@pytest.mark.parametrize("sizing", ["content-box", "border-box"])
def test_blocks_in_flow(page_of: PageOf, direction: str, limit: str, sizing: str) -> None:
    """§10.3.3 with §10.4: a width that a limit changes is put through the rules as if it were given."""
    combinations = list(product([AUTO, 0.0, 33.0], [AUTO, 200.0, 590.0], [AUTO, 0.0, 41.0]))
    least, most = LIMITS[limit]
    inset = EDGES if sizing == "border-box" else 0.0
    blocks, expected = [], []
    for number, (left, width, right) in enumerate(combinations):
        style = css(margin_left=left, width=width, margin_right=right)
        blocks.append(f"<div id='b{number}' style='{style}'></div>")
        given = None if width is AUTO else width - inset
        used = in_flow(left, given, right, direction)
        content = limited(used[1], max(0.0, least - inset), max(0.0, most - inset))
        if content != used[1]:
            used = in_flow(left, content, right, direction)
        expected.append((used[0], used[1] + EDGES))
    page = page_of(
        f"<section>{''.join(blocks)}</section>",
        f"section {{ width: 600px; direction: {direction} }} div {{ border: 5px solid; padding: 10px;"
        f" box-sizing: {sizing}; min-width: {least}px; max-width: {most}px }}",
    )
    found = [box(page, f"b{n}")[::2] for n in range(len(combinations))]
    assert found == expected


def absolute_across(
    start: Given, size: Given, end: Given, before: Given, after: Given, fit: float, direction: str
) -> tuple[float, float, float]:
    """§10.3.7: offset of the margin edge, content width and left margin; static place 0 from the start."""
    rtl = direction == "rtl"
    if start is not AUTO and size is not AUTO and end is not AUTO:
        rest = 600 - start - end - size - EDGES
        if before is AUTO and after is AUTO:
            if rest >= 0:
                return start, size, rest / 2
            return start, size, rest if rtl else 0.0
        if before is AUTO:
            return start, size, rest - (after or 0)
        if after is AUTO or not rtl:
            return start, size, before
        return 600 - end - after - EDGES - size - before, size, before
    before, after = before or 0.0, after or 0.0
    taken = before + after + EDGES
    if start is AUTO and end is AUTO:
        start, end = (AUTO, 0.0) if rtl else (0.0, AUTO)  # the static place
    if size is AUTO:
        free = 600 - taken - (start or 0) - (end or 0)
        size = free if start is not AUTO and end is not AUTO else min(fit, free)
    if start is AUTO:
        assert end is not AUTO
        start = 600 - end - taken - size
    return start, size, before


ABSOLUTE = list(product([AUTO, 50.0], [AUTO, 120.0, 570.0], [AUTO, 70.0], [AUTO, 12.0], [AUTO, 21.0]))


@pytest.mark.parametrize("direction", ["ltr", "rtl"])
@pytest.mark.parametrize("limit", LIMITS)
def test_absolute_boxes_across(page_of: PageOf, direction: str, limit: str) -> None:
    """§10.3.7 with §10.4: the rules one to six, auto margins, and which offset gives."""
    least, most = LIMITS[limit]
    boxes, expected = [], []
    for number, (left, width, right, before, after) in enumerate(ABSOLUTE):
        style = css(left=left, width=width, right=right, margin_left=before, margin_right=after)
        boxes.append(f"<div id='b{number}' style='{style}'><i></i></div>")
        used = absolute_across(left, width, right, before, after, 80.0, direction)
        content = limited(used[1], least, most)
        if content != used[1]:
            used = absolute_across(left, content, right, before, after, 80.0, direction)
        expected.append((used[0] + used[2], used[1] + EDGES))
    page = page_of(
        f"<section>{''.join(boxes)}</section>",
        f"section {{ width: 600px; height: 400px; position: relative; direction: {direction} }}"
        f" div {{ position: absolute; border: 5px solid; padding: 10px; min-width: {least}px;"
        f" max-width: {most}px }} i {{ display: block; width: 80px; height: 40px }}",
    )
    found = [box(page, f"b{n}")[::2] for n in range(len(ABSOLUTE))]
    assert dict(zip(ABSOLUTE, found, strict=True)) == dict(zip(ABSOLUTE, expected, strict=True))
    for number, (left, width, right, before, after) in enumerate(ABSOLUTE):
        placed = page.box_of(by_id(page, f"b{number}"))
        if AUTO not in (left, width, right) and AUTO in (before, after):  # nothing is over-constrained
            assert placed is not None and left is not None and right is not None
            taken = left + placed.margin_box.width / 64 + right
            assert taken == 600, (left, width, right, before, after)


def absolute_down(
    top: Given, size: Given, bottom: Given, before: Given, after: Given
) -> tuple[float, float, float]:
    """§10.6.4: offset of the margin edge, content height and top margin; static place 0, content 40."""
    if top is not AUTO and size is not AUTO and bottom is not AUTO:
        rest = 400 - top - bottom - size - EDGES
        if before is AUTO and after is AUTO:
            return top, size, rest / 2
        return top, size, rest - (after or 0) if before is AUTO else before
    before, after = before or 0.0, after or 0.0
    taken = before + after + EDGES
    if top is AUTO and bottom is AUTO:
        top = 0.0
    if size is AUTO:
        size = 400 - taken - top - bottom if top is not AUTO and bottom is not AUTO else 40.0
    if top is AUTO:
        assert bottom is not AUTO
        top = 400 - bottom - taken - size
    return top, size, before


@pytest.mark.parametrize("limit", ["free", "min", "max"])
def test_absolute_boxes_down(page_of: PageOf, limit: str) -> None:
    """§10.6.4 with §10.7."""
    least, most = LIMITS[limit]
    rows = list(product([AUTO, 50.0], [AUTO, 120.0, 370.0], [AUTO, 70.0], [AUTO, 12.0], [AUTO, 21.0]))
    boxes, expected = [], []
    for number, (top, height, bottom, before, after) in enumerate(rows):
        style = css(top=top, height=height, bottom=bottom, margin_top=before, margin_bottom=after)
        boxes.append(f"<div id='b{number}' style='{style}'><i></i></div>")
        used = absolute_down(top, height, bottom, before, after)
        content = limited(used[1], least, most)
        if content != used[1]:
            used = absolute_down(top, content, bottom, before, after)
        expected.append((used[0] + used[2], used[1] + EDGES))
    page = page_of(
        f"<section>{''.join(boxes)}</section>",
        "section { width: 600px; height: 400px; position: relative } div { position: absolute; padding: 10px;"
        f" border: 5px solid; min-height: {least}px; max-height: {most}px }} i {{ display: block;"
        " width: 80px; height: 40px }",
    )
    found = [box(page, f"b{n}")[1::2] for n in range(len(rows))]
    assert dict(zip(rows, found, strict=True)) == dict(zip(rows, expected, strict=True))


def by_ratio(
    w: float, h: float, low: tuple[float, float], high: tuple[float, float]
) -> tuple[float, float]:
    """The table of §10.4, row by row; w and h are the intrinsic sizes."""
    (min_w, min_h), (max_w, max_h) = low, (max(high[0], low[0]), max(high[1], low[1]))
    wide, narrow, tall, flat = w > max_w, w < min_w, h > max_h, h < min_h
    rows = {
        (0, 0, 0, 0): (w, h),
        (1, 0, 0, 0): (max_w, max(max_w * h / w, min_h)),
        (0, 1, 0, 0): (min_w, min(min_w * h / w, max_h)),
        (0, 0, 1, 0): (max(max_h * w / h, min_w), max_h),
        (0, 0, 0, 1): (min(min_h * w / h, max_w), min_h),
        (1, 0, 1, 0): (max_w, max(min_h, max_w * h / w))
        if max_w / w <= max_h / h
        else (max(min_w, max_h * w / h), max_h),
        (0, 1, 0, 1): (min(max_w, min_h * w / h), min_h)
        if min_w / w <= min_h / h
        else (min_w, min(max_h, min_w * h / w)),
        (0, 1, 1, 0): (min_w, max_h),
        (1, 0, 0, 1): (max_w, min_h),
    }
    return rows[int(wide), int(narrow), int(tall), int(flat)]


RATIOS = list(
    product([0.0, 60.0, 160.0, 240.0], [0.0, 30.0, 90.0], [9999.0, 80.0, 200.0], [9999.0, 40.0])
)


def test_images_between_limits(page_of: PageOf) -> None:
    """§10.4: an image of 100 by 50 px between every two pairs of limits."""
    images, expected = [], []
    for number, (min_w, min_h, max_w, max_h) in enumerate(RATIOS):
        style = css(min_width=min_w, min_height=min_h, max_width=max_w, max_height=max_h)
        images.append(f"<svg id='s{number}' width='100' height='50' style='{style}'></svg>")
        expected.append(by_ratio(100, 50, (min_w, min_h), (max_w, max_h)))
    page = page_of("".join(images), "svg { display: block; width: auto; height: auto }")
    found = [box(page, f"s{n}")[2:] for n in range(len(RATIOS))]
    assert dict(zip(RATIOS, found, strict=True)) == dict(zip(RATIOS, expected, strict=True))


SHRINK = list(product([AUTO, 90.0], [0.0, 70.0], [9999.0, 55.0]))


@pytest.mark.parametrize("how", ["float: left", "float: right", "display: inline-block"])
@pytest.mark.parametrize("room", [40.0, 150.0, 500.0])
def test_shrink_to_fit(page_of: PageOf, how: str, room: float) -> None:
    """§10.3.5 and §10.3.9: between the longest word (60) and all of it (160), limits, margins of 5."""
    for width, least, most in SHRINK:
        style = css(width=width, min_width=least, max_width=most)
        page = page_of(
            f"<section><div id='b' style='{style}'><i></i> <i class='l'></i></div></section>",
            f"section {{ width: {room}px; font-size: 0 }} div {{ {how}; margin: 0 5px }}"
            " i { display: inline-block; height: 9px; width: 60px } .l { width: 100px }",
        )
        tentative = min(max(100.0, room - 10), 160.0) if width is AUTO else width
        assert box(page, "b")[2] == limited(tentative, least, most), (width, least, most)


HEIGHTS = {
    "auto": ("", 30),
    "a length": ("height: 70px", 70),
    "a percentage of a length": ("height: 50%", 100),
    "at least": ("min-height: 90px", 90),
    "at least half": ("min-height: 50%", 100),
    "at most": ("max-height: 20px", 20),
    "at most, but at least": ("max-height: 20px; min-height: 44px", 44),
    "at most a tenth": ("max-height: 10%", 20),
    "border-box": ("height: 70px; box-sizing: border-box", 40),
    "a percentage, border-box": ("height: 50%; box-sizing: border-box", 70),
}


@pytest.mark.parametrize(("style", "content"), HEIGHTS.values(), ids=HEIGHTS)
def test_heights_of_blocks(page_of: PageOf, style: str, content: float) -> None:
    """§10.5, §10.6.3 and §10.7 in a container of 200 px."""
    page = page_of(
        "<section><div id='b'><i></i></div></section>",
        f"section {{ height: 200px }} #b {{ border: 5px solid; padding: 10px; {style} }}"
        " i { display: block; height: 30px }",
    )
    assert box(page, "b")[3] == content + EDGES


@pytest.mark.parametrize(
    ("around", "height"),
    [
        ("", 30), ("height: auto; min-height: 200px", 30), ("max-height: 200px", 30),
        ("height: 200px; max-height: 120px", 60), ("height: 80px; min-height: 120px", 60),
        ("height: 50%", 30), ("height: 120px; box-sizing: border-box; padding: 10px 0", 50),
    ],
)  # fmt: skip
def test_what_a_percentage_height_counts_from(page_of: PageOf, around: str, height: float) -> None:
    """§10.5: a definite height with its limits; neither auto nor a limit alone is one."""
    page = page_of(
        "<section><div id='b'><i></i></div></section>",
        f"section {{ {around} }} #b {{ height: 50% }} i {{ display: block; height: 30px }}",
    )
    assert box(page, "b")[3] == height


def test_relative_lengths_are_kept_as_engines_keep_them(page_of: PageOf) -> None:
    """A size of 1.8em and a length of 2.5em come to 72 px, not to a hair less."""
    page = page_of("<div id='d'></div>", "div { font-size: 1.8em; height: 2.5em }")
    assert box(page, "d")[3] == 72


@pytest.mark.parametrize(
    ("style", "inside", "down", "high"),
    [
        ("", "<div id='d'>x</div>", 6, 16), ("", "<div id='d'><p>x</p></div>", 6, 16), ("list-style: none", "<div id='d'>x</div>", 0, 10),
        ("list-style-position: inside", "<div id='d'>x</div>", 18, 28), ("", "<div id='d' style='height: 10px'></div>", 0, 18),
        ("", "<div id='d' style='height: 30px'></div>", 0, 30), ("", "x<div id='d'>x</div>", 18, 28),
        ("", "<div id='d' style='overflow: hidden'>x</div>", 6, 16),
    ],
)  # fmt: skip
def test_a_marker_that_reaches_above_its_line(
    page_of: PageOf, style: str, inside: str, down: float, high: float
) -> None:
    """CSS Lists 3 §3.5 leaves it open; engines move the first line down, and give a marker alone its own line."""
    css = "li { font: 16px 'Liberation Sans' } li * { margin: 0; font: 10px/10px 'Liberation Sans' }"
    page = page_of(f"<ul style='margin: 0'><li id='l' style='{style}'>{inside}</ul>", css)
    assert (box(page, "d")[1], box(page, "l")[3]) == (down, high)
    said = " ".join(r.sentence for r in position(page, by_id(page, "d")))
    assert ("The marker of li#l reaches 6 px above this first line" in said) == (down == 6)


def test_the_line_break_after_the_tag_of_preformatted_text(page_of: PageOf) -> None:
    """HTML Standard §13.2.6.4.7: it is dropped in cells and captions too."""
    body = "<table><caption><pre id='c'>\nx</pre></caption><tr><td><pre id='a'>\nx</pre><td><pre id='b'>\n\nx</pre></table>"
    page = page_of(body, "pre { margin: 0; line-height: 20px }")
    assert [box(page, i)[3] for i in "cab"] == [20, 20, 40]
