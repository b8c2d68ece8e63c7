"""Laws that hold for every laid-out page, whatever stands in it."""

from collections import Counter
from zlib import crc32

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.element_content import summary_of
from redcrate.core.boxes.replaced_elements import is_displayed
from redcrate.core.explain import across, down
from redcrate.core.geometry import Rect
from redcrate.core.layout.engine import CONTEXTS
from redcrate.core.layout.fragments import Fragment, InlinePiece, TextPiece
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, compute_page
from redcrate.core.style.media import Viewport
from redcrate.core.units import LayoutUnit
from tests.snapshot import page_snapshot

_WITHOUT_INSIDE = frozenset(
    "img svg video canvas iframe embed object audio input textarea select progress meter br wbr".split()
)


def check_laws(page: Page) -> None:
    """All laws; raises AssertionError with the element that breaks one."""
    no_box_is_lost(page)
    sizes_add_up(page)
    pieces_stand_once(page)
    explanations_add_up(page)
    reasons_are_of_the_context(page)
    one_box_is_found_as_all_are(page)
    if (
        crc32(page.source.markup.source.text.encode("utf-8", "surrogatepass")) % 2
    ):  # costs most: half of the pages, always the same
        kept_results_are_those_of_a_fresh_pass(page)
    what_reaches_into_a_part_is_found(page)


def what_reaches_into_a_part_is_found(page: Page) -> None:
    """The lowest box makes the page's height; a part of the page is reached by all boxes that stand in it, in order."""
    order = [b.placed for b in page.in_order]
    lowest = max((b.rect.bottom for b in page.in_order), default=0)
    assert page.height == max(lowest, round(page.viewport.height * 64))
    far = 2**40
    assert [b.placed for b in page.reaching(_rect(-far, -far, 2 * far, 2 * far))] == order
    part = _rect(page.height // 8, page.height // 3, page.height // 4, page.height // 3)
    found = {b.placed: b.rect for b in page.reaching(part)}
    assert list(found) == [p for p in order if p in found], "out of order"
    for box in page.in_order:
        rect = box.rect
        across = rect.x <= part.right and rect.right >= part.x
        if across and rect.y <= part.bottom and rect.bottom >= part.y:
            assert found.get(box.placed) == rect, f"{box.fragment.box.label} is not found"


def _rect(x: int, y: int, width: int, height: int) -> Rect:
    return Rect(*(LayoutUnit(n) for n in (x, y, width, height)))


def reasons_are_of_the_context(page: Page) -> None:
    """A formatting context gives no other reason for a size than those that it names."""
    for placed in page.in_order:
        fragment = placed.fragment
        context = CONTEXTS[fragment.box.inner]
        assert {fragment.across.reason, fragment.down.reason} <= context.reasons, fragment.box.label


def one_box_is_found_as_all_are(page: Page) -> None:
    """The geometry of one element, looked up from outside in, is that of the walk over the page."""
    again = compute_page(page.source, page.viewport, page)
    found = {e: box for e in page.elements if (box := again.box_of(e)) is not None}
    assert "_whole" not in again.__dict__, "all boxes were walked for one"
    assert found.keys() == page.by_element.keys()
    for element, box in page.by_element.items():
        one = found[element]
        assert (one.fragments, one.margin, one.padding) == (box.fragments, box.margin, box.padding)
        assert [(p.x, p.y, p.has_left) for p in one.pieces] == [
            (p.x, p.y, p.has_left) for p in box.pieces
        ]
        ends = [b.container.rect if b.container else None for b in (one, box)]
        assert ends[0] == ends[1], f"{element.label} is found in another container"


def kept_results_are_those_of_a_fresh_pass(page: Page) -> None:
    """Another window width and back again: what is kept changes no number."""
    other = Viewport(page.viewport.width * 0.6 + 7, page.viewport.height)
    there = compute_page(page.source, other, page)
    assert page_snapshot(there) == page_snapshot(compute_page(page.source, other)), (
        "kept at another width"
    )
    assert page_snapshot(compute_page(page.source, page.viewport, there)) == page_snapshot(page), (
        "kept on the way"
    )


def no_box_is_lost(page: Page) -> None:
    """Every element that generates a box has one on the page."""
    hidden: set[Element] = set()
    for element in page.elements:
        style = page.style_of(element)
        parent = element.parent
        inside = parent is not None and (parent in hidden or parent.tag in _WITHOUT_INSIDE)
        if parent is not None and parent.tag == "details" and "open" not in parent.attributes:
            inside = inside or element is not summary_of(parent)
        if inside or not is_displayed(element, style.display) or _in_a_column(page, element):
            hidden.add(element)
        elif style.display != "contents":
            assert page.box_of(element) is not None, f"{element.label} has lost its box"


def _in_a_column(page: Page, element: Element) -> bool:
    """CSS 2.2 §17.2.1: a column holds nothing, a column group columns alone."""
    around = element.parent
    while around is not None and page.style_of(around).display == "contents":
        around = around.parent
    held = "" if around is None else page.style_of(around).display
    own = page.style_of(element)
    is_column = own.display == "table-column" and own.position not in ("absolute", "fixed")
    return held == "table-column" or (held == "table-column-group" and not is_column)


def sizes_add_up(page: Page) -> None:
    """Border, padding and content make the border box; nothing is narrower than nothing."""
    for placed in page.in_order:
        fragment = placed.fragment
        border, padding = fragment.border, fragment.padding
        wide = fragment.across.content + border.across + padding.across
        high = fragment.down.content + border.down + padding.down
        assert (fragment.width, fragment.height) == (wide, high), fragment.box.label
        assert fragment.across.content >= 0 and fragment.down.content >= 0, fragment.box.label
        assert not (fragment.box.kind is BoxKind.REPLACED and fragment.children)


def pieces_stand_once(page: Page) -> None:
    """On each line an inline box has one piece, its edges stand once, and text is set once."""
    for placed in page.in_order:
        _check_lines(placed.fragment)


def _one_of_two(block: Box) -> dict[Box, Box]:
    """For the boxes of a first line's twin: those of the block that they stand for."""
    pairs = [] if block.first_line is None else [(block.first_line, block)]
    found: dict[Box, Box] = {}
    while pairs:
        twin, box = pairs.pop()
        found[twin] = box
        if box is block or box.kind is BoxKind.INLINE:
            pairs += zip(twin.children, box.children, strict=True)
    return found


def _check_lines(fragment: Fragment) -> None:
    meant = _one_of_two(fragment.box)
    lefts: Counter[Box] = Counter()
    rights: Counter[Box] = Counter()
    pieces: set[Box] = set()
    texts: Counter[Box] = Counter()
    below = None
    for line in fragment.lines:
        assert below is None or line.y >= below, "lines overlap"
        below = line.y
        here = [p for p in line.content if isinstance(p, InlinePiece)]
        boxes = Counter(p.box for p in here)
        assert not boxes or max(boxes.values()) == 1, "an inline box stands twice on a line"
        for piece in here:
            box = meant.get(piece.box, piece.box)
            pieces.add(box)
            lefts[box] += piece.has_left
            rights[box] += piece.has_right
        for part in line.content:
            if isinstance(part, TextPiece) and part.run is not None:
                texts[meant.get(part.box, part.box)] += part.end - part.start
    for box in pieces:
        if box.style.box_decoration_break == "clone":
            continue  # its edges stand on every line
        assert lefts[box] == box.begins_here, f"{box.label}: {lefts[box]} left edges"
        assert rights[box] == box.ends_here, f"{box.label}: {rights[box]} right edges"
    for box, characters in texts.items():
        if box.style.text_transform == "none":
            assert characters <= len(box.text), "text is set twice"


def explanations_add_up(page: Page) -> None:
    """The terms of every equation make the geometry, exactly."""
    for element, box in page.by_element.items():
        wide, high = across(page, element), down(page, element)
        assert wide is not None and high is not None
        if not wide.terms:
            continue
        first = box.fragments[0]
        assert sum(t.used for t in wide.terms if t.part != "margin") == first.width, element.label
        assert sum(t.used for t in high.terms if t.part != "margin") == first.height, element.label
