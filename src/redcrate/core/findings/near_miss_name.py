"""near-miss-name: a class without a rule, and a rule for nearly the same name without an element."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.classes import ClassUse, class_list
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.tree_edits import set_attribute
from redcrate.core.explain.terms import Source
from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look


def find(look: Look) -> Iterator[Finding]:
    """Pairs of names that differ by a letter or two, or by case."""
    for use, meant in near_misses(look):
        ways = [
            look.fix(
                f"call it “{meant.name}” in the page",
                partial(_renamed, look, use, meant.name),
            )
        ]
        yield Finding(
            "near-miss-name",
            Severity.SUSPICIOUS,
            f"No rule names the class “{use.name}” of {use.users[0].label}; there is one for “{meant.name}”, which no "
            "element has.",
            tuple(u for u in use.users if u.index >= 0) or use.users[:1],
            {"letters": float(distance(use.name, meant.name))},
            source_of_rule(meant),
            tuple(ways),
        )


def near_misses(look: Look) -> list[tuple[ClassUse, ClassUse]]:
    """Classes without a rule, each with the rule's name that was probably meant."""
    listed = class_list(look.page)
    idle = [c for c in listed if c.rules and not c.users]
    found = []
    for use in listed:
        if use.rules or not use.users:
            continue
        close = [(distance(use.name, c.name), c) for c in idle]
        close = [(d, c) for d, c in close if d <= (1 if len(use.name) < 6 else 2) and len(use.name) > 2]
        if close:
            found.append((use, min(close, key=lambda p: p[0])[1]))
    return found


def distance(one: str, other: str) -> int:
    """How many letters must be put in, taken out or changed; case alone counts as one."""
    if one.lower() == other.lower():
        return 0 if one == other else 1
    before = list(range(len(other) + 1))
    for i, a in enumerate(one, 1):
        now = [i]
        for j, b in enumerate(other, 1):
            now.append(min(before[j] + 1, now[-1] + 1, before[j - 1] + (a != b)))
        before = now
    return before[-1]


def source_of_rule(use: ClassUse) -> Source:
    """Where the first rule of a class stands."""
    rule = use.rules[0]
    return Source(rule.label, rule.file, rule.line, rule.label, True)


def _renamed(look: Look, use: ClassUse, name: str) -> Patch:
    markup = look.page.source.markup
    edits = []
    for user in use.users:
        value = " ".join(name if c == use.name else c for c in user.classes)
        edits.append(set_attribute(markup, user, "class", user.attributes["class"], value))
    return Patch(tuple(edits), f"class {use.name} → {name} in the page")


FAMILY = Family(
    "near-miss-name",
    "A name with a typing error",
    "The page says “notce”, the stylesheet “notice”: neither finds the other.",
    "<style>.notice{background:#cde}</style><p class=notce>no colour</p>",
    find,
)
