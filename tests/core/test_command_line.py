"""What the command line says where nothing can be done: a word that is no command, a window without a display."""

import socket
from pathlib import Path

import pytest
from click.testing import CliRunner

from redcrate.cli import main as command_line
from redcrate.cli.commands import commands
from redcrate.cli.display import display_fault


@pytest.mark.parametrize(
    ("word", "hint"),
    [("chekc", "Did you mean `redcrate check`?"), ("reprot", "`redcrate report`"), ("zzz", "Commands: report, draw")],
)  # fmt: skip
def test_a_mistyped_command_is_no_page(word: str, hint: str, capsys: pytest.CaptureFixture[str]) -> None:
    """It is said to be neither, with the nearest command; no window is tried."""
    with pytest.raises(SystemExit) as ended:
        command_line.main([word, "page.html"])
    told = capsys.readouterr().err
    assert (
        ended.value.code == 2 and f"there is no command and no page “{word}”." in told and hint in told
    )


@pytest.mark.parametrize("name", ["gone.html", "a/folder", "here"])
def test_a_page_opens_the_window(name: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A name with the ending of pages, a path, or what is there."""
    opened: list[Path | None] = []
    monkeypatch.setattr(command_line, "open_window", opened.append)
    monkeypatch.chdir(tmp_path)
    (tmp_path / "here").write_text("<p>x")
    with pytest.raises(SystemExit) as ended:
        command_line.main([name])
    assert not ended.value.code and opened == [Path(name)]


def test_a_page_too_many_is_said(capsys: pytest.CaptureFixture[str]) -> None:
    """The window opens one page; help is no page."""
    for words, status, says in (
        (["a.html", "b.html"], 2, "unexpected extra argument"),
        (["window", "--help"], 0, "Open the window"),
    ):
        with pytest.raises(SystemExit) as ended:
            command_line.main(words)
        told = capsys.readouterr()
        assert ended.value.code == status and says in told.err + told.out


def test_without_a_display_there_is_a_sentence(monkeypatch: pytest.MonkeyPatch) -> None:
    """The toolkit, which would abort, is not loaded; what would do is named."""
    for name in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY"):
        monkeypatch.delenv(name, raising=False)
    result = CliRunner().invoke(commands, ["window"])
    assert result.exit_code == 1 and "needs a display, and none is set" in result.output
    assert all(f"`redcrate {name}`" in result.output for name in ("report", "check", "draw"))


def test_a_display_is_asked_whether_it_is_there(tmp_path: Path) -> None:
    """A socket that answers is one; a name that none has, another kind of name, and one that is gone are not."""
    place = {"XDG_RUNTIME_DIR": str(tmp_path), "WAYLAND_DISPLAY": "wayland-7"}
    assert "“wayland-7” does not answer" in display_fault(place)
    with socket.socket(socket.AF_UNIX) as line:
        line.bind(str(tmp_path / "wayland-7"))
        line.listen()
        assert display_fault(place) == ""
    with socket.socket() as line:
        line.bind(("127.0.0.1", 0))
        line.listen()
        number = line.getsockname()[1] - 6000
        assert display_fault({"DISPLAY": f"127.0.0.1:{number}.0"}) == ""
    assert "does not answer" in display_fault({"DISPLAY": f"127.0.0.1:{number}"})
    assert "does not answer" in display_fault({"DISPLAY": "somewhere"})
    assert "does not answer" in display_fault({"DISPLAY": ":4711"})
    assert display_fault({"QT_QPA_PLATFORM": "offscreen"}) == ""
