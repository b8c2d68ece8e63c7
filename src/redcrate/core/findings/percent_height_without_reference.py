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
        holder = box.container.fragment.box.label if box.container else "the box around it"
        yield Finding(
            "percent-height-without-reference",
            Severity.SUSPICIOUS,
            f"height {written} on {element.label} has no effect: it is a share of the height of {holder}, and {holder} has "
            f"no height written.",
            (element,),
            {"height": box.border_box.height / 64},
            look.source(element, "height"),
            tuple(_ways(look, element, share)),
        )


def _ways(look: Look, element: Element, share: float) -> Iterator[MakeFix]:
    """What gives it a reference first; then the window's height; that it does nothing last."""
    if element.parent is look.page.source.markup.body:
        yield look.fix("give html and body a height of 100 %", partial(_of_the_window, look))
    yield look.setting(
        f"make it at least that much of the window (min-height {share:g}vh)",
        (element, "min-height", f"{share:g}vh"),
        (element, "height", "auto"),
    )
    yield look.setting("say what it is: auto", (element, "height", "auto"))


def _of_the_window(look: Look) -> Patch:
    edit = new_rule_edit(look.page, look.texts, "html, body", "height: 100%")
    return Patch((edit,), "html and body as high as the window")


FAMILY = Family(
    "percent-height-without-reference",
    "A share of a height that is not known",
    "A percentage height needs a parent whose height is written. In a parent that is as high as its content it means "
    "nothing. Root and body at 100 %, or vh, give it something to refer to.",
    "<div><p style='height:50%;margin:0;background:#cde'>not half of anything</p></div>",
    find,
    judged_at_all_widths=True,
)
