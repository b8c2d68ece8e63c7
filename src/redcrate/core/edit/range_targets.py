"""Where an edit goes that is for a range of window widths: a rule in the @media block of exactly that range.

It has the selector of the rule that it overrides, and stands behind it; so it wins at the width that is worked at.
"""

from redcrate.core.edit.range_rules import block_for, range_blocks, stands_in
from redcrate.core.edit.rule_places import author_rules
from redcrate.core.edit.targets import (
    ANYWHERE,
    WritesTo,
    WriteTarget,
    label_of,
    matched,
    proposed_selectors,
    selectors_of,
    winner_label,
    write_target,
    write_targets,
)
from redcrate.core.errors import EditRefused
from redcrate.core.explain.terms import physical_winner
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.style.cascade import Applied, Winner
from redcrate.core.style.sheets import Origin, StyleRule
from redcrate.core.style.window_ranges import WindowRange
from redcrate.core.units import format_number


def target_for(
    page: Page, element: Element, longhand: str, to: WritesTo = ANYWHERE, *, alone: bool = False
) -> WriteTarget:
    """Where a new value of `longhand` goes, at all widths or for a range.

    alone: a rule is taken that touches this element only, if there can be one. Raises EditRefused where it would
    lose, and for a range that does not hold the width of the page.
    """
    if to.window is None:
        return write_target(page, element, longhand, to.key)
    width = page.viewport.width
    if not to.window.holds(width):
        raise EditRefused(
            f"edits go to widths {to.window.words} px, and the viewport is {format_number(width)} px wide.",
            remedy="Show a width in that range, or choose all widths.",
        )
    winner = _author_winner(page, element, longhand)
    _check_can_win(element, longhand, winner)
    if winner is not None and not to.key and not alone and _is_for(page, winner.applied.rule, to.window):
        return write_target(page, element, longhand)
    selector, base = _selector(page, element, longhand, to, alone)
    overridden = winner.applied.rule if winner is not None else base
    check_strength(page, element, longhand, selector, winner)
    return _in_range(page, element, longhand, selector, to.window, overridden)


def _author_winner(page: Page, element: Element, longhand: str) -> Winner | None:
    found = page.origin_of(element, physical_winner(page, element, longhand))
    if found is None or found.applied.rule.origin not in (Origin.AUTHOR, Origin.INLINE):
        return None
    return found


def _check_can_win(element: Element, longhand: str, winner: Winner | None) -> None:
    if winner is None:
        return
    name = longhand.replace("-", " ")
    if winner.applied.rule.origin is Origin.INLINE:
        raise EditRefused(
            f"the {name} of {element.label} is in its style attribute, which overrides every rule.",
            remedy="Move its style attribute to a class first.",
        )
    if winner.applied.important:
        raise EditRefused(
            f"{winner_label(winner)} sets the {name} of {element.label} at every width and overrides other rules.",
            remedy="Remove its !important first.",
        )


def _is_for(page: Page, rule: StyleRule, window: WindowRange) -> bool:
    """Whether a rule stands in a block that is exactly this range."""
    return any(b.window == window and stands_in(rule, b.rule) for b in range_blocks(page))


def _selector(
    page: Page, element: Element, longhand: str, to: WritesTo, alone: bool
) -> tuple[str, StyleRule | None]:
    """The selector of a rule for the range: of the rule that is written to at all widths, if that is one."""
    if to.key:
        targets = write_targets(page, element, longhand)
        base = next((t for t in targets if t.key == to.key), None) or write_target(
            page, element, longhand
        )
    else:
        base = write_target(page, element, longhand)
    text = base.selector or (base.rule.label if base.rule is not None else "")
    if text and _means(page, element, text) and not (alone and len(base.touches) > 1):
        return text, base.rule
    proposed = [s for s in proposed_selectors(element) if matched(page, selectors_of(s)) == (element,)]
    return (proposed or proposed_selectors(element))[0], None


def _means(page: Page, element: Element, text: str) -> bool:
    """Whether a selector means the element where it stands alone, not inside another rule."""
    try:
        return "&" not in text and element in matched(page, selectors_of(text))
    except EditRefused:
        return False


def check_strength(
    page: Page, element: Element, longhand: str, selector: str, winner: Winner | None
) -> None:
    """A rule behind the one that wins now needs its specificity, except over a layer (CSS Cascade 5 §6.4.4).

    The selector may be of a class that the element is only to get. Raises EditRefused.
    """
    if winner is None or winner.applied.rule.layer or winner.applied.rule.origin is Origin.USER_AGENT:
        return
    compiled = selectors_of(selector)
    strength = max([s.specificity for s in compiled if s.matches(element)] or [compiled[0].specificity])
    if strength < winner.applied.specificity:
        raise EditRefused(
            f"{longhand.replace('-', ' ')} in {selector} would be overridden by {winner_label(winner)}.",
            remedy="Choose another rule under “Edits go to”.",
        )


def _in_range(
    page: Page,
    element: Element,
    longhand: str,
    selector: str,
    window: WindowRange,
    overridden: StyleRule | None,
) -> WriteTarget:
    """A declaration, a rule, or a new rule in the block of the range, behind the rule that is overridden."""
    block = block_for(page, window, overridden)
    if block is None:
        _check_no_earlier(page, window, overridden)
    else:
        rules = author_rules(page)
        least = rules.index(overridden) if overridden is not None else 0
        for rule in reversed(rules[least:]):
            if stands_in(rule, block.rule) and rule.label == selector:
                applied = _declared(page, element, longhand, rule)
                return WriteTarget(applied, rule, label_of(rule), matched(page, rule.selectors))
    touches = matched(page, selectors_of(selector))
    label = f"new rule {selector} for widths {window.words} px"
    return WriteTarget(None, None, label, touches, selector, "", window, overridden)


def _check_no_earlier(page: Page, window: WindowRange, overridden: StyleRule | None) -> None:
    """A block of the range that stands in front of the rule that wins now is no place to write to."""
    if overridden is not None and any(b.window == window for b in range_blocks(page)):
        raise EditRefused(
            f"at {format_number(page.viewport.width)} px {label_of(overridden)} overrides the rules "
            f"for widths {window.words} px, because it comes later.",
            remedy="Choose the range of that rule, or show a width at which its media query does not apply.",
        )


def _declared(page: Page, element: Element, longhand: str, rule: StyleRule) -> Applied | None:
    """The declaration in a rule that gives the element the longhand."""
    found = page.styled.cascade_of(element).declarations_of(physical_winner(page, element, longhand))
    return next((a for a in reversed(found) if a.rule is rule), None)
