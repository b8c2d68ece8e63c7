"""Presentational hints: attributes that act as rules of the author with no specificity.

HTML Standard §15.2 and §15.4 (images, rules, tables).
"""

from redcrate.core.markup.elements import Element
from redcrate.core.markup.numbers import parse_dimension
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.sheets import Declaration, Origin, StyleRule, parse_declaration

_SIZED = frozenset(("img", "iframe", "embed", "object", "video", "canvas", "input"))
_TABLE_SIZED = frozenset(("table", "td", "th", "col", "colgroup", "hr"))
_ALIGNED = frozenset(
    ("p", "div", "h1", "h2", "h3", "h4", "h5", "h6", "td", "th", "tr", "tbody", "thead", "tfoot")
)
Hint = tuple[str, str]


def dimension_hint(text: str | None) -> str | None:
    """The CSS length of a dimension attribute: HTML Standard §2.3.4.4; None if it is none."""
    found = parse_dimension(text or "")
    return None if found is None else f"{found[0]:.6f}{'%' if found[1] else 'px'}"


def hints_of(element: Element) -> tuple[Hint, ...]:
    """The hints of an element as (property, value) pairs."""
    attributes = element.attributes
    if not attributes:
        return ()
    out: list[Hint] = []
    tag = element.tag
    if tag in _SIZED or tag in _TABLE_SIZED:
        for name in ("width", "height"):
            value = dimension_hint(attributes.get(name))
            if value is not None and not (tag == "input" and attributes.get("type") != "image"):
                out.append((name, value))
    align = attributes.get("align", "").lower()
    if tag == "img" and align in ("left", "right"):
        out.append(("float", align))
    elif tag in _ALIGNED and align in ("left", "right", "center", "justify"):
        out.append(("text-align", align))
    if tag == "img":
        for name, css in (("hspace", "margin-inline"), ("vspace", "margin-block")):
            value = dimension_hint(attributes.get(name))
            if value is not None:
                out.append((css, value))
    if "bgcolor" in attributes and tag in ("body", "table", "tr", "td", "th"):
        out.append(("background-color", attributes["bgcolor"]))
    if tag in ("td", "th", "tr") and attributes.get("valign", "").lower() in (
        "top",
        "middle",
        "bottom",
        "baseline",
    ):
        out.append(("vertical-align", attributes["valign"].lower()))
    out.extend(_table_hints(element))
    return tuple(out)


def _table_hints(element: Element) -> list[Hint]:
    """HTML Standard §15.3.8: spacing, padding and borders of tables."""
    out: list[Hint] = []
    if element.tag == "table":
        spacing = dimension_hint(element.attributes.get("cellspacing"))
        if spacing is not None:
            out.append(("border-spacing", spacing))
        border = element.attributes.get("border")
        if border is not None and border != "0":
            out.append(("border", f"{dimension_hint(border) or '1px'} outset gray"))
    elif element.tag in ("td", "th"):
        table = next((a for a in element.ancestors() if a.tag == "table"), None)
        if table is not None:
            padding = dimension_hint(table.attributes.get("cellpadding"))
            if padding is not None:
                out.append(("padding", padding))
            if table.attributes.get("border", "0") != "0":
                out.append(("border", "1px inset gray"))
    return out


def hint_rule(hints: tuple[Hint, ...], file: str, line: int) -> StyleRule:
    """The rule that stands for hints."""
    declarations: list[Declaration] = []
    for name, text in hints:
        longhands = parse_declaration(name, component_values(text))
        if longhands is not None:
            declarations.append(Declaration(name, text, False, file, line, 0, longhands))
    return StyleRule("attributes", (), tuple(declarations), (), Origin.HINT, file, line, 0)
