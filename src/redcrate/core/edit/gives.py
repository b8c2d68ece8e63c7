"""Which term gives way when another one changes: the box, its content, or its margins.

The arithmetic that people otherwise do in their heads: padding grows by 54, so width 620 → 566.
Values keep their unit: px and em are subtracted from, a percentage becomes `calc(% - px)`.
"""

from collections.abc import Mapping

from redcrate.core.edit.kept_columns import kept_column
from redcrate.core.edit.measures import computed_length, specified, used_length
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.targets import ANYWHERE, WritesTo
from redcrate.core.edit.typed import format_length
from redcrate.core.edit.working import working
from redcrate.core.edit.writing import Assignment, write_all
from redcrate.core.errors import EditRefused
from redcrate.core.explain.across import longhand_of
from redcrate.core.explain.flexed import flex_sum
from redcrate.core.labelled import Labelled
from redcrate.core.layout.flex_facts import BaseReason
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.records import dataclass
from redcrate.core.rows.containers import gaps_of
from redcrate.core.style.properties import PROPERTIES
from redcrate.core.style.values import CalcNode, Dimension, Length
from redcrate.core.units import ZERO, LayoutUnit, format_px

# What is typed as it is called: sizes, and the gaps of a container.
SIZES = ("width", "height", "min-height", "column-gap", "row-gap")


_GAPS = ("column-gap", "row-gap")
_WORDS = ("flex-grow", "flex-shrink", "flex-basis")
_BY_CONTAINER = frozenset(
    (SizeReason.FLEXED, SizeReason.LINE, SizeReason.AREA, SizeReason.COLUMNS, SizeReason.ROWS)
)


class Gives(Labelled):
    """What gives way; the values are the words of the interface."""

    BOX = "box", "Box changes"
    CONTENT = "content", "Content adapts"
    MARGINS = "margins", "Margins adapt"


@dataclass(frozen=True, slots=True)
class Plan:
    """A change with its compensation, before it happens.

    lines: what will be written, in words ("width 620px → 566px"). note: why nothing needs to be
    written for the compensation, "" where something is. asked: what was asked for, without what gives way.
    """

    patch: Patch
    lines: tuple[str, ...]
    note: str
    asked: str


def plan_term(
    page: Page,
    texts: Mapping[str, str],
    element: Element,
    part: str,
    sides: tuple[str, ...],
    value: str,
    gives: Gives,
    writes_to: WritesTo = ANYWHERE,
) -> Plan:
    """Set a term to `value` (valid CSS) on one or more sides, and let something give way.

    part: "margin", "border", "padding" or "content"; sides: "left" and so on, or ("",) with the axis
    told by "width", "height" or "min-height" as part. writes_to: where it is wanted.
    Raises EditRefused with how many px are short.
    """
    box = page.box_of(element)
    if box is None:
        raise EditRefused(f"{element.label} has no box on this page.")
    planner = Planner(page, element, box)
    if part in ("width", "height"):
        planner.set_size(part, value)
    elif part in SIZES:
        planner.set(part, value)
    else:
        for side in sides:
            planner.set_side(part, side, value)
    planner.asked = len(planner.lines)
    if part in ("padding", "border") and gives is not Gives.BOX:
        for axis, ends in (("across", ("left", "right")), ("down", ("top", "bottom"))):
            grown = {s: planner.growth[s] for s in sides if s in ends}
            if any(grown.values()):
                planner.compensate(axis, grown, gives)
    return planner.plan(texts, writes_to)


class Planner:
    """Collects assignments and what they are in words."""

    def __init__(self, page: Page, element: Element, box: ElementBox) -> None:
        self.page = page
        self.element = element
        self.box = box
        self.assignments: list[Assignment] = []
        self.of_container: list[tuple[Element, list[Assignment]]] = []
        self.lines: list[str] = []
        self.notes: list[str] = []
        self.growth: dict[str, LayoutUnit] = {}
        self.asked: int | None = None  # so many lines are of what was asked for; None: all

    @property
    def basis(self) -> LayoutUnit:
        """What percentages refer to: the containing block's width."""
        if self.box.box is not None:
            return self.box.box.fragment.across.basis
        return self.box.container.content_rect.width if self.box.container else ZERO

    def set(self, longhand: str, value: str) -> None:
        """One longhand gets a value."""
        before = self.written(longhand)
        self.assignments.append(Assignment(longhand, value))
        self.lines.append(f"{longhand.replace('-', ' ')} {before} → {value}")

    def set_size(self, longhand: str, value: str) -> None:
        """A width or height gets a value, by the property that works in its line."""
        found = working(self.box, longhand)
        self.set(found.longhand, value)
        for other, text in found.also:
            self.set(other, text)
        if found.note:
            self.notes.append(found.note)

    def written(self, longhand: str) -> str:
        """The value now, in words."""
        value = specified(self.page, self.element, longhand)
        if isinstance(value, Dimension):
            return f"{format_length(value.value)}{value.unit}" if value.value else "0"
        if isinstance(value, (str, float)):
            return f"{value:g}" if isinstance(value, float) else value
        if value is None and longhand in _WORDS:
            return str(PROPERTIES[longhand].initial)
        return f"{format_px(self.used(longhand))}px"

    def used(self, longhand: str) -> LayoutUnit:
        """The used value of a box property now, 1/64 px."""
        words = longhand.split("-")
        if longhand in _GAPS and self.box.box is not None:
            return gaps_of(self.box.box.fragment.facts)[_GAPS.index(longhand)]
        if longhand in ("width", "height"):
            inner = self.box.content_box
            return inner.width if longhand == "width" else inner.height
        edges = {"margin": self.box.margin, "border": self.box.border, "padding": self.box.padding}
        return edges[words[0]].side(words[1]) if words[0] in edges else ZERO

    def set_side(self, part: str, side: str, value: str) -> None:
        """One side of margin, border or padding gets a value; notes by how much it grows."""
        axis = "across" if side in ("left", "right") else "down"
        longhand = longhand_of(part, side, axis)
        new = used_length(self.page, self.element, longhand, value, self.basis)
        old = self.used(longhand)
        if part == "border" and new and self.border_is_none(side):
            self.assignments.append(Assignment(f"border-{side}-style", "solid"))
            self.lines.append(f"border {side} style none → solid")
        self.growth[side] = (new if new is not None else old) - old
        self.set(longhand, value)

    def border_is_none(self, side: str) -> bool:
        """Whether a border width would do nothing, because there is no border style."""
        style = self.page.style_of(self.element)
        return getattr(style, f"border_{side}_style") in ("none", "hidden")

    def compensate(self, axis: str, grown: dict[str, LayoutUnit], gives: Gives) -> None:
        """Let content or margins give way on one axis."""
        if self.box.box is None:
            self.notes.append("An inline element has no width: it is as wide as its text.")
        elif gives is Gives.CONTENT:
            self.content_gives(axis, sum(grown.values(), ZERO))
        else:
            for side, amount in grown.items():
                self.margin_gives(axis, side, amount)

    def content_gives(self, axis: str, amount: LayoutUnit) -> None:
        """The border box keeps its size: the size value becomes smaller by `amount`."""
        assert self.box.box is not None
        fragment = self.box.box.fragment
        name = "width" if axis == "across" else "height"
        sizes = fragment.across if axis == "across" else fragment.down
        if not sizes.limit and sizes.reason in _BY_CONTAINER:
            self.item_gives(name, amount, sizes.content)
            return
        self.check_content(sizes.content, amount)
        style = self.page.style_of(self.element)
        if style.box_sizing == "border-box" and (
            sizes.limit or sizes.reason in (SizeReason.SPECIFIED, SizeReason.PERCENT)
        ):
            self.notes.append(
                f"box-sizing is border-box: the {name} includes padding and border, so no other value changes."
            )
            return
        longhand = sizes.limit or name
        if not sizes.limit and sizes.reason not in (SizeReason.SPECIFIED, SizeReason.PERCENT):
            self.notes.append(self.no_need(axis, sizes.reason))
            return
        self.subtract(longhand, amount, sizes.content)
        floor = f"min-{name}"
        if longhand != floor and self.falls_below(floor, sizes.content - amount, axis):
            self.subtract(floor, amount, sizes.content)

    def item_gives(self, name: str, amount: LayoutUnit, used: LayoutUnit) -> None:
        """An item whose container decides: it gives by itself, unless its base size stands as it is."""
        if name == "width" and self.column_keeps():
            return
        found = flex_sum(self.box)
        if found is None or found.along != name or found.share or found.beyond:
            what = "line" if found is not None else "container"
            self.notes.append(
                f"Its {what} sets the {name}: the content adapts, so no other value changes."
            )
            return
        style = self.page.style_of(self.element)
        is_basis = found.item.base_reason is BaseReason.BASIS
        if not is_basis and found.item.base_reason is not BaseReason.SIZE:
            self.notes.append(f"The {name} is auto and comes from the content, so the box changes.")
        elif style.box_sizing == "border-box":
            self.notes.append(
                f"box-sizing is border-box: the {name} includes padding and border, so no other value changes."
            )
        else:
            self.check_content(used, amount)
            self.subtract("flex-basis" if is_basis else name, amount, used)

    def column_keeps(self) -> bool:
        """Whether the item's column would grow with its padding, and is written to keep its size instead."""
        kept = kept_column(self.page, self.box)
        if kept is None:
            return False
        grid, value = kept
        name = "grid-template-columns"
        self.of_container.append((grid, [Assignment(name, value)]))
        self.lines.append(f"columns of {grid.label} → {value}")
        self.notes.append("Its column depends on its content, so the column gets its current size.")
        return True

    @staticmethod
    def check_content(content: LayoutUnit, amount: LayoutUnit) -> None:
        """Content of that size cannot give more than it has."""
        if content < amount:
            raise EditRefused(
                f"the content would be negative: short by {format_px(amount - content)} px.",
                remedy="Type less, or choose “Box changes”.",
            )

    def no_need(self, axis: str, reason: SizeReason) -> str:
        """Why an auto size needs no subtraction."""
        if axis == "down":
            return "The height is auto: it comes from the content, so no compensation is needed."
        if reason is SizeReason.FILL:
            return "The width is auto: the content adapts, so no other value changes."
        return f"The width is not set ({reason.value}), so the box changes."

    def falls_below(self, longhand: str, size: LayoutUnit, axis: str) -> bool:
        """Whether a smallest size would take over at `size`."""
        value = specified(self.page, self.element, longhand)
        if not isinstance(value, (Dimension, CalcNode)):
            return False
        basis = self.basis if axis == "across" else ZERO
        return computed_length(self.page, self.element, value).resolve(basis) > size

    def subtract(self, longhand: str, amount: LayoutUnit, used: LayoutUnit) -> None:
        """`longhand` becomes smaller by `amount`, in its own unit."""
        value = specified(self.page, self.element, longhand)
        self.set(longhand, self.less(value, amount, used))

    def less(self, value: object, amount: LayoutUnit, used: LayoutUnit) -> str:
        """The text of a length less `amount`."""
        if not isinstance(value, (Dimension, CalcNode)):
            return f"{format_length((used - amount) / 64)}px"
        length = computed_length(self.page, self.element, value)
        if isinstance(value, Dimension) and value.unit not in ("%", ""):
            one = computed_length(self.page, self.element, Dimension(1.0, value.unit))
            return f"{format_length(value.value - amount / 64 / one.resolve_px(0.0))}{value.unit}"
        if isinstance(length, Length):
            return linear_text(length.px - amount / 64, length.percent)
        return f"{format_length((used - amount) / 64)}px"

    def margin_gives(self, axis: str, side: str, amount: LayoutUnit) -> None:
        """The margin box keeps its size: the margin of the same side becomes smaller."""
        longhand = f"margin-{side}"
        value = specified(self.page, self.element, longhand)
        if value == "auto":
            self.notes.append(f"The {side} margin is auto: it adapts.")
            return
        self.subtract(longhand, amount, self.used(longhand))

    def plan(self, texts: Mapping[str, str], writes_to: WritesTo = ANYWHERE) -> Plan:
        """The patch of all assignments."""
        values = [(self.element, self.assignments), *self.of_container]
        edits = write_all(values, self.page, texts, writes_to)
        label = self.element.label
        patch = Patch(tuple(edits), f"{label}: {'; '.join(self.lines)}")
        asked = f"{label}: {'; '.join(self.lines[: self.asked])}"
        return Plan(patch, tuple(self.lines), " ".join(self.notes), asked)


def linear_text(px: float, percent: float) -> str:
    """A length of px and percent as CSS: `12px`, `50%`, or `calc(50% - 12px)`."""
    if percent == 0:
        return f"{format_length(px)}px"
    if round(px, 4) == 0:
        return f"{format_length(percent)}%"
    sign = "-" if px < 0 else "+"
    return f"calc({format_length(percent)}% {sign} {format_length(abs(px))}px)"
