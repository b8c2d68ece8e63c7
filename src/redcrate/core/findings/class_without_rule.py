"""class-without-rule: a class that no rule names."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.classes import without_class
from redcrate.core.findings import folds
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.near_miss_name import near_misses
from redcrate.core.units import counted


def find(look: Look) -> Iterator[Finding]:
    """Classes in the page without a rule in any sheet, near misses apart."""
    if not look.page.source.sheets:
        return
    near = {miss.name for miss in near_misses(look) if miss.attribute == "class"}
    for use in look.classes:
        users = tuple(u for u in use.users if u.index >= 0)
        if use.rules or not users or use.name in near:
            continue
        count = counted(len(users), "1 element", "{count} elements")
        yield Finding(
            "class-without-rule",
            Severity.ADVICE,
            f"The class “{use.name}” of {count} has no rule in the page's stylesheets.",
            users,
            {"elements": float(len(users))},
            None,
            (
                look.fix(
                    "Remove the class",
                    partial(without_class, look.page.source.markup, users, use.name),
                ),
            ),
            fold_name=use.name,
        )


FAMILY = Family(
    "class-without-rule",
    "Class without a rule",
    "No stylesheet of the page has a rule for this class. It may be for a script, or not needed any more.",
    "<style>p{margin:0}</style><p class=lost>no rule for me</p>",
    find,
    about=About.NAMES,
    fixes_are_harmless=True,
    fold=folds.classes,
)
