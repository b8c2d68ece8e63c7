"""The box report: the geometry of a page as plain data; its shape is fixed (docs/report.md)."""

from collections.abc import Iterator
from typing import Any

from redcrate.core.geometry import SIDES, Edges, Rect
from redcrate.core.markup.elements import Element
from redcrate.core.notices import told
from redcrate.core.page import ElementBox, Page
from redcrate.core.plain_output import csv_text
from redcrate.core.units import format_px, to_px


def box_report(page: Page, name: str) -> dict[str, Any]:
    """The report of a page; `name` is how the page is called in it. px, exact to 1/64."""
    return {
        "page": name,
        "viewport": {
            "width": _number(page.viewport.width),
            "height": _number(page.viewport.height),
        },
        "elements": [element_report(page, e) for e in page.elements],
        "notices": [
            {"kind": n.kind.value, "sentence": n.sentence, "file": n.file, "line": n.line}
            for n in page.notices
        ],
    }


def element_report(page: Page, element: Element) -> dict[str, Any]:
    """One element; without a box it ends after `visible`."""
    style = page.style_of(element)
    out: dict[str, Any] = {
        "index": element.index,
        "tag": element.tag,
        "id": element.id,
        "classes": list(element.classes),
        "display": style.display,
        "float": style.float_,
        "position": style.position,
    }
    box = page.box_of(element)
    if box is None:
        return {**out, "visible": False}
    return {
        **out,
        "border_box": _rect(box.border_box),
        "fragments": [_rect(r) for r in box.fragments],
        "margin": _edges(box.margin),
        "border": _edges(box.border),
        "padding": _edges(box.padding),
        "content_box": _rect(box.content_box),
        **_painted(page, box),
        "visible": True,
    }


def _painted(page: Page, box: ElementBox) -> dict[str, Any]:
    """Where transforms paint the box; nothing where there are none."""
    at = box.box or box.container
    matrix = page.painted.get(at.placed) if at is not None else None
    return {} if matrix is None else {"painted_box": _rect(matrix.bounds(box.border_box))}


def _number(value: float) -> float | int:
    return int(value) if value == int(value) else value


def _rect(rect: Rect) -> dict[str, float | int]:
    return {
        "x": _number(to_px(rect.x)),
        "y": _number(to_px(rect.y)),
        "width": _number(to_px(rect.width)),
        "height": _number(to_px(rect.height)),
    }


def _edges(edges: Edges) -> dict[str, float | int]:
    return {side: _number(to_px(edges.side(side))) for side in SIDES}


def report_text(page: Page, name: str) -> str:
    """The report as a table that people read: one element a line, indented as nested."""
    lines = [f"{name}, viewport {page.viewport.width:g} × {page.viewport.height:g} px", ""]
    lines.append(f"{'element':<40}{'x':>9}{'y':>9}{'width':>10}{'height':>10}{'outer':>10}")
    for element in page.elements:
        indent = "  " * min(12, sum(1 for _ in element.ancestors()))
        label = f"{indent}{element.label}"[:39]
        box = page.box_of(element)
        if box is None:
            lines.append(f"{label:<40}{'no box':>9}")
            continue
        rect = box.border_box
        numbers = (rect.x, rect.y, rect.width, rect.height, box.margin_box.width)
        cells = [format_px(n) for n in numbers]
        lines.append(f"{label:<40}{cells[0]:>9}{cells[1]:>9}{cells[2]:>10}{cells[3]:>10}{cells[4]:>10}")
    lines.extend(_notice_lines(page))
    return "\n".join(lines) + "\n"


def _notice_lines(page: Page) -> Iterator[str]:
    if page.notices:
        yield ""
        yield "Notices"
    for notice in told(page.notices):
        place = f"{notice.file} line {notice.line}: " if notice.line else ""
        yield f"  {place}{notice.sentence}"


_COLUMNS = (
    "index",
    "tag",
    "id",
    "classes",
    "display",
    "float",
    "position",
    "visible",
    "x",
    "y",
    "width",
    "height",
    *(f"{part}_{side}" for part in ("margin", "border", "padding") for side in SIDES),
    "content_width",
    "content_height",
)


def report_csv(page: Page) -> str:
    """The report as comma-separated values, one element a line under a line of names."""
    return csv_text((_COLUMNS, *(_row(element_report(page, e)) for e in page.elements)))


def _row(data: dict[str, Any]) -> list[object]:
    row: list[object] = [data["index"], data["tag"], data["id"] or "", " ".join(data["classes"])]
    row += [data[name] for name in ("display", "float", "position", "visible")]
    if data["visible"]:
        row += [data["border_box"][k] for k in ("x", "y", "width", "height")]
        row += [data[part][side] for part in ("margin", "border", "padding") for side in SIDES]
        row += [data["content_box"]["width"], data["content_box"]["height"]]
    return row
