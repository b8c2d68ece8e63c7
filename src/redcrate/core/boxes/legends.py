"""Which legend of a fieldset stands on its border: HTML Standard §15.3.13."""

from collections.abc import Iterable

from redcrate.core.boxes.box import Box, BoxKind


def legend_among(children: Iterable[Box]) -> Box | None:
    """The rendered legend: the first one among a fieldset's children that is in the flow; None without one."""
    return next((c for c in children if _is_legend(c)), None)


def _is_legend(box: Box) -> bool:
    return (
        box.element is not None
        and box.element.tag == "legend"
        and not box.pseudo
        and box.kind is BoxKind.BLOCK
        and box.in_flow
        and not box.is_inline_level
    )
