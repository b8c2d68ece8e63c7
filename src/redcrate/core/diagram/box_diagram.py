"""The labelled drawing of one element's boxes, in drawing-office manner.

Every number is a term of the explanation's equations, so the drawing cannot disagree with them.
"""

from dataclasses import dataclass, field

from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Area, Dot, Drawing, Label, Segment, Shape, Stroke
from redcrate.core.diagram.lettering import shortened, text_width
from redcrate.core.errors import RedCrateError
from redcrate.core.explain import Equation, Term, across, down
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.units import ZERO, LayoutUnit, format_px

_PARTS = ("margin", "border", "padding")
_FILLS = {"margin": Fill.MARGIN, "border": Fill.BORDER, "padding": Fill.PADDING}
_LEFT, _TOP = 134.0, 70.0
_CONTENT_WIDTH, _CONTENT_HEIGHT = 280.0, 110.0
_THIN = Stroke("ink", 0.8)
_EXTENSION = Stroke("second_ink", 0.7, (1.5, 2.5))


class NoDiagram(RedCrateError):
    """The element has no box to draw."""


@dataclass(frozen=True, slots=True)
class DiagramOptions:
    """How to draw. to_scale: true proportions; else thin parts are widened so that labels fit."""

    to_scale: bool = False
    page_name: str = ""


def box_diagram(page: Page, element: Element, options: DiagramOptions | None = None) -> Drawing:
    """The drawing of an element's boxes; raises NoDiagram if it has none."""
    wide, high = across(page, element), down(page, element)
    if wide is None or high is None or not wide.terms:
        raise NoDiagram(
            f"{element.label} has no box to draw.", remedy="Choose an element that is shown."
        )
    return _Work(page, element, wide, high, options or DiagramOptions()).run()


@dataclass(slots=True)
class _Run:
    """One axis: where each term begins and ends on the drawing."""

    terms: list[Term]
    starts: list[float] = field(default_factory=list)
    ends: list[float] = field(default_factory=list)

    def edge(self, part: str) -> tuple[float, float]:
        """The drawn outer edges of margin, border, padding or content."""
        inside = [i for i, t in enumerate(self.terms) if _depth(t.part) >= _depth(part)]
        return self.starts[inside[0]], self.ends[inside[-1]]


def _depth(part: str) -> int:
    return (*_PARTS, "content").index(part)


def _thickness(term: Term, options: DiagramOptions, scale: float, content: float) -> float:
    """The drawn size of a term."""
    used = term.used / 64
    if term.part == "content":
        return max(40.0, used * scale) if options.to_scale else content
    if used <= 0:
        return 0.0
    if options.to_scale:
        return max(1.0, used * scale)
    if term.part == "border":
        return 9.0 + min(9.0, used)
    return 30.0 + min(30.0, used / 2)


class _Work:
    """Collects the shapes of one drawing."""

    def __init__(
        self,
        page: Page,
        element: Element,
        wide: Equation,
        high: Equation,
        options: DiagramOptions,
    ) -> None:
        self.page = page
        self.element = element
        self.wide = wide
        self.high = high
        self.options = options
        self.shapes: list[Shape] = []
        box = page.box_of(element)
        assert box is not None
        self.box = box
        largest = max(1.0, sum(max(0, t.used) for t in wide.terms) / 64)
        tallest = max(1.0, sum(max(0, t.used) for t in high.terms) / 64)
        self.scale = min(1.0, 492 / largest, 300 / tallest)
        self.x = self._run(wide, _LEFT, _CONTENT_WIDTH)
        self.y = self._run(high, _TOP, _CONTENT_HEIGHT)

    def _run(self, equation: Equation, start: float, content: float) -> _Run:
        run = _Run(list(equation.terms))
        at = start
        for term in run.terms:
            run.starts.append(at)
            at += _thickness(term, self.options, self.scale, content)
            run.ends.append(at)
        return run

    def run(self) -> Drawing:
        """The whole drawing."""
        self.parts()
        self.content_label()
        self.leaders()
        bottom = self.chain_across()
        right = self.chain_down()
        width = max(right + 24, 560.0)
        height = max(bottom, self.y.ends[-1]) + 24
        height = self.title_block(width, height)
        title = f"Box diagram of {self.element.label}, border box {self.size_text('border')} px"
        return Drawing(width, height, tuple(self.shapes), title)

    def parts(self) -> None:
        """The nested rectangles, and dashed outlines for what takes no room."""
        for part in _PARTS:
            x1, x2 = self.x.edge(part)
            y1, y2 = self._edge_y(part)
            stroke = Stroke("second_ink", 0.8, (4, 3)) if part == "margin" else None
            if x2 > x1 and y2 > y1:
                self.shapes.append(Area(x1, y1, x2 - x1, y2 - y1, _FILLS[part], stroke))
        x1, x2 = self.x.edge("content")
        y1, y2 = self._edge_y("content")
        self.shapes.append(Area(x1, y1, x2 - x1, y2 - y1, Fill.CONTENT, _THIN))
        self.outline()
        self.negative_margins()

    def _edge_y(self, part: str) -> tuple[float, float]:
        if part == "margin" and all(t.part != "margin" for t in self.y.terms):
            return self.y.starts[0], self.y.ends[-1]
        return self.y.edge(part)

    def outline(self) -> None:
        """Outline and shadow: dashed, with the words that they take no room."""
        style = self.page.style_of(self.element)
        names = [
            n
            for n, there in (
                ("outline", style.outline_width > 0),
                ("shadow", bool(style.box_shadow)),
            )
            if there
        ]
        if not names:
            return
        x1, x2 = self.x.edge("border")
        y1, y2 = self._edge_y("border")
        self.shapes.append(
            Area(x1 - 5, y1 - 5, x2 - x1 + 10, y2 - y1 + 10, None, Stroke("ink", 0.8, (5, 4)))
        )
        self.shapes.append(
            Label(
                x2 + 4,
                y1 - 10,
                f"{' and '.join(names)}: takes no room",
                10,
                colour="second_ink",
                anchor="end",
                back=True,
            )
        )

    def negative_margins(self) -> None:
        """A negative margin: a dashed teal line inside, with its number."""
        x1, x2 = self.x.edge("border")
        y1, y2 = self._edge_y("border")
        for term in (*self.wide.terms, *self.high.terms):
            if term.part != "margin" or term.used >= 0:
                continue
            side = term.side
            inset = 14.0
            lines = {
                "left": Segment(x1 + inset, y1, x1 + inset, y2, Stroke("margin_ink", 1.2, (5, 3))),
                "right": Segment(x2 - inset, y1, x2 - inset, y2, Stroke("margin_ink", 1.2, (5, 3))),
                "top": Segment(x1, y1 + inset, x2, y1 + inset, Stroke("margin_ink", 1.2, (5, 3))),
                "bottom": Segment(x1, y2 - inset, x2, y2 - inset, Stroke("margin_ink", 1.2, (5, 3))),
            }
            self.shapes.append(lines[side])

    def content_label(self) -> None:
        """The content's size in the middle, and the written value where it differs."""
        x1, x2 = self.x.edge("content")
        y1, y2 = self._edge_y("content")
        middle, centre = (x1 + x2) / 2, (y1 + y2) / 2
        width = next(t for t in self.wide.terms if t.part == "content")
        height = next(t for t in self.high.terms if t.part == "content")
        self.shapes.append(
            Label(middle, centre - 10, "content", 13, colour="second_ink", anchor="middle")
        )
        self.shapes.append(
            Label(
                middle,
                centre + 10,
                f"{format_px(width.used)} × {format_px(height.used)}",
                18,
                bold=True,
                anchor="middle",
            )
        )
        text = written_text(width)
        if text:
            self.shapes.append(
                Label(middle, centre + 27, text, 10.5, colour="second_ink", anchor="middle")
            )

    def leaders(self) -> None:
        """Names with their values on the left, led to the parts; the top margin above."""
        top = next((t for t in self.high.terms if t.part == "margin" and t.side == "top"), None)
        if top is not None:
            self.top_leader(top)
        y1, y2 = self._edge_y("padding")
        rows = [t for t in self.wide.terms if t.side == "left" and (t.used or t.part == "margin")]
        rows = [t for t in rows if t.part in ("border", "padding") or t.used]
        at = (y1 + y2) / 2 - 28 * (len(rows) - 1) / 2 - 2
        for term in rows:
            index = self.x.terms.index(term)
            target = (self.x.starts[index] + self.x.ends[index]) / 2
            self.left_leader(term, at, target)
            at += 40

    def top_leader(self, term: Term) -> None:
        """The top margin's name, and what became of it."""
        x1, x2 = self.x.edge("border")
        y1, y2 = self.y.starts[0], self.y.ends[0]
        start = x1 + (x2 - x1) * 0.4
        if y2 > y1:
            self.shapes += [
                Dot(start, (y1 + y2) / 2),
                Segment(start, (y1 + y2) / 2, start + 40, 38, _THIN),
                Segment(start + 40, 38, start + 54, 38, _THIN),
            ]
        text = f"margin-top {format_px(term.used)}"
        self.shapes.append(Label(start + 58, 42, text, 12))
        if term.why:
            self.shapes.append(Label(start + 58, 56, term.why, 10.5, colour="second_ink"))

    def left_leader(self, term: Term, y: float, target: float) -> None:
        """One part's name and value, with a line to its left side."""
        text = term.part if term.part == "border" else f"{term.part} {format_px(term.used)}"
        self.shapes.append(Label(92, y + 4, text, 12, anchor="end"))
        style = self.page.style_of(self.element)
        below = ""
        if term.part == "border":
            below = f"{format_px(term.used)} {style.border_left_style}"
        elif written_text(term):
            below = written_text(term)
        if below:
            self.shapes.append(Label(92, y + 18, below, 10.5, colour="second_ink", anchor="end"))
        self.shapes += [
            Segment(96, y, 110, y, _THIN),
            Segment(110, y, target, y - 8, _THIN),
            Dot(target, y - 8),
        ]

    def chain_across(self) -> float:
        """The run of widths below the box, then the sums; returns the lowest y."""
        x1, x2 = self.x.starts[0], self.x.ends[-1]
        y = self.y.ends[-1] + 34
        edges = sorted({*self.x.starts, *self.x.ends})
        rows = [y]
        self.shapes.append(Segment(x1, y, x2, y, _THIN))
        occupied = -1e9
        for term, start, end in zip(self.x.terms, self.x.starts, self.x.ends, strict=True):
            if end <= start:
                continue
            label = format_px(term.used)
            width = text_width(label, 12)
            middle = (start + end) / 2
            raised = middle - width / 2 < occupied + 3
            self.shapes.append(Label(middle, y - (18 if raised else 6), label, 12, anchor="middle"))
            occupied = occupied if raised else middle + width / 2
        for edge in edges:
            self.tick(edge, y)
        for part in ("padding", "border", "margin"):
            y += 28
            y = self.sum_across(part, y)
            rows.append(y)
        for edge in edges:
            self.shapes.append(Segment(edge, self.y.ends[-1] + 4, edge, rows[0] + 6, _EXTENSION))
        return rows[-1]

    def sum_across(self, part: str, y: float) -> float:
        """One sum with its line: padding box, border box, margin box."""
        start, end = self.x.edge(part)
        total = sum((t.used for t in self.wide.terms if _depth(t.part) >= _depth(part)), ZERO)
        self.shapes.append(Segment(start, y, end, y, _THIN))
        text = f"{part} box {format_px(total)}"
        self.shapes.append(
            Label((start + end) / 2, y - 5, text, 12, bold=part == "border", anchor="middle", back=True)
        )
        self.tick(start, y)
        self.tick(end, y)
        return y

    def tick(self, x: float, y: float) -> None:
        """A drawing-office tick: a short slanted stroke over the end of a dimension."""
        self.shapes.append(Segment(x - 3, y + 3, x + 3, y - 3, Stroke("ink", 1.4)))
        self.shapes.append(Segment(x, y - 6, x, y + 6, _THIN))

    def chain_down(self) -> float:
        """The run of heights to the right of the box, then the border box; returns the right end."""
        x = self.x.ends[-1] + 24
        y1, y2 = self.y.starts[0], self.y.ends[-1]
        self.shapes.append(Segment(x, y1, x, y2, _THIN))
        for term, start, end in zip(self.y.terms, self.y.starts, self.y.ends, strict=True):
            if end <= start:
                continue
            label = format_px(term.used)
            self.shapes.append(Label(x + 10, (start + end) / 2 + 4, label, 12))
            if term.struck:
                middle, width = (start + end) / 2, text_width(label, 12)
                self.shapes.append(Segment(x + 8, middle, x + 12 + width, middle, Stroke("ink", 1.2)))
        for edge in sorted({*self.y.starts, *self.y.ends}):
            self.tick(x, edge)
            self.shapes.append(Segment(self.x.ends[-1] + 4, edge, x - 6, edge, _EXTENSION))
        x += 62
        start, end = self._edge_y("border")
        self.shapes.append(Segment(x, start, x, end, _THIN))
        self.tick(x, start)
        self.tick(x, end)
        height = self.box.fragments[0].height
        self.shapes.append(Label(x + 10, (start + end) / 2 + 4, format_px(height), 12, bold=True))
        return x + 14 + text_width(format_px(height), 12, bold=True)

    def size_text(self, part: str) -> str:
        """Width × height of one of the boxes."""
        rect = self.box.fragments[0]
        return f"{format_px(rect.width)} × {format_px(rect.height)}"

    def title_block(self, width: float, height: float) -> float:
        """Selector, page, window, sizing mode and scale; returns the new height."""
        style = self.page.style_of(self.element)
        scale = "to scale" if self.options.to_scale else "schematic: thin parts widened"
        term = next(t for t in self.wide.terms if t.part == "content")
        written = f"written {term.written} · " if term.written else "width auto · "
        viewport = LayoutUnit(self.page.viewport.width * 64)
        x, y, w = width - 340, height + 8, 330.0
        self.shapes.append(Area(x, y, w, 54, Fill.PAPER, _THIN))
        for offset in (18, 36):
            self.shapes.append(Segment(x, y + offset, x + w, y + offset, _THIN))
        self.shapes.append(Segment(x + 190, y + 18, x + 190, y + 54, _THIN))
        self.shapes += [
            Label(x + 6, y + 13, shortened(self.element.label, 24), 12, bold=True),
            Label(
                x + w - 6,
                y + 13,
                shortened(written + style.box_sizing, 32),
                10.5,
                colour="second_ink",
                anchor="end",
            ),
            Label(x + 6, y + 31, shortened(self.options.page_name or "page", 34), 10.5),
            Label(x + 196, y + 31, f"at width {format_px(viewport)} px", 10.5),
            Label(x + 6, y + 49, scale, 10.5),
            Label(x + 196, y + 49, self.scale_text(), 10.5),
            Label(x + w - 6, y + 49, "Red Crate", 10.5, anchor="end"),
        ]
        return y + 54 + 10

    def scale_text(self) -> str:
        """The scale, as a drawing office writes it."""
        if not self.options.to_scale:
            return "scale —"
        return f"scale 1 : {1 / self.scale:.2f}".rstrip("0").rstrip(".")


def written_text(term: Term) -> str:
    """The written value beside the used one, where they differ: `50% → 400`."""
    used = format_px(term.used)
    if not term.written or term.written in (f"{used}px", used):
        return ""
    return f"{term.written} → {used}"
