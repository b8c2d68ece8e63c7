"""One browser that stays open from proof to proof, and is started anew where it failed."""

from collections.abc import Callable
from pathlib import Path

from redcrate.core.files.trial import Trial
from redcrate.core.proof.browsers import Browser, BrowserKind, find_browser
from redcrate.core.proof.driven import DrivenBrowser
from redcrate.core.proof.errors import BrowserFailed
from redcrate.core.proof.proving import Proof, Step, Wish, prove


class WarmBrowser:
    """Finds a browser when it is first wanted. One thread at a time may ask, and any may stop it."""

    def __init__(
        self, kind: BrowserKind | None = None, driver: Path | None = None, patience: float = 20.0
    ) -> None:
        """kind, driver: as for find_browser. patience: how long starting and loading a page may take, s."""
        self._find: Callable[[], Browser] = lambda: find_browser(kind, driver)
        self._patience = patience
        self._open: DrivenBrowser | None = None

    def open(self) -> DrivenBrowser:
        """The browser, started if need be. Raises NoBrowser and BrowserFailed."""
        if self._open is None:
            self._open = DrivenBrowser(
                self._find(), self._patience
            )  # known while it starts: it may be stopped
            try:
                self._open.start()
            except BaseException:
                self._open = None
                raise
        return self._open

    def prove(self, trial: Trial, wish: Wish, step: Step = lambda done, of: None) -> Proof:
        """Hold a page against it. Raises NoBrowser and BrowserFailed, and what `step` raises."""
        try:
            return prove(trial, self.open(), wish, step)
        except BrowserFailed:
            self.close()
            raise

    def stop(self) -> None:
        """End it at once, from another thread; whoever waits for its answer gets BrowserFailed."""
        if self._open is not None:
            self._open.hang_up()

    def close(self) -> None:
        """End it."""
        if self._open is not None:
            self._open.close()
            self._open = None
