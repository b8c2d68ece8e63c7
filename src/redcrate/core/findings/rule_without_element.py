"""rule-without-element: a rule that no element of the page matches."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.css_text import block_place
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.explain.terms import Source
from redcrate.core.findings import folds
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.libraries import judged_rules, rules_of
from redcrate.core.findings.look import Look
from redcrate.core.findings.near_miss_name import near_misses
from redcrate.core.quoting import quoted
from redcrate.core.style.sheets import StyleRule


def find(look: Look) -> Iterator[Finding]:
    """Rules whose selectors match nothing in any state; those for print apart."""
    near = {id(r) for miss in near_misses(look) for r in miss.rules}
    for rule, used in judged_rules(look).items():
        if used or id(rule) in near:
            continue
        yield Finding(
            "rule-without-element",
            Severity.ADVICE,
            f"{quoted(rule.label)} matches no element of the page.",
            (),
            {"declarations": float(len(rule.declarations)), "of": float(rules_of(look, rule.file))},
            Source(rule.label, rule.file, rule.line, rule.label, True),
            (look.fix("Remove the rule", partial(_removed, look, rule)),),
        )


def _removed(look: Look, rule: StyleRule) -> Patch | None:
    text = look.texts[rule.file]
    block = block_place(text, rule.start)
    if block is None or text[block.end : block.end + 1] != "}":
        return None
    start, end = rule.start, block.end + 1
    line = text.rfind("\n", 0, start) + 1
    if not text[line:start].strip():
        start = line
        while end < len(text) and text[end] in " \t\r":
            end += 1
        end += text[end : end + 1] == "\n"
    return Patch((TextEdit(rule.file, start, end, ""),), f"rule {rule.label} removed")


FAMILY = Family(
    "rule-without-element",
    "Unused rule",
    "The selector of the rule matches no element of this page. Another page may use the rule.",
    "<style>.gone{margin:0}</style><p>no element has the class</p>",
    find,
    about=About.NAMES,
    fixes_are_harmless=True,
    hangs_on_page=True,
    fold=folds.rules,
)
