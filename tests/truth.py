"""Judges what is said of a page by the boxes that a browser measured: findings, fixes and sideways scrolling.

A judge knows nothing of how a finding came about. It looks at the measured boxes of the elements that a finding names,
and answers whether they are as it says: True, False, or None where boxes cannot tell.
"""

import json
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from redcrate.core.files.trial import Trial
from redcrate.core.findings import Finding, findings_of
from redcrate.core.findings.checking import Check, Checked
from redcrate.core.markup.elements import Element
from redcrate.core.overflow.sideways import over_the_window
from redcrate.core.page import Page
from redcrate.core.style.media import Viewport
from tests.conftest import ROOT

PAGES = tuple(ROOT.parent / "shared" / name for name in ("pages", "modern"))
_NEAR = 0.6  # px: a step of layout on each side of two boxes


@dataclass(frozen=True, slots=True)
class Rectangle:
    """A measured border box, px."""

    x: float
    y: float
    width: float
    height: float

    @property
    def right(self) -> float:
        """x of the right edge."""
        return self.x + self.width

    @property
    def bottom(self) -> float:
        """y of the bottom edge."""
        return self.y + self.height


Boxes = Mapping[Element, Rectangle]


@dataclass(frozen=True, slots=True)
class Case:
    """A page in a window that was measured."""

    name: str
    page: Page
    texts: Mapping[str, str]
    boxes: Boxes


def cases(folder: Path, name: str, file: str, widths: Sequence[int]) -> Iterator[Case]:
    """A page at the widths at which it was measured; those at which its tree is another one are left out."""
    trial = Trial.of_file(folder / name / file)
    page: Page | None = None
    for width in widths:
        measured = json.loads((folder / f"{name}.{width}.json").read_text(encoding="utf-8"))["elements"]
        page = trial.page(Viewport(width, 800), page)
        if [m["tag"].lower() for m in measured] == [e.tag.lower() for e in page.elements]:
            pairs = zip(page.elements, measured, strict=True)
            boxes = {e: Rectangle(**_of(m)) for e, m in pairs if m.get("border_box")}
            yield Case(f"{name} at {width} px", page, trial.texts, boxes)


def _of(measured: dict[str, Any]) -> dict[str, float]:
    box = measured["border_box"]
    return {side: float(box[side]) for side in ("x", "y", "width", "height")}


def index(folder: Path) -> dict[str, str]:
    """The pages of a folder with their files."""
    path = folder / "index.json"
    found = json.loads(path.read_text(encoding="utf-8")) if path.is_file() else {}
    return {name: entry["file"] for name, entry in found.items()}


def judged(case: Case) -> Iterator[tuple[Finding, bool | None]]:
    """What is told of a page, and whether it is true."""
    for finding in findings_of(case.page, case.texts):
        if not finding.minor:
            yield finding, judge(case, finding)


def judge(case: Case, finding: Finding) -> bool | None:
    """Whether the measured boxes are as a finding says."""
    test = _JUDGES.get(finding.family)
    elements = [e for e in finding.elements if e.index >= 0]
    if not elements or any(e not in case.boxes for e in elements[:1]):
        return None
    if test is not None:
        return test(case, finding, elements)
    return _are_ours(case, elements[:2], down=finding.family not in _ACROSS)


# What these say is about widths and places across.
_ACROSS = frozenset(
    ("text-out-of-box", "text-touches-edge", "flex-minimum-overflow", "mixed-sizing-in-row")
)


def _are_ours(case: Case, elements: Sequence[Element], *, down: bool = True) -> bool:
    """Whether the boxes that a sum was worked out from are those of the browser: of the elements and of their parents."""
    around = {e.parent for e in elements if e.parent is not None}
    return all(_is_ours(case, e, down=down) for e in {*elements, *around})


def _is_ours(case: Case, element: Element, *, down: bool) -> bool:
    box, there = case.page.box_of(element), case.boxes.get(element)
    if box is None or there is None:
        return (box is None) == (there is None)
    here = box.border_box
    is_tall = not down or abs(here.height / 64 - there.height) <= _NEAR
    return is_tall and abs(here.width / 64 - there.width) <= _NEAR


def _out_of_the_window(case: Case, finding: Finding, elements: Sequence[Element]) -> bool | None:
    """The box ends where it says, beyond the window; of text only that its block is as it is here."""
    if re.match("The (word|line) ", finding.sentence):
        return True if _are_ours(case, elements[:1], down=False) else None
    there = max(case.boxes[e].right for e in elements if e in case.boxes)
    return there > case.page.viewport.width and abs(there - finding.numbers["need"]) <= 2 * _NEAR


def _out_of_its_container(case: Case, finding: Finding, elements: Sequence[Element]) -> bool:
    """It ends beyond what its nearest block container leaves inside border and padding, by as much as it says."""
    box = case.page.box_of(elements[0])
    holder = box.container if box is not None else None
    while holder is not None and holder.fragment.box.element not in case.boxes:
        holder = holder.container
    if holder is None or holder.fragment.box.element is None:
        return False
    fragment, there = holder.fragment, case.boxes[holder.fragment.box.element]
    inner = there.right - (fragment.border.right + fragment.padding.right) / 64
    over = case.boxes[elements[0]].right - inner
    return over > 0 and abs(over - finding.numbers["over"]) <= 2 * _NEAR


def _below_its_row(case: Case, finding: Finding, elements: Sequence[Element]) -> bool:
    """The one that is told as dropped begins lower than another of its row ends, or at least than it begins."""
    tops = [case.boxes[e].y for e in elements if e in case.boxes]
    parent = elements[0].parent
    siblings = (
        [] if parent is None else [case.boxes[c].y for c in parent.child_elements if c in case.boxes]
    )
    return max(tops) > min(siblings or tops) + 1


def _above_its_floats(case: Case, finding: Finding, elements: Sequence[Element]) -> bool:
    """Something inside ends lower, by as much as it says."""
    inside = [
        case.boxes[e].bottom for e in elements[0].walk() if e in case.boxes and e is not elements[0]
    ]
    over = finding.numbers["over"]
    return any(abs(bottom - case.boxes[elements[0]].bottom - over) <= 2 * _NEAR for bottom in inside)


def _share_a_place(case: Case, finding: Finding, elements: Sequence[Element]) -> bool:
    one, other = (case.boxes[e] for e in elements[:2])
    return one.x < other.right and other.x < one.right and one.y < other.bottom and other.y < one.bottom


def _beside_the_middle(case: Case, finding: Finding, elements: Sequence[Element]) -> bool:
    """Both gaps in the parent's content box are as told."""
    box = case.page.box_of(elements[0])
    assert (
        box is not None and box.container is not None and box.container.fragment.box.element is not None
    )
    fragment, there = box.container.fragment, case.boxes[box.container.fragment.box.element]
    mine = case.boxes[elements[0]]
    left = mine.x - there.x - (fragment.border.left + fragment.padding.left) / 64
    right = there.right - (fragment.border.right + fragment.padding.right) / 64 - mine.right
    numbers = finding.numbers
    return abs(left - numbers["left"]) <= _NEAR and abs(right - numbers["right"]) <= _NEAR


def _stands_more_than_once(case: Case, finding: Finding, elements: Sequence[Element]) -> bool:
    name = elements[0].id or ""
    html = case.texts[case.page.source.markup.source.name]
    return len(re.findall(rf"""\sid\s*=\s*["']?{re.escape(name)}["'\s>]""", html, re.IGNORECASE)) > 1


def _is_nowhere_written(case: Case, finding: Finding, elements: Sequence[Element]) -> bool:
    """No text of a sheet has the name that a page has, and its text has not the one that a sheet has."""
    name = re.findall("“(.+?)”", finding.sentence)[0]
    css = "\n".join(t for n, t in case.texts.items() if n != case.page.source.markup.source.name)
    return re.search(rf"[.#]{re.escape(name)}(?![\w-])", css) is None


_JUDGES: dict[str, Callable[[Case, Finding, Sequence[Element]], bool | None]] = {
    "wider-than-viewport": _out_of_the_window,
    "wider-than-container": _out_of_its_container,
    "table-wider-than-container": _out_of_its_container,
    "outgrew-its-width": _out_of_its_container,
    "row-overflow": _below_its_row,
    "share-rounding": _below_its_row,
    "collapsed-over-floats": _above_its_floats,
    "negative-margin-overlap": _share_a_place,
    "nearly-centred": _beside_the_middle,
    "duplicate-id": _stands_more_than_once,
    "near-miss-name": _is_nowhere_written,
}


# -- fixes


def hidden_changes(path: Path, check: Check, one: Checked, widths: Sequence[float]) -> Iterator[str]:
    """What the fixes of a finding change by more than a px and do not tell, counted in another way than they count."""
    spoken_of = {e.index for e in one.finding.elements}
    for fix in one.fixes:
        trial = Trial.of_file(path)
        after = trial.after(fix.patch)
        told = dict(fix.taller)
        for width in widths:
            before = trial.page(Viewport(width, 800))
            page, _ = after(before)
            taller = (page.height - before.height) / 64
            if abs(taller - told.get(width, 0.0)) > 1:
                yield f"{fix.told} [{width:g} px: the page {taller:+g} px]"
            changed = set(_changed(before, page)) - spoken_of
            if len(changed) > fix.moves:
                yield f"{fix.told} [{width:g} px: {len(changed)} elements]"
            if over_the_window(page) > over_the_window(before) + 64:
                yield f"{fix.told} [{width:g} px: wider]"


def _changed(before: Page, after: Page) -> Iterator[int]:
    """The numbers of the elements whose width, height or gap to the one before them is another one by more than a px."""
    if len(before.elements) != len(after.elements):
        return
    for old, new in zip(before.elements, after.elements, strict=True):
        one, other = before.box_of(old), after.box_of(new)
        if one is None or other is None or old.tag in ("html", "body"):
            continue
        mine, theirs = one.border_box, other.border_box
        far = abs(mine.width - theirs.width) > 64 or abs(mine.height - theirs.height) > 64
        gaps = _gap(before, old), _gap(after, new)
        if far or (None not in gaps and abs((gaps[0] or 0) - (gaps[1] or 0)) > 64):
            yield old.index


def _gap(page: Page, element: Element) -> int | None:
    """From the bottom of the block before it to its top, 1/64 px."""
    box, parent = page.box_of(element), element.parent
    if box is None or box.box is None or parent is None or not element.sibling_index:
        return None
    earlier = page.box_of(parent.child_elements[element.sibling_index - 1])
    if earlier is None or earlier.box is None or not earlier.border_box.height:
        return None
    return box.border_box.y - earlier.border_box.bottom
