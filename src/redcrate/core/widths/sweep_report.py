"""A sweep as plain data: JSON (sweep_schema.json, docs/sweep.md) and CSV."""

from collections.abc import Iterator
from typing import Any

from redcrate.core.page import Page
from redcrate.core.plain_output import csv_text
from redcrate.core.units import LayoutUnit, format_number
from redcrate.core.widths.events import Event
from redcrate.core.widths.pieces import Piece
from redcrate.core.widths.standing_at import Quantity
from redcrate.core.widths.sweep import Swept


def sweep_json(swept: Swept, page: Page, name: str) -> dict[str, Any]:
    """The sweep of a page. page: at any of its widths, for the elements of events."""
    return {
        "page": name,
        "element": swept.label,
        "from": swept.first,
        "to": swept.last,
        "pieces": {
            quantity.value: [_piece(quantity, p) for p in pieces]
            for quantity, pieces in swept.pieces.items()
        },
        "events": [_event(e, page) for e in swept.events],
    }


def _piece(quantity: Quantity, piece: Piece) -> dict[str, Any]:
    return {
        "from": piece.first,
        "to": piece.last,
        "start": value_of(piece.start),
        "end": value_of(piece.end),
        "words": words_of(quantity, piece),
    }


def value_of(amount: LayoutUnit | None) -> float | None:
    """An amount as people read it: px, or a number of blocks."""
    return None if amount is None else amount / 64


def words_of(quantity: Quantity, piece: Piece) -> str:
    """A piece in words."""
    if quantity is Quantity.ROW and piece.start is not None:
        return f"{piece.start // 64} per row"
    return piece.words


def _event(event: Event, page: Page) -> dict[str, Any]:
    elements = [page.elements[n] for n in event.elements]
    return {
        "at": event.width,
        "kind": event.kind.value,
        "elements": [
            {"index": e.index, "tag": e.tag, "id": e.id or "", "classes": list(e.classes)}
            for e in elements
        ],
        "sentence": event.sentence,
    }


def sweep_csv(swept: Swept) -> str:
    """A row for each piece and each event, in px."""
    return csv_text(_rows(swept))


def _rows(swept: Swept) -> Iterator[tuple[object, ...]]:
    yield "what", "from", "to", "start", "end", "words"
    for quantity, pieces in swept.pieces.items():
        for piece in pieces:
            ends = (value_of(piece.start), value_of(piece.end))
            shown = ("" if e is None else format_number(e) for e in ends)
            yield quantity.value, piece.first, piece.last, *shown, words_of(quantity, piece)
    for event in swept.events:
        yield f"event: {event.kind.value}", event.width, "", "", "", event.sentence
