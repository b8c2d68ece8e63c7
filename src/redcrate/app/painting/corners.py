"""Rounded corners: CSS Backgrounds 3 §5."""

from typing import TypeAlias

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainterPath

from redcrate.core.style.computed import ComputedStyle

Radii: TypeAlias = list[tuple[float, float]]  # across and down, px, from the top left on
CORNERS = ("top_left", "top_right", "bottom_right", "bottom_left")


def outer_corners(rect: QRectF, style: ComputedStyle) -> QPainterPath | None:
    """The rounded border edge; None where all corners are square."""
    radii = radii_of(rect, style)
    return None if radii is None else rounded(rect, radii)


def inner_corners(rect: QRectF, inner: QRectF, style: ComputedStyle) -> QPainterPath | None:
    """The corners of an edge further in: the outer radii less the distance (§5.2)."""
    radii = radii_of(rect, style)
    if radii is None:
        return None
    lefts, tops = inner.left() - rect.left(), inner.top() - rect.top()
    rights, bottoms = rect.right() - inner.right(), rect.bottom() - inner.bottom()
    less = ((lefts, tops), (rights, tops), (rights, bottoms), (lefts, bottoms))
    left = [
        (max(0.0, x - less_x), max(0.0, y - less_y))
        for (x, y), (less_x, less_y) in zip(radii, less, strict=True)
    ]
    return rounded(inner, left) if any(x and y for x, y in left) else None


def grown_corners(rect: QRectF, outer: QRectF, style: ComputedStyle) -> QPainterPath | None:
    """The corners of an edge further out: round ones are rounder by the distance (§5.2, §6.1.1), square ones are square."""
    radii = radii_of(rect, style)
    if radii is None:
        return None
    more = rect.left() - outer.left()
    return rounded(
        outer, [(max(0.0, x + more), max(0.0, y + more)) if x and y else (0.0, 0.0) for x, y in radii]
    )


def radii_of(rect: QRectF, style: ComputedStyle) -> Radii | None:
    """The radii of the border edge from the top left on, px; None where all corners are square.

    Radii that overlap shrink, all by the same share (§5.5).
    """
    radii = []
    for name in CORNERS:
        x, y = getattr(style, f"border_{name}_radius")
        radii.append((radius_px(x, rect.width()), radius_px(y, rect.height())))
    if not any(x and y for x, y in radii):
        return None
    factor = 1.0
    for (a, b), size, axis in (
        ((0, 1), rect.width(), 0), ((3, 2), rect.width(), 0), ((0, 3), rect.height(), 1), ((1, 2), rect.height(), 1),
    ):  # fmt: skip
        total = radii[a][axis] + radii[b][axis]
        factor = min(factor, size / total) if total > size > 0 else factor
    return [(x * factor, y * factor) for x, y in radii]


def radius_px(radius: object, size: float) -> float:
    """A corner's radius in px."""
    resolve = getattr(radius, "resolve_px", None)
    return max(0.0, float(resolve(size))) if resolve is not None else 0.0


def path_of(rect: QRectF, corners: QPainterPath | None) -> QPainterPath:
    """The outline of a rectangle, rounded or not."""
    if corners is not None:
        return corners
    path = QPainterPath()
    path.addRect(rect)
    return path


def rounded(rect: QRectF, radii: Radii) -> QPainterPath:
    """A rectangle with those corners."""
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = radii
    path = QPainterPath(QPointF(rect.left() + ax, rect.top()))
    path.lineTo(rect.right() - bx, rect.top())
    if bx and by:
        path.arcTo(rect.right() - 2 * bx, rect.top(), 2 * bx, 2 * by, 90, -90)
    path.lineTo(rect.right(), rect.bottom() - cy)
    if cx and cy:
        path.arcTo(rect.right() - 2 * cx, rect.bottom() - 2 * cy, 2 * cx, 2 * cy, 0, -90)
    path.lineTo(rect.left() + dx, rect.bottom())
    if dx and dy:
        path.arcTo(rect.left(), rect.bottom() - 2 * dy, 2 * dx, 2 * dy, 270, -90)
    path.lineTo(rect.left(), rect.top() + ay)
    if ax and ay:
        path.arcTo(rect.left(), rect.top(), 2 * ax, 2 * ay, 180, -90)
    path.closeSubpath()
    return path
