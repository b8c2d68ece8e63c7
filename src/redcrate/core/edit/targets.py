"""Where an edit may be written, how many elements it would touch there, and whether it would win.

The default: the rule that wins now if it is the author's; else the narrowest rule that only this
element's class or id has; else the element's own style.
"""

from collections.abc import Iterator

from tinycss2.serializer import serialize_identifier

from redcrate.core.errors import EditRefused
from redcrate.core.explain.terms import physical_winner
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.cascade import Applied, Specificity, Winner
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.selectors import Selector, SelectorNotUnderstood, compile_selectors
from redcrate.core.style.sheets import Origin, StyleRule
from redcrate.core.style.window_ranges import WindowRange

OWN_STYLE = "style attribute"


@dataclass(frozen=True, slots=True)
class WritesTo:
    """Where a designer wants edits to go. key: of a chosen target; "": the default one. window: the range of
    window widths that they are for; None: all.
    """

    key: str = ""
    window: WindowRange | None = None


ANYWHERE = WritesTo()


@dataclass(frozen=True, slots=True, eq=False)
class WriteTarget:
    """Where a value goes.

    applied: the author's declaration that is changed, if there is one. rule: the rule that gets a new
    declaration else; None for the element's own style and for a new rule. selector: of a rule that is
    made; else "". label: as people read it. touches: the elements that it is about. loses_to: what
    would win over a value written here; "" if the value itself would win. window: of the @media block that
    a rule is made in, behind the rule `after`; None: in none.
    """

    applied: Applied | None
    rule: StyleRule | None
    label: str
    touches: tuple[Element, ...]
    selector: str = ""
    loses_to: str = ""
    window: WindowRange | None = None
    after: StyleRule | None = None

    @property
    def key(self) -> str:
        """What names this target among those of the element, also after an edit."""
        if self.selector:
            return f"new {self.selector}"
        return self.label if self.rule is None else f"{self.rule.file} {self.label}"

    @property
    def place(self) -> str:
        """The file and line of the rule, or the file that it will stand in; "" where that is not known."""
        if self.rule is not None:
            return f"{self.rule.file} line {self.rule.line}"
        return self.after.file if self.after is not None else ""


def write_target(page: Page, element: Element, longhand: str, key: str = "") -> WriteTarget:
    """Where a new value of `longhand` goes; `key` chooses another target than the default one.

    A chosen target that is not there for this longhand falls back to the default. Raises EditRefused
    if the chosen one would lose in the cascade.
    """
    if key:
        chosen = next((t for t in _targets(page, element, longhand) if t.key == key), None)
        if chosen is not None and chosen.loses_to:
            raise EditRefused(
                f"{longhand.replace('-', ' ')} in {chosen.label} would be overridden by {chosen.loses_to}.",
                remedy="Choose another rule under “Edits go to”.",
            )
        if chosen is not None:
            return chosen
    return _default(page, element, longhand)


def _default(page: Page, element: Element, longhand: str) -> WriteTarget:
    winner = page.origin_of(element, physical_winner(page, element, longhand))
    if winner is not None and winner.applied.rule.origin in (Origin.AUTHOR, Origin.INLINE):
        rule = winner.applied.rule
        return WriteTarget(winner.applied, rule, label_of(rule), touched(page, rule, element))
    narrowest = _narrowest_rule(page, element)
    if narrowest is not None:
        return WriteTarget(None, narrowest, label_of(narrowest), touched(page, narrowest, element))
    return WriteTarget(None, None, OWN_STYLE, (element,))


def write_targets(page: Page, element: Element, longhand: str) -> tuple[WriteTarget, ...]:
    """All places for a value of `longhand`: matching rules from the strongest down, its own style,
    and new rules.
    """
    return tuple(_targets(page, element, longhand))


def _targets(page: Page, element: Element, longhand: str) -> Iterator[WriteTarget]:
    """The same one by one, since whom a selector touches takes a look at every element."""
    name = physical_winner(page, element, longhand)
    winner = page.origin_of(element, name)
    known: set[str] = set()
    for target in _rule_targets(page, element, name, winner):
        if target.rule is not None and not target.rule.media:
            known.add(target.rule.selector_text)
        yield target
    yield _own_target(page, element, name, winner)
    yield from (t for t in _new_targets(page, element, winner) if t.selector not in known)


def label_of(rule: StyleRule) -> str:
    """A rule as people read it: its selector, and the blocks that it stands in."""
    if rule.origin is Origin.INLINE:
        return OWN_STYLE
    media = " and ".join(m.text for m in rule.media)
    layer = ".".join(rule.layer) if not any(":" in name for name in rule.layer) else ""
    around = (f" @media {media}" if media else "") + (f" @layer {layer}" if layer else "")
    return f"{rule.label}{around}"


def touched(page: Page, rule: StyleRule, element: Element) -> tuple[Element, ...]:
    """The elements that match a rule; the element alone for its own style."""
    return (element,) if rule.origin is Origin.INLINE else matched(page, rule.selectors)


def matched(page: Page, selectors: tuple[Selector, ...]) -> tuple[Element, ...]:
    """The elements of the page that match any of `selectors`, in document order.

    Only those are tried that have the tag, id or class that a selector's last part asks for.
    """
    plain = [s for s in selectors if not s.pseudo]
    found = dict.fromkeys(e for selector in plain for e in _matched_by(page, selector))
    return tuple(found if len(plain) == 1 else sorted(found, key=lambda e: e.index))


def is_used(page: Page, selectors: tuple[Selector, ...]) -> bool:
    """Whether any element of the page matches any of `selectors`; the first one that does is enough."""
    return any(
        True for selector in selectors if not selector.pseudo for _ in _matched_by(page, selector)
    )


def _matched_by(page: Page, selector: Selector) -> Iterator[Element]:
    kind, name = selector.key
    candidates = page.elements if kind == "any" else page.source.markup.named(kind, name)
    return (e for e in candidates if selector.matches(e))


def selectors_of(text: str) -> tuple[Selector, ...]:
    """The compiled selectors of a text; raises EditRefused if it is none."""
    try:
        return tuple(compile_selectors(component_values(text)))
    except SelectorNotUnderstood as problem:
        raise EditRefused(f"“{text}” is not a selector ({problem}).") from None


def _narrowest_rule(page: Page, element: Element) -> StyleRule | None:
    """The author's rule about the element's id or class with the fewest elements; the later one wins."""
    best: tuple[int, StyleRule] | None = None
    counts: dict[object, int] = {}  # by selectors: sheets that were put together have many rules of one
    for rule in _author_rules(page, element):
        if rule.media or not any(
            s.key[0] in ("id", "class") and s.matches(element) for s in rule.selectors
        ):
            continue
        key = tuple((s.text, s.pseudo, s.scope) for s in rule.selectors)
        if key not in counts:
            counts[key] = len(touched(page, rule, element))
        count = counts[key]
        if best is None or count <= best[0]:
            best = (count, rule)
    return best[1] if best else None


def _author_rules(page: Page, element: Element) -> list[StyleRule]:
    """The author's rules that match, ascending in precedence."""
    index = page.styled.index
    return [r for r, _ in index.applied(index.matching(element)) if r.origin is Origin.AUTHOR]


def _rule_targets(
    page: Page, element: Element, longhand: str, winner: Winner | None
) -> Iterator[WriteTarget]:
    ascending = _author_rules(page, element)
    winning = winner.applied.rule if winner is not None else None
    at = next((i for i, r in enumerate(ascending) if r is winning), -1)
    cascaded = page.styled.cascade_of(element)
    for i in range(len(ascending) - 1, -1, -1):
        rule = ascending[i]
        applied = next((a for a in reversed(cascaded.declarations_of(longhand)) if a.rule is rule), None)
        loses = ""
        if (
            winner is not None
            and rule is not winning
            and winner.applied.rule.origin is not Origin.USER_AGENT
        ):
            important = applied is not None and applied.important
            stronger = winner.applied.important and not important
            own = winning is not None and winning.origin is Origin.INLINE
            inline = own and winner.applied.important == important
            turned = important and winning is not None and winning.layer != rule.layer
            behind = i > at if turned else i < at  # of important ones the earlier layer wins
            if stronger or inline or (behind and winner.applied.important == important):
                loses = winner_label(winner)
        yield WriteTarget(applied, rule, label_of(rule), touched(page, rule, element), "", loses)


def winner_label(winner: Winner) -> str:
    """A declaration that wins, with its place."""
    rule = winner.applied.rule
    important = " (!important)" if winner.applied.important else ""
    return f"{label_of(rule)}, {rule.file} line {winner.applied.declaration.line}{important}"


def _own_target(page: Page, element: Element, longhand: str, winner: Winner | None) -> WriteTarget:
    rule = page.source.inline_rules.get(element)
    applied = None
    if rule is not None:
        found = page.styled.cascade_of(element).declarations_of(longhand)
        applied = next((a for a in reversed(found) if a.rule is rule), None)
    loses = ""
    if winner is not None and winner.applied.important and winner.applied.rule.origin is Origin.AUTHOR:
        loses = winner_label(winner)
    return WriteTarget(applied, rule if applied else None, OWN_STYLE, (element,), "", loses)


def _new_targets(page: Page, element: Element, winner: Winner | None) -> Iterator[WriteTarget]:
    """Rules that could be made: for its id, a class, a class within an ancestor, its tag."""
    for selector in proposed_selectors(element):
        compiled = selectors_of(selector)
        loses = ""
        if winner is not None and winner.applied.rule.origin in (Origin.AUTHOR, Origin.INLINE):
            inline = winner.applied.rule.origin is Origin.INLINE
            layered = bool(winner.applied.rule.layer)  # it loses to any rule in none
            weaker = not layered and compiled[0].specificity < _specificity(winner)
            if inline or winner.applied.important or weaker:
                loses = winner_label(winner)
        yield WriteTarget(None, None, f"new rule {selector}", matched(page, compiled), selector, loses)


def _specificity(winner: Winner) -> Specificity:
    return winner.applied.specificity


def proposed_selectors(element: Element) -> list[str]:
    """Selectors that mean the element, the plainest first: #id, .class, .ancestor .class, tag."""
    own = [f".{serialize_identifier(c)}" for c in element.classes]
    found = [f"#{serialize_identifier(element.id)}"] if element.id else []
    found += own
    above = next((a for a in element.ancestors() if a.id or a.classes), None)
    if above is not None:
        outer = _short_selector(above)
        found += [f"{outer} {name}" for name in (own or [element.tag])]
    found.append(element.tag)
    if element.classes:
        found.append(element.tag + own[0])
    return list(dict.fromkeys(found))


def _short_selector(element: Element) -> str:
    if element.classes:
        return f".{serialize_identifier(element.classes[0])}"
    return f"#{serialize_identifier(element.id or '')}"
