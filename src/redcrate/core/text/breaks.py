"""Where a line of text may be broken: a part of UAX #14 that is enough for web pages.

Spaces, hyphens, soft hyphens, zero-width spaces, dashes, ideographs, and the object character
that stands for an image or inline-block. Numbers, quotes and punctuation stay with their words.
Tailored (UAX #14 §8) to what engines do on the measured pages: no break after a slash, one after a
question mark in front of a letter, one after a hyphen between digits. Between two ASCII marks it is as engines have it
for all pairs of them: in front of an opening bracket after what is no word, after hyphens and question marks.

Why of our own: 4,000 strings of real pages that hold more than letters were broken by a browser, in a room of no width. Of
them 13 break otherwise here, and 767 by `uniseg` 0.10, which carries out the annex to the letter, untailored, and takes
200 times as long.
"""

import re
import string
import unicodedata
from functools import lru_cache

SOFT_HYPHEN = "\u00ad"
OBJECT = "\N{OBJECT REPLACEMENT CHARACTER}"
_NO_BREAK = "\u00a0\u202f\u2060\ufeff\u2007"
_JOINERS = "\u2060\ufeff"
_PLAIN = re.compile(r"[A-Za-z0-9 .,;:!/'\"()\n]*\Z")
_CLOSING = frozenset(")]}»”’!?.,:;…%。、）」』】〕〉》！？：；，．’")
# ASCII marks, and which of them a line may end with in front of which: after a hyphen or a question mark, and before
# what opens.
_MARKS = frozenset(string.punctuation)
_BEHIND = {"-": frozenset("\"#%&'(*+-<=>@[\\^_`{|~"), "?": frozenset("#$%&(*+-<=>@[\\^_`{|~")}
_OPENS = frozenset("(<[{")
_ENDS_BEFORE_THOSE = frozenset('!"#%&)*+,.:;=>\\]|}~')
_OPENING_BEHIND_A_MARK = re.compile(r'[!"),.:;]\(')
_GLUE = frozenset("\u202f\u2060\ufeff\u2007\n")
_OPENING = frozenset("([{«“‘（「『【〔〈《¿¡")
# Classes NS (iteration marks, wave dash, middle dot) and CJ (small kana, the mark of long vowels).
NON_STARTERS = frozenset("\u3005\u303b\u309d\u309e\u30fd\u30fe\u30a0\u301c\u30fb")
SMALL_KANA = frozenset(
    "ぁぃぅぇぉっゃゅょゎゕゖァィゥェォッャュョヮヵヶー" + "".join(map(chr, range(0x31F0, 0x3200)))
)
_RUNS_KEPT = 10_000


@lru_cache(maxsize=_RUNS_KEPT)
def break_opportunities(text: str) -> tuple[int, ...]:
    """The offsets at which a new line may begin, ascending; 0 and the end are not among them."""
    if _PLAIN.match(text) and not _OPENING_BEHIND_A_MARK.search(text):
        return tuple(m.end() for m in re.finditer(r" +(?=[^ \n])", text))
    return tuple(i for i in range(1, len(text)) if _may_break(text, i))


def _may_break(text: str, i: int) -> bool:  # noqa: C901 the rules of UAX #14
    before, after = text[i - 1], text[i]
    if OBJECT in (before, after) and after not in " \n\t":
        # CSS Text 3 §5.1: even beside a no-break space, but no other glue
        return not {before, after} & _GLUE
    if after in " \n\t\u200b":
        return False
    if (
        before in " \t\u200b"
    ):  # LB11, LB12a: no-break spaces hold on to what is before them, but no space
        return after not in _JOINERS
    if after in _NO_BREAK:
        return False
    if before == "\n" or before in _NO_BREAK:
        return before == "\n"
    if before == SOFT_HYPHEN:
        return True
    if before in _MARKS and after in _MARKS:
        return after in _BEHIND.get(before, ()) or (after in _OPENS and before in _ENDS_BEFORE_THOSE)
    if before in "-\u2010":
        return _after_hyphen(text, i)
    if before in "?…" and after.isalnum():
        return True
    if before in "\u2013\u2014":
        return after not in _CLOSING
    if after == "\u2014":
        return True
    return _around_ideograph(before, after)


def _after_hyphen(text: str, i: int) -> bool:
    """LB21 and LB25: a hyphen breaks after itself, not in front of punctuation.

    In front of a digit it may be a minus sign, unless a letter or digit stands before it; at the
    beginning of a word it breaks in front of a letter.
    """
    before, after = text[i - 2] if i >= 2 else " ", text[i]
    if after in _CLOSING:
        return False
    if after.isdigit():
        return before.isalnum()
    return before not in " \n\t" or after.isalpha()


def _around_ideograph(before: str, after: str) -> bool:
    wide_before, wide_after = _is_ideograph(before), _is_ideograph(after)
    if not (wide_before or wide_after):
        return False
    return after not in _CLOSING and after not in NON_STARTERS and before not in _OPENING


@lru_cache(maxsize=4096)
def _is_ideograph(char: str) -> bool:
    return char > "\u2e80" and unicodedata.east_asian_width(char) in "WF"
