"""fraction-blown-up: fr tracks that are not in proportion, since what is in one of them is wider than its share."""

import re
from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.grid_facts import GridFacts, GridTrack, TrackReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import ZERO, format_px

_SEEN = 64 * 2  # a difference of less than 2 px is no matter
# A fraction that is a whole track, not the largest size of one.
_FRACTION = re.compile(r"(?<![\w.,(])(\d*\.?\d+fr)\b|(?<=,)(\s*)(\d*\.?\d+fr)\b(?=\s*\))")


def find(look: Look) -> Iterator[Finding]:
    """CSS Grid 1 §12.7: a flexible column that its content keeps wider than its fraction would be."""
    for element, box in look.boxes:
        facts = None if box.box is None else box.box.fragment.facts
        if not isinstance(facts, GridFacts):
            continue
        blown = [(n, t) for n, t in enumerate(facts.columns, 1) if _is_blown_up(t, facts)]
        if blown:
            yield _finding(look, element, box, facts, blown)


def _is_blown_up(track: GridTrack, facts: GridFacts) -> bool:
    """Whether it is wider than another one with the same fraction, or sticks out of the grid with its content."""
    if track.reason is not TrackReason.FLEX or track.asked_by is None or not track.factor:
        return False
    others = [t for t in facts.columns if t.reason is TrackReason.FLEX and t.factor and t is not track]
    share = track.size / track.factor
    return any(share - t.size / t.factor > _SEEN for t in others) or -facts.left_across > _SEEN


def _finding(
    look: Look,
    element: Element,
    box: ElementBox,
    facts: GridFacts,
    blown: list[tuple[int, GridTrack]],
) -> Finding:
    number, track = max(blown, key=lambda b: b[1].size)
    asked = track.asked_by.label if track.asked_by is not None else "its content"
    over = max(ZERO, -facts.left_across)
    severity = Severity.BREAKS if over > _SEEN else Severity.SUSPICIOUS
    sizes = ", ".join(format_px(t.size) for t in facts.columns if t.factor)
    text = f"Column {number} of {element.label} is {format_px(track.size)} px wide, more than its {track.factor:g}fr: "
    text += f"{asked} cannot become narrower (fractions: {sizes} px)."
    if over:
        text += f" The columns overflow by {format_px(over)} px."
    written = look.written(element, "grid-template-columns")
    smaller = _smaller(written)
    ways: tuple[MakeFix, ...] = ()
    if smaller != written:
        ways = (
            look.setting(
                "Allow columns narrower than their content (minmax(0, …fr))",
                (element, "grid-template-columns", smaller),
            ),
            look.setting(
                "Allow narrower columns and break long words (overflow-wrap: anywhere)",
                (element, "grid-template-columns", smaller),
                (element, "overflow-wrap", "anywhere"),
            ),
        )
    return Finding(
        "fraction-blown-up",
        severity,
        text,
        (element,),
        {"size": track.size / 64, "over": over / 64},
        look.source(element, "grid-template-columns"),
        ways,
    )


def _smaller(written: str) -> str:
    """The track list with `minmax(0, Nfr)` for each fraction that stands alone."""

    def one(match: re.Match[str]) -> str:
        if match.group(1):
            return f"minmax(0, {match.group(1)})"
        before = written[: match.start()]
        is_repeat = before.rfind("repeat(") > before.rfind("minmax(")
        return f"{match.group(2)}minmax(0, {match.group(3)})" if is_repeat else match.group(0)

    return _FRACTION.sub(one, written)


FAMILY = Family(
    "fraction-blown-up",
    "Fraction wider than its share",
    "1fr is never narrower than its content: a long word or an image makes its column wider and the "
    "others narrower. minmax(0, 1fr) keeps the proportion.",
    "<div style='display:grid;grid-template-columns:1fr 1fr;width:200px'><p style='margin:0'>"
    "unbreakablelongword</p><p style='margin:0;background:#cde'>two</p></div>",
    find,
)
