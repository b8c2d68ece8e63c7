"""Sheets that were not written for the page: large ones of which it uses little."""

from collections import Counter

from redcrate.core.edit.rule_places import author_rules
from redcrate.core.edit.targets import is_used
from redcrate.core.findings.look import Look
from redcrate.core.style.selectors import Selector
from redcrate.core.style.sheets import StyleRule
from redcrate.core.style.states import in_some_state

LARGE = 150
_MOST_USED = 0.5


def in_any_state(rule: StyleRule) -> tuple[Selector, ...]:
    """A rule's selectors without states; none for those inside another rule, which hang on that one's."""
    if ":" not in rule.selector_text:
        return rule.selectors
    if "&" in rule.selector_text or any(s.scope is not None for s in rule.selectors):
        return ()
    return in_some_state(rule.selector_text)


def judged_rules(look: Look) -> dict[StyleRule, bool]:
    """The author's rules of which it can be said whether any element matches them in any state, and whether one does."""

    def judge() -> dict[StyleRule, bool]:
        names = look.page.source.markup.names
        rules = (r for r in author_rules(look.page) if _can_be_judged(r))
        return {r: r.may_match(names) and is_used(look.page, in_any_state(r)) for r in rules}

    return look.page.source.once("judged rules", judge)


def _can_be_judged(rule: StyleRule) -> bool:
    printed = any("print" in m.text for m in rule.media)
    is_root = rule.selector_text.strip() in ("html", "body")
    if printed or is_root:
        return False
    return rule.unread is not None or (bool(rule.declarations) and bool(in_any_state(rule)))


def rules_of(look: Look, file: str) -> int:
    """How many rules of a file can be judged."""
    return _counts(look)[0][file]


def is_library(look: Look, file: str) -> bool:
    """Whether a file is a large sheet of which the page uses less than half."""
    of, used = _counts(look)
    return of[file] >= LARGE and used[file] < _MOST_USED * of[file]


def _counts(look: Look) -> tuple[Counter[str], Counter[str]]:
    """By file: its rules, and those that match something."""
    rules = judged_rules(look)
    return look.page.source.once(
        "rules by file",
        lambda: (Counter(r.file for r in rules), Counter(r.file for r, used in rules.items() if used)),
    )
