"""Patches: what is written, what stays, and what comes of it in the layout."""

from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redcrate.core.edit.gives import Gives
from redcrate.core.edit.patch import Patch, TextEdit, apply_patch
from redcrate.core.edit.typed import nudged, typed_value
from redcrate.core.errors import EditRefused, RedCrateError, ValueNotUnderstood
from redcrate.core.session import Session
from tests.conftest import by_id


def open_text(folder: Path, html: str, css: str = "") -> Session:
    """A session over a page with a stylesheet of its own."""
    (folder / "p.css").write_bytes(css.encode())
    page = folder / "p.html"
    link = "<link rel=stylesheet href=p.css>"
    page.write_bytes(f"<!doctype html>{link}<body style='margin:0'>{html}".encode())
    return Session(page, 1000)


def outer(session: Session, ident: str = "a") -> tuple[int, int]:
    """Width and height of the border box of an element, 1/64 px."""
    box = session.views.page.box_of(by_id(session.views.page, ident))
    assert box is not None
    return box.border_box.width, box.border_box.height


# rule, part, side, typed, gives, expected rule
WRITTEN = [
    ("width: 620px", "padding", "left", "54", Gives.CONTENT, "width: 566px; padding-left: 54px"),
    ("padding: 8px 12px; width: 100px", "padding", "left", "20", Gives.CONTENT,
     "padding: 8px 12px 8px 20px; width: 92px"),
    ("padding: 8px; padding-left: 4px; width: 9em", "padding", "left", "20px", Gives.CONTENT,
     "padding: 8px; padding-left: 20px; width: 8em"),
    ("width: 50%; padding: 0 10px", "padding", "right", "30", Gives.CONTENT,
     "width: calc(50% - 20px); padding: 0 30px 0 10px"),
    ("width: calc(50% - 20px); padding: 0 10px", "padding", "left", "30", Gives.CONTENT,
     "width: calc(50% - 40px); padding: 0 10px 0 30px"),
    ("box-sizing: border-box; width: 300px; padding: 10px", "padding", "left", "30", Gives.CONTENT,
     "box-sizing: border-box; width: 300px; padding: 10px 10px 10px 30px"),
    ("padding: 10px", "padding", "left", "30", Gives.CONTENT, "padding: 10px 10px 10px 30px"),
    ("max-width: 400px; padding: 10px", "padding", "left", "30", Gives.CONTENT,
     "max-width: 380px; padding: 10px 10px 10px 30px"),
    ("width: 200px; border: 1px solid red", "border", "left", "6", Gives.CONTENT,
     "width: 195px; border: 1px solid red; border-left-width: 6px"),
    ("width: 200px; padding: 1px", "padding", "left", "11", Gives.BOX,
     "width: 200px; padding: 1px 1px 1px 11px"),
    ("width: 200px; margin: 0 30px; padding: 0", "padding", "left", "10", Gives.MARGINS,
     "width: 200px; margin: 0 30px 0 20px; padding: 0 0 0 10px"),
    ("height: 100px; padding: 0", "padding", "top", "10", Gives.CONTENT,
     "height: 90px; padding: 10px 0 0 0"),
    ("width: 200px !important; padding: 2px !important", "padding", "left", "4", Gives.CONTENT,
     "width: 198px !important; padding: 2px 2px 2px 4px !important"),
]  # fmt: skip


@pytest.mark.parametrize(("rule", "part", "side", "typed", "gives", "expected"), WRITTEN)
def test_what_is_written(
    tmp_path: Path, rule: str, part: str, side: str, typed: str, gives: Gives, expected: str
) -> None:
    """The values in their own units and the author's own form; the outer size as promised."""
    session = open_text(tmp_path, "<div id=a>x</div>", f"#a {{ {rule} }}")
    session.editor.set_gives(gives)
    before = outer(session)
    plan = session.editor.plan(by_id(session.views.page, "a"), part, (side,), typed)
    session.editor.apply(plan.patch)
    assert session.document.texts()["p.css"] == f"#a {{ {expected} }}"
    across = side in ("left", "right")
    if gives == Gives.CONTENT:
        assert outer(session)[0 if across else 1] == before[0 if across else 1]
    session.editor.undo()
    assert session.document.texts()["p.css"] == f"#a {{ {rule} }}"


def test_one_of_two_sides_that_grows_is_compensated(tmp_path: Path) -> None:
    """The other one had the value already."""
    session = open_text(tmp_path, "<div id=a>x</div>", "#a { width: 200px; padding: 0 10px 0 30px }")
    session.editor.set_gives(Gives.CONTENT)
    plan = session.editor.plan(by_id(session.views.page, "a"), "padding", ("left", "right"), "30")
    session.editor.apply(plan.patch)
    assert session.document.texts()["p.css"] == "#a { width: 180px; padding: 0 30px 0 30px }"


def test_margins_give_keeps_the_margin_box(tmp_path: Path) -> None:
    """With margins giving, the sum with margins stays."""
    session = open_text(tmp_path, "<div id=a>x</div>", "#a { width: 200px; margin: 0 30px }")
    session.editor.set_gives(Gives.MARGINS)
    before = session.views.page.by_element[by_id(session.views.page, "a")].margin_box
    session.editor.apply(
        session.editor.plan(by_id(session.views.page, "a"), "padding", ("left",), "12").patch
    )
    assert session.views.page.by_element[by_id(session.views.page, "a")].margin_box == before


def test_content_that_would_be_negative_is_refused_with_the_number(tmp_path: Path) -> None:
    """The refusal says how many px are short, and nothing is written."""
    session = open_text(tmp_path, "<div id=a>x</div>", "#a { width: 40px }")
    with pytest.raises(EditRefused, match="short by 12"):
        session.editor.plan(by_id(session.views.page, "a"), "padding", ("left",), "52")
    assert not session.document.is_edited


INSERTED = [
    ("#a {\r\n\twidth: 10px;\r\n}\r\n", "#a {\r\n\twidth: 10px;\r\n\tpadding-left: 5px;\r\n}\r\n"),
    ("#a{width:10px}", "#a{width:10px;padding-left:5px}"),
    ("#a{width:10px;color:red;}", "#a{width:10px;color:red;padding-left:5px;}"),
    ("#a { width: 10px; /* } */ }", "#a { width: 10px; /* } */ padding-left: 5px; }"),
    ("#a {}", "#a { padding-left: 5px; }"),
    ("#a { width: 10px", "#a { width: 10px; padding-left: 5px"),
    (
        "#a {\n  width: 10px;\n  & b { top: 0 }\n}",
        "#a {\n  width: 10px;\n  padding-left: 5px;\n  & b { top: 0 }\n}",
    ),
    ("#a { & b { top: 0 } }", "#a { padding-left: 5px; & b { top: 0 } }"),
    (
        "#a { --x: { a: b }; top: 0; b { top: 0 } }",
        "#a { --x: { a: b }; top: 0; padding-left: 5px; b { top: 0 } }",
    ),
    ("#a { --x: { a: b } }", "#a { --x: { a: b }; padding-left: 5px }"),
]


@pytest.mark.parametrize(("css", "expected"), INSERTED)
def test_a_new_declaration_follows_the_manner_of_its_rule(
    tmp_path: Path, css: str, expected: str
) -> None:
    """Indentation, line ends, minified and unclosed rules; the value arrives."""
    session = open_text(tmp_path, "<div id=a>x</div>", css)
    session.editor.set_gives(Gives.BOX)
    session.editor.apply(
        session.editor.plan(by_id(session.views.page, "a"), "padding", ("left",), "5").patch
    )
    assert session.document.texts()["p.css"] == expected
    assert session.views.page.by_element[by_id(session.views.page, "a")].padding.left == 5 * 64


@pytest.mark.parametrize(
    ("tag", "expected"),
    [
        ("<p id=a>", '<p style="padding-left: 5px" id=a>'),
        ("<p id=a style='width: 9em'>", "<p id=a style='width: 9em; padding-left: 5px'>"),
        ("<p id=a style='padding: 1px; color: red'>",
         "<p id=a style='padding: 1px 1px 1px 5px; color: red'>"),
        ("<p id=a style=color:red>", '<p id=a style="color:red; padding-left: 5px">'),
        ("<p id=a style='background: url(x?a&b)'>",
         "<p id=a style='background: url(x?a&b); padding-left: 5px'>"),
    ],
)  # fmt: skip
def test_the_elements_own_style(tmp_path: Path, tag: str, expected: str) -> None:
    """Without a rule of its own the style attribute is made or extended, and nothing else."""
    session = open_text(tmp_path, f"{tag}x</p>", "p { margin: 0 }")
    session.editor.set_gives(Gives.BOX)
    before = session.document.text("p.html").encode()
    session.editor.apply(
        session.editor.plan(by_id(session.views.page, "a"), "padding", ("left",), "5").patch
    )
    assert expected in session.document.texts()["p.html"]
    assert session.views.page.by_element[by_id(session.views.page, "a")].padding.left == 5 * 64
    session.editor.undo()
    assert session.document.text("p.html").encode() == before


@pytest.mark.parametrize(
    ("typed", "longhand", "value"),
    [
        ("40", "width", "40px"), ("620-54", "width", "566px"), ("= 100/4", "width", "25px"),
        ("2.5em", "padding-left", "2.5em"), ("5%", "margin-left", "5%"), ("auto", "width", "auto"),
        ("50%-20px", "width", "calc(50% - 20px)"), ("calc(100% - 40px)", "width", "calc(100% - 40px)"),
        ("-8", "margin-top", "-8px"), (" 7 PX ", "width", "7px"),
    ],
)  # fmt: skip
def test_typed_values(typed: str, longhand: str, value: str) -> None:
    """What people type, and the CSS that it means."""
    assert typed_value(typed, longhand) == value


@pytest.mark.parametrize(
    ("typed", "longhand", "says"),
    [
        ("", "width", "empty"), ("40pxx", "width", "not a unit"), ("-4", "padding-left", "negative"),
        ("1,5", "width", "comma"), ("auto", "padding-left", "cannot be auto"), ("wide", "width", "not a value"),
        ("4px } body { x: y", "width", "not a value"), ("4/0", "width", "cannot be computed"),
    ],
)  # fmt: skip
def test_bad_values_are_sentences(typed: str, longhand: str, says: str) -> None:
    """What is wrong, and what would do."""
    with pytest.raises(ValueNotUnderstood, match=says) as caught:
        typed_value(typed, longhand)
    assert caught.value.remedy


def test_nudging_keeps_the_unit() -> None:
    """Arrow keys go on in the unit that the value has."""
    assert nudged("12px", 12, 1) == "13px"
    assert nudged("50%", 400, -1) == "49%"
    assert nudged("1.5em", 24, 1) == "1.6em"
    assert nudged("", 24, 10) == "34px"


@given(
    st.text(max_size=40),
    st.lists(st.tuples(st.integers(0, 40), st.integers(0, 40), st.text(max_size=5))),
)
def test_any_patch_and_its_undo_give_the_same_text(text: str, edits: list[tuple[int, int, str]]) -> None:
    """Applied and taken back, whatever it was; or refused, and then nothing happened."""
    patch = Patch(tuple(TextEdit("f", min(a, b), max(a, b), t) for a, b, t in edits), "")
    try:
        changed, backward = apply_patch(patch, {"f": text})
    except EditRefused:
        return
    if changed:
        assert apply_patch(backward, changed)[0]["f"] == text


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    st.sampled_from(["padding", "border", "margin"]),
    st.sampled_from(["left", "right", "top", "bottom"]),
    st.sampled_from(["0", "7", "3%", "1.25em", "12.5", "40"]),
    st.sampled_from(
        ["width: 300px", "width: 40%", "width: 20em; min-width: 290px", "max-width: 333px", ""]
    ),
    st.sampled_from(
        ["padding: 3px 5px", "padding-left: 2em; border: 3px solid", "margin: 1px auto 2px"]
    ),
    st.sampled_from(list(Gives)),
)
def test_content_gives_keeps_the_border_box(
    tmp_path: Path, part: str, side: str, typed: str, size: str, edges: str, gives: Gives
) -> None:
    """Whatever the units, the border box stays to 1/64 px; undo restores every byte."""
    if part == "border" and typed.endswith("%"):
        typed = "2"
    session = open_text(tmp_path, "<div id=a>x</div>", f"#a {{ {size}; {edges} }}")
    before, texts = outer(session), session.document.texts()
    session.editor.set_gives(gives)
    try:
        session.editor.apply(
            session.editor.plan(by_id(session.views.page, "a"), part, (side,), typed).patch
        )
    except RedCrateError:
        assert session.document.texts() == texts
        return
    if gives is Gives.CONTENT and part != "margin" and side in ("left", "right"):
        assert abs(outer(session)[0] - before[0]) <= 1
    session.editor.undo()
    assert session.document.texts() == texts


@pytest.mark.parametrize(
    ("html", "expected"),
    [
        ("<p id=a>x", "<style>{}</style>\n<p id=a>x"), ("<!doctype html>\n<p id=a>x", "<!doctype html>\n<style>{}</style>\n<p id=a>x"),
        ("<!doctype html><head><title>t</title></head><p id=a>x", "<!doctype html><head><title>t</title><style>{}</style>\n</head><p id=a>x"),
        ("<!doctype html><body><p id=a>x", "<!doctype html><style>{}</style>\n<body><p id=a>x"),
    ],
)  # fmt: skip
def test_a_page_without_a_sheet_gets_one(tmp_path: Path, html: str, expected: str) -> None:
    """At the end of the head; where there are no tags for it in front of the first thing that there is."""
    path = tmp_path / "p.html"
    path.write_text(html, encoding="utf-8")
    session = Session(path, 1000)
    session.views.select(by_id(session.views.page, "a"))
    targets = session.editor.write_targets("padding-left")
    session.editor.set_writes_to(next(t.key for t in targets if t.label == "new rule #a"))
    plan = session.editor.plan(by_id(session.views.page, "a"), "padding", ("left",), "5")
    session.editor.apply(plan.patch)
    rule = "\n#a { padding-left: 5px; }\n"
    assert session.document.texts()["p.html"] == expected.replace("{}", rule)
