"""Sticky positioning: CSS Positioned Layout 3 §3.4, as far as it shows before anybody scrolls.

A box that would stand beyond the edge that it sticks to is moved to it, and no further than its containing block reaches.
It is done when all is laid out: nothing else moves with it. Boxes that stand in lines are left where they are.
"""

from dataclasses import replace

from redcrate.core.geometry import Rect
from redcrate.core.layout.extents import Extents
from redcrate.core.layout.fragments import Fragment, Placed
from redcrate.core.records import dataclass
from redcrate.core.style.values import OffsetValue
from redcrate.core.units import ZERO, LayoutUnit

_SHOWS_ALL = ("visible", "clip")


@dataclass(slots=True, eq=False)
class _Node:
    """A box on the way to a sticky one.

    at: which child of its parent it is. x, y: of its border box on the page. port: what is seen of the page where it is,
    in which boxes stick.
    """

    placed: Placed
    parent: "_Node | None"
    at: int
    x: LayoutUnit
    y: LayoutUnit
    port: Rect


def stuck(root: Placed, window: Rect, extents: Extents) -> Placed:
    """The page with its sticky boxes where they stand before it is scrolled."""
    if not extents.of(root.fragment).sticks:
        return root
    first = _Node(root, None, 0, root.x + root.shift_x, root.y + root.shift_y, window)
    nodes = [first]
    for node in nodes:  # grows meanwhile, outer ones first
        port = _port_inside(node)
        for at, child in enumerate(node.placed.fragment.children):
            if extents.of(child.fragment).sticks:
                nodes.append(_child(node, at, child, port))
    for node in reversed(nodes[1:]):  # inner ones first
        assert node.parent is not None
        node.parent.placed = _with_child(node.parent.placed, node.at, node.placed)
    return first.placed


def _child(node: _Node, at: int, child: Placed, port: Rect) -> _Node:
    """A child of a node, moved where it sticks."""
    x, y = node.x + child.x + child.shift_x, node.y + child.y + child.shift_y
    if child.fragment.box.style.position == "sticky":
        own = Rect(x, y, child.fragment.width, child.fragment.height)
        across, down = _shift(child.fragment, own, _content_rect(node), port)
        if across or down:
            child = replace(child, shift_x=child.shift_x + across, shift_y=child.shift_y + down)
            x, y = x + across, y + down
    return _Node(child, node, at, x, y, port)


def _shift(fragment: Fragment, own: Rect, block: Rect, port: Rect) -> tuple[LayoutUnit, LayoutUnit]:
    """How far a sticky box is moved right and down in its containing block."""
    style, margin = fragment.box.style, fragment.margin
    across = _along(
        (own.x, own.right),
        (margin.left, margin.right),
        (block.x, block.right),
        (port.x, port.right),
        (style.left, style.right),
    )
    down = _along(
        (own.y, own.bottom),
        (margin.top, margin.bottom),
        (block.y, block.bottom),
        (port.y, port.bottom),
        (style.top, style.bottom),
    )
    return across, down


_Pair = tuple[LayoutUnit, LayoutUnit]


def _along(
    own: _Pair, margins: _Pair, block: _Pair, port: _Pair, insets: tuple[OffsetValue, OffsetValue]
) -> LayoutUnit:
    """One axis, each given by its start and end; where both edges ask for a move, the start has the last word."""
    length = LayoutUnit(port[1] - port[0])
    shift = ZERO
    if not isinstance(insets[1], str):
        beyond = own[1] - (port[1] - insets[1].resolve(length))
        room = own[0] - margins[0] - block[0]
        shift = -max(ZERO, min(beyond, room))
    if not isinstance(insets[0], str):
        beyond = port[0] + insets[0].resolve(length) - (own[0] + shift)
        room = block[1] - margins[1] - (own[1] + shift)
        shift += max(ZERO, min(beyond, room))
    return LayoutUnit(shift)


def _content_rect(node: _Node) -> Rect:
    fragment = node.placed.fragment
    border_box = Rect(node.x, node.y, fragment.width, fragment.height)
    return border_box.inset(fragment.border).inset(fragment.padding)


def _port_inside(node: _Node) -> Rect:
    """What boxes in a box stick to: its own edges, where it can be scrolled."""
    box = node.placed.fragment.box
    scrolls = box.style.overflow_x not in _SHOWS_ALL or box.style.overflow_y not in _SHOWS_ALL
    return _content_rect(node) if scrolls and box.overflow_counts else node.port


def _with_child(placed: Placed, at: int, child: Placed) -> Placed:
    fragment = placed.fragment
    children = (*fragment.children[:at], child, *fragment.children[at + 1 :])
    made_of = fragment.made_of or fragment
    return replace(placed, fragment=replace(fragment, children=children, made_of=made_of))
