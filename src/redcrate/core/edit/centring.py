"""Centring: whether an element stands in the middle of its container, why not, and the ways that work for it."""

from collections.abc import Mapping

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.targets import ANYWHERE, WritesTo
from redcrate.core.edit.writing import Assignment, write_all
from redcrate.core.errors import EditRefused
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, format_px


@dataclass(frozen=True, slots=True)
class CentringWay:
    """One way to centre: what it writes, in words, and the patch."""

    sentence: str
    patch: Patch


@dataclass(frozen=True, slots=True)
class Centring:
    """left, right: the gaps to the container's content edges, 1/64 px. why: in a sentence."""

    left: LayoutUnit
    right: LayoutUnit
    why: str
    ways: tuple[CentringWay, ...]

    @property
    def is_centred(self) -> bool:
        """Within half a px, which is as near as it gets."""
        return abs(self.left - self.right) <= 64

    @property
    def sentence(self) -> str:
        """As the panel says it."""
        if self.is_centred:
            return f"Centred: {format_px(self.left)} px on each side. {self.why}".strip()
        off, more = abs(self.left - self.right), "left" if self.left > self.right else "right"
        return f"Not centred: {format_px(off)} px more on the {more}. {self.why}".strip()


def centring(
    page: Page, texts: Mapping[str, str], element: Element, writes_to: WritesTo = ANYWHERE
) -> Centring | None:
    """How an element stands in its container; None for what has no box or no container."""
    box = page.box_of(element)
    if box is None or box.container is None or element.parent is None:
        return None
    room = box.container.content_rect
    left, right = box.border_box.x - room.x, room.right - box.border_box.right
    why, wanted = _judge(page, element, box)
    ways = []
    for sentence, values in wanted:
        try:
            edits = write_all(values, page, texts, WritesTo(window=writes_to.window))
            ways.append(CentringWay(sentence, Patch(tuple(edits), f"{element.label}: {sentence}")))
        except EditRefused:
            continue
    return Centring(left, right, why, tuple(ways))


_Values = list[tuple[Element, list[Assignment]]]


def _judge(page: Page, element: Element, box: ElementBox) -> tuple[str, list[tuple[str, _Values]]]:
    style, parent = page.style_of(element), element.parent
    assert parent is not None
    auto = [Assignment("margin-left", "auto"), Assignment("margin-right", "auto")]
    if box.box is None or box.box.fragment.box.is_atomic:
        ways: list[tuple[str, _Values]] = []
        if page.style_of(parent).display not in ("inline",):
            ways.append(
                (
                    "Set text-align: center on the parent",
                    [(parent, [Assignment("text-align", "center")])],
                )
            )
        if box.box is not None:
            ways.append(
                (
                    "Make it a block with auto margins",
                    [(element, [Assignment("display", "block"), *_width(box), *auto])],
                )
            )
        return "text-align of its containing block centres inline content.", ways
    if style.position in ("absolute", "fixed"):
        offsets = [Assignment("left", "0"), Assignment("right", "0")]
        return (
            "Auto margins between left: 0 and right: 0 centre an absolutely positioned box.",
            [
                (
                    "Set left: 0, right: 0 and auto margins",
                    [(element, [*offsets, *_width(box), *auto])],
                )
            ],
        )
    if style.float_ != "none":
        return (
            "A float moves to one side; it cannot be centred.",
            [
                (
                    "Set float: none and auto margins",
                    [(element, [Assignment("float", "none"), *_width(box), *auto])],
                )
            ],
        )
    if box.box.fragment.across.reason is SizeReason.FILL and not box.box.fragment.across.limit:
        width = f"{format_px(box.border_box.width * 4 // 5)}px"
        return (
            "Its width is auto, so it fills its containing block.",
            [
                ("Set width: 80% and auto margins", [(element, [Assignment("width", "80%"), *auto])]),
                (
                    f"Set max-width: {width} and auto margins",
                    [(element, [Assignment("max-width", width), *auto])],
                ),
            ],
        )
    if style.margin_left == "auto" and style.margin_right == "auto":
        return "Both side margins are auto.", []
    return "Its side margins are not both auto.", [("Set auto margins on both sides", [(element, auto)])]


def _width(box: ElementBox) -> list[Assignment]:
    """The width that it has now, written, where none is."""
    fragment = box.box.fragment if box.box is not None else None
    if fragment is None or fragment.box.intrinsic is not None:
        return []
    if fragment.across.reason in (SizeReason.SPECIFIED, SizeReason.PERCENT):
        return []
    width = (
        box.border_box.width if fragment.box.style.box_sizing == "border-box" else box.content_box.width
    )
    return [Assignment("width", f"{-(-width // 64)}px")]
