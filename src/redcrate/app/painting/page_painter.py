"""Paints a laid-out page: backgrounds, borders, pictures, and text from its measured glyphs."""

import math
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cached_property

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import (
    QColor,
    QPainter,
    QTransform,
)

from redcrate.app.painting.blending import NON_SEPARABLE
from redcrate.app.painting.borders import paint_outline
from redcrate.app.painting.clips import Clips, clips_of
from redcrate.app.painting.colours import to_rect
from redcrate.app.painting.controls import paint_control
from redcrate.app.painting.corners import outer_corners
from redcrate.app.painting.dots import on_dots
from redcrate.app.painting.effects import clipping_shape
from redcrate.app.painting.groups import INSIDE, NO_EFFECTS, Effects, Groups, mode_of
from redcrate.app.painting.inline_svg import inline_svg
from redcrate.app.painting.layers import (
    Boxes,
    ground_in_text,
    has_ground,
    paint_background,
    paint_canvas,
    without_ground,
)
from redcrate.app.painting.markers import paint_marker
from redcrate.app.painting.masks import mask_of
from redcrate.app.painting.own_look import THIN, own_look, paint_arrow
from redcrate.app.painting.pictures import Pictures, paint_fitted, paint_missing
from redcrate.app.painting.scrolled_areas import paint_hint
from redcrate.app.painting.stacking import Item, Layer, Step, in_order
from redcrate.app.painting.surface import inset, paint_surface
from redcrate.app.painting.surfaces_of_boxes import surfaces_of
from redcrate.app.painting.tables import paint_collapsed
from redcrate.app.painting.text import TextPainter, paint_mask
from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.replaced_elements import is_list_box
from redcrate.core.files.resources import Resources
from redcrate.core.geometry import NO_EDGES, Edges, Rect
from redcrate.core.layout.fragments import InlinePiece, Placed
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.transforms import Matrix
from redcrate.core.units import ZERO, LayoutUnit

_REACH = 40 * 64  # 1/64 px: shadows and outlines of some width that are painted outside a box


class PagePainter:
    """Paints one page in page px; the caller has scaled the painter."""

    def __init__(self, page: Page, resources: Resources, pictures: "Pictures | None" = None) -> None:
        self._page = page
        self._moved: dict[Placed, Matrix] = page.painted if page.is_transformed else {}
        self._clips = Clips()
        self._part: _Part | None = None  # what is in a part of the page
        self._vectors: dict[tuple[Element, float, float], bytes] = {}  # SVG in the page, by its size
        self._text = TextPainter(page)
        self.pictures = pictures or Pictures(resources)

    def paint(self, painter: QPainter, exposed: QRectF, scale: float) -> None:
        """Paint what lies in `exposed` (page px), in the order of the standard."""
        painter.save()  # pens and brushes of the page are not those of what is painted after it
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._canvas(painter, exposed)
        self.shown(exposed)
        part, wanted = self._part, _with_reach(exposed)
        assert part is not None
        groups, is_whole = Groups(painter), part.seen == wanted
        top, bottom = wanted.y, wanted.bottom
        for number, (step, at) in enumerate(part.steps):
            if isinstance(at, PlacedBox):
                place = part.bounds[at]
                if is_whole or (place.y <= bottom and place.bottom >= top):
                    self._step(groups.painter, step, at, exposed, scale)
            elif step is Step.BEGIN and at.style is not None:
                bounds, style = self._bounds(number, exposed), at.style
                groups.begin(
                    bounds, style.opacity, mode_of(style.mix_blend_mode), self._effects(at, style)
                )
            elif step is Step.END:
                groups.end()
        painter.restore()

    def _step(
        self, painter: QPainter, step: Step, box: PlacedBox, exposed: QRectF, scale: float
    ) -> None:
        """Paint one part of a box."""
        style = box.fragment.box.style
        with self._in_place(painter, box, of_content=step is Step.CONTENT):
            if step is Step.CONTENT:
                self._inline_surfaces(painter, box, exposed)
                self._content(painter, box, exposed, scale)
            elif step is Step.COLLAPSED:
                paint_collapsed(painter, box)
            elif style.visibility == "visible":
                if step is Step.SURFACE:
                    self._surfaces(painter, box)
                else:
                    paint_outline(painter, to_rect(box.rect), style)
                    paint_hint(painter, box)

    def _effects(self, layer: Layer, style: ComputedStyle) -> Effects:
        """What is done to the picture of a group."""
        mixed = style.mix_blend_mode if style.mix_blend_mode in NON_SEPARABLE else ""
        if not layer.own:
            return Effects(style.filter, mixed=mixed) if style.filter or mixed else NO_EFFECTS
        placed = layer.own[0]
        rect = to_rect(placed.rect)
        inner = inset(rect, placed.fragment.border)
        boxes = Boxes(rect, inner, inset(inner, placed.fragment.padding), outer_corners(rect, style))
        return Effects(
            style.filter,
            clipping_shape(style.clip_path, rect) if style.clip_path else None,
            mask_of(style, boxes, self.pictures.find),
            (style.backdrop_filter, boxes.path("border-box", style)) if style.backdrop_filter else None,
            mixed,
            self._matrix(placed),
        )

    def _matrix(self, box: PlacedBox) -> QTransform | None:
        """What transforms do to a box; None where nothing moves it."""
        m = self._moved.get(box.placed) if self._moved else None
        return None if m is None else QTransform(m.a, m.b, m.c, m.d, m.e, m.f)

    def _bounds(self, begin: int, exposed: QRectF) -> QRectF:
        """Where the group that begins with a step paints, page px."""
        found, depth = QRectF(), 0
        assert self._part is not None
        for step, at in self._part.steps[begin:]:
            depth += (step is Step.BEGIN) - (step is Step.END)
            if isinstance(at, PlacedBox):
                found = found.united(to_rect(self._part.bounds[at]))
            if not depth:
                break
        around = _REACH / 64
        return found.adjusted(-around, -around, around, around).intersected(exposed)

    def shown(self, exposed: QRectF) -> list[PlacedBox]:
        """The boxes that paint something in `exposed` (page px); they are looked for once.

        Who looks at another part of the same page pans: then what is around is looked for too, so that most frames look
        for nothing.
        """
        wanted = _with_reach(exposed)
        if self._part is None or not self._part.holds(wanted):
            around = self._part is not None
            seen = wanted
            if around:
                more = wanted.height
                seen = Rect(wanted.x, LayoutUnit(wanted.y - more), wanted.width, LayoutUnit(3 * more))
            self._part = self._looked_for(seen)
        if self._part.seen == wanted:
            return self._part.boxes
        bounds, top, bottom = self._part.bounds, wanted.y, wanted.bottom
        return [b for b in self._part.boxes if bounds[b].y <= bottom and bounds[b].bottom >= top]

    def _looked_for(self, seen: Rect) -> "_Part":
        boxes = self._page.in_order if self._moved else self._page.reaching(seen)
        self._clips = clips_of(boxes)
        bounds = {b: _bounds_of(b, self._moved.get(b.placed)) for b in boxes}
        found = [b for b in boxes if _meet(bounds[b], seen)]
        return _Part(seen, found, bounds, in_order(self._page, found))

    @contextmanager
    def _in_place(
        self, painter: QPainter, box: PlacedBox, *, of_content: bool = False
    ) -> Iterator[None]:
        """Paint where transforms put the box, and inside what clips it."""
        matrix = self._matrix(box)
        clip = (self._clips.contents if of_content else self._clips.surfaces).get(box)
        if matrix is None and clip is None:
            yield
            return
        painter.save()
        if matrix is not None:
            painter.setTransform(matrix, combine=True)
        if clip is not None:
            clip.put_on(painter)
        yield
        painter.restore()

    def _canvas(self, painter: QPainter, exposed: QRectF) -> None:
        """CSS Backgrounds 3 §2.11.1: the root's background, or body's where that has none, covers the canvas."""
        root, element = self._page.root, self._ground_of
        style = self._page.style_of(element) if element is not None else None
        if style is None or style.background_color.alpha < 1:
            painter.fillRect(exposed, QColor("#ffffff"))
        if root is None or style is None:
            return
        rect, edges = to_rect(root.rect), root.fragment.border
        inner = to_rect(root.rect.inset(edges))
        boxes = Boxes(rect, inner, to_rect(root.content_rect), None, self._window)
        whole = QRectF(0, 0, self._page.viewport.width, self._page.height / 64).united(exposed)
        paint_canvas(painter, boxes, whole, style, self.pictures.find)

    @cached_property
    def _window(self) -> QRectF:
        """Where the page is seen first."""
        viewport = self._page.viewport
        return QRectF(0, 0, viewport.width, viewport.height)

    @cached_property
    def _ground_of(self) -> Element | None:
        """The element whose background covers the canvas."""
        ends = (self._page.elements[0], self._page.source.markup.body)
        return next((e for e in ends if e is not None and has_ground(self._page.style_of(e))), None)

    def _surfaces(self, painter: QPainter, box: PlacedBox) -> None:
        """What a box has of surfaces, each inside its path."""
        for surface in surfaces_of(box):
            if surface.inside is not None:
                painter.save()
                painter.setClipPath(surface.inside, Qt.ClipOperation.IntersectClip)
            edges = (box.fragment.border, box.fragment.padding)
            element = box.fragment.box.element
            covers = element is not None and element is self._ground_of
            style = without_ground(surface.style) if covers else surface.style
            quiet = own_look(self._page, element, style)
            if quiet is not None:
                self._surface(painter, to_rect(surface.rect), quiet, THIN)
            else:
                self._surface(painter, to_rect(surface.rect), style, *edges)
                self._in_letters(painter, box, None, (to_rect(surface.rect), style, edges))
            if surface.inside is not None:
                painter.restore()

    def _surface(
        self,
        painter: QPainter,
        rect: QRectF,
        style: ComputedStyle,
        edges: Edges,
        padding: Edges = NO_EDGES,
    ) -> None:
        """Background, borders and shadow of a border box."""
        rect = on_dots(painter, rect)
        paint_surface(painter, rect, style, edges, self.pictures.find, padding, self._window)

    def _in_letters(
        self,
        painter: QPainter,
        box: PlacedBox,
        inline: Element | None,
        surface: tuple[QRectF, ComputedStyle, tuple[Edges, Edges]],
    ) -> None:
        """The background that shows in the letters alone, of a box or of an inline element in it."""
        rect, style, (edges, padding) = surface
        ground = ground_in_text(style)
        if ground is None:
            return
        groups = Groups(painter)
        groups.begin(rect)
        inner = inset(rect, edges)
        boxes = Boxes(rect, inner, inset(inner, padding), None)
        paint_background(groups.painter, boxes, ground, self.pictures.find)
        groups.begin(rect, mode=INSIDE)
        paint_mask(groups.painter, box, inline)
        groups.end()
        groups.end()

    def _inline_surfaces(self, painter: QPainter, box: PlacedBox, exposed: QRectF) -> None:
        """Those of the inline boxes of its lines, with their outlines."""
        for inline, rect, edges in _inline_pieces(box):
            style = inline.style
            if style.visibility == "visible" and (box.placed in self._moved or rect.intersects(exposed)):
                self._surface(painter, rect, style, edges)
                if inline.element is not None:
                    self._in_letters(painter, box, inline.element, (rect, style, (edges, NO_EDGES)))
                paint_outline(painter, rect, style)

    def _content(self, painter: QPainter, box: PlacedBox, exposed: QRectF, scale: float) -> None:
        """The picture of a replaced box, or the text of its lines."""
        style = box.fragment.box.style
        if style.visibility != "visible":
            return
        if box.fragment.box.kind is BoxKind.REPLACED:
            self._picture(painter, box)
        if box.fragment.lines:
            span = (exposed.top(), exposed.bottom())
            if box.placed in self._moved:
                span = (-math.inf, math.inf)
            self._text.paint(painter, box, span, scale)
        if self._opens(box):
            paint_arrow(painter, to_rect(box.rect.inset(box.fragment.border)), style)
        marker = box.fragment.box.marker
        if marker and (style.list_style_position == "outside" or box.fragment.box.element is None):
            paint_marker(painter, box, marker)

    @staticmethod
    def _opens(box: PlacedBox) -> bool:
        """Whether a box is a menu that is drawn as one."""
        shown, element = box.fragment.box, box.fragment.box.element
        if element is None or element.tag != "select" or shown.pseudo or is_list_box(element):
            return False
        return shown.style.appearance == "auto"

    def _picture(self, painter: QPainter, box: PlacedBox) -> None:
        shown = box.fragment.box
        target = on_dots(painter, to_rect(box.content_rect))
        if target.isEmpty():
            return
        picture = None
        if shown.element is not None and shown.element.tag == "svg":
            self._inline_svg(painter, shown.element, to_rect(box.content_rect))
            return
        if shown.picture:
            picture = self.pictures.find(shown.picture)
        elif shown.element is not None:  # else the icon of a picture that is not there
            name = "poster" if shown.element.tag == "video" else "src"
            picture = self.pictures.find(shown.element.attributes.get(name, ""))
        if picture is not None:
            paint_fitted(painter, picture, target, shown.style)
        elif shown.element is None or not paint_control(painter, box, target):
            paint_missing(painter, target)

    def _inline_svg(self, painter: QPainter, element: Element, target: QRectF) -> None:
        """SVG 2 §8.2: its view box in the middle of its content box, as large as that lets it be."""
        key = element, target.width(), target.height()
        data = self._vectors.get(key)
        if data is None:
            data = self._vectors[key] = inline_svg(self._page, element, key[1:])
        picture = self.pictures.vectors(data)
        if picture is None:
            return
        picture.render(painter, on_dots(painter, target))


@dataclass(frozen=True, slots=True)
class _Part:
    """What is painted in a part of a page. seen: that part, 1/64 px. bounds: where each box itself is painted."""

    seen: Rect
    boxes: list[PlacedBox]
    bounds: dict[PlacedBox, Rect]
    steps: list[Item]

    def holds(self, wanted: Rect) -> bool:
        """Whether another part is inside this one."""
        s = self.seen
        across = s.x <= wanted.x and s.right >= wanted.right
        return across and s.y <= wanted.y and s.bottom >= wanted.bottom


def _meet(a: Rect, b: Rect) -> bool:
    """Whether two rectangles touch; empty ones too."""
    return a.x <= b.right and a.right >= b.x and a.y <= b.bottom and a.bottom >= b.y


def _with_reach(exposed: QRectF) -> Rect:
    """A part of the page, px, with the room for shadows round it, 1/64 px."""
    left, top = int(exposed.left() * 64) - _REACH, int(exposed.top() * 64) - _REACH
    width, height = int(exposed.width() * 64) + 2 * _REACH, int(exposed.height() * 64) + 2 * _REACH
    return Rect(*(LayoutUnit(n) for n in (left, top, width, height)))


def _bounds_of(box: PlacedBox, matrix: Matrix | None) -> Rect:
    """Where a box itself is painted, with its lines."""
    rect = box.rect
    x0, y0, x1, y1 = rect.x, rect.y, rect.x + rect.width, rect.y + rect.height
    for line in box.fragment.lines:
        y0 = min(y0, rect.y + line.y)
        y1 = max(y1, rect.y + line.y + line.height)
        x0 = min(x0, rect.x + line.x)
        x1 = max(x1, rect.x + line.x + line.used)
    whole = Rect(LayoutUnit(x0), LayoutUnit(y0), LayoutUnit(x1 - x0), LayoutUnit(y1 - y0))
    return whole if matrix is None else matrix.bounds(whole)


def _inline_pieces(
    box: PlacedBox,
) -> Iterator[tuple[Box, QRectF, Edges]]:
    """The inline boxes of a box's lines with the borders that they show."""
    for line in box.fragment.lines:
        for piece in line.content:
            if isinstance(piece, InlinePiece):
                rect = Rect(box.rect.x + piece.x, box.rect.y + piece.y, piece.width, piece.height)
                border = piece.border
                edges = Edges(
                    border.top,
                    border.right if piece.has_right else ZERO,
                    border.bottom,
                    border.left if piece.has_left else ZERO,
                )
                yield piece.box, to_rect(rect), edges
