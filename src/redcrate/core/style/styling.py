"""The whole cascade of a page: markup and sheets → the computed style of every element."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache
from importlib.resources import files

from redcrate.core.markup.elements import DocumentMode, Element, Markup
from redcrate.core.markup.source_text import SourceText
from redcrate.core.style.cascade import Cascaded, RuleIndex, Specificity, cascade
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.computing import FontMeasure, StyleComputer, Styled, half_em
from redcrate.core.style.hints import hint_rule, hints_of
from redcrate.core.style.media import Viewport
from redcrate.core.style.quirks import drops_margin_end, drops_margin_start
from redcrate.core.style.sheets import Origin, Sheet, StyleRule, parse_sheet
from redcrate.core.style.values import Length

PSEUDO_ELEMENTS = ("before", "after")
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


@cache
def _no_margin(side: str) -> StyleRule:
    sheet = parse_sheet(
        SourceText("default styles in quirks mode", f"* {{ margin-{side}: 0 }}"), Origin.USER_AGENT
    )
    return sheet.rules[0]


@dataclass(frozen=True, slots=True, eq=False)
class StyledTree:
    """The styles of a page at one viewport.

    pseudo: the styles of generated elements, by (element, "before"|"after"); there only where they
    have content. cascades: the outcome of the cascade, by element, for origins.
    """

    markup: Markup
    viewport: Viewport
    styles: dict[Element, ComputedStyle]
    cascades: dict[Element, Cascaded]
    pseudo: dict[tuple[Element, str], ComputedStyle]
    pseudo_cascades: dict[tuple[Element, str], Cascaded]
    index: RuleIndex
    computer: StyleComputer


def style_tree(
    markup: Markup,
    sheets: Sequence[Sheet],
    inline_rules: dict[Element, StyleRule],
    viewport: Viewport,
    *,
    measure: FontMeasure = half_em,
    earlier: StyledTree | None = None,
) -> StyledTree:
    """Compute the styles of html, body and everything in body.

    inline_rules: the parsed style attributes. earlier: a result for the same markup, whose matching
    and style objects are used again where they still hold.
    """
    defaults = [default_sheet()]
    if markup.mode is DocumentMode.QUIRKS:
        defaults.append(quirks_sheet())
    rules = [r for s in (*defaults, *sheets) for r in s.rules]
    index = RuleIndex(rules, viewport)
    computer = StyleComputer(viewport, measure, markup.mode)
    if earlier is not None:
        computer.share_with(earlier.computer)
        if earlier.markup.root is markup.root:
            index.adopt_matches(earlier.index)
    return _Styling(markup, inline_rules, index, computer, viewport).run()


def _quirk_rules(element: Element) -> list[StyleRule]:
    """The default margins that quirks mode takes from an element."""
    rules = [_no_margin("top")] if drops_margin_start(element) else []
    return [*rules, _no_margin("bottom")] if drops_margin_end(element) else rules


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
        inline_rules: dict[Element, StyleRule],
        index: RuleIndex,
        computer: StyleComputer,
        viewport: Viewport,
    ) -> None:
        self.markup = markup
        self.inline_rules = inline_rules
        self.index = index
        self.computer = computer
        self.viewport = viewport
        self._cascades: dict[tuple[object, ...], Cascaded] = {}
        self._styled: dict[tuple[int, int], Styled] = {}
        self._plain: dict[tuple[tuple[int, ...], int], tuple[Cascaded, Styled]] = {}
        self._filled = computer.filled
        self._hint_rules: dict[tuple[tuple[str, str], ...], StyleRule] = {}

    def run(self) -> StyledTree:
        """Style all listed elements, parents first."""
        styled: dict[Element, Styled] = {}
        cascades: dict[Element, Cascaded] = {}
        pseudo: dict[tuple[Element, str], ComputedStyle] = {}
        pseudo_cascades: dict[tuple[Element, str], Cascaded] = {}
        generating = self.index.generating(self.markup.listed, PSEUDO_ELEMENTS)
        special = {*self.markup.those("hinted", lambda e: bool(hints_of(e))), *self.inline_rules}
        if self.markup.mode is DocumentMode.QUIRKS:
            special.update(self.markup.those("quirky", lambda e: bool(_quirk_rules(e))))
        for element in self.markup.listed:
            parent = styled[element.parent] if element.parent is not None else None
            if element in special:
                cascaded = self._cascaded(element)
                own = self._computed(cascaded, parent)
            else:
                cascaded, own = self._by_rules_alone(element, parent)
            cascades[element], styled[element] = cascaded, own
            for kind, numbers in generating.get(element, ()):
                key = (element, kind)
                pseudo_cascades[key] = self._cascade_of(numbers, ())
                made = self._computed(pseudo_cascades[key], own)
                if made.style.content not in ("none", "normal"):
                    pseudo[key] = made.style
        styles = {e: s.style for e, s in styled.items()}
        if self.markup.mode is DocumentMode.QUIRKS:
            self._fill_window(styles)
        return StyledTree(
            self.markup,
            self.viewport,
            styles,
            cascades,
            pseudo,
            pseudo_cascades,
            self.index,
            self.computer,
        )

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

    def _by_rules_alone(self, element: Element, parent: Styled | None) -> tuple[Cascaded, Styled]:
        """An element without hints or a style attribute: alike for all that match alike."""
        numbers = self.index.matching(element)
        key = (numbers, id(parent))
        known = self._plain.get(key)
        if known is None:
            cascaded = self._cascade_of(numbers, ())
            known = self._plain[key] = (cascaded, self._computed(cascaded, parent))
        return known

    def _cascaded(self, element: Element) -> Cascaded:
        extra: list[StyleRule] = []
        if self.markup.mode is DocumentMode.QUIRKS:
            extra += _quirk_rules(element)
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
        return self._cascade_of(self.index.matching(element), tuple(extra))

    def _cascade_of(self, numbers: tuple[int, ...], extra: tuple[StyleRule, ...]) -> Cascaded:
        key = (numbers, *(id(r) for r in extra))
        known = self._cascades.get(key)
        if known is None:
            rules = self.index.applied(numbers)
            for rule in extra:
                below = rule.origin + (rule.origin is Origin.USER_AGENT)
                at = sum(1 for r, _ in rules if r.origin < below)
                rules.insert(at, (rule, _NO_SPECIFICITY))
            known = self._cascades[key] = cascade(rules)
        return known

    def _computed(self, cascaded: Cascaded, parent: Styled | None) -> Styled:
        key = (id(cascaded), id(parent))
        known = self._styled.get(key)
        if known is None:
            known = self.computer.compute(cascaded, parent, is_root=parent is None)
            self._styled[key] = known
        return known
