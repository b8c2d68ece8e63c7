"""Giving a measure to a box: which of its terms can take px that were measured, and what they are as a value."""

from redcrate.core.page import ElementBox
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.units import format_number


@dataclass(frozen=True, slots=True)
class Taker:
    """A term that takes a measure. part, sides: as the editor's plan takes them. outer: it is of the border box."""

    words: str
    part: str
    sides: tuple[str, ...]
    outer: bool = False

    @property
    def is_down(self) -> bool:
        """Whether it takes a height."""
        return self.part in ("height", "min-height") or self.sides[0] in ("top", "bottom")

    def typed(self, px: float, box: ElementBox, style: ComputedStyle) -> str:
        """The value that makes it as large as was measured, px: padding and border taken off or added as its sizing asks."""
        if self.part in ("width", "height", "min-height") and self.outer != (
            style.box_sizing == "border-box"
        ):
            around = (
                box.padding.down + box.border.down
                if self.is_down
                else box.padding.across + box.border.across
            )
            px += (-around if self.outer else around) / 64
        return f"{format_number(px)}px"


TAKERS = (
    Taker("border box width", "width", ("",), outer=True),
    Taker("border box height", "height", ("",), outer=True),
    Taker("min-height", "min-height", ("",), outer=True),
    Taker("content width", "width", ("",)),
    Taker("content height", "height", ("",)),
    *(Taker(f"padding {s}", "padding", (s,)) for s in ("left", "right", "top", "bottom")),
    Taker("padding on all sides", "padding", ("left", "right", "top", "bottom")),
    *(Taker(f"margin {s}", "margin", (s,)) for s in ("left", "right", "top", "bottom")),
)
