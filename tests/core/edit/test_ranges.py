"""Edits for a range of window widths: which rule they go to, how it is written, and that nothing else changes."""

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redcrate.core.edit.centring import centring
from redcrate.core.edit.choices import boxes_changed, choice_patch
from redcrate.core.edit.patch import Patch, apply_patch
from redcrate.core.edit.range_edits import (
    bring_back,
    copied,
    leave_out,
    left_out,
    same_again,
    told_changes,
    values_for,
)
from redcrate.core.edit.range_removal import emptied
from redcrate.core.edit.range_rules import windows_of
from redcrate.core.edit.range_targets import target_for
from redcrate.core.edit.row_edits import fit_row, neighbours_give
from redcrate.core.edit.rule_places import author_rules
from redcrate.core.edit.targets import WritesTo
from redcrate.core.errors import EditRefused
from redcrate.core.files.trial import Trial
from redcrate.core.rows.fitting import RowWish
from redcrate.core.session import Session
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.media import Viewport, parse_media_list
from redcrate.core.style.window_ranges import MOST, WindowRange, plain_range, range_between, ranges_of
from redcrate.core.units import LayoutUnit
from tests.conftest import DEMO, by_id

STYLE = """.a { width: 50%; padding: 4px }

/* A tablet */
@media (max-width: 1000px) {
  .a { width: 60% }
}

/* A telephone */
@media (max-width: 500px) {
  .a { width: 90% }
}
"""
BODY = (
    "<div id=box><p id=x class=a>one</p><p id=y class=a>two</p></div><i id=z style='padding:3px'>z</i>"
)


def opened(folder: Path, css: str = STYLE, width: float = 800, body: str = BODY) -> Session:
    """A page with a stylesheet of its own, seen in a window of a width."""
    (folder / "s.css").write_bytes(css.encode())
    page = f"<!doctype html><link rel=stylesheet href=s.css>{body}"
    (folder / "p.html").write_text(page, encoding="utf-8")
    return Session(folder / "p.html", width)


def typed(session: Session, name: str, part: str, value: str, window: WindowRange | None) -> str:
    """The stylesheet after a value was typed for a range."""
    session.editor.set_window(window)
    element = by_id(session.views.page, name)
    session.editor.apply(session.editor.plan(element, part, ("left",), value).patch)
    return session.document.texts()["s.css"]


@pytest.mark.parametrize(
    ("query", "found"),
    [
        ("(max-width: 600px)", [(1, 600)]),
        ("(min-width: 600.5px)", [(601, MOST)]),
        ("not all and (max-width: 600px)", [(601, MOST)]),
        ("(400px < width <= 50em)", [(401, 800)]),
        ("(width: 500px)", [(500, 500)]),
        ("print", []),
        ("(max-width: 1e999px)", [(1, MOST)]),
        ("(min-width: -1e999px) and (max-width: 1e30px)", [(1, MOST)]),
        ("(orientation: landscape)", [(801, MOST)]),
        ("(min-aspect-ratio: 1/1), (max-width: 20em)", [(1, 320), (800, MOST)]),
        ("", [(1, MOST)]),
    ],
)
def test_ranges_of_queries(query: str, found: list[tuple[int, int]]) -> None:
    """At which whole px a query holds in a window 800 px high; the same as asking it at each."""
    media = parse_media_list(component_values(query), query)
    assert [(r.least, r.most) for r in ranges_of([media], 800)] == found
    for width in range(1, 1300):
        inside = any(a <= width <= b for a, b in found)
        assert media.matches(Viewport(width, 800)) == inside, width


def test_only_widths_make_a_plain_range() -> None:
    """Other features, other media and several queries are none."""
    for query, wanted in (
        ("screen and (max-width: 600px)", WindowRange(1, 600)),
        ("(min-width: 401px) and (max-width: 600px)", WindowRange(401, 600)),
        ("(orientation: landscape)", None),
        ("(max-width: 600px) and (hover)", None),
        ("(max-width: 600px), (min-width: 900px)", None),
        ("print and (max-width: 600px)", None),
        ("not screen and (max-width: 600px)", None),
        ("all", None),
    ):
        assert plain_range([parse_media_list(component_values(query), query)]) == wanted, query
    assert [w.words for w in (range_between(None, 600), range_between(601, 900), range_between(901, None))] == [
        "up to 600", "601 – 900", "from 901",
    ]  # fmt: skip
    with pytest.raises(ValueError, match="There are no widths from 900 to 600"):
        range_between(900, 600)


def test_a_range_under_another_condition_is_none(tmp_path: Path) -> None:
    """In @supports, a layer, a scope or a style rule: a block of its own is made beside it."""
    inner = "@media (max-width: 1000px) { .a { width: 60% } }"
    for around in (
        f"@supports (display: block) {{ {inner} }}",
        f"@layer x {{ {inner} }}",
        f"@scope (body) {{ {inner} }}",
        "#box { @media (max-width: 1000px) { top: 0 } }",
    ):
        session = opened(tmp_path, f".a {{ width: 50% }}\n{around}\n")
        assert windows_of(session.views.page) == (), around


def test_a_rule_that_is_exactly_the_range_is_found(tmp_path: Path) -> None:
    """Its declaration is changed, or it gets one more; nothing else of the sheet is touched."""
    session = opened(tmp_path)
    assert windows_of(session.views.page) == (WindowRange(1, 1000), WindowRange(1, 500))
    assert typed(session, "x", "width", "70%", range_between(None, 1000)) == STYLE.replace("60%", "70%")
    session.editor.undo()
    after = typed(session, "x", "margin", "9px", range_between(None, 1000))
    assert after == STYLE.replace("width: 60% }", "width: 60%; margin-left: 9px }")


def test_a_new_range_stands_in_order_before_the_comment_of_the_next(tmp_path: Path) -> None:
    """From wide to narrow, in the sheet's manner; the narrower rule goes on winning where it holds."""
    session = opened(tmp_path)
    made = "@media (max-width: 820px) {\n  .a { width: 70%; }\n}\n\n"
    wanted = STYLE.replace("/* A telephone */", made + "/* A telephone */")
    assert typed(session, "x", "width", "70%", range_between(None, 820)) == wanted
    widths = {
        w: session.views.page_at(w).box_of(by_id(session.views.page_at(w), "x")) for w in (400, 820, 821)
    }
    assert {w: b.content_box.width / 64 / (w - 16) for w, b in widths.items() if b} == pytest.approx(
        {400: 0.9, 820: 0.7, 821: 0.6}, abs=0.001
    )


@pytest.mark.parametrize(
    ("css", "window", "wanted"),
    [
        ("p{margin:0}.a{width:50%}", (None, 600), "p{margin:0}.a{width:50%}@media (max-width:600px){.a{width:9px}}"),
        (".a { width: 50% }\r\n", (None, 600), ".a { width: 50% }\r\n@media (max-width: 600px) {\r\n  .a { width: 9px; }\r\n}\r\n"),
        (
            "@media (width <= 300px) { p { margin: 0 } }\n.a { width: 50% }\n", (301, 600),
            "@media (width <= 300px) { p { margin: 0 } }\n.a { width: 50% }\n"
            "@media (301px <= width <= 600px) {\n  .a { width: 9px; }\n}\n",
        ),
        (
            ".a { width: 50% }\n@media screen and (min-width: 700px) {\n\t.a { width: 9% }\n}\n", (500, None),
            ".a { width: 50% }\n@media screen and (min-width: 500px) {\n\t.a { width: 9px; }\n}\n\n"
            "@media screen and (min-width: 700px) {\n\t.a { width: 9% }\n}\n",
        ),
    ],
)  # fmt: skip
def test_the_pages_own_manner(tmp_path: Path, css: str, window: tuple[int, int], wanted: str) -> None:
    """Line ends, indentation, tight sheets, compared widths, `screen and`, and ranges from narrow to wide."""
    session = opened(tmp_path, css, 550)
    assert typed(session, "x", "width", "9px", range_between(*window)) == wanted
    session.editor.undo()
    assert session.document.texts()["s.css"] == css


def test_a_style_element_gets_its_range_at_its_own_indentation(tmp_path: Path) -> None:
    """Inside the HTML file."""
    page = "<!doctype html>\n<head>\n  <style>\n    .a { width: 50% }\n  </style>\n</head>\n<p id=x class=a>x</p>\n"
    (tmp_path / "p.html").write_text(page, encoding="utf-8")
    session = Session(tmp_path / "p.html", 500)
    session.editor.set_window(range_between(None, 600))
    session.editor.apply(
        session.editor.plan(by_id(session.views.page, "x"), "width", ("",), "9px").patch
    )
    added = "\n    @media (max-width: 600px) {\n      .a { width: 9px; }\n    }"
    assert session.document.texts()["p.html"] == page.replace("50% }", "50% }" + added)


def test_what_cannot_win_is_refused_with_a_way_out(tmp_path: Path) -> None:
    """Own styles, !important, a narrower rule that comes later, a window outside of the range, weak selectors."""
    session = opened(
        tmp_path,
        STYLE + "p.a { height: 3px !important } #box .a { top: 0 } #box .a { margin: 1px }",
        400,
    )
    page, wide = session.views.page, WritesTo(window=range_between(None, 1000))
    x = by_id(page, "x")
    for element, longhand, words in (
        (by_id(page, "z"), "padding-left", "its style attribute, which overrides every rule"),
        (x, "height", "at every width and overrides other rules"),
        (x, "width", "overrides the rules for widths up to 1000 px"),
    ):
        with pytest.raises(EditRefused, match=words):
            target_for(page, element, longhand, wide)
    with pytest.raises(EditRefused, match="the viewport is 400 px wide"):
        target_for(page, x, "width", WritesTo(window=range_between(700, None)))
    with pytest.raises(EditRefused, match=r"in p would be overridden by #box \.a"):
        target_for(page, x, "margin-left", WritesTo("new p", range_between(None, 450)))


def test_choosing_a_range_goes_into_it(tmp_path: Path) -> None:
    """To the nearest width; looking elsewhere later is no edit there."""
    session = opened(tmp_path, width=1280)
    session.editor.set_window(range_between(600, 900))
    assert session.views.viewport.width == 900
    session.views.set_width(1280)
    with pytest.raises(EditRefused, match=r"601|600 – 900"):
        session.editor.plan(by_id(session.views.page, "x"), "width", ("",), "9px")
    session.editor.set_window(WindowRange(1, MOST))
    assert session.editor.window is None


RANGES = st.tuples(st.integers(300, 900), st.integers(0, 500)).map(
    lambda r: range_between(r[0], r[0] + r[1])
)
EDITS = st.sampled_from(
    [("width", "37%"), ("padding", "13px"), ("margin", "-4px"), ("border", "3px"), ("height", "50px")]
)


@settings(max_examples=12)
@given(
    window=RANGES, edit=EDITS, one=st.sampled_from(["article.plot", "section.notice", "h1", "div.third"])
)
def test_nothing_changes_outside_of_the_range(
    window: WindowRange, edit: tuple[str, str], one: str
) -> None:
    """Every box at widths outside is the same; inside it is what was written; undone, every byte is back."""
    trial, known = Trial.of_file(DEMO), None
    session = Session(DEMO, window.least)
    session.editor.set_window(window)
    element = next(e for e in session.views.page.elements if e.label.startswith(one))
    try:
        patch = session.editor.plan(element, edit[0], ("left",), edit[1]).patch
    except EditRefused:
        return
    after = trial.after(patch)
    for width in (window.least - 1, window.most + 1, 320, 520, 1000, 1001, 1280):
        if not window.holds(width):
            before = known = trial.page(Viewport(width, 800), known)
            assert boxes_changed(before, after(before)[0]) == 0, (width, patch.edits)
    texts = trial.texts
    changed, backward = apply_patch(patch, texts)
    assert changed and apply_patch(backward, {**texts, **changed})[0] == {n: texts[n] for n in changed}
    assert session.editor.changes_at(patch, [window.least])[window.least] > 0


def test_left_out_and_brought_back(tmp_path: Path) -> None:
    """One of several alike gets a class of its own; what was left out is listed; all bytes are back afterwards."""
    session = opened(tmp_path)
    before = session.document.texts()
    window = range_between(None, 820)
    x = by_id(session.views.page, "x")
    patch = leave_out(session.views.page, before, x, window)
    assert patch.sentence == "p#x.a hidden, up to 820 px"
    session.editor.apply(patch)
    assert "#x { display: none; }" in session.document.texts()["s.css"]
    assert [e.id for e in left_out(session.views.page)] == ["x"] and left_out(
        session.views.page_at(900)
    ) == ()
    out = left_out(session.views.page)[0]
    session.editor.apply(bring_back(session.views.page, session.document.texts(), out))
    assert session.document.texts() == before
    with pytest.raises(EditRefused, match=r"hides p#x\.a"):
        bring_back(session.views.page, before, by_id(session.views.page, "x"))


def test_leaving_out_one_of_several_alike(tmp_path: Path) -> None:
    """By a class of its own: the others stay."""
    session = opened(tmp_path, body="<div id=box><p class=a>one</p><p class=a>two</p></div>")
    second = session.views.page.elements[-1]
    session.editor.apply(
        leave_out(session.views.page, session.document.texts(), second, range_between(None, 820))
    )
    assert '<p class="a a-own">two' in session.document.texts()["p.html"].replace(
        "class=a a-own", 'class="a a-own"'
    )
    assert [e.text_content() for e in left_out(session.views.page)] == ["two"]


def test_leaving_out_the_only_one(tmp_path: Path) -> None:
    """By the selector of the rule that it has alone, which decides its display."""
    css = "#box .only { display: flex }\n.a { width: 5px }\n"
    body = "<div id=box><p class=only>one</p><p class=a>two</p></div>"
    session = opened(tmp_path, css, body=body)
    one = next(e for e in session.views.page.elements if "only" in e.classes)
    window = range_between(None, 820)
    session.editor.apply(leave_out(session.views.page, session.document.texts(), one, window))
    texts = session.document.texts()
    assert texts["p.html"].endswith(body) and texts["s.css"].startswith(css)
    assert "#box .only { display: none" in " ".join(texts["s.css"].split())


def test_copied_values_and_the_same_as_wide_again(tmp_path: Path) -> None:
    """What differs is written into the range; taken out, the rule and its block go with the last of it."""
    session = opened(tmp_path, width=400)
    window = range_between(None, 500)
    session.editor.set_window(window)
    before = session.document.texts()
    x = by_id(session.views.page, "x")
    assert [v.words for v in values_for(session.views.page, x, window)] == ["width: 90%"]
    session.editor.apply(
        copied(session.views.page, session.views.page_at(1200), before, x, session.editor.place)
    )
    assert session.document.texts()["s.css"] == STYLE.replace("90%", "50%")
    with pytest.raises(EditRefused, match="the same values as at 1200 px"):
        copied(session.views.page, session.views.page_at(1200), before, x, session.editor.place)
    values = values_for(session.views.page, x, window)
    session.editor.apply(same_again(session.views.page, session.document.texts(), x, values))
    assert (
        session.document.texts()["s.css"]
        == STYLE[: STYLE.index("\n\n/* A tel")] + "\n\n/* A telephone */\n"
    )
    with pytest.raises(EditRefused, match="has no overrides for this range"):
        same_again(session.views.page, session.document.texts(), x, ())


def test_copied_sides_are_values_of_their_own(tmp_path: Path) -> None:
    """A border's shorthand, and one with var(), give each side what it has; the boxes are alike afterwards."""
    css = (
        ":root { --m: 3px 9px } .a { border: 2px solid; margin: var(--m); padding: 1px 2px }\n"
        "@media (max-width: 500px) { .a { border: 0 none; margin: 0; padding: 0 } }\n"
    )
    session = opened(tmp_path, css, 400)
    session.editor.set_window(range_between(None, 500))
    page, wide = session.views.page, session.views.page_at(1200)
    x = by_id(page, "x")
    session.editor.apply(copied(page, wide, session.document.texts(), x, session.editor.place))
    now, there = session.views.page.box_of(by_id(session.views.page, "x")), wide.box_of(x)
    assert now is not None and there is not None and there.margin.left == 9 * 64
    assert (now.border, now.padding, now.margin) == (there.border, there.padding, there.margin)
    assert not session.views.page.notices, [n.sentence for n in session.views.page.notices]


def test_a_twin_of_a_block_keeps_its_bytes(tmp_path: Path) -> None:
    """Of two blocks with the same query only the one that becomes empty goes, in whatever file."""
    twin = "@media (max-width: 900px) { }\n"
    session = opened(
        tmp_path,
        f"{twin}@media (max-width: 900px) {{ .a {{ width: 5px }} }}\n",
        body=f"<style>{twin}</style>{BODY}",
    )
    x = by_id(session.views.page, "x")
    values = values_for(session.views.page, x, range_between(None, 900))
    session.editor.apply(same_again(session.views.page, session.document.texts(), x, values))
    texts = session.document.texts()
    assert texts["s.css"] == twin and twin in texts["p.html"]


def test_an_id_that_shows_a_block_is_not_left_out_by_a_class(tmp_path: Path) -> None:
    """A class of its own would lose: it is refused, and says to what."""
    css = "#box p { display: block }"
    session = opened(tmp_path, css, body="<div id=box><p class=a>one</p><p class=a>two</p></div>")
    second = session.views.page.elements[-1]
    with pytest.raises(EditRefused, match=r"would be overridden by #box p"):
        leave_out(session.views.page, session.document.texts(), second, range_between(None, 820))


def test_rows_and_centring_go_into_the_range(tmp_path: Path) -> None:
    """The block of the range is made once for all rules; at other widths nothing changes."""
    session = opened(tmp_path, ".a { width: 50%; margin: 0 }\n")
    page, texts, window = session.views.page, session.document.texts(), range_between(None, 900)
    wish = RowWish(2, gap=10)
    patch, _ = fit_row(page, texts, by_id(page, "box"), wish, window=window)
    session.editor.apply(patch)
    css = session.document.texts()["s.css"]
    assert css.count("@media (max-width: 900px)") == 1 and css.count("float: left") == 1
    tops = [session.views.page.by_element[by_id(session.views.page, n)].border_box.y for n in ("x", "y")]
    assert tops[0] == tops[1] and session.editor.changes_at(patch_back(session), [901]) == {901: 0}
    session.editor.undo()
    found = centring(page, texts, by_id(page, "x"), WritesTo(window=window))
    assert found is not None and found.ways
    session.editor.apply(found.ways[0].patch)
    assert (
        "@media (max-width: 900px) {\n  .a { margin-left: auto; margin-right: auto; }"
        in session.document.texts()["s.css"]
    )
    here = session.views.page
    give = neighbours_give(
        here, session.document.texts(), [by_id(here, "y")], LayoutUnit(640), window=window
    )
    assert "calc(50% - 10px)" in give.edits[0].text


def patch_back(session: Session) -> Patch:
    """The patch that takes the last step back."""
    return session.editor.history.done[-1].backward


def test_one_of_two_declarations_is_taken_out(tmp_path: Path) -> None:
    """The rule, its other declaration and the other rules of the block stay."""
    css = ".a { width: 5px }\n@media (max-width: 900px) {\n  .a { width: 6px; margin: 0; }\n  .b { top: 0; }\n}\n"
    session = opened(tmp_path, css)
    window = range_between(None, 900)
    x = by_id(session.views.page, "x")
    first = values_for(session.views.page, x, window)[:1]
    session.editor.apply(same_again(session.views.page, session.document.texts(), x, first))
    assert session.document.texts()["s.css"] == css.replace("width: 6px; ", "")
    x = by_id(session.views.page, "x")
    rest = values_for(session.views.page, x, window)
    session.editor.apply(same_again(session.views.page, session.document.texts(), x, rest))
    assert session.document.texts()["s.css"] == css.replace("\n  .a { width: 6px; margin: 0; }", "")


def test_choices_and_several_elements_go_into_the_range(tmp_path: Path) -> None:
    """A choice of display, and two elements that share a rule."""
    session = opened(tmp_path)
    page, texts = session.views.page, session.document.texts()
    to = WritesTo(window=range_between(None, 820))
    patch = choice_patch(page, texts, by_id(page, "x"), "float", "left", to)
    assert (
        isinstance(patch, Patch)
        and "@media (max-width: 820px) {\n  .a { float: left; }" in patch.edits[0].text
    )
    with pytest.raises(EditRefused, match="the elements share"):
        from redcrate.core.edit.writing import Assignment, write_all

        both = [(by_id(page, n), [Assignment("width", v)]) for n, v in (("x", "1px"), ("y", "2px"))]
        write_all(both, page, texts, to)


def test_changes_are_told_by_width() -> None:
    """What changes, and that nothing does elsewhere."""
    assert told_changes({1100: 0, 820: 3, 390: 1}) == "Boxes change at 820 and 390 px, none at 1100 px."
    assert told_changes({1100: 2, 820: 3}) == "Boxes change at 1100 and 820 px."
    assert told_changes({1100: 0, 820: 0}) == "No box changes at 1100 and 820 px."


def test_of_two_blocks_of_one_range_the_last_one_is_written_to(tmp_path: Path) -> None:
    """What stands in the first one may be overridden by what comes between them."""
    block = "@media (max-width: 900px) { .b { top: 0 } }\n"
    css = f".a {{ width: 5px }}\n{block}.b {{ top: 1px }}\n{block}"
    session = opened(tmp_path, css)
    after = typed(session, "x", "margin", "9px", range_between(None, 900))
    first, last = after.split(".b { top: 1px }")
    assert first == css.split(".b { top: 1px }")[0] and "margin-left: 9px" in last
    assert last.count("@media") == 1


def test_nested_blocks_go_with_the_last_rule_in_them(tmp_path: Path) -> None:
    """The inner one is empty without its rule, the outer one without the inner one; with more in it, it stays."""
    inner = "@media (max-width: 900px) {\n    .a { width: 6px; }\n  }"
    for beside, left in (("", ""), ("\n  .b { top: 0; }", "@media screen {\n  .b { top: 0; }\n}")):
        css = f".a {{ width: 5px }}\n@media screen {{\n  {inner}{beside}\n}}\n.b {{ top: 9px }}\n"
        session = opened(tmp_path, css)
        page, texts = session.views.page, session.document.texts()
        rule = next(r for r in author_rules(page) if len(r.media) == 2)
        edits = emptied(page, texts, {rule: rule.declarations})
        after, _ = apply_patch(Patch(tuple(edits), "out"), texts)
        wanted = f".a {{ width: 5px }}\n{left}\n.b {{ top: 9px }}\n".replace("\n\n", "\n")
        assert after["s.css"] == wanted
