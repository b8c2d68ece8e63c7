"""What today's CSS standards define, told apart from what the core computes.

The table is data (standards.json, written by tools/standards.py): every property with the standard
that defines it and its grammar. It is read when a page holds something that the core does not take.
"""

import json
from collections.abc import Sequence
from enum import Enum
from functools import cache
from importlib.resources import files
from typing import Any

from redcrate.core.records import dataclass
from redcrate.core.style.grammar import Grammars


class Verdict(Enum):
    """What a declaration is that the core does not take."""

    UNKNOWN = "no standard has such a property"
    INVALID = "the standards do not allow this value"
    NOT_COMPUTED = "valid, but not supported here"
    NO_EFFECT = "valid, without effect on boxes"


# Standards none of whose properties moves or sizes a box in a static page.
_WITHOUT_BOXES = frozenset(
    """css-animations-1 css-animations-2 css-transitions-1 css-transitions-2 css-masking-1
    filter-effects-1 filter-effects-2 compositing-2 css-scroll-snap-1 css-scroll-snap-2 css-speech-1
    css-color-adjust-1 css-color-hdr-1 css-overscroll-1 css-will-change-1 css-view-transitions-2
    scroll-animations-1 animation-triggers-1 pointer-animations-1 css-spatial-nav-1 css-scroll-anchoring-1
    fill-stroke-3 css-image-animation-1 css-link-params-1 css-break-4 css-page-3 css-forms-1 strokes
    css-viewport svg-painting svg-pservers svg-paths svg-interact svg-text svg-coords
    css-images-3 css-images-4 css-images-5 css-color-4""".split()
)
_WITHOUT_EFFECT = frozenset(
    """caret caret-color caret-shape caret-animation cursor resize pointer-events user-select nav-up nav-down
    nav-left nav-right interactivity interest-delay interest-delay-start interest-delay-end accent-color
    text-overflow text-shadow text-decoration-skip text-decoration-skip-ink text-decoration-skip-box
    text-decoration-skip-self text-decoration-skip-spaces text-decoration-inset text-decoration-thickness
    text-underline-offset text-underline-position text-emphasis-color text-emphasis-position
    text-rendering text-size-adjust
    transform-style transform-box perspective perspective-origin backface-visibility
    border-image border-image-source border-image-slice border-image-width border-image-outset border-image-repeat
    background-blend-mode background-repeat-x background-repeat-y background-position-x background-position-y
    scroll-behavior scrollbar-color font-palette font-language-override
    corner-shape box-shadow-color box-shadow-offset box-shadow-blur box-shadow-spread
    box-shadow-position object-view-box print-color-adjust z-index mix-blend-mode
    touch-action widows orphans clip""".split()
)
_CHANGES_BOXES = frozenset("image-orientation object-fit image-resolution zoom".split())


_TYPES = {
    # The extract's own paint is that of SVG's child elements alone (CSS Fill and Stroke 3 §2).
    "paint": "none | <color> | <image> | <url> [ none | <color> ]? | context-fill | context-stroke",
    # Places of masks are those of backgrounds in all browsers, with three values too.
    "mask-layer": "<mask-reference> || <bg-position> [ / <bg-size> ]? || <repeat-style> || <geometry-box> || "
    "[ <geometry-box> | no-clip | text ] || <compositing-operator> || <masking-mode>",
}
# What browsers take besides: from older standards, from presentational attributes of SVG (SVG 2 §6.6: numbers
# without a unit are px there), and a descriptor that has a property's name (CSS Page 3 §7.1).
_TAKEN_TOO = {
    **dict.fromkeys(("x", "y", "cx", "cy", "r", "rx", "ry"), "<number>"),
    "alignment-baseline": "auto | before-edge | after-edge | text-before-edge | text-after-edge",
    "dominant-baseline": "text-before-edge | text-after-edge | use-script | no-change | reset-size",
    "resize": "auto",
    **dict.fromkeys(("overflow-block", "overflow-inline"), "overlay"),
    "baseline-shift": "<number> | baseline",
    "overflow-anchor": "visible",
    "text-justify": "distribute",
    "zoom": "normal",
    "-webkit-perspective": "<number>",
    "mask-position": "<bg-position>#",
    "speak": "none | normal | spell-out",
    "size": "<length>{1,2} | auto | <page-size> || [ portrait | landscape ]",
}


@dataclass(frozen=True, slots=True, eq=False)
class Standards:
    """The table. properties: name → (standard, the property it is an old name of or "", grammar)."""

    properties: dict[str, tuple[str, str, str]]
    selectors: frozenset[str]
    atrules: frozenset[str]
    grammars: Grammars

    def verdict(self, name: str, tokens: Sequence[Any]) -> Verdict:
        """What a declaration is that the core does not take; tokens without white space."""
        found = self.properties.get(name)
        if found is None:
            return Verdict.UNKNOWN
        if not self.grammars.allows(name, tokens):
            return Verdict.INVALID
        return Verdict.NO_EFFECT if self.changes_no_box(name) else Verdict.NOT_COMPUTED

    def changes_no_box(self, name: str) -> bool:
        """Whether a property, computed or not, leaves all boxes where they are."""
        if name in _CHANGES_BOXES or name not in self.properties:
            return False
        standard, alias, _ = self.properties[name]
        return standard in _WITHOUT_BOXES or name in _WITHOUT_EFFECT or alias in _WITHOUT_EFFECT


@cache
def standards() -> Standards:
    """The table of today's standards."""
    text = (files("redcrate.core.style") / "standards.json").read_text(encoding="utf-8")
    data = json.loads(text)
    properties = {name: (s, alias, grammar) for name, (s, alias, grammar) in data["properties"].items()}
    grammars = {
        name: grammar or properties.get(alias, ("", "", ""))[2]
        for name, (_, alias, grammar) in properties.items()
    }
    data["types"] |= _TYPES
    for name, more in _TAKEN_TOO.items():
        grammars[name] = f"[ {grammars[name]} ] | [ {more} ]"
    return Standards(
        properties,
        frozenset(data["selectors"]),
        frozenset(data["atrules"]),
        Grammars(grammars, data["types"]),
    )


def old_name_of(name: str) -> str:
    """The property that `name` is another name of, such as overflow-wrap of word-wrap; else `name`."""
    found = standards().properties.get(name)
    return found[1] if found is not None and found[1] else name
