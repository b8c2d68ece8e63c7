"""Which declarations reach an element, and which of them wins: CSS Cascade 4 §6.

Matching is done once for a tree and a set of selectors and kept. Elements that match the same
rules share one `Cascaded`.
"""

from collections.abc import Container, Iterable, Mapping, Sequence
from functools import cached_property
from typing import Any, TypeAlias

from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.style.declarations import CssWide
from redcrate.core.style.layers import LayerName, LayerRank, layer_ranks
from redcrate.core.style.media import Viewport
from redcrate.core.style.scopes import FAR, Scope
from redcrate.core.style.selectors import Selector
from redcrate.core.style.sheets import Declaration, Origin, StyleRule

Specificity: TypeAlias = tuple[int, int, int]


@dataclass(frozen=True, slots=True)
class Applied:
    """A declaration that reaches an element, through which rule and with which specificity."""

    declaration: Declaration
    rule: StyleRule
    specificity: Specificity

    @property
    def important(self) -> bool:
        """Whether it is !important."""
        return self.declaration.important


@dataclass(frozen=True, slots=True)
class Winner:
    """The specified value that won for one longhand, and the declaration it came from."""

    value: Any
    applied: Applied


@dataclass(frozen=True, slots=True, eq=False)
class Cascaded:
    """The outcome of the cascade for all elements that match the same rules.

    applied: all declarations in ascending precedence. winners: by longhand (logical names too, in
    the order in which they won). below_author: the winners without the author's rules, for `revert`.
    """

    applied: tuple[Applied, ...]
    winners: dict[str, Winner]
    below_author: dict[str, Winner]

    @property
    def fingerprint(self) -> tuple[object, ...]:
        """Equal for outcomes that hold the same values from the same origins in the same order.

        It counts objects, so it means something only while both outcomes are alive.
        """
        return tuple(
            n for a in self.applied for n in (id(a.declaration.longhands), a.rule.origin, a.rule.layer)
        )

    def declarations_of(self, longhand: str) -> list[Applied]:
        """All declarations that set `longhand`, ascending in precedence: the last one wins."""
        return [a for a in self.applied if longhand in a.declaration.longhands]


@dataclass(frozen=True, slots=True)
class _Entry:
    """One selector of one rule in the index."""

    number: int
    selector: Selector
    rule: StyleRule
    order: int
    layer: LayerRank

    def ranks_like(self, other: "_Entry") -> bool:
        """Whether it matches and ranks as an entry at the same place of another index."""
        a, b = self.selector, other.selector
        same = a.text == b.text and a.pseudo == b.pseudo and self.layer == other.layer
        return same and _scope_texts(a.scope) == _scope_texts(b.scope)

    def rank(self, distance: int) -> tuple[Any, ...]:
        """CSS Cascade 6 §6: what it wins by; distance: to the root of its scope."""
        return self.rule.origin, self.layer, self.selector.specificity, -distance, self.order


class RuleIndex:
    """The rules that apply at one viewport, filed by their last compound."""

    def __init__(
        self,
        rules: Sequence[StyleRule],
        viewport: Viewport,
        layers: Mapping[LayerName, LayerRank] | None = None,
        names: Container[str] | None = None,
    ) -> None:
        """layers: the ranks of the cascade layers that rules stand in. names: the classes, ids and tags of the page;
        rules that match none of them are left out, unread.
        """
        self._layers = layers or layer_ranks(())
        self._entries: list[_Entry] = []
        self._buckets: dict[tuple[str, str, str], list[_Entry]] = {}
        self._scoped = False  # whether any selector has a scope
        self.attributes: set[str] = set()  # that rules refer to by attr()
        for order, rule in enumerate(rules):
            may_match = names is None or rule.may_match(names)
            if may_match and all(m.matches(viewport) for m in rule.media):
                self.attributes |= rule.attributes
                for selector in rule.selectors:
                    self._file(selector, rule, order)
        self._matches: dict[Element, tuple[int, ...]] = {}
        self._generating: dict[Element, list[tuple[str, tuple[int, ...]]]] | None = None
        self._touched: dict[int, list[Element]] = {}  # the elements of an entry; filled when asked for

    def _file(self, selector: Selector, rule: StyleRule, order: int) -> None:
        entry = _Entry(len(self._entries), selector, rule, order, self._layers[rule.layer])
        self._entries.append(entry)
        self._scoped = self._scoped or selector.scope is not None
        self._buckets.setdefault((selector.pseudo, *selector.key), []).append(entry)

    def adopt_matches(self, earlier: "RuleIndex") -> bool:
        """Take over what `earlier` matched, if its selectors were the same ones in order; tells whether."""
        same = len(earlier._entries) == len(self._entries) and all(
            a.ranks_like(b) for a, b in zip(earlier._entries, self._entries, strict=True)
        )
        if same:
            self._matches = earlier._matches
            self._generating = earlier._generating
            self._touched = earlier._touched
        return same

    def changed_since(self, earlier: "RuleIndex") -> set[int]:
        """The entries whose rules declare something else than in an index with the same selectors."""
        return {
            new.number
            for old, new in zip(earlier._entries, self._entries, strict=True)
            if not declare_alike(old.rule, new.rule)
        }

    def touched_by(self, numbers: Iterable[int]) -> set[Element]:
        """The elements that entries match, or whose pseudo-elements they match: of those matched so far."""
        if not self._touched:
            found: dict[int, list[Element]] = {}
            for element, matching in self._matches.items():
                for number in matching:
                    found.setdefault(number, []).append(element)
            for element, kinds in (self._generating or {}).items():
                for number in (n for _, matching in kinds for n in matching):
                    found.setdefault(number, []).append(element)
            self._touched.update(found)  # at once: another thread never sees half of it
        return {e for n in numbers for e in self._touched.get(n, ())}

    def refer_to_attributes(self, element: Element) -> bool:
        """Whether a rule that matches the element, or a pseudo-element of it, refers to attributes."""
        if not self.attributes:
            return False
        numbers = list(self.matching(element))
        for _, more in (self._generating or {}).get(element, ()):
            numbers += more
        return any(self._entries[n].rule.attributes for n in numbers)

    def matching(self, element: Element) -> tuple[int, ...]:
        """The numbers of the entries that match `element`, ascending in precedence."""
        known = self._matches.get(element)
        if known is None:
            known = self._matches[element] = self._match(element, "")
        return known

    def generating(
        self, elements: Iterable[Element], pseudos: Iterable[str]
    ) -> "dict[Element, list[tuple[str, tuple[int, ...]]]]":
        """The elements about whose pseudo-elements there are rules, with the entries that match those."""
        if self._generating is None:
            kinds = [p for p in pseudos if any(key[0] == p for key in self._buckets)]
            found: dict[Element, list[tuple[str, tuple[int, ...]]]] = {}
            for element in elements if kinds else ():
                matches = [(kind, numbers) for kind in kinds if (numbers := self._match(element, kind))]
                if matches:
                    found[element] = matches
            self._generating = found
        return self._generating

    def _match(self, element: Element, pseudo: str) -> tuple[int, ...]:
        buckets = self._buckets
        candidates = list(buckets.get((pseudo, "tag", element.tag), ()))
        candidates += buckets.get((pseudo, "any", ""), ())
        if element.id:
            candidates += buckets.get((pseudo, "id", element.id), ())
        for name in element.classes:
            candidates += buckets.get((pseudo, "class", name), ())
        matching = [entry for entry in candidates if entry.selector.test(element)]
        if self._scoped:
            return _by_rank(matching, element)
        places = self._places
        best: dict[int, int] = {}
        for entry in matching:
            place = places[entry.number]
            if place > best.get(entry.order, -1):
                best[entry.order] = place
        in_order = self._in_order
        return tuple(in_order[place] for place in sorted(best.values()))

    @cached_property
    def _in_order(self) -> list[int]:
        """The numbers of all entries, ascending in precedence where no scope has a say."""
        ranked = sorted((entry.rank(FAR), entry.number) for entry in self._entries)
        return [number for _, number in ranked]

    @cached_property
    def _places(self) -> list[int]:
        """The place of each entry in that order, by its number."""
        places = [0] * len(self._entries)
        for place, number in enumerate(self._in_order):
            places[number] = place
        return places

    def applied(self, numbers: Iterable[int]) -> list[tuple[StyleRule, Specificity]]:
        """The rules behind entry numbers."""
        entries = self._entries
        return [(entries[n].rule, entries[n].selector.specificity) for n in numbers]


def declare_alike(a: StyleRule, b: StyleRule) -> bool:
    """Whether two rules hold the same values; equal texts were parsed into one object."""
    if a is b:
        return True
    if a.origin is not b.origin or a.layer != b.layer or len(a.declarations) != len(b.declarations):
        return False
    return all(
        x.longhands is y.longhands and x.important == y.important
        for x, y in zip(a.declarations, b.declarations, strict=True)
    )


def cascade(rules: Sequence[tuple[StyleRule, Specificity]]) -> Cascaded:
    """The winners among `rules`, which ascend in origin, specificity and order.

    Important declarations come after all normal ones, those of the user agent last (§6.1), those of the
    author's layers in the reverse order (CSS Cascade 5 §6.4.3).
    """
    normal: list[Applied] = []
    groups: list[list[Applied]] = []  # of important ones, by origin and layer
    before: StyleRule | None = None
    for rule, specificity in rules:
        if before is None or (rule.origin, rule.layer) != (before.origin, before.layer):
            groups.append([])
        before = rule
        for declaration in rule.declarations:
            target = groups[-1] if declaration.important else normal
            target.append(Applied(declaration, rule, specificity))
    important = [a for group in _as_important(groups) for a in group]
    ordered = (*normal, *important)
    below = _winners(a for a in ordered if a.rule.origin is Origin.USER_AGENT)
    return Cascaded(ordered, _winners(ordered), below)


def _as_important(groups: list[list[Applied]]) -> list[list[Applied]]:
    """The groups of important declarations as these win, the last one most."""
    filled = [g for g in groups if g]
    by_layer = reversed(filled)
    return sorted(by_layer, key=lambda g: (g[0].rule.origin is Origin.USER_AGENT, g[0].rule.origin))


def _winners(ordered: Iterable[Applied]) -> dict[str, Winner]:
    winners: dict[str, Winner] = {}
    for applied in ordered:
        for longhand, value in applied.declaration.longhands.items():
            winners.pop(longhand, None)  # so that the order is that of winning
            winners[longhand] = Winner(value, applied)
    return winners


def reverted(cascaded: Cascaded, longhand: str) -> Any:
    """What `revert` of an author's declaration falls back to (§7.3.4)."""
    below = cascaded.below_author.get(longhand)
    if below is None or isinstance(below.value, CssWide):
        return CssWide("unset")
    return below.value


def reverted_layer(cascaded: Cascaded, longhand: str) -> Any:
    """What `revert-layer` falls back to: the value of the layers below its own (CSS Cascade 5 §7.3.5)."""
    candidates = cascaded.declarations_of(longhand)
    while candidates:
        own = candidates[-1].rule
        below = [a for a in candidates if (a.rule.origin, a.rule.layer) != (own.origin, own.layer)]
        if not below:
            break
        value = below[-1].declaration.longhands[longhand]
        if value != CssWide("revert-layer"):
            return reverted(cascaded, longhand) if value == CssWide("revert") else value
        candidates = below
    return CssWide("unset")


def _scope_texts(scope: Scope | None) -> tuple[str, ...]:
    """A scope as written, with those around it."""
    return () if scope is None else (scope.text, *_scope_texts(scope.around))


def _by_rank(entries: Iterable[_Entry], element: Element) -> tuple[int, ...]:
    """The numbers of entries that match an element, ascending in precedence, of each rule the strongest one."""
    best: dict[int, tuple[tuple[Any, ...], int]] = {}
    for entry in entries:
        scope = entry.selector.scope
        distance = FAR if scope is None else scope.distance(element)
        if distance is not None:
            ranked = (entry.rank(distance), entry.number)
            best[entry.order] = max(ranked, best.get(entry.order, ranked))
    return tuple(number for _, number in sorted(best.values()))
