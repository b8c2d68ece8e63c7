"""Edit after edit: what is computed with earlier results is what a full computation gives."""

import re
import shutil
from pathlib import Path
from tempfile import TemporaryDirectory

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.files.loading import assemble
from redcrate.core.files.resources import Resources
from redcrate.core.markup import Markup, parse_html
from redcrate.core.page import Page, compute_page
from redcrate.core.session import Session
from redcrate.core.style.media import Viewport
from tests.conftest import CASES
from tests.snapshot import page_snapshot

PAGES = sorted(CASES.glob("*.html"))
PLACES = [
    r"(?<=[:\s])-?\d+(?=px|%|em)",  # a number with its unit, in a sheet or a style attribute
    r"(?<=[;{]) ?[a-z-]+(?=:)",  # a property
    r"(?<=\s)style=\"[^\"]*\"",
    r"(?<=\sclass=\")[^\"]*|(?<=\sid=\")[^\"]*",
    r"(?<=<)(?:div|p|span)(?=[ >])",  # a start tag's name
    r"(?<=>)[^<{}]+(?=<)",  # text
    r"(?<=<div)(?=[ >])",  # room for an attribute
    r"</(?:div|span)>",
]
NEW = st.sampled_from(
    ["0", "7", "33", "120", "width", "float: left; margin-top", "display: none; width", "", "a b c",
     'style="padding: 9px 4%; border: 2px solid"', 'style="float:right;position:relative;left:3px"',
     "span", "p", "one two three four five six", ' style="display:inline-block;width:50%"', "<b>x</b>",
     ' style="margin:-5px auto" ', "</div><div>", "&amp;", 'style="position:absolute"', "\n"]
)  # fmt: skip


def full(session: Session) -> Page:
    """The session's page from its texts alone."""
    source = session.document.text(session.document.html_name)
    return compute_page(
        assemble(source, Resources(session.document.path), session.document.text).page,
        session.views.viewport,
    )


def places_of(markup: Markup) -> list[object]:
    """Where all tags stand, and the style attributes."""
    return [
        (markup.start_tag(e), markup.end_tag(e), markup.style_attribute(e)) for e in markup.root.walk()
    ]


def origins_of(page: Page) -> list[object]:
    """Where every winning declaration stands."""
    return [
        [(n, w.applied.declaration.line, w.applied.declaration.offset) for n, w in c.winners.items()]
        for c in (page.styled.cascade_of(e) for e in page.elements)
    ]


@settings(max_examples=20, deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_an_edit_gives_what_a_full_computation_gives(data: st.DataObject) -> None:
    """Random edits of a random page, box by box; then undone, every text is the first one again."""
    page = data.draw(st.sampled_from(PAGES))
    with TemporaryDirectory() as folder:
        path = Path(shutil.copy(page, folder))
        for picture in page.parent.glob("*.png"):
            (Path(folder) / picture.name).symlink_to(picture)
        session = Session(path, 700)
        first = session.document.texts()
        for _ in range(data.draw(st.integers(1, 4))):
            text = session.document.text(session.document.html_name).text
            found = [
                m.span() for m in re.finditer(data.draw(st.sampled_from(PLACES)), text) if m.start() > 15
            ]
            if not found:
                continue
            start, end = data.draw(st.sampled_from(found))
            edit = TextEdit(session.document.html_name, start, end, data.draw(NEW))
            session.editor.apply(Patch((edit,), "an edit"))
            if data.draw(st.booleans()):
                session.views.set_width(data.draw(st.sampled_from([390, 700, 1100])))
            anew = full(session)
            assert page_snapshot(session.views.page) == page_snapshot(anew)
            assert places_of(session.views.page.source.markup) == places_of(anew.source.markup)
            assert origins_of(session.views.page) == origins_of(anew)
        while session.editor.undo():
            pass
        assert session.document.texts() == first
        assert places_of(session.views.page.source.markup) == places_of(
            parse_html(session.document.text(path.name))
        )


UNITS = {
    "rem of the root": ("html { font-size: 20px } #a { width: 2rem }", "padding: 3rem", 60),
    "em of the parent": ("#o { font-size: 30px }", "padding: 1em", 30),
    "a share of the window": ("#a { width: 10px }", "padding: 10vw", 50),
    "the window's lesser side": ("#a { width: 10px }", "padding: 10vmin", 40),
    "a custom property from outside": ("#o { --p: 7px }", "padding: var(--p)", 7),
    "rem of a root that inherits": ("html { font-size: 2em } #a { width: 1rem }", "padding: 1rem", 32),
}


@pytest.mark.parametrize(("css", "own", "padding"), UNITS.values(), ids=UNITS)
def test_units_of_an_edited_element(tmp_path: Path, css: str, own: str, padding: float) -> None:
    """What relative units refer to is known although only one element is styled anew; then at other widths."""
    path = tmp_path / "page.html"
    text = f"<!doctype html><style>{css}</style><div id='o'><p id='a' style='padding: 1px'>x</p></div>"
    path.write_text(text, encoding="utf-8")
    session = Session(path, 500)
    session.views.viewport = Viewport(500, 400)
    session.views.page = compute_page(session.document.assembled.page, session.views.viewport)
    at = text.index("padding: 1px")
    session.editor.apply(Patch((TextEdit("page.html", at, at + 12, own),), "an edit"))
    assert [e.id for e in session.views.page.styled.restyled] == ["a"]
    paragraph = session.views.page.elements[-1]
    box = session.views.page.box_of(paragraph)
    assert box is not None and box.padding.left == padding * 64
    assert page_snapshot(session.views.page) == page_snapshot(full(session))
    for width in (300, 800, 500):
        session.views.set_width(width)
        assert page_snapshot(session.views.page) == page_snapshot(full(session))


def test_another_width_styles_nothing_where_nothing_hangs_on_it(tmp_path: Path) -> None:
    """Until a media query answers otherwise, or a unit counts from the window."""
    path = tmp_path / "page.html"
    css = "@media (min-width: 600px) { p { padding: 4px } } #w { margin: 1vw }"
    for sheet, restyled_as_a_whole in (("p { padding: 3px }", (False, False)), (css, (True, True)),
                                       (css.split("#")[0], (True, False))):  # fmt: skip
        path.write_text(f"<!doctype html><style>{sheet}</style><p id='w'>x</p>", encoding="utf-8")
        session = Session(path, 500)
        for width, whole in zip((700, 900), restyled_as_a_whole, strict=True):
            session.views.set_width(width)
            assert (session.views.page.styled.based_on is None) is whole, (sheet, width)
            assert page_snapshot(session.views.page) == page_snapshot(full(session))


# The own style of an element in a page of nested lists → the one that it gets.
TOGGLED = {
    "shown": ("display: none", "display: block"),
    "no longer a list item": ("display: list-item", "display: block"),
    "a list item again": ("display: block", "display: list-item"),
    "without a box of its own": ("display: block", "display: contents"),
    "with a box again": ("display: contents", "display: block"),
    "inline round blocks": ("display: block", "display: inline"),
    "taken out of the flow": ("top: 3px", "position: absolute; top: 3px"),
    "floated": ("margin: 3px", "float: left; margin: 3px"),
    "a flex container": ("margin: 3px", "display: flex; margin: 3px"),
    "another marker": ("list-style-type: decimal", "list-style-type: disc"),
}


@pytest.mark.parametrize("back", [False, True], ids=["there", "and back"])
@pytest.mark.parametrize("ident", ["i", "o", "s", "u"])
@pytest.mark.parametrize(("before", "after"), TOGGLED.values(), ids=TOGGLED)
def test_an_element_that_changes_what_it_is(
    tmp_path: Path, ident: str, before: str, after: str, back: bool
) -> None:
    """Boxes appear and go, numbers are counted again, and what stands inside is not forgotten."""
    if back:
        before, after = after, before
    path = tmp_path / "page.html"
    text = (
        "<!doctype html><style>li::before { content: 'x' }</style><div id='o'><ol id='u'><li>a<li id='i'><b>b</b>"
        "<p>c<span id='s'>d<em>e</em></span></p><ul><li>f</ul><li>g</ol><img src='gone.png' alt='h'></div>"
    ).replace(f"id='{ident}'", f"id='{ident}' style='{before}'")
    path.write_text(text, encoding="utf-8")
    session = Session(path, 500)
    at = text.index(f"style='{before}'") + 7
    session.editor.apply(Patch((TextEdit("page.html", at, at + len(before), after),), "an edit"))
    assert session.views.page.styled.based_on is not None
    for undone in (False, True):
        if undone:
            session.editor.undo()
        page, anew = session.views.page, full(session)
        assert page_snapshot(page) == page_snapshot(anew)
        assert page.boxes.root is not None and anew.boxes.root is not None
        markers = [[b.marker for b in p.boxes.root.walk()] for p in (page, anew) if p.boxes.root]
        assert markers[0] == markers[1]
