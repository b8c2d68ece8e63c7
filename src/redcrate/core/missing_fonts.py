"""What a page is told about its fonts: families that are not there, and letters that no font has."""

from collections.abc import Collection, Iterator, Mapping

from redcrate.core.markup.elements import Element, Text
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.fonts import choose_font
from redcrate.core.text.letters import missing_letters

_MOST_LETTERS = 12


def missing_font_notices(
    styles: Mapping[Element, ComputedStyle], shown: Collection[Element], page: str
) -> Iterator[Notice]:
    """One notice for each family that another stands in for, and one for letters that are in no font.

    shown: the elements that have boxes.
    """
    fonts: dict[str, str] = {}
    for style in {id(s): s for s in styles.values()}.values():
        choice = choose_font(style.font_family, style.font_weight, style.font_style)
        if choice.stands_in_for:
            fonts.setdefault(choice.stands_in_for, choice.face.family)
    for missing, used in fonts.items():
        sentence = f"the font “{missing[:80]}” is not installed; “{used}” is used instead, so text widths may differ."
        yield Notice(NoticeKind.MISSING_FONT, sentence, page)
    letters = "".join(dict.fromkeys(_letters(styles, shown)))
    if letters:
        named = " ".join(letters[:_MOST_LETTERS]) + (" …" if len(letters) > _MOST_LETTERS else "")
        sentence = f"no font on this machine has {named}: an empty box is drawn for each, so text widths may differ."
        yield Notice(NoticeKind.MISSING_FONT, sentence, page)


def _letters(styles: Mapping[Element, ComputedStyle], shown: Collection[Element]) -> Iterator[str]:
    """The letters of shown text that no face has, as often as they occur."""
    for element, style in styles.items():
        if element not in shown:
            continue
        for child in element.children:
            if isinstance(child, Text) and not child.data.isascii():
                yield from missing_letters(
                    child.data, style.font_family, style.font_weight, style.font_style
                )
