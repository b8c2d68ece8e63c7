"""Styles of anonymous boxes: inherited values of the box around, initial values else (§9.2.1.1)."""

from dataclasses import fields, replace
from functools import cache
from typing import Any

from redcrate.core.style.cascade import Cascaded
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.computing import StyleComputer
from redcrate.core.style.media import Viewport
from redcrate.core.style.properties import PROPERTIES

_INHERITED = {p.attribute for p in PROPERTIES.values() if p.inherited} | {
    "document_mode",
    "font_size_keyword",
    "font_size_absolute",
}


@cache
def initial_style() -> ComputedStyle:
    """The initial values of all properties, computed."""
    return StyleComputer(Viewport(0, 0)).compute(Cascaded((), {}, {}), None).style


def inherited_style(style: ComputedStyle, *, display: str) -> ComputedStyle:
    """A style with the inherited values of `style` and that display."""
    changes: dict[str, Any] = {
        f.name: getattr(style, f.name) for f in fields(style) if f.name in _INHERITED
    }
    return replace(initial_style(), display=display, **changes)
