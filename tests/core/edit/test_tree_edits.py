"""Elements and classes: source splices that keep the author's text, and what HTML forbids."""

from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redcrate.core.edit import classes, tree_edits
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.tree_edits import Where
from redcrate.core.errors import EditRefused
from redcrate.core.markup import Element, Markup
from redcrate.core.session import Session
from tests.conftest import CASES, by_id

PAGE = """<!doctype html>
<html>
<head><link rel="stylesheet" href="s.css"></head>
<body>
    <main id="m">
        <p id="a" class="one two">first <b id="b">bold</b></p>
        <!-- a remark -->
        <section id="s"></section>
    </main>
    <div id="d" style="padding: 3px; color: red"><i id="i">x</i></div>
</body>
</html>
"""
CSS = "/* .one stays */\n.one, div.one > .oneself { margin: 1px }\n@media print { .one:not(.one) { top: 0 } }\n"


@pytest.fixture
def session(tmp_path: Path) -> Session:
    """The page above with its sheet."""
    (tmp_path / "s.css").write_text(CSS, encoding="utf-8")
    (tmp_path / "p.html").write_text(PAGE, encoding="utf-8")
    return Session(tmp_path / "p.html")


Edit = Callable[[Markup, Callable[[str], Element]], Patch]
EDITS: list[tuple[str, Edit, str]] = [
    ("before", lambda m, e: tree_edits.added(m, e("a"), Where.BEFORE, "h2", "New"),
     "<main id=\"m\">\n        <h2>New</h2>\n        <p id"),
    ("after", lambda m, e: tree_edits.added(m, e("a"), Where.AFTER, "hr"), "</p>\n        <hr>\n        <!--"),
    ("inside empty", lambda m, e: tree_edits.added(m, e("s"), Where.INSIDE, "p", "a<b"),
     '<section id="s">\n            <p>a&lt;b</p>\n        </section>'),
    ("inside last", lambda m, e: tree_edits.added(m, e("m"), Where.INSIDE, "p"), "</section>\n        <p></p>\n    </main>"),
    ("inline", lambda m, e: tree_edits.added(m, e("b"), Where.AFTER, "i"), "bold</b><i></i></p>"),
    ("around", lambda m, e: tree_edits.added(m, e("s"), Where.AROUND, "div"),
     '        <div>\n            <section id="s"></section>\n        </div>\n    </main>'),
    ("around two", lambda m, e: tree_edits.wrapped(m, (e("s"), e("a")), "div"),
     '<div>\n            <p id="a" class="one two">first <b id="b">bold</b></p>\n            <!-- a remark -->\n'),
    ("duplicate", lambda m, e: tree_edits.duplicated(m, (e("a"),)),
     'bold</b></p>\n        <p id="a-2" class="one two">first <b id="b-2">bold</b></p>\n        <!--'),
    ("delete", lambda m, e: tree_edits.deleted(m, (e("a"), e("b"))), '<main id="m">\n        <!-- a remark -->'),
    ("delete inline", lambda m, e: tree_edits.deleted(m, (e("b"),)), ">first </p>"),
    ("move", lambda m, e: tree_edits.moved(m, (e("a"),), e("d"), Where.AFTER),
     '</div>\n    <p id="a" class="one two">first <b id="b">bold</b></p>\n</body>'),
    ("move in", lambda m, e: tree_edits.moved(m, (e("d"),), e("s"), Where.INSIDE),
     '<section id="s">\n            <div id="d" style="padding: 3px; color: red"><i id="i">x</i></div>\n        </section>'),
    ("rename", lambda m, e: tree_edits.renamed(m, e("s"), "article"), '<article id="s"></article>'),
    ("id", lambda m, e: tree_edits.with_id(m, e("s"), "new"), '<section id="new">'),
    ("no id", lambda m, e: tree_edits.with_id(m, e("s"), ""), "<section></section>"),
    ("text", lambda m, e: tree_edits.with_text(m, e("i"), "1 < 2 & 3"), '<i id="i">1 &lt; 2 &amp; 3</i>'),
]  # fmt: skip


@pytest.mark.parametrize(("edit", "part"), [pytest.param(e, p, id=n) for n, e, p in EDITS])
def test_the_source_after_an_edit(session: Session, edit: Edit, part: str) -> None:
    """The moved text is the author's, indented for its place; undo gives every byte back."""
    markup = session.views.page.source.markup
    session.editor.apply(edit(markup, lambda i: by_id(session.views.page, i)))
    assert part in session.document.text("p.html").text, session.document.text("p.html").text
    session.editor.undo()
    assert session.document.text("p.html").text == PAGE


FORBIDDEN: list[tuple[Edit, str]] = [
    (lambda m, e: tree_edits.renamed(m, e("m"), "p"), "inside p: the parser"),
    (lambda m, e: tree_edits.wrapped(m, (e("d"),), "p"), "inside p: the parser"),
    (lambda m, e: tree_edits.added(m, e("b"), Where.AFTER, "div"), "does not allow div"),
    (lambda m, e: tree_edits.added(m, e("s"), Where.INSIDE, "td"), "ignore its tag"),
    (lambda m, e: tree_edits.moved(m, (e("d"),), e("b"), Where.AFTER), "does not allow div"),
    (lambda m, e: tree_edits.moved(m, (e("m"),), e("a"), Where.AFTER), "into itself"),
    (lambda m, e: tree_edits.with_id(m, e("s"), "a"), "is unique"),
    (lambda m, e: tree_edits.with_id(m, e("s"), "a b"), "one word"),
    (lambda m, e: tree_edits.with_text(m, e("a"), "x"), "contains other elements"),
    (lambda m, e: tree_edits.deleted(m, (m.listed[1],)), "a page needs its"),
    (lambda m, e: tree_edits.renamed(m, e("s"), "br"), "can have content"),
    (lambda m, e: tree_edits.added(m, e("s"), Where.AFTER, "1x"), "not an element name"),
    (lambda m, e: classes.with_class(m, (e("a"),), "one"), "already"),
    (lambda m, e: classes.with_class(m, (e("a"),), "x y"), "one word"),
    (lambda m, e: classes.classes_changed(m, (e("a"),), ["one"], ["none"]), "already"),
    (lambda m, e: classes.classes_changed(m, (e("a"),), ["new", "x y"], ["one"]), "one word"),
]


@pytest.mark.parametrize(("edit", "sentence"), FORBIDDEN)
def test_what_makes_no_sense_is_refused(session: Session, edit: Edit, sentence: str) -> None:
    """With what the parser would make of it."""
    with pytest.raises(EditRefused, match=sentence):
        edit(session.views.page.source.markup, lambda i: by_id(session.views.page, i))


def test_what_the_parser_mends_stays_where_it_is(tmp_path: Path) -> None:
    """A link in a link is no nesting: moved, the parser would mend the tags in another way."""
    path = tmp_path / "p.html"
    path.write_text("<p id=p>x</p><div><a id=a>1 <b id=b>2 <a id=c>3</a> 4</b> 5</a></div>")
    markup = Session(path).views.page.source.markup
    by_name = {e.id: e for e in markup.listed}
    with pytest.raises(EditRefused, match="not nested"):
        tree_edits.moved(markup, (by_name["c"],), by_name["p"], Where.INSIDE)


def test_several_classes_in_one_step(session: Session) -> None:
    """Given to those that lack them, taken off those that have them; what is as it should be keeps its bytes."""
    page = session.views.page
    chosen = (by_id(page, "s"), by_id(page, "a"))
    before = session.document.text("p.html").text
    patch = classes.classes_changed(page.source.markup, chosen, ["new", "two"], ["one"])
    session.editor.apply(patch)
    text = session.document.text("p.html").text
    assert '<section class="new two" id="s">' in text and 'class="two new"' in text
    assert patch.sentence == "classes of 2 elements changed" and len(session.editor.history.done) == 1
    session.editor.undo()
    assert session.document.text("p.html").text == before
    page = session.views.page
    patch = classes.classes_changed(
        page.source.markup, (by_id(page, "a"),), ["new"], [], ["new", "one", "two"]
    )
    session.editor.apply(patch)
    assert 'class="new one two"' in session.document.text("p.html").text


def test_classes(session: Session) -> None:
    """Listed with users and rules; given and taken in one step; renamed in HTML and CSS alone."""
    listed = {c.name: (len(c.users), len(c.rules)) for c in classes.class_list(session.views.page)}
    assert listed == {"one": (1, 2), "oneself": (0, 1), "two": (1, 0)}
    page = session.views.page
    session.editor.apply(
        classes.with_class(page.source.markup, (by_id(page, "s"), by_id(page, "a")), "new")
    )
    assert 'class="one two new"' in session.document.text("p.html").text
    assert '<section class="new" id="s">' in session.document.text("p.html").text
    session.editor.apply(
        classes.without_class(session.views.page.source.markup, (by_id(session.views.page, "s"),), "new")
    )
    assert '<section id="s">' in session.document.text("p.html").text
    session.editor.apply(
        classes.class_renamed(session.views.page, session.document.texts(), "one", "uno")
    )
    assert session.document.text("s.css").text == CSS.replace(".one,", ".uno,").replace(
        "div.one ", "div.uno "
    ).replace(".one:not(.one)", ".uno:not(.uno)")
    assert 'class="uno two new"' in session.document.text("p.html").text
    with pytest.raises(EditRefused, match="already"):
        classes.class_renamed(session.views.page, session.document.texts(), "uno", "two")


def test_an_own_style_becomes_a_class(session: Session) -> None:
    """A new rule with the same values; the attribute goes; computed values stay as they were."""
    before = session.views.page.style_of(by_id(session.views.page, "d"))
    session.editor.apply(
        classes.style_into_class(
            session.views.page, session.document.texts(), by_id(session.views.page, "d"), "box"
        )
    )
    assert '<div class="box" id="d">' in session.document.text("p.html").text
    assert ".box { padding: 3px; color: red; }" in session.document.text("s.css").text
    assert session.views.page.style_of(by_id(session.views.page, "d")) == before


def test_the_selection_follows_its_element(session: Session) -> None:
    """Through edits in front of it, and back."""
    session.views.select(by_id(session.views.page, "a"), by_id(session.views.page, "i"))
    session.editor.apply(
        tree_edits.added(
            session.views.page.source.markup, by_id(session.views.page, "m"), Where.BEFORE, "div"
        )
    )
    assert [e.id for e in session.views.selection] == ["a", "i"]
    session.editor.undo()
    assert [e.id for e in session.views.selection] == ["a", "i"]


@settings(max_examples=35, deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_any_edit_of_any_page_and_its_undo(
    tmp_path_factory: pytest.TempPathFactory, data: st.DataObject
) -> None:
    """Whatever is added, moved or taken out of a reference page: undo gives identical bytes."""
    source = data.draw(st.sampled_from(sorted(CASES.glob("gen-*.html"))[::9]))
    path = tmp_path_factory.mktemp("any") / "p.html"
    path.write_bytes(source.read_bytes())
    session = Session(path)
    for _ in range(3):
        markup = session.views.page.source.markup
        one, other = (data.draw(st.sampled_from(markup.listed)) for _ in range(2))
        where = data.draw(st.sampled_from(list(Where)))
        edits: list[Callable[[], Patch]] = [
            lambda: tree_edits.added(markup, one, where, "div"),
            lambda: tree_edits.moved(markup, (one,), other, Where.AFTER),
            lambda: tree_edits.duplicated(markup, (one, other)),
            lambda: tree_edits.deleted(markup, (one,)),
            lambda: classes.with_class(markup, (one, other), "zz"),
        ]
        count = len(markup.listed)
        number = data.draw(st.integers(0, len(edits) - 1))
        try:
            session.editor.apply(edits[number]())
        except EditRefused:
            continue
        after = len(session.views.page.elements)
        if number in (0, 1, 4):
            assert after == count + (number == 0)
    while session.editor.undo():
        pass
    assert session.document.text("p.html").encode() == source.read_bytes()


def test_attribute_selectors_name_classes_by_class_alone(tmp_path: Path) -> None:
    """Selectors 4 §6.2: one that asks another attribute names no class, whatever it asks for."""
    path = tmp_path / "p.html"
    rules = "[class^=on] { color: red } [id=one] { color: red } [class] { color: red } [title~=two] { color: red }"
    path.write_text(f"<style>{rules}</style><p class='one two' id=one title='two x'>x</p>")
    listed = {c.name: len(c.rules) for c in classes.class_list(Session(path).views.page)}
    assert listed == {"one": 1, "two": 0}
