"""The fixed table layout: CSS 2.2 §17.5.2.1; amounts are 1/64 px."""

from collections.abc import Sequence

from redcrate.core.layout.table.column_measures import Measure
from redcrate.core.units import ZERO, LayoutUnit


def fixed_least(columns: Sequence[Measure]) -> LayoutUnit:
    """No narrower than the widths that are written."""
    return sum((c.most if c.has_width and c.percent is None else c.least for c in columns), ZERO)


def _shrink_percentages(columns: Sequence[Measure], sizes: list[LayoutUnit], room: LayoutUnit) -> None:
    shares = [at for at, c in enumerate(columns) if c.percent is not None]
    asked = sum((sizes[at] for at in shares), ZERO)
    left = max(ZERO, room - sum(sizes, ZERO) + asked)
    if asked <= left:
        return
    for at in shares:
        sizes[at] = LayoutUnit(left * sizes[at] // asked)
    if len(shares) and all(c.percent is not None or c.has_width for c in columns):
        sizes[shares[-1]] += left - sum((sizes[at] for at in shares), ZERO)


def fixed_columns(columns: Sequence[Measure], room: LayoutUnit) -> list[LayoutUnit]:
    """Columns with a width have it; the others share the rest alike; without others all share it.

    Percentages that ask for more than lengths leave share that, as engines have it.
    """
    sizes = [
        LayoutUnit(room * c.percent / 100) + c.beside_percent
        if c.percent is not None
        else c.most
        if c.has_width
        else ZERO
        for c in columns
    ]
    _shrink_percentages(columns, sizes, room)
    rest = room - sum(sizes, ZERO)
    auto = [at for at, c in enumerate(columns) if c.percent is None and not c.has_width]
    if auto:
        for place, at in enumerate(auto):
            part = max(ZERO, rest) // (len(auto) - place)
            sizes[at] = part
            rest -= part
        return sizes
    weights: list[float] = [float(s) for s in sizes]
    lengths = [float(s) if c.percent is None else 0.0 for s, c in zip(sizes, columns, strict=True)]
    if rest > 0:
        weights = lengths if any(lengths) else weights
        total = sum(weights)
        if total:
            sizes = [s + LayoutUnit(rest * w / total) for s, w in zip(sizes, weights, strict=True)]
    return sizes
