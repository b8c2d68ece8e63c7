"""Places in CSS text: what is put in comes out again, and nothing around it moves."""

from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.edit.css_text import block_place, declaration_place, declaration_removal, insertion
from redcrate.core.markup.reparsing import difference
from redcrate.core.markup.source_text import SourceText
from redcrate.core.style.sheet_reading import parse_sheet

DECLARATION = st.sampled_from(
    [
        "width: 3px",
        "margin:1px 2px",
        "/* c */ top: 0",
        "background: url(a;b.png)",
        'content: "};"',
        "--x: {a;b}",
        "color:red !important",
    ]
)


@st.composite
def rules(draw: st.DrawFn) -> str:
    """A rule in one of the manners in which people write them."""
    declarations = draw(st.lists(DECLARATION, min_size=1, max_size=4))
    manner = draw(st.integers(0, 4))
    if manner == 0:
        return ".a { " + "; ".join(declarations) + " }"
    if manner == 1:
        return ".a {\n  " + ";\n  ".join(declarations) + ";\n}\n"
    if manner == 2:
        return ".a{" + ";".join(declarations) + "}"
    if manner == 3:
        return ".a {\r\n\t" + ";\r\n\t".join(declarations) + "\r\n}"
    return "/* { */ .a /* } */ {\n" + "".join(f"    {d};  /* ; */\n" for d in declarations) + "}"


@given(rules())
def test_an_inserted_declaration_is_read_and_goes_again(css: str) -> None:
    """At the end of the block; the others keep their values; the removal gives back what was there, or as good."""
    before = parse_sheet(SourceText("s", css)).rules[0]
    block = block_place(css, before.start)
    assert block is not None
    at, text = insertion(css, block, "z-index: 7")
    longer = css[:at] + text + css[at:]
    after = parse_sheet(SourceText("s", longer)).rules[0]
    assert [d.text for d in after.declarations] == [*(d.text for d in before.declarations), "7"]
    start, end = declaration_removal(longer, after.declarations[-1].offset)
    again = parse_sheet(SourceText("s", longer[:start] + longer[end:])).rules[0]
    assert [(d.name, d.text) for d in again.declarations] == [
        (d.name, d.text) for d in before.declarations
    ]


@given(rules(), st.integers(0, 3))
def test_the_place_of_a_value_is_the_value(css: str, number: int) -> None:
    """Replacing it changes that declaration alone; names, comments and important stay."""
    rule = parse_sheet(SourceText("s", css)).rules[0]
    declaration = rule.declarations[number % len(rule.declarations)]
    if declaration.name.startswith("--"):
        return
    place = declaration_place(css, declaration.offset)
    assert (
        css[place.value.start : place.value.end].strip() == declaration.text
        or "/*" in css[place.value.start : place.value.end]
    )
    assert place.important is declaration.important
    changed = css[: place.value.start] + "inherit" + css[place.value.end :]
    again = parse_sheet(SourceText("s", changed)).rules[0].declarations
    assert [d.name for d in again] == [d.name for d in rule.declarations]
    assert [d.text for d in again if d.offset == declaration.offset] == ["inherit"]
    assert [d.important for d in again] == [d.important for d in rule.declarations]


@given(st.text("ab", max_size=30), st.text("ab", max_size=30))
def test_the_difference_of_two_texts(old: str, new: str) -> None:
    """One stretch that, replaced, turns the one into the other; none for equal texts."""
    found = difference(old, new)
    if old == new:
        assert found is None
        return
    assert found is not None
    middle = new[found.start : found.end + found.by]
    assert old[: found.start] + middle + old[found.end :] == new
    assert 0 <= found.start <= found.end <= len(old)
