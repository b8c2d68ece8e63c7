"""no-effect-on-item: float, clear or vertical-align on an item of a flex or grid container."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element

_NAMES = ("float", "clear", "vertical-align")


def find(look: Look) -> Iterator[Finding]:
    """CSS Flexbox 1 §3, CSS Grid 1 §3: values that do nothing to an item, in rules for items alone."""
    for element, box in look.boxes:
        if box.box is None or not look.style(element).is_item:
            continue
        idle = [n for n in _NAMES if _is_meant(look, element, n)]
        if not idle:
            continue
        parent = element.parent
        container = "its container" if parent is None else parent.label
        does = "do" if len(idle) > 1 else "does"
        yield Finding(
            "no-effect-on-item",
            Severity.ADVICE,
            f"{' and '.join(idle)} of {element.label} {does} nothing: it is an item of {container}, which places it.",
            (element,),
            {},
            look.source(element, idle[0]),
            (
                look.removing(
                    "Remove the values without effect",
                    *(w for n in idle if (w := look.winner(element, n)) is not None),
                ),
            ),
        )


def _is_meant(look: Look, element: Element, name: str) -> bool:
    """Whether the author wrote it for items alone, and not to tell what such elements are wherever they stand."""
    winner = look.winner(element, name)
    if winner is None or winner.value in ("none", "baseline"):
        return False
    if any(d.name == "display" for d in winner.applied.rule.declarations):
        return False
    return look.is_meant_for(element, name, lambda e: look.style(e).is_item)


FAMILY = Family(
    "no-effect-on-item",
    "No effect on an item",
    "The container places its flex and grid items: float, clear and vertical-align have no effect on "
    "them. align-self, justify-self and margins move an item.",
    "<div style='display:flex'><p style='float:right;margin:0'>one</p><p style='margin:0'>two</p></div>",
    find,
)
