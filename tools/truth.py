"""Holds what is said of real pages against measured boxes and, where one is installed, against a browser.

Usage: tools/truth.py [--browser] [--fixes] [--table FILE] [NAME...]

The pages stand beside the project. Each finding that is told is judged by the boxes that a browser measured
(tests/truth.py); with --browser what boxes cannot tell is asked of one: whether it takes a value, and how wide it lets a
page be scrolled. --fixes tries all fixes, and counts anew what they change. Exit status 1 if anything is untrue.
"""

import sys
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from multiprocessing import Pool
from pathlib import Path
from typing import Any

import click

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.truth import PAGES, cases, hidden_changes, index, judge

from redcrate.core.errors import RedCrateError
from redcrate.core.files.trial import Trial
from redcrate.core.findings.checking import Check, Checked, Fixes, check_page
from redcrate.core.overflow.sideways import over_the_window
from redcrate.core.proof.browsers import find_browser
from redcrate.core.proof.driven import DrivenBrowser
from redcrate.core.proof.proving import files_of
from redcrate.core.proof.serving import PageServer
from redcrate.core.style.media import Viewport

WIDTHS = (1280, 390)  # at which the pages were measured
_REACH = """
const root = view.document.documentElement, body = view.document.body;
const own = view.getComputedStyle(root).overflowX;
const given = own === "visible" ? view.getComputedStyle(body).overflowX : own;
return [["hidden", "clip"].includes(given) ? root.clientWidth : root.scrollWidth, root.clientWidth];
"""


@dataclass(frozen=True, slots=True)
class Line:
    """One told finding. true: None where nobody could tell. hidden: what its fixes change and do not tell."""

    page: str
    family: str
    sentence: str
    widths: tuple[float, ...]
    true: bool | None
    hidden: tuple[str, ...]


def lines_of(folder: Path, name: str, file: str, *, fixes: bool) -> list[Line]:
    """All that is told of a page, folded as people read it, judged at the measured widths."""
    measured = {c.page.viewport.width: c for c in cases(folder, name, file, WIDTHS)}
    path = folder / name / file
    check = check_page(path, WIDTHS, fixes=Fixes.ALL if fixes else Fixes.NONE, large_too=fixes)
    found = []
    for one in check.checked:
        verdicts = [
            judge(measured[w], _at(check, one, measured[w])) for w in one.widths[:1] if w in measured
        ]
        hidden = tuple(hidden_changes(path, check, one, WIDTHS)) if fixes else ()
        verdict = next((v for v in verdicts if v is not None), None)
        found.append(Line(name, one.finding.family, one.finding.sentence, one.widths, verdict, hidden))
    return found


def _at(check: Check, one: Checked, case: Any) -> Any:
    """A finding on the elements of the page that was measured."""
    elements = tuple(case.page.elements[e.index] for e in one.finding.elements if e.index >= 0)
    return replace(one.finding, elements=elements)


class Asked:
    """A browser that is asked about one page after the other."""

    def __init__(self) -> None:
        self._browser = DrivenBrowser(find_browser())
        self._browser.start()

    def close(self) -> None:
        """End it."""
        self._browser.close()

    def takes(self, values: Sequence[tuple[str, str]]) -> list[bool]:
        """Whether it takes values of properties."""
        script = "return arguments[0].map(([name, value]) => view.CSS.supports(name, value));"
        answers: list[bool] = self._browser.ask(script, [list(v) for v in values])
        return answers

    def sideways(self, path: Path) -> Iterator[tuple[int, float, float]]:
        """Each width, and by how much a page is wider than its window there and here, px."""
        trial = Trial.of_file(path)
        page = trial.page(Viewport(WIDTHS[0], 800))
        server = PageServer(files_of(trial), scripts=False)
        try:
            self._browser.open_shell(server)
            for width in WIDTHS:
                self._browser.measure(server.page, width, 800)
                reach, window = self._browser.ask(_REACH)
                page = trial.page(Viewport(width, 800), page)
                yield width, reach - window, over_the_window(page) / 64
        finally:
            server.close()


def _job(given: tuple[Path, str, str, bool]) -> list[Line]:
    folder, name, file, fixes = given
    try:
        return lines_of(folder, name, file, fixes=fixes)
    except RedCrateError as problem:
        return [Line(name, "", problem.sentence, (), False, ())]


def _values(lines: Sequence[Line]) -> dict[int, tuple[str, str]]:
    """The declarations that are told to be invalid, by the numbers of their lines."""
    found = {}
    for number, line in enumerate(lines):
        if (
            line.family == "invalid-value"
            and " is no value of " in line.sentence
            and "…" not in line.sentence
        ):
            value, _, rest = line.sentence[1:].partition("” is no value of ")
            found[number] = (rest.split(",")[0], value)
    return found


def _by_family(lines: Sequence[Line]) -> Mapping[str, Counter[bool | None]]:
    found: dict[str, Counter[bool | None]] = {}
    for line in lines:
        found.setdefault(line.family, Counter())[line.true] += 1
    return found


@click.command()
@click.option("--browser", is_flag=True, help="Ask an installed browser too.")
@click.option("--fixes", is_flag=True, help="Try all fixes, and count what they change.")
@click.option("--table", type=click.Path(path_type=Path), help="Write all that is told, tab-separated.")
@click.argument("names", nargs=-1)
def main(browser: bool, fixes: bool, table: Path | None, names: tuple[str, ...]) -> None:
    """Judge all pages, or those named."""
    jobs = [
        (folder, name, file, fixes)
        for folder in PAGES
        for name, file in index(folder).items()
        if not names or name in names
    ]
    with Pool(2) as pool:
        lines = [line for those in pool.map(_job, jobs, 2) for line in those]
    untrue = [f"{n.page}: {n.sentence}" for n in lines if n.true is False]
    untrue += [f"{n.page}: {h}" for n in lines for h in n.hidden]
    if browser:
        untrue += _asked(jobs, lines)
    if table is not None:
        rows = (f"{n.page}\t{n.family}\t{n.true}\t{n.widths}\t{n.sentence}\n" for n in lines)
        table.write_text("".join(rows), encoding="utf-8")
    for family, verdicts in sorted(_by_family(lines).items()):
        told = ", ".join(f"{n} {v}" for v, n in sorted(verdicts.items(), key=lambda p: str(p[0])))
        click.echo(f"{family:32} {told}")
    click.echo("\n".join(untrue))
    click.echo(f"{len(jobs)} pages, {len(lines)} findings, {len(untrue)} untrue")
    sys.exit(1 if untrue else 0)


def _asked(jobs: Sequence[tuple[Path, str, str, bool]], lines: Sequence[Line]) -> Iterator[str]:
    asked = Asked()
    try:
        values = _values(lines)
        for folder, name, file, _ in jobs:
            for width, there, here in asked.sideways(folder / name / file):
                if abs(there - here) > 1:
                    yield f"{name}: at {width} px it is {here:g} px wider than the window here, {there:g} there"
        for number, taken in zip(values, asked.takes(list(values.values())), strict=True):
            if taken:
                yield f"{lines[number].page}: a browser takes {values[number]}"
    finally:
        asked.close()


if __name__ == "__main__":
    main()
