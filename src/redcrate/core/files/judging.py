"""Whether bytes are what they are used for: a picture, a font, a style sheet.

Asked of files outside the page's folder, which a page could name to have them copied, shown or sent on.
"""

import re
from itertools import islice
from typing import Any

from redcrate.core.boxes.image_size import intrinsic_size
from redcrate.core.files.kept_fonts import font_data
from redcrate.core.style.css_syntax import block_contents, stylesheet_nodes
from redcrate.core.style.selectors import SelectorNotUnderstood, compile_selectors
from redcrate.core.style.sheet_cutting import pieces

_READ = 64 * 2**10  # characters of a sheet that are looked at
_RULES = 60  # of them
_COMMENT = re.compile(r"/\*.*?(?:\*/|\Z)", re.DOTALL)
_CONTROL = re.compile(r"[\0-\x08\x0b\x0e-\x1f\x7f]")
_AT_RULES = frozenset(
    """charset import namespace media supports font-face keyframes -webkit-keyframes page layer property container
    counter-style scope font-feature-values font-palette-values starting-style view-transition""".split()
)


def is_picture(data: bytes) -> bool:
    """Whether the bytes begin as a picture file of a kind that is known."""
    return intrinsic_size(data) is not None


def is_font(data: bytes) -> bool:
    """Whether the bytes are a font file."""
    return font_data(data) is not None


def is_sheet(text: str) -> bool:
    """Whether a text is a style sheet: there are rules in it that CSS knows, and they are the greater part.

    CSS Syntax 3 makes something of any text, so that it parses is not enough. A text of comments alone is one.
    """
    begin = text[:_READ]
    if _CONTROL.search(begin):
        return False
    if not _COMMENT.sub("", begin).strip():
        return True
    first = list(islice(pieces(begin, 0, len(begin)), _RULES + 1))
    if len(first) > _RULES:  # no more is judged
        begin = begin[: first[-1].start]
    rules = stylesheet_nodes(begin)
    if len(first) <= _RULES and len(text) > _READ and len(rules) > 1:
        rules = rules[:-1]  # it is cut off
    judged = [_is_rule(node) for node in rules[:_RULES]]
    return sum(judged) * 2 > len(judged)


def _is_rule(node: Any) -> bool:
    if node.type == "at-rule":
        return node.lower_at_keyword in _AT_RULES
    if node.type != "qualified-rule":
        return False
    try:
        selectors = compile_selectors(node.prelude)
    except SelectorNotUnderstood:
        return False
    inside = block_contents(node.content)
    return bool(selectors) and (not inside or any(_is_declared(part) for part in inside))


def _is_declared(part: Any) -> bool:
    return part.type == "declaration" or (part.type in ("qualified-rule", "at-rule") and _is_rule(part))
