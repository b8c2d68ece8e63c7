#!/usr/bin/env python3
"""Break the code in many small places and see which breaks no test notices.

`.venv/bin/python tools/mutants.py` tries a fixed random sample of 200 of all the mutants of core/layout, core/style and
core/edit; with `--newer` one of 150 of the conditions and choices (no defaults, no rounding) in the rooms that came later.
A sample is drawn by what is written, not by where it stands: a changed line
leaves the others in it. It takes hours and is no part of ./test: the results are written to a file as they
come, and another run goes on from there. With `--reached FILE`, the tests that reach a mutant's line are tried
first; the file is what `COVERAGE_FILE=FILE pytest tests/core --cov=redcrate.core --cov-context=test` writes (by
the package pytest-cov). `--floor` only compares the kept results (tools/mutants.json: sample,
killed, and the survivors with a reason each, for either sample) with the floor.
"""

import argparse
import ast
import hashlib
import json
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

ROOT = Path(__file__).parent.parent
KEPT = Path(__file__).with_name("mutants.json")
TRIED = Path(__file__).with_name("mutants_tried.json")  # as far as the sample was run through
ROOMS = ("layout", "style", "edit")
FLOOR = 0.85
SECONDS = 400  # a mutant that makes the tests take longer hangs

# The tests that are about a room, the quickest and sharpest first. A mutant that outlives these may still die of others.
TESTS = {
    "layout": (
        "core/layout/test_*_boxes.py core/layout/test_lines_tried_again.py core/layout/test_sizes_*.py",
        "core/test_reference.py core/layout/test_float_laws.py core/rows core/diagram core/boxes",
        "core/test_conformance.py",
        "core/layout core/explain",
    ),
    "style": (
        "core/style",
        "core/test_conformance.py",
        "core/test_reference.py core/edit/test_targets.py core/test_incremental.py core/test_bad_input.py",
        "core/findings core/test_text_and_files.py core/edit/test_edits.py core/explain",
        "core/layout",
    ),
    "edit": (
        "core/edit/test_edits.py core/edit/test_targets.py core/edit/test_css_text.py core/session",
        "core/rows core/edit core/diagram",
        "core/findings core/files core/test_text_and_files.py",
        "app",
    ),
}

# The same for the second sample: files or folders, and the tests that are about them.
NEWER = {
    "layout/flex": (
        "core/layout/test_items_and_cells.py",
        "core/test_reference.py",
        "core/layout core/rows core/explain",
    ),
    "layout/grid": (
        "core/layout/test_items_and_cells.py",
        "core/test_reference.py",
        "core/layout core/rows core/explain",
    ),
    "layout/table": (
        "core/layout/test_items_and_cells.py",
        "core/test_reference.py",
        "core/layout core/rows core/explain",
    ),
    "edit/range_": ("core/edit/test_ranges.py", "core/edit core/widths", "app/test_widths_editing.py"),
    "widths": ("core/widths", "core/findings/test_breaks.py core/findings/test_truth.py"),
    "findings/verifying.py": ("core/findings/test_findings.py", "core/findings"),
    "findings/fold": ("core/findings/test_findings.py", "core/findings"),
    "findings/at_widths.py": ("core/findings/test_findings.py", "core/findings"),
    "findings/effects.py": (
        "core/findings/test_effects.py core/findings/test_findings.py",
        "core/findings",
    ),
    "overflow": ("core/overflow", "core/findings core/widths"),
    "proof/following.py": ("core/proof/test_following.py", "core/proof/test_comparing.py"),
    "exercises": ("core/exercises", "app/test_exercises.py app/test_making_exercises.py"),
    "predictions": ("core/predictions", "app/test_predict_first.py"),
}

_COMPARE = {
    ast.Lt: "<=", ast.LtE: "<", ast.Gt: ">=", ast.GtE: ">", ast.Eq: "!=", ast.NotEq: "==",
    ast.Is: "is not", ast.IsNot: "is", ast.In: "not in", ast.NotIn: "in",
}  # fmt: skip
_ARITHMETIC = {
    ast.Add: ("+", "-"),
    ast.Sub: ("-", "+"),
    ast.Mult: ("*", "//"),
    ast.FloorDiv: ("//", "*"),
}
_CALLS = {"min": "max", "max": "min", "any": "all", "all": "any"}
_WORDS = {"left": "right", "right": "left", "top": "bottom", "bottom": "top", "ltr": "rtl", "rtl": "ltr"}


@dataclass(frozen=True, slots=True)
class Mutant:
    """One change: in a file under src/redcrate/core, the text from `start` to `end` becomes `new`."""

    file: str
    line: int
    start: int
    end: int
    old: str
    new: str
    where: str
    is_choice: bool  # it turns a condition or a choice round

    @property
    def name(self) -> str:
        """How it is listed: by the function it stands in and its line's words, which outlive lines moved."""
        return f"{self.file}, {self.where}: {self.old} → {self.new}"


class _Finder(ast.NodeVisitor):
    """Collects the mutants of one file; offsets count bytes."""

    def __init__(self, file: str, text: bytes) -> None:
        self.file = file
        self.text = text
        self.lines = [0]
        for line in text.splitlines(keepends=True):
            self.lines.append(self.lines[-1] + len(line))
        self.found: list[Mutant] = []
        self.within: list[str] = []

    def at(self, line: int, column: int) -> int:
        return self.lines[line - 1] + column

    def span(self, node: ast.expr | ast.stmt) -> tuple[int, int]:
        return (
            self.at(node.lineno, node.col_offset),
            self.at(node.end_lineno or 0, node.end_col_offset or 0),
        )

    def add(self, start: int, end: int, new: str, *, is_choice: bool = False) -> None:
        old = self.text[start:end].decode()
        if len(old) < 60 and "\n" not in old:
            line = self.text.count(b"\n", 0, start) + 1
            written = self.text[self.lines[line - 1] : self.lines[line]].decode().strip()
            column = len(self.text[self.lines[line - 1] : start].decode().lstrip())
            where = f"{'.'.join(self.within)}, character {column} of «{written}»"
            self.found.append(Mutant(self.file, line, start, end, old, new, where, is_choice))

    def between(
        self, left: ast.expr, right: ast.expr, old: str, new: str, *, is_choice: bool = True
    ) -> None:
        """An operator somewhere between two operands."""
        start, end = self.span(left)[1], self.span(right)[0]
        at = self.text.find(old.encode(), start, end)
        if at >= 0:
            self.add(at, at + len(old.encode()), new, is_choice=is_choice)

    def visit_Compare(self, node: ast.Compare) -> None:
        operands = [node.left, *node.comparators]
        for left, right, operator in zip(operands, operands[1:], node.ops, strict=False):
            written = {ast.Lt: "<", ast.LtE: "<=", ast.Gt: ">", ast.GtE: ">=", ast.Eq: "==", ast.NotEq: "!=",
                       ast.Is: "is", ast.IsNot: "is not", ast.In: "in", ast.NotIn: "not in"}  # fmt: skip
            self.between(left, right, written[type(operator)], _COMPARE[type(operator)])
        self.generic_visit(node)

    def visit_BinOp(self, node: ast.BinOp) -> None:
        pair = _ARITHMETIC.get(type(node.op))
        if pair is not None:
            self.between(node.left, node.right, *pair, is_choice=False)
        self.generic_visit(node)

    def visit_BoolOp(self, node: ast.BoolOp) -> None:
        old, new = ("and", "or") if isinstance(node.op, ast.And) else ("or", "and")
        for left, right in zip(node.values, node.values[1:], strict=False):
            self.between(left, right, old, new)
        self.generic_visit(node)

    def visit_UnaryOp(self, node: ast.UnaryOp) -> None:
        if isinstance(node.op, ast.Not):
            start = self.span(node)[0]
            self.add(start, start + 4, "", is_choice=True)
        self.generic_visit(node)

    def visit_ClassDef(self, node: ast.ClassDef) -> None:
        self.within.append(node.name)
        for part in node.body:  # the flags of a dataclass decorator are no behaviour
            self.visit(part)
        self.within.pop()

    def visit_FunctionDef(self, node: ast.FunctionDef) -> None:
        self.within.append(node.name)
        self.generic_visit(node)
        self.within.pop()

    def visit_Call(self, node: ast.Call) -> None:
        if isinstance(node.func, ast.Name) and node.func.id in _CALLS:
            self.add(*self.span(node.func), _CALLS[node.func.id], is_choice=True)
        self.generic_visit(node)

    def visit_Constant(self, node: ast.Constant) -> None:
        value = node.value
        if isinstance(value, bool):
            self.add(*self.span(node), str(not value))
        elif isinstance(value, int):
            self.add(*self.span(node), str(value + 1))
        elif isinstance(value, str) and value in _WORDS:
            self.add(*self.span(node), f'"{_WORDS[value]}"')

    def visit_If(self, node: ast.If) -> None:
        start, end = self.span(node.test)
        self.add(start, end, f"not ({self.text[start:end].decode()})", is_choice=True)
        self.generic_visit(node)

    def visit_AugAssign(self, node: ast.AugAssign) -> None:
        self.add(*self.span(node), "pass")
        self.generic_visit(node)


def all_mutants(*, newer: bool) -> list[Mutant]:
    """Every mutant of the rooms, in the order of files and places."""
    found: list[Mutant] = []
    for room in NEWER if newer else ROOMS:
        core = ROOT / "src/redcrate/core"
        for path in sorted(core.rglob("*.py")):
            if not str(path.relative_to(core)).startswith(room):
                continue
            text = path.read_bytes()
            finder = _Finder(str(path.relative_to(ROOT / "src/redcrate/core")), text)
            finder.visit(ast.parse(text))
            found += finder.found
    found = [m for m in found if m.is_choice or not newer]
    return list({m.name: m for m in reversed(found)}.values())  # one of those that are written alike


def drawn(everything: list[Mutant], count: int, seed: int) -> list[Mutant]:
    """As many of them as are asked for, at random: those whose names have the lowest digests."""
    return sorted(everything, key=lambda m: hashlib.sha256(f"{seed} {m.name}".encode()).digest())[:count]


class Reached:
    """Which tests ran through which lines, as a run with coverage has noted it."""

    def __init__(self, file: Path | None) -> None:
        self.data = None
        if file is not None:
            from coverage import CoverageData  # of the extra [mutants], which ./test does without

            self.data = CoverageData(basename=str(file))
            self.data.read()

    def by(self, mutant: Mutant) -> list[str]:
        """The tests that ran through the mutant's line, those of its room first; none if that is not known."""
        if self.data is None:
            return []
        name = f"redcrate/core/{mutant.file}"
        file = next((f for f in self.data.measured_files() if f.endswith(name)), "")
        tests = self.data.contexts_by_lineno(file).get(mutant.line, []) if file else []
        found = {t.split("|")[0] for t in tests if t}
        near = f"tests/core/{mutant.file.split('/')[0]}"
        return sorted(found, key=lambda t: (not t.startswith(near), "conformance" in t, t))


def groups_for(file: str, *, newer: bool) -> tuple[str, ...]:
    """The tests that are about a file."""
    if newer:
        return next(tests for room, tests in NEWER.items() if file.startswith(room))
    return TESTS[file.split("/")[0]]


def killed_by(mutant: Mutant, copy: Path, reached: Reached, *, newer: bool) -> str:
    """The tests that fail on the mutant, as a group; "" if it lives. copy: of src, for this mutant alone."""
    path = copy / "redcrate/core" / mutant.file
    before = path.read_bytes()
    path.write_bytes(before[: mutant.start] + mutant.new.encode() + before[mutant.end :])
    try:
        near = reached.by(mutant)
        if near and not _pass(near[:_MOST], copy):
            return "reached"
        for group in groups_for(mutant.file, newer=newer):
            tests = [str(p) for t in group.split() for p in sorted((ROOT / "tests").glob(t))]
            if not _pass(tests, copy):
                return group
        return ""
    finally:
        path.write_bytes(before)


_MOST = 400  # tests of one line; through some lines all of them run


def _pass(tests: list[str], copy: Path) -> bool:
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", "--tb=no", *tests]
    environment = {**os.environ, "PYTHONPATH": str(copy), "PYTHONDONTWRITEBYTECODE": "1"}
    try:
        done = subprocess.run(
            command, cwd=ROOT, env=environment, capture_output=True, timeout=SECONDS, check=False
        )
    except subprocess.TimeoutExpired:
        return False
    return done.returncode == 0


def tried(
    sample: list[Mutant], jobs: int, known: dict[str, str], reached: Reached, *, newer: bool
) -> Iterator[tuple[Mutant, str]]:
    """Each mutant of the sample with the tests that killed it, as they end."""
    with tempfile.TemporaryDirectory() as folder:
        free: Queue[Path] = Queue()
        for job in range(jobs):
            copy = Path(folder) / str(job)
            shutil.copytree(
                ROOT / "src", copy, ignore=shutil.ignore_patterns("__pycache__", "*.egg-info")
            )
            free.put(copy)

        def one(mutant: Mutant) -> tuple[Mutant, str]:
            copy = free.get()
            try:
                return mutant, killed_by(mutant, copy, reached, newer=newer)
            finally:
                free.put(copy)

        with ThreadPoolExecutor(jobs) as pool:
            yield from pool.map(one, [m for m in sample if m.name not in known])


def compare_with_floor() -> int:
    """0 if the kept results reach the floor and every survivor has its reason."""
    if not KEPT.exists():
        print(f"no results are kept in {KEPT.name}: the sample was not run through yet.")
        return 1
    kept, fails = json.loads(KEPT.read_text(encoding="utf-8")), False
    for name, sample in kept.items():
        share = sample["killed"] / sample["sample"]
        without = [s["mutant"] for s in sample["survivors"] if not s["reason"]]
        print(
            f"{name}: {sample['killed']} of {sample['sample']} killed ({share:.1%}); the floor is {FLOOR:.0%}."
        )
        for one in without:
            print(f"no reason is given for {one}")
        fails = fails or share < FLOOR or bool(without)
    return int(fails)


def main() -> int:
    """Run as the module's docstring says."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--newer", action="store_true")
    parser.add_argument("--sample", type=int)
    parser.add_argument("--seed", type=int, default=2026)
    parser.add_argument("--jobs", type=int, default=2)
    parser.add_argument("--results", type=Path, default=TRIED)
    parser.add_argument("--reached", type=Path)
    parser.add_argument("--floor", action="store_true")
    given = parser.parse_args()
    if given.floor:
        return compare_with_floor()
    everything = all_mutants(newer=given.newer)
    sample = drawn(everything, given.sample or (150 if given.newer else 200), given.seed)
    known: dict[str, str] = json.loads(given.results.read_text()) if given.results.exists() else {}
    for mutant, group in tried(sample, given.jobs, known, Reached(given.reached), newer=given.newer):
        known[mutant.name] = group
        given.results.write_text(json.dumps(known, indent=1, ensure_ascii=False))
        print(f"{'killed' if group else 'LIVES '} {mutant.name}", flush=True)
    killed = sum(bool(known[m.name]) for m in sample)
    print(f"{killed} of {len(sample)} killed, of {len(everything)} mutants in all")
    return 0


if __name__ == "__main__":
    sys.exit(main())
