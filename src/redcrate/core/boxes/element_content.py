"""What stands in the box of one element: its children, what is generated round them, its marker.

CSS 2.2 §12.1, CSS Lists 3 §3, CSS Pseudo-Elements 4 §2.2, HTML Standard §15.4.2 and §15.5.4.
"""

from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind, InnerDisplay
from redcrate.core.boxes.fallback import fallback_content, fallback_style
from redcrate.core.boxes.first_letters import first_letters
from redcrate.core.boxes.form_controls import control_box
from redcrate.core.boxes.generated_content import GeneratedContent
from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.boxes.long_texts import bounded
from redcrate.core.boxes.markers import SYMBOL_MARKERS, Marker, concrete_size, marker_text
from redcrate.core.boxes.ordinals import ordinals_in
from redcrate.core.boxes.replaced_elements import REPLACED_TAGS, button_label, replaced_size
from redcrate.core.boxes.wrapping import anonymous_style, block_container
from redcrate.core.markup.elements import Element, Text
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.property_parsers import Url
from redcrate.core.style.selectors import PARTS_OF_RANGES
from redcrate.core.style.styling import StyledTree

# The intrinsic size of the image at an address; None if it is missing.
ImageSize: TypeAlias = Callable[[str], IntrinsicSize | None]


class ElementContent:
    """What each element of a page has inside; pictures: of styles, by address, as they are asked for."""

    def __init__(
        self,
        styled: StyledTree,
        sizes: Mapping[Element, IntrinsicSize | None],
        image_size: ImageSize,
        pictures: Mapping[str, IntrinsicSize | None],
    ) -> None:
        """sizes: of the images of elements. pictures: of those that styles named before."""
        self.styled = styled
        self.sizes = sizes
        self.image_size = image_size
        self.pictures = dict(pictures)
        self.generated = GeneratedContent(styled)
        self.letters = first_letters(styled, self.generated)
        self.ordinals: dict[Element, dict[Element, int]] = {}

    def children(
        self, element: Element, style: ComputedStyle, made: Mapping[Element, Sequence[Box]]
    ) -> list[Box]:
        """The boxes inside an element that is not replaced; `made`: those of the elements in it."""
        out: list[Box] = []
        before = self._pseudo(element, "before")
        if before:
            out.append(before)
        if element.tag == "details" and summary_of(element) is None:
            out.append(_own_summary(style))
        for child in _shown_children(element):
            if isinstance(child, Text):
                if child.data and element in self.letters:
                    out.extend(self._text(element, style, child, child.data))
                elif child.data:
                    out.append(Box(BoxKind.TEXT, style, None, text=bounded(child.data)))
            else:
                out.extend(made.get(child, ()))
        after = self._pseudo(element, "after")
        if after:
            out.append(after)
        return out

    def _pseudo(self, element: Element, kind: str) -> Box | None:
        """::before and ::after: CSS 2.2 §12.1."""
        style = self.styled.pseudo.get((element, kind))
        if style is None or style.display == "none":
            return None
        children: list[Box] = []
        for what, part in self.generated.parts(element, kind, style):
            if what == "url":
                size = self._picture(part) or IntrinsicSize(0.0, 0.0, None)
                inline = _inline_style(style)
                children.append(Box(BoxKind.REPLACED, inline, intrinsic=size, picture=part))
            elif kind == "before" and not children:
                children += self._text(element, style, None, part)
            else:
                children.append(Box(BoxKind.TEXT, style, None, text=part))
        if is_inline(style):
            return Box(BoxKind.INLINE, style, element, tuple(children), pseudo=kind)
        return block_container(style, element, children, None, pseudo=kind)

    def replaced(self, element: Element, style: ComputedStyle) -> Box | None:
        """The box of a replaced element, or of what stands for it; None for other elements."""
        if element.tag not in REPLACED_TAGS:
            return None
        if element in self.sizes:
            size = self.sizes[element]
            if size is None:
                return self._missing_image(element, style)
            return Box(BoxKind.REPLACED, style, element, intrinsic=size)
        label = button_label(element)
        if label is not None:
            return block_container(
                style, element, [Box(BoxKind.TEXT, style, None, text=bounded(label))], None
            )
        pseudo = self.styled.pseudo
        hint = pseudo.get((element, "placeholder"))
        parts = [pseudo.get((element, part)) for part in PARTS_OF_RANGES]
        button = pseudo.get((element, "file-selector-button"))
        control = control_box(element, style, hint, (parts[0], parts[1]), button)
        if control is not None:
            return control
        size = replaced_size(element)
        return None if size is None else Box(BoxKind.REPLACED, style, element, intrinsic=size)

    def _missing_image(self, element: Element, style: ComputedStyle) -> Box:
        """HTML Standard §15.4.2: an image that is not there is a small icon with its alternative text.

        With an empty text it is nothing, but stands in its line, or fills its row.
        """
        alt = element.attributes.get("alt")
        if alt == "" or (alt is None and not element.attributes.get("src")):
            if not style.display.startswith("inline"):
                return block_container(fallback_style(style, has_text=False), element, [], None)
            return Box(
                BoxKind.REPLACED,
                fallback_style(style, has_text=False),
                element,
                intrinsic=IntrinsicSize(0, 0, None),
            )
        own = fallback_style(style, has_text=bool(alt))
        return block_container(own, element, fallback_content(style, alt or ""), None)

    def marker(self, element: Element, style: ComputedStyle) -> Marker | None:
        """A list item's marker: CSS Lists 3 §3; "•" and its like stand for the drawn symbols."""
        if not style.display.endswith("list-item"):
            return None
        own = self.styled.pseudo.get((element, "marker"), style)
        if own is not style and own.content != "normal":
            parts = self.generated.parts(element, "marker", own)
            text = "".join(p for what, p in parts if what == "text")
            return Marker(text, own) if text else None
        if isinstance(style.list_style_image, Url):
            address = style.list_style_image.address
            size = self._picture(address)
            if size is not None:
                concrete = concrete_size(size, own.font_size)
                return Marker(marker_text("disc", 1), own, address, concrete)
        if style.list_style_type == "none":
            return None
        return Marker(marker_text(style.list_style_type, self._ordinal(element)), own)

    def _picture(self, address: str) -> IntrinsicSize | None:
        """The size of a picture that a style names; None if it is missing."""
        if address not in self.pictures:
            self.pictures[address] = self.image_size(address)
        return self.pictures[address]

    def _text(
        self, element: Element, style: ComputedStyle, text: Text | None, data: str
    ) -> Sequence[Box]:
        """The boxes of a text, its first letter apart where that has a style (CSS Pseudo-Elements 4 §2.2)."""
        letter = self.letters.get(element)
        if letter is None or letter.text is not text:
            return [Box(BoxKind.TEXT, style, None, text=bounded(data))]
        own = letter.style
        inner = Box(BoxKind.TEXT, own, None, text=data[letter.start : letter.end])
        if is_inline(own):
            first = Box(BoxKind.INLINE, own, letter.block, (inner,), pseudo="first-letter")
        else:
            first = block_container(own, letter.block, [inner], None, pseudo="first-letter")
        around = (data[: letter.start], bounded(data[letter.end :]))
        before, after = (Box(BoxKind.TEXT, style, None, text=t) if t else None for t in around)
        return [b for b in (before, first, after) if b is not None]

    def _ordinal(self, element: Element) -> int:
        """The number of a list item; all items of one parent are counted at once."""
        parent = element.parent
        if parent is None:
            return 1
        if parent not in self.ordinals:
            self.ordinals[parent] = ordinals_in(parent, self.styled)
        return self.ordinals[parent].get(element, 1)


def summary_of(details: Element) -> Element | None:
    """The summary of a details element: its first child of that kind."""
    return next((c for c in details.child_elements if c.tag == "summary"), None)


def _own_summary(style: ComputedStyle) -> Box:
    """What stands for the summary that a details element lacks: HTML Standard §4.11.1."""
    own = anonymous_style(style)
    text = Box(BoxKind.TEXT, own, None, text="Details")
    marker = Marker(SYMBOL_MARKERS["disclosure-closed"], own).inside()
    return Box(BoxKind.BLOCK, own, None, (marker, text), inner=InnerDisplay.LINES)


def _shown_children(element: Element) -> Sequence[Element | Text]:
    """HTML Standard §15.5.4: of a details element the first summary, then the rest if it is open."""
    if element.tag != "details":
        return element.children
    first = summary_of(element)
    summary = [] if first is None else [first]
    if "open" not in element.attributes:
        return summary
    return [*summary, *(c for c in element.children if c is not first)]


def is_inline(style: ComputedStyle) -> bool:
    """Whether an element's box is an inline box: CSS Display 3 §2.1."""
    return style.display in ("inline", "inline list-item")


@lru_cache(maxsize=1000)
def _inline_style(style: ComputedStyle) -> ComputedStyle:
    """The style of a picture in generated content: inherited values."""
    return inherited_style(style, display="inline")
