"""Our matcher against the library's own, and the cascade's order."""

from pathlib import Path

import pytest
from cssselect2 import ElementWrapper, compile_selector_list
from html5lib import parse
from tinycss2 import parse_component_value_list

from redcrate.core.markup import SourceText, parse_html
from redcrate.core.style.selectors import SelectorNotUnderstood, compile_selectors
from redcrate.core.style.values import Length
from tests.conftest import PageOf, box

SELECTORS = [
    "*", "p", "#one", ".a", ".a.b", "p.a", "div p", "div > p", "h2 + p", "h2 ~ p", "[title]",
    "[title=x]", "[class~=b]", "[lang|=en]", "[title^=x]", "[title$=y]", "[title*=z]",
    ":first-child", ":last-child", ":only-child", "p:first-of-type", "p:last-of-type",
    ":nth-child(2n+1)", ":nth-child(-n+2)", ":nth-last-child(2)", "p:nth-of-type(2)", ":empty",
    ":root", ":not(.a)", ":not(p, h2)", ":is(.a, #one) b", ":where(div) > p", "div:has(> h2)",
    "section:has(h2)", "p:has(b)", ":any-link", ":not(:any-link)",
    "a:link", "div div", "div .a + .b", "section > div > p.a b", ":only-of-type",
]  # fmt: skip
PAGE = """<!doctype html><body><section lang=en-GB><div><h2 class=b>t</h2><p class='a b'>x <b>y</b></p>
<p id=one title=xzy class=b></p><p lang=de><a href=#>l</a><b></b></p></div><div><p class=a><b>q</b></p></div></section>
<div title=x><div><p></p></div></div>"""


@pytest.mark.parametrize("selector", SELECTORS)
def test_matches_what_the_library_matches(selector: str) -> None:
    """The same elements, in the same order."""
    tree = ElementWrapper.from_html_root(parse(PAGE, namespaceHTMLElements=False))
    wanted = [
        f"{e.local_name}{e.id or ''}{''.join(sorted(e.classes))}"
        for e in tree.iter_subtree()
        if e.matches(*compile_selector_list(selector)) and e.local_name not in ("head",)
    ]
    compiled = compile_selectors(parse_component_value_list(selector))
    markup = parse_html(SourceText("p", PAGE))
    found = [
        f"{e.tag}{e.id or ''}{''.join(sorted(e.classes))}"
        for e in markup.listed
        if any(s.test(e) for s in compiled)
    ]
    assert found == wanted
    assert found or selector in (":only-of-type",)


def test_nth_child_of_a_selector() -> None:
    """`:nth-child(2 of .a)`, which the library joins wrongly."""
    markup = parse_html(SourceText("p", "<i class=a></i><i></i><i class=a id=x></i>"))
    compiled = compile_selectors(parse_component_value_list("i:nth-child(2 of .a, .b)"))
    assert [e.id for e in markup.listed if compiled[0].test(e)] == ["x"]


@pytest.mark.parametrize("bad", ["p:", "::", "p >", ":nope", ":nth-child(x)", "[a=", "p,,q", ""])
def test_bad_selectors_are_refused(bad: str) -> None:
    """With our error, whatever the library raises."""
    with pytest.raises(SelectorNotUnderstood):
        compile_selectors(parse_component_value_list(bad))


def test_imports_media_and_order(page_of: PageOf, tmp_path: Path) -> None:
    """@import stands in front, @media by width, and a sheet that imports itself ends."""
    (tmp_path / "one.css").write_text("@import 'one.css'; #a { width: 10px; height: 10px }")
    css = "@import 'one.css'; #a { width: 20px } @media (width < 500px) { #a { width: 30px } }"
    page_of("<i></i>")
    html = f"<!doctype html><style>{css}</style><div id=a></div>"
    (tmp_path / "page.html").write_text(html)
    from tests.conftest import load

    assert box(load(tmp_path / "page.html", 1000), "a")[2:] == (20, 10)
    assert box(load(tmp_path / "page.html", 400), "a")[2:] == (30, 10)


LISTS = [
    # selectors, which of p, input, svg get the margin
    (":root, :host p, p", "html p"), ("p::-webkit-foo, input", "input"), ("p, [type=file]::file-selector-button:focus", "p"),
    ("p::-webkit-foo(x):hover, input:invalid", "input"), ("svg:not(:host)", "svg"), ("p:host(.a), svg", "svg"),
    ("p:not(:lang(en))", "p"),
    ("p::foo, input", ""), ("p:foo, input", ""), ("p, input::-moz-foo", ""), ("input:valid, p", "p"),
    ("p::before:hover, p::-webkit-x b, svg", ""),
]  # fmt: skip


@pytest.mark.parametrize(("selectors", "which"), LISTS)
def test_what_is_valid_and_matches_nothing(page_of: PageOf, selectors: str, which: str) -> None:
    """Selectors 4 §3.6 and §4.1: only an invalid selector takes its whole list along."""
    page = page_of("<p>a</p><input required><svg></svg>", f"{selectors} {{ margin-left: 7px }}")
    found = [e.tag for e in page.elements if page.style_of(e).margin_left == Length(7.0)]
    assert " ".join(found) == which
    assert bool(page.notices) != bool(which)


def test_has_asks_what_is_inside_not_the_element_itself(page_of: PageOf) -> None:
    """Selectors 4 §4.5: at any depth; the element is none of its own descendants."""
    page = page_of("<section id=o><div><p id=i></p></div></section>", ":has(p) { margin-left: 7px }")
    found = [e.tag for e in page.elements if page.style_of(e).margin_left == Length(7.0)]
    assert found == ["html", "body", "section", "div"]


def test_required_is_of_fields_that_say_so(page_of: PageOf) -> None:
    """HTML Standard §4.16.3: the attribute alone counts, on fields alone."""
    page = page_of(
        "<input required id=a><input id=b><p required id=c>x</p>", ":required { margin-left: 7px }"
    )
    assert [e.id for e in page.elements if page.style_of(e).margin_left == Length(7.0)] == ["a"]
