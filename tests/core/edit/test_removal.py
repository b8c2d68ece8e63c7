"""Taking one declaration out, with what belongs to it and nothing else."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import Patch, apply_patch
from redcrate.core.edit.removal import removed_declaration
from redcrate.core.session import Session

# The page, what the declaration begins with, and the page without it.
CASES = {
    "one of two": ("<p style='width: 1px; height: 2px'>x</p>", "width", "<p style='height: 2px'>x</p>"),
    "the last of two": ("<p style='width: 1px; height: 2px'>x</p>", "height", "<p style='width: 1px; '>x</p>"),
    "the only one": ("<p style='width: 1px'>x</p>", "width", "<p>x</p>"),
    "the only one, with a semicolon": ("<p id=a style='width: 1px; '>x</p>", "width", "<p id=a>x</p>"),
    "of the right element": (
        "<p style='width: 1px'>x</p><p style='height: 2px'>y</p>", "height", "<p style='width: 1px'>x</p><p>y</p>",
    ),
    "in a rule": (
        "<style>p { width: 1px; height: 2px }</style><p>x</p>", "width", "<style>p { height: 2px }</style><p>x</p>",
    ),
    "a rule's only one": ("<style>p { width: 1px }</style><p>x</p>", "width", "<style>p { }</style><p>x</p>"),
}  # fmt: skip


@pytest.mark.parametrize(("text", "begins", "left"), CASES.values(), ids=CASES)
def test_removed(tmp_path: Path, text: str, begins: str, left: str) -> None:
    """An empty style attribute goes as a whole, an empty rule stays."""
    path = tmp_path / "p.html"
    path.write_text(f"<!doctype html>{text}", encoding="utf-8")
    session = Session(path)
    texts = session.document.texts()
    offset = texts["p.html"].index(begins)
    edit = removed_declaration(session.views.page, texts, "p.html", offset)
    changed, _ = apply_patch(Patch((edit,), "out"), texts)
    assert changed["p.html"] == f"<!doctype html>{left}"
