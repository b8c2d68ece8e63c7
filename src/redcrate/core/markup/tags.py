"""The attributes of one tag in the source text: HTML Standard §13.2.5.32–39.

A tag is scanned only when someone asks, as most never are.
"""

import re

from redcrate.core.markup.elements import Element, Markup, Span
from redcrate.core.records import dataclass

_ATTRIBUTE = re.compile(
    r"""[\s/]*(?P<name>=?[^\s/>=]+)(?:\s*=\s*(?:"(?P<double>[^"]*)"|'(?P<single>[^']*)'|(?P<bare>[^\s>]*)))?""",
)


@dataclass(frozen=True, slots=True)
class TagAttribute:
    """One attribute as written.

    name: in lower case. whole: from its name to its closing quote. value: between the quotes; None
    for an attribute without a value. quote: `"`, `'` or "".
    """

    name: str
    whole: Span
    value: Span | None
    quote: str


def tag_name_length(text: str, tag: Span) -> int:
    """How many characters the name in the start tag at `tag` has."""
    at = tag.start + 1
    while at < tag.end and text[at] not in " \t\n\r\f/>":
        at += 1
    return at - tag.start - 1


def tag_attributes(text: str, tag: Span) -> list[TagAttribute]:
    """The attributes of the start tag at `tag`, in order; a repeated name counts once."""
    at = tag.start + 1 + tag_name_length(text, tag)
    end = tag.end - 1 if text[tag.end - 1 : tag.end] == ">" else tag.end
    found: list[TagAttribute] = []
    names: set[str] = set()
    while True:
        match = _ATTRIBUTE.match(text, at, end)
        if match is None or match.end() == at:
            return found
        name = match["name"].lower()
        kind = next((k for k in ("double", "single", "bare") if match[k] is not None), None)
        value = Span(*match.span(kind)) if kind else None
        quote = {"double": '"', "single": "'"}.get(kind or "", "")
        if name not in names:
            whole = Span(match.start("name"), match.end())
            found.append(TagAttribute(name, whole, value, quote))
            names.add(name)
        at = match.end()


def attribute_value_span(markup: Markup, element: Element, name: str) -> Span | None:
    """Where the value of an element's attribute stands; None if it is not in the source."""
    tag = markup.start_tag(element)
    if tag is None:
        return None
    for attribute in tag_attributes(markup.source.text, tag):
        if attribute.name == name:
            return attribute.value
    return None
