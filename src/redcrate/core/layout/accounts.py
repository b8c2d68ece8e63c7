"""What the short ways to a line have an account of; where a property says more, they give way to the long one.

All start from what the long way carries out, and leave out what they take to be as it is initially.
"""

from functools import lru_cache

from redcrate.core.style.affected import Account, those_that_affect
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.property import LINES, ROOM

_LINES = frozenset(
    """display position float_ direction unicode_bidi vertical_align webkit_box_orient webkit_line_clamp initial_letter
    box_decoration_break font_family font_size font_style font_weight font_kerning font_feature_settings
    font_variant_numeric font_optical_sizing font_variation_settings font_variant_caps line_height text_align
    text_align_last text_indent text_justify text_transform white_space text_wrap_mode text_wrap_style
    letter_spacing word_spacing overflow_wrap word_break line_break hyphens hyphenate_character
    text_decoration_line tab_size""".split()
)
# A text as wide as its advances say, which breaks where any text may.
PLAIN_TEXT = Account(LINES, _LINES - {"letter_spacing", "word_spacing", "white_space", "text_wrap_mode"})
# Lines that begin where their block does.
PLAIN_BLOCK = Account(LINES, _LINES - {"text_indent"})
# What stands on lines, as the long way knows it.
ON_LINES = Account(LINES, _LINES)
# Inline boxes that nothing moves and that are cut at the ends of lines.
UNMOVED = Account(LINES, _LINES - {"position", "box_decoration_break"})

_ROOM = sorted(those_that_affect(ROOM))


@lru_cache(maxsize=5_000)
def hangs_on_width(style: ComputedStyle) -> bool:
    """Whether any of the room that a box takes is a share of another length."""
    return any(has_share(getattr(style, name)) for name in _ROOM)


def has_share(value: object) -> bool:
    """Whether a computed value, or a part of it, is a percentage."""
    if isinstance(value, tuple):
        return any(has_share(part) for part in value)
    return bool(getattr(value, "has_percent", False))
