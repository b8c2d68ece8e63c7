"""The small labelled drawing beside a selected element: nested parts with their numbers."""

from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Area, Drawing, Label, Part, Segment, Shape, Stroke
from redcrate.core.explain.terms import Equation, Term
from redcrate.core.units import ZERO, format_px

_WIDTH, _HEIGHT = 276.0, 176.0
_BOX = (62.0, 8.0, 152.0, 132.0)  # x, y, width, height of the margin box
_THICK = {"margin": 15.0, "border": 4.0, "padding": 17.0}
_FILLS = {"margin": Fill.MARGIN, "border": Fill.BORDER, "padding": Fill.PADDING}
_THIN = Stroke("ink", 0.8)


def small_box(wide: Equation, high: Equation) -> Drawing:
    """The drawing of two equations; parts that take no room are left out."""
    shapes: list[Shape] = []
    x, y, width, height = _BOX
    labels: list[tuple[Term, float]] = []
    inset_left = inset_right = inset_top = inset_bottom = 0.0
    for part in ("margin", "border", "padding"):
        area = Area(
            x + inset_left,
            y + inset_top,
            width - inset_left - inset_right,
            height - inset_top - inset_bottom,
            _FILLS[part],
            Stroke("second_ink", 0.7) if part == "margin" else None,
        )
        terms = {t.side: t for t in (*wide.terms, *high.terms) if t.part == part}
        if any(t.used for t in terms.values()):
            shapes.append(area)
        thick = {s: _THICK[part] if t.used > 0 else 0.0 for s, t in terms.items()}
        for side in ("left", "right"):
            if terms[side].used:
                middle = area.x + thick["left"] / 2
                if side == "right":
                    middle = area.x + area.width - thick["right"] / 2
                labels.append((terms[side], middle))
        inset_left += thick["left"]
        inset_right += thick["right"]
        inset_top += thick.get("top", 0.0)
        inset_bottom += thick.get("bottom", 0.0)
    content = Area(
        x + inset_left,
        y + inset_top,
        width - inset_left - inset_right,
        height - inset_top - inset_bottom,
        Fill.CONTENT,
        _THIN,
    )
    shapes.append(content)
    shapes += _content_label(content, wide, high)
    shapes += _side_labels(labels, y + height / 2)
    shapes.append(Label(x + width / 2, y + height + 24, _border_box(wide, high), 12, anchor="middle"))
    return Drawing(_WIDTH, _HEIGHT, (Part("box", tuple(shapes)),), f"Box of {wide.element.label}")


def _content_label(content: Area, wide: Equation, high: Equation) -> list[Shape]:
    middle, centre = content.x + content.width / 2, content.y + content.height / 2
    size = f"{_content(wide)} × {_content(high)}"
    scale = 12.0 if len(size) < 13 else 10.5
    return [
        Label(middle, centre - 1, size, scale, bold=True, anchor="middle"),
        Label(middle, centre + 14, "content", 11, colour="second_ink", anchor="middle"),
    ]


def _content(equation: Equation) -> str:
    return format_px(next(t.used for t in equation.terms if t.part == "content"))


def _border_box(wide: Equation, high: Equation) -> str:
    sizes = (
        format_px(sum((t.used for t in equation.terms if t.part != "margin"), ZERO))
        for equation in (wide, high)
    )
    return f"border box {' × '.join(sizes)}"


def _side_labels(labels: list[tuple[Term, float]], centre: float) -> list[Shape]:
    """Names and numbers left and right, each led to its part."""
    shapes: list[Shape] = []
    for side, edge, anchor in (("left", 54.0, "end"), ("right", 222.0, "start")):
        mine = [(t, x) for t, x in labels if t.side == side]
        at = centre - 19 * (len(mine) - 1)
        for term, x in mine:
            toward = 5 if side == "left" else -5
            shapes.append(Segment(edge + toward / 2, at, x, at, _THIN))
            number = format_px(term.used)
            shapes.append(Label(edge, at - 2, term.part, 11, anchor=anchor))
            shapes.append(Label(edge, at + 11, number, 12, bold=True, anchor=anchor))
            at += 38
    return shapes
