"""min-over-max: a smallest size that is larger than the largest one."""

from collections.abc import Iterator

from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.style.values import Length, MathLength
from redcrate.core.units import LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """min-width over max-width, min-height over max-height: CSS 2.2 §10.4 lets the smallest one win."""
    for element, box in look.boxes:
        for axis in ("width", "height"):
            low, high = (_used(look, element, box, f"{limit}_{axis}") for limit in ("min", "max"))
            if low is None or high is None or low <= high + 32:
                continue
            if (
                look.winner(element, f"min-{axis}") is None
                or look.winner(element, f"max-{axis}") is None
            ):
                continue
            yield _finding(look, element, axis, low, high)


def _used(look: Look, element: Element, box: ElementBox, name: str) -> LayoutUnit | None:
    """The limit in px at this width; None for `none`, keywords and shares of what is not known."""
    value = getattr(look.style(element), name)
    if not isinstance(value, Length | MathLength) or box.container is None:
        return None
    if value.has_percent and name.endswith("height"):
        return None
    return value.resolve(box.container.content_rect.width)


def _finding(look: Look, element: Element, axis: str, low: LayoutUnit, high: LayoutUnit) -> Finding:
    written = {limit: look.written(element, f"{limit}-{axis}") for limit in ("min", "max")}
    words = {
        limit: f"{limit}-{axis} {format_px(used)} px"
        + (f" ({written[limit]})" if not written[limit].endswith("px") else "")
        for limit, used in (("min", low), ("max", high))
    }
    return Finding(
        "min-over-max",
        Severity.SUSPICIOUS,
        f"{element.label}: {words['min']} is more than {words['max']}, so max-{axis} has no effect.",
        (element,),
        {"min": low / 64, "max": high / 64},
        look.source(element, f"min-{axis}"),
        (
            look.setting(
                f"Lower the minimum (min-{axis}: {written['max']})",
                (element, f"min-{axis}", written["max"]),
            ),
            look.setting(
                f"Raise the maximum (max-{axis}: {written['min']})",
                (element, f"max-{axis}", written["min"]),
            ),
        ),
    )


FAMILY = Family(
    "min-over-max",
    "Minimum larger than maximum",
    "If a min limit is larger than the max limit, the min limit counts and the max limit has no effect.",
    "<p style='min-width:160px;max-width:90px;background:#cde;margin:0'>160 px wide</p>",
    find,
    about=About.NAMES,
)
