"""Edges in a picture: where colours change along a line, to a fraction of a px. NumPy, since pictures are arrays."""

from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

Picture: TypeAlias = NDArray[np.uint8]  # rows × columns × (red, green, blue)

_FAINT = 12.0  # of 255: less is noise of the picture's compression
_BESIDE = 1  # so many lines on either side are looked at too


def nearest_edge(picture: Picture, x: float, y: float, *, across: bool, reach: float) -> float | None:
    """The edge nearest to a place, along its row (across) or column, px of the picture; None within `reach` of none.

    A soft edge over several px lies in their middle, weighed by how much each of them changes.
    """
    near = edges_near(picture, x, y, across=across, reach=reach)
    at = x if across else y
    return min(near, key=lambda e: abs(e - at)) if near else None


def edges_near(picture: Picture, x: float, y: float, *, across: bool, reach: float) -> list[float]:
    """All edges within `reach` of a place, along its row (across) or column, px of the picture, ascending."""
    height, width = picture.shape[:2]
    if not (0 <= x <= width and 0 <= y <= height):
        return []
    # only the part that is looked at, so that a large picture costs no more than a small one
    at, other, lines = (x, int(y), height) if across else (y, int(x), width)
    other = min(other, lines - 1)
    low, high = max(0, int(at - reach) - 2), int(at + reach) + 3
    band = slice(max(0, other - _BESIDE), other + _BESIDE + 1)
    part = picture[band, low:high] if across else picture[low:high, band].swapaxes(0, 1)
    changes = np.diff(part.astype(np.float64).mean(axis=0), axis=0)
    return [low + e for e in _centres(changes) if abs(low + e - at) <= reach]


def _centres(changes: NDArray[np.float64]) -> list[float]:
    """The middle of each run of changes that can be seen and go the same way; both sides of a line are two."""
    sizes = np.abs(changes).max(axis=1, initial=0.0)
    found: list[float] = []
    start = 0
    while start < len(sizes):
        if sizes[start] <= _FAINT:
            start += 1
            continue
        end = start
        while end + 1 < len(sizes) and sizes[end + 1] > _FAINT and changes[end] @ changes[end + 1] > 0:
            end += 1
        run = sizes[start : end + 1]
        found.append(float(start + 1 + (np.arange(len(run)) * run).sum() / run.sum()))
        start = end + 1
    return found
