"""What is kept between runs is what was worked out, or nothing: never what is damaged, or what others could have written."""

import os
from collections.abc import Iterator
from pathlib import Path

import pytest

from redcrate.core.files import kept_fonts, kept_notices, kept_work
from redcrate.core.files.kept_work import KeptWork
from redcrate.core.files.sheets_read import SHEETS_READ
from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.style.media import Viewport
from redcrate.core.text.web_fonts import unpacked
from tests.core.test_fonts_of_the_page import packed as packed_as

RULES = "".join(f".c{n} {{ widht: {n}px }} .d{n} {{ top: 1 }}\n" for n in range(600))


@pytest.fixture
def folder(tmp_path: Path) -> Iterator[Path]:
    """The cache folder of this test."""
    found = tmp_path / "cache"
    with pytest.MonkeyPatch.context() as patched:
        patched.setenv("REDCRATE_CACHE", str(found))
        forget()
        yield found
    forget()


def forget() -> None:
    """As in another run."""
    kept_work.kept_work.cache_clear()
    kept_fonts.font_data.cache_clear()
    SHEETS_READ._sheets.clear()


def test_it_comes_back_as_it_was(tmp_path: Path) -> None:
    """By kind and source; nothing of what was not kept."""
    kept = KeptWork(tmp_path / "a" / "b")
    kept.keep("font", b"packed", b"plain")
    assert KeptWork(tmp_path / "a" / "b").of("font", b"packed") == b"plain"
    assert kept.of("notices", b"packed") is None is kept.of("font", b"other")
    assert (tmp_path / "a" / "b").stat().st_mode & 0o777 == 0o700


@pytest.mark.parametrize("harm", ["cut", "flipped", "link", "folder", "open to all"])
def test_what_is_damaged_or_not_ours_is_not_used(tmp_path: Path, harm: str) -> None:
    """It is worked out and kept again, where that can be."""
    place = tmp_path / "kept"
    kept = KeptWork(place)
    kept.keep("font", b"packed", b"plain")
    (path,) = place.iterdir()
    whole = path.read_bytes()
    if harm == "cut":
        path.write_bytes(whole[:-1])
    elif harm == "flipped":
        path.write_bytes(whole[:-1] + b"?")
    elif harm == "link":
        (tmp_path / "elsewhere").write_bytes(whole)
        path.unlink()
        path.symlink_to(tmp_path / "elsewhere")
    elif harm == "folder":
        path.unlink()
        path.mkdir()
    else:
        place.chmod(0o777)
    assert kept.of("font", b"packed") is None
    kept.keep("font", b"packed", b"plain")  # makes no noise
    assert (kept.of("font", b"packed") is not None) == (harm in ("cut", "flipped", "link"))


def test_there_is_an_end_to_it(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """What was used longest ago goes; what is too large is never kept; off is off."""
    monkeypatch.setattr(kept_work, "_MOST", 390)
    monkeypatch.setattr(kept_work, "_LARGEST", 300)
    kept = KeptWork(tmp_path / "kept")
    for number, source in enumerate((b"a", b"b")):
        kept.keep("font", source, bytes(100))
        (path,) = [p for p in (tmp_path / "kept").iterdir() if p.stat().st_mtime > 10]
        os.utime(path, (number, number))
    assert kept.of("font", b"a") is not None  # used now
    kept.keep("font", b"c", bytes(100))
    assert [kept.of("font", s) is not None for s in (b"a", b"b", b"c")] == [True, False, True]
    kept.keep("font", b"d", bytes(301))
    assert kept.of("font", b"d") is None
    off = KeptWork(kept_work._folder_of({"REDCRATE_CACHE": "off"}))
    off.keep("font", b"a", b"plain")
    assert off.of("font", b"a") is None
    assert str(kept_work._folder_of({"HOME": str(tmp_path)})).endswith("redcrate/read")


def page(folder: Path, css: str) -> Page:
    """A page with a large sheet in a folder of its own."""
    (folder / "a.css").write_text(css, encoding="utf-8")
    (folder / "page.html").write_text(
        "<!doctype html><link rel=stylesheet href=a.css><p class=c7>x", encoding="utf-8"
    )
    return Trial.of_file(folder / "page.html").page(Viewport(800, 600))


def test_notices_are_known_without_reading(
    tmp_path: Path, folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """In another run, as long as the text and the program are the same."""
    first = page(tmp_path, RULES)
    assert not first.source.tells_at_once
    told = first.notices
    assert sum("widht" in n.sentence for n in told) == 600 and first.source.tells_at_once
    forget()
    again = page(tmp_path, RULES)
    (sheet,) = again.source.sheets
    assert again.source.tells_at_once and again.notices == told and not sheet.is_read
    assert not page(tmp_path, RULES + "e { top: 1 }").source.tells_at_once
    forget()
    monkeypatch.setattr(kept_notices, "_program", lambda: "another one")
    assert not page(tmp_path, RULES).source.tells_at_once
    for path in folder.iterdir():
        data = b'[["no-such-kind","x",1,2]]'
        path.write_bytes(kept_work._digest(data) + data)
    monkeypatch.undo()
    forget()
    assert page(tmp_path, RULES).notices == told


def test_a_font_is_unpacked_once(tmp_path: Path, folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """And is the same from then on."""
    packed = packed_as("woff2")
    asked: list[bytes] = []
    monkeypatch.setattr(kept_fonts, "unpacked", lambda data: asked.append(data) or unpacked(data))
    plain = kept_fonts.font_data(packed)
    forget()
    assert plain is not None and kept_fonts.font_data(packed) == plain and asked == [packed]


def test_what_a_sheet_imports_is_read_again(tmp_path: Path) -> None:
    """A large sheet is the same for the next page; one that imports others is not, since those may have changed."""
    forget()
    (tmp_path / "b.css").write_text("p { top: 1px }", encoding="utf-8")
    one = page(tmp_path, RULES)
    assert one.source.sheets[0] is page(tmp_path, RULES).source.sheets[0]
    page(tmp_path, f"@import 'b.css'; {RULES}")
    (tmp_path / "b.css").write_text("p { top: 2px }", encoding="utf-8")
    again = page(tmp_path, f"@import 'b.css'; {RULES}")
    assert again.style_of(again.elements[-1]).top.resolve_px(0.0) == 2.0
