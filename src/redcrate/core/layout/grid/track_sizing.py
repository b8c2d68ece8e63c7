"""The track sizing algorithm: CSS Grid 1 §12.3 to §12.8, one axis at a time; amounts are 1/64 px."""

from collections.abc import Callable, Sequence
from typing import Literal, Protocol, TypeAlias

from redcrate.core.boxes.box import Box
from redcrate.core.layout.grid.placement import Span
from redcrate.core.layout.grid.tracks import (
    INTRINSIC,
    Track,
    gaps_in,
    share_by_factor,
    share_equally,
)
from redcrate.core.layout.grid_facts import TrackReason
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit

Constraint: TypeAlias = Literal["", "min-content", "max-content"]


class Contributions(Protocol):
    """What one item asks of the tracks that it spans: sizes of its margin box."""

    box: Box

    def minimum(self, tracks: Sequence[Track]) -> LayoutUnit:
        """The least that it must have (§12.5, minimum contribution)."""
        ...

    def min_content(self) -> LayoutUnit:
        """As small as its content can be."""
        ...

    def max_content(self) -> LayoutUnit:
        """As large as its content would like to be."""
        ...


@dataclass(frozen=True, slots=True, eq=False)
class Spanning:
    """An item with the tracks that it spans. is_edge: what stands at the edge of a subgrid, which sets no growth limit."""

    asks: Contributions
    span: Span
    is_edge: bool = False


@dataclass(frozen=True, slots=True, eq=False)
class TrackSizing:
    """One axis. room: the content size of the container; None where it is not known, and `constraint` says why.

    stretches: whether auto tracks take what is left (§12.8).
    """

    tracks: Sequence[Track]
    items: Sequence[Spanning]
    gap: LayoutUnit
    room: LayoutUnit | None
    constraint: Constraint
    stretches: bool

    def run(self) -> None:
        """§12.3."""
        if any(t.least in INTRINSIC or t.most in INTRINSIC for t in self.tracks):
            self.resolve_intrinsic()
        self.maximize()
        if any(t.most == "flex" for t in self.tracks):
            self.expand_flexible()
        if self.stretches:
            self.stretch_auto()

    def spanned(self, item: Spanning) -> Sequence[Track]:
        """The tracks of an item."""
        return self.tracks[item.span.start : item.span.end]

    def resolve_intrinsic(self) -> None:
        """§12.5: items by the number of tracks that they span; those on flexible tracks last, together."""
        plain = [i for i in self.items if not _is_flexible(self.spanned(i))]
        for count in sorted({i.span.count for i in plain}):
            self.increase([i for i in plain if i.span.count == count], flexible=False)
        flexible = [i for i in self.items if _is_flexible(self.spanned(i))]
        if flexible:
            self.increase(flexible, flexible=True)
        for track in self.tracks:
            if track.limit is None and track.most != "flex":
                track.limit = track.base

    def increase(self, items: Sequence[Spanning], *, flexible: bool) -> None:
        """§12.5.3, and §12.5.4 for flexible tracks: bases, then growth limits.

        Under a max-content constraint engines leave the bases of `auto` tracks to their growth limits (§12.6), where the
        standard has them grow at once: with a wide item over an `auto` track and one without a least size that shows.
        """
        limited = self.constraint != "" and not flexible
        self.grow_bases(
            items,
            INTRINSIC,
            lambda i: self.limited(i, i.asks.min_content()) if limited else self.minimum(i),
            flexible=flexible,
        )
        self.grow_bases(
            items,
            frozenset(("min-content", "max-content")),
            lambda i: i.asks.min_content(),
            flexible=flexible,
        )
        self.grow_bases(
            items, frozenset(("max-content",)), lambda i: i.asks.max_content(), flexible=flexible
        )
        for track in self.tracks:
            if track.limit is not None and track.limit < track.base:
                track.limit = track.base
        if not flexible:
            items = [i for i in items if not i.is_edge]
            self.grow_limits(items, INTRINSIC, lambda i: i.asks.min_content(), go_on=True)
            self.grow_limits(
                items, frozenset(("auto", "max-content")), lambda i: i.asks.max_content(), go_on=False
            )

    def minimum(self, item: Spanning) -> LayoutUnit:
        """§12.5: the minimum contribution."""
        return item.asks.minimum(self.spanned(item))

    def limited(self, item: Spanning, size: LayoutUnit) -> LayoutUnit:
        """§12.5: no more than the largest sizes of its tracks, where these are fixed; the minimum at least."""
        tracks = self.spanned(item)
        if all(t.most == "fixed" or t.fit is not None for t in tracks):
            most = sum((t.growth_limit if t.fit is None else t.fit for t in tracks), ZERO)
            size = min(size, most + gaps_in(tracks, self.gap))
        return max(size, self.minimum(item))

    def grow_bases(
        self,
        items: Sequence[Spanning],
        kinds: frozenset[str],
        asked: Callable[[Spanning], LayoutUnit],
        *,
        flexible: bool,
    ) -> None:
        """§12.5.1 for base sizes: tracks whose smallest size is one of `kinds` grow for the items."""
        touched: list[Track] = []
        for item in items:
            tracks = self.spanned(item)
            affected = [t for t in tracks if t.least in kinds and (not flexible or t.most == "flex")]
            if not affected:
                continue
            taken = sum((t.base for t in tracks), ZERO) + gaps_in(tracks, self.gap)
            space = asked(item) - taken
            if space <= 0:
                continue
            shares = self.shared(affected, space, flexible=flexible)
            for track, share in shares.items():
                if share > track.planned:
                    track.planned, track.asked_by = share, item.asks.box
                touched.append(track)
        for track in touched:
            track.base += track.planned
            track.planned = ZERO

    def shared(
        self, affected: Sequence[Track], space: LayoutUnit, *, flexible: bool
    ) -> dict[Track, LayoutUnit]:
        """Extra space for base sizes: up to the growth limits, then beyond them (§12.5.1)."""
        if flexible:
            return share_by_factor(affected, space)
        shares, left = share_equally(
            affected, space, lambda t: None if _reach(t) is None else (_reach(t) or ZERO) - t.base
        )
        if left > 0:
            beyond = [t for t in affected if t.most in INTRINSIC] or affected
            for track, share in share_equally(beyond, left, lambda _: None)[0].items():
                shares[track] += share
        return shares

    def grow_limits(
        self,
        items: Sequence[Spanning],
        kinds: frozenset[str],
        asked: Callable[[Spanning], LayoutUnit],
        *,
        go_on: bool,
    ) -> None:
        """§12.5.1 for growth limits. go_on: those that were infinite may grow further in the next step."""
        touched: dict[Track, None] = {}
        for item in items:
            tracks = self.spanned(item)
            affected = [t for t in tracks if t.most in kinds]
            if not affected:
                continue
            taken = sum((t.growth_limit for t in tracks), ZERO) + gaps_in(tracks, self.gap)
            space = max(ZERO, asked(item) - taken)
            shares, left = share_equally(affected, space, _limit_room)
            for track, share in share_equally(affected, left, lambda _: None)[0].items():
                shares[track] += share
            for track, share in shares.items():
                if share > track.planned:
                    track.planned, track.limit_by = share, item.asks.box
                touched[track] = None
        for track in touched:
            grown = track.growth_limit + track.planned
            if track.fit is not None:
                grown = max(track.base, min(grown, track.fit))
            track.grows_on = go_on and track.limit is None
            track.limit, track.planned = grown, ZERO

    def free(self) -> LayoutUnit | None:
        """§12.6: what the base sizes leave; None: no end."""
        if self.room is None:
            return ZERO if self.constraint == "min-content" else None
        taken = sum((t.base for t in self.tracks), ZERO) + gaps_in(self.tracks, self.gap)
        return self.room - taken

    def maximize(self) -> None:
        """§12.6: tracks grow to their limits as far as there is room."""
        free = self.free()
        growing = [t for t in self.tracks if t.limit is not None and t.limit > t.base]
        if free is None:
            for track in growing:
                self.grow(track, track.growth_limit - track.base)
            return
        if free <= 0 or not growing:
            return
        shares, _ = share_equally(growing, free, lambda t: t.growth_limit - t.base)
        for track, share in shares.items():
            self.grow(track, share)

    @staticmethod
    def grow(track: Track, share: LayoutUnit) -> None:
        """A track becomes larger, for the item that its limit is from where that is one."""
        track.base += share
        if share and track.limit_by is not None:
            track.asked_by = track.limit_by

    def expand_flexible(self) -> None:
        """§12.7: flexible tracks share what is left by their factors."""
        flexible = [t for t in self.tracks if t.most == "flex"]
        free = self.free()
        if free is not None and (free <= 0 or self.constraint == "min-content"):
            return
        fraction = self.fraction() if self.room is not None else self.fraction_of_content()
        carried = 0.0
        for track in flexible:
            share = fraction * track.factor + carried
            size = LayoutUnit(share + 1e-6)
            if size >= track.base:
                if size > track.base:
                    track.asked_by = None
                track.base = size
                carried = max(0.0, share - size)

    def fraction(self) -> float:
        """§12.7.1 for a definite room."""
        assert self.room is not None
        return find_fraction(self.tracks, self.room - gaps_in(self.tracks, self.gap))

    def fraction_of_content(self) -> float:
        """§12.7 where the room is not known: as large as the flexible tracks and their items ask."""
        flexible = [t for t in self.tracks if t.most == "flex"]
        sizes = [t.base / max(1.0, t.factor) for t in flexible]
        for item in self.items:
            tracks = self.spanned(item)
            if _is_flexible(tracks):
                space = item.asks.max_content() - gaps_in(tracks, self.gap)
                sizes.append(find_fraction(tracks, space))
        return max(sizes)

    def stretch_auto(self) -> None:
        """§12.8: auto tracks take equal parts of what is left."""
        free = self.free()
        auto = [t for t in self.tracks if t.most == "auto" and t.fit is None]
        if free is None or free <= 0 or not auto:
            return
        for track, share in share_equally(auto, free, lambda _: None)[0].items():
            track.base += share
            track.reason = TrackReason.STRETCHED


def _is_flexible(tracks: Sequence[Track]) -> bool:
    return any(t.most == "flex" for t in tracks)


def _reach(track: Track) -> LayoutUnit | None:
    """How far a base size grows before others have grown as far: the growth limit, capped by fit-content()."""
    if track.limit is None:
        return None if track.fit is None else max(track.base, track.fit)
    return track.limit


def _limit_room(track: Track) -> LayoutUnit | None:
    """How far a growth limit may still grow: not at all where it is finite, unless it was infinite just now."""
    if track.limit is None or track.grows_on:
        return None if track.fit is None else max(ZERO, track.fit - track.growth_limit)
    return ZERO


def find_fraction(tracks: Sequence[Track], space: LayoutUnit) -> float:
    """§12.7.1: the size of an fr: tracks that would become smaller than their base size count as they are."""
    fixed: set[Track] = set()
    while True:
        flexible = [t for t in tracks if t.most == "flex" and t not in fixed]
        left = space - sum((t.base for t in tracks if t not in flexible), ZERO)
        fraction = max(ZERO, left) / max(1.0, sum(t.factor for t in flexible))
        smaller = [t for t in flexible if fraction * t.factor < t.base]
        if not smaller:
            return fraction
        fixed.update(smaller)
