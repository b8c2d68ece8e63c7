"""The code itself: ceilings of length, docstrings, names, no Qt in the core, sections that exist."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

from tests.conftest import ROOT

FILES = sorted((ROOT / "src" / "redcrate").rglob("*.py"))
TREES = {path: ast.parse(path.read_text(encoding="utf-8")) for path in FILES}
NO_DRAWERS = {"utils", "misc", "helpers", "common", "functions", "manager"}


def functions() -> Iterator[tuple[Path, ast.FunctionDef]]:
    """All functions and methods of the source."""
    for path, tree in TREES.items():
        for node in ast.walk(tree):
            if isinstance(node, ast.FunctionDef):
                yield path, node


def test_files_and_functions_stay_short() -> None:
    """No file over 600 lines, no function over 60."""
    long_files = [p.name for p in FILES if len(p.read_text(encoding="utf-8").splitlines()) > 600]
    long_functions = [
        f"{p.name}:{f.name}" for p, f in functions() if (f.end_lineno or 0) - f.lineno + 1 > 60
    ]
    assert (long_files, long_functions) == ([], [])


def test_modules_and_public_functions_say_what_they_do() -> None:
    """A docstring for each module, public class and public function."""
    public = {
        id(member)
        for tree in TREES.values()
        for node in tree.body
        if not getattr(node, "name", "_").startswith("_")
        for member in (node, *(node.body if isinstance(node, ast.ClassDef) else ()))
    }
    bare = [p.name for p, tree in TREES.items() if not ast.get_docstring(tree)]
    bare += [
        f"{p.name}:{f.name}"
        for p, f in functions()
        if not f.name.startswith("_") and not ast.get_docstring(f) and id(f) in public
    ]
    assert bare == []


def test_no_drawers() -> None:
    """One idea a module, named for it."""
    assert [p.name for p in FILES if p.stem in NO_DRAWERS] == []


def test_the_core_imports_no_qt_even_inside_functions() -> None:
    """Import statements anywhere in the core."""
    core = [(p, t) for p, t in TREES.items() if "core" in p.parts]
    found = [
        p.name
        for p, tree in core
        for node in ast.walk(tree)
        if isinstance(node, (ast.Import, ast.ImportFrom)) and "PyQt" in ast.unparse(node)
    ]
    assert found == []


@pytest.mark.parametrize("word", ["TODO", "FIXME", "XXX", "raise NotImplementedError"])
def test_nothing_is_left_open(word: str) -> None:
    """No stubs."""
    assert [p.name for p in FILES if word in p.read_text(encoding="utf-8")] == []


def test_sections_named_exist() -> None:
    """CSS 2.2 has chapters 1 to 18; a section in a docstring must lie in one of those we carry out."""
    chapters = {"4", "8", "9", "10", "11", "12", "16", "17"}
    for path, tree in TREES.items():
        text = ast.unparse(tree)
        for match in re.finditer(r"CSS 2\.2 §(\d+)", text):
            assert match[1] in chapters, (path.name, match[0])


def _is_fixed(node: ast.expr) -> bool:
    """Whether a text is one of ours, without anything of a page in it, or is made plain."""
    if isinstance(node, ast.IfExp):
        return _is_fixed(node.body) and _is_fixed(node.orelse)
    if isinstance(node, ast.Call):
        return isinstance(node.func, ast.Name) and node.func.id == "plain_tip"
    return isinstance(node, ast.Constant)


def test_labels_and_tips_of_the_window_are_plain_text() -> None:
    """Qt takes a text with tags in it for rich text, which loads files: labels are ours, tips go through `plain_tip`."""
    found = []
    for path, tree in TREES.items():
        for node in ast.walk(tree) if "app" in path.parts and path.stem != "plain" else ():
            if not isinstance(node, ast.Call):
                continue
            name = getattr(node.func, "id", getattr(node.func, "attr", ""))
            texts = {"setToolTip": node.args[:1], "showText": node.args[1:2]}.get(name, [])
            if name == "QLabel" or not all(_is_fixed(text) for text in texts):
                found.append(f"{path.name}:{node.lineno}")
    assert found == []
