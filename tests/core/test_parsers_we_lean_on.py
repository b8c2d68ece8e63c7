"""What we rely on in the parsers of others, beyond what they promise: one contract a test.

`markup/parser.py` subclasses the tokenizer of html5lib and reads its private state; `style/selectors.py`
reads the tree that cssselect2 parses. A new version that changes one of these fails here, by name.
"""

import html5lib
import pytest
import tinycss2
from cssselect2 import parser as selector_parser
from html5lib import _inputstream, _tokenizer, treebuilders

from redcrate.core.markup import SourceText, parse_html
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.selectors import compile_selectors
from redcrate.core.style.sheet_reading import parse_sheet
from redcrate.core.style.sheets import Origin


def test_the_tokenizer_reads_from_the_stream_that_it_is_given() -> None:
    """The stream's offset in its chunk after a token is that of the token's end."""
    tokens = _tokenizer.HTMLTokenizer("")
    stream = tokens.stream = _inputstream.HTMLUnicodeInputStream("<p class=a>xy</p>")
    assert stream._defaultChunkSize > 1000
    first = next(t for t in tokens if t["name"] == "p")
    assert list(first["data"].items()) == [("class", "a")]
    assert stream.chunk[: stream.chunkOffset] == "<p class=a>" and stream.chunkSize == 17


def test_the_tree_builder_can_be_handed_our_nodes() -> None:
    """A tree builder is chosen by name, and its phases are those of the HTML Standard."""
    assert treebuilders.getTreeBuilder("etree") is not None
    parser = html5lib.HTMLParser()
    assert {"inBody", "inTable", "text", "afterAfterBody"} <= set(parser.phases)


@pytest.mark.parametrize(
    "text",
    [
        "<p id=a>x</p>", "\ufeff<p>x</p>", "<p\r\n id='a'\r\n>x</p>", "a<p title='&lt;>'>x</p>", "<p><!-- > --><b>x</b></p>",
        "<table><tr><td>x", "<svg><p>x</p></svg>", "<p>\0x<b></p>y</b>",
    ],
)  # fmt: skip
def test_the_places_of_tags_are_those_of_the_file(text: str) -> None:
    """Each element's start tag stands where the table says, in the file's own characters."""
    markup = parse_html(SourceText("a.html", text))
    for element in markup.root.walk():
        span = markup.start_tag(element)
        if span is not None:
            written = text[span.start : span.end]
            assert written.startswith("<") and written.endswith(">")
            assert written[1:].lower().startswith(element.tag)


def test_nodes_of_a_stylesheet_tell_line_and_column() -> None:
    """Lines and columns count from 1, tokens inside blocks and functions included."""
    (rule,) = tinycss2.parse_stylesheet("\n a { b: c(d) }", skip_whitespace=True)
    assert (rule.source_line, rule.source_column) == (2, 2)
    function = next(t for t in rule.content if getattr(t, "type", "") == "ident")
    assert (function.source_line, function.source_column) == (2, 6)


def test_selectors_are_parsed_into_the_tree_that_we_compile() -> None:
    """Compound, combined, negated and relative selectors have the parts that we read."""
    (selector,) = selector_parser.parse("a > b.c:not(#d):is(e, f)::before")
    tree = selector.parsed_tree
    assert isinstance(tree, selector_parser.CombinedSelector) and tree.combinator == ">"
    kinds = [type(s).__name__ for s in tree.right.simple_selectors]
    assert kinds[:3] == ["LocalNameSelector", "ClassSelector", "NegationSelector"]
    assert selector.pseudo_element == "before" and next(iter(selector.specificity)) == 1


def test_a_selector_list_is_compiled_from_the_tokens_of_a_sheet() -> None:
    """The same tokens serve the sheet and the selectors."""
    sheet = parse_sheet(SourceText("a.css", "a, .b c { width: 1px }"), Origin.AUTHOR)
    assert [s.text for s in sheet.rules[0].selectors] == ["a", ".b c"]
    assert [s.text for s in compile_selectors(component_values("a, .b c"))] == ["a", ".b c"]
