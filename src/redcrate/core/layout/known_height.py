"""What is known of a box's height before its content is laid out, and what the content then makes of it.

CSS 2.2 §10.6.3, §10.6.4 and §10.7; CSS Flexbox 1 §9.8 and CSS Grid 1 §6.6 (heights that the container decides).
"""

from redcrate.core.boxes.box import Box
from redcrate.core.layout.containment import contained_height
from redcrate.core.layout.fragments import Down, HeightLimit, HeightSource, SizeReason
from redcrate.core.layout.heights import limited_height, percent_basis, used_height
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(frozen=True, slots=True)
class KnownHeight:
    """The height of one box in its space; 1/64 px.

    extra: top and bottom border plus padding. by_ratio: what the ratio makes of its width. given: the
    content height where two offsets or the container decide it, `limit` what took over there.
    """

    box: Box
    space: ConstraintSpace
    extra: LayoutUnit
    by_ratio: LayoutUnit | None
    given: LayoutUnit | None
    limit: HeightLimit = ""

    @property
    def percent_basis(self) -> LayoutUnit | None:
        """What percentages of heights inside refer to; None while that hangs on content."""
        forced = self.space.forced
        if self.given is not None and (forced is None or forced.height is None or forced.definite):
            return self.given
        return percent_basis(self.box, self.space.height, self.extra, self.by_ratio)

    def used(self, auto_height: LayoutUnit, source: HeightSource) -> Down:
        """The used height, given what the content asks for and where that comes from."""
        space = self.space
        if self.given is not None:
            forced = space.forced
            if forced is not None and forced.height is not None:
                why = forced.height_reason
                return Down(self.given, why, auto_height, space.height, self.given, "", source)
            tentative = space.stretched_height or ZERO
            return Down(self.given, SizeReason.STRETCH, ZERO, space.height, tentative, self.limit)
        contained = contained_height(self.box)
        if contained is not None:
            auto_height, source = contained, "contained"
        return used_height(self.box.style, space.height, self.extra, auto_height, source, self.by_ratio)


def known_height(
    box: Box, space: ConstraintSpace, extra: LayoutUnit, by_ratio: LayoutUnit | None
) -> KnownHeight:
    """What is known before anything is laid out: a height that the container or two offsets give (§10.6.4)."""
    forced = space.forced
    if forced is not None and forced.height is not None:
        return KnownHeight(box, space, extra, by_ratio, forced.height)
    if space.stretched_height is None:
        return KnownHeight(box, space, extra, by_ratio, None)
    height, limit = limited_height(space.stretched_height, box.style, space.height, extra)
    return KnownHeight(box, space, extra, by_ratio, height, limit)
