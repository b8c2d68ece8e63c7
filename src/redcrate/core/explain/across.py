"""How a box spends its container's width: CSS 2.2 §10.3.3's sum, term by term."""

from collections.abc import Iterator
from typing import assert_never

from redcrate.core.explain.last_asked import last_asked
from redcrate.core.explain.sharing import Sharing, decided_by_container, sharing_of
from redcrate.core.explain.terms import Equation, Reason, Term, written_value
from redcrate.core.geometry import SIDES
from redcrate.core.layout.containment import contained_sizes
from redcrate.core.layout.fragments import Across, InlinePiece, MarginReason, SizeReason
from redcrate.core.markup.buttons import is_button
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.units import ZERO, LayoutUnit, format_px

_EDGES = tuple(n for s in SIDES for n in (f"padding-{s}", f"border-{s}-width"))


@last_asked
def across(page: Page, element: Element) -> Equation | None:
    """The equation of an element's width; None if it has no box.

    The terms always add up to the margin box, in 1/64 px. For an inline element it is that of its
    first line.
    """
    box = page.box_of(element)
    if box is None:
        return None
    if box.box is None:
        return _inline(page, box)
    sizes = box.box.fragment.across
    fragment = box.box.fragment
    amounts = {
        ("margin", "left"): fragment.margin.left,
        ("border", "left"): fragment.border.left,
        ("padding", "left"): fragment.padding.left,
        ("content", ""): sizes.content,
        ("padding", "right"): fragment.padding.right,
        ("border", "right"): fragment.border.right,
        ("margin", "right"): fragment.margin.right,
    }
    terms = [
        _term(page, element, part, side, used, _why(page, element, sizes, part, side))
        for (part, side), used in amounts.items()
    ]
    container = container_label(box)
    reasons = _reasons(page, box, sizes, terms, container)
    shared = sharing_of(box) in (Sharing.LINE, Sharing.COLUMNS)
    return Equation(
        element, "across", container, sizes.basis, tuple(terms), tuple(reasons), is_shared=shared
    )


def container_label(box: ElementBox) -> str:
    """The name of what the box stands in."""
    if box.box is not None and stands_in_initial_block(box.box):
        return "the initial containing block"
    at = box.container
    while at is not None and at.fragment.box.element is None:
        at = at.container
    if at is None or at.fragment.box.element is None:
        return "the viewport"
    return at.fragment.box.element.label


def stands_in_initial_block(at: PlacedBox) -> bool:
    """Whether an absolute box has no positioned box around it: CSS 2.2 §10.1."""
    style, root = at.fragment.box.style, at.container
    if style.position not in ("absolute", "fixed") or root is None or root.container is not None:
        return False
    around = root.fragment.box.style
    if style.position == "fixed":
        return not around.contains_fixed
    return around.position == "static" and not around.contains_fixed


def longhand_of(part: str, side: str, axis: str) -> str:
    """The longhand property behind a term."""
    if part == "content":
        return "width" if axis == "across" else "height"
    return f"border-{side}-width" if part == "border" else f"{part}-{side}"


def _term(page: Page, element: Element, part: str, side: str, used: LayoutUnit, why: str) -> Term:
    longhand = longhand_of(part, side, "across")
    written, source = written_value(page, element, longhand)
    return Term(part, side, longhand, used, written, source, why)


def _why(page: Page, element: Element, sizes: Across, part: str, side: str) -> str:
    if part == "content":
        return f"limited by {sizes.limit}" if sizes.limit else sizes.reason.value
    if part == "margin":
        style = page.style_of(element)
        is_auto = (style.margin_left if side == "left" else style.margin_right) == "auto"
        if is_auto:
            return _auto_margin(sizes.margin_reason)
    return ""


def _inline(page: Page, box: ElementBox) -> Equation:
    """The first line of an inline element (§10.3.1): width is ignored, the text decides."""
    element = box.element
    line_width = box.container.content_rect.width if box.container else ZERO
    if not box.pieces:
        return Equation(element, "across", container_label(box), line_width, (), ())
    terms = inline_terms(page, element, box.pieces[0])
    content = terms[3].used
    sentence = f"{format_px(content)} px on its first line: an inline element is as wide as its text."
    reasons = [Reason(sentence, None)]
    written, source = written_value(page, element, "width")
    if written and written != "auto":
        reasons.append(Reason("width has no effect: the element is inline.", source))
    return Equation(element, "across", container_label(box), line_width, terms, tuple(reasons))


def inline_terms(page: Page, element: Element, piece: InlinePiece) -> tuple[Term, ...]:
    """The terms of an inline element on one line: its sides push where they are, at its beginning and end."""
    left, right = piece.has_left, piece.has_right
    border_l, border_r = piece.border.left * left, piece.border.right * right
    padding_l, padding_r = piece.padding.left * left, piece.padding.right * right
    content = piece.width - border_l - border_r - padding_l - padding_r
    amounts = {
        ("margin", "left"): piece.margin.left * left,
        ("border", "left"): border_l,
        ("padding", "left"): padding_l,
        ("content", ""): content,
        ("padding", "right"): padding_r,
        ("border", "right"): border_r,
        ("margin", "right"): piece.margin.right * right,
    }
    return tuple(
        _term(page, element, p, s, used, SizeReason.INLINE.value if p == "content" else "")
        for (p, s), used in amounts.items()
    )


def _reasons(
    page: Page, box: ElementBox, sizes: Across, terms: list[Term], container: str
) -> list[Reason]:
    """The sentences of *why this wide*."""
    width = terms[3]
    return [
        Reason(_sum_sentence(terms, box), width.source),
        *_width_reasons(page, box, sizes, width, container),
        *_without_edges(page, box),
        Reason(_container_sentence(box, sizes, terms, container), terms[0].source or terms[6].source),
    ]


def _without_edges(page: Page, box: ElementBox) -> Iterator[Reason]:
    """Borders and paddings that the style has and the box does not: CSS UI 4 §7.2."""
    if box.box is None:
        return
    own, style = box.box.fragment.box.style, page.style_of(box.element)
    for longhand in _EDGES:
        name = longhand.replace("-", "_")
        if getattr(own, name) != getattr(style, name):
            source = written_value(page, box.element, longhand)[1]
            sentence = "Its borders and paddings have no effect unless appearance is none."
            yield Reason(sentence, source)
            return


def _width_reasons(
    page: Page, box: ElementBox, sizes: Across, width: Term, container: str
) -> list[Reason]:
    """What decided about the width: the box's own rules, or the container that it is an item or a part of."""
    if not sizes.limit:
        decided = list(decided_by_container(page, box, sizes.reason, "width"))
        if decided:
            return decided
    return [Reason(_width_sentence(page, box, sizes, width, container), width.source)]


def _sum_sentence(terms: list[Term], box: ElementBox) -> str:
    """The addition that people otherwise do in their heads."""
    text = f"{format_px(terms[3].used)} px content"
    for part, first, second in (("padding", terms[2], terms[4]), ("border", terms[1], terms[5])):
        if first.used or second.used:
            text += f" + {format_px(first.used + second.used)} {part}"
    return f"{text} = {format_px(box.border_box.width)} px."


def _width_sentence(page: Page, box: ElementBox, sizes: Across, width: Term, container: str) -> str:
    content = format_px(sizes.content)
    if sizes.limit:
        lost = format_px(sizes.tentative)
        return f"{sizes.limit} limits it: the content is {content} px; without the limit {lost} px."
    style = page.style_of(box.element)
    inside = " (includes padding and border)" if style.box_sizing == "border-box" else ""
    match sizes.reason:
        case SizeReason.SPECIFIED:
            return f"width: {width.written}{inside}."
        case SizeReason.PERCENT:
            return f"width: {width.written} of the {format_px(sizes.basis)} px of {container}{inside}."
        case SizeReason.FILL:
            return f"width is auto: it fills its containing block {container} ({format_px(sizes.basis)} px)."
        case SizeReason.SHRINK_TO_FIT:
            counts = contained_sizes(box.box.fragment.box) if box.box is not None else None
            if counts is not None:
                return f"width is auto: because of contain its content counts as {content} px."
            return _fit_sentence(sizes)
        case SizeReason.FIT_CONTENT if width.written in ("", "auto"):
            return _fitted_sentence(box, content)
        case SizeReason.STRETCH:
            return f"width is auto between left and right: {content} px."
        case (
            SizeReason.MIN_CONTENT
            | SizeReason.MAX_CONTENT
            | SizeReason.FIT_CONTENT
            | SizeReason.FIELD
            | SizeReason.INTRINSIC
            | SizeReason.RATIO
            | SizeReason.RATIO_LIMIT
            | SizeReason.RATIO_CONTENT
            | SizeReason.CONTENT
            | SizeReason.FLEXED
            | SizeReason.LINE
            | SizeReason.AREA
            | SizeReason.COLUMNS
            | SizeReason.ROWS
            | SizeReason.VIEWPORT
            | SizeReason.INLINE
            | SizeReason.PERCENT_OF_NOTHING
        ):
            return f"{sizes.reason.value}: {content} px."
    assert_never(sizes.reason)


def _fitted_sentence(box: ElementBox, content: str) -> str:
    """Of an auto width that comes from the content, though nobody wrote so."""
    if is_button(box.element):
        return f"width is auto, and a button is no wider than its content: {content} px."
    return f"width is auto, and with justify-self a block is as wide as its content: {content} px."


def _fit_sentence(sizes: Across) -> str:
    narrowest, widest, room = (format_px(n) for n in sizes.fit or (ZERO, ZERO, ZERO))
    return f"width is auto (shrink-to-fit): the content needs {narrowest} to {widest} px; {room} px available."


def _auto_margin(reason: MarginReason) -> str:
    """What an auto margin came to, in a few words."""
    match reason:
        case MarginReason.AUTO_SPLIT:
            return "auto: half of the free width"
        case MarginReason.AUTO_LEFT | MarginReason.AUTO_RIGHT:
            return "auto: all of the free width"
        case MarginReason.ALIGNED:
            return "moved by an align attribute (or center) around it"
        case MarginReason.JUSTIFIED:
            return "moved by justify-self"
        case MarginReason.TOO_WIDE:
            return "auto counts as 0: no width is free"
        case (
            MarginReason.AUTO_ZERO
            | MarginReason.SPECIFIED
            | MarginReason.OVER_CONSTRAINED_LEFT
            | MarginReason.OVER_CONSTRAINED_RIGHT
        ):
            return "auto counts as 0 here"
    assert_never(reason)


def _container_sentence(box: ElementBox, sizes: Across, terms: list[Term], container: str) -> str:
    spent = sum((t.used for t in terms), ZERO)
    where = "its grid area" if sharing_of(box) is Sharing.AREA else container
    text = f"Margin box {format_px(spent)} px of {format_px(sizes.basis)} px available in {where}"
    if sharing_of(box) not in (Sharing.AREA, None):
        return f"{text}, shared with others."
    rest = sizes.basis - spent
    if rest < 0:
        return f"{text}: it overflows by {format_px(-rest)} px."
    if sizes.margin_reason is MarginReason.AUTO_SPLIT:
        return f"{text}; both side margins are auto, so it is centred."
    if sizes.margin_reason in (MarginReason.AUTO_LEFT, MarginReason.AUTO_RIGHT):
        side = "left" if sizes.margin_reason is MarginReason.AUTO_LEFT else "right"
        return f"{text}; the {side} margin is auto: all of the free width."
    return f"{text}; {format_px(rest)} px free." if rest else f"{text}; none free."
