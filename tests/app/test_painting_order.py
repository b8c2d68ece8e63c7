"""What is painted over what: the list of CSS 2.2 App. E, flex items, groups, and clips with round corners."""

from pathlib import Path

import pytest

from redcrate.app.painting.stacking import Step, in_order
from redcrate.core.files.loading import assemble
from redcrate.core.files.resources import Resources
from redcrate.core.markup import SourceText
from redcrate.core.page import compute_page
from redcrate.core.style.media import Viewport
from tests.app.test_painting import colour_at, picture

BOX = "width:40px;height:40px;"
RED, GREEN, BLUE = "#aa0000", "#00aa00", "#0000aa"


def order(body: str) -> list[str]:
    """The ids in the order in which surfaces are painted."""
    source = SourceText("p.html", f"<!doctype html><style>body{{margin:0}}</style>{body}")
    page = compute_page(assemble(source, Resources(Path("nowhere/p.html"))).page, Viewport(200, 100))
    return [
        at.fragment.box.element.id
        for step, at in in_order(page, page.in_order)
        if step is Step.SURFACE and at.fragment.box.element is not None and at.fragment.box.element.id
    ]


def test_the_list_of_the_standard() -> None:
    """E.2: the box that makes the context, negative levels, blocks, floats, inlines, level 0 and auto, positive levels."""
    body = """<div id=root style='position:relative;z-index:0'>
      <i id=two style='position:absolute;z-index:2'>2</i>
      <i id=zero style='position:relative;z-index:0;display:block'>0</i>
      <i id=auto style='position:absolute'>a<b id=one style='position:absolute;z-index:1'>1</b></i>
      <i id=inline style='display:inline-block'>i<u id=inner style='display:block'>u</u></i>
      <i id=float style='float:left'>f<b id=nested style='position:relative;display:block'>n</b></i>
      <div id=block><div id=child>c</div></div>
      <i id=minus style='position:absolute;z-index:-1'>-</i>
      <i id=least style='position:absolute;z-index:-2'>-</i></div>"""
    assert order(body) == [
        "root", "least", "minus", "block", "child", "float", "inline", "inner",
        "zero", "auto", "nested", "one", "two",
    ]  # fmt: skip


def test_items_have_levels() -> None:
    """Flexbox 1 §4.3: an item is painted as a whole, and z-index counts without position."""
    items = (
        "<i id=a style='z-index:1'>a</i><i id=b><u id=inner style='display:block'>u</u></i><i id=c>c</i>"
    )
    assert order(f"<div id=f style='display:flex'>{items}</div>") == ["f", "b", "inner", "c", "a"]
    assert order(f"<div id=f>{items}</div>")[:1] == ["f"]


@pytest.mark.parametrize(
    ("style", "seen"),
    [
        ("opacity:0.5", {(20, 20): "#d48080", (60, 20): "#d48080"}),
        ("opacity:0", {(20, 20): "#ffffff", (60, 20): "#ffffff"}),
        ("", {(20, 20): RED, (60, 20): RED}),
    ],
)
def test_opacity_is_that_of_all_inside(style: str, seen: dict[tuple[int, int], str]) -> None:
    """Color 4 §4.2: ground and what is in it are one picture: what lies under a child does not shine through."""
    child = f"<p style='margin:0;{BOX}width:70px;background:{RED}'></p>"
    image = picture(f"<div style='{BOX}background:{BLUE};{style}'>{child}</div>")
    for (x, y), wanted in seen.items():
        found = image.pixelColor(x, y)
        assert (
            abs(found.red() - int(wanted[1:3], 16)) < 3 and abs(found.blue() - int(wanted[5:], 16)) < 3
        )


def test_a_group_within_a_group(tmp_path: Path) -> None:
    """Half of a half is a quarter, and a positioned box that the document holds is in it, wherever it stands."""
    inner = (
        f"<p style='margin:0;position:absolute;left:100px;top:0;{BOX}background:#000;opacity:.5'></p>"
    )
    image = picture(f"<div style='opacity:.5'>{inner}</div>")
    assert abs(image.pixelColor(120, 20).red() - 191) < 3


def test_levels_on_the_page() -> None:
    """A negative level lies under the block's ground, a float under text, a positive level over all."""
    below = f"<i style='position:absolute;z-index:-1;left:0;top:0;{BOX}background:{RED}'></i>"
    assert colour_at(picture(f"{below}<div style='{BOX}background:{BLUE}'></div>"), 10, 10) == BLUE
    floats = (
        f"<i style='float:left;{BOX}background:{RED}'></i><div style='{BOX}background:{BLUE}'></div>"
    )
    assert colour_at(picture(floats), 10, 10) == RED
    outline = f"<div style='margin:9px;{BOX}outline:4px solid {GREEN}'></div>"
    over = f"<div style='margin:-13px 0 0;{BOX}background:{BLUE}'></div>"
    assert colour_at(picture(outline + over), 20, 51) == GREEN, "outlines come last"


def test_round_corners_clip_what_is_inside() -> None:
    """CSS Backgrounds 3 §5.3; radii that are too large shrink together (§5.5), with a border too."""
    inside = f"<p style='margin:0;{BOX}background:{RED}'></p>"
    image = picture(f"<div style='{BOX}overflow:hidden;border-radius:20px'>{inside}</div>")
    assert colour_at(image, 1, 1) == "#ffffff" and colour_at(image, 20, 20) == RED
    pill = "width:100px;height:30px;border:5px solid #0000aa;border-radius:160px;background:#00aa00"
    image = picture(f"<div style='{pill}'></div>")
    assert colour_at(image, 1, 1) == "#ffffff" and colour_at(image, 55, 2) == BLUE
    assert colour_at(image, 2, 20) == BLUE and colour_at(image, 55, 20) == GREEN
    assert colour_at(image, 20, 20) == GREEN, "the inner edge is round by as much as the border leaves"


def underlined(body: str) -> list[bool]:
    """Whether there is a line under the first, the second and the third of three 60 px wide parts."""
    image = picture(f"<style>u, p {{ font: 20px/30px 'Liberation Sans'; color: #000 }}</style>{body}")
    rows = range(20, 30)
    return [any(image.pixelColor(x, y).red() < 90 for y in rows) for x in (30, 90, 150)]


def test_lines_go_on_into_what_is_in_flow() -> None:
    """Text Decoration 3 §2.1: into inline boxes and blocks; not into what is out of flow, or an inline box of its own."""
    space = "<{} style='display:{};width:60px;white-space:pre'>" + "&nbsp;" * 11 + "</{}>"
    inside = "<b style='{}'>" + "&nbsp;" * 11 + "</b>"
    assert underlined(f"<u>{inside.format('')}{inside.format('')}</u>")[:2] == [True, True]
    apart = space.format("i", "inline-block", "i")
    assert underlined(f"<u>{inside.format('')}{apart}</u>")[1] is False
    floats = inside.format("float:left")
    assert underlined(f"<u>{floats}</u>")[0] is False
    block = "<p style='margin:0'>" + "&nbsp;" * 11 + "</p>"
    assert underlined(f"<div style='text-decoration:underline'>{block}</div>")[0] is True


def test_a_line_that_is_cut_ends_in_dots() -> None:
    """CSS Overflow 3 §5.1: letters that would run into the ellipsis go; without a cut, or where all fits, none."""
    css = "width:100px;font:20px/30px Liberation Sans;white-space:nowrap;overflow:hidden;margin:0"
    ends = {}
    for name, more in (("cut", "text-overflow:ellipsis"), ("clipped", "")):
        image = picture(f"<p style='{css};{more}'>HHHHHHHHHHHH</p>")
        high, low = (
            any(image.pixelColor(x, y).red() < 90 for x in range(86, 99) for y in rows)
            for rows in (range(8, 14), range(19, 23))
        )
        ends[name] = high, low
    assert ends == {"cut": (False, True), "clipped": (True, True)}
    fits = picture(f"<p style='{css};text-overflow:ellipsis'>HHHH</p>")
    assert fits == picture(f"<p style='{css}'>HHHH</p>")


def test_a_ground_stays_in_the_window_and_hints_have_their_colour() -> None:
    """CSS Backgrounds 3 §2.5; HTML Standard §15.5.20 with ::placeholder."""
    css = "float:left;width:60px;height:60px;background:linear-gradient(90deg,#aa0000 50%,#0000aa 50%) fixed"
    image = picture(f"<div style='{css}'></div><div style='{css}'></div>")
    assert [colour_at(image, x, 30) for x in (10, 50, 90, 110)] == [RED, RED, RED, BLUE]
    hint = "<style>input{font:30px 'Liberation Sans'}input::placeholder{color:#aa0000}</style><input placeholder=MMMM>"
    shown = picture(hint)
    assert RED in {colour_at(shown, x, y) for x in range(4, 60) for y in range(8, 30)}


def test_where_there_is_more_to_scroll_to_a_bar_says_so() -> None:
    """As long as the part that is seen; not where all is seen, where it is cut for good, or where a box inside has more."""
    box = "position:absolute;top:10px;width:40px;height:40px;background:#fff;"
    tall = "<p style='height:80px;margin:0'>"
    inner = "<p style='height:20px;margin:0;overflow:auto'><b style='display:block;height:90px'></b>"
    image = picture(
        f"<body style='margin:0'><div style='{box}left:0;overflow:auto'>{tall}</div>"
        f"<div style='{box}left:50px;overflow:hidden'>{tall}</div>"
        f"<div style='{box}left:100px;overflow:auto'>{inner}</div>"
        f"<div style='{box}left:150px;overflow-x:scroll'><p style='width:160px;height:9px;margin:0'></div>"
    )
    at = [colour_at(image, x, 15) != "#ffffff" for x in (36, 86, 136, 186)]
    assert at == [True, False, True, False]
    assert colour_at(image, 36, 25) != "#ffffff" == colour_at(image, 36, 35)  # half of it is seen
    assert colour_at(image, 136, 25) == "#ffffff"  # its own bar ends with the box inside
    assert colour_at(image, 154, 46) != "#ffffff" == colour_at(image, 165, 46)  # a quarter


def test_what_scripts_draw_is_empty_and_what_plays_has_its_mark() -> None:
    """Neither looks like a picture that is missing; a film shows its poster."""
    poster = "data:image/svg+xml,<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><path fill='%2300aa00' d='M0 0h9v9H0z'/></svg>"
    box = f"style='{BOX}position:absolute;top:0;background:#fff;left:"
    image = picture(
        f"<canvas {box}0'></canvas><video {box}50px'></video><video controls {box}100px'></video>"
        f'<video poster="{poster}" {box}150px\'></video>'
    )
    empty = {colour_at(image, x + dx, y) for x in (0, 50) for dx in range(40) for y in range(0, 40, 3)}
    assert empty == {"#ffffff"}
    assert colour_at(image, 120, 20) == "#5a5a5a" and colour_at(image, 102, 2) == "#ffffff"
    assert colour_at(image, 170, 20) == GREEN
