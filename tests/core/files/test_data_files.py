"""Our own data files as accidents leave them: what is well in them counts, and nothing of them is lost."""

import json
from pathlib import Path
from typing import Any

import pytest

from redcrate.core.files.settings import PageSettings, read_settings, settings_path, write_settings
from redcrate.core.session import Session
from tests.conftest import ROOT
from tests.faults.damages import SETTINGS

SOUND = ((1100.0, 390.0), {390.0: "telephone"}, frozenset({("unit-missing", "*")}))


def told(settings: PageSettings) -> tuple[object, ...]:
    """What is well in settings."""
    return settings.widths, settings.names, settings.silenced


BROKEN: dict[str, tuple[str, Any]] = {
    "a width that is none": ("widths", [1100, "wide", 390]),
    "an infinite width": ("widths", [1100, float("inf"), 390, float("nan")]),
    "a width that is too large": ("widths", [1100, 390, 1e99]),
    "a name that is none": ("names", {"390": "telephone", "x": "y", "1100": 5}),
    "a silenced one that is none": ("silenced", [{"family": "unit-missing", "place": "*"}, None, {"family": 3}]),
    "comps that are none": ("comps", {"1100": {"file": "a.png", "scale": 2}, "390": {"x": 1}, "820": None}),
    "another version": ("version", None),
}  # fmt: skip


@pytest.mark.parametrize("case", BROKEN)
def test_a_malformed_part_is_passed_over_told_and_kept(tmp_path: Path, case: str) -> None:
    """The rest counts; after a change it is still in the file."""
    name, value = BROKEN[case]
    page = tmp_path / "index.html"
    settings_path(page).write_text(json.dumps({**SETTINGS, name: value}))
    settings = read_settings(page)
    assert told(settings) == SOUND and len(settings.comps) == 1
    assert settings.faults and all("stays in the file" in fault for fault in settings.faults)
    write_settings(page, settings.with_silenced("duplicate-id", "*"))
    written = settings_path(page).read_text()
    again = json.loads(written)
    assert again["of a newer version"] == {"kept": [1, None]}
    for part in value if isinstance(value, list | dict) else ():
        kept = again[name]
        assert part in kept or json.dumps(part) in written
    assert told(read_settings(page)) == (*SOUND[:2], SOUND[2] | {("duplicate-id", "*")})


@pytest.mark.parametrize(
    "text",
    [
        b"",
        b"{",
        b"[1]",
        b"null",
        b"[" * 100_000,
        b'{"a":' * 50_000,
        b"\xff\xfe\x00",
        b"1" * 5000,
        b'"x"',
    ],
)
def test_a_file_that_is_no_json_is_set_aside(tmp_path: Path, text: bytes) -> None:
    """The page opens with the usual settings; the first change does not overwrite what somebody may miss."""
    page = tmp_path / "index.html"
    page.write_text("<!doctype html><p>x")
    settings_path(page).write_bytes(text)
    session = Session(page)
    assert session.widths == (1100, 820, 390) and "damaged" in session.document.settings.faults[0]
    session.name_width(390, "telephone")
    assert read_settings(page).names == {390.0: "telephone"}
    assert settings_path(page).with_name("index.html.redcrate.json.damaged").read_bytes() == text


def test_what_is_no_file_is_not_waited_for(tmp_path: Path) -> None:
    """A pipe or a folder in the place of the settings."""
    page = tmp_path / "index.html"
    settings_path(page).mkdir()
    assert "it is a folder" in read_settings(page).faults[0]


def test_the_settings_of_the_demo_are_well() -> None:
    """Whatever stands beside our own pages."""
    for page in (ROOT / "demo").rglob("*.html"):
        assert read_settings(page).faults == ()
