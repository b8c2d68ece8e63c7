"""What differs between two geometries of a page, and what follows from what."""

from collections.abc import Callable
from pathlib import Path

import pytest

from redcrate.core.proof.comparing import Comparison, compare
from redcrate.core.proof.measured import measured
from redcrate.core.proof.proving import Proof, Wish
from redcrate.core.proof.reporting import agreed, proof_text, short, told, why
from tests.conftest import PageOf
from tests.driving import Rows, answer_of

BODY = """<div id=wrap><h1 id=head>Head</h1><p id=one>One <b id=bold>bold</b></p><p id=two>Two</p>
<ul id=list><li id=a>A</li><li id=b>B</li></ul></div><p id=last>Last</p><svg id=s width=9 height=9><g><rect/></g></svg>"""
CSS = "#wrap { width: 400px } #b { float: right; width: 50px }"


def compared(page_of: PageOf, change: Callable[[Rows], object], tolerance: float = 0.5) -> Comparison:
    """The page beside a browser that has it otherwise."""
    page = page_of(BODY, CSS)
    return compare(page, measured(answer_of(page, change)), tolerance)


def causes(found: Comparison) -> list[tuple[str, tuple[str, ...], int]]:
    """Each with its own parts, and how much follows from it."""
    return [(d.element.label, d.own, len(found.following(d))) for d in found.causes]


def taller(by: float) -> Callable[[Rows], None]:
    """The head is taller there, and all that follows it stands lower, as in a browser."""

    def change(rows: Rows) -> None:
        names = [r[0] for r in rows]
        head = names.index("h1")
        rows[head][5] += by
        for r in rows[head + 1 :]:
            r[3] += by
        for r in rows[:head]:
            r[5] += by

    return change


def test_pages_that_are_the_same(page_of: PageOf) -> None:
    """All boxes but those of line breaks and inside pictures; a box may be off by the tolerance."""
    found = compared(page_of, lambda rows: rows[3].__setitem__(4, rows[3][4] + 0.4))
    assert (found.compared, found.differences, found.other_tree) == (12, (), "")
    assert agreed(found) == "all 12 boxes are equal."
    found = compared(page_of, lambda rows: rows[3].__setitem__(4, rows[3][4] + 0.4), 0.3)
    assert causes(found) == [("h1#head", ("width",), 0)]


def test_what_is_pushed_along_follows_from_the_first(page_of: PageOf) -> None:
    """A taller head moves all below it and makes what it is in taller: one cause."""
    found = compared(page_of, taller(7))
    assert causes(found) == [("h1#head", ("height",), found.compared - 1)]
    head = found.causes[0]
    assert told(head).startswith("height ") and told(head).endswith("(+7)")
    assert why(found.page, head) and "height" in why(found.page, head)[0]
    assert agreed(found) == "0 of 12 boxes are equal (0 %)."


def test_a_wider_container_widens_and_moves_what_is_in_it(page_of: PageOf) -> None:
    """Blocks that fill it, a float at its right edge: they follow; what is beside it does not."""

    def change(rows: Rows) -> None:
        for number in (2, 3, 4, 6, 7, 8):
            rows[number][4] += 20
        rows[9][2] += 20

    found = compared(page_of, change)
    assert causes(found) == [("div#wrap", ("width",), 6)]
    assert (
        "width: 400px" in why(found.page, found.causes[0])[0]
        or "400" in why(found.page, found.causes[0])[0]
    )


def test_differences_of_their_own_are_told_each(page_of: PageOf) -> None:
    """Two causes, each with what is its own: the second is pushed by the first, and wider by itself."""

    def change(rows: Rows) -> None:
        taller(7)(rows)
        rows[6][4] -= 30

    found = compared(page_of, change)
    assert [(d.element.label, d.own) for d in found.causes] == [
        ("h1#head", ("height",)),
        ("p#two", ("width",)),
    ]


def test_a_font_and_what_is_shown_are_told_apart(page_of: PageOf) -> None:
    """Another family there makes the difference one of fonts; a box in one of both is one of what is shown."""

    def change(rows: Rows) -> None:
        rows[5][4] += 9
        rows[5][7] = "Some Sans"
        rows[7][1] = rows[8][1] = rows[9][1] = 0

    found = compared(page_of, change)
    font, shown = found.causes
    assert (font.kind.value, font.element.id, font.fonts) == (
        "font",
        "bold",
        ("Liberation Sans", "Some Sans"),
    )
    assert "set in Liberation Sans here, in Some Sans there" in told(font)
    assert (shown.kind.value, shown.element.id, told(shown)) == ("shown", "list", "shown only here")
    assert {d.element.id for d in found.following(shown)} == {"a", "b"}

    def letters_inside(rows: Rows) -> None:
        rows[7][5] += 3
        rows[9][7] = "Some Sans"

    (around,) = compared(page_of, letters_inside).causes
    assert (around.element.id, around.kind.value) == (
        "list",
        "font",
    )  # as high as the letters in it make it

    def of_a_written_size(rows: Rows) -> None:
        rows[2][4] += 3
        rows[5][7] = "Some Sans"

    wide = next(d for d in compared(page_of, of_a_written_size).causes if d.element.id == "wrap")
    assert (wide.kind.value, wide.own) == ("box", ("width",))
    same = compared(page_of, lambda rows: (rows[5].__setitem__(4, 99), rows[5].__setitem__(7, "Arial")))
    assert [d.kind.value for d in same.causes] == ["box"]


def test_the_text_says_what_was_missing(page_of: PageOf) -> None:
    """Fonts that did not load, hosts that were not reached, causes of what is shown, and how many more there are."""

    def change(rows: Rows) -> None:
        for number in range(2, 10):
            rows[number][4] += 10 * number
        rows[10][1] = 0

    answer = answer_of(page_of(BODY, CSS), change) | {"failed": ["Some Sans"]}
    found = compare(page_of(BODY, CSS), measured(answer), 0.5)
    text = proof_text(
        Proof(Path("p.html"), "Small 7", Wish((1000,), scripts=True), (found,), ("far.example",))
    )
    assert text.startswith(
        "p.html compared with Small 7, page scripts run, tolerance 0.5 px\n\n1000 px wide: 3 of 12 boxes are equal (25 %)."
    )
    assert "\n  p#last: shown only here\n" in text
    assert "\n  div#wrap: width 400 here, 420 there (+20)\n      here: " in text
    assert "\n  The browser could not load Some Sans." in text
    assert text.endswith("Files on far.example were not loaded; they are missing in both.")
    assert [short(d) for d in found.causes[:2]] == [
        "width 400 here, 420 there",
        "width 400 here, 430 there",
    ]
    assert short(found.causes[-1]) == "shown only here"
    narrow = compare(page_of(BODY, CSS), measured(answer_of(page_of(BODY, CSS)) | {"width": 985}), 0.5)
    assert agreed(narrow) == "all 12 boxes are equal. Scroll bars leave 985 px for the page there."
    same = Proof(Path("p.html"), "Small 7", Wish((1000,)), (compared(page_of, lambda rows: None),), ())
    assert (
        proof_text(same)
        == "p.html compared with Small 7, tolerance 0.5 px\n\n1000 px wide: all 12 boxes are equal."
    )


def test_other_trees_are_compared_as_far_as_they_go(page_of: PageOf) -> None:
    """The place at which they part is told."""
    found = compared(page_of, lambda rows: rows[6].__setitem__(0, "section"))
    assert found.other_tree == "at p#two here, section there" and found.compared == 6
    assert "The element trees differ at p#two" in agreed(found)
    found = compared(page_of, lambda rows: rows.pop())
    assert found.other_tree.endswith("there") and found.compared == 12


def test_a_thousand_shifted_boxes_are_one_cause(page_of: PageOf) -> None:
    """Each follows from the one before it, however long that chain is."""
    page = page_of("".join(f"<p id=p{n}>x</p>" for n in range(1500)), laws=False)
    answer = answer_of(page)
    for r in answer["elements"][3:]:
        r[3] += 5
    answer["elements"][2][5] += 5
    for r in answer["elements"][:2]:
        r[5] += 5
    found = compare(page, measured(answer), 0.5)
    assert causes(found) == [("p#p0", ("height",), 1501)]


@pytest.mark.parametrize("answer", [None, {}, {"elements": [["p"]]}, {"elements": 5, "failed": []}, [1]])
def test_an_answer_that_is_none_is_said_to_be_so(answer: object) -> None:
    """Whatever comes back, it is one sentence."""
    from redcrate.core.proof.errors import BrowserFailed

    with pytest.raises(BrowserFailed, match="cannot be read"):
        measured(answer)
