"""Small capitals: CSS Fonts 4 §6.6.1; the bundled fonts have none, so smaller capitals stand for them."""

import pytest

from tests.conftest import PageOf, box

PAIRS = [
    # text, its small capitals, the same written out: capitals at seven tenths of 20 px
    ("abc", "small-caps", "<s>ABC</s>"), ("Abc dE", "small-caps", "A<s>BC</s> <s>D</s>E"),
    ("Abc 1", "all-small-caps", "<s>ABC 1</s>"), ("aß", "small-caps", "<s>A</s>ß"),
    ("abc", "titling-caps", "abc"), ("abc", "normal", "abc"), ("ab", "petite-caps", "<s>AB</s>"),
]  # fmt: skip


@pytest.mark.parametrize(("text", "caps", "written"), PAIRS, ids=[f"{c} {t}" for t, c, _ in PAIRS])
def test_width(page_of: PageOf, text: str, caps: str, written: str) -> None:
    """As wide as smaller capitals are."""
    css = "span { font-size: 20px; font-kerning: none } s { font-size: 14px; text-decoration: none }"
    page = page_of(
        f"<span id='a' style='font-variant: {caps}'>{text}</span><br><span id='b'>{written}</span>", css
    )
    assert box(page, "a")[2] == pytest.approx(box(page, "b")[2], abs=0.06)


def test_the_font_shorthand_sets_and_resets_them(page_of: PageOf) -> None:
    """CSS Fonts 4 §2.7."""
    css = "p { font: small-caps 20px/30px serif } #b { font: 20px/30px serif }"
    page = page_of("<p><span id='a'>abc</span><p id='b'><span id='c'>abc</span>", css)
    assert box(page, "a")[2] > box(page, "c")[2]


def test_a_font_of_the_system(page_of: PageOf) -> None:
    """All of them are 16 px of the sans-serif family, with a normal line height."""
    page = page_of(
        "<p id='a'>X<p id='b'>X",
        "p { font: italic 40px/2 serif } #a { font: menu } #b { font: 16px system-ui }",
    )
    assert box(page, "a")[3] == box(page, "b")[3] == 18


@pytest.mark.parametrize(
    ("style", "kerned"),
    [
        ("", True), ("font-kerning: normal", True), ("font-kerning: none", False), ("font-feature-settings: 'kern' off", False),
        ("font-feature-settings: 'kern' 0, 'liga'", False), ("font-feature-settings: 'kern'", True),
        ("font-feature-settings: 'kern' -1", True), ("font-feature-settings: kern 0", True),
        ("font-kerning: none; font-feature-settings: 'kern' 1", True), ("font-feature-settings: normal", True),
    ],
)  # fmt: skip
def test_kerning_and_features(page_of: PageOf, style: str, kerned: bool) -> None:
    """CSS Fonts 4 §6.3, §6.12, §7.2: A and V stand closer where the font says so."""
    body = f'<span id="a" style="{style}">AVAV</span><br><span id="b">A</span><br><span id="c">V</span>'
    page = page_of(body, "span { font-size: 40px }")
    apart = 2 * (box(page, "b")[2] + box(page, "c")[2])
    assert (box(page, "a")[2] < apart - 1) == kerned
