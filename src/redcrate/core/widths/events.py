"""What happens from one window width to the next: events at their exact px, in sentences."""

from collections.abc import Iterator, Sequence
from enum import Enum

from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.window_ranges import MOST, ranges_of
from redcrate.core.units import format_px, listed
from redcrate.core.widths.standing_at import ElementState, Standing


class EventKind(Enum):
    """What can happen; the values are the names in files."""

    MEDIA = "media rule"
    SHOWN = "shown"
    DROP = "drop"
    ROW = "row"
    LIMIT = "limit"
    LINES = "lines"
    OVER = "content wider than its box"
    PAGE_OVER = "page wider than the window"


@dataclass(frozen=True, slots=True)
class Event:
    """Something is so in windows narrower than `width` px, and otherwise from there on.

    elements: those that it happens to, by their numbers. sentence: what happens, with the px.
    """

    width: int
    kind: EventKind
    elements: tuple[int, ...]
    sentence: str

    @property
    def key(self) -> tuple[int, EventKind, tuple[int, ...]]:
        """What makes it the same event."""
        return self.width, self.kind, self.elements


_FLICKERS = 6  # times within that many px each: the cut to 1/64 px decides, not the page


def settled(events: Sequence[Event]) -> tuple[Event, ...]:
    """The events by width; what comes and goes from px to px is one event."""
    kept: list[Event] = []
    alike: dict[tuple[EventKind, tuple[int, ...]], list[Event]] = {}
    for event in events:
        alike.setdefault((event.kind, event.elements), []).append(event)
    for those in alike.values():
        runs: list[list[Event]] = [[]]
        for event in those:
            if runs[-1] and event.width - runs[-1][-1].width > _FLICKERS:
                runs.append([])
            runs[-1].append(event)
        for run in runs:
            kept += [_flickering(run)] if len(run) > _FLICKERS else run
    return tuple(sorted(kept, key=lambda e: (e.width, list(EventKind).index(e.kind), e.elements)))


def _flickering(run: Sequence[Event]) -> Event:
    first, last = run[0], run[-1]
    span = f"From {first.width} to {last.width} px"
    sentence = f"{span}: changes from px to px (rounding to 1/64 px). First: {first.sentence}"
    return Event(first.width, first.kind, first.elements, sentence)


def media_events(page: Page, first: int, last: int) -> list[Event]:
    """Where the page's media rules begin and cease to hold, read from their queries."""
    found: dict[tuple[int, str], Event] = {}
    for sheet in page.source.sheets:
        lists = [tuple(b.media) for b in sheet.media_rules]
        lists += [r.media for r in sheet.rules if r.media]  # of links and imports too
        for media in dict.fromkeys(lists):
            words = " and ".join(m.text for m in media)
            for window in ranges_of(media, page.viewport.height):
                for width, what in (
                    (window.least, f"From {window.least} px: media query {words} applies"),
                    (window.most + 1, f"Up to {window.most} px: media query {words} applies"),
                ):
                    if first < width <= last and width <= MOST:
                        found[width, words] = Event(width, EventKind.MEDIA, (), what)
    return sorted(found.values(), key=lambda e: (e.width, e.sentence))


def events_between(page: Page, width: int, below: Standing, above: Standing) -> list[Event]:
    """What happens between `width - 1` and `width` px. page: for the names of elements."""
    happened: dict[tuple[EventKind, str], list[int]] = {}
    for number in sorted(below.elements.keys() | above.elements.keys()):
        one, other = below.elements.get(number), above.elements.get(number)
        begins = number in below.begins_row or number in above.begins_row
        for kind, what in _changes(width, one, other, begins_row=begins):
            happened.setdefault((kind, what), []).append(number)
    found = [
        Event(width, kind, tuple(numbers), _sentence(page, kind, what, numbers, below, above))
        for (kind, what), numbers in happened.items()
    ]
    if below.page_over != above.page_over:
        side = f"Up to {width - 1} px" if below.page_over else f"From {width} px"
        found.append(Event(width, EventKind.PAGE_OVER, (), f"{side}: the page overflows the viewport"))
    return found


def _changes(
    width: int, below: ElementState | None, above: ElementState | None, *, begins_row: bool
) -> Iterator[tuple[EventKind, str]]:
    """The kinds of change of one element, with a template of the sentence.

    begins_row: where it drops, it only begins the next row of a list.
    """
    narrow, wide = f"Up to {width - 1} px:", f"From {width} px:"
    if below is None or above is None:
        yield EventKind.SHOWN, f"{narrow if above is None else wide} {{names}} {{is}} shown"
        return
    if below.dropped != above.dropped:
        what = "{begins} the next row" if begins_row else "{wraps}, short by {missing} px"
        yield EventKind.DROP, f"{narrow if below.dropped else wide} {{names}} {what}"
    elif below.row != above.row:
        one, other = max(1, len(below.row)), max(1, len(above.row))
        if one != other:
            yield EventKind.ROW, f"{wide} {{names}}, {other} per row ({one} below)"
        else:
            yield EventKind.ROW, f"{wide} other boxes in the row of {{names}}"
    for before, after in zip(below.limits, above.limits, strict=True):
        if before != after and after:
            yield EventKind.LIMIT, f"{wide} {after} limits {{names}}"
        elif before != after:
            yield EventKind.LIMIT, f"{narrow} {before} limits {{names}}"
    if below.lines != above.lines:
        yield EventKind.LINES, f"{wide} {above.lines} lines ({below.lines} below) in {{names}}"
    if below.over != above.over:
        yield (
            EventKind.OVER,
            f"{narrow if below.over else wide} the content of {{names}} overflows",
        )


def _sentence(
    page: Page, kind: EventKind, what: str, numbers: Sequence[int], below: Standing, above: Standing
) -> str:
    elements = [page.elements[n] for n in numbers]
    one = len(elements) == 1
    missing = ""
    if kind is EventKind.DROP:
        short = {**above.missing, **below.missing}
        missing = format_px(max(short[n] for n in numbers if n in short))
    verbs = {
        "is": "is" if one else "are",
        "wraps": "wraps" if one else "wrap",
        "begins": "begins" if one else "begin",
    }
    return what.format(names=_names(elements), missing=missing, **verbs)


def _names(elements: Sequence[Element]) -> str:
    """The labels, alike ones counted: `article.plot ×3 and p`."""
    counts: dict[str, int] = {}
    for element in elements:
        counts[element.label] = counts.get(element.label, 0) + 1
    told = [f"{label} ×{n}" if n > 1 else label for label, n in counts.items()]
    if len(told) > 3:
        return f"{', '.join(told[:2])} and {len(told) - 2} more"
    return listed(told)
