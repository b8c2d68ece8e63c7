"""The whole cascade of a page: markup and sheets → the computed style of every element."""

from collections.abc import Container, Mapping, Sequence
from dataclasses import replace
from functools import cache
from heapq import heapify, heappop, heappush
from importlib.resources import files

from redcrate.core.markup.buttons import is_button
from redcrate.core.markup.elements import DocumentMode, Element, Markup
from redcrate.core.markup.source_text import SourceText
from redcrate.core.records import dataclass
from redcrate.core.style.attributes import held_tokens, held_values, holder
from redcrate.core.style.cascade import Cascaded, RuleIndex, Specificity, cascade, declare_alike
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.computing import FontMeasure, StyleComputer, Styled, half_em
from redcrate.core.style.font_faces import WebFamily
from redcrate.core.style.hints import hint_rule, hints_of
from redcrate.core.style.layers import layer_ranks
from redcrate.core.style.media import Viewport
from redcrate.core.style.selectors import PARTS_OF_RANGES
from redcrate.core.style.sheet_reading import parse_sheet
from redcrate.core.style.sheets import Declaration, Origin, RuleBody, Sheet, StyleRule
from redcrate.core.style.values import Length

PSEUDO_ELEMENTS = (
    "before",
    "after",
    "first-letter",
    "first-line",
    "marker",
    "placeholder",
    "file-selector-button",
    *PARTS_OF_RANGES,
)
_WITHOUT_CONTENT = (
    "first-letter",
    "first-line",
    "marker",
    "placeholder",
    "file-selector-button",
    *PARTS_OF_RANGES,
)  # there where a rule speaks of them
_CONTROLS = frozenset(("button", "input", "select", "textarea", "meter", "progress"))
_NO_SPECIFICITY: Specificity = (0, 0, 0)


@cache
def default_sheet() -> Sheet:
    """The default styles of the HTML Standard, as far as they change boxes or text."""
    text = (files("redcrate.core.style") / "default.css").read_text(encoding="utf-8")
    return parse_sheet(SourceText("default styles", text), Origin.USER_AGENT)


@cache
def quirks_sheet() -> Sheet:
    """What the HTML Standard's default styles add in quirks mode (§15.3.7 to §15.3.10)."""
    return parse_sheet(SourceText("default styles in quirks mode", _QUIRKS), Origin.USER_AGENT)


_QUIRKS = """
form { margin-block-end: 1em; }
table { font-weight: initial; font-style: initial; font-variant: initial; font-size: initial;
  line-height: initial; white-space: initial; text-align: initial; color: initial; }
"""


class Cascading:
    """The cascade of a page's elements; an outcome is made when it is asked for, once for all alike."""

    def __init__(self, markup: Markup, inline_rules: dict[Element, StyleRule], index: RuleIndex) -> None:
        self.markup = markup
        self.inline_rules = inline_rules
        self.index = index
        self._cascades: dict[tuple[object, ...], Cascaded] = {}
        self._attribute_rules: dict[tuple[tuple[str, str | None], ...], StyleRule] = {}
        self._hint_rules: dict[tuple[tuple[str, str], ...], StyleRule] = {}

    def special(self) -> set[Element]:
        """The elements about which more than the rules of the sheets decides."""
        found = {*self.markup.those("hinted", lambda e: bool(hints_of(e))), *self.inline_rules}
        if self.index.attributes:
            found.update(e for e in self.markup.listed if self.index.refer_to_attributes(e))
        return found

    def of(self, element: Element) -> Cascaded:
        """All that reaches an element: rules, hints, its own style."""
        extra: list[StyleRule] = []
        hints = hints_of(element)
        if hints:
            rule = self._hint_rules.get(hints)
            if rule is None:
                line = self.markup.line_of(element)
                rule = self._hint_rules[hints] = hint_rule(hints, self.markup.source.name, line)
            extra.append(rule)
        inline = self.inline_rules.get(element)
        if inline is not None:
            extra.append(inline)
        names = self.index.attributes if self.index.refer_to_attributes(element) else set()
        if inline is not None and inline.attributes:
            names = names | inline.attributes
        if names:
            extra.insert(0, self._attribute_rule(held_values(element, names)))
        return self.of_rules(self.index.matching(element), tuple(extra))

    def _attribute_rule(self, held: tuple[tuple[str, str | None], ...]) -> StyleRule:
        """The rule that hands attributes down to attr()."""
        rule = self._attribute_rules.get(held)
        if rule is None:
            tokens = {holder(name): held_tokens(value) for name, value in held}
            declarations = [Declaration(n, "", False, "", 0, 0, {n: t}) for n, t in tokens.items()]
            rule = StyleRule("attributes", RuleBody((), tuple(declarations)), (), Origin.HINT, "", 0, 0)
            self._attribute_rules[held] = rule
        return rule

    def of_rules(self, numbers: tuple[int, ...], extra: tuple[StyleRule, ...] = ()) -> Cascaded:
        """The outcome for all that match these entries of the index, with rules beside those."""
        key = (numbers, *extra)
        known = self._cascades.get(key)
        if known is None:
            rules = self.index.applied(numbers)
            for rule in extra:
                below = rule.origin + (rule.origin is Origin.USER_AGENT)
                at = sum(1 for r, _ in rules if r.origin < below)
                rules.insert(at, (rule, _NO_SPECIFICITY))
            known = self._cascades[key] = cascade(rules)
        return known


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class StyledTree:
    """The styles of a page at one viewport.

    styled, styles: of html, body and every element in body. pseudo: the styles of generated elements,
    by (element, one of PSEUDO_ELEMENTS); ::before and ::after only where they have content. cascading: the outcome of the
    cascade, for origins. version: names this tree. based_on: the version that it repeats but for the
    elements in `restyled` and their pseudo-elements; None for a tree that was styled as a whole.
    """

    markup: Markup
    viewport: Viewport
    styled: dict[Element, Styled]
    styles: dict[Element, ComputedStyle]
    pseudo: dict[tuple[Element, str], ComputedStyle]
    index: RuleIndex
    computer: StyleComputer
    cascading: Cascading
    version: object
    based_on: object | None
    restyled: frozenset[Element]

    def cascade_of(self, element: Element) -> Cascaded:
        """Which declarations reach the element, and which of them win."""
        return self.cascading.of(element)


def style_tree(
    markup: Markup,
    sheets: Sequence[Sheet],
    inline_rules: dict[Element, StyleRule],
    viewport: Viewport,
    *,
    measure: FontMeasure = half_em,
    families: Mapping[str, WebFamily] | None = None,
    earlier: StyledTree | None = None,
) -> StyledTree:
    """Compute the styles of html, body and everything in body.

    inline_rules: the parsed style attributes. families: of fonts that the page brings along. earlier: a
    result of the same page: its matching and its styles are used again where they still hold, and only
    what a change reaches is styled anew.
    """
    defaults = [default_sheet()]
    if markup.mode is DocumentMode.QUIRKS:
        defaults.append(quirks_sheet())
    layers = layer_ranks(name for s in sheets for name in s.layers)
    rules = [r for s in (*defaults, *sheets) for r in s.rules]
    names = markup.names if any(r.unread is not None for r in rules) else None
    index = RuleIndex(rules, viewport, layers, names)
    computer = StyleComputer(viewport, measure, markup.mode, families)
    work = _Styling(markup, viewport, index, computer, Cascading(markup, inline_rules, index))
    if earlier is not None:
        computer.share_with(earlier.computer)
        if earlier.markup.root is markup.root and index.adopt_matches(earlier.index):
            changed = _changed(work, earlier)
            if changed is not None:
                return work.again(earlier, changed)
    return work.whole()


def _changed(work: "_Styling", earlier: StyledTree) -> set[Element] | None:
    """The elements whose declarations are other ones now; None where all must be styled anew."""
    same_window = work.computer.alike_in(earlier.viewport)
    same_fonts = work.computer.families == earlier.computer.families
    if not same_window or not same_fonts or work.markup.mode is DocumentMode.QUIRKS:
        return None
    before, now = earlier.cascading.inline_rules, work.cascading.inline_rules
    changed = {
        e
        for e in (*before, *now)
        if e not in before or e not in now or not declare_alike(before[e], now[e])
    }
    changed |= work.index.touched_by(work.index.changed_since(earlier.index))
    changed.intersection_update(earlier.styles)  # those outside body have none
    return None if work.markup.listed[0] in changed else changed  # rem counts from the root


def _edges_down(style: ComputedStyle) -> float:
    """Vertical borders and paddings, px."""
    paddings = (style.padding_top, style.padding_bottom)
    borders = style.border_top_width + style.border_bottom_width
    return borders / 64 + sum(p.resolve_px(0.0) for p in paddings)


def _content_height(style: ComputedStyle, border_box: float) -> Length:
    """The min-height that makes a border box so high, px."""
    inner = border_box if style.box_sizing == "border-box" else border_box - _edges_down(style)
    return Length(max(0.0, inner))


class _Styling:
    """One pass over the tree; elements that match alike share their cascade and their style."""

    def __init__(
        self,
        markup: Markup,
        viewport: Viewport,
        index: RuleIndex,
        computer: StyleComputer,
        cascading: Cascading,
    ) -> None:
        self.markup = markup
        self.viewport = viewport
        self.index = index
        self.computer = computer
        self.cascading = cascading
        self._computed_before: dict[tuple[Cascaded, Styled | None], Styled] = {}
        self._plain: dict[tuple[tuple[int, ...], Styled | None], Styled] = {}
        self._filled = computer.filled
        self._styled: dict[Element, Styled] = {}
        self._styles: dict[Element, ComputedStyle] = {}
        self._pseudo: dict[tuple[Element, str], ComputedStyle] = {}

    def whole(self) -> StyledTree:
        """Style all listed elements, parents first."""
        styled = self._styled
        generating = self.index.generating(self.markup.listed, PSEUDO_ELEMENTS)
        special = self.cascading.special()
        for element in self.markup.listed:
            parent = styled[element.parent] if element.parent is not None else None
            own = styled[element] = self._own(element, parent, special)
            if element in generating:
                self._generate(element, own, generating[element])
        self._styles = {e: s.style for e, s in styled.items()}
        if self.markup.mode is DocumentMode.QUIRKS:
            self._fill_window(self._styles)
        return self._tree(None, frozenset())

    def again(self, earlier: StyledTree, changed: set[Element]) -> StyledTree:
        """Style the changed elements, and those inside them that inherit something else now."""
        self._styled, self._styles = dict(earlier.styled), dict(earlier.styles)
        self._pseudo = dict(earlier.pseudo)
        generating = self.index.generating(self.markup.listed, PSEUDO_ELEMENTS)
        listed, restyled, special = self.markup.listed, set(), self.cascading.special()
        waiting = [e.index for e in changed]  # parents stand in front of their children
        heapify(waiting)
        while waiting:
            element = listed[heappop(waiting)]
            parent = self._styled[element.parent] if element.parent is not None else None
            own, before = self._own(element, parent, special), self._styled[element]
            kinds = generating.get(element, ())
            if own.style is not before.style or own.customs != before.customs:
                self._styled[element], self._styles[element] = own, own.style
                restyled.add(element)
                for child in element.child_elements:
                    if child not in changed:
                        changed.add(child)
                        heappush(waiting, child.index)
            else:
                own = before
            if kinds and self._generate(element, own, kinds):
                restyled.add(element)
        return self._tree(earlier.version, frozenset(restyled))

    def _tree(self, based_on: object | None, restyled: frozenset[Element]) -> StyledTree:
        return StyledTree(
            self.markup,
            self.viewport,
            self._styled,
            self._styles,
            self._pseudo,
            self.index,
            self.computer,
            self.cascading,
            object(),
            based_on,
            restyled,
        )

    def _generate(
        self, element: Element, own: Styled, kinds: Sequence[tuple[str, tuple[int, ...]]]
    ) -> bool:
        """The styles of the pseudo-elements that have content: CSS 2.2 §12.1; tells whether any changed."""
        changed = False
        for kind, numbers in kinds:
            style = self._computed(self.cascading.of_rules(numbers), own).style
            shown = kind in _WITHOUT_CONTENT or style.content not in ("none", "normal")
            before = self._pseudo.get((element, kind))
            changed = changed or before is not (style if shown else None)
            if shown:
                self._pseudo[(element, kind)] = style
            elif before is not None:
                del self._pseudo[(element, kind)]
        return changed

    def _fill_window(self, styles: dict[Element, ComputedStyle]) -> None:
        """Quirks Mode Standard §3.6 and §3.7: html and body are at least as high as the window."""
        html, body = self.markup.listed[0], self.markup.body
        room = self.viewport.height
        for element in (html, body):
            style = styles.get(element) if element is not None else None
            if element is None or style is None:
                continue
            edges = (style.margin_top, style.margin_bottom)
            room -= sum(0.0 if isinstance(m, str) else m.resolve_px(0.0) for m in edges)
            plain = style.position not in ("absolute", "fixed") and style.float_ == "none"
            if plain and style.height == "auto" and style.min_height == "auto":
                key = (style, room)
                if key not in self._filled:
                    self._filled[key] = replace(style, min_height=_content_height(style, room))
                styles[element] = self._filled[key]
            room -= _edges_down(style)

    def _own(self, element: Element, parent: Styled | None, special: Container[Element]) -> Styled:
        """What an element comes to; without hints or a style attribute alike for all that match alike."""
        found = self._of_cascade(element, parent, special)
        if element.tag not in _CONTROLS:
            return found
        return self.computer.of_control(found, is_button=is_button(element))

    def _of_cascade(
        self, element: Element, parent: Styled | None, special: Container[Element]
    ) -> Styled:
        if element in special:
            return self._computed(self.cascading.of(element), parent)
        key = (self.index.matching(element), parent)
        known = self._plain.get(key)
        if known is None:
            cascaded = self.cascading.of_rules(key[0])
            known = self._plain[key] = self._computed(cascaded, parent)
        return known

    def _computed(self, cascaded: Cascaded, parent: Styled | None) -> Styled:
        key = (cascaded, parent)
        known = self._computed_before.get(key)
        if known is None:
            known = self.computer.compute(cascaded, parent, is_root=parent is None)
            self._computed_before[key] = known
        return known
