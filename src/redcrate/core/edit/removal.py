"""Taking one declaration out of a rule or out of a style attribute, with what belongs to it."""

from collections.abc import Mapping

from redcrate.core.edit.css_text import declaration_removal
from redcrate.core.edit.patch import TextEdit
from redcrate.core.edit.writing import attribute_edit
from redcrate.core.markup.elements import Element
from redcrate.core.markup.tags import attribute_value_span
from redcrate.core.page import Page


def removed_declaration(page: Page, texts: Mapping[str, str], file: str, offset: int) -> TextEdit:
    """The edit that takes out the declaration at `offset`; an empty style attribute goes as a whole."""
    markup = page.source.markup
    text = texts[file]
    owner = _owner(page, offset) if file == markup.source.name else None
    if owner is None:
        start, end = declaration_removal(text, offset)
        return TextEdit(file, start, end, "")
    element, first, last = owner
    start, end = declaration_removal(text[:last], offset)
    if not (text[first:start] + text[end:last]).strip(" ;\t\r\n"):
        tag = markup.start_tag(element)
        if tag is not None:
            return attribute_edit(file, text, tag, "style", markup.style_attribute(element), "")
    return TextEdit(file, start, end, "")


def _owner(page: Page, offset: int) -> tuple[Element, int, int] | None:
    """The element in whose style attribute the place lies, and where the attribute's value stands."""
    markup = page.source.markup
    for element in markup.with_style:
        span = attribute_value_span(markup, element, "style")
        if span is not None and span.start <= offset < span.end:
            return element, span.start, span.end
    return None
