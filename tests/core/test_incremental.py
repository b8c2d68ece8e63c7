"""Edit after edit: what is computed with earlier results is what a full computation gives."""

import re
import shutil
from pathlib import Path
from tempfile import TemporaryDirectory

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.files.loading import Resources, assemble
from redcrate.core.markup import Markup, parse_html
from redcrate.core.page import Page, compute_page
from redcrate.core.session import Session
from tests.conftest import CASES
from tests.laws import geometry

PAGES = sorted(p for p in CASES.glob("*.html") if not p.name.startswith(("table", "flex", "grid")))
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


@settings(max_examples=60, deadline=None, suppress_health_check=list(HealthCheck))
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
            assert geometry(session.views.page) == geometry(anew)
            assert places_of(session.views.page.source.markup) == places_of(anew.source.markup)
            assert origins_of(session.views.page) == origins_of(anew)
        while session.editor.undo():
            pass
        assert session.document.texts() == first
        assert places_of(session.views.page.source.markup) == places_of(
            parse_html(session.document.text(path.name))
        )
