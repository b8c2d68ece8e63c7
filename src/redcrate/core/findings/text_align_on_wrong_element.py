"""text-align-on-wrong-element: text-align on an image or an inline element, where it moves nothing."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch
from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element


def find(look: Look) -> Iterator[Finding]:
    """text-align that the author gave to an inline or replaced element itself."""
    for element, box in look.boxes:
        style = look.style(element)
        winner = look.winner(element, "text-align")
        if (
            winner is None
            or style.text_align not in ("center", "right", "end")
            or element.tag in ("br", "wbr")
        ):
            continue
        replaced = box.box is not None and box.box.fragment.box.intrinsic is not None
        if not replaced and style.display != "inline":
            continue
        parent = _block_around(look, element)
        if parent is None or look.style(parent).text_align == style.text_align:
            continue
        yield Finding(
            "text-align-on-wrong-element",
            Severity.SUSPICIOUS,
            f"text-align {style.text_align} on {element.label} has no effect: text-align aligns the "
            f"content of a block. Set it on {parent.label}.",
            (element, parent),
            {"width": box.border_box.width / 64},
            look.source(element, "text-align"),
            (
                look.fix(
                    f"Move it to {parent.label} (text-align: {style.text_align})",
                    partial(_moved, look, element, parent, str(style.text_align)),
                ),
                look.removing("Remove text-align", winner),
            ),
        )


def _block_around(look: Look, element: Element) -> Element | None:
    return next(
        (a for a in element.ancestors() if look.style(a).display not in ("inline", "contents")), None
    )


def _moved(look: Look, element: Element, parent: Element, value: str) -> Patch | None:
    there = look.setting("", (parent, "text-align", value))()
    winner = look.winner(element, "text-align")
    away = look.removing("", winner)() if winner is not None else None
    if there is None or away is None:
        return None
    return Patch((*there.patch.edits, *away.patch.edits), f"text-align moved to {parent.label}")


FAMILY = Family(
    "text-align-on-wrong-element",
    "text-align on the wrong element",
    "text-align centres the content of a block, not the block. Set it on the parent of an image.",
    "<p style='border:1px solid;margin:0;width:180px'><b style='text-align:center'>not centred</b></p>",
    find,
)
