"""Where a word begins for text-transform: CSS Text 3 §2.1, UAX #29, as browsers do it."""

import pytest

from redcrate.core.page import text_pieces
from tests.conftest import PageOf

WORDS = [
    # as written, as it stands on the page
    ("today's ferry o’clock", "Today's Ferry O’clock"), ("'all' “day” (no) [ñu]", "'All' “Day” (No) [Ñu]"),
    ("low-tide a/b a.b a_b", "Low-Tide A/B A.B A_b"), ("3rd x2y 1.5a", "3rd X2y 1.5a"),
    ("a<b>b</b>c -<i>f</i> b'<b>s</b>", "Abc -F B'S"), ("ǆ ß ﬁ", "ǅ ß ﬁ"),
    ("e\u0301a a\u0301b x\u00ady", "E\u0301a A\u0301b X\u00ady"), ("日本go go", "日本Go Go"),
]  # fmt: skip


@pytest.mark.parametrize(("written", "shown"), WORDS)
def test_capitalize(page_of: PageOf, written: str, shown: str) -> None:
    """The first letter of each word, in title case; what comes before it is not always in the same element."""
    page = page_of(f"<p style='text-transform: capitalize'>{written}")
    pieces = [piece for at in page.in_order for piece in text_pieces(at.fragment.lines)]
    assert "".join(piece.text for piece in pieces) == shown
