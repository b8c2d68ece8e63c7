"""A page beside its measured boxes, compared with what is computed."""

import json
from collections import defaultdict
from collections.abc import Collection, Iterator
from pathlib import Path
from typing import Any

from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import TextPiece
from redcrate.core.page import Page
from redcrate.core.report import box_report
from tests.conftest import load
from tests.reference.compare import compare_case

_SIDES = ("x", "y", "width", "height")
_NEAR = 0.05
_FAR = dict.fromkeys(_SIDES, 1e9)


def check_measured(
    folder: Path, name: str, not_yet: Collection[str], text_apart: Collection[str] | None = None
) -> None:
    """All boxes are right to 0.05 px; a page that is listed as not yet right must still be wrong.

    text_apart: the pages whose lines of text are measured by another convention; None if pieces of inline
    boxes, edges and lines of text are not looked at.
    """
    expected = json.loads((folder / f"{name}.json").read_text(encoding="utf-8"))
    size = expected["viewport"]
    page = load(folder / f"{name}.html", size["width"], size["height"])
    outcome = compare_case(expected, box_report(page, name))
    if name in not_yet:
        assert not outcome["ok"], f"{name} is right now: take it out of the list"
        return
    assert outcome["ok"], outcome["error"] or outcome["differences"][:3]
    if text_apart is not None:
        wrong = list(_wrong_pieces(expected, page))
        wrong += () if name in text_apart else _wrong_text(expected, page)
        assert not wrong, wrong[:3]


def _px(rect: Rect) -> dict[str, float]:
    return {side: getattr(rect, side) / 64 for side in _SIDES}


def _off(one: dict[str, float], other: dict[str, float]) -> float:
    return max(abs(one[side] - other[side]) for side in _SIDES)


def _wrong_pieces(expected: dict[str, Any], page: Page) -> Iterator[object]:
    for want, element in zip(expected["elements"], page.elements, strict=True):
        box = page.box_of(element)
        if not want["visible"] or box is None or element.tag in ("br", "wbr"):
            continue
        pieces = [_px(rect) for rect in box.fragments]
        if len(pieces) != len(want["fragments"]) or any(
            _off(a, b) > _NEAR for a, b in zip(pieces, want["fragments"], strict=True)
        ):
            yield element.label, pieces, want["fragments"]
        style = page.style_of(element)
        collapses = style.border_collapse == "collapse" and style.display.startswith(
            ("table", "inline-table")
        )
        for part in ("border", "padding"):
            if part == "border" and collapses:
                continue  # measured are the widths that are written, not who won
            edges = getattr(box, part)
            if any(abs(edges.side(s) / 64 - amount) > _NEAR for s, amount in want[part].items()):
                yield element.label, part, edges, want[part]


def _wrong_text(expected: dict[str, Any], page: Page) -> Iterator[object]:
    """Lines of text that stand nowhere near; they are told by their letters, as written in the source."""
    lines: dict[str, list[dict[str, float]]] = defaultdict(list)
    for at in page.in_order:
        for piece in (p for line in at.fragment.lines for p in line.content if isinstance(p, TextPiece)):
            place = Rect(at.rect.x + piece.x, at.rect.y + piece.y, piece.width, piece.height)
            lines[_letters(piece.text)].append(_px(place))
    for line in (t for want in expected["elements"] for t in want.get("text_lines", ())):
        letters = _letters(line["text"])
        if letters and min(_off(line, place) for place in lines.get(letters, [_FAR])) > _NEAR:
            yield line, lines.get(letters)


def _letters(text: str) -> str:
    return "".join(text.split()).casefold()
