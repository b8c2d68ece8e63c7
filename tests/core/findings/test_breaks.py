"""What breaks between widths: its exact ranges, told where no named width looks."""

import json
from pathlib import Path

from click.testing import CliRunner

from redcrate.cli.commands import commands
from redcrate.core.files.trial import Trial
from redcrate.core.findings import Severity, findings_of
from redcrate.core.findings.breaks import BreakSearch
from redcrate.core.findings.checking import Fixes, check_page
from redcrate.core.style.media import Viewport
from redcrate.core.style.window_ranges import WindowRange
from tests.conftest import DEMO

DRAFT = DEMO.parent.parent / "ploverfield-draft" / "index.html"


def test_ranges_are_exact() -> None:
    """Held against the findings at every integer width."""
    trial = Trial.of_file(DRAFT)
    search = BreakSearch(lambda w, known: trial.page(Viewport(w, 800), known), trial.texts, 410, 530)
    for _ in search.run():
        pass
    told = {
        (b.finding.key, w) for b in search.broken for r in b.ranges for w in range(r.least, r.most + 1)
    }
    real, page = set(), None
    for width in range(410, 531):
        page = trial.page(Viewport(width, 800), page)
        found = findings_of(page, trial.texts)
        real |= {(f.key, width) for f in found if f.severity is Severity.BREAKS}
    assert told == real and real


def test_what_no_width_sees_is_a_finding_of_its_own() -> None:
    """With its px and the fixes of what breaks; what a width sees has its range."""
    checked = check_page(DRAFT, [405, 530], fixes=Fixes.FIRST, sweep=WindowRange(400, 540)).checked
    between = [c for c in checked if c.finding.family == "breaks-between-widths"]
    assert [c.ranges for c in between] == [(WindowRange(416, 424),), (WindowRange(425, 520),)]
    assert between[1].finding.sentence.startswith("Breaks between 425 and 520 px: a.path wraps")
    assert all(c.finding.severity is Severity.BREAKS and c.fixes for c in between[:1])
    wide = next(c for c in checked if c.finding.family == "wider-than-viewport")
    assert wide.ranges == (WindowRange(400, 540),) and wide.widths == (405, 530)
    seen = check_page(DRAFT, [420, 500, 530], fixes=Fixes.NONE, sweep=WindowRange(400, 540)).checked
    assert not [c for c in seen if c.finding.family == "breaks-between-widths"]
    unswept = check_page(DRAFT, [390], fixes=Fixes.NONE).checked
    assert not any(c.ranges or c.finding.family == "breaks-between-widths" for c in unswept)


def test_a_fix_for_what_breaks_between_holds_there(tmp_path: Path) -> None:
    """It is tried at the width at which it breaks too."""
    page = tmp_path / "p.html"
    page.write_text(
        "<!doctype html><style>body{margin:0}div{float:left;box-sizing:border-box;width:50%;border:2px solid}"
        ".x{width:300px}@media (max-width:550px){div,.x{float:none;width:auto}}</style><div>a</div><div class=x>b</div>"
    )
    (checked,) = (
        c
        for c in check_page(page, [500, 1000], sweep=WindowRange(400, 1000)).checked
        if c.finding.severity is Severity.BREAKS
    )
    assert checked.ranges == (WindowRange(551, 599),) and checked.fixes
    trial = Trial.of_file(page)
    for fix in checked.fixes:
        after, texts = trial.after(fix.patch)(trial.page(Viewport(551, 800)))
        assert not [f for f in findings_of(after, texts) if f.severity is Severity.BREAKS], fix.sentence


def test_check_with_a_sweep_on_the_command_line() -> None:
    """Exit status 1 where something breaks in any window; the ranges stand in text and JSON."""

    def run(*arguments: str) -> tuple[int, str]:
        result = CliRunner().invoke(commands, ["check", str(DEMO), *arguments])
        return result.exit_code, result.output

    assert run()[0] == 0
    status, text = run("--sweep", "320-420")
    assert status == 1 and "Breaks between 326 and 338 px" in text and "at 326 to 338 px" in text
    found = json.loads(run("--sweep", "320-420", "--format", "json")[1])["findings"]
    assert [f["ranges"] for f in found if "ranges" in f] == [[[326, 338]]]
    assert run("--sweep", "320-340", "--widths", "330")[0] == 1
    for wrong in ("wide", "900-400", "3-4-5"):
        status, text = run("--sweep", wrong)
        assert status == 2 and "--sweep takes two px" in text
