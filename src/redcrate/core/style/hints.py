"""Presentational hints: attributes that act as rules of the author with no specificity.

HTML Standard §15.3 (flow content, tables, lists, rules) and §15.4 (images and other embedded content).
"""

from collections.abc import Callable, Iterator

from redcrate.core.markup.elements import Element
from redcrate.core.markup.numbers import parse_dimension, parse_integer
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.sheets import Declaration, Origin, RuleBody, StyleRule

_SIZED = frozenset(("img", "iframe", "embed", "object", "video", "canvas", "input"))
_TABLE_SIZED = frozenset(("table", "td", "th", "col", "colgroup", "tr", "tbody", "thead", "tfoot"))
_TEXT_ALIGNED = frozenset("p h1 h2 h3 h4 h5 h6 caption".split())
_BLOCKS_ALIGNED = frozenset("div td th tr tbody thead tfoot".split())
_PARTS_OF_TABLES = frozenset("table tbody thead tfoot tr td th".split())
_FONT_SIZES = ("x-small", "small", "medium", "large", "x-large", "xx-large", "xxx-large")
_LIST_TYPES = {
    "1": "decimal", "a": "lower-alpha", "A": "upper-alpha", "i": "lower-roman", "I": "upper-roman",
    "disc": "disc", "circle": "circle", "square": "square", "none": "none",
}  # fmt: skip
_IMAGE_ALIGN = {
    "left": ("float", "left"), "right": ("float", "right"), "top": ("vertical-align", "top"),
    "texttop": ("vertical-align", "text-top"), "middle": ("vertical-align", "middle"),
    "absmiddle": ("vertical-align", "middle"), "abscenter": ("vertical-align", "middle"),
    "center": ("vertical-align", "middle"), "bottom": ("vertical-align", "baseline"),
    "absbottom": ("vertical-align", "bottom"),
}  # fmt: skip
_CLEARS = {"left": "left", "right": "right", "all": "both", "both": "both"}
Hint = tuple[str, str]


def dimension_hint(text: str | None) -> str | None:
    """The CSS length of a dimension attribute: HTML Standard §2.3.4.4; None if it is none."""
    found = parse_dimension(text or "")
    return None if found is None else f"{found[0]:.6f}{'%' if found[1] else 'px'}"


def hints_of(element: Element) -> tuple[Hint, ...]:
    """The hints of an element as (property, value) pairs."""
    tag = element.tag
    if not element.attributes and tag not in ("td", "th"):
        return ()
    out = list(_sizes(element))
    reader = _READERS.get(tag)
    if reader is not None:
        out += reader(element)
    align = element.attributes.get("align", "").lower()
    if tag in _BLOCKS_ALIGNED and align in _BLOCK_ALIGN:
        out.append(("text-align", _BLOCK_ALIGN[align]))
    elif tag in _TEXT_ALIGNED and align in ("left", "right", "center", "justify"):
        out.append(("text-align", align))
    if tag in _PARTS_OF_TABLES:
        out += _table_part(element)
    return tuple(out)


# Such a container also moves the blocks in it: §15.3.3, "align descendants".
_BLOCK_ALIGN = {
    "left": "-webkit-left", "right": "-webkit-right", "center": "-webkit-center", "middle": "-webkit-center",
    "justify": "justify",
}  # fmt: skip


def _sizes(element: Element) -> Iterator[Hint]:
    """§15.4.3 and §15.3.8: dimension attributes."""
    tag, attributes = element.tag, element.attributes
    if tag not in _SIZED and tag not in _TABLE_SIZED:
        return
    if tag == "input" and attributes.get("type", "").lower() != "image":
        return
    for name in ("width", "height"):
        value = dimension_hint(attributes.get(name))
        zero_cell = tag in _TABLE_SIZED and value is not None and value.startswith("0.000000")
        if value is not None and not zero_cell:
            yield name, value


def _image(element: Element) -> Iterator[Hint]:
    """§15.4.3: alignment, space and border of images and other embedded content."""
    attributes = element.attributes
    align = _IMAGE_ALIGN.get(attributes.get("align", "").lower())
    if align is not None:
        yield align
    for name, css in (("hspace", "margin-inline"), ("vspace", "margin-block")):
        value = dimension_hint(attributes.get(name))
        if value is not None:
            yield css, value
    if element.tag in ("img", "object") and (border := parse_integer(attributes.get("border", ""))):
        yield "border", f"{border}px solid"


def _frame(element: Element) -> Iterator[Hint]:
    yield from _image(element)
    if element.attributes.get("frameborder", "").strip().lower() in ("0", "no"):
        yield "border-style", "none"


def _body(element: Element) -> Iterator[Hint]:
    """§15.3.2: the page's margins and colours."""
    attributes = element.attributes
    for sides, names in (
        (("top",), ("marginheight", "topmargin")),
        (("bottom",), ("marginheight", "bottommargin")),
        (("left",), ("marginwidth", "leftmargin")),
        (("right",), ("marginwidth", "rightmargin")),
    ):
        number = next(
            (n for a in names if (n := parse_integer(attributes.get(a, ""))) is not None), None
        )
        if number is not None and number >= 0:
            yield f"margin-{sides[0]}", f"{number}px"
    yield from _colours(element, ("bgcolor", "background-color"), ("text", "color"))


def _colours(element: Element, *pairs: Hint) -> Iterator[Hint]:
    for attribute, name in pairs:
        value = element.attributes.get(attribute, "").strip()
        if value:
            yield name, value


def _font(element: Element) -> Iterator[Hint]:
    """§15.3.4: face, size and colour of a font element."""
    if element.attributes.get("face", "").strip():
        yield "font-family", element.attributes["face"]
    size = _font_size(element.attributes.get("size", "").strip())
    if size:
        yield "font-size", size
    yield from _colours(element, ("color", "color"))


def _font_size(text: str) -> str:
    """§15.3.4, rules for parsing a legacy font size: 1 to 7, or so many steps from 3."""
    number = parse_integer(text)
    if number is None:
        return ""
    number += 3 if text[0] in "+-" else 0
    return _FONT_SIZES[min(7, max(1, number)) - 1]


def _line_break(element: Element) -> Iterator[Hint]:
    clear = _CLEARS.get(element.attributes.get("clear", "").strip().lower())
    if clear is not None:
        yield "clear", clear


def _rule(element: Element) -> Iterator[Hint]:
    """§15.3.11: alignment, thickness, width and shade of hr."""
    attributes = element.attributes
    left, right = {
        "left": ("0", "auto"), "right": ("auto", "0"), "center": ("auto", "auto"),
    }.get(attributes.get("align", "").lower(), ("", ""))  # fmt: skip
    if left:
        yield "margin-left", left
        yield "margin-right", right
    plain = "noshade" in attributes or "color" in attributes
    if plain:
        yield "border-style", "solid"
    size = parse_integer(attributes.get("size", ""))
    if size is not None and plain:
        yield "border-width", f"{max(size, 0) / 2:g}px"
    elif size == 1:
        yield "border-bottom-width", "0"
    elif size is not None and size > 1:
        yield "height", f"{size - 2}px"
    width = dimension_hint(attributes.get("width"))
    if width is not None:
        yield "width", width
    yield from _colours(element, ("color", "color"))


def _list(element: Element) -> Iterator[Hint]:
    """§15.3.7: the kind of markers."""
    given = element.attributes.get("type", "").strip()
    kind = _LIST_TYPES.get(given) or _LIST_TYPES.get(given.lower() if len(given) > 1 else "")
    if kind is not None:
        yield "list-style-type", kind


def _preformatted(element: Element) -> Iterator[Hint]:
    if "wrap" in element.attributes:
        yield "white-space", "pre-wrap"


def _table(element: Element) -> Iterator[Hint]:
    """§15.3.8: place, spacing and border of a table."""
    attributes = element.attributes
    align = attributes.get("align", "").lower()
    if align in ("left", "right"):
        yield "float", align
    elif align in ("center", "middle", "abscenter", "absmiddle"):
        yield "margin-inline", "auto"
    spacing = dimension_hint(attributes.get("cellspacing"))
    if spacing is not None:
        yield "border-spacing", spacing
    border = table_border(element)
    if border:
        yield "border", f"{border}px outset gray"
    rules = attributes.get("rules", "").lower()
    if rules in _RULES:
        yield "border-collapse", "collapse"
        if not border:
            yield "border-style", "hidden"


def table_border(table: Element) -> int:
    """The border attribute of a table in px; one without a number is 1."""
    text = table.attributes.get("border")
    if text is None:
        return 0
    number = parse_integer(text)
    return 1 if number is None else max(0, number)


# §15.3.8: what rules between cells do to each cell.
_RULES: dict[str, tuple[Hint, ...]] = {
    "none": (("border", "1px none gray"),),
    "groups": (("border", "1px none gray"),),
    "rows": (("border", "1px none gray"),),
    "cols": (("border", "1px none gray"), ("border-inline-style", "solid")),
    "all": (("border", "1px solid gray"),),
}


def _cell(element: Element) -> Iterator[Hint]:
    """§15.3.8: what a cell has of its own, and of its table."""
    if "nowrap" in element.attributes:
        yield "white-space", "nowrap"
    table = next((a for a in element.ancestors() if a.tag == "table"), None)
    if table is None:
        return
    padding = dimension_hint(table.attributes.get("cellpadding"))
    if padding is not None:
        yield "padding", padding
    rules = table.attributes.get("rules", "").lower()
    if rules in _RULES:
        yield from _RULES[rules]
    elif table_border(table):
        yield "border", "1px inset gray"


def _table_part(element: Element) -> Iterator[Hint]:
    yield from _colours(element, ("bgcolor", "background-color"))
    valign = element.attributes.get("valign", "").lower()
    if element.tag != "table" and valign in ("top", "middle", "bottom", "baseline"):
        yield "vertical-align", valign


_READERS: dict[str, Callable[[Element], Iterator[Hint]]] = {
    **dict.fromkeys(("img", "embed", "object", "video", "input"), _image),
    **dict.fromkeys(("td", "th"), _cell),
    **dict.fromkeys(("ul", "ol", "li"), _list),
    "iframe": _frame,
    "body": _body,
    "font": _font,
    "br": _line_break,
    "hr": _rule,
    "pre": _preformatted,
    "table": _table,
}


def hint_rule(hints: tuple[Hint, ...], file: str, line: int) -> StyleRule:
    """The rule that stands for hints."""
    declarations: list[Declaration] = []
    for name, text in hints:
        longhands = parse_declaration(name, component_values(text))
        if longhands is not None:
            declarations.append(Declaration(name, text, False, file, line, 0, longhands))
    return StyleRule("attributes", RuleBody((), tuple(declarations)), (), Origin.HINT, file, line, 0)
