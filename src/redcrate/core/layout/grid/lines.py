"""The lines of a grid, and which cells its items take: CSS Grid 1 §7 and §8, Grid 2 §9."""

from collections.abc import Sequence

from redcrate.core.boxes.box import Box
from redcrate.core.layout.grid.placement import Placement, Span, occupied, place_items
from redcrate.core.layout.grid.template import (
    ExplicitTracks,
    Room,
    columns_of,
    explicit_tracks,
    subgrid_in,
    subgrid_tracks,
)
from redcrate.core.layout.grid.tracks import Track, collapsed_track, new_track
from redcrate.core.layout.shared_tracks import SharedTracks
from redcrate.core.style.grid import TrackList, TrackSize
from redcrate.core.units import LayoutUnit


class Grid:
    """The lines of a grid, and which cells its items take."""

    def __init__(
        self,
        box: Box,
        across: Room,
        down: Room,
        shared: tuple[SharedTracks | None, SharedTracks | None] = (None, None),
    ) -> None:
        """shared: the columns and the rows that a subgrid has of the grid around it."""
        style = self.style = box.style
        self.depth = max(
            (s.depth + 1 for s in shared if s is not None), default=0
        )  # subgrids round its items
        areas = style.grid_template_areas
        self.columns: ExplicitTracks = _explicit(
            style.grid_template_columns, columns_of(areas), across, shared[0]
        )
        self.rows: ExplicitTracks = _explicit(style.grid_template_rows, areas, down, shared[1])
        inside = [c for c in box.children if c.in_flow]
        if any(c.style.order for c in inside):
            inside.sort(key=lambda c: c.style.order)
        self.placement: Placement = place_items(inside, style, self.columns, self.rows)

    def column_tracks(self, room: LayoutUnit | None) -> list[Track]:
        """All columns before they are sized."""
        found, spans = self.placement, [a.columns for a in self.placement.areas.values()]
        auto = self.style.grid_auto_columns
        return _all_tracks(self.columns, auto, found.before_columns, found.columns, spans, room)

    def row_tracks(self, room: LayoutUnit | None) -> list[Track]:
        """All rows before they are sized."""
        found, spans = self.placement, [a.rows for a in self.placement.areas.values()]
        auto = self.style.grid_auto_rows
        return _all_tracks(self.rows, auto, found.before_rows, found.rows, spans, room)


def _explicit(
    template: TrackList, areas: Sequence[Sequence[str]], room: Room, shared: SharedTracks | None
) -> ExplicitTracks:
    """The explicit tracks; a subgrid that no grid stands around has none (Grid 2 §9)."""
    own = subgrid_in(template)
    if own is None:
        return explicit_tracks(template, areas, room)
    return explicit_tracks((), areas, room) if shared is None else subgrid_tracks(own, areas, shared)


def _all_tracks(
    explicit: ExplicitTracks,
    auto: Sequence[TrackSize],
    before: int,
    count: int,
    spans: Sequence[Span],
    room: LayoutUnit | None,
) -> list[Track]:
    """§7.6: explicit tracks, with implicit ones in front and behind; empty ones of an auto-fit are nothing."""
    taken = occupied(spans) if explicit.fitted else set()
    tracks = []
    for at in range(count):
        number = at - before
        if not 0 <= number < explicit.sized:
            behind = number - explicit.sized if number >= 0 else number
            tracks.append(new_track(auto[behind % len(auto)], room))
        elif number in explicit.fitted and at not in taken:
            tracks.append(collapsed_track())
        else:
            tracks.append(new_track(explicit.tracks[number], room))
    return tracks
