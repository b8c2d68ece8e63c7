"""How much of one run of text is laid out: a file of a single line must not take all of a machine's memory."""

from collections.abc import Iterator

from redcrate.core.markup.elements import Element, Markup, Text

MOST_SHOWN = 250_000  # characters


def bounded(text: str) -> str:
    """What of a run of text is laid out."""
    return text if len(text) <= MOST_SHOWN else text[:MOST_SHOWN]


def cut_off(markup: Markup) -> Iterator[tuple[Element, int]]:
    """The elements that hold a longer run of text, with its length."""
    if len(markup.source.text) <= MOST_SHOWN:
        return
    for element in markup.listed:
        for child in element.children:
            if isinstance(child, Text) and len(child.data) > MOST_SHOWN:
                yield element, len(child.data)
