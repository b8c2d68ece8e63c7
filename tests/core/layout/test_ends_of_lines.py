"""Where lines end and begin: hyphens, kept spaces, indents, edges of inline boxes (CSS Text 3 and 4)."""

import pytest

from redcrate.core.layout.fragments import TextPiece
from redcrate.core.page import Page
from tests.conftest import PageOf, box, by_id

# Liberation Mono: 12 px a character at 20 px.
CSS = "div { font: 20px/20px 'Liberation Mono' } "


def lines(page: Page, ident: str = "d") -> list[str]:
    """The text of each line of a block, with the hyphens that stand at its end."""
    found = page.box_of(by_id(page, ident))
    assert found is not None and found.box is not None
    parts = [[p for p in line.content if isinstance(p, TextPiece)] for line in found.box.fragment.lines]
    return ["".join(p.text + p.hyphen for p in row).replace("\u00ad", "") for row in parts]


def near(px: float) -> object:
    """The characters are a hair wider than 12 px."""
    return pytest.approx(px, abs=0.1)


HYPHENATED = [
    # text (| is a soft hyphen), style, width in characters, lines
    ("im|ple|ment", "", 7, ["imple‐", "ment"]), ("im|ple|ment", "", 5, ["im‐", "ple‐", "ment"]),
    ("im|ple|ment", "", 10, ["implement"]), ("im|ple|ment", "hyphens: none", 5, ["implement"]),
    ("im|ple|ment", "hyphenate-character: &quot;//&quot;", 7, ["imple//", "ment"]),
    ("im|ple|ment", "hyphenate-character: &quot;&quot;", 5, ["imple", "ment"]),
    ("a im|ple", "", 4, ["a ", "im‐", "ple"]), ("a im|ple", "", 5, ["a im‐", "ple"]),
    ("<b>im|</b>ple", "font-weight: 400", 4, ["im‐", "ple"]), ("im|", "", 2, ["im"]),
]  # fmt: skip


@pytest.mark.parametrize(("text", "style", "wide", "expected"), HYPHENATED)
def test_soft_hyphens(page_of: PageOf, text: str, style: str, wide: int, expected: list[str]) -> None:
    """A line that ends at one shows a hyphen, which must fit too."""
    body = f"<div id='d' style='width: {wide * 12 + 1}px; {style}'>{text.replace('|', '&shy;')}</div>"
    page = page_of(body, CSS + "b { font-weight: inherit }")
    assert [t.rstrip() for t in lines(page)] == [t.rstrip() for t in expected]


def test_the_narrowest_width_counts_the_hyphen(page_of: PageOf) -> None:
    """CSS Text 3 §5.4: `imple-` is the widest piece."""
    page = page_of("<div id='d' style='width: min-content'>imple&shy;ment</div>", CSS)
    assert box(page, "d")[2] == near(6 * 12)


def test_the_hyphen_takes_room_on_its_line(page_of: PageOf) -> None:
    """A line set to the right ends where the hyphen ends."""
    page = page_of(
        "<div id='d' style='width: 84px; text-align: right'><b id='b'>im</b>ple&shy;ment</div>", CSS
    )
    assert box(page, "b")[0] == near(84 - 6 * 12)


KEPT = [
    # white-space and more, text, width in characters, lines
    ("break-spaces", "ab cd", 2, ["ab", " ", "cd"]), ("pre-wrap", "ab cd", 2, ["ab ", "cd"]),
    ("break-spaces", "ab   cd", 3, ["ab ", "  ", "cd"]), ("break-spaces; overflow-wrap: anywhere", "abc d", 3, ["abc", " d"]),
    ("pre", "a\n<i> b</i>", 9, ["a", " b"]), ("pre", "a\n<i style='white-space: normal'> b</i>", 9, ["a", "b"]),
    ("pre", "a <i style='white-space: normal'> b</i>", 9, ["a  b"]),
]  # fmt: skip


@pytest.mark.parametrize(("how", "text", "wide", "expected"), KEPT)
def test_kept_spaces(page_of: PageOf, how: str, text: str, wide: int, expected: list[str]) -> None:
    """CSS Text 3 §3 and §4.1: break-spaces breaks after each space, and they take room at the end."""
    css = f"{CSS} div {{ overflow-wrap: anywhere; width: {wide * 12 + 1}px; white-space: {how} }}"
    assert lines(page_of(f"<div id='d'>{text}</div>", css)) == expected


def test_words_break_at_the_edge_of_an_inline_box(page_of: PageOf) -> None:
    """word-break: after text that breaks everywhere, not in front of it."""
    css = CSS + "div { width: 49px } i { word-break: break-all; font-style: normal }"
    assert lines(page_of("<div id='d'><i>abcd</i>ef</div>", css)) == ["abcd", "ef"]
    assert lines(page_of("<div id='d'>ab<i>cde</i></div>", css)) == ["abcd", "e"]


INDENTS = [("", [30, 0, 0, 0]), ("each-line", [30, 0, 30, 0]), ("hanging", [0, 30, 30, 30]),
           ("each-line hanging", [0, 30, 0, 30])]  # fmt: skip


@pytest.mark.parametrize(("words", "expected"), INDENTS)
def test_indents(page_of: PageOf, words: str, expected: list[float]) -> None:
    """CSS Text 3 §7.1: lines 1 and 3 begin the block and follow a forced break."""
    rows = [f"<b id='{i}'>abc</b>" for i in "pqrs"]
    body = f"<div style='width: 70px; text-indent: {words} 30px'>{rows[0]} {rows[1]}<br>{rows[2]} {rows[3]}</div>"
    page = page_of(body, CSS)
    assert [box(page, i)[0] for i in "pqrs"] == expected


@pytest.mark.parametrize(
    ("indent", "width"),
    [("30px", 42), ("calc(50% - 6px)", 36), ("50%", 36), ("30px hanging", 36), ("30px each-line", 66)],
)
def test_indents_in_the_preferred_width(page_of: PageOf, indent: str, width: float) -> None:
    """CSS Sizing 3 §5.2.1: a percentage counts as 0."""
    page = page_of(f"<div id='d' style='float: left; text-indent: {indent}'>a<br>abc</div>", CSS)
    assert box(page, "d")[2] == near(width)


def test_letter_spacing_is_for_characters_that_show(page_of: PageOf) -> None:
    """CSS Text 3 §8.2: not for zero-width ones."""
    page = page_of(
        "<div><b id='a'>ab</b><br><b id='b'>a&#x200b;b&#x2060;&#xfeff;</b></div>",
        CSS + "b { letter-spacing: 5px }",
    )
    assert box(page, "a")[2] == box(page, "b")[2] == near(34)


def test_text_that_is_not_justified_keeps_its_spaces(page_of: PageOf) -> None:
    """CSS Text 4 §7.4: text-justify: none; the other spaces share the rest."""
    css = CSS + "div { width: 104px; text-align: justify } i { text-justify: none; font-style: normal }"
    page = page_of("<div>a <i id='b'>b c</i> d abcdefgh</div>", css)
    assert box(page, "b")[0] == near(34)
    assert box(page, "b")[2] == near(36)


@pytest.mark.parametrize(("align", "x"), [("left", 0), ("center", 50), ("right", 100), ("end", 100)])
def test_static_place_in_a_block_without_lines(page_of: PageOf, align: str, x: float) -> None:
    """CSS Positioned 3 §3.5.1: where an inline box would begin."""
    body = f"<div style='width: 100px; text-align: {align}'><i id='i' style='position: absolute'>a</i></div>"
    assert box(page_of(body), "i")[0] == x


def test_the_baseline_of_a_block_that_clips(page_of: PageOf) -> None:
    """CSS Align 3 §9.1: its bottom margin edge, also for the inline-block around it."""
    css = (
        CSS
        + "p { margin: 0 0 4px; height: 30px; overflow: hidden } b { display: inline-block; padding-bottom: 9px }"
    )
    page = page_of("<div id='d'><b><p>x</p></b></div>", css)
    assert box(page, "d")[3] == 30 + 4 + 9
    assert box(page_of("<div id='d'><b><p style='height: 10px'></p></b>x</div>", css), "d")[3] == 15 + 9


def test_a_negative_margin_makes_no_box_narrower_than_nothing(page_of: PageOf) -> None:
    """An inline box round one that pulls its end back."""
    page = page_of("<div><b id='b'><i style='margin-right: -50px'>a</i></b></div>", CSS)
    assert box(page, "b")[2] == 0


CJK = [
    # line-break, text at two characters a line, lines
    ("auto", "日本ょ", ["日本", "ょ"]), ("normal", "日本ょ", ["日本", "ょ"]), ("strict", "日本ょ", ["日", "本ょ"]),
    ("auto", "日本々", ["日", "本々"]), ("strict", "日本々", ["日", "本々"]), ("loose", "日本々", ["日本", "々"]),
    ("loose", "日本ょ", ["日本", "ょ"]), ("strict", "日本語", ["日本", "語"]), ("loose", "日本。", ["日", "本。"]),
]  # fmt: skip


@pytest.mark.parametrize(("strictness", "text", "expected"), CJK)
def test_strictness(page_of: PageOf, strictness: str, text: str, expected: list[str]) -> None:
    """CSS Text 3 §5.3: whether a line may begin with small kana or an iteration mark."""
    page = page_of(f"<b id='b'>{text[0]}</b>", "b { font: 20px/20px 'Liberation Mono' }")
    wide = 2 * box(page, "b")[2] + 1
    css = f"{CSS} div {{ width: {wide}px; line-break: {strictness} }}"
    assert lines(page_of(f"<div id='d'>{text}</div>", css)) == expected


CLONED = [
    # style of the inline box, lines of 7 characters; without edges it is "abc def"
    ("", ["abc def"]), ("padding: 0 6px", ["abc", "def"]), ("padding: 0 6px; box-decoration-break: clone", ["abc", "def"]),
]  # fmt: skip


@pytest.mark.parametrize(("style", "expected"), CLONED)
def test_edges_on_every_line(page_of: PageOf, style: str, expected: list[str]) -> None:
    """CSS Break 4 §5.1: with clone each line has the box's left and right edge, and room for them."""
    body = (
        f"<div id='d' style='width: 85px'><b id='b' style='font-weight: 400; {style}'>abc def</b></div>"
    )
    assert lines(page_of(body, CSS)) == expected


def test_cloned_edges_take_room(page_of: PageOf) -> None:
    """36 px of letters and 2 × 9 px of edges on each line; what follows stands behind the last edge."""
    style = "padding: 0 5px; border: solid; border-width: 0 2px; margin: 0 2px; font-weight: 400"
    body = f"<div style='width: 75px; text-align: {{}}'><b id='b' style='{style}; box-decoration-break: {{}}'>abc def</b><i id='i'>x</i></div>"
    cloned = page_of(body.format("left", "clone"), CSS + "i { font-style: normal }")
    assert box(cloned, "b")[0::2] == (2, near(50))
    assert box(cloned, "i")[0] == near(54)
    sliced = page_of(body.format("left", "slice"), CSS + "i { font-style: normal }")
    assert box(sliced, "i")[0] == near(45)
    right = page_of(body.format("right", "clone"), CSS + "i { font-style: normal }")
    assert box(right, "i")[0] == near(75 - 12)
    narrow = page_of(body.replace("abc def", "abc de").format("left", "clone"), CSS)
    assert box(narrow, "b")[3] > 30  # 72 px of letters fit into 75, but not with edges


@pytest.mark.parametrize(("wide", "y"), [(26, 0), (24, 0), (23, 20)])
def test_a_space_takes_no_room_before_a_float(page_of: PageOf, wide: int, y: float) -> None:
    """CSS 2.2 §9.5.1: one that just fits behind the text stands beside it, since the space between ends the line."""
    float_ = f"<span id=f style='float: left; width: {24 * 12 - 11 * 12}px; height: 5px'></span>"
    body = f"<div id=d style='width: {wide * 12 + 1}px'>one and two {float_}three and four</div>"
    assert box(page_of(body, CSS), "f")[1] == y


EDGES = [
    # style of b in aaa <b>bbb</b> ccc, width in characters, lines
    ("", 7, ["aaa bbb", "ccc"]), ("padding-right: 12px", 7, ["aaa", "bbb", "ccc"]),
    ("padding-right: 12px", 8, ["aaa bbb", "ccc"]), ("border-right: 12px solid", 7, ["aaa", "bbb", "ccc"]),
    ("margin-right: 12px", 7, ["aaa", "bbb", "ccc"]), ("padding-right: 24px", 8, ["aaa", "bbb", "ccc"]),
    ("margin-right: 24px; padding-right: 24px; border-right: 12px solid", 11, ["aaa", "bbb", "ccc"]),
    ("margin-right: 24px; padding-right: 24px; border-right: 12px solid", 12, ["aaa bbb", "ccc"]),
    ("padding-left: 12px", 7, ["aaa", "bbb", "ccc"]), ("padding-left: 12px", 8, ["aaa bbb", "ccc"]),
    ("margin-right: -12px", 10, ["aaa bbb ccc"]), ("margin-right: 10%; padding-right: 10%", 8, ["aaa", "bbb", "ccc"]),
]  # fmt: skip


@pytest.mark.parametrize(("style", "wide", "expected"), EDGES)
def test_an_edge_takes_room(page_of: PageOf, style: str, wide: int, expected: list[str]) -> None:
    """Of an inline box's two edges each stays with the text beside it: CSS 2.2 §9.4.2."""
    body = f"<div id=d style='width: {wide * 12 + 1}px'>aaa <b style='font-weight: 400; {style}'>bbb</b> ccc</div>"
    assert [line.strip() for line in lines(page_of(body, CSS))] == expected


KERNED = [
    # style of the block, of the text, its width; "L" and the space behind it are drawn together
    ("", "", 154.28125), ("", "text-decoration: underline", 154.890625), ("text-decoration: underline", "", 154.890625),
    ("text-align: right", "", 154.890625), ("text-align: start; direction: rtl", "", 154.28125),
    ("", "border-right: 3px solid", 154.890625),
]  # fmt: skip


@pytest.mark.parametrize(("block", "style", "wide"), KERNED)
def test_the_last_letter_of_a_line(page_of: PageOf, block: str, style: str, wide: float) -> None:
    """It is no longer drawn up to the space behind it where one sees where the line ends, as engines do it."""
    css = "div { width: 160px; font: 16.8px 'Liberation Serif' }"
    page = page_of(f"<div style='{block}'><i id='a' style='font-style: normal; {style}'>10. Executing WhyML Programs</i></div>", css)  # fmt: skip
    assert box(page, "a")[2] == wide


def test_text_that_stands_apart_is_not_kerned_with_what_is_around(page_of: PageOf) -> None:
    """CSS Writing Modes 4 §2.2: an isolated box, as list items and paragraphs are by default where they are inline."""
    css = "body { font: 14.4px 'Liberation Sans' } li { display: inline }"
    plain, item, bdi = (
        "<b style='font-weight: 400' id='a'>T</b>",
        "<li id='a'>T</li>",
        "<bdi id='a'>T</bdi>",
    )
    found = [box(page_of(f"<div>doc {one}</div>", css), "a")[0] for one in (plain, item, bdi)]
    assert found[0] < found[1] == found[2]


EMPTY = [
    # after "aa bb ", what follows in a line of 7 characters, whether the empty box stays on the first line
    ("<i id='e'></i><b>cccc</b>", True), ("<i id='e'></i>cccc", True), ("<u><i id='e'></i></u><b>cccc</b>", True),
    ("<b><i id='e'></i>cccc</b>", False), ("<i id='e' style='padding: 0 2px'></i>cccc", True),
    ("<i id='e' style='padding: 0 20px'></i>cccc", False), ("<br><i id='e'></i>cccc", False),
]  # fmt: skip


@pytest.mark.parametrize(("follows", "stays"), EMPTY)
def test_an_empty_inline_box_at_a_break(page_of: PageOf, follows: str, stays: bool) -> None:
    """It stays with what stands before it, as engines have it, unless it begins in a box that goes on."""
    page = page_of(f"<div style='width: 86px'>aa bb {follows}</div>", CSS)
    assert (box(page, "e")[1] < 15) is stays


def test_the_widest_line_is_rounded_once(page_of: PageOf) -> None:
    """As wide as its pieces are in a line, spaces between them included."""
    css = "div { font: 13px 'Liberation Sans'; float: left }"
    page = page_of(
        "<div id='d'><a>Modules</a> | <a>Directives</a> | <a>FAQ</a> | <a id='z'>Map</a></div>", css
    )
    x, _, width, _ = box(page, "z")
    assert box(page, "d")[2] == x + width
