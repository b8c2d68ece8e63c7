"""throw-away-colour: a loud colour, border or outline that was written to see a block."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.removal import removed_declaration
from redcrate.core.edit.rule_places import author_rules
from redcrate.core.edit.targets import matched
from redcrate.core.explain.terms import Source
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.geometry import SIDES
from redcrate.core.markup.elements import Element
from redcrate.core.style.sheets import Declaration, Origin, StyleRule
from redcrate.core.units import counted

_LOUD = frozenset(
    "red lime blue yellow cyan aqua magenta fuchsia hotpink deeppink orange pink"
    " #f00 #0f0 #00f #ff0 #0ff #f0f #ff0000 #00ff00 #0000ff #ffff00 #00ffff #ff00ff".split()
)
_NAMES = (
    "background",
    "background-color",
    "border",
    "outline",
    *(f"border-{s}" for s in SIDES),
)
_THIN = ("1px", "2px", "thin")


def find(look: Look) -> Iterator[Finding]:
    """Declarations of nothing but a pure colour, and thin lines in one; all of them can go in one step."""
    found = list(_loud(look))
    every = look.fix("Remove all test colours", partial(_removed, [d for _, d in found], look))
    for rule, declaration in found:
        elements = _elements(look, rule)
        if not elements:
            continue  # colours of what is not here, such as a warning
        one = look.fix(
            f"Remove {declaration.name}: {declaration.text}", partial(_removed, [declaration], look)
        )
        yield Finding(
            "throw-away-colour",
            Severity.ADVICE,
            f"{declaration.name}: {declaration.text} in {rule.label} looks like a test colour.",
            tuple(e for e in elements if e.index >= 0),
            {"elements": float(len(elements))},
            Source(
                rule.label,
                declaration.file,
                declaration.line,
                f"{declaration.name}: {declaration.text}",
                True,
            ),
            (one, every) if len(found) > 1 else (one,),
        )


def _loud(look: Look) -> Iterator[tuple[StyleRule, Declaration]]:
    names = look.page.source.markup.names
    written = (r for r in author_rules(look.page) if r.may_match(names))
    for rule in (*written, *look.page.source.inline_rules.values()):
        for declaration in rule.declarations:
            words = declaration.text.lower().split()
            if declaration.name not in _NAMES or not any(w in _LOUD for w in words):
                continue
            if declaration.name.startswith("background"):
                if len(words) == 1:
                    yield rule, declaration
            elif len(words) == 3 and any(w in _THIN for w in words):
                yield rule, declaration


def _elements(look: Look, rule: StyleRule) -> tuple[Element, ...]:
    if rule.origin is Origin.INLINE:
        return tuple(e for e, r in look.page.source.inline_rules.items() if r is rule)
    return matched(look.page, rule.selectors)


def _removed(declarations: list[Declaration], look: Look) -> Patch:
    edits = []
    for declaration in declarations:
        edits.append(removed_declaration(look.page, look.texts, declaration.file, declaration.offset))
    return Patch(
        tuple(edits), counted(len(edits), "1 test colour removed", "{count} test colours removed")
    )


FAMILY = Family(
    "throw-away-colour",
    "Test colours",
    "A red border shows where a block is and makes it 2 px larger. Use a tint instead: it colours "
    "the sheet and does not change the files.",
    "<p style='border:1px solid red;margin:0'>just to see it</p>",
    find,
    about=About.WRITING,
)
