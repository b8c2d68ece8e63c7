"""Ranges of window widths: at which ones media queries hold, in whole px, and how a range is written.

A query changes its answer only at the widths that it names, so it is asked once between each two of them.
"""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from math import ceil, floor

from redcrate.core.records import dataclass
from redcrate.core.style.media import Both, Condition, Feature, MediaList, Negated, Viewport
from redcrate.core.units import format_number

LEAST, MOST = 1, 20_000  # px; narrower and wider windows there are not


@dataclass(frozen=True, slots=True, order=True)
class WindowRange:
    """Window widths in px, both ends inside; LEAST and MOST stand for no end."""

    least: int
    most: int

    def holds(self, width: float) -> bool:
        """Whether a window of that width, px, is inside."""
        return self.least <= width <= self.most

    def nearest(self, width: float) -> float:
        """The width, px, inside that is nearest to another one."""
        return min(max(width, self.least), self.most)

    @property
    def is_all(self) -> bool:
        """Whether every window is inside."""
        return self.least <= LEAST and self.most >= MOST

    @property
    def words(self) -> str:
        """As the interface says it: "up to 600", "601 – 900", "from 901"."""
        if self.is_all:
            return "all widths"
        if self.least <= LEAST:
            return f"up to {self.most}"
        return f"from {self.least}" if self.most >= MOST else f"{self.least} – {self.most}"

    def query(self, *, compared: bool) -> str:
        """As a media query. compared: written `(width <= 600px)` (Media Queries 4 §2.4.3), else `(max-width: 600px)`."""
        lower, upper = self.least > LEAST, self.most < MOST
        if compared:
            if lower and upper:
                return f"({self.least}px <= width <= {self.most}px)"
            return f"(width >= {self.least}px)" if lower else f"(width <= {self.most}px)"
        parts = [f"(min-width: {self.least}px)"] if lower else []
        parts += [f"(max-width: {self.most}px)"] if upper else []
        return " and ".join(parts)


def range_between(least: float | None, most: float | None) -> WindowRange:
    """The whole px from `least` to `most`; None: no end on that side. Raises ValueError where there is none."""
    first = LEAST if least is None else ceil(least)
    last = MOST if most is None else floor(most)
    if not LEAST <= first <= last <= MOST:
        raise ValueError(f"There are no widths from {format_number(first)} to {format_number(last)} px.")
    return WindowRange(first, last)


def ranges_of(media: Sequence[MediaList], height: float) -> tuple[WindowRange, ...]:
    """The window widths at which all of `media` hold in a window `height` px high, narrowest first."""
    every = (t for m in media for q in m.queries for t in _thresholds(q.condition, height))
    named = [t for t in every if LEAST - 1 <= t <= MOST + 1]
    starts = {LEAST, *(s for t in named for s in (ceil(t), floor(t) + 1) if LEAST < s <= MOST)}
    found: list[WindowRange] = []
    ordered = [*sorted(starts), MOST + 1]
    for start, after in pairwise(ordered):
        if not all(m.matches(Viewport(start, height)) for m in media):
            continue
        if found and found[-1].most == start - 1:
            found[-1] = WindowRange(found[-1].least, after - 1)
        else:
            found.append(WindowRange(start, after - 1))
    return tuple(found)


def plain_range(media: Sequence[MediaList]) -> WindowRange | None:
    """The one range that `media` mean, if they ask for nothing but the window's width; else None."""
    for one in media:
        if len(one.queries) > 1:
            return None
        for query in one.queries:
            asked = list(_features(query.condition))
            if query.negated or query.media_type not in ("all", "screen") or not asked:
                return None
            if any(f.name != "width" or not isinstance(f.value, float) for f in asked):
                return None
    found = ranges_of(media, 0.0)
    return found[0] if len(found) == 1 and not found[0].is_all else None


def _features(condition: Condition | None) -> Iterator[Feature]:
    if isinstance(condition, Feature):
        yield condition
    elif isinstance(condition, Negated):
        yield from _features(condition.part)
    elif isinstance(condition, Both):
        for part in condition.parts:
            yield from _features(part)


def _thresholds(condition: Condition | None, height: float) -> Iterator[float]:
    """The widths, px, at which a condition may change its answer."""
    for feature in _features(condition):
        if feature.name == "orientation":
            yield height
        elif isinstance(feature.value, float):
            if feature.name in ("width", "device-width"):
                yield feature.value
            elif feature.name == "aspect-ratio":
                yield feature.value * height
