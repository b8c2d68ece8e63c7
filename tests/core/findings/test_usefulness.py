"""What most authors would wave away is told to those who ask for all; and what is said of rules counts all states."""

from pathlib import Path

import pytest

from redcrate.core.findings import findings_of
from redcrate.core.findings.checking import check_page
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.states import in_some_state, without_states
from tests.conftest import PageOf

LIBRARY = "".join(f".l{n}{{top:0}}" for n in range(160))  # of a sheet, of which a page uses little

# family: a body that has it, and whether it is minor
SAID = [
    ("invalid-value", "<style>p{widht:2px}</style><p>x", False),
    ("invalid-value", "<style>.no{widht:2px}</style><p>x", False),
    ("invalid-value", f"<style>{LIBRARY}.no{{widht:2px}}</style><p>x", True),
    ("invalid-value", f"<style>{LIBRARY}p{{widht:2px}}</style><p>x", True),
    ("invalid-value", f"<style>{'p{top:0}' * 160}p{{widht:2px}}</style><p>x", False),
    (
        "source-space-gap",
        "<div style='width:200px'><span style='display:inline-block;width:50%'>a</span> "
        "<span style='display:inline-block;width:50%'>b</span></div>",
        False,
    ),
    ("class-without-rule", "<style>.a,.b{top:0}</style><p class=a><p class=b><p class=lost>", True),
    ("rule-without-element", "<style>p{top:0}.gone{top:0}</style><p>x", True),
    ("image-descent-gap", "<div style='border:1px solid'><svg width=50 height=40></svg></div>", False),
    ("image-descent-gap", "<div style='border:1px solid'><svg width=20 height=20></svg></div>", True),
    ("no-effect-on-item", "<div style='display:flex'><p style='clear:both'>x</div>", False),
    ("no-effect-on-item", "<div style='display:flex'><p style='float:left'>x</div>", True),
    ("margins-collapsed", "<style>.u{margin:0 0 20px}.v{margin:16px 0 0}</style><div class=u>x</div><div class=v>y</div>", False),
    ("margins-collapsed", "<style>h2{margin:0 0 20px}p{margin:16px 0 0}</style><h2>x</h2><p>y", True),
    ("class-missing-on-one", "<style>.a{top:0}</style><b class=a>x</b><b>y</b><b class=a>z</b>", False),
    ("class-missing-on-one", "<style>.a{top:0}</style><b class=a>x</b><b class=a>y</b><b>z</b>", True),
    ("class-missing-on-one", "<style>.a{top:0}</style><b class=a><i></i></b><b class=a><i></i></b><b><i></i></b>", False),
    ("class-missing-on-one", "<style>.mb-2{top:0}</style><b class=mb-2>x</b><b>y</b><b class=mb-2>z</b>", True),
    ("throw-away-colour", "<style>.tide{border:1px solid red}</style><p class=tide>x", False),
    ("throw-away-colour", "<style>.err{border:1px solid red}</style><p class=err>x", True),
    ("throw-away-colour", "<p>x <b style='background:red'>y</b>", True),
    ("size-overruled", "<div style='display:flex'><p style='flex:1 0 90px;width:50px'>x</div>", False),
    ("size-overruled", "<div style='display:flex'><p style='flex:0 0 90px;width:100%'>x</div>", True),
    ("inline-size-ignored", "<p><a style='margin-top:9px'>x</a>", False),
    ("inline-size-ignored", "<p><a style='margin:9px 4px'>x</a>", True),
    ("duplicate-id", "<p id=a>x<p id=a>y", False),
    ("duplicate-id", "<svg width=9 height=9><g id=a></g><g id=a></g></svg>", True),
    ("overflows-fixed-height", "<p style='height:9px;background:#cde;width:50px'>one two three</p>", False),
    ("overflows-fixed-height", "<p style='height:9px;width:50px'>one two three</p>", True),
    ("near-miss-name", "<style>.notice{top:0}</style><p class=notce>x", False),
    ("near-miss-name", f"<style>{LIBRARY}.notice{{top:0}}</style><p class=notce>x", True),
    ("negative-margin-overlap", "<i style='float:left'>aaaa</i><b style='float:left;margin-left:-9px'>bbbb</b>", False),
    ("negative-margin-overlap", "<i style='display:block;height:9px;background:#cde'></i><p style='margin:-5px 0 0;background:#dec;height:9px'>", True),
    ("negative-margin-overlap", "<b style='float:left'>aaaa</b><b style='float:left;margin-left:-9px'>bbbb</b>", True),
]  # fmt: skip


@pytest.mark.parametrize(("family", "body", "minor"), SAID)
def test_what_is_minor(page_of: PageOf, family: str, body: str, minor: bool) -> None:
    """Each family on a page whose author would want to know, and on one whose author would not."""
    page = page_of(f"<!doctype html>{body}")
    found = [
        f for f in findings_of(page, {"page.html": page.source.markup.source.text}) if f.family == family
    ]
    assert found and {f.minor for f in found} == {minor}, [f.sentence for f in found]


def test_minor_advice_is_told_to_those_who_ask(tmp_path: Path) -> None:
    """Rules that nothing matches are counted in all states."""
    (tmp_path / "s.css").write_text(
        "p{top:0}" + "".join(f".n{n}:hover::after{{top:0}}" for n in range(5)) + "p:focus{top:0}"
    )
    page = tmp_path / "p.html"
    page.write_text("<!doctype html><link rel=stylesheet href=s.css><p>x")
    assert check_page(page, [800]).checked == ()
    (told,) = check_page(page, [800], minor=True).checked
    assert told.finding.sentence == "5 of 7 rules of s.css match nothing here."


@pytest.mark.parametrize(
    ("selector", "plain"),
    [("a.b:hover::after", "a.b"), (":hover", "*"), ("div > :focus, p:not(.x:hover) b", "div > *, p b"), ("a:is(:hover,.b) i", "a:is(*,.b) i"),
     ("ul li:not(:last-child)", "ul li:not(:last-child)"), ("a:not(:first-child):hover", "a:not(:first-child)"), ("p::part(x)", "p"),
     ("input:-ms-input-placeholder", "input"), ("p:before", "p"), ("a:has(> :checked)", "a:has(> *)")],
)  # fmt: skip
def test_a_selector_without_states(selector: str, plain: str) -> None:
    """What could match at some time, which can be compiled again."""
    assert without_states(component_values(selector)) == plain and in_some_state(selector)
