"""default-margin-shift: the default margin of body, which keeps painted blocks off the window's edges."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.rule_places import new_rule_edit
from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """body's 8 px where a painted child was to fill the window."""
    body = look.page.source.markup.body
    box = look.box(body) if body is not None else None
    if body is None or box is None or not box.margin.left or not look.page.source.sheets:
        return
    if look.winner(body, "margin-left") is not None:
        return
    for child in body.child_elements:
        inside = look.box(child)
        if inside is None or inside.box is None or not look.has_ground(child):
            continue
        if inside.border_box.width == box.content_box.width and inside.box.fragment.box.in_flow:
            yield Finding(
                "default-margin-shift",
                Severity.ADVICE,
                f"The default margin of body, {format_px(box.margin.left)} px, keeps {child.label} off the edges "
                f"of the window.",
                (body, child),
                {"margin": box.margin.left / 64},
                None,
                (look.fix("make the margin of body 0", partial(_zeroed, look)),),
            )
            return


def _zeroed(look: Look) -> Patch:
    edit = new_rule_edit(look.page, look.texts, "body", "margin: 0")
    return Patch((edit,), "margin of body 8px → 0")


FAMILY = Family(
    "default-margin-shift",
    "A margin that nobody wrote",
    "Browsers give body 8 px of margin, and headings, paragraphs, lists and figures theirs. Zero body's first.",
    "<style>p{margin:0;background:#cde}</style><p>8 px from every edge</p>",
    find,
)
