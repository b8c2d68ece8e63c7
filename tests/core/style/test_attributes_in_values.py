"""attr() outside content: CSS Values 5 §7.7."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.style.values import Length
from tests.conftest import PageOf, by_id
from tests.core.edit.test_edits import open_text
from tests.laws import check_laws

VALUES = [
    # attribute, value of margin-left, px; None: not set
    ("20px", "attr(data-w type(<length>))", 20), ("20", "attr(data-w px)", 20), ("1.5", "attr(data-w em)", 24),
    ("20px", "calc(2 * attr(data-w type(<length>)))", 40), ("20px", "attr(data-w type(*))", 20),
    ("x", "attr(data-w type(<length>), 7px)", 7), ("x", "attr(data-w type(<length>))", None), ("20px", "attr(data-w px, 7px)", 7),
    ("20px", "attr(data-w)", None), ("20px", "attr(data-w raw-string)", None), ("20px", "attr(data-no px, 7px)", 7),
    ("20px", "attr(data-no type(<length>))", None), ("20px", "var(--x, attr(data-w type(<length>)))", 20),
    ("20px", "attr(data-no px, attr(data-w type(<length>)))", 20), ("20px", "attr(DATA-W type(<length-percentage>))", 20),
    ("20px", "attr(data-w type(<number>), 7px)", 7), ("2.5", "attr(data-w type(<integer>), 7px)", 7), ("a b", "attr(data-w type(<custom-ident>), 7px)", 7),
    ("20px", "attr(data-w type(<foo>), 7px)", 7), ("20px", "attr(5)", None), ("red", "attr(data-w type(<color>), 7px)", None),
]  # fmt: skip


@pytest.mark.parametrize(("attribute", "value", "px"), VALUES)
def test_values(page_of: PageOf, attribute: str, value: str, px: float | None) -> None:
    """In a rule and in a style attribute; two elements that match alike have each their own."""
    body = f"<p id='a' data-w='{attribute}'></p><p id='b'></p><p id='c' data-w='{attribute}' style='margin-left: {value}'></p>"
    page = page_of(body, f"#a, #b {{ margin-left: {value} }}")
    expected = Length(px or 0)
    assert page.style_of(by_id(page, "a")).margin_left == expected
    assert page.style_of(by_id(page, "c")).margin_left == expected
    if "data-no" not in value and "7px" not in value:
        assert page.style_of(by_id(page, "b")).margin_left == Length(0)


@pytest.mark.parametrize(
    ("attribute", "kind", "family"),
    [
        ("'My Font'", "type(<string>)", "My Font"), ("Arial", "type(<string>)", "Other"), ("Arial", "type(<custom-ident>)", "Arial"),
        ("My Font", "", "My Font"), ("'My Font'", "type(<custom-ident>)", "Other"), ("12", "type(<integer>)", "serif"),
    ],
)  # fmt: skip
def test_names_and_strings(page_of: PageOf, attribute: str, kind: str, family: str) -> None:
    """A string is a family's name, so is a word; a number is none, so the family is inherited."""
    css = f"html {{ font-family: serif }} p {{ font-family: attr(data-f {kind}, Other) }}"
    page = page_of(f'<p id="a" data-f="{attribute}"></p>', css)
    assert page.style_of(by_id(page, "a")).font_family == (family,)


def test_a_child_has_not_its_parents_attribute(page_of: PageOf) -> None:
    """Though custom properties are inherited; a pseudo-element has those of its element."""
    css = "p, b { margin-left: attr(data-w px, 3px) } p::before { content: 'x'; margin-left: attr(data-w px) }"
    page = page_of("<p data-w='20'><b id='b'></b></p>", css)
    assert page.style_of(by_id(page, "b")).margin_left == Length(3)
    assert next(
        s for (_, kind), s in page.styled.pseudo.items() if kind == "before"
    ).margin_left == Length(20)


def test_an_edited_attribute_is_seen(tmp_path: Path) -> None:
    """What was computed before does not hold for another value."""
    session = open_text(tmp_path, "<p id=a data-w=20>x</p>", "p { margin-left: attr(data-w px) }")
    at = session.document.texts()["p.html"].index("20>")
    session.editor.apply(Patch((TextEdit("p.html", at, at + 2, "55"),), "another value"))
    page = session.views.page
    assert page.style_of(by_id(page, "a")).margin_left == Length(55)
    check_laws(page)
