"""A fix tells all that it changes, at every width; what makes a page wider is none."""

from pathlib import Path

import pytest

from redcrate.core.findings.checking import Check, Checked, Fixes, check_page
from redcrate.core.findings.effects import effects_of
from tests.conftest import PageOf, by_id

HEAD = "<!doctype html><style>html{font:16px/20px 'Liberation Sans'}body{margin:0}"


def checked(folder: Path, page: str, widths: list[float]) -> Check:
    """A page checked at some widths, all its fixes tried."""
    (folder / "p.html").write_text(page, encoding="utf-8")
    return check_page(folder / "p.html", widths, fixes=Fixes.ALL, minor=True)


def of(check: Check, family: str) -> Checked:
    """Its only finding of a family."""
    (found,) = (c for c in check.checked if c.finding.family == family)
    return found


def test_gaps_that_a_fix_changes_elsewhere_are_counted(tmp_path: Path) -> None:
    """One rule for all paragraphs: the gap below each heading stays, those between two paragraphs go."""
    page = (
        f"{HEAD}h2{{margin:0 0 20px;font-size:16px}}p{{margin:16px 0 0}}</style>"
        + "<h2>y</h2><p>x</p><p>z</p>" * 10
        + "<hr style='height:900px'>"
    )
    once = of(checked(tmp_path, page, [800]), "margins-collapsed").fixes[0]
    assert once.sentence.startswith("Set the gap once")
    assert (once.moves, once.taller) == (10, ((800.0, -160.0),))
    assert once.told.endswith("; changes 10 other elements, the page becomes 160 px shorter")


def test_a_fix_is_for_the_widths_that_need_it(tmp_path: Path) -> None:
    """Words that may break change a table wherever it is; so they may break only where it is too wide."""
    cells = "<td>unbreakableword</td>" * 4 + f"<td>{'some words ' * 40}</td>"
    page = (
        f"{HEAD}td{{padding:0}}.t{{color:#222}}</style><table class=t cellspacing=0><tr>{cells}</table>"
    )
    found = of(checked(tmp_path, page, [400, 600]), "table-wider-than-container")
    fix = found.fixes[0]
    (edit,) = fix.patch.edits
    last = int(fix.sentence.rpartition("up to ")[2].removesuffix(" px"))
    assert edit.text.startswith(f"@media (max-width:{last}px){{.t{{overflow-wrap:") and 400 < last < 600
    assert "px at 400 px" in fix.changes and [width for width, _ in fix.taller] in ([400.0], [])
    there = checked(tmp_path, page, [last, last + 1]).checked
    assert [c.widths for c in there if c.finding.family == found.finding.family] == [(last,)]


def test_a_range_may_begin_where_it_is_wanted(tmp_path: Path) -> None:
    """What is wrong in wide windows only; the way that changes nothing elsewhere is for all widths."""
    page = f"{HEAD}p{{width:600px;margin:0}}@media (min-width:900px){{main{{width:500px}}}}</style><main><p>x</main>"
    limit, auto = of(checked(tmp_path, page, [800, 1000]), "wider-than-container").fixes
    assert limit.sentence.startswith("Limit its width") and "from" not in limit.sentence
    assert auto.sentence.endswith(", from 900 px")
    (edit,) = auto.patch.edits  # into the page's own block of that range
    assert edit.text == "p{width:auto}" and page[: edit.start].endswith(
        "(min-width:900px){main{width:500px}"
    )


def test_minor_findings_speak_against_no_fix(tmp_path: Path) -> None:
    """A word that then runs out of a box where nobody sees it does not; over the edge of a painted one it does."""
    grid = "<div style='display:grid;grid-template-columns:1fr 1fr;width:200px'><p{0}>unbreakablelongword</p><p></p></div>"
    for style, breaks in (("", False), (" style='background:#cde;padding:9px'", True)):
        page = f"{HEAD}p{{margin:0}}</style>{grid.format(style)}"
        first = of(checked(tmp_path, page, [800]), "fraction-blown-up").fixes[0]
        assert ("break long words" in first.sentence) == breaks


def test_elements_that_are_gone_are_counted(page_of: PageOf) -> None:
    """By their paths, where the tree is another one."""
    before, after = page_of("<p>a</p><p>b<b>c</b></p>"), page_of("<p>a</p><p>b</p>")
    assert effects_of(before, after, []).others == 1


def test_a_fix_never_makes_the_page_wider(tmp_path: Path) -> None:
    """Where it is too wide already, too: then nothing but that would be new."""
    for width, offered in (
        (820, ["Remove the declaration"]),
        (600, ["Add the unit px (50px)", "Remove the declaration"]),
    ):
        page = f"{HEAD}#w{{width:{width}px;padding:50}}</style><p id=w>x"
        fixes = of(checked(tmp_path, page, [800]), "unit-missing").fixes
        assert [f.sentence for f in fixes] == offered


@pytest.mark.parametrize(
    ("css", "others", "taller"),
    [
        ("", 0, 0),
        (
            "#a { height: 50px }",
            1,
            30,
        ),  # it is spoken of; main grows; what is below is only pushed along
        ("#a { margin-bottom: 9px }", 2, 9),
        ("#b { padding-left: 9px }", 0, 0),  # its box is the same, and the text inside is no element
        ("#b { width: 90px } #c { width: 50% }", 2, 0),
        ("#d { margin-left: 3px }", 1, 0),
        ("#c { display: none }", 3, -20),
        ("main { padding-top: 5px }", 1, 5),
        ("#e { margin-top: 7px }", 1, 7),
        ("#b { margin-top: 0.4px }", 0, 0.390625),
    ],
)
def test_what_counts_as_changed(page_of: PageOf, css: str, others: int, taller: float) -> None:
    """Another size, or another distance to what stands before it; what is only pushed along does not count."""
    body = "<main><p id=a>a</p><p id=b>b</p><p id=c><b id=d>c</b></p></main><p id=e>e</p><hr>"
    base = "body, p { margin: 0 } p { line-height: 20px } main { display: flow-root } hr { height: 900px; margin: 0 }"
    before, after = page_of(body, base), page_of(body, base + css)
    found = effects_of(before, after, [by_id(before, "a")])
    assert (found.others, found.taller / 64) == (others, taller)
    assert (found.own is not None) == ("50px" in css)
