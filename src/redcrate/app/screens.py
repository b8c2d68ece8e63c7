"""The list of screens: whoever adds one adds it here, and nowhere else."""

from collections.abc import Callable
from typing import TypeVar

from PyQt6.QtWidgets import QWidget

from redcrate.app.bench.bench import Bench
from redcrate.app.bench.commands import bench_commands
from redcrate.app.diagrams.commands import diagram_commands
from redcrate.app.diagrams.screen import DiagramsScreen
from redcrate.app.exercises.making import MakeExercise
from redcrate.app.exercises.screen import ExercisesScreen, task_of
from redcrate.app.findings.search import FindingsSearch
from redcrate.app.findings_screen.commands import finding_commands
from redcrate.app.findings_screen.screen import FindingsScreen
from redcrate.app.new_page import NewPage
from redcrate.app.proof.commands import proof_commands
from redcrate.app.proof.screen import ProofScreen
from redcrate.app.screen import Host, OpenPage, Screen, ScreenEntry
from redcrate.app.source.screen import SourceScreen
from redcrate.app.widths.screen import WidthsScreen
from redcrate.core.exercises.exercise import ENDING
from redcrate.core.session import Session

T = TypeVar("T", bound=Screen)


def _of_page(
    make: Callable[[Session, QWidget], Screen],
) -> Callable[[OpenPage | None, QWidget], Screen]:
    """The maker of a screen that is there only while a page is open."""

    def made(of: OpenPage | None, parent: QWidget) -> Screen:
        assert of is not None
        return make(of.session, parent)

    return made


def _with_findings(
    make: Callable[[Session, FindingsSearch, QWidget], Screen],
) -> Callable[[OpenPage | None, QWidget], Screen]:
    """The maker of a screen of the open page that lists its findings."""

    def made(of: OpenPage | None, parent: QWidget) -> Screen:
        assert of is not None
        return make(of.session, of.search, parent)

    return made


def _exercises(of: OpenPage | None, parent: QWidget) -> Screen:
    return ExercisesScreen(of.session if of is not None else None, parent)


SCREENS = (
    ScreenEntry("bench", "Bench", "Ctrl+1", "Bench: measure and edit one page", _with_findings(Bench), bench_commands),
    ScreenEntry(
        "findings", "Findings", "Ctrl+2", "What is wrong or suspicious on this page, why, and fixes",
        _with_findings(FindingsScreen), finding_commands,
    ),
    ScreenEntry("source", "Source", "Ctrl+3", "The page's HTML and CSS as text", _of_page(SourceScreen)),
    ScreenEntry(
        "diagrams", "Diagrams", "Ctrl+4", "Labelled drawings of boxes, to export and print", _of_page(DiagramsScreen),
        diagram_commands,
    ),
    ScreenEntry("widths", "Widths", "Ctrl+5", "The page at several viewport widths, side by side", _of_page(WidthsScreen)),
    ScreenEntry(
        "proof", "Proof", "Ctrl+6", "Proof: our boxes compared with the installed browser's", _of_page(ProofScreen),
        proof_commands,
    ),
    ScreenEntry(
        "exercises", "Exercises", "Ctrl+7", "Tasks on small pages, checked by computed boxes", _exercises,
        needs_page=False, greets=task_of, takes=ENDING,
    ),
    ScreenEntry(
        "make-exercise", "Create an exercise from this page", "", "You set its conditions by clicking boxes",
        _of_page(MakeExercise), in_bar=False,
    ),
    ScreenEntry(
        "new", "New page from a frame", "Ctrl+N", "Wrapper, header, columns", lambda _, parent: NewPage(parent),
        needs_page=False, in_bar=False,
    ),
)  # fmt: skip
FIRST = "bench"  # where a page that was opened is shown


def _of(host: Host, name: str, kind: type[T]) -> T:
    screen = host.screen_named(name)
    assert isinstance(screen, kind)
    return screen


def bench_of(host: Host) -> Bench:
    """The bench of the page that is open; for those who drive the window from outside."""
    return _of(host, "bench", Bench)


def findings_of(host: Host) -> FindingsScreen:
    """The findings of the page that is open, at length."""
    return _of(host, "findings", FindingsScreen)


def source_of(host: Host) -> SourceScreen:
    """The source screen of the page that is open."""
    return _of(host, "source", SourceScreen)


def diagrams_of(host: Host) -> DiagramsScreen:
    """The diagrams of the page that is open."""
    return _of(host, "diagrams", DiagramsScreen)


def exercises_of(host: Host) -> ExercisesScreen:
    """The exercises."""
    return _of(host, "exercises", ExercisesScreen)


def making_of(host: Host) -> MakeExercise:
    """An exercise that is made of the page that is open."""
    return _of(host, "make-exercise", MakeExercise)


def proof_of(host: Host) -> ProofScreen:
    """The proof of the page that is open."""
    return _of(host, "proof", ProofScreen)


def widths_of(host: Host) -> WidthsScreen:
    """The widths of the page that is open."""
    return _of(host, "widths", WidthsScreen)
