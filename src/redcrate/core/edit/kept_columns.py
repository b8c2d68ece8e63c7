"""Columns of a grid that would grow with what is in them, written so that they keep their size.

CSS Grid 1 §12.5 (a track grows to the contribution of the item in it), §7.2.1 (minmax()).
"""

from math import ceil
from typing import Any

import tinycss2

from redcrate.core.edit.typed import format_length
from redcrate.core.explain.tracks import area_sums
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.style.css_syntax import component_values
from redcrate.core.units import LayoutUnit

_COLUMNS = "grid-template-columns"


def kept_column(page: Page, box: ElementBox) -> tuple[Element, str] | None:
    """The grid and its grid-template-columns, in which the column that a box blows up has a size of its own.

    A fraction stays one, no smaller than now; another column gets its size in px. None where the column does not
    grow for this box, or is none that a list of its own names
    (implicit, of an auto-fill, written in a shorthand).
    """
    sums = area_sums(box)
    around = None if box.box is None or box.box.container is None else box.box.container.fragment
    if sums is None or box.box is None or around is None or around.box.element is None:
        return None
    columns = sums[0]
    track = columns.tracks[0]
    if len(columns.tracks) > 1 or track.asked_by is not box.box.fragment.box:
        return None
    grid = around.box.element
    winner = page.origin_of(grid, _COLUMNS)
    if winner is None or winner.applied.declaration.name != _COLUMNS:
        return None  # a part of a shorthand, which is not taken apart for it
    found = _components(component_values(winner.applied.declaration.text))
    tracks = [n for n, token in enumerate(found) if token.type != "[] block"]
    if len(tracks) < columns.first or not _is_explicit(box, len(tracks)):
        return None
    words = [tinycss2.serialize([token]) for token in found]
    words[tracks[columns.first - 1]] = _of_size(track.size, track.factor)
    return grid, " ".join(words)


def _is_explicit(box: ElementBox, count: int) -> bool:
    """Whether the columns begin with those of the list: none was added before them."""
    facts = None if box.box is None or box.box.container is None else box.box.container.fragment.facts
    return isinstance(facts, GridFacts) and len(facts.columns) == count


def _of_size(size: LayoutUnit, factor: float) -> str:
    px = (
        f"{format_length(ceil(size * 100 / 64) / 100)}px"  # the next 1/100 px is cut to the same 1/64 px
    )
    return f"minmax({px}, {factor:g}fr)" if factor else px


def _components(tokens: list[Any]) -> list[Any]:
    """The track sizes and names of a list, with repetitions of a number of times written out."""
    out: list[Any] = []
    for token in tokens:
        if token.type in ("whitespace", "comment"):
            continue
        inner = getattr(token, "arguments", [])
        if token.type == "function" and token.lower_name == "repeat" and inner:
            out += _repeated(token)
        else:
            out.append(token)
    return out


def _repeated(token: Any) -> list[Any]:
    count, _, *rest = [t for t in token.arguments if t.type not in ("whitespace", "comment")]
    return _components(rest) * int(count.value) if count.type == "number" else []
