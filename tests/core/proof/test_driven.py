"""A browser driven through WebDriver: what it is asked, all the ways in which that fails, and that nothing stays."""

import json
import os
import signal
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest
from click.testing import CliRunner, Result

from redcrate.cli.commands import commands
from redcrate.core.files.trial import Trial
from redcrate.core.proof import driven
from redcrate.core.proof.browsers import Browser, BrowserKind, find_browser
from redcrate.core.proof.errors import BrowserFailed, NoBrowser
from redcrate.core.proof.proving import Wish
from redcrate.core.proof.warm import WarmBrowser
from tests.conftest import DEMO, load
from tests.driving import Rows, SmallDriver, answer_of, nothing_left, started_in


def proved(*given: str) -> Result:
    """`redcrate prove` on the demo."""
    return CliRunner().invoke(commands, ["prove", str(DEMO), *given])


def wider(rows: Rows) -> None:
    """The body is."""
    rows[1][4] += 3


def test_a_browser_that_agrees(small_driver: SmallDriver, tmp_path: Path) -> None:
    """All widths, one line each; exit status 0, and nothing is left."""
    small_driver("", {f"{w}": answer_of(load(DEMO, w)) for w in (390, 1280)})
    result = proved("--widths", "390,1280")
    assert result.exit_code == 0, result.output
    assert result.output.count("boxes are equal.") == 2
    assert "compared with Chromium 7, tolerance 0.5 px" in result.output
    assert nothing_left(tmp_path)


def test_a_browser_that_does_not(small_driver: SmallDriver, tmp_path: Path) -> None:
    """Exit status 1; as data it has the cause with both boxes, and keeps to its schema."""
    import jsonschema

    from redcrate.core.proof import reporting

    small_driver("", {"390": answer_of(load(DEMO, 390), wider)})
    result = proved("--widths", "390", "--format", "json")
    assert result.exit_code == 1
    told = json.loads(result.output)
    schema = Path(reporting.__file__).with_name("proof_schema.json").read_text(encoding="utf-8")
    jsonschema.validate(told, json.loads(schema))
    (cause,) = told["widths"][0]["causes"]
    assert (cause["element"], cause["parts"], cause["kind"]) == ("body", ["width"], "box")
    assert cause["there"]["width"] - cause["here"]["width"] == 3 and cause["why"]
    assert proved("--widths", "390", "--tolerance", "3").exit_code == 0
    assert nothing_left(tmp_path)


@pytest.mark.parametrize(
    ("manner", "said"),
    [
        ("does not start", "chromedriver does not start. Install both again"),
        (
            "mismatch",
            "Chromium does not start, or its driver has another version: this driver is for version 1 only. Install both",
        ),
        ("leaky", "does not use its proxy"),
        ("dies", "the driver of Chromium stopped during the check. Check again"),
        ("hangs", "Chromium did not answer within 2 s and was stopped."),
        ("never loads", "Chromium did not load the page within 1 s."),
        ("mumbles", "its answer cannot be read."),
        ("babbles", "the answer of the driver of Chromium cannot be read."),
    ],
)
def test_each_failure_is_one_sentence_and_nothing_stays(
    small_driver: SmallDriver, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, manner: str, said: str
) -> None:
    """Exit status 2, the sentence alone, no process, no folder. One that does not start is waited for no longer than needed."""
    monkeypatch.setattr("redcrate.core.proof.driven._START", 1.0 if manner == "does not start" else 8.0)
    monkeypatch.setattr("redcrate.core.proof.driven._GRACE", 1)
    small_driver(manner)
    result = proved("--widths", "390", "--patience", "1")
    assert result.exit_code == 2
    assert result.stdout == "" and result.stderr.startswith("redcrate: ") and said in result.stderr
    assert len(result.stderr.strip().splitlines()) == 1
    assert nothing_left(tmp_path)


def test_without_a_browser_the_command_that_installs_one_is_named(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """One sentence; a driver that is none is told too."""
    monkeypatch.setenv("PATH", str(tmp_path))
    result = proved()
    assert result.exit_code == 2
    assert "sudo apt-get install chromium chromium-driver" in result.stderr
    with pytest.raises(NoBrowser, match="Firefox with its driver is not installed"):
        find_browser(BrowserKind.FIREFOX)
    (tmp_path / "chromium").write_text("#!/bin/sh\n", encoding="utf-8")
    (tmp_path / "chromium").chmod(0o755)
    with pytest.raises(NoBrowser, match="does not exist or is not a program"):
        find_browser(BrowserKind.CHROMIUM, tmp_path / "no-driver")


@pytest.mark.parametrize("kind", BrowserKind)
def test_every_browser_is_started_unseen_with_one_closed_way_out(kind: BrowserKind) -> None:
    """WebDriver §7.1: the proxy of ours for all, this machine too; a folder of its own where there is a word for it."""
    asked = Browser(kind, Path("/b/browser"), Path("/b/driver")).capabilities(Path("/p"), "127.0.0.1:9")
    told = ["<-loopback>"] if kind is BrowserKind.CHROMIUM else []
    assert asked.pop("proxy") == {
        "proxyType": "manual", "httpProxy": "127.0.0.1:9", "sslProxy": "127.0.0.1:9", "noProxy": told,
    }  # fmt: skip
    (options,) = (v for v in asked.values() if isinstance(v, dict))
    words = " ".join(options["args"])
    assert options["binary"] == "/b/browser"
    assert kind is BrowserKind.WEBKIT or ("headless" in words and "/p" in words)
    assert ("--no-sandbox" in words) == (kind is BrowserKind.CHROMIUM and os.geteuid() == 0)


def test_without_selenium_what_installs_it_is_named(
    small_driver: SmallDriver, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The extra may be missing."""
    small_driver()
    for name in [n for n in sys.modules if n.partition(".")[0] == "selenium"]:
        monkeypatch.delitem(sys.modules, name)
    monkeypatch.delitem(sys.modules, "redcrate.core.proof.asked_for", raising=False)
    monkeypatch.setitem(sys.modules, "selenium", None)
    result = proved()
    assert result.exit_code == 2 and "./run --with-proof installs them" in result.stderr


def test_many_pages_go_through_one_browser(small_driver: SmallDriver, tmp_path: Path) -> None:
    """One JSON object a line; what cannot be read has an error."""
    small_driver("", {"390": answer_of(load(DEMO, 390))})
    batch = tmp_path / "list"
    batch.write_text(f"{DEMO}\t390\nnothing.html\t390\n{DEMO}\tx\n{DEMO}\t390\n", encoding="utf-8")
    result = CliRunner().invoke(commands, ["prove", "--batch", str(batch)])
    first, missing, words, last = (json.loads(line) for line in result.stdout.splitlines())
    assert first == last and first["widths"][0]["compared"] == first["widths"][0]["equal"] > 40
    assert "error" in missing and "error" in words
    assert result.exit_code == 1 and nothing_left(tmp_path)


def test_a_browser_that_failed_is_started_anew(
    small_driver: SmallDriver, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The window keeps one: after its death the next proof has another one."""
    small_driver("", {"390": answer_of(load(DEMO, 390))})
    warm, wish, trial = WarmBrowser(patience=5), Wish((390,)), Trial.of_file(DEMO)
    assert not warm.prove(trial, wish).differs
    first = warm.open()
    assert warm.open() is first
    for process in started_in(tmp_path):
        if any(part.endswith("small_driver.py") for part in process.cmdline()):
            process.kill()
    with pytest.raises(BrowserFailed):
        warm.prove(trial, wish)
    assert nothing_left(tmp_path)
    assert not warm.prove(trial, wish).differs and warm.open() is not first
    warm.close()
    assert nothing_left(tmp_path)


OPENS = """
import signal, sys, time
signal.signal(signal.SIGINT, signal.default_int_handler)  # a shell's background jobs ignore it
from redcrate.core.proof.warm import WarmBrowser
WarmBrowser(patience=5).open()
print("open", flush=True)
time.sleep(600)
"""


@pytest.mark.parametrize("sign", [signal.SIGKILL, signal.SIGTERM, signal.SIGINT])
def test_the_browser_ends_with_red_crate_however_that_ends(
    small_driver: SmallDriver, tmp_path: Path, sign: signal.Signals
) -> None:
    """Killed, ended or stopped by a key: driver, browser and profile go."""
    small_driver()
    with subprocess.Popen(
        [sys.executable, "-c", OPENS],
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        env=dict(os.environ),
    ) as whole:
        try:
            assert whole.stdout is not None and whole.stdout.readline() == b"open\n"
            assert len(started_in(tmp_path)) >= 3
            whole.send_signal(sign)
            whole.wait(10)
        finally:
            whole.kill()
    assert nothing_left(tmp_path)


def test_what_runs_meanwhile_can_be_given_up(small_driver: SmallDriver, tmp_path: Path) -> None:
    """What the step raises comes out, and the browser stays for the next one."""

    class NoLonger(Exception):
        pass

    def stop_at(number: int) -> Callable[[int, int], None]:
        def step(done: int, of: int) -> None:
            assert of == 2
            if done == number:
                raise NoLonger

        return step

    small_driver("", {f"{w}": answer_of(load(DEMO, w)) for w in (390, 820)})
    warm, trial = WarmBrowser(), Trial.of_file(DEMO)
    with pytest.raises(NoLonger):
        warm.prove(trial, Wish((390, 820)), stop_at(1))
    browser = warm.open()
    assert len(warm.prove(trial, Wish((390, 820)), stop_at(5)).comparisons) == 2
    assert warm.open() is browser
    warm.close()
    assert nothing_left(tmp_path)


def test_no_frame_has_both_scripts_and_our_origin() -> None:
    """HTML Standard §4.8.5: a page that has both takes its sandbox off; the answer's own policy holds besides."""
    for words in driven._SANDBOXES.values():
        assert not {"allow-scripts", "allow-same-origin"} <= set(words.split())
