"""The whole of a proof: a page at some widths, computed here and measured in a browser."""

from collections.abc import Callable, Iterable, Sequence
from ipaddress import ip_address
from pathlib import Path

from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.proof.comparing import Comparison, compare
from redcrate.core.proof.driven import DrivenBrowser
from redcrate.core.proof.page_files import PageFiles
from redcrate.core.proof.serving import PageServer
from redcrate.core.records import dataclass
from redcrate.core.style.media import DEFAULT_HEIGHT, Viewport

TOLERANCE = 0.5  # px

# Says how far the work is: done, of how many; raises what ends it.
Step = Callable[[int, int], None]


@dataclass(frozen=True, slots=True, eq=False)
class Wish:
    """widths, height: of the windows, px. tolerance: how far a box may be off, px.

    scripts: let the page's scripts run there, and compute here the document that they leave. pictures: take them.
    """

    widths: Sequence[float]
    height: float = DEFAULT_HEIGHT
    tolerance: float = TOLERANCE
    scripts: bool = False
    pictures: bool = False


@dataclass(frozen=True, slots=True, eq=False)
class Proof:
    """What came out. browser: its name and version. refused: the hosts that the page asked for, and was not let out to.

    pictures: of the page as the browser has it, PNG, one for each comparison where they were wanted.
    """

    path: Path
    browser: str
    wish: Wish
    comparisons: tuple[Comparison, ...]
    refused: tuple[str, ...]
    pictures: tuple[bytes, ...] = ()

    @property
    def differs(self) -> bool:
        """Whether anything does."""
        return any(c.differences or c.other_tree for c in self.comparisons)


def prove(
    trial: Trial,
    browser: DrivenBrowser,
    wish: Wish,
    step: Step = lambda done, of: None,
) -> Proof:
    """Ask the browser about the page as `trial` has it. Raises BrowserFailed, and what `step` raises."""
    # once it is laid out, it is known which pictures and fonts it uses
    first = trial.page(Viewport(wish.widths[0], wish.height))
    server = PageServer(files_of(trial), scripts=wish.scripts)
    try:
        return _proof(trial, browser, wish, server, first, step)
    finally:
        server.close()


def files_of(trial: Trial) -> PageFiles:
    """What a browser may see of it."""
    return PageFiles.of(trial.path, trial.data(), trial.used_files())


def _proof(
    trial: Trial,
    browser: DrivenBrowser,
    wish: Wish,
    server: PageServer,
    page: Page,
    step: Step,
) -> Proof:
    found: list[Comparison] = []
    pictures: list[bytes] = []
    browser.open_shell(server)
    for number, width in enumerate(wish.widths):
        step(number, len(wish.widths))
        there = browser.measure(server.page, width, wish.height, scripts=wish.scripts)
        after = trial.with_html(there.html) if wish.scripts else trial
        page = after.page(Viewport(width, wish.height), None if wish.scripts else page)
        found.append(compare(page, there, wish.tolerance))
        if wish.pictures:
            pictures.append(browser.picture(there.height))
    step(len(wish.widths), len(wish.widths))
    refused = tuple(_named(browser.proxy.heard(), trial.texts.values()))
    return Proof(trial.path, browser.name, wish, tuple(found), refused, tuple(pictures))


def _named(hosts: Iterable[str], texts: Iterable[str]) -> list[str]:
    """The hosts that the page asked for: those that it names, for a browser asks for others of its own accord.

    With the port where it is this machine or another one by its number: no browser asks for these by itself.
    """
    whole = "\n".join(texts).lower()
    found: dict[str, None] = {}
    for host in hosts:
        name = host.rpartition(":")[0] or host
        if _is_number(name) or name.endswith("localhost"):
            found[host] = None
        elif name.lower() in whole:
            found[name] = None
    return list(found)


def _is_number(name: str) -> bool:
    try:
        ip_address(name.strip("[]"))
    except ValueError:
        return False
    return True
