"""percent-height-without-reference: a percentage height in a box whose own height is auto."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.rule_places import new_rule_edit
from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element


def find(look: Look) -> Iterator[Finding]:
    """Percentage heights that CSS 2.2 §10.5 turns into auto."""
    for element, box in look.boxes:
        if box.box is None or box.box.fragment.down.reason is not SizeReason.PERCENT_OF_NOTHING:
            continue
        if look.winner(element, "height") is None:
            continue
        written = look.written(element, "height")
        share = getattr(look.style(element).height, "percent", 0.0)
        holder = box.container.fragment.box.label if box.container else "its containing block"
        yield Finding(
            "percent-height-without-reference",
            Severity.SUSPICIOUS,
            f"height: {written} of {element.label} has no effect: the height of its containing block {holder} is auto.",
            (element,),
            {"height": box.border_box.height / 64},
            look.source(element, "height"),
            tuple(_ways(look, element, share)),
        )


def _ways(look: Look, element: Element, share: float) -> Iterator[MakeFix]:
    """What gives it a reference first; then the window's height; that it does nothing last."""
    if element.parent is look.page.source.markup.body:
        yield look.fix("Set the height of html and body (height: 100%)", partial(_of_the_window, look))
    yield look.setting(
        f"Use a share of the viewport (min-height: {share:g}vh)",
        (element, "min-height", f"{share:g}vh"),
        (element, "height", "auto"),
    )
    yield look.setting("Use height: auto", (element, "height", "auto"))


def _of_the_window(look: Look) -> Patch:
    edit = new_rule_edit(look.page, look.texts, "html, body", "height: 100%")
    return Patch((edit,), "html and body as high as the viewport")


FAMILY = Family(
    "percent-height-without-reference",
    "Percentage of an auto height",
    "A percentage height needs a containing block with a height. If that height is auto, the "
    "percentage has no effect. Use height: 100% on html and body, or vh.",
    "<div><p style='height:50%;margin:0;background:#cde'>not half of anything</p></div>",
    find,
    judged_at_all_widths=True,
)
