"""near-miss-name: a class or id without a rule, and a rule for nearly the same name without an element."""

from collections.abc import Iterable, Iterator
from functools import partial
from typing import TypeAlias

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.tree_edits import set_attribute
from redcrate.core.explain.terms import Source
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.style.sheets import StyleRule

_LONG = 6  # a letter changed for another one makes a word of most short words
_SHORTEST = 4  # of shorter names, such as a highlighter's, each is a letter away from another


_Filed: TypeAlias = dict[tuple[str, int], list[str]]


@dataclass(frozen=True, slots=True, eq=False)
class NearMiss:
    """A name that elements have and no rule names, and the rules' name that was probably meant."""

    attribute: str  # "class" or "id"
    name: str
    users: tuple[Element, ...]
    meant: str
    rules: tuple[StyleRule, ...]


def find(look: Look) -> Iterator[Finding]:
    """Pairs of names that differ by a letter or two, or by case."""
    for miss in near_misses(look):
        rule = miss.rules[0]
        yield Finding(
            "near-miss-name",
            Severity.SUSPICIOUS,
            f"No rule matches the {miss.attribute} “{miss.name}” of {miss.users[0].label}; a rule for "
            f"“{miss.meant}” matches no element.",
            tuple(u for u in miss.users if u.index >= 0) or miss.users[:1],
            {"letters": float(distance(miss.name, miss.meant))},
            Source(rule.label, rule.file, rule.line, rule.label, True),
            (look.fix(f"Rename it to “{miss.meant}” in the page", partial(_renamed, look, miss)),),
        )


def near_misses(look: Look) -> tuple[NearMiss, ...]:
    """Names without a rule, each with the rule's name that was probably meant."""
    return look.page.source.once("near misses", lambda: (*_of_classes(look), *_of_ids(look)))


def _of_classes(look: Look) -> Iterator[NearMiss]:
    idle = {c.name: c.rules for c in look.classes if c.rules and not c.users}
    filed = _filed(idle)
    for use in look.classes:
        meant = _nearest(use.name, filed) if use.users and not use.rules else ""
        if meant:
            yield NearMiss("class", use.name, use.users, meant, idle[meant])


def _of_ids(look: Look) -> Iterator[NearMiss]:
    users: dict[str, list[Element]] = {}
    for element in look.page.source.markup.root.walk():
        if element.id:
            users.setdefault(element.id, []).append(element)
    idle = {n: tuple(rules) for n, rules in look.named_ids.items() if n not in users}
    filed = _filed(idle)
    classes = {c.name for c in look.classes if c.rules}
    for name, those in users.items():
        named = name in look.named_ids or name in classes  # by the other sign: #name for .name
        meant = _nearest(name, filed) if not named else ""
        if meant:
            yield NearMiss("id", name, tuple(those), meant, idle[meant])


def _filed(names: Iterable[str]) -> _Filed:
    """Names by their first letter and their length."""
    filed: _Filed = {}
    for name in names:
        filed.setdefault((name[0].lower(), len(name)), []).append(name)
    return filed


def _nearest(name: str, others: _Filed) -> str:
    """The name that is a slip of the pen away; "" if there is none. Numbers are counted, not mistyped."""
    first, long = name[0].lower(), len(name)
    alike = [other for n in (long - 1, long, long + 1) for other in others.get((first, n), ())]
    found = [(d, n) for n in alike if _could_be(name, n) and (d := distance(name, n)) <= 1]
    return min(found)[1] if found else ""


def _could_be(name: str, other: str) -> bool:
    """Whether one can be the other mistyped at all: words such as note and none are both words."""
    if min(len(name), len(other)) < _SHORTEST or _letters(name) == _letters(other):
        return False
    changed = len(name) == len(other) and sorted(name.lower()) != sorted(other.lower())
    return not changed or len(name) >= _LONG


def _letters(name: str) -> str:
    return "".join(c for c in name if not c.isdigit())


def distance(one: str, other: str) -> int:
    """How many letters must be put in, taken out or changed; case alone counts as one."""
    if one.lower() == other.lower():
        return 0 if one == other else 1
    if len(one) == len(other) and _are_swapped(one, other):
        return 1
    before = list(range(len(other) + 1))
    for i, a in enumerate(one, 1):
        now = [i]
        for j, b in enumerate(other, 1):
            now.append(min(before[j] + 1, now[-1] + 1, before[j - 1] + (a != b)))
        before = now
    return before[-1]


def _are_swapped(one: str, other: str) -> bool:
    """Whether two neighbouring letters have changed places, and nothing else."""
    unlike = [i for i, (a, b) in enumerate(zip(one, other, strict=True)) if a != b]
    if len(unlike) != 2 or unlike[1] != unlike[0] + 1:
        return False
    first, second = unlike
    return one[first] == other[second] and one[second] == other[first]


def _renamed(look: Look, miss: NearMiss) -> Patch:
    markup = look.page.source.markup
    edits = []
    for user in miss.users:
        written = user.attributes[miss.attribute]
        value = " ".join(miss.meant if n == miss.name else n for n in written.split())
        edits.append(set_attribute(markup, user, miss.attribute, written, value))
    return Patch(tuple(edits), f"{miss.attribute} {miss.name} → {miss.meant} in the page")


FAMILY = Family(
    "near-miss-name",
    "Misspelt name",
    "The page has “notce”, the stylesheet “notice”: they do not match.",
    "<style>.notice{background:#cde}</style><p class=notce>no colour</p>",
    find,
    about=About.WRITING,
)
