"""SVG in the text of the page as a file of its own: with the page's colours, and with what it uses from elsewhere.

SVG 2 §5.6 (`use`), §13.2 (`fill`, `stroke`), §6.6 (presentation attributes). What is made here is a stranger's text
all the same: it goes through `harmless` like a file does.
"""

import re
from xml.etree.ElementTree import Element as XmlElement
from xml.etree.ElementTree import tostring

from redcrate.core.markup.elements import Element, Text
from redcrate.core.page import Page
from redcrate.core.style.colours import CURRENT, Colour, Mixed, colour_of
from redcrate.core.style.computed import ComputedStyle

_MOST = 20_000  # elements, those that are used again counted again
_DEEPEST = 24  # uses in uses
_SVG = "http://www.w3.org/2000/svg"
_LEFT_OUT = frozenset(("script", "style", "title", "desc", "metadata", "symbol", "foreignobject"))
# Names as XML writes them; in HTML they are in lower case.
_CAMEL = {
    name.lower(): name
    for name in "linearGradient radialGradient clipPath textPath animateTransform feGaussianBlur feOffset".split()
}
_PAINTS = ("fill", "stroke")
_FUNCTION = re.compile(
    rb"""\b(fill|stroke|stop-color)\s*=\s*(["'])\s*([a-z-]+\([^"'<>]*\))\s*\2""", re.I
)
_COLOURED = (*_PAINTS, "stop-color")


def inline_svg(page: Page, element: Element, size: tuple[float, float]) -> bytes:
    """The picture of an `svg` element that is `size` px large."""
    root = _Writer(page, size).written(element)
    if root is None:
        return b""
    root.set("xmlns", _SVG)
    root.set("width", f"{size[0]:g}")
    root.set("height", f"{size[1]:g}")
    if "viewBox" not in root.attrib:
        root.set("viewBox", f"0 0 {size[0]:g} {size[1]:g}")
    return tostring(root)


def with_plain_colours(data: bytes) -> bytes:
    """The text of a picture with its colours as any reader of SVG knows them: functions of CSS are worked out."""

    def plain(found: re.Match[bytes]) -> bytes:
        name, value = found[1].decode(), found[3].decode("utf-8", "replace")
        colour = colour_of(value)
        if not isinstance(colour, Colour):
            return found[0]
        opacity = (
            f' {name.removesuffix("-color")}-opacity="{colour.alpha:g}"' if colour.alpha < 1 else ""
        )
        return f'{name}="{_hex(colour)}"{opacity}'.encode()

    return _FUNCTION.sub(plain, data)


class _Writer:
    """Writes elements with the values that the page gives them."""

    def __init__(self, page: Page, size: tuple[float, float]) -> None:
        self._page = page
        self._size = size
        self._left = _MOST
        self._named: dict[str, Element] | None = None

    def written(self, element: Element, uses: int = 0) -> XmlElement | None:
        """An element with all in it; None for what shows nothing."""
        style = self._page.styled.styles.get(element)
        self._left -= 1
        if (
            self._left < 0
            or element.tag.lower() in _LEFT_OUT
            or style is None
            or style.display == "none"
        ):
            return None
        if element.tag == "use":
            return self._used(element, style, uses)
        made = XmlElement(_CAMEL.get(element.tag.lower(), element.tag))
        self._attributes(made, element, style)
        self._fill(made, element, uses)
        return made

    def _fill(self, made: XmlElement, element: Element, uses: int) -> None:
        """The children, of which a page of any depth has no more than the writer still writes."""
        last: XmlElement | None = None
        for child in element.children if uses < _DEEPEST else ():
            if isinstance(child, Text):
                if last is None:
                    made.text = (made.text or "") + child.data
                else:
                    last.tail = (last.tail or "") + child.data
            elif (inner := self.written(child, uses + 1)) is not None:
                made.append(inner)
                last = inner

    def _attributes(self, made: XmlElement, element: Element, style: ComputedStyle) -> None:
        for name, value in element.attributes.items():
            if not name.startswith("on") and ":" not in name and name not in ("class", "xmlns"):
                found = colour_of(value) if name in _COLOURED else None
                if isinstance(found, Mixed):
                    found = found.computed(style.color)
                self._paint(made, name, style.color if found == CURRENT else found or value)
        is_root = element.tag == "svg"
        for name in _PAINTS:
            if self._is_set(element, name) or (is_root and name not in made.attrib):
                self._paint(made, name, getattr(style, name))
        if self._is_set(element, "stroke-width"):
            made.set("stroke-width", f"{getattr(style.stroke_width, 'px', 1.0):g}")
        if not is_root and self._is_set(element, "opacity"):
            made.set("opacity", f"{style.opacity:g}")

    def _is_set(self, element: Element, name: str) -> bool:
        """Whether a rule or the style attribute sets a property: that counts more than the attribute of that name."""
        return self._page.origin_of(element, name) is not None

    @staticmethod
    def _paint(made: XmlElement, name: str, value: Colour | str) -> None:
        if isinstance(value, Colour):
            made.set(name, _hex(value))
            if (
                value.alpha < 1 and name in _COLOURED
            ):  # the picture's own reader knows no alpha in a colour
                made.set(f"{name.removesuffix('-color')}-opacity", f"{value.alpha:g}")
        else:
            made.set(name, value)

    # -- what is used from elsewhere

    def _used(self, element: Element, style: ComputedStyle, uses: int) -> XmlElement | None:
        """§5.6: what `use` names, in its place; a symbol is fitted into the width and height that are given."""
        target = self._target(element)
        if target is None or uses >= _DEEPEST:
            return None
        made = XmlElement("g")
        self._attributes(made, element, style)
        for name in ("href", "x", "y", "width", "height"):
            made.attrib.pop(name, None)
        x, y = (_number(element.attributes.get(name, "")) or 0.0 for name in ("x", "y"))
        moves = [made.get("transform", ""), f"translate({x:g} {y:g})"]
        if target.tag == "symbol":
            moves.append(self._fitted(element, target))
            self._fill(made, target, uses + 1)
        elif (inner := self.written(target, uses + 1)) is not None:
            made.append(inner)
        made.set("transform", " ".join(m for m in moves if m))
        return made

    def _target(self, element: Element) -> Element | None:
        if self._named is None:
            self._named = {e.id: e for e in reversed(self._page.elements) if e.id}
        address = element.attributes.get("href", "") or element.attributes.get("xlink:href", "")
        return self._named.get(address[1:]) if address.startswith("#") else None

    def _fitted(self, use: Element, symbol: Element) -> str:
        """The transform that fits a symbol's view box; "" where it has none."""
        box = [_number(part) for part in symbol.attributes.get("viewBox", "").replace(",", " ").split()]
        if len(box) != 4 or any(n is None for n in box) or not box[2] or not box[3]:
            return ""
        left, top, width, height = (float(n or 0.0) for n in box)
        room = [
            _number(use.attributes.get(name, "")) or whole
            for name, whole in zip(("width", "height"), self._size, strict=True)
        ]
        scale = min(room[0] / width, room[1] / height)
        aside = (room[0] - width * scale) / 2, (room[1] - height * scale) / 2
        return f"translate({aside[0]:g} {aside[1]:g}) scale({scale:g}) translate({-left:g} {-top:g})"


def _hex(colour: Colour) -> str:
    return f"#{colour.red:02x}{colour.green:02x}{colour.blue:02x}"


def _number(text: str) -> float | None:
    """A number, with px or without; None for what is none, as percentages."""
    try:
        return float(text.strip().removesuffix("px"))
    except ValueError:
        return None
