"""inline-overlaps-lines: padding and border of an inline element that are painted over the next line."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.units import ZERO, LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """Painted inline boxes that reach into the inline boxes of the line below."""
    told: set[tuple[str, ...]] = set()
    for element, box in look.boxes:
        if box.box is not None or not box.pieces or not look.is_painted(element):
            continue
        edges = box.padding.down + box.border.down
        over = _overlap(look, element, box.fragments) if edges else ZERO
        kind = (element.tag, *element.classes)
        if over <= 64 or kind in told:
            continue
        told.add(kind)
        assert box.container is not None
        holder = box.container.fragment.box
        height = box.fragments[0].height / 64
        ways = [
            look.setting(
                "Make it an inline-block (display: inline-block)",
                (element, "display", "inline-block"),
            )
        ]
        if holder.element is not None:
            ways.append(
                look.setting(
                    f"Set the line height of {holder.label} (line-height: {height:g}px)",
                    (holder.element, "line-height", f"{height:g}px"),
                )
            )
        yield Finding(
            "inline-overlaps-lines",
            Severity.SUSPICIOUS,
            f"{element.label}: its padding and border do not affect layout and cover {format_px(over)} px of the next line.",
            (element,),
            {"over": over / 64},
            look.source(element, "padding-top") or look.source(element, "border-top-width"),
            tuple(ways),
        )


def _overlap(look: Look, element: Element, mine: tuple[Rect, ...]) -> LayoutUnit:
    """The most by which a piece of it reaches into another line: of it, of a like neighbour, or of text."""
    assert element.parent is not None
    others = list(mine)
    for sibling in element.parent.child_elements:
        box = look.box(sibling)
        if sibling is not element and box is not None and box.box is None and box.pieces:
            others += box.fragments
    most = ZERO
    for rect in mine:
        below = [o for o in others if o is not rect and o.y > rect.y]
        for other in [*below, *_text_on_other_lines(look, element, rect)]:
            beside = rect.x < other.right and other.x < rect.right
            if beside and abs(other.y - rect.y) > 4 * 64:
                most = max(most, rect.shared_with(other).height)
    return most


def _text_on_other_lines(look: Look, element: Element, rect: Rect) -> Iterator[Rect]:
    """The letters of the same block above and below a piece: what is painted there lies over or under them."""
    box = look.box(element)
    holder = box.container if box is not None else None
    edges = box.padding.top - box.padding.bottom if box is not None else ZERO
    middle = rect.y + (rect.height + edges) // 2
    for text in look.texts_in(holder) if holder is not None else ():
        there = text.rect
        if there.y < rect.bottom and rect.y < there.bottom and not there.y <= middle <= there.bottom:
            yield text.letters


FAMILY = Family(
    "inline-overlaps-lines",
    "Inline padding covers the next line",
    "Vertical padding and border of inline elements are painted but do not affect layout: lines of padded links overlap.",
    "<p style='width:120px;margin:12px 0'><a style='padding:9px;border:1px solid'>one and a half lines of link</a></p>",
    find,
)
