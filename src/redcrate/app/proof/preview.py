"""The page in the browser that people use, as it is now: seen anew after each edit, saved or not."""

from collections.abc import Callable

from PyQt6.QtCore import QObject, QUrl
from PyQt6.QtGui import QDesktopServices

from redcrate.core.proof.page_files import PageFiles
from redcrate.core.proof.proving import files_of
from redcrate.core.proof.serving import PageServer
from redcrate.core.session import Change, Session


def open_address(address: str) -> bool:
    """Open an address in the desktop's browser; whether there is one."""
    return QDesktopServices.openUrl(QUrl(address))


class Preview(QObject):
    """Serves the page from the first time that it is wanted until the screen goes.

    shows_outside: whether files outside the page's folder are shown to the browser; None: nobody has said yet.
    """

    def __init__(
        self,
        session: Session,
        parent: QObject | None = None,
        opener: Callable[[str], bool] = open_address,
    ) -> None:
        super().__init__(parent)
        self._session = session
        self.opener = opener
        self.server: PageServer | None = None
        self.shows_outside: bool | None = None
        session.listen(self._changed)

    def outside(self) -> tuple[str, ...]:
        """The files outside the page's folder that it uses."""
        return files_of(self._session.document.trial()).outside

    def open(self) -> bool:
        """Show the page in the browser; whether one was found."""
        if self.server is None:
            self.server = PageServer(self._files(), scripts=True)
        else:
            self.server.show(self._files())
        return self.opener(self.server.preview)

    def _files(self) -> PageFiles:
        files = files_of(self._session.document.trial())
        return files if self.shows_outside else files.without_outside()

    def end(self) -> None:
        """No longer serve it."""
        if self.server is not None:
            self.server.close()
            self.server = None

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE and self.server is not None:
            self.server.show(self._files())
