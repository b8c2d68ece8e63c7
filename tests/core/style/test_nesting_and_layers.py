"""Rules in rules, cascade layers, scopes and @supports: CSS Nesting 1, Cascade 5 and 6, Conditional 4."""

from pathlib import Path

import pytest

from redcrate.core.edit.targets import write_targets
from redcrate.core.units import ZERO
from tests.conftest import PageOf, by_id, load

BODY = (
    "<section class='a' id='o'><p class='b' id='d'><b id='i'></b></p></section><p class='b' id='e'></p>"
)


def margins(page_of: PageOf, css: str, body: str = BODY) -> dict[str, float]:
    """The left margin of each element with an id, where it is not 0."""
    page = page_of(body, css)
    found = {e.id: page.style_of(e).margin_left for e in page.elements if e.id}
    return {
        i: m.resolve(ZERO) / 64 for i, m in found.items() if not isinstance(m, str) and m.resolve(ZERO)
    }


M = "{ margin-left: 9px }"
NESTED = [
    (f".a {{ .b {M} }}", "d"), (f".a {{ & .b {M} }}", "d"), (f".a {{ > p {M} }}", "d"), (f".a {{ + p {M} }}", "e"),
    (f".a {{ &#o {M} }}", "o"), (f".b {{ .a & {M} }}", "d"), (f".a {{ p {{ b {M} }} }}", "i"),
    (f".a, #e {{ &.b {M} }}", "e"), (f".a {{ color: red; .b {M} height: 3px }}", "d"), (f".b {{ &:is(.a > &) {M} }}", "d"),
    (f".a {{ @media (width > 1px) {{ .b {M} }} }}", "d"), (".a { @media (width > 1px) { margin-left: 9px } }", "o"),
    (f".a {{ @media (width < 1px) {{ .b {M} }} }}", ""), (f".a {{ @supports (top: 0) {{ .b {M} }} }}", "d"),
    (f".b::before {{ & {M} }}", ""), (f"& #e {M}", "e"), (f".b {{ :scope & {M} }}", "de"), (f".b {{ :scope {M} }}", ""), (f".a {{ .b, #e {M} }}", "d"),
]  # fmt: skip


@pytest.mark.parametrize(("css", "which"), NESTED)
def test_nested(page_of: PageOf, css: str, which: str) -> None:
    """The elements that a rule inside a rule is about."""
    assert set(margins(page_of, css)) == set(which)


WINS = [
    # declarations behind a nested rule come after it; `&` is as specific as the most specific selector around
    (".b { & { margin-left: 1px } margin-left: 9px }", 9), (".b { margin-left: 1px; & { margin-left: 9px } }", 9),
    ("#d, .x { & { margin-left: 9px } } p.b { margin-left: 1px }", 9),
    ("@layer x { #d { margin-left: 1px } } p { margin-left: 9px }", 9),
    ("@layer x, y; @layer y { p { margin-left: 9px } } @layer x { #d { margin-left: 1px } }", 9),
    ("@layer x { p { margin-left: 9px !important } } #d { margin-left: 1px !important }", 9),
    ("@layer x { p { margin-left: 9px !important } } @layer y { p { margin-left: 1px !important } }", 9),
    ("@layer x.y { #d { margin-left: 1px } } @layer x { p { margin-left: 9px } }", 9),
    ("@layer x { @layer y { #d { margin-left: 1px } } p { margin-left: 9px } }", 9),
    ("@layer { p { margin-left: 1px } } @layer { p { margin-left: 9px } }", 9),
    ("@layer x { p { margin-left: 9px } } @layer y { p { margin-left: 1px } #d { margin-left: revert-layer } }", 9),
    ("p { margin-left: 9px } @layer x { p { margin-left: 1px } }", 9),
    ("p { margin-left: revert-layer } @layer x { p { margin-left: 9px } }", 9),
    ("@layer x, { p { margin-left: 1px } } @layer x { p { margin-left: 9px } }", 9),
    ("@scope (.a) { p { margin-left: 9px } } p { margin-left: 1px }", 9),
    ("p { margin-left: 1px } @scope (.a) { p { margin-left: 9px } }", 9),
    ("@scope (#o) { p { margin-left: 9px } } @scope (body) { p { margin-left: 1px } }", 9),
    ("@scope (body) { :scope p { margin-left: 9px } } p.b { margin-left: 1px }", 9),
    ("@supports (display: grid) { p { margin-left: 9px } }", 9), ("@supports not (display: grid) { p { margin-left: 1px } }", 0),
    ("@supports (display: no) or (top: 0) { p { margin-left: 9px } }", 9),
    ("@supports (display: no) and (top: 0) { p { margin-left: 1px } }", 0),
    ("@supports selector(a:has(b)) { p { margin-left: 9px } }", 9), ("@supports selector(a::) { p { margin-left: 1px } }", 0),
    ("@supports ((top: 0) and (not (top: x))) { p { margin-left: 9px } }", 9), ("@supports (--x: 1) { p { margin-left: 9px } }", 9),
    ("@supports foo(x) { p { margin-left: 1px } }", 0), ("@supports (top: 0) and (top: 0) or (top: 0) { p { margin-left: 1px } }", 0),
]  # fmt: skip


@pytest.mark.parametrize(("css", "margin"), WINS)
def test_which_wins(page_of: PageOf, css: str, margin: float) -> None:
    """The left margin of a paragraph with a class and an id."""
    assert margins(page_of, css).get("d", 0) == margin


SCOPES = [
    (f"@scope (.a) {{ .b {M} }}", "d"), (f"@scope (.a) {{ :scope {M} }}", "o"), (f"@scope (.a) {{ & {M} }}", "o"),
    (f"@scope (.a) to (.b) {{ * {M} }}", ""), (f"@scope (.a) to (b) {{ * {M} }}", "d"), (f"@scope (.a) {{ > p {M} }}", "d"),
    (f"@scope (.a) {{ p {{ b {M} }} }}", "i"), (f"@scope (.a) {{ @scope (.b) {{ * {M} }} }}", "i"),
    (f"@scope (.b) {{ @scope (.a) {{ * {M} }} }}", ""), (f"@scope (.a, #e) {{ :scope {M} }}", "oe"),
    (f"@scope (.a) {{ p {{ :scope > & {M} }} }}", "d"), (f"@scope (.a) {{ p {{ :scope + & {M} }} }}", ""),
    (f"@scope to (.b) {{ section {M} }}", "o"), (f"@scope .a {{ .b {M} }}", ""),
]  # fmt: skip


@pytest.mark.parametrize(("css", "which"), SCOPES)
def test_scopes(page_of: PageOf, css: str, which: str) -> None:
    """The elements from a root (itself by :scope alone) down to a limit."""
    assert set(margins(page_of, css)) == set(which)


def test_an_imported_sheet_joins_a_layer(tmp_path: Path) -> None:
    """CSS Cascade 5 §2: with a name; and only where its condition is supported."""
    (tmp_path / "x.css").write_text("#d { margin-left: 1px; margin-top: 3px }", encoding="utf-8")
    for condition, top in (
        ("layer(x)", 3),
        ("layer", 3),
        ("layer(x) supports(top: 0)", 3),
        ("supports(top: x)", 16),
    ):
        path = tmp_path / "page.html"
        css = f"@import 'x.css' {condition}; p {{ margin-left: 9px }}"
        path.write_text(f"<!doctype html><style>{css}</style><p id='d'>", encoding="utf-8")
        page = load(path)
        style = page.style_of(by_id(page, "d"))
        assert (style.margin_left.resolve(ZERO), style.margin_top.resolve(ZERO)) == (9 * 64, top * 64)


def test_rules_that_double_at_each_level_are_refused(page_of: PageOf) -> None:
    """Nothing that a file contains makes the program hang."""
    css = "a { " + "& + &, & > & { " * 40 + "top: 0" + " }" * 41
    page = page_of("<p>a", css)
    assert any("too long" in n.sentence for n in page.notices)


def test_where_to_write_knows_layers(page_of: PageOf) -> None:
    """A layered rule loses to one in none, an important one wins over it."""
    page = page_of(BODY, "@layer x { #d { top: 1px } } p { top: 2px }")
    targets = {t.label: bool(t.loses_to) for t in write_targets(page, by_id(page, "d"), "top")}
    assert targets["#d @layer x"] and not targets["p"]
    page = page_of(BODY, "@layer x { p { top: 1px !important } } #d { top: 2px !important }")
    targets = {t.label: bool(t.loses_to) for t in write_targets(page, by_id(page, "d"), "top")}
    assert targets["#d"] and not targets["p @layer x"]
