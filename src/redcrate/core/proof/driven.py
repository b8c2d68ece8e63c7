"""A browser that is kept warm and asked through W3C WebDriver: started with a folder of its own and no way out.

Every way in which that can fail is one sentence, and nothing is left running.
"""

import socket
import subprocess
import tempfile
import time
from collections.abc import Callable
from contextlib import suppress
from importlib import import_module
from importlib.resources import files
from pathlib import Path
from typing import Any, TypeVar

from redcrate.core.processes import python_command
from redcrate.core.proof.browsers import Browser
from redcrate.core.proof.errors import BrowserFailed, NoBrowser
from redcrate.core.proof.measured import Measured, measured
from redcrate.core.proof.proxy import GuardedProxy
from redcrate.core.proof.serving import PageServer

T = TypeVar("T")

# Families that Red Crate brings along: which of them a generic family looks like is told.
_KNOWN = ("Liberation Serif", "Liberation Sans", "Liberation Mono")
_TALLEST, _ROUND = 12_000, 200  # px: of a picture, and what a window may have round its page
_START = 10.0  # s until a driver listens
_GRACE = 3  # s beyond its patience: a driver that is well says itself that it waited long enough
_KNOCK = "red-crate-asks.invalid"  # RFC 6761: never anybody's name
# A page that looks at its window's height is another one in a taller frame: then the frame stays as it was.
_BOXES = """
return [...view.document.body.querySelectorAll("*")].map(element => {
    const box = element.getBoundingClientRect();
    return [box.x, box.y, box.width, box.height];
}).join();
"""
_SET_HEIGHT = "arguments[0].height = arguments[1];"
_SANDBOXES = {
    False: "allow-same-origin",
    True: "allow-scripts",
}  # never both: the page could take it off
_VIEWS = {
    False: "const view = document.querySelector('iframe').contentWindow;\n",
    True: "const view = window;\n",
}
_ASK_OUTSIDE = (
    "const done = arguments[1]; fetch('http://' + arguments[0] + '/', {mode: 'no-cors'})"
    ".then(() => done(true), () => done(false))"
)


class DrivenBrowser:
    """One session with one browser. version: what it says of itself.

    patience: how long it may take to start and to load a page, s.
    """

    def __init__(self, browser: Browser, patience: float = 20.0) -> None:
        """Start its driver. Raises NoBrowser where there is nothing to speak with it."""
        _see_to_extra()
        self.browser = browser
        self.version = ""
        self.proxy = GuardedProxy()
        self._patience = patience
        self._scripts = False  # whether those of the page that is shown run
        self._session: Any = None
        self._profile = Path(tempfile.mkdtemp(prefix="redcrate-proof-"))
        self._port = _free_port()
        self._keeper = _kept(self._profile, [str(browser.driver), f"--port={self._port}"])

    def start(self) -> None:
        """Start it, and wait until it can be asked. Raises BrowserFailed; nothing is left then."""
        try:
            self._wait_for_driver()
            self._session = self._guarded(self._new_session)
        except BaseException:
            self.close()
            raise

    @property
    def name(self) -> str:
        """Its name with the first number of its version."""
        return f"{self.browser.words} {self.version.partition('.')[0]}".strip()

    def open_shell(self, server: PageServer) -> None:
        """Load the page of ours in which others are measured, and see that no way leads out of there."""
        self.proxy.let_through(server.origins)
        self.proxy.heard()
        self._guarded(lambda: self._session.get(server.shell))
        self._guarded(lambda: self._session.execute_async_script(_ASK_OUTSIDE, _KNOCK))
        if not any(host.partition(":")[0] == _KNOCK for host in self.proxy.heard()):
            raise BrowserFailed(f"{self.name} does not use its proxy, so no page is opened in it.")

    def measure(self, address: str, width: float, height: float, *, scripts: bool = False) -> Measured:
        """The geometry of the page at an address, in a window of that size, px. Raises BrowserFailed."""
        self._scripts = scripts
        given = (address, width, height, _SANDBOXES[scripts])
        self._guarded(lambda: self._session.execute_async_script(_script("opening"), *given))
        return measured(
            self._inside("execute_async_script", _script("measuring"), scripts, list(_KNOWN))
        )

    def _inside(self, call: str, script: str, *given: object) -> Any:
        """Run a script that looks at the page, through the shell, or in the page where its scripts run too."""

        def run() -> Any:
            if self._scripts:
                self._session.switch_to.frame(self._session.find_element("tag name", "iframe"))
            try:
                return getattr(self._session, call)(f"{_VIEWS[self._scripts]}{script}", *given)
            finally:
                if self._scripts:
                    self._session.switch_to.default_content()

        return self._guarded(run)

    def ask(self, script: str, *given: object) -> Any:
        """What a script of ours answers that only looks at the page that was measured last, whose window is `view`.

        Raises BrowserFailed.
        """
        return self._inside("execute_script", script, *given)

    def picture(self, height: float) -> bytes:
        """A PNG of the page that was measured last, as far down as `height`, px.

        Only as far as its window, where a taller one would change it.
        """
        frame = self._guarded(lambda: self._session.find_element("tag name", "iframe"))
        tall = self._tallest(frame, min(int(height), _TALLEST))

        def take() -> bytes:
            self._session.set_window_rect(0, 0, frame.size["width"] + _ROUND, tall + _ROUND)
            png: bytes = frame.screenshot_as_png
            return png

        return self._guarded(take)

    def _tallest(self, frame: Any, wanted: int) -> int:
        """Make the frame that high, px, if the page is the same in it; how high it is."""
        before = int(self._guarded(lambda: frame.size["height"]))
        known = self._inside("execute_script", _BOXES)
        self._guarded(lambda: self._session.execute_script(_SET_HEIGHT, frame, wanted))
        if self._inside("execute_script", _BOXES) == known:
            return wanted
        self._guarded(lambda: self._session.execute_script(_SET_HEIGHT, frame, before))
        return before

    def hang_up(self) -> None:
        """Begin to end it, whatever it is doing; another thread may be waiting for its answer."""
        if self._keeper.stdin is not None:
            with suppress(OSError):
                self._keeper.stdin.close()

    def close(self) -> None:
        """End it: the browser, its driver, its folder."""
        self.hang_up()
        try:
            self._keeper.wait(15)
        except subprocess.TimeoutExpired:
            self._keeper.kill()
            self._keeper.wait()
        self.proxy.close()

    # -- starting

    def _wait_for_driver(self) -> None:
        """§8.2: until the driver listens."""
        until = time.monotonic() + _START
        while time.monotonic() < until:
            if self._driver_ended():
                break
            with suppress(OSError), socket.create_connection(("127.0.0.1", self._port), 1.0):
                return
            time.sleep(0.02)
        raise BrowserFailed(
            f"the driver {self.browser.driver} does not start.",
            remedy=f"Install both again: sudo apt-get install --reinstall {self.browser.packages}",
        )

    def _driver_ended(self) -> bool:
        return self._keeper.poll() is not None

    def _new_session(self) -> Any:
        from selenium.webdriver.common.proxy import Proxy
        from selenium.webdriver.remote.client_config import ClientConfig
        from selenium.webdriver.remote.remote_connection import RemoteConnection
        from selenium.webdriver.remote.webdriver import WebDriver

        from redcrate.core.proof.asked_for import AskedFor

        address = f"http://127.0.0.1:{self._port}"
        config = ClientConfig(
            remote_server_addr=address,
            proxy=Proxy({"proxyType": "DIRECT"}),
            timeout=int(self._patience) + _GRACE,
        )
        options = AskedFor(self.browser.capabilities(self._profile, self.proxy.address))
        session = WebDriver(command_executor=RemoteConnection(client_config=config), options=options)
        session.set_script_timeout(self._patience)
        session.set_page_load_timeout(self._patience)
        self.version = str(session.capabilities.get("browserVersion", ""))
        return session

    # -- what may go wrong

    def _guarded(self, work: Callable[[], T]) -> T:
        """Ask, and turn what the driver or the connection to it gives instead of an answer into its sentence."""
        from selenium.common.exceptions import (
            SessionNotCreatedException,
            TimeoutException,
            WebDriverException,
        )
        from urllib3.exceptions import HTTPError, ReadTimeoutError

        who = self.browser.words
        try:
            return work()
        except SessionNotCreatedException as problem:
            raise BrowserFailed(
                f"{who} does not start, or its driver has another version: {_first_line(problem)}.",
                remedy=f"Install both from the same place: sudo apt-get install {self.browser.packages}",
            ) from None
        except TimeoutException:
            raise BrowserFailed(
                f"{who} did not load the page within {self._patience:g} s.",
                remedy="Check whether a script or a frame of the page waits for something.",
            ) from None
        except ReadTimeoutError:
            raise BrowserFailed(
                f"{who} did not answer within {self._patience + _GRACE:g} s and was stopped."
            ) from None
        except (TypeError, KeyError, ValueError, AttributeError):
            raise BrowserFailed(f"the answer of the driver of {who} cannot be read.") from None
        except WebDriverException as problem:
            raise BrowserFailed(f"{who} failed: {_first_line(problem)}.") from None
        except (HTTPError, OSError):
            raise BrowserFailed(
                f"the driver of {who} stopped during the check.",
                remedy="Check again: the driver starts again.",
            ) from None


def _script(name: str) -> str:
    """A script of ours that runs in the browser."""
    return (files("redcrate.core.proof") / f"{name}.js").read_text(encoding="utf-8")


def _see_to_extra() -> None:
    """Selenium and psutil are an extra of their own."""
    try:
        for name in ("selenium.webdriver", "psutil"):
            import_module(name)
    except ImportError:
        raise NoBrowser(
            "the proof needs selenium and psutil, which are not installed.",
            remedy="./run --with-proof installs them, and a browser where it has permission.",
        ) from None


def _first_line(problem: Exception) -> str:
    text = str(getattr(problem, "msg", "") or problem).strip()
    return (text.splitlines() or ["no details"])[0].rstrip(".")[:200]


def _free_port() -> int:
    with socket.socket() as one:
        one.bind(("127.0.0.1", 0))
        port: int = one.getsockname()[1]
        return port


def _kept(profile: Path, command: list[str]) -> subprocess.Popen[bytes]:
    """The keeper with the program that it keeps, away from this terminal's keys."""
    keeper = [*python_command(), "-m", "redcrate.core.proof.keeper", str(profile), *command]
    nothing = subprocess.DEVNULL
    return subprocess.Popen(
        keeper, stdin=subprocess.PIPE, stdout=nothing, stderr=nothing, start_new_session=True
    )
