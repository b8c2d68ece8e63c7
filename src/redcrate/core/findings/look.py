"""A look at one laid-out page: what the families ask again and again, and how they write fixes."""

import re
from collections.abc import Callable, Iterator, Mapping
from functools import cached_property
from typing import Any, TypeVar

from tinycss2.serializer import serialize_identifier

from redcrate.core.edit.classes import ClassUse, class_list, id_names, own_class_name, with_class
from redcrate.core.edit.gives import Gives, Plan, Planner, plan_term
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.edit.range_rules import range_rules_edit
from redcrate.core.edit.removal import removed_declaration
from redcrate.core.edit.rule_places import author_rules, new_rule_edit
from redcrate.core.edit.targets import WritesTo, matched, write_target, write_targets
from redcrate.core.edit.writing import Assignment, write_edits
from redcrate.core.explain.terms import Source, physical_winner, written_value
from redcrate.core.findings.finding import Fix, MakeFix, RangedWay
from redcrate.core.findings.shown import Shown, has_letters, visible_text
from redcrate.core.geometry import SIDES, Rect
from redcrate.core.layout.fragments import Placed, SizeReason, TextPiece
from redcrate.core.markup.elements import Element
from redcrate.core.overflow.sideways import Sideways, sideways
from redcrate.core.page import ElementBox, Page, PlacedBox, text_pieces
from redcrate.core.records import dataclass
from redcrate.core.rows import Row, rows_of
from redcrate.core.style.cascade import Winner
from redcrate.core.style.colours import Colour
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.sheets import Origin, StyleRule
from redcrate.core.style.window_ranges import WindowRange
from redcrate.core.units import LayoutUnit, counted

T = TypeVar("T")
FIELDS = frozenset(("input", "select", "textarea"))  # what they show of their text is theirs to say
LOUD = frozenset(((255, 0, 0), (0, 255, 0), (0, 0, 255), (255, 255, 0), (0, 255, 255), (255, 0, 255)))


@dataclass(frozen=True, slots=True, eq=False)
class SeenText:
    """A piece of text on a line. element: the block that the line belongs to. at: the box with the line."""

    element: Element
    at: PlacedBox
    piece: TextPiece
    rect: Rect

    @property
    def is_read(self) -> bool:
        """Whether it is text, and no signs: neither a bullet nor the name of a picture in a font of icons."""
        families = self.piece.box.style.font_family
        icons = bool(families) and re.search(r"icon|symbol|awesome", families[0], re.IGNORECASE)
        return has_letters(self.piece.text) and not icons

    @property
    def letters(self) -> Rect:
        """About where the letters are seen: from the height of an x above the baseline to the baseline."""
        up = min(self.piece.baseline - self.piece.y, self.rect.height) * 2 // 3
        base = self.rect.y + self.piece.baseline - self.piece.y
        return Rect(self.rect.x, base - up, self.rect.width, up)


class Look:
    """One page with the texts that it was computed from."""

    def __init__(self, page: Page, texts: Mapping[str, str]) -> None:
        self.page = page
        self.texts = texts
        self._grounds: dict[Element, bool] = {}
        self._behind: dict[Element, Colour | None] = {}  # the colour behind an element's content
        self._painted: dict[Element, bool] = {}
        self._known: dict[str, Any] = {}

    def once(self, name: str, find: Callable[[], T]) -> T:
        """What several families ask for, worked out by the first of them."""
        if name not in self._known:
            self._known[name] = find()
        found: T = self._known[name]
        return found

    @cached_property
    def boxes(self) -> list[tuple[Element, ElementBox]]:
        """All elements with a box in body, in document order."""
        return [(e, b) for e, b in self.page.by_element.items() if e.tag not in ("html", "body")]

    @cached_property
    def classes(self) -> tuple[ClassUse, ...]:
        """All classes that elements have or rules name."""
        return self.page.source.once("classes", lambda: class_list(self.page))

    @cached_property
    def named_ids(self) -> dict[str, list[StyleRule]]:
        """The ids that rules name, with those rules."""
        return self.page.source.once("ids that rules name", self._named_ids)

    def _named_ids(self) -> dict[str, list[StyleRule]]:
        found: dict[str, list[StyleRule]] = {}
        for rule in author_rules(self.page):
            for name in dict.fromkeys(id_names(rule.selector_text)):
                found.setdefault(name, []).append(rule)
        return found

    def given_somewhere(self, *longhands: str) -> frozenset[Element]:
        """The elements to which a rule, in whatever medium, or their own style gives one of the longhands."""
        return self.page.source.once(f"given {longhands}", lambda: frozenset(self._given(longhands)))

    def _given(self, longhands: tuple[str, ...]) -> Iterator[Element]:
        names = self.page.source.markup.names
        for rule in author_rules(self.page):
            if rule.may_match(names) and _gives(rule, longhands):
                yield from matched(self.page, rule.selectors)
        inline = self.page.source.inline_rules.items()
        yield from (element for element, rule in inline if _gives(rule, longhands))

    @cached_property
    def rows(self) -> list[Row]:
        """All rows of the page."""
        return [r for e in self.page.elements for r in rows_of(self.page, e)]

    def style(self, element: Element) -> ComputedStyle:
        """The computed style of an element."""
        return self.page.style_of(element)

    def box(self, element: Element) -> ElementBox | None:
        """The box of an element."""
        return self.page.box_of(element)

    def winner(self, element: Element, longhand: str) -> Winner | None:
        """The author's declaration that set a longhand on the element itself; None if nobody did."""
        found = self.page.origin_of(element, physical_winner(self.page, element, longhand))
        if found is None or found.applied.rule.origin not in (Origin.AUTHOR, Origin.INLINE):
            return None
        return found

    def is_meant_for(self, element: Element, longhand: str, fits: Callable[[Element], bool]) -> bool:
        """Whether the author wrote a value for elements of a kind: not where its rule is for others as well."""
        winner = self.winner(element, longhand)
        if winner is None:
            return False
        rule = winner.applied.rule
        if rule.origin is Origin.INLINE:
            return True
        return all(fits(e) for e in matched(self.page, rule.selectors))

    def source(self, element: Element, longhand: str) -> Source | None:
        """Where a longhand was written by the author."""
        return written_value(self.page, element, longhand)[1] if self.winner(element, longhand) else None

    def written(self, element: Element, longhand: str) -> str:
        """The text of a longhand as the author wrote it; "" if nobody did."""
        return written_value(self.page, element, longhand)[0] if self.winner(element, longhand) else ""

    def size_written(self, element: Element, axis: str = "across") -> bool:
        """Whether the author gave the element a width (height) that is used."""
        box = self.box(element)
        if box is None or box.box is None:
            return False
        sizes = box.box.fragment.across if axis == "across" else box.box.fragment.down
        return sizes.reason in (SizeReason.SPECIFIED, SizeReason.PERCENT) and not sizes.limit

    @cached_property
    def shown(self) -> Shown:
        """What of the page can be seen."""
        return Shown(self.page)

    @cached_property
    def sideways(self) -> Sideways:
        """What makes the page scroll sideways."""
        return sideways(self.page, self.shown.clips)

    @cached_property
    def texts_seen(self) -> list["SeenText"]:
        """The pieces of text that can be seen, in the order in which they stand in the page."""
        found = []
        for at in self.page.in_order:
            element = _element_around(at) if at.fragment.lines else None
            if element is None or not self.shown.is_shown(element):
                continue
            for piece in text_pieces(at.fragment.lines):
                style = piece.box.style  # of the inline element, if it is in one
                if style.visibility != "visible" or not style.opacity or not style.color.alpha:
                    continue
                if not visible_text(piece.text):
                    continue
                place = Rect(at.rect.x + piece.x, at.rect.y + piece.y, piece.width, piece.height)
                if self.shown.part(place, at) is not None:
                    found.append(SeenText(element, at, piece, place))
        return found

    def is_clipped_away(self, text: SeenText, place: Rect) -> bool:
        """Whether nothing is left of a part of a text."""
        return self.shown.part(place, text.at) is None

    def texts_of(self, element: Element) -> list["SeenText"]:
        """The pieces of text in an element and in all that stands in it."""
        by_element: dict[Element, list[SeenText]] = self.once("texts by element", self._by_element)
        return [t for e in element.walk() for t in by_element.get(e, ())]

    def _by_element(self) -> dict[Element, list["SeenText"]]:
        found: dict[Element, list[SeenText]] = {}
        for text in self.texts_seen:
            found.setdefault(text.element, []).append(text)
        return found

    def texts_in(self, at: PlacedBox) -> list["SeenText"]:
        """The pieces of text on a box's own lines."""
        by_place: dict[Placed, list[SeenText]] = self.once("texts by box", self._by_place)
        return by_place.get(at.placed, [])

    def _by_place(self) -> dict[Placed, list["SeenText"]]:
        found: dict[Placed, list[SeenText]] = {}
        for text in self.texts_seen:
            found.setdefault(text.at.placed, []).append(text)
        return found

    def line_of(self, text: "SeenText") -> str:
        """All text of the line on which a piece stands, as one string."""
        for line in text.at.fragment.lines:
            if any(p is text.piece for p in line.content):
                return "".join(p.text for p in text_pieces((line,)))
        return text.piece.text

    def has_rule(self, element: Element) -> bool:
        """Whether an author's rule speaks of it by its class or id."""
        return any(c.rules for c in self.classes if c.name in element.classes) or (
            element.id is not None and element.id in self.named_ids
        )

    def is_fluid(self, element: Element) -> bool:
        """Whether its written width follows the window or its container: no px belong into such a value."""
        return re.search(r"%|\d(vw|vh|vmin|vmax|cq\w+)\b", self.written(element, "width")) is not None

    # -- paint

    def paints(self, box: ElementBox, place: Rect) -> bool:
        """Whether an element, or something inside it, can be seen in a place of the page."""
        for inner in box.element.walk():
            found = self.box(inner)
            if found is None or not meet(found.border_box, place) or not self.shown.is_shown(inner):
                continue
            picture = found.box is not None and found.box.fragment.box.intrinsic is not None
            if picture or self.is_painted(inner):
                return True
        return any(meet(text.letters, place) for text in self.texts_of(box.element))

    def ground(self, element: Element) -> Colour | None:
        """The colour that lies behind an element's content: its own or that of what is around it."""
        known, way = self._behind, []
        at: Element | None = element
        while at is not None and at not in known:
            colour: Colour = self.style(at).background_color
            if colour.alpha > 0:
                known[at] = colour
                break
            way.append(at)
            at = at.parent
        found = known[at] if at is not None else None
        known.update(dict.fromkeys(way, found))
        return found

    def has_ground(self, element: Element) -> bool:
        """Whether its background can be told from what is around it."""
        known = self._grounds.get(element)
        if known is None:
            known = self._grounds[element] = self._has_ground(element)
        return known

    def _has_ground(self, element: Element) -> bool:
        colour: Colour = self.style(element).background_color
        if set(self.style(element).background_clip) == {"text"}:
            return False
        if any(i != "none" for i in self.style(element).background_image):
            return True
        around = self.ground(element.parent) if element.parent is not None else None
        if (colour.red, colour.green, colour.blue) in LOUD:
            return False  # thrown away again soon
        return colour.alpha > 0 and colour != (around or Colour(255, 255, 255))

    def is_painted(self, element: Element) -> bool:
        """Whether its edges can be seen: a background of its own or a border."""
        known = self._painted.get(element)
        if known is None:
            known = self.has_ground(element) or any(self.shows_border(element, s) for s in SIDES)
            self._painted[element] = known
        return known

    def shows_border(self, element: Element, side: str) -> bool:
        """Whether there is a border on that side, throw-away colours apart."""
        box = self.box(element)
        colour: Colour = getattr(self.style(element), f"border_{side}_color")
        loud = (colour.red, colour.green, colour.blue) in LOUD
        return box is not None and box.border.side(side) > 0 and not loud

    # -- fixes

    def fix(self, sentence: str, make: Callable[[], Patch | None]) -> MakeFix:
        """A fix that is worked out when it is asked for."""

        def way() -> Fix | None:
            patch = make()
            return Fix(sentence, patch) if patch is not None and patch.edits else None

        return way

    def ranged(self, sentence: str, make: Callable[[WindowRange | None], Patch | None]) -> MakeFix:
        """A fix that can be worked out for a range of widths only."""

        def way(window: WindowRange | None) -> Fix | None:
            patch = make(window)
            if patch is None or not patch.edits:
                return None
            return Fix(sentence if window is None else f"{sentence}, {window.words} px", patch)

        return RangedWay(way)

    def setting(self, sentence: str, *values: tuple[Element, str, str]) -> MakeFix:
        """A fix that writes longhands: (element, longhand, value) each."""

        def make(window: WindowRange | None) -> Patch | None:
            alike: dict[tuple[str, str], list[Element]] = {}
            for element, longhand, value in values:
                alike.setdefault((longhand, value), []).append(element)
            places = {
                key: self._place_for(key[0], those) if window is None else ""
                for key, those in alike.items()
            }
            by_place: dict[tuple[Element, str], list[Assignment]] = {}
            for element, longhand, value in values:
                place = places[longhand, value]
                by_place.setdefault((element, place), []).append(Assignment(longhand, value))
            edits: list[TextEdit] = []
            for (element, place), assignments in by_place.items():
                to = WritesTo(place, window)
                edits += write_edits(self.page, self.texts, element, assignments, to)
            return Patch(tuple(dict.fromkeys(edits)), sentence)

        return self.ranged(sentence, make)

    def _place_for(self, longhand: str, alike: list[Element]) -> str:
        """The key of a rule for all that get the same value, where their own styles would get it; else ""."""
        first = alike[0]
        if len(alike) < 2 or write_target(self.page, first, longhand).rule is not None:
            return ""
        wanted = set(alike)
        rules = (
            t
            for t in write_targets(self.page, first, longhand)
            if t.rule is not None and not t.loses_to and not t.rule.media
        )
        return next((t.key for t in rules if set(t.touches) == wanted), "")

    def ruling(self, sentence: str, elements: list[Element], **values: str) -> MakeFix:
        """A fix that gives alike elements longhands: one by itself, several by a rule for all of their kind."""
        longhands = {name.replace("_", "-"): value for name, value in values.items()}
        if len(elements) == 1:
            return self.setting(sentence, *((elements[0], n, v) for n, v in longhands.items()))
        first = elements[0]
        selector = f"{first.tag}{''.join(f'.{serialize_identifier(c)}' for c in first.classes)}"
        touched = sum(
            e.tag == first.tag and set(first.classes) <= set(e.classes) for e in self.page.elements
        )

        def make(window: WindowRange | None) -> Patch:
            text = "; ".join(f"{n}: {v}" for n, v in longhands.items())
            if window is None:
                rule = new_rule_edit(self.page, self.texts, selector, text)
            else:
                last = author_rules(self.page)[-1:]
                after = last[0] if last else None
                rule = range_rules_edit(self.page, self.texts, window, [(selector, text)], after)
            return Patch((rule,), sentence)

        return self.ranged(f"{sentence}, with a new rule for all {touched} {selector}", make)

    def typing(
        self, sentence: str, element: Element, part: str, sides: tuple[str, ...], value: str
    ) -> MakeFix:
        """A fix that types a value into a term while the content gives."""

        def make() -> Patch:
            plan = plan_term(self.page, self.texts, element, part, sides, value, Gives.CONTENT)
            return Patch(plan.patch.edits, sentence)

        return self.fix(sentence, make)

    def narrower(
        self, sentence: str, element: Element, by: LayoutUnit, *, alone: bool = False
    ) -> MakeFix:
        """A fix that takes `by` (1/64 px) off the written width, in its own unit.

        alone: where only this element is touched.
        """

        def make() -> Patch | None:
            box = self.box(element)
            if box is None:
                return None
            if self.style(element).box_sizing == "border-box":
                written = self.written(element, "width")
                less = f"{(box.border_box.width - by) / 64:g}px"
                width = less if written.endswith("px") else f"calc({written} - {by / 64:g}px)"
                edits = write_edits(self.page, self.texts, element, [Assignment("width", width)])
                return Patch(tuple(edits), sentence)
            planner = Planner(self.page, element, box)
            planner.compensate("across", {"": by}, Gives.CONTENT)
            plan: Plan = planner.plan(self.texts, WritesTo(self._alone(element) if alone else ""))
            return Patch(plan.patch.edits, sentence)

        return self.fix(sentence, make)

    def has_place_of_its_own(self, element: Element) -> bool:
        """Whether a rule, or a style of its own, already speaks of this element alone."""
        if element in self.page.source.inline_rules:
            return True
        rules = (t.rule for t in write_targets(self.page, element, "width") if t.touches == (element,))
        return any(rule is not None for rule in rules)

    def _alone(self, element: Element) -> str:
        """The key of a target for the width that touches this element only, a rule before its own style."""
        targets = [
            t
            for t in write_targets(self.page, element, "width")
            if t.touches == (element,) and not t.loses_to
        ]
        return next((t.key for t in targets if not t.selector), "")

    def told_apart(self, sentence: str, element: Element, longhand: str, value: str) -> MakeFix:
        """A fix that gives one of several alike a class of its own and the value by a rule for it.

        The rule that they share stays as it is.
        """
        name = own_class_name(self.page, element)

        def make() -> Patch:
            given = with_class(self.page.source.markup, (element,), name)
            rule = new_rule_edit(self.page, self.texts, f".{name}", f"{longhand}: {value}")
            return Patch((*given.edits, rule), sentence)

        return self.fix(f"{sentence}, with a new class ({name})", make)

    def removing(self, sentence: str, *winners: Winner) -> MakeFix:
        """A fix that takes declarations out."""

        def make() -> Patch:
            edits = []
            for winner in winners:
                declaration = winner.applied.declaration
                edits.append(
                    removed_declaration(self.page, self.texts, declaration.file, declaration.offset)
                )
            return Patch(tuple(dict.fromkeys(edits)), sentence)

        return self.fix(sentence, make)

    def siblings(self) -> Iterator[tuple[Element, list[Element]]]:
        """Each element with its children, where there are any."""
        for element in self.page.elements:
            if element.child_elements:
                yield element, element.child_elements


def more_alike(count: int) -> str:
    """The end of a sentence about the first of several alike."""
    if count == 1:
        return ""
    return counted(count - 1, "; also 1 similar element", "; also {count} similar elements")


def meet(one: Rect, other: Rect) -> bool:
    """Whether two rectangles share more than a px, across and down."""
    shared = one.shared_with(other)
    return shared.width > 64 and shared.height > 64


def _element_around(at: PlacedBox) -> Element | None:
    """The element of a box, or of the nearest one around an anonymous box."""
    around: PlacedBox | None = at
    while around is not None and around.fragment.box.element is None:
        around = around.container
    return around.fragment.box.element if around is not None else None


def _gives(rule: StyleRule, longhands: tuple[str, ...]) -> bool:
    return any(
        d.longhands.get(n, "auto") not in ("auto", "none") for d in rule.declarations for n in longhands
    )
