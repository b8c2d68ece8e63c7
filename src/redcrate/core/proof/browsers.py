"""The browsers that can be asked: where they and their drivers lie here, and what they are told at their start.

Everything is found on this machine; nothing is ever fetched.
"""

import os
import shutil
from enum import Enum
from glob import glob
from pathlib import Path
from typing import Any

from redcrate.core.proof.errors import NoBrowser
from redcrate.core.records import dataclass


class BrowserKind(Enum):
    """The kinds, as they are called on the command line."""

    CHROMIUM = "chromium"
    FIREFOX = "firefox"
    WEBKIT = "webkit"


@dataclass(frozen=True, slots=True)
class _Kind:
    """How a kind is called by people, where its programs lie, and the Debian packages that have them."""

    words: str
    programs: tuple[str, ...]
    drivers: tuple[str, ...]
    packages: str
    note: str = ""


_KINDS = {
    BrowserKind.CHROMIUM: _Kind(
        "Chromium", ("chromium", "chromium-browser"), ("chromedriver",), "chromium chromium-driver"
    ),
    BrowserKind.FIREFOX: _Kind(
        "Firefox",
        ("firefox-esr", "firefox"),
        ("geckodriver",),
        "firefox-esr",
        " (its driver, geckodriver, is not among Debian's packages)",
    ),
    BrowserKind.WEBKIT: _Kind(
        "WebKit", ("/usr/lib/*/webkit2gtk-4.*/MiniBrowser",), ("WebKitWebDriver",), "webkit2gtk-driver"
    ),
}


@dataclass(frozen=True, slots=True)
class Browser:
    """A browser that is installed here. program, driver: their files."""

    kind: BrowserKind
    program: Path
    driver: Path

    @property
    def words(self) -> str:
        """Its name, for sentences."""
        return _KINDS[self.kind].words

    @property
    def packages(self) -> str:
        """The Debian packages that it is in."""
        return _KINDS[self.kind].packages

    def capabilities(self, profile: Path, way_out: str) -> dict[str, Any]:
        """What a new session asks for (WebDriver §7). profile: a folder of its own. way_out: host:port of the only one."""
        proxy = {
            "proxyType": "manual",
            "httpProxy": way_out,
            "sslProxy": way_out,
            "noProxy": _NO_PROXY[self.kind],
        }
        return {"proxy": proxy, "acceptInsecureCerts": False, **_OWN[self.kind](self, profile)}


# Browsers leave this machine's own addresses out of a proxy's hands unless they are told not to.
_NO_PROXY: dict[BrowserKind, list[str]] = {
    BrowserKind.CHROMIUM: ["<-loopback>"],
    BrowserKind.FIREFOX: [],
    BrowserKind.WEBKIT: [],
}


def _chromium(browser: Browser, profile: Path) -> dict[str, Any]:
    quiet = (
        "--headless=new --disable-background-networking --disable-component-update --disable-sync "
        "--disable-default-apps --no-first-run --no-default-browser-check --disable-extensions "
        "--force-webrtc-ip-handling-policy=disable_non_proxied_udp --force-device-scale-factor=1 "
        "--hide-scrollbars --disable-quic --dns-prefetch-disable"
    ).split()
    rights = ["--no-sandbox"] if os.geteuid() == 0 else []  # its own sandbox refuses to run for root
    options = {
        "binary": str(browser.program),
        "args": [*quiet, *rights, f"--user-data-dir={profile}"],
    }
    return {"goog:chromeOptions": options}


def _firefox(browser: Browser, profile: Path) -> dict[str, Any]:
    prefs = {
        "network.proxy.allow_hijacking_localhost": True,
        "network.proxy.failover_direct": False,
        "network.dns.disablePrefetch": True,
        "media.peerconnection.enabled": False,
    }
    args = ["-headless", "-profile", str(profile)]
    options = {"binary": str(browser.program), "args": args, "prefs": prefs}
    return {"browserName": "firefox", "moz:firefoxOptions": options}


def _webkit(browser: Browser, profile: Path) -> dict[str, Any]:
    options = {"binary": str(browser.program), "args": ["--automation", "--private"]}
    return {"webkitgtk:browserOptions": options}


_OWN = {
    BrowserKind.CHROMIUM: _chromium,
    BrowserKind.FIREFOX: _firefox,
    BrowserKind.WEBKIT: _webkit,
}


def find_browser(wanted: BrowserKind | None = None, driver: Path | None = None) -> Browser:
    """A browser and its driver on this machine: of a kind, or the first that there is.

    driver: its file, where it does not lie on the path of programs. Raises NoBrowser with the command that installs one.
    """
    for kind in BrowserKind if wanted is None else (wanted,):
        program, found = _first(_KINDS[kind].programs), driver or _first(_KINDS[kind].drivers)
        if program is not None and found is not None:
            if not os.access(found, os.X_OK):
                raise NoBrowser(f"the driver {found} does not exist or is not a program.")
            return Browser(kind, program, found)
    kind = wanted or BrowserKind.CHROMIUM
    asked = _KINDS[kind]
    who = asked.words if wanted is not None else "browser"
    raise NoBrowser(
        f"{who} with its driver is not installed.",
        remedy=f"On Debian: sudo apt-get install {asked.packages}{asked.note}",
    )


def _first(names: tuple[str, ...]) -> Path | None:
    """The first of these programs that there is; none that a path of programs such as "." has in the present folder."""
    for name in names:
        if "/" in name:
            places = sorted(glob(name))
            if places:
                return Path(places[-1])
        elif (found := shutil.which(name)) is not None and os.path.isabs(found):
            return Path(found)
    return None
