"""Source text → element tree, each tag with its place in the source. `parse_html` makes it, `reparse` follows an edit."""

from redcrate.core.markup.elements import Element, Markup, Text
from redcrate.core.markup.parser import parse_html
from redcrate.core.markup.reparsing import reparse
from redcrate.core.markup.source_text import SourceText, decode_css, decode_html

__all__ = [
    "Element",
    "Markup",
    "SourceText",
    "Text",
    "decode_css",
    "decode_html",
    "parse_html",
    "reparse",
]
