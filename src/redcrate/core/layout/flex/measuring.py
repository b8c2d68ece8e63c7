"""The flex base size of an item and its limits, along each of the axes: CSS Flexbox 1 §9.2 and §4.5.

Both classes answer the same questions; one measures across, the other down.
"""

from dataclasses import replace
from functools import lru_cache
from typing import Protocol

from redcrate.core.boxes.box import BoxKind, InnerDisplay
from redcrate.core.layout.containment import contained_picture
from redcrate.core.layout.contexts import FlowArea, LayoutRun
from redcrate.core.layout.flex.items import FlexItem
from redcrate.core.layout.flex_facts import BaseReason, FlexLimit
from redcrate.core.layout.fragments import ContentSizes, Fragment, SizeReason
from redcrate.core.layout.heights import definite_height, is_from_content
from redcrate.core.layout.ratios import ratio_height, ratio_width
from redcrate.core.layout.replaced import replaced_size
from redcrate.core.layout.space import ConstraintSpace, ForcedSize, Sizing
from redcrate.core.layout.squeezing import item_squeezes
from redcrate.core.layout.widths import content_width, limited_width
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH, Length
from redcrate.core.units import ZERO, LayoutUnit


class MainAxis(Protocol):
    """Measures and lays out items along one axis of a container."""

    def measure(self, item: FlexItem) -> None:
        """Find the base size, the limits and the hypothetical size (§9.2.3)."""
        ...

    def lay_out(self, item: FlexItem, cross: LayoutUnit | None) -> Fragment:
        """The item at its target size; cross: its content size along the other axis, where the line says it."""
        ...

    def stretched(self, item: FlexItem, room: LayoutUnit) -> LayoutUnit:
        """The cross size that fills `room`, within its limits (§9.4.11)."""
        ...


def _set_limits(item: FlexItem, most: LayoutUnit | None, least: LayoutUnit | None) -> None:
    item.most = most
    if least is not None:
        item.least, item.least_reason = least, FlexLimit.MINIMUM


def _set_automatic(item: FlexItem, content: LayoutUnit, specified: LayoutUnit | None) -> None:
    """§4.5: the content-based minimum: the smaller of content and specified size, within the largest."""
    least = content if specified is None else min(content, specified)
    if item.most is not None:
        least = min(least, item.most)
    item.least, item.least_reason = least, FlexLimit.AUTOMATIC


class AlongWidth:
    """The main axis is across. cross_room: the content height of a container of one line, where it is definite."""

    def __init__(self, run: LayoutRun, area: FlowArea, cross_room: LayoutUnit | None) -> None:
        self.run = run
        self.area = area
        self.cross_room = cross_room

    def measure(self, item: FlexItem) -> None:
        """Find the base size, the limits and the hypothetical size (§9.2.3)."""
        style, width = item.style, self.area.width
        extra = item.extra_main
        sizes = _Asked(self, item)
        most = content_width(style.max_width, style, width, extra, sizes)
        least = content_width(style.min_width, style, width, extra, sizes)
        _set_limits(item, None if most is None else most[0], None if least is None else least[0])
        size = content_width(style.width, style, width, extra, sizes)
        basis = size if style.flex_basis == "auto" else None
        item.base_reason = BaseReason.SIZE
        if style.flex_basis not in ("auto", "content"):
            basis = content_width(style.flex_basis, style, width, extra, sizes)
            item.base_reason = BaseReason.BASIS
        if basis is None:
            item.base, item.base_reason = sizes().max_content, sizes.why
        else:
            item.base = basis[0]
        if item.box.inner is InnerDisplay.TABLE:  # no narrower than its columns, whatever is written
            item.least = max(item.least, sizes().min_content)
        if least is None and not item.shrinks_to_nothing:
            written = size is not None and not isinstance(style.width, NO_LENGTH)
            content = ZERO if item_squeezes(item.box) else sizes().min_content
            _set_automatic(item, content, size[0] if written and size else None)
        item.hypothetical = item.clamped(item.base)

    def content_sizes(self, item: FlexItem) -> tuple[ContentSizes, BaseReason]:
        """What the content asks for, or a ratio makes of a definite cross size; a width written does not count."""
        box, style = item.box, item.style
        height = self.cross_of(item)
        if box.kind is BoxKind.REPLACED:
            bare = _without_width(style)
            if height is not None and style.height == "auto":
                bare = replace(bare, height=Length(height / 64), box_sizing="content-box")
            size = replaced_size(
                bare,
                contained_picture(box),
                self.area.width,
                self.area.percent_height,
                item.extra_main,
                item.extra_cross,
            )
            by_ratio = size.width_reason is SizeReason.RATIO
            why = BaseReason.RATIO if by_ratio else BaseReason.CONTENT
            return ContentSizes(size.width, size.width), why
        sizes = self.run.content_sizes(box)
        bare = style
        if height is not None and style.height == "auto" and not isinstance(style.aspect_ratio, str):
            inset = item.extra_cross if style.box_sizing == "border-box" else 0
            bare = replace(style, height=Length((height + inset) / 64))
        ratio = ratio_width(bare, self.area.percent_height, item.extra_main, item.extra_cross)
        if ratio is None:
            return sizes, BaseReason.CONTENT
        if ratio.given is not None:
            return ContentSizes(min(sizes.min_content, ratio.given), ratio.given), BaseReason.RATIO
        limited = [min(max(s, ratio.least), ratio.most) for s in sizes]
        return ContentSizes(limited[0], limited[1]), BaseReason.CONTENT

    def cross_of(self, item: FlexItem) -> LayoutUnit | None:
        """§9.8: the height of an item that stretches in a single line of definite height."""
        if self.cross_room is None or not item.stretches:
            return None
        return self.stretched(item, self.cross_room - item.margins_cross)

    def lay_out(self, item: FlexItem, cross: LayoutUnit | None) -> Fragment:
        """The item at its target width."""
        forced = ForcedSize(item.target, SizeReason.FLEXED, cross, SizeReason.LINE, definite=True)
        area = self.area
        space = ConstraintSpace(area.width, area.percent_height, Sizing.SHRINK_TO_FIT, forced=forced)
        return self.run.layout(item.box, space)

    def stretched(self, item: FlexItem, room: LayoutUnit) -> LayoutUnit:
        """The content height that fills `room`, within min-height and max-height."""
        style, extra = item.style, item.extra_cross
        height, basis = max(ZERO, room - extra), self.area.percent_height
        most = definite_height(style.max_height, style, basis, extra)
        least = definite_height(style.min_height, style, basis, extra)
        if item.fragment is not None:  # limits from content are what the content came to
            auto = item.fragment.down.auto_height
            most = auto if most is None and is_from_content(style.max_height) else most
            least = auto if least is None and is_from_content(style.min_height) else least
        height = height if most is None else min(height, most)
        return height if least is None else max(height, least)


class _Asked:
    """The content sizes of an item, measured when they are first wanted; why: where they come from."""

    def __init__(self, measuring: AlongWidth, item: FlexItem) -> None:
        self._measuring = measuring
        self._item = item
        self._sizes: ContentSizes | None = None
        self.why = BaseReason.CONTENT

    def __call__(self) -> ContentSizes:
        if self._sizes is None:
            self._sizes, self.why = self._measuring.content_sizes(self._item)
        return self._sizes


class AlongHeight:
    """The main axis is down. is_single: the container has one line, as wide as itself."""

    def __init__(self, run: LayoutRun, area: FlowArea, *, is_single: bool) -> None:
        self.run = run
        self.area = area
        self.is_single = is_single

    def measure(self, item: FlexItem) -> None:
        """Find the base size, the limits and the hypothetical size (§9.2.3)."""
        style, room, extra = item.style, self.area.percent_height, item.extra_main
        natural = _Natural(self, item)

        def height_of(value: object) -> LayoutUnit | None:
            if is_from_content(value):  # type: ignore[arg-type]
                return natural()
            return definite_height(value, style, room, extra)  # type: ignore[arg-type]

        _set_limits(item, height_of(style.max_height), height_of(style.min_height))
        size = height_of(style.height)
        if size is not None and item.box.inner is InnerDisplay.TABLE:  # rows and captions may need more
            size = natural.fragment.down.content
        basis, item.base_reason = size, BaseReason.SIZE
        if style.flex_basis != "auto":
            basis = None if style.flex_basis == "content" else height_of(style.flex_basis)
            item.base_reason = BaseReason.BASIS
        if basis is None:
            item.base, item.base_reason = self.natural_height(item, natural), natural.why
        else:
            item.base = basis
        automatic = item.least_reason is FlexLimit.NONE and not item.shrinks_to_nothing
        if automatic:
            written = size is not None and not isinstance(style.height, NO_LENGTH)
            _set_automatic(item, natural(), size if written else None)
        item.hypothetical = item.clamped(item.base)

    def natural_height(self, item: FlexItem, natural: "_Natural") -> LayoutUnit:
        """What the content asks for, or what the ratio makes of the width."""
        if item.box.kind is BoxKind.REPLACED or isinstance(item.style.aspect_ratio, str):
            return natural()
        width = natural.fragment.across.content
        by_ratio = ratio_height(item.style, width, item.extra_cross, item.extra_main)
        natural.why = BaseReason.RATIO
        return natural() if by_ratio is None else by_ratio

    def width_of(self, item: FlexItem) -> LayoutUnit | None:
        """The content width of an item that fills the one line; None where its own rules say it."""
        if not (self.is_single and item.stretches):
            return None
        return self.stretched(item, self.area.width - item.margins_cross)

    def lay_out(self, item: FlexItem, cross: LayoutUnit | None) -> Fragment:
        """The item at its target height; percentages inside refer to it where the container's is definite."""
        by_itself = item.base_reason in (BaseReason.BASIS, BaseReason.SIZE)
        definite = self.area.percent_height is not None or by_itself
        width = self.width_of(item) if cross is None else cross
        reasons = SizeReason.LINE, SizeReason.FLEXED
        return self.lay_out_in(
            item, ForcedSize(width, reasons[0], item.target, reasons[1], definite=definite)
        )

    def lay_out_in(self, item: FlexItem, forced: ForcedSize) -> Fragment:
        """The item with what is decided so far."""
        area = self.area
        space = ConstraintSpace(area.width, area.percent_height, Sizing.SHRINK_TO_FIT, forced=forced)
        return self.run.layout(item.box, space)

    def stretched(self, item: FlexItem, room: LayoutUnit) -> LayoutUnit:
        """The content width that fills `room`, within min-width and max-width."""
        extra = item.extra_cross
        wide = max(ZERO, room - extra)
        return limited_width(
            wide, item.style, self.area.width, extra, lambda: self.run.content_sizes(item.box)
        )[0]


class _Natural:
    """The height that an item's content asks for; laid out when it is first wanted."""

    def __init__(self, measuring: AlongHeight, item: FlexItem) -> None:
        self._measuring = measuring
        self._item = item
        self._fragment: Fragment | None = None
        self.why = BaseReason.CONTENT

    @property
    def fragment(self) -> Fragment:
        """The item as high as its content, as wide as it will be."""
        if self._fragment is None:
            width = self._measuring.width_of(self._item)
            forced = ForcedSize(width, SizeReason.LINE)
            self._fragment = self._measuring.lay_out_in(self._item, forced)
        return self._fragment

    def __call__(self) -> LayoutUnit:
        if self._item.box.kind is not BoxKind.REPLACED:
            return self.fragment.down.auto_height
        item, area = self._item, self._measuring.area
        bare = _without_height(item.style)
        width = self._measuring.width_of(item)
        if width is not None:
            bare = replace(bare, width=Length(width / 64), box_sizing="content-box")
        size = replaced_size(
            bare,
            contained_picture(item.box),
            area.width,
            area.percent_height,
            item.extra_cross,
            item.extra_main,
        )
        return size.height


@lru_cache(maxsize=2000)
def _without_width(style: ComputedStyle) -> ComputedStyle:
    return replace(style, width="auto", min_width="auto", max_width="none")


@lru_cache(maxsize=2000)
def _without_height(style: ComputedStyle) -> ComputedStyle:
    return replace(style, height="auto", min_height="auto", max_height="none")
