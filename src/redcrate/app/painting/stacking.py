"""In which order boxes are painted: CSS 2.2 App. E; flex and grid items are painted like inline blocks (Flexbox 1 §4.3).

A layer is a stacking context, or what is painted as if it were one (§9.9, App. E): a float, an atomic inline, a flex or
grid item, a positioned box. The boxes of a page are put into layers by what the document holds them in; the layers
become one list of steps. No widget, no painter.
"""

from collections.abc import Iterable, Iterator
from dataclasses import field
from enum import Enum

from redcrate.app.painting.scrolled_areas import can_be_scrolled
from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle

_WITH_ITEMS = frozenset(("flex", "inline-flex", "grid", "inline-grid"))


class Step(Enum):
    """What is painted next."""

    SURFACE = "background and borders of a box"
    COLLAPSED = "borders that cells share"
    CONTENT = "inline boxes, text and pictures"
    OUTLINE = "outline, and the hint that there is more to scroll to"
    BEGIN = "a group that is composited as one begins"
    END = "it ends"


@dataclass(slots=True, eq=False)
class Layer:
    """A stacking context, or what is painted as one; of its lists each is in the order of painting.

    stands_for: the element, or the box of a pseudo-element, that makes it. layers: the stacking contexts and positioned
    boxes in it, with a z-index of their own.
    """

    stands_for: Element | Box | None
    style: ComputedStyle | None
    z: int = 0
    place: int = 0  # in the document
    own: list[PlacedBox] = field(default_factory=list)
    blocks: list[PlacedBox] = field(default_factory=list)
    floats: "list[Layer]" = field(default_factory=list)
    inlines: "list[PlacedBox | Layer]" = field(default_factory=list)
    layers: "list[Layer]" = field(default_factory=list)
    outlined: list[PlacedBox] = field(default_factory=list)

    @property
    def is_group(self) -> bool:
        """Whether all that is in it is composited as one picture."""
        return self.style is not None and makes_group(self.style)


# A layer, and the stacking context that it is in.
Where = tuple[Layer, Layer]
Item = tuple[Step, PlacedBox | Layer]


def makes_group(style: ComputedStyle) -> bool:
    """Whether what a box holds is composited as one.

    Color 4 §4.2, Compositing 1 §3, Masking 1 §5 and §7, Filter Effects 1 §5, Filter Effects 2 §2.
    """
    return bool(
        style.opacity < 1
        or style.mix_blend_mode != "normal"
        or style.clip_path
        or style.filter
        or style.backdrop_filter
        or any(image != "none" for image in style.mask_image)
    )


def makes_context(style: ComputedStyle, *, is_item: bool) -> bool:
    """Whether an element makes a stacking context: CSS 2.2 §9.9.1, Position 3 §2.2, Color 4 §4.2, Transforms 1 §3.

    is_item: of a flex or grid container (Flexbox 1 §4.3, Grid 1 §17).
    """
    if style.position in ("fixed", "sticky") or makes_group(style) or style.is_transformed:
        return True
    if style.isolation == "isolate":
        return True
    has_level = style.z_index != "auto"
    return has_level and (style.position != "static" or is_item)


def in_order(page: Page, boxes: Iterable[PlacedBox]) -> list[Item]:
    """The steps in which some boxes of a page are painted. boxes: each before those inside it."""
    return list(_flat(_Sorting(page).sorted(boxes)))


class _Sorting:
    """Puts boxes into layers."""

    def __init__(self, page: Page) -> None:
        self._styles = page.styled.styles
        self._root = Layer(None, None)
        self._known: dict[Element | Box, Where] = {}
        self._around: dict[PlacedBox, Where] = {}

    def sorted(self, boxes: Iterable[PlacedBox]) -> Layer:
        """The root's layer with all others in it."""
        for placed in boxes:
            where = self._around[placed] = self._where(placed)
            self._put(placed, *where)
        return self._root

    def _put(self, placed: PlacedBox, layer: Layer, context: Layer) -> None:
        box = placed.fragment.box
        if box.kind is BoxKind.REPLACED and box.is_inline_level:
            layer.inlines.append(Layer(box, None, own=[placed], inlines=[placed]))
        else:
            (layer.own if self._makes(layer, box) else layer.blocks).append(placed)
            layer.inlines.append(placed)
        if box.style.outline_style not in ("none", "hidden") or can_be_scrolled(box.style):
            context.outlined.append(placed)

    @staticmethod
    def _makes(layer: Layer, box: Box) -> bool:
        """Whether a layer is that of a box itself."""
        made_by = layer.stands_for
        return made_by is box or (made_by is not None and made_by is box.element and not box.pseudo)

    def _where(self, placed: PlacedBox) -> Where:
        box = placed.fragment.box
        if box.element is None:
            around = self._around.get(placed.container) if placed.container is not None else None
            return around or (self._root, self._root)
        where = self._of(box.element)
        if not box.pseudo:
            return where
        if box not in self._known:
            self._known[box] = self._entered(box, box.style, where, box.element)
        return self._known[box]

    def _of(self, element: Element) -> Where:
        """The layer of an element, by what holds it in the document."""
        chain: list[Element] = []
        at: Element | None = element
        while at is not None and at not in self._known:
            chain.append(at)
            at = at.parent
        where = (self._root, self._root) if at is None else self._known[at]
        for one in reversed(chain):
            style = self._styles.get(one)
            if style is not None:
                where = self._entered(one, style, where, one.parent)
            self._known[one] = where
        return where

    def _entered(
        self, made_by: Element | Box, style: ComputedStyle, where: Where, parent: Element | None
    ) -> Where:
        """Where that is which stands in an element or a pseudo-element, itself among it."""
        layer, context = where
        element = made_by if isinstance(made_by, Element) else made_by.element
        place = element.index if element is not None else 0
        is_positioned = style.position != "static"
        is_item = not is_positioned and self._holds_items(parent)
        if style.display in ("none", "contents"):
            return where
        if makes_context(style, is_item=is_item):
            z = style.z_index if isinstance(style.z_index, int) and (is_positioned or is_item) else 0
            made = Layer(made_by, style, z, place)
            context.layers.append(made)
            return made, made
        made = Layer(made_by, None, 0, place)
        if is_positioned:
            context.layers.append(made)
        elif style.float_ != "none" and not is_item:
            layer.floats.append(made)
        elif is_item or style.display.startswith("inline-"):
            layer.inlines.append(made)
        else:
            return where
        return made, context

    def _holds_items(self, parent: Element | None) -> bool:
        """Whether an element is a flex or grid container; what has no box of its own is looked through."""
        while parent is not None:
            style = self._styles.get(parent)
            if style is None or style.display != "contents":
                return style is not None and style.display in _WITH_ITEMS
            parent = parent.parent
        return False


def _flat(root: Layer) -> Iterator[Item]:
    """The steps of a layer and of all in it, however deep they nest."""
    stack: list[Item | Layer] = [root]
    while stack:
        at = stack.pop()
        if not isinstance(at, Layer):
            yield at
        elif at.style is None or at.style.opacity > 0:
            stack.extend(reversed(_steps(at)))


def _steps(layer: Layer) -> list[Item | Layer]:
    """The steps of App. E.2 for one layer."""
    ranked = sorted(layer.layers, key=lambda one: (one.z, one.place))
    steps: list[Item | Layer] = [(Step.BEGIN, layer)] if layer.is_group else []
    steps += [(Step.SURFACE, box) for box in layer.own]
    steps += [one for one in ranked if one.z < 0]
    steps += [(Step.SURFACE, box) for box in layer.blocks]
    cells = (*layer.own, *layer.blocks)
    steps += [(Step.COLLAPSED, b) for b in cells if b.fragment.box.style.display == "table-cell"]
    steps += layer.floats
    steps += [one if isinstance(one, Layer) else (Step.CONTENT, one) for one in layer.inlines]
    steps += [one for one in ranked if one.z >= 0]
    steps += [(Step.OUTLINE, box) for box in layer.outlined]
    return [*steps, (Step.END, layer)] if layer.is_group else steps
