"""The quiet look of fields, menus and buttons that no author has given another one: HTML Standard §15.5, CSS UI 4 §7.2."""

from dataclasses import replace
from functools import lru_cache
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.corners import CORNERS
from redcrate.core.geometry import SIDES, Edges
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.style.colours import Colour
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.sheets import Origin
from redcrate.core.style.values import Length
from redcrate.core.units import LayoutUnit

_FIELDS = frozenset(("input", "textarea", "select", "button"))
_BUTTONS = frozenset(("button", "submit", "reset"))
_LINE, _FACE, _FIELD, _ASLEEP = (
    Colour(118, 118, 118), Colour(239, 239, 239), Colour(255, 255, 255), Colour(250, 250, 250),
)  # fmt: skip
_EDGE = LayoutUnit(64)
THIN = Edges(_EDGE, _EDGE, _EDGE, _EDGE)
_ROUND = Length(2.0)
_GIVEN = (
    "border-top-style",
    "border-top-width",
    "border-top-color",
    "background-color",
    "background-image",
)


def own_look(page: Page, element: Element | None, style: ComputedStyle) -> ComputedStyle | None:
    """The style that a control is painted in, with a thin line; None for others, and where an author says how it looks."""
    if element is None or element.tag not in _FIELDS or style.appearance != "auto":
        return None
    if not style.border_top_width or any(_is_given(page, element, name) for name in _GIVEN):
        return None
    kind = element.attributes.get("type", "").lower()
    is_button = element.tag == "button" or (element.tag == "input" and kind in _BUTTONS)
    asleep = "disabled" in element.attributes
    return _quiet(style, _FACE if is_button else _ASLEEP if asleep else _FIELD)


def _is_given(page: Page, element: Element, name: str) -> bool:
    winner = page.origin_of(element, name)
    return winner is not None and winner.applied.rule.origin is not Origin.USER_AGENT


@lru_cache(maxsize=300)
def _quiet(style: ComputedStyle, ground: Colour) -> ComputedStyle:
    looks: dict[str, Any] = {"background_color": ground}
    for side in SIDES:
        looks[f"border_{side}_style"], looks[f"border_{side}_color"] = "solid", _LINE
    for corner in CORNERS:
        looks[f"border_{corner}_radius"] = (_ROUND, _ROUND)
    return replace(style, **looks)


def paint_arrow(painter: QPainter, room: QRectF, style: ComputedStyle) -> None:
    """What says that a menu opens: at its right end. room: the padding box, px."""
    middle, high = room.center().y(), min(4.0, room.height() / 5)
    x = room.right() - 10
    painter.setPen(QPen(to_colour(style.color), 1.6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    tip = QPointF(x, middle + high / 2)
    painter.drawLine(QPointF(x - high, middle - high / 2), tip)
    painter.drawLine(tip, QPointF(x + high, middle - high / 2))
