"""The lines of flex containers as findings look at them: which overflow, and who holds on to its size."""

from collections.abc import Iterator

from redcrate.core.findings.look import Look
from redcrate.core.layout.flex_facts import FlexedItem, FlexedLine, FlexFacts, FlexLimit
from redcrate.core.markup.elements import Element
from redcrate.core.page import PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit

_SLACK = 32  # half a px: nobody sees less


@dataclass(frozen=True, slots=True)
class FullLine:
    """A line across whose items need more than there is. over: by how much, 1/64 px."""

    container: Element
    at: PlacedBox
    line: FlexedLine
    over: LayoutUnit

    @property
    def holding(self) -> list[FlexedItem]:
        """The items that would shrink, but for their automatic minimum."""
        return [
            i for i in self.line.items if i.limit is FlexLimit.AUTOMATIC and i.box.element is not None
        ]


def full_lines(look: Look) -> list[FullLine]:
    """All lines of a page that overflow a container which lets that be seen."""
    return look.once("full lines", lambda: list(_full_lines(look)))


def _full_lines(look: Look) -> Iterator[FullLine]:
    for element, box in look.boxes:
        facts = None if box.box is None else box.box.fragment.facts
        if box.box is None or not isinstance(facts, FlexFacts) or not facts.is_row:
            continue
        if look.style(element).overflow_x not in ("visible", "clip"):
            continue
        for line in facts.lines:
            if -line.left > _SLACK and line.items:
                yield FullLine(element, box.box, line, LayoutUnit(-line.left))
