"""Fitting blocks into a row: how many, how wide, with which gap; safe after the cut to 1/64 px."""

from math import floor

from redcrate.core.errors import EditRefused
from redcrate.core.labelled import Labelled
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, format_number, from_px


class FitUnit(Labelled):
    """In what the width is written; the values are the words of the interface."""

    SHARE = "share", "share (calc)"
    PERCENT = "percent", "%"
    PX = "px", "px"


class FitWay(Labelled):
    """What the row is made of; the values are the words of the interface."""

    FLOATS = "floats", "floats"
    INLINE = "inline", "inline-blocks"
    FLEX = "flex", "flex line"
    GRID = "grid", "grid"


@dataclass(frozen=True, slots=True)
class RowWish:
    """What is wanted: `count` blocks beside each other. All amounts in px.

    padding, border: of one side. border_box: whether the width holds them. first_share: the % of the
    first block where shares are unequal (the rest is shared equally); 0: all alike. first_px: its width
    in px instead, as for a sidebar.
    """

    count: int
    gap: float = 0.0
    padding: float = 0.0
    border: float = 0.0
    border_box: bool = True
    unit: FitUnit = FitUnit.SHARE
    first_share: float = 0.0
    first_px: float = 0.0


@dataclass(frozen=True, slots=True)
class RowFit:
    """The widths to write, the outer widths that they come to and what is left, 1/64 px."""

    widths: tuple[str, ...]
    outer: tuple[LayoutUnit, ...]
    left: LayoutUnit

    @property
    def sentence(self) -> str:
        """As the interface says it."""
        each = " + ".join(format_number(o / 64) for o in dict.fromkeys(self.outer))
        return f"{len(self.outer)} blocks of {each} px, {format_number(self.left / 64)} px free"


def fit(room: LayoutUnit, wish: RowWish) -> RowFit:
    """The widths for a row in `room` (1/64 px). Raises EditRefused where nothing is left for the content."""
    if not 1 <= wish.count <= 60 or wish.gap < 0:
        raise EditRefused("a row has 1 to 60 blocks, and its gap is not negative.")
    extra = 2 * (wish.padding + wish.border)
    gaps = wish.gap * (wish.count - 1)
    taken = 0.0 if wish.border_box else extra
    fixed = wish.first_px + (0 if wish.border_box else extra) if wish.first_px else 0.0
    rest = wish.count - 1 if wish.first_px or wish.first_share else wish.count
    widths: list[str] = []
    outer: list[LayoutUnit] = []
    for number in range(wish.count):
        first = number == 0 and rest < wish.count
        if first and wish.first_px:
            text, width = f"{format_number(wish.first_px)}px", from_px(wish.first_px)
        else:
            share = wish.first_share if first else 100 - wish.first_share
            parts = 1 if first else max(1, rest)
            text, width = _one(room, share, gaps, fixed, parts, taken, wish, first)
        if width <= 0 or (wish.border_box and width < from_px(extra)):
            raise EditRefused(
                f"no width is left for the content: short by {format_number(-(width - from_px(extra)) / 64)} px.",
                remedy="Use fewer blocks, a smaller gap or less padding.",
            )
        widths.append(text)
        outer.append(width if wish.border_box else width + from_px(extra))
    left = room - sum(outer) - from_px(gaps)
    return RowFit(tuple(widths), tuple(outer), left)


def _one(
    room: LayoutUnit,
    share: float,
    gaps: float,
    fixed: float,
    parts: int,
    taken: float,
    wish: RowWish,
    first: bool,
) -> tuple[str, LayoutUnit]:
    """One width as text and as used content (or border-box) width; sums never exceed the room.

    The gaps are taken off the blocks that share the rest.
    """
    off = 0.0 if first else gaps + fixed
    px = (room / 64 * share / 100 - off) / parts - taken
    if wish.unit is FitUnit.PX:
        cut = floor(px * 64) / 64
        cut = floor(cut * 100) / 100
        return f"{cut:.2f}".rstrip("0").rstrip(".") + "px", from_px(cut)
    if wish.unit is FitUnit.PERCENT:
        percent = floor(px / (room / 64) * 1_000_000) / 10_000 if room else 0.0
        return f"{percent:.4f}".rstrip("0").rstrip(".") + "%", from_px(room / 64 * percent / 100)
    whole = f"{format_number(share)}%"
    inner = f"({whole} - {format_number(off)}px)" if off else whole
    text = f"{inner} / {parts}" if parts > 1 else inner.strip("()")
    text = f"{text} - {format_number(taken)}px" if taken else text
    return (whole if text == whole else f"calc({text})"), from_px(px)


def how_many(room: LayoutUnit, width: float, gap: float) -> tuple[int, float]:
    """How many blocks of `width` px fit with at least `gap` px between, and the gap that then fills the room."""
    if width <= 0:
        raise EditRefused("the width of a block must be more than 0 px.")
    px = room / 64
    count = max(0, floor((px + gap + 1e-9) / (width + gap)))
    if count < 2:
        return count, 0.0
    return count, floor((px - count * width) / (count - 1) * 64) / 64
