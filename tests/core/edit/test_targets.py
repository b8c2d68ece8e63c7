"""Writes to: the places that an edit can go, whom it touches there, and whether it wins."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import apply_patch
from redcrate.core.edit.targets import OWN_STYLE, write_target
from redcrate.core.errors import EditRefused
from redcrate.core.session import Session
from tests.conftest import by_id

PAGE = """<!doctype html><html><head><style>
p { padding: 1px }
.a { margin: 3px }
.a.b { padding: 5px 6px }
@media (min-width: 500px) { #wide .a { color: red } }
</style></head><body><div id=wide class=box><p id=x class="a b">x<p id=y class=a>y</div></body></html>"""


@pytest.fixture
def session(tmp_path: Path) -> Session:
    """The page above, opened."""
    (tmp_path / "p.html").write_text(PAGE, encoding="utf-8")
    return Session(tmp_path / "p.html", 800)


def test_every_place_with_its_elements_and_its_chances(session: Session) -> None:
    """Matching rules from the strongest down, the own style, and rules that could be made."""
    session.views.select(by_id(session.views.page, "x"))
    targets = session.editor.write_targets("padding-left")
    told = {t.label: (len(t.touches), t.loses_to) for t in targets}
    assert told == {
        "#wide .a @media (min-width: 500px)": (2, ""),
        ".a.b": (1, ""),
        ".a": (2, ".a.b, p.html line 4"),
        "p": (2, ".a.b, p.html line 4"),
        OWN_STYLE: (1, ""),
        "new rule #x": (1, ""),
        "new rule .b": (1, ".a.b, p.html line 4"),
        "new rule .box .a": (2, ""),
        "new rule .box .b": (1, ""),
        "new rule p.a": (2, ".a.b, p.html line 4"),
    }
    assert (
        write_target(session.views.page, by_id(session.views.page, "x"), "padding-left").label == ".a.b"
    )


@pytest.mark.parametrize(
    ("rule", "own", "loser"),
    [
        ("", "", "p"),
        ("!important", "", OWN_STYLE),
        ("!important", "!important", "p"),
        ("", "!important", "p"),
    ],
)
def test_what_loses_to_a_style_of_ones_own(tmp_path: Path, rule: str, own: str, loser: str) -> None:
    """A rule does, unless it alone is important; then the element's own style does (CSS Cascade 4 §6.1)."""
    (tmp_path / "p.html").write_text(
        f"<style>p {{ padding-left: 1px {rule} }}</style><p id=x style='padding-left: 2px {own}'>x</p>"
    )
    session = Session(tmp_path / "p.html", 800)
    session.views.select(by_id(session.views.page, "x"))
    told = {t.label: bool(t.loses_to) for t in session.editor.write_targets("padding-left")}
    assert {label for label in ("p", OWN_STYLE) if told[label]} == {loser}


@pytest.mark.parametrize("select", ["x", "y"])
def test_a_value_is_written_where_it_was_said_and_wins(session: Session, select: str) -> None:
    """Each target that says it wins does; only the elements it named change; undo gives every byte."""
    element = by_id(session.views.page, select)
    session.views.select(element)
    for target in session.editor.write_targets("padding-left"):
        session.views.select(None)
        session.views.select(by_id(session.views.page, select))
        session.editor.set_writes_to(target.key)
        if target.loses_to:
            with pytest.raises(EditRefused, match="would be overridden by"):
                session.editor.plan(by_id(session.views.page, select), "padding", ("left",), "31")
            continue
        before = {e.index: session.views.page.style_of(e) for e in session.views.page.elements}
        touches = {e.index for e in target.touches}
        session.editor.apply(
            session.editor.plan(by_id(session.views.page, select), "padding", ("left",), "31").patch
        )
        assert session.views.page.style_of(by_id(session.views.page, select)).padding_left.px == 31, (
            target.label
        )
        changed = {
            e.index
            for e in session.views.page.elements
            if session.views.page.style_of(e) != before[e.index]
        }
        assert element.index in changed and changed <= touches, target.label
        session.editor.undo()
        assert session.document.text("p.html").text == PAGE


STYLES = [
    (".x { a: 1 }\n", ".x { a: 1 }\n.n { left: 1px; top: 2px; }\n"),
    (".x {\n\ta: 1;\n}\n\n.y {\n\tb: 2;\n}\n", "\n}\n\n.n {\n\tleft: 1px;\n\ttop: 2px;\n}\n"),
    (".x{a:1}.y{b:2}", ".x{a:1}.y{b:2}.n{left:1px;top:2px}"),
    (".x {\r\n  a: 1;\r\n}", "}\r\n.n {\r\n  left: 1px;\r\n  top: 2px;\r\n}"),
    (".x { a: 1;", ".n {\n  left: 1px;\n  top: 2px;\n}\n\n.x { a: 1;"),
    ("", ".n {\n  left: 1px;\n  top: 2px;\n}"),
]


@pytest.mark.parametrize(("css", "part"), STYLES)
def test_a_new_rule_follows_the_sheet(tmp_path: Path, css: str, part: str) -> None:
    """Indentation, line ends, minified or not; in front of a rule that is never closed."""
    from redcrate.core.edit.patch import Patch
    from redcrate.core.edit.rule_places import new_rule_edit

    (tmp_path / "s.css").write_bytes(css.encode())
    (tmp_path / "p.html").write_text("<!doctype html><link rel=stylesheet href=s.css><p class=n>x")
    session = Session(tmp_path / "p.html")
    edit = new_rule_edit(session.views.page, session.document.texts(), ".n", "left: 1px; top: 2px")
    changed, back = apply_patch(Patch((edit,), ""), session.document.texts())
    assert changed["s.css"].endswith(part) or changed["s.css"] == part
    assert apply_patch(back, {**session.document.texts(), **changed})[0]["s.css"] == css


def test_a_page_without_a_sheet_gets_one(tmp_path: Path) -> None:
    """A style element in the head, or in front of the body where no head is written."""
    for html in (
        "<!doctype html><head><title>t</title></head><p class=n>x",
        "<!doctype html>\n<p class=n>x",
    ):
        (tmp_path / "p.html").write_text(html)
        session = Session(tmp_path / "p.html")
        session.views.select(next(e for e in session.views.page.elements if e.tag == "p"))
        session.editor.set_writes_to("new .n")
        assert session.views.selected is not None
        session.editor.apply(
            session.editor.plan(session.views.selected, "padding", ("left",), "9").patch
        )
        assert session.views.page.style_of(session.views.selected).padding_left.px == 9
        assert "<style>\n.n {" in session.document.text("p.html").text
        session.editor.undo()
        assert session.document.text("p.html").text == html
