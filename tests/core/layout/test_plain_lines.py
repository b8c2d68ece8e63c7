"""Lines that hold one text alone come out as all other lines do, and where they cannot be such they are not."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redcrate.core.layout.inline_items import InlineContent
from redcrate.core.layout.line_breaking import LineBreaker
from redcrate.core.page import Page, compute_page
from redcrate.core.style.media import Viewport
from redcrate.core.text.cuts import cuts_between
from tests.conftest import PageOf
from tests.laws import check_laws
from tests.snapshot import page_snapshot

_WORDS = ["tide", "a", "reed-bed", "windbreak", "fi", "AVAVA", "water\u00adbutts", "kale,", "(marram)"]
_STYLES = [
    "",
    "text-align: center",
    "text-align: right",
    "text-align: justify",
    "direction: rtl",
    "text-indent: 2em",
    "letter-spacing: 1px",
    "white-space: pre-wrap",
    "white-space: nowrap",
    "overflow-wrap: anywhere",
    "line-height: 0",
    "font-variant-caps: small-caps",
    "position: relative; left: 3px",
    "font-size: 13.37px; line-height: 1.3",
]
_INSIDE = [
    "",
    "padding: 0 3px; border-bottom: 1px solid",
    "margin: 0 2%; font-size: 150%",
    "vertical-align: super",
    "position: relative; top: 2px",
    "box-decoration-break: clone; padding: 4px",
    "line-height: 3",
]


def one_by_one(page: Page, width: float) -> Page:
    """The page at a width, its lines broken by halving, one by one."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(InlineContent, "cuts_in", lambda *_: None)
        return compute_page(page.source, Viewport(width, 800))


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    words=st.lists(st.sampled_from(_WORDS), min_size=1, max_size=40),
    marked=st.integers(0, 40),
    style=st.sampled_from(_STYLES),
    width=st.integers(20, 400),
    inside=st.sampled_from(_INSIDE),
    beside=st.sampled_from(["none", "left", "right"]),
)
def test_plain_lines_are_like_all_others(
    page_of: PageOf, words: list[str], marked: int, style: str, width: int, inside: str, beside: str
) -> None:
    """A text with an inline box in it, in all manners of lines, beside a float or not: broken and built both ways."""
    first, rest = " ".join(words[:marked]), " ".join(words[marked:])
    side = f"<div style='float:{beside};width:30px;height:40px'></div>"
    body = f"{side}<p>{rest}</p>{side}<p style='{style}'>{first} <em>{rest}</em> {first}</p>"
    css = f"p {{ margin: 0 }} em {{ {inside} }}"
    page = page_of(body, css, width, laws=False)
    other = one_by_one(page, width)
    assert page_snapshot(page) == page_snapshot(other)


def test_most_lines_are_plain(page_of: PageOf, monkeypatch: pytest.MonkeyPatch) -> None:
    """No line of a long text is broken as others are, the one in which it ends neither."""
    broken = []
    breaks = LineBreaker.next_line

    def counting(*given: object, **named: object) -> object:
        broken.append(1)
        return breaks(*given, **named)  # type: ignore[arg-type]

    monkeypatch.setattr(LineBreaker, "next_line", counting)
    page = page_of(
        f"<p id=p>{'tide and kale ' * 40}</p>", "p { margin: 0; text-align: center }", 300, laws=False
    )
    lines = [line for at in page.in_order for line in at.fragment.lines]
    assert len(lines) > 10 and not broken
    assert {line.width for line in lines} == {300 * 64}
    check_laws(page)


def test_a_text_that_runs_backwards_has_no_cuts() -> None:
    """What is behind a cut is further on; where spacing takes more than a letter gives, it is not."""
    assert cuts_between("ab cd", (3,), 0, 5, 0, (0, 5, 9, 4, 8, 9), {}) is not None
    assert cuts_between("a b c d", (2, 4, 6), 0, 7, 0, (0, 9, 8, 7, 6, 5, 4, 3), {}) is None


@pytest.mark.parametrize("style", ["", "text-align: right", "font-size: 15.3px"])
def test_plain_lines_serve_again_only_where_they_fit(page_of: PageOf, style: str) -> None:
    """From px to px, wider and narrower again, they are those of a fresh page."""
    text = " ".join(_WORDS * 7).replace("\u00ad", "")
    page = page_of(f"<p style='{style}'>{text}</p>", "p { margin: 0 }", 260, laws=False)
    for width in (*range(260, 300), *range(300, 240, -1), *range(240, 290, 7)):
        viewport = Viewport(width + 0.5, 800)
        page = compute_page(page.source, viewport, page)
        fresh = compute_page(page.source, viewport)
        assert page_snapshot(page) == page_snapshot(fresh), width
