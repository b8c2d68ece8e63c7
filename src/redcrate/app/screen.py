"""What a screen is: a widget that the window shows whole, made when it is first wanted."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Protocol

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from redcrate.app.commands.command import Command
from redcrate.app.findings.search import FindingsSearch
from redcrate.app.settings import Settings
from redcrate.core.records import dataclass
from redcrate.core.session import Session


class Screen(QWidget):
    """One screen. What a screen does not care about it leaves as it is here.

    said: a sentence for the note, and whether it tells of something wrong. wanted: the name of another
    screen, and what it is to show. held: the key that shows the page as it was saved. page_wanted: a
    file to open. given_up: the screen is no longer wanted. question: a sentence, and its answers with what each does.
    """

    said = pyqtSignal(str, bool)
    wanted = pyqtSignal(str, object)
    held = pyqtSignal(bool)
    page_wanted = pyqtSignal(Path)
    given_up = pyqtSignal()
    question = pyqtSignal(str, object)

    def enter(self) -> None:
        """The screen is shown: give the focus to what is worked with first."""

    def leave(self) -> None:
        """Another screen is shown, or the work is saved: what is being typed counts."""

    def show_what(self, what: object) -> None:
        """Show what another screen asked for."""

    def go_to_finding(self, step: int) -> None:
        """Read the next finding (1) or the previous one (-1), where the screen lists them."""

    def notes_over(self) -> QWidget:
        """The part over whose lower edge the window's note lies."""
        return self

    def forget_pictures(self) -> None:
        """The page's pictures on disk have changed."""

    def end(self) -> None:
        """The screen goes for good: what it keeps running ends."""

    def restore(self, settings: Settings) -> None:
        """Lay the panels out as they were."""

    def keep(self, settings: Settings) -> None:
        """Remember how the panels are laid out."""


@dataclass(frozen=True, slots=True)
class OpenPage:
    """What screens share of the page that is open: its session, and who looks for its findings."""

    session: Session
    search: FindingsSearch


class Host(Protocol):
    """The window, as screens and their commands see it."""

    @property
    def session(self) -> Session | None:
        """The session of the page that is open."""
        ...

    def screen_named(self, name: str) -> Screen | None:
        """The screen of that name, made if need be; None where it needs a page and none is open."""
        ...

    @property
    def shown(self) -> str:
        """The name of the screen that is shown; "" where none is."""
        ...

    def show_screen(self, name: str, what: object = None) -> None:
        """Go to a screen."""
        ...


def no_commands(host: Host) -> Sequence[Command]:
    """The commands of a screen that has none of its own."""
    return ()


def no_greeting(session: Session) -> str:
    """Nothing is said of a page that is opened."""
    return ""


@dataclass(frozen=True, slots=True)
class ScreenEntry:
    """A screen in the list.

    words: on its button and in the list of commands. make: the widget, for the page that is open, None only
    where it does not `need_page`, and what it stands in. commands: of the screen alone. in_bar: it has a button in the
    top bar. greets: what the screen has to say of a page when it is opened. takes: the ending of files that are
    opened on it; "": none.
    """

    name: str
    words: str
    keys: str
    teaches: str
    make: Callable[[OpenPage | None, QWidget], Screen]
    commands: Callable[[Host], Sequence[Command]] = no_commands
    needs_page: bool = True
    in_bar: bool = True
    greets: Callable[[Session], str] = no_greeting
    takes: str = ""
