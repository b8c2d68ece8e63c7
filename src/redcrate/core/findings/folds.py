"""What many findings of one kind become, told in one line: a way for each kind of thing that there is much of."""

from dataclasses import replace
from functools import partial

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.findings.finding import Finding, Fix
from redcrate.core.units import first_of


def rules(many: list[Finding]) -> Finding:
    """Unused rules of a sheet: so many of all that it has."""
    cause = many[0].cause
    file = cause.short_file if cause is not None else "the stylesheets"
    of = int(many[0].numbers.get("of", len(many)))
    return replace(
        many[0],
        sentence=f"{len(many)} of {of} rules of {file} match nothing here.",
        numbers={"rules": float(len(many)), "of": float(of)},
        ways=(partial(_all_out, many),),
        parts=tuple(many),
    )


def _all_out(many: list[Finding]) -> Fix | None:
    """All the rules taken out in one step; one inside another goes with it."""
    fixes = [fix for finding in many for way in finding.ways if (fix := way()) is not None]
    edits = sorted((e for f in fixes for e in f.patch.edits), key=lambda e: (e.file, e.start, -e.end))
    kept: list[TextEdit] = []
    for edit in edits:
        if not kept or kept[-1].file != edit.file or edit.start >= kept[-1].end:
            kept.append(edit)
    sentence = f"Remove all {len(many)} rules"
    return Fix(sentence, Patch(tuple(kept), sentence)) if kept else None


def classes(many: list[Finding]) -> Finding:
    """Classes without a rule, by their names."""
    elements = tuple(dict.fromkeys(e for f in many for e in f.elements))
    names = first_of([f.fold_name for f in many])
    return replace(
        many[0],
        sentence=f"{len(many)} classes have no rule in the page's stylesheets: {names}.",
        elements=elements,
        numbers={"classes": float(len(many)), "elements": float(len(elements))},
        ways=(),
        parts=tuple(many),
    )


def ids(many: list[Finding]) -> Finding:
    """Ids that stand more than once."""
    names = ", ".join(f.fold_name for f in many[:4])
    return replace(
        many[0],
        sentence=f"{len(many)} ids are on more than one element each: {names} and so on.",
        numbers={"ids": float(len(many)), "elements": sum(f.numbers["elements"] for f in many)},
        elements=tuple(dict.fromkeys(e for f in many for e in f.elements)),
        ways=(),
        parts=tuple(many),
    )


def declarations(many: list[Finding]) -> Finding:
    """One slip that is written often: the first, and how many more."""
    elements = tuple(dict.fromkeys(e for f in many for e in f.elements))
    head = many[0].sentence.rstrip(".")
    return replace(
        many[0],
        sentence=f"{head}; {len(many) - 1} more of this kind.",
        elements=elements,
        numbers={"declarations": float(len(many)), "elements": float(len(elements))},
        ways=many[0].ways,
        parts=tuple(many),
    )


def blocks_too_wide(many: list[Finding]) -> Finding:
    """Blocks of one kind, such as the slides of a talk, whose widths are written one by one."""
    worst = sorted(many, key=lambda f: -f.numbers["over"])
    return replace(
        worst[0],
        sentence=f"{len(many)} blocks of one kind overflow the viewport: {first_of([f.fold_name for f in worst])}.",
        elements=tuple(dict.fromkeys(e for f in worst for e in f.elements)),
        ways=worst[0].ways,
        parts=tuple(many),
    )
