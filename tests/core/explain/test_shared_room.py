"""How items, areas and cells came to their sizes: what layout kept adds up, and the sentences say it."""

from collections.abc import Iterator, Sequence
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.explain import across, down
from redcrate.core.explain.flexed import flex_sum
from redcrate.core.explain.tracks import area_sums
from redcrate.core.layout.flex_facts import FlexedItem, FlexFacts, FlexLimit
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.layout.table_facts import TableFacts
from redcrate.core.page import Page, PlacedBox
from redcrate.core.rows.inside import Space, inside_of, spaces_between
from redcrate.core.units import LayoutUnit
from tests.conftest import CASES, PageOf, by_id, load
from tests.made_pages import made_page

SHARED = sorted(p for p in CASES.glob("*.html") if p.name.startswith(("flex", "grid", "table")))


def containers(page: Page) -> Iterator[PlacedBox]:
    """The boxes that kept how they shared their room."""
    return (b for b in page.in_order if b.fragment.facts is not None)


def check_facts(page: Page) -> None:
    """Every line, every grid and every table adds up, in 1/64 px."""
    for at in containers(page):
        facts = at.fragment.facts
        if isinstance(facts, FlexFacts):
            for line in facts.lines:
                taken = sum(i.used + i.extra for i in line.items)
                assert (
                    taken + facts.gap * (len(line.items) - 1) + line.left + line.in_margins == facts.room
                )
                _check_shares(line.items, line.free)
        elif isinstance(facts, GridFacts):
            wide = sum(t.size for t in facts.columns) + facts.left_across
            shown = sum(1 for t in facts.columns if t.reason.name != "EMPTY")
            gaps = facts.column_gap * max(0, shown - 1)
            assert wide + gaps == at.content_rect.width
            starts = [t.start for t in facts.columns]
            assert starts == sorted(starts)
        elif isinstance(facts, TableFacts) and facts.columns:
            last = facts.columns[-1]
            assert last.start + last.size <= at.rect.width
            for box in (c for c in page.in_order if c.fragment.box in facts.cells):
                cell = facts.cells[box.fragment.box]
                inside = facts.columns[cell.column : cell.column_end]
                wide = inside[-1].start + inside[-1].size - inside[0].start
                edges = box.fragment.border.across + box.fragment.padding.across
                assert box.rect.width == max(wide, edges)


def _check_shares(items: Sequence[FlexedItem], free: int) -> None:
    """Where nothing stopped anybody and the factors are more than 1, the shares are all of the free space."""
    name = "flex_grow" if free > 0 else "flex_shrink"
    factors = [getattr(i.box.style, name) for i in items]
    if all(i.limit is FlexLimit.NONE for i in items) and sum(factors) >= 1:
        able = free > 0 or any(f * i.base for f, i in zip(factors, items, strict=True))
        if able:
            assert abs(sum(i.used - i.base for i in items) - free) <= len(items)


@pytest.mark.parametrize("path", SHARED, ids=lambda p: p.stem)
def test_what_layout_kept_adds_up_on_reference_pages(path: Path) -> None:
    """Lines, tracks and columns."""
    check_facts(load(path))


@pytest.mark.parametrize("family", ["flex", "grid", "table", "mixed"])
def test_what_layout_kept_adds_up_on_made_pages(family: str, tmp_path: Path) -> None:
    """The same where nothing is as people write it."""
    for seed in range(100, 108):
        path = tmp_path / f"{seed}.html"
        path.write_text(made_page(family, seed), encoding="utf-8")
        check_facts(load(path, 700))


@given(
    st.lists(st.tuples(st.integers(0, 60), st.integers(1, 200)), max_size=8),
    st.integers(0, 30),
    st.integers(0, 90),
)
def test_gaps_and_free_pieces_fill_a_room(pieces: list[tuple[int, int]], gap: int, after: int) -> None:
    """What is taken, the gaps and the free pieces lie side by side and make the room."""
    taken, at = [], 0
    for number, (before, size) in enumerate(pieces):
        at += before + (gap if number else 0)
        taken.append(Space(LayoutUnit(at), LayoutUnit(size)))
        at += size
    gaps, free = spaces_between(taken, LayoutUnit(gap), LayoutUnit(at + after))
    order = sorted([*taken, *gaps, *free], key=lambda s: s.start)
    ends = [0, *(s.start + s.size for s in order)]
    assert [s.start for s in order] == ends[:-1] and ends[-1] == at + after
    assert all(g.size == gap for g in gaps)


def told(page: Page, ident: str, axis: str = "across") -> str:
    """All sentences on the width, or the height, of an element."""
    equation = (across if axis == "across" else down)(page, by_id(page, ident))
    assert equation is not None
    return " ".join(r.sentence for r in equation.reasons)


ROW = "#r { display: flex; width: 600px } #a, #b { height: 20px } "


@pytest.mark.parametrize(
    ("css", "says"),
    [
        ("#a { flex: 1 1 100px } #b { flex: 2 }", "100 px of content: flex-basis (flex: 1 1 100px)"),
        ("#a { flex: 1 1 100px } #b { flex: 2 }", "500 px of the line are free"),
        ("#a { flex: 1 1 100px } #b { flex: 2 }", "1 of 3 shares, 166.67 px more: 266.67 px"),
        ("#a { width: 500px } #b { width: 400px }", "together 300 px too wide"),
        ("#a { width: 500px } #b { width: 400px }", "weighted by its size, 166.67 px less: 333.33 px"),
        ("#a { width: 50px } #b { width: 40px }", "flex-grow is 0, so it does not grow: 50 px"),
        (
            "#a { flex: 1; max-width: 90px } #b { flex: 1 }",
            "max-width limits it to 90 px. The other items share",
        ),
        ("#a { flex: 1; min-width: 400px } #b { flex: 1 }", "min-width limits it to 400 px"),
        ("#a { flex: 1 } #b { width: 40px }", "no other item grows, 560 px more: 560 px"),
        ("#a { flex: 0 0 600px } #b { width: 0 }", "they fill the line exactly"),
        ("#a { margin-left: auto; width: 50px } #b { width: 50px }", "shared with others"),
    ],
)
def test_a_flex_item_says_how_it_came_to_its_width(page_of: PageOf, css: str, says: str) -> None:
    """Base size, free space, share, limit; the sum of the three is the used size."""
    page = page_of("<div id=r><p id=a></p><p id=b></p></div>", "p { margin: 0 } " + ROW + css)
    assert says in told(page, "a")
    box = page.box_of(by_id(page, "a"))
    assert box is not None
    found = flex_sum(box)
    assert found is not None
    assert found.item.base + found.share + found.beyond == found.item.used == box.content_box.width


def test_an_item_that_holds_on_to_its_content_says_so(page_of: PageOf) -> None:
    """The automatic minimum, and a line of one."""
    css = "#r { display: flex; width: 100px } #a { flex: 1 } #a b { display: block; width: 180px }"
    page = page_of("<div id=r><p id=a><b>x</b></p></div>", css)
    assert "cannot become smaller than its content (min-width is auto): 180 px" in told(page, "a")
    assert "It is the only item of its line" in told(page, "a")


@pytest.mark.parametrize(
    ("css", "ident", "axis", "says"),
    [
        ("grid-template-columns: 1fr 2fr; gap: 10px", "a", "across", "column 1: 193.33 px"),
        (
            "grid-template-columns: 1fr 2fr; gap: 10px",
            "b",
            "across",
            "2fr of the free space",
        ),
        ("grid-template-columns: 80px auto", "a", "across", "has a fixed size: 80 px"),
        ("grid-template-columns: 80px auto", "b", "across", "auto and stretches over free space"),
        (
            "grid-template-columns: minmax(50px, max-content) 1fr",
            "a",
            "across",
            "has its minimum size: 50 px",
        ),
        (
            "grid-template-columns: minmax(50px, max-content) 1fr",
            "w",
            "across",
            "grows to its content, because of p#w",
        ),
        (
            "grid-template-columns: max-content 1fr",
            "w",
            "across",
            "grows to its content, because of p#w",
        ),
        (
            "grid-template-columns: 40px 1fr; justify-content: end",
            "c",
            "across",
            "columns 1 to 2: 40 + 550 + 10",
        ),
        ("grid-template-rows: 50px 60px", "a", "down", "row 1: 50 px"),
    ],
)
def test_a_grid_item_says_which_tracks_it_has(
    page_of: PageOf, css: str, ident: str, axis: str, says: str
) -> None:
    """The area, its tracks, and why each is as large as it is."""
    base = "p { margin: 0 } #r { display: grid; width: 590px; gap: 10px; " + css + " }"
    if ident == "c":
        base = base.replace("590px", "600px") + " #c { grid-column: 1 / span 2 }"
    body = "<div id=r><p id=a>a</p><p id=b>b</p><p id=c>c</p></div>"
    if ident == "w":
        body = "<div id=r><p id=w>some words that stand in one line</p><p>b</p></div>"
    page = page_of(body, base)
    assert says in told(page, ident, axis), told(page, ident, axis)
    box = page.box_of(by_id(page, ident))
    assert box is not None
    areas = area_sums(box)
    assert areas is not None
    assert sum(t.size for t in areas[0].tracks) + areas[0].gaps == areas[0].size


def test_a_cell_says_who_asked_for_its_column_and_whose_borders_won(page_of: PageOf) -> None:
    """Least and most width, who asked, how the rest was shared; borders that collapse."""
    css = "table { border-collapse: collapse } td { padding: 0 5px } #b { border: 4px dashed } #a { border: 1px solid }"
    page = page_of("<table id=t><tr><td id=a>one<td id=b>two words<tr><td colspan=2 id=c>c</table>", css)
    text = told(page, "a")
    assert "It is as wide as column 1" in text and "(td#a)" in text
    assert "on the right, the border of td#b, 4 px dashed counts, half of it for this cell" in text
    assert "on the left, its own border, 1 px solid" in text
    assert "columns 1 to 2" in told(page, "c")
    assert "It is as high as its row" in told(page, "a", "down")


def test_what_lies_between_items_is_found_on_the_page(page_of: PageOf) -> None:
    """Tracks, gaps and free room of a grid and of a flex line, where they stand."""
    css = (
        "p { margin: 0; width: 50px; height: 20px } #f { display: flex; gap: 10px; width: 300px }"
        " #g { display: grid; grid-template-columns: 60px 60px; gap: 7px; width: 200px }"
    )
    page = page_of("<div id=f><p></p><p></p></div><div id=g><p></p><p></p><p></p></div>", css)
    flex, grid = inside_of(page, by_id(page, "f")), inside_of(page, by_id(page, "g"))
    assert (
        flex is not None
        and grid is not None
        and inside_of(page, by_id(page, "f").child_elements[0]) is None
    )
    assert [(g.rect.x / 64, g.amount / 64) for g in flex.gaps] == [(50, 10)]
    assert [(r.x / 64, r.width / 64) for r in flex.free] == [(110, 190)]
    assert [t.amount / 64 for t in grid.tracks] == [60, 60, 20, 20]
    assert sorted((g.is_across, g.amount / 64) for g in grid.gaps) == [(False, 7), (True, 7)]
    assert [(r.x / 64, r.width / 64) for r in grid.free] == [(127, 73)]
