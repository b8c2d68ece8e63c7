"""percent-height-without-reference: a percentage height in a box whose own height is auto."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.units import format_px


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
            f"height {written} of {element.label} has nothing to refer to: the height of {holder} is auto, so this one is "
            f"auto too, {format_px(box.content_box.height)} px.",
            (element,),
            {"height": box.border_box.height / 64},
            look.source(element, "height"),
            (
                look.setting("say what it is: auto", (element, "height", "auto")),
                look.setting(f"take it of the window: {share:g}vh", (element, "height", f"{share:g}vh")),
            ),
        )


FAMILY = Family(
    "percent-height-without-reference",
    "A share of a height that is not known",
    "A percentage height needs a parent whose height is written. In a parent that is as high as its content it means "
    "nothing. Root and body at 100 %, or vh, give it something to refer to.",
    "<div><p style='height:50%;margin:0;background:#cde'>not half of anything</p></div>",
    find,
)
