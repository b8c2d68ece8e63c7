"""free-room-taken: auto margins that take the free room of a line before justify-content or align-self share it."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.flex_facts import FlexedLine, FlexFacts
from redcrate.core.markup.elements import Element
from redcrate.core.units import ZERO, format_px

# Where items stand anyway: taking such a value away changes nothing that was meant.
_AT_START = ("normal", "start", "flex-start", "left", "stretch")
_ENDS = {True: ("left", "right"), False: ("top", "bottom")}


def find(look: Look) -> Iterator[Finding]:
    """CSS Flexbox 1 §8.1, §9.5: the lines of containers whose justify-content has nothing left to share."""
    for element, box in look.boxes:
        facts = None if box.box is None else box.box.fragment.facts
        if not isinstance(facts, FlexFacts) or look.winner(element, "justify-content") is None:
            continue
        if look.style(element).justify_content in _AT_START:
            continue
        if not facts.lines or any(line.left > 0 for line in facts.lines):
            continue
        taken = [line for line in facts.lines if line.in_margins]
        if taken:
            yield _finding(look, element, taken, _ENDS[facts.is_row])


def _finding(look: Look, container: Element, lines: list[FlexedLine], sides: tuple[str, str]) -> Finding:
    room = sum((line.in_margins for line in lines), ZERO)
    items = [i.box.element for line in lines for i in line.items if i.box.element is not None]
    takers = {e: auto for e in items if (auto := [f"margin-{s}" for s in sides if _is_auto(look, e, s)])}
    first = next(iter(takers)).label
    who = first if len(takers) == 1 else f"{first} and {len(takers) - 1} more"
    value = look.written(container, "justify-content")
    text = f"justify-content: {value} of {container.label} has no effect: the auto margins of {who} use the "
    text += f"{format_px(room)} px of free width."
    winner = look.winner(container, "justify-content")
    ways = [look.removing("Keep the margins, remove justify-content", winner)] if winner else []
    zeros = [(taker, margin, "0") for taker, margins in takers.items() for margin in margins]
    ways.append(look.setting(f"Remove the auto margins, keep justify-content: {value}", *zeros))
    source = look.source(container, "justify-content")
    elements = (container, *takers)
    return Finding(
        "free-room-taken", Severity.ADVICE, text, elements, {"room": room / 64}, source, tuple(ways)
    )


def _is_auto(look: Look, element: Element, side: str) -> bool:
    return bool(getattr(look.style(element), f"margin_{side}") == "auto")


FAMILY = Family(
    "free-room-taken",
    "Free width used by auto margins",
    "Auto margins of an item use all of the free width of its line, so justify-content has none to share.",
    "<div style='display:flex;justify-content:space-between;width:220px'><p style='margin:0'>one</p>"
    "<p style='margin:0'>two</p><p style='margin:0 0 0 auto'>three</p></div>",
    find,
)
