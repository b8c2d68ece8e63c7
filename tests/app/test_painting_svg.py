"""SVG in the text of the page: with the page's colours, view boxes, and parts that are used again."""

import pytest
from pytestqt.qtbot import QtBot

from tests.app.test_painting import colour_at, picture

FULL = "<path d='M0 0h10v10H0z'/>"


@pytest.mark.parametrize(
    ("css", "svg", "wanted"),
    [
        ("", FULL, "#000000"),
        (".i{color:#aa0000;fill:currentColor}", FULL, "#aa0000"),
        (".i path{fill:#00aa00}", "<path fill='#0000aa' d='M0 0h10v10H0z'/>", "#00aa00"),
        (".i{fill:#00aa00}", "<path fill='#0000aa' d='M0 0h10v10H0z'/>", "#0000aa"),
        (".i{color:#aa0000}", "<path fill='currentColor' d='M0 0h10v10H0z'/>", "#aa0000"),
        ("", "<g fill='rgba(0,0,255,.5)'><path d='M0 0h10v10H0z'/></g>", "#8080ff"),
        (".i path{display:none}", FULL, "#ffffff"),
        (".i path{opacity:.5}", FULL, "#808080"),
        ("", "<path fill='oklch(0.7 0.1 200)' d='M0 0h10v10H0z'/>", "#40b1b7"),
        ("", "<script>x</script><path style='fill:#00aa00' d='M0 0h10v10H0z'/>", "#00aa00"),
    ],
)
def test_its_colours(qtbot: QtBot, css: str, svg: str, wanted: str) -> None:
    """A rule counts more than an attribute, an attribute more than what is inherited (SVG 2 §6.6)."""
    image = picture(
        f"<style>{css}</style><svg class=i width=40 height=40 viewBox='0 0 10 10'>{svg}</svg>"
    )
    assert colour_at(image, 20, 20) == wanted


def test_its_view_box(qtbot: QtBot) -> None:
    """In the middle and as large as fits, or stretched where it is to be; without one a unit is a px."""
    wide = f"<svg width=80 height=40 viewBox='0 0 10 10'{{}}>{FULL}</svg>"
    image = picture(wide.format(""))
    assert [colour_at(image, x, 20) for x in (10, 30, 70)] == ["#ffffff", "#000000", "#ffffff"]
    image = picture(wide.format(" preserveAspectRatio=none"))
    assert colour_at(image, 2, 20) == colour_at(image, 78, 20) == "#000000"
    plain = picture(f"<svg width=80 height=40>{FULL}</svg>")
    assert colour_at(plain, 5, 5) == "#000000" and colour_at(plain, 12, 5) == "#ffffff"


def test_what_it_uses(qtbot: QtBot) -> None:
    """A symbol of another picture is fitted into the size that is given; what uses itself is not drawn for ever."""
    symbol = f"<svg style='display:none'><symbol id=s viewBox='0 0 10 10'>{FULL}</symbol></svg>"
    use = "<svg width=60 height=40><use href='#s' x=20 y=10 width=20 height=20 fill='#aa0000'/></svg>"
    image = picture(f"{use}{symbol}")
    assert colour_at(image, 30, 20) == "#aa0000"
    assert [colour_at(image, *at) for at in ((18, 20), (42, 20), (30, 8), (30, 32))] == ["#ffffff"] * 4
    loop = "<g id=a><path d='M0 0h9v9H0z'/><use href='#b'/><use href='#b'/></g><g id=b><use href='#a'/><use href='#a'/></g>"
    picture(f"<svg width=40 height=40>{loop}</svg>")
