"""A proof as text and as plain data; the shape of the data is fixed (docs/prove.md, proof_schema.json)."""

from collections.abc import Iterator
from typing import Any

from redcrate.core.explain.across import across
from redcrate.core.explain.down import down
from redcrate.core.explain.position import position
from redcrate.core.page import Page
from redcrate.core.proof.comparing import (
    PARTS,
    Comparison,
    Difference,
    DifferenceKind,
    Sizes,
)
from redcrate.core.proof.proving import Proof
from redcrate.core.units import counted

_MOST_TOLD = 12  # causes of a width in the text
_MOST_WHY = 2  # sentences of an explanation


def proof_json(proof: Proof) -> dict[str, Any]:
    """The proof as plain data; px with three digits."""
    return {
        "page": str(proof.path),
        "browser": proof.browser,
        "tolerance": proof.wish.tolerance,
        "after_scripts": proof.wish.scripts,
        "widths": [_width_json(c) for c in proof.comparisons],
        "refused": list(proof.refused),
    }


def _width_json(found: Comparison) -> dict[str, Any]:
    return {
        "width": found.width,
        "compared": found.compared,
        "equal": found.equal,
        "other_tree": found.other_tree,
        "fonts_not_loaded": list(found.failed),
        "causes": [_cause_json(found, d) for d in found.causes],
    }


def _cause_json(found: Comparison, cause: Difference) -> dict[str, Any]:
    return {
        "element": cause.element.label,
        "index": cause.element.index,
        "kind": cause.kind.value,
        "parts": list(cause.own),
        "here": _sizes_json(cause.here),
        "there": _sizes_json(cause.there),
        "fonts": None if cause.fonts is None else {"here": cause.fonts[0], "there": cause.fonts[1]},
        "following": len(found.following(cause)),
        "why": list(why(found.page, cause)),
    }


def _sizes_json(sizes: Sizes | None) -> dict[str, float] | None:
    return None if sizes is None else {name: round(sizes.part(name), 3) for name in PARTS}


def why(page: Page, cause: Difference) -> tuple[str, ...]:
    """Why the box is here as it is: what explains the parts that differ."""
    out: dict[str, None] = {}
    for part in cause.own:
        if part == "width":
            equation = across(page, cause.element)
            reasons = () if equation is None else equation.reasons
        elif part == "height":
            equation = down(page, cause.element)
            reasons = () if equation is None else equation.reasons
        else:
            reasons = position(page, cause.element)
        out |= dict.fromkeys(r.sentence for r in reasons[:_MOST_WHY])
    return tuple(out)


def proof_text(proof: Proof) -> str:
    """The proof as people read it."""
    return "\n".join(_lines(proof))


def _lines(proof: Proof) -> Iterator[str]:
    after = ", page scripts run" if proof.wish.scripts else ""
    yield f"{proof.path} compared with {proof.browser}{after}, tolerance {proof.wish.tolerance:g} px"
    for found in proof.comparisons:
        yield ""
        yield f"{found.width:g} px wide: {agreed(found)}"
        yield from _differing(found)
    if proof.refused:
        yield ""
        yield f"Files on {', '.join(proof.refused)} were not loaded; they are missing in both."


def agreed(found: Comparison) -> str:
    """How many boxes are the same, in words; and where the window is not the same."""
    other = abs(found.width_there - found.width) >= 1
    bars = f" Scroll bars leave {_px(found.width_there)} px for the page there." if other else ""
    return _agreed(found) + bars


def _agreed(found: Comparison) -> str:
    if not found.differences and not found.other_tree:
        return f"all {found.compared} boxes are equal."
    share = 100 * found.equal / found.compared if found.compared else 0.0
    tree = f" The element trees differ {found.other_tree}." if found.other_tree else ""
    return f"{found.equal} of {found.compared} boxes are equal ({int(share * 10) / 10:g} %).{tree}"


def _differing(found: Comparison) -> Iterator[str]:
    causes = found.causes
    for cause in causes[:_MOST_TOLD]:
        yield f"  {cause.element.label}: {told(cause)}{followed(found, cause)}"
        for sentence in why(found.page, cause):
            yield f"      here: {sentence}"
    if len(causes) > _MOST_TOLD:
        yield f"  and {len(causes) - _MOST_TOLD} more causes"
    if found.failed:
        yield f"  The browser could not load {', '.join(found.failed)}."


def followed(found: Comparison, cause: Difference) -> str:
    """How much follows from it, in words that go on from what differs; "" if nothing does."""
    count = len(found.following(cause))
    return (
        "" if not count else counted(count, "; 1 more follows from it", "; {count} more follow from it")
    )


def told(cause: Difference) -> str:
    """What differs, with both numbers."""
    if cause.kind is DifferenceKind.SHOWN:
        return "shown only here" if cause.there is None else "shown only in the browser"
    assert cause.here is not None and cause.there is not None
    parts = [
        f"{name} {_px(cause.here.part(name))} here, {_px(cause.there.part(name))} there ({_signed(cause.by(name))})"
        for name in cause.own
    ]
    text = "; ".join(parts)
    if cause.fonts is not None:
        text += f". Its text is set in {cause.fonts[0]} here, in {cause.fonts[1]} there"
    return text


def short(cause: Difference) -> str:
    """The numbers alone, for a label."""
    if cause.here is None or cause.there is None:
        return told(cause)
    parts = cause.own or cause.parts
    return ", ".join(
        f"{name} {_px(cause.here.part(name))} here, {_px(cause.there.part(name))} there"
        for name in parts
    )


def _signed(value: float) -> str:
    return f"{'−' if value < 0 else '+'}{_px(abs(value))}"


def _px(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")
