"""default-margin-shift: default margins of browsers that keep painted blocks off an edge, or make them larger."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.rule_places import new_rule_edit
from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import LayoutUnit, format_px

_NEAR = 4 * 64
_TALLEST_BAR = 160 * 64
_HEADINGS = ("h1", "h2", "h3", "h4", "h5", "h6")
_LISTS = ("ul", "ol", "dl", "menu")


def find(look: Look) -> Iterator[Finding]:
    """body's 8 px where a painted child was to fill the window; margins nobody wrote in painted bars."""
    if not look.page.source.sheets:
        return
    yield from _of_body(look)
    for element, box in look.boxes:
        if box.box is not None and look.has_ground(element) and box.border_box.height <= _TALLEST_BAR:
            yield from _in_bar(look, element, box)


def _of_body(look: Look) -> Iterator[Finding]:
    body = look.page.source.markup.body
    box = look.box(body) if body is not None else None
    if body is None or box is None or not box.margin.left:
        return
    if look.winner(body, "margin-left") is not None or _keeps_text_off(look, box):
        return
    for child in body.child_elements:
        inside = look.box(child)
        if inside is None or inside.box is None or not look.has_ground(child):
            continue
        if inside.border_box.width == box.content_box.width and inside.box.fragment.box.in_flow:
            yield Finding(
                "default-margin-shift",
                Severity.ADVICE,
                f"{format_px(box.margin.left)} px of default margin on body separate {child.label} "
                "from the edges of the viewport.",
                (body, child),
                {"margin": box.margin.left / 64},
                None,
                (look.fix("Remove the margin of body (margin: 0)", partial(_zeroed, look)),),
            )
            return


def _keeps_text_off(look: Look, body: ElementBox) -> bool:
    """Whether text would touch the window if the margin were gone."""
    return any(text.rect.x - body.content_box.x < _NEAR for text in look.texts_seen)


def _in_bar(look: Look, bar: Element, box: ElementBox) -> Iterator[Finding]:
    """A heading, list or figure alone in a painted bar: its default margins are a good part of the bar."""
    inside = [(c, b) for c in bar.child_elements if (b := look.box(c)) is not None and b.box is not None]
    if len(inside) != 1 or bar.tag in ("figure", "blockquote", "li", "td", "th"):
        return
    child, its = inside[0]
    if child.tag not in (*_HEADINGS, *_LISTS, "figure"):
        return
    down = _kept_inside(look, child, its, box)
    across = (
        its.margin.left if child.tag == "figure" and look.winner(child, "margin-left") is None else 0
    )
    if 3 * down >= box.border_box.height:
        what, amount, names = "taller", down, ("margin-top", "margin-bottom")
    elif across:
        what, amount, names = "narrower inside", its.margin.across, ("margin-left", "margin-right")
    else:
        return
    yield Finding(
        "default-margin-shift",
        Severity.ADVICE,
        f"The default margins of {child.label} make {bar.label} {format_px(amount)} px {what}.",
        (child, bar),
        {"margin": amount / 64},
        None,
        (look.setting(f"Remove those margins of {child.label} (0)", *((child, n, "0") for n in names)),),
    )


def _kept_inside(look: Look, child: Element, its: ElementBox, box: ElementBox) -> LayoutUnit:
    """The default margins above and below that lie inside the bar."""
    inner = box.padding_box
    above, below = its.border_box.y - inner.y - box.padding.top, inner.bottom - its.border_box.bottom
    top = min(above, its.margin.top) if look.winner(child, "margin-top") is None else 0
    rest = below - box.padding.bottom
    bottom = min(rest, its.margin.bottom) if look.winner(child, "margin-bottom") is None else 0
    return LayoutUnit(max(0, top) + max(0, bottom))


def _zeroed(look: Look) -> Patch:
    edit = new_rule_edit(look.page, look.texts, "body", "margin: 0")
    return Patch((edit,), "margin of body 8px → 0")


FAMILY = Family(
    "default-margin-shift",
    "Default margin",
    "Browsers give body 8 px of margin; headings, paragraphs, lists and figures have default margins "
    "too. Set the margin of body to 0 first.",
    "<style>p{margin:0;padding:9px;background:#cde}</style><p>8 px from every edge</p>",
    find,
)
