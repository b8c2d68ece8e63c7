"""outgrew-its-width: padding or border was added and the width was not taken back, or on one side only."""

from collections.abc import Iterator

from redcrate.core.edit.afterwards import surplus_of, take_off
from redcrate.core.edit.patch import Patch
from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look, more_alike
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import ZERO, LayoutUnit, format_px

_SMALL = 2 * 64  # as much as a border: it shows, and breaks nothing


def find(look: Look) -> Iterator[Finding]:
    """Boxes as wide as their container before padding; and the one among alike blocks that is wider."""
    kinds: dict[object, list[tuple[Element, ElementBox, LayoutUnit]]] = {}
    for element, box in look.boxes:
        over = _beyond_container(look, element, box)
        if over:
            kind = (element.tag, element.classes, element.id, look.source(element, "width"), over)
            kinds.setdefault(kind, []).append((element, box, over))
    for alike in kinds.values():
        element, box, over = alike[0]
        severity = Severity.BREAKS if over > _SMALL else Severity.SUSPICIOUS
        elements = tuple(e for e, _, _ in alike)
        sized = look.setting(
            "Use box-sizing: border-box",
            *((e, "box-sizing", "border-box") for e in elements),
        )
        ways = (_take_off(look, element), sized) if len(alike) == 1 else (sized,)
        yield _finding(look, elements, box, over, severity, "its containing block", ways)
    for _, children in look.siblings():
        yield from _odd_ones(look, children)


def _beyond_container(look: Look, element: Element, box: ElementBox) -> LayoutUnit:
    """By how much a full width and its padding stick out."""
    at = box.box
    if at is None or at.container is None or not look.size_written(element):
        return ZERO
    surplus = surplus_of(look.page, element)
    holder = at.container.fragment.box
    if surplus is None or at.fragment.box.is_float or look.style(element).position != "static":
        return ZERO
    if holder.style.overflow_x != "visible" or holder.style.direction == "rtl":
        return ZERO
    room = at.container.content_rect
    over = box.border_box.right - room.right
    return over if box.content_box.width == room.width and ZERO < over <= surplus.amount else ZERO


def _odd_ones(look: Look, children: list[Element]) -> Iterator[Finding]:
    groups: dict[str, list[Element]] = {}
    for child in children:
        if look.size_written(child) and look.style(child).box_sizing == "content-box":
            groups.setdefault(child.tag, []).append(child)
    for alike in groups.values():
        widths = [b.border_box.width for e in alike if (b := look.box(e)) is not None]
        if len(alike) < 3:
            continue
        common = max(set(widths), key=widths.count)
        odd = [e for e in alike if (b := look.box(e)) is not None and b.border_box.width != common]
        if len(odd) != 1 or widths.count(common) != len(alike) - 1:
            continue
        box = look.box(odd[0])
        assert box is not None
        over = box.border_box.width - common
        sides = [box.padding.left, box.padding.right, box.border.left, box.border.right]
        sums = {*sides, sides[0] + sides[2], sides[1] + sides[3], sides[0] + sides[1], sum(sides)} - {0}
        if over in sums:
            ways = tuple(_ways_of_one(look, odd[0], box, over))
            than = "its siblings"
            yield _finding(look, (odd[0],), box, over, Severity.SUSPICIOUS, than, ways)


def _ways_of_one(look: Look, element: Element, box: ElementBox, over: LayoutUnit) -> Iterator[MakeFix]:
    """The one that is wider is told apart; the width that all share is left alone, and a share stays one."""
    if look.is_fluid(element):
        words = "Use box-sizing: border-box"
        yield look.told_apart(words, element, "box-sizing", "border-box")
        yield look.setting(words, (element, "box-sizing", "border-box"))
        return
    words = f"Subtract {format_px(over)} px from its width"
    if not look.has_place_of_its_own(element):
        yield look.told_apart(words, element, "width", f"{(box.content_box.width - over) / 64:g}px")
    yield look.narrower(words, element, over, alone=True)


def _finding(
    look: Look,
    elements: tuple[Element, ...],
    box: ElementBox,
    over: LayoutUnit,
    severity: Severity,
    than: str,
    ways: tuple[MakeFix, ...],
) -> Finding:
    element = elements[0]
    return Finding(
        "outgrew-its-width",
        severity,
        f"{element.label} is {format_px(over)} px wider than {than}: padding and border are added to "
        f"its width{more_alike(len(elements))}.",
        elements,
        {"given": box.content_box.width / 64, "width": box.border_box.width / 64, "over": over / 64},
        look.source(element, "width"),
        ways,
    )


def _take_off(look: Look, element: Element) -> MakeFix:
    def make() -> Patch:
        return take_off(look.page, look.texts, element).patch

    return look.fix("Subtract padding and border from its width", make)


FAMILY = Family(
    "outgrew-its-width",
    "Padding makes a block wider",
    "width is the width of the content. With 20 px of padding on each side a block of 100 % needs "
    "100 % and 40 px. Subtract the padding from the width, or use box-sizing: border-box.",
    "<div style='width:150px;border:1px solid'><p style='width:100%;padding:0 15px;background:#cde;margin:0'>out</p></div>",
    find,
)
