"""What is done for a range of widths besides typing: leave a block out, copy values, the same as wide again."""

from collections.abc import Mapping, Sequence

from redcrate.core.edit.classes import own_class_name, with_class
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.range_removal import declarations_for, emptied, rules_in
from redcrate.core.edit.range_rules import range_blocks, range_rules_edit
from redcrate.core.edit.range_targets import check_strength, target_for
from redcrate.core.edit.targets import WritesTo, matched
from redcrate.core.edit.writing import Assignment, write_edits
from redcrate.core.errors import EditRefused
from redcrate.core.explain.terms import written_value
from redcrate.core.geometry import NO_EDGES, SIDES, Edges
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.sheets import Declaration, Origin, StyleRule
from redcrate.core.style.window_ranges import WindowRange, plain_range
from redcrate.core.units import format_number, format_px, listed

# What a box is made of, and what it has where nobody wrote it.
_INITIAL = {
    "display": "inline",
    "position": "static",
    "float": "none",
    "clear": "none",
    "box-sizing": "content-box",
    "width": "auto",
    "min-width": "auto",
    "max-width": "none",
    "height": "auto",
    "min-height": "auto",
    "max-height": "none",
    **{f"margin-{s}": "0" for s in SIDES},
    **{f"border-{s}-width": "medium" for s in SIDES},
    **{f"border-{s}-style": "none" for s in SIDES},
    **{f"padding-{s}": "0" for s in SIDES},
    "text-align": "start",
}


@dataclass(frozen=True, slots=True)
class RangeValue:
    """A declaration that an element has for a range only."""

    rule: StyleRule
    declaration: Declaration

    @property
    def words(self) -> str:
        """As it is written."""
        return f"{self.declaration.name}: {self.declaration.text}"


def values_for(page: Page, element: Element, window: WindowRange) -> tuple[RangeValue, ...]:
    """What the blocks of exactly this range declare for an element."""
    found = []
    for block in range_blocks(page):
        if block.window == window:
            mine = (r for r in rules_in(page, block.rule) if element in matched(page, r.selectors))
            found += [RangeValue(r, d) for r in mine for d in r.declarations]
    return tuple(found)


def same_again(
    page: Page, texts: Mapping[str, str], element: Element, values: Sequence[RangeValue]
) -> Patch:
    """The patch that takes values for a range out again. Raises EditRefused where there are none."""
    if not values:
        raise EditRefused(f"{element.label} has no overrides for this range.")
    out: dict[StyleRule, list[Declaration]] = {}
    for value in values:
        out.setdefault(value.rule, []).append(value.declaration)
    words = ", ".join(v.words for v in values)
    return Patch(tuple(emptied(page, texts, out)), f"{element.label}: overrides removed ({words})")


def copied(page: Page, other: Page, texts: Mapping[str, str], element: Element, to: WritesTo) -> Patch:
    """The patch that gives an element, in a range, the box values that it has on a page of another width.

    Raises EditRefused where they are the same, or where they would lose.
    """
    assignments = []
    for longhand in _INITIAL:
        there = _value(other, element, longhand)
        if _value(page, element, longhand) != there:
            assignments.append(Assignment(longhand, there))
    width = format_number(other.viewport.width)
    if not assignments:
        raise EditRefused(f"{element.label} has the same values as at {width} px.")
    edits = write_edits(page, texts, element, assignments, to)
    words = ", ".join(f"{a.longhand} {a.value}" for a in assignments)
    return Patch(tuple(edits), f"{element.label} as at {width} px: {words}")


def _value(page: Page, element: Element, longhand: str) -> str:
    """What an element has for a longhand: as it was written, or in px where that is no value of it alone.

    So `border: 2px solid` and a shorthand with var() give each side its own.
    """
    text, source = written_value(page, element, longhand)
    text = text or _INITIAL[longhand]
    own = source is None or source.declaration.startswith(f"{longhand}:") or "var(" not in text
    if own and parse_declaration(longhand, component_values(text)) is not None:
        return text
    part, side, *more = longhand.split("-")
    if more == ["style"]:
        return str(getattr(page.style_of(element), f"border_{side}_style"))
    box = page.box_of(element)
    used: Edges = getattr(box, part) if box is not None else NO_EDGES
    return f"{format_px(used.side(side))}px"


def leave_out(page: Page, texts: Mapping[str, str], element: Element, window: WindowRange) -> Patch:
    """The patch that leaves an element out in a range (display: none); where only a class tells it from others
    alike, it gets one of its own. Raises EditRefused where it would lose.
    """
    sentence = f"{element.label} hidden, {window.words} px"
    none = Assignment("display", "none")
    to = WritesTo(window=window)
    if target_for(page, element, "display", to, alone=True).touches == (element,):
        return Patch(tuple(write_edits(page, texts, element, [none], to, alone=True)), sentence)
    name = own_class_name(page, element)
    check_strength(page, element, "display", f".{name}", page.origin_of(element, "display"))
    given = with_class(page.source.markup, (element,), name)
    winner = page.origin_of(element, "display")
    wins = winner is not None and winner.applied.rule.origin is Origin.AUTHOR
    after = winner.applied.rule if winner is not None and wins else None
    edit = range_rules_edit(page, texts, window, [(f".{name}", "display: none")], after)
    return Patch((*given.edits, edit), f"{sentence}, with a new class ({name})")


def left_out(page: Page) -> tuple[Element, ...]:
    """The elements of the body that a rule for a range of widths leaves out on this page, the outermost ones."""
    found: dict[Element, None] = {}
    for element in page.elements:
        if page.style_of(element).display != "none" or any(a in found for a in element.ancestors()):
            continue
        winner = page.origin_of(element, "display")
        if winner is not None and any(m.queries for m in winner.applied.rule.media):
            found[element] = None
    return tuple(found)


def bring_back(page: Page, texts: Mapping[str, str], element: Element) -> Patch:
    """The patch that takes out what leaves an element out on this page. Raises EditRefused where nothing does."""
    winner = page.origin_of(element, "display")
    if winner is None or page.style_of(element).display != "none" or not winner.applied.rule.media:
        raise EditRefused(f"no rule for a range of widths hides {element.label}.")
    rule = winner.applied.rule
    window = plain_range(rule.media)
    words = f", {window.words} px" if window is not None else ""
    out = declarations_for(page, [rule], ["display"])
    return Patch(tuple(emptied(page, texts, out)), f"{element.label} shown{words}")


def told_changes(changed: Mapping[float, int]) -> str:
    """At which widths boxes change, and that nothing does at the others."""
    some = [format_number(w) for w, n in sorted(changed.items(), reverse=True) if n]
    none = [format_number(w) for w, n in sorted(changed.items(), reverse=True) if not n]
    if not some:
        return f"No box changes at {listed(none)} px."
    rest = f", none at {listed(none)} px" if none else ""
    return f"Boxes change at {listed(some)} px{rest}."
