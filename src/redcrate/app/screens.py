"""The list of screens: whoever adds one adds it here, and nowhere else."""

from redcrate.app.bench.bench import Bench
from redcrate.app.bench.commands import bench_commands
from redcrate.app.diagrams.commands import diagram_commands
from redcrate.app.diagrams.screen import DiagramsScreen
from redcrate.app.new_page import NewPage
from redcrate.app.screen import Host, Screen, ScreenEntry
from redcrate.app.source.screen import SourceScreen
from redcrate.app.widths.screen import WidthsScreen
from redcrate.core.session import Session


def _bench(session: Session | None) -> Screen:
    assert session is not None
    return Bench(session)


def _source(session: Session | None) -> Screen:
    assert session is not None
    return SourceScreen(session)


def _diagrams(session: Session | None) -> Screen:
    assert session is not None
    return DiagramsScreen(session)


def _widths(session: Session | None) -> Screen:
    assert session is not None
    return WidthsScreen(session)


SCREENS = (
    ScreenEntry("bench", "Bench", "Ctrl+1", "Sheet, outline and budget", _bench, bench_commands),
    ScreenEntry("source", "Source", "Ctrl+2", "The page's HTML and CSS as text", _source),
    ScreenEntry(
        "diagrams", "Diagrams", "Ctrl+3", "Labelled drawings of boxes, to hand over and to print", _diagrams,
        diagram_commands,
    ),
    ScreenEntry("widths", "Widths", "Ctrl+4", "The page at all its widths side by side", _widths),
    ScreenEntry(
        "new", "New page from a frame", "Ctrl+N", "Wrapper, header, columns", lambda _: NewPage(),
        needs_page=False, in_bar=False,
    ),
)  # fmt: skip
FIRST = "bench"  # where a page that was opened is shown


def bench_of(host: Host) -> Bench:
    """The bench of the page that is open; for those who drive the window from outside."""
    bench = host.screen_named("bench")
    assert isinstance(bench, Bench)
    return bench


def source_of(host: Host) -> SourceScreen:
    """The source screen of the page that is open."""
    source = host.screen_named("source")
    assert isinstance(source, SourceScreen)
    return source


def diagrams_of(host: Host) -> DiagramsScreen:
    """The diagrams of the page that is open."""
    diagrams = host.screen_named("diagrams")
    assert isinstance(diagrams, DiagramsScreen)
    return diagrams


def widths_of(host: Host) -> WidthsScreen:
    """The widths of the page that is open."""
    widths = host.screen_named("widths")
    assert isinstance(widths, WidthsScreen)
    return widths
