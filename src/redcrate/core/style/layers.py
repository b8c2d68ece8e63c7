"""Cascade layers: CSS Cascade 5 §6.4.

A layer is known by the names from the outermost to itself; one without a name has one that no author
can write. The order of a page's layers is that in which their names first appear.
"""

from collections.abc import Iterable, Mapping
from typing import TypeAlias

LayerName: TypeAlias = tuple[str, ...]
NO_LAYER: LayerName = ()
# Compares as layers win: those later in the order, and what stands in none, are larger.
LayerRank: TypeAlias = tuple[int, ...]
_LAST = 2**31


def layer_ranks(appearances: Iterable[LayerName]) -> Mapping[LayerName, LayerRank]:
    """The rank of each layer (NO_LAYER too) by the order in which names appear.

    What stands in a layer itself wins over the layers inside it.
    """
    places: dict[LayerName, int] = {}
    for name in appearances:
        for depth in range(1, len(name) + 1):
            places.setdefault(name[:depth], len(places))
    ranks = {n: tuple(places[n[: d + 1]] for d in range(len(n))) for n in places}
    return {NO_LAYER: (_LAST,), **{n: (*rank, _LAST) for n, rank in ranks.items()}}
