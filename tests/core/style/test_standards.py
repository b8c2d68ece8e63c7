"""Unknown, not allowed and not computed are told apart, by the standards' own grammars."""

from pathlib import Path

import pytest

from redcrate.core.findings import findings_of
from redcrate.core.notices import NoticeKind
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.grammar import Grammars
from redcrate.core.style.standards import Verdict, standards
from tests.conftest import PageOf, box

UNKNOWN, INVALID = Verdict.UNKNOWN, Verdict.INVALID
NOT_COMPUTED, NO_EFFECT = Verdict.NOT_COMPUTED, Verdict.NO_EFFECT


def verdict(declaration: str) -> Verdict:
    """What the standards say of a declaration."""
    name, _, value = declaration.partition(": ")
    return standards().verdict(name, significant(component_values(value)))


@pytest.mark.parametrize(
    ("declaration", "expected"),
    [
        ("grid-area: a", NOT_COMPUTED),
        ("grid-area: 1 / 2 / span 3 / auto", NOT_COMPUTED),
        ("grid-template: 'a b' 10px 'c d' auto / 1fr 2fr", NOT_COMPUTED),
        ("scroll-margin: 10px 20px", NO_EFFECT),
        ("content: url(x.png) / 'words'", NOT_COMPUTED),
        ("font: caption", NOT_COMPUTED),
        ("aspect-ratio: auto 16 / 9", NOT_COMPUTED),
        ("aspect-ratio: 16 x 9", INVALID),
        ("transform: translate(10px, 20%) rotate(45deg)", NOT_COMPUTED),
        ("transition: color .3s ease-in-out, width 1s", NO_EFFECT),
        ("columns: 2 100px", NOT_COMPUTED),
        ("columns: 2 100px 3", INVALID),
        ("display: inlineblock", INVALID),
        ("display: block flow", NOT_COMPUTED),
        ("width: 10px 20px", INVALID),
        ("width: calc-size(auto, size)", NOT_COMPUTED),
        ("padding: -1px", INVALID),
        ("padding: 1px 2px 3px 4px 5px", INVALID),
        ("margin: 1px, 2px", INVALID),
        ("float: middle", INVALID),
        ("text-align: middle", INVALID),
        ("colour: red", UNKNOWN),
        ("widht: 3px", UNKNOWN),
        ("font-variant: small-caps", NOT_COMPUTED),
        ("filter: drop-shadow(0 0 2px red)", NO_EFFECT),
        ("container-type: inline-size", NOT_COMPUTED),
        ("margin: var(--a) nonsense", NOT_COMPUTED),
    ],
)
def test_verdicts(declaration: str, expected: Verdict) -> None:
    """Each has a grammar in its standard."""
    assert verdict(declaration) is expected


@pytest.mark.parametrize(
    ("grammar", "yes", "no"),
    [
        ("a && b", ["a b", "b a"], ["a", "a a", "a b a"]),
        ("a || b || c", ["c", "b a", "c b a"], ["", "a a"]),
        ("a | b c", ["a", "b c"], ["a c", "b"]),
        ("[ a | b ]{2}", ["a b", "b b"], ["a", "a b a"]),
        ("a{1,3}", ["a", "a a a"], ["", "a a a a"]),
        ("a#", ["a", "a, a"], ["a a", "a,", ", a"]),
        ("a#{2}", ["a, a"], ["a", "a, a, a"]),
        ("a? b*", ["", "a", "b b", "a b"], ["b a"]),
        ("a+#", ["a a, a", "a"], ["a,"]),
        ("<length [0,∞]> / <number>", ["3px / 2", "0 / 1"], ["-3px / 2", "3 / 2", "3px 2"]),
        ("<t>{2}", ["x y"], ["x", "x z"]),
        ("<'p'>", ["q"], ["p"]),
        ("f( <length> ) | a", ["f(1px)", "f(what ever)", "a"], ["g(1px)", "f"]),
        ("a , b", ["a, b"], ["a b"]),
        ("[ a , ]? b", ["b", "a, b"], ["a b", ", c"]),
    ],
)
def test_the_value_definition_syntax(grammar: str, yes: list[str], no: list[str]) -> None:
    """CSS Values 4 §2: combinators, multipliers, ranges and references."""
    grammars = Grammars({"x": grammar, "p": "q"}, {"t": "x | y"})
    for text in yes:
        assert grammars.allows("x", significant(component_values(text))), text
    for text in no:
        assert not grammars.allows("x", significant(component_values(text))), text


def test_a_grammar_that_explodes_counts_as_allowed() -> None:
    """In doubt nobody is told that valid CSS is wrong, and nobody waits for it."""
    deep = Grammars({"x": " || ".join(f"[ a | a a | b{i} ]*" for i in range(14))}, {})
    assert deep.allows("x", significant(component_values("a " * 40 + "c")))


@pytest.mark.parametrize(
    "css", ["grid-area: a", "scroll-margin: 3px", "content: url(x)", "height: 100dvh", "columns: 2", "font: menu",
            "grid-template-columns: subgrid", "word-wrap: break-word", "appearance: none", "zoom: 2"]
)  # fmt: skip
def test_valid_css_is_never_called_wrong(page_of: PageOf, css: str) -> None:
    """A notice that it is not computed at most; never a finding."""
    text = f"<style>#a {{ {css} }}</style><div id='a'>x</div>"
    page = page_of(text)
    bad = (NoticeKind.INVALID_VALUE, NoticeKind.UNKNOWN_PROPERTY, NoticeKind.MISSING_UNIT)
    assert not [n.sentence for n in page.notices if n.kind in bad]
    whole = page.source.markup.source.text
    assert not [f for f in findings_of(page, {"page.html": whole}) if f.family == "invalid-value"]


def test_no_value_of_the_standards_examples_is_called_invalid() -> None:
    """In small letters and in capitals; the list has what engines accept of the examples in the standards' prose."""
    lines = (
        (Path(__file__).parent / "values_of_the_standards.txt").read_text(encoding="utf-8").splitlines()
    )
    wrong = []
    for line in lines:
        name, _, value = line.partition(": ")
        for text in (value, value.upper()):
            tokens = component_values(text)
            if parse_declaration(name, tokens) is None:
                found = standards().verdict(name, significant(tokens))
                wrong += [f"{name}: {text}"] if found in (INVALID, UNKNOWN) else []
    assert len(lines) > 200 and wrong == []


def test_a_value_that_the_file_ends_is_whole(page_of: PageOf) -> None:
    """CSS Syntax 3 §4.3.5: so is a string; of a longer value the first words are quoted, none of them cut."""
    page = page_of('<p id=a>x</p><style>#a { width: 9px } #a::before { content: "ab')
    assert not [n for n in page.notices if n.kind is NoticeKind.INVALID_VALUE]
    text = "<style>#a { font: 22px arial, helvetica, sans-serif and more of them color: #606060 }</style><p id=a>x"
    whole = page_of(text)
    (found,) = (
        f
        for f in findings_of(whole, {"page.html": whole.source.markup.source.text})
        if f.family == "invalid-value"
    )
    assert "“22px arial, helvetica, sans-serif and more of them color: …”" in found.sentence


def test_an_old_name_is_the_property_it_stands_for(page_of: PageOf) -> None:
    """CSS Text 4: word-wrap is overflow-wrap."""
    long = "<div id='a'>abcdefghijklmnopqrstuvwxyz</div>"
    plain = page_of(long, "#a { width: 50px; overflow-wrap: break-word }")
    assert box(page_of(long, "#a { width: 50px; word-wrap: break-word }"), "a") == box(plain, "a")
    assert box(plain, "a")[3] > 40


@pytest.mark.parametrize(
    ("length", "px"),
    [("10svw", 100), ("10lvw", 100), ("10dvh", 80), ("10vi", 100), ("10vb", 80), ("10cqw", 100), ("10dvmin", 80),
     ("2lh", 46), ("2rlh", 46), ("1ic", 20), ("1rem", 20)],
)  # fmt: skip
def test_units_of_today(page_of: PageOf, length: str, px: float) -> None:
    """CSS Values 4 §6: the windows are one, and lh is the line height of `normal` too."""
    page = page_of(
        "<div id='a'></div>", f"html {{ font-size: 20px; line-height: normal }} #a {{ width: {length} }}"
    )
    assert box(page, "a")[2] == px


@pytest.mark.parametrize(
    ("css", "size"),
    [
        ("#b { font-family: monospace }", 13),
        ("#b { font-family: monospace, monospace }", 16),
        ("#b { font-family: 'Liberation Mono' }", 16),
        ("#a { font-size: 20px } #b { font-family: monospace }", 20),
        ("#a { font-size: 1.25em } #b { font-family: monospace }", 16.25),
        ("#b { font-family: monospace; font-size: 200% }", 26),
        ("#b { font-family: monospace; font-size: 1rem }", 16),
        ("#b { font-family: monospace; font-size: x-large }", 20),
        ("#b { font-family: monospace; font-size: larger }", 15.6),
        ("#a { font-family: monospace } #b { font-family: serif }", 16),
        ("#a { font-family: monospace } #b { font-family: serif; font-size: 2em }", 32),
        ("#a { font-family: monospace; font-size: 13px } #b { font-family: serif }", 13),
    ],
)
def test_monospace_alone_has_a_size_of_its_own(page_of: PageOf, css: str, size: float) -> None:
    """13/16 of sizes that were never given in absolute units; back again where the family changes back."""
    page = page_of("<div id='a'><div id='b'>x</div></div>", css)
    element = next(e for e in page.elements if e.id == "b")
    assert page.style_of(element).font_size == pytest.approx(size, abs=1e-5)


@pytest.mark.parametrize(
    ("declaration", "told"),
    [
        ("text-wrap: balance", False),
        ("text-wrap: pretty", True),
        ("text-wrap: nowrap", False),
        ("line-break: strict", False),
        ("line-break: anywhere", False),
        ("-webkit-line-clamp: 3", False),
        ("hyphens: auto", True),
        ("hyphens: none", False),
        ("text-indent: 2em hanging", False),
        ("font-variant: small-caps tabular-nums", False),
        ("-webkit-user-select: none", False),
        ("-webkit-anything: 3", False),
        ("box-decoration-break: clone", False),
        ("text-box-trim: trim-both", True),
        ("aspect-ratio: 16 / 9", False),
        ("display: block flow", False),
        ("height: min-content", False),
    ],
)
def test_what_is_not_computed_is_told(page_of: PageOf, declaration: str, told: bool) -> None:
    """A valid value that would move boxes is told on the page; one that is followed is not."""
    page = page_of("<p>x</p>", f"p {{ {declaration} }}")
    notices = [n.sentence for n in page.notices]
    assert notices == ([f"{declaration} is valid, but not computed here."] if told else [])
