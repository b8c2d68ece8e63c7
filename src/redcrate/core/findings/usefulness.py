"""Which findings a page's author would wave away: true, but of the kind that most sound pages have.

They are found all the same, and told to those who ask for all. What breaks a layout is always told.
"""

import re
from collections.abc import Callable, Iterable
from dataclasses import replace

from redcrate.core.edit.classes import ClassUse
from redcrate.core.findings.finding import Finding, Severity
from redcrate.core.findings.libraries import LARGE, is_library, rules_of
from redcrate.core.findings.look import Look, meet
from redcrate.core.markup.elements import Element

# What is said of declarations: in the sheet of a library nobody mends them.
_OF_DECLARATIONS = frozenset(
    "invalid-value unit-missing comma-in-shorthand throw-away-colour near-miss-name no-effect-on-item size-overruled "
    "inline-size-ignored media-range-overlap media-range-gap min-over-max margins-collapsed nearly-centred "
    "percent-height-without-reference auto-margin-without-effect negative-margin-overlap free-room-taken "
    "empty-tracks mixed-sizing-in-row".split()
)


def with_minor(look: Look, found: Iterable[Finding]) -> list[Finding]:
    """The findings, of which those that most authors would wave away are marked."""
    return [replace(f, minor=True) if _is_minor(look, f) else f for f in found]


def _is_minor(look: Look, finding: Finding) -> bool:
    if finding.minor or finding.severity is Severity.BREAKS:
        return finding.minor
    cause = finding.cause
    if finding.family in _OF_DECLARATIONS and cause is not None and is_library(look, cause.file):
        return True
    test = _TESTS.get(finding.family)
    return test is not None and test(look, finding)


def _is_for_others(look: Look, finding: Finding) -> bool:
    """A slip in a rule of a large sheet that nothing here matches: it is for other pages."""
    cause = finding.cause
    return not finding.elements and cause is not None and rules_of(look, cause.file) >= LARGE


_FLOWING = frozenset(
    "p h1 h2 h3 h4 h5 h6 ul ol dl dd dt li pre blockquote table figure hr address center details form".split()
)


def _of_flowing_text(look: Look, finding: Finding) -> bool:
    """The gaps of headings, paragraphs, lists and tables: that the larger margin counts is what they are made for."""
    return any(e.tag in _FLOWING for e in finding.elements)


def _at_the_end(look: Look, finding: Finding) -> bool:
    """One that lacks a class at either end of its row, or a class that says how something looks, not what it is.

    Not where it is built as the others are.
    """
    one = finding.elements[0]
    alike = [c for c in one.parent.child_elements if c.tag == one.tag] if one.parent is not None else []
    built = {tuple(c.tag for c in e.child_elements) for e in alike}
    if one in (alike[0], alike[-1]) and (len(built) > 1 or () in built):
        return True
    names = {n for c in alike for n in c.classes}
    uses = [c for c in look.classes if c.name in names]
    return any(is_library(look, r.file) for c in uses for r in c.rules) or any(map(_is_utility, uses))


_ABBREVIATED = re.compile(r"[-_]\d+(?:[-_]|$)|^[a-z]{1,2}-")


def _is_utility(use: ClassUse) -> bool:
    """Whether a class names a look, such as mb-2: it has a number, or is on elements of many kinds."""
    return bool(_ABBREVIATED.search(use.name)) or len({u.tag for u in use.users}) > 2


_MARKING = re.compile(
    r"err|warn|mis|mark|danger|alert|fail|bad|invalid|del|remov|requi|import|note|high|\bhl|diff|new|stop|focus|hot",
    re.IGNORECASE,
)


def _marks_something(look: Look, finding: Finding) -> bool:
    """A loud colour that is to be seen: of errors and warnings, or of words in a text."""
    selector = finding.cause.selector if finding.cause is not None else ""
    names = " ".join(n for e in finding.elements for n in (e.tag, *e.classes, e.id or ""))
    in_text = all((box := look.box(e)) is None or box.box is None for e in finding.elements)
    return in_text or bool(_MARKING.search(f"{selector} {names}"))


def _is_idiom(look: Look, finding: Finding) -> bool:
    """width: 100 % or 0 beside a flex-basis: for where there is no line, or so that the item may shrink."""
    wanted = finding.cause.declaration.partition(":")[2].strip() if finding.cause is not None else ""
    return wanted in ("100%", "0", "0px", "1%", "1px")


def _always(look: Look, finding: Finding) -> bool:
    """Scripts, generators and other pages give and use names that one page does not show."""
    return True


_ICON = 32 * 64  # 1/64 px: lower pictures stand in lines as signs do


def _is_icon(look: Look, finding: Finding) -> bool:
    """Signs among text, under which nobody looks for room."""
    boxes = (look.box(e) for e in finding.elements)
    return all(b is None or b.border_box.height <= _ICON for b in boxes)


def _is_fallback(look: Look, finding: Finding) -> bool:
    """A float that is there for browsers without flexible lines."""
    cause = finding.cause
    return cause is not None and cause.declaration.startswith("float")


def _speak_of_others(look: Look, finding: Finding) -> bool:
    """Ranges of which no element has rules in both."""
    return finding.severity is Severity.ADVICE


def _is_of_many(look: Look, finding: Finding) -> bool:
    """A name of a sheet with so many that a page without one of them means nothing."""
    cause = finding.cause
    return cause is not None and rules_of(look, cause.file) > _HANDWRITTEN


_HANDWRITTEN = 400  # rules of a sheet: of more, nobody knows each by name


_IN_WORDS = frozenset("span strong em b i small mark code kbd abbr label sup sub time var".split())


def _are_like_words(look: Look, finding: Finding) -> bool:
    """Marks in a line, such as badges: they stand apart as words do."""
    return all(e.tag in _IN_WORDS for e in finding.elements)


def _is_by_a_shorthand(look: Look, finding: Finding) -> bool:
    """Margins that come with others, which count: margin: 0 4px 2px says what is wanted left and right too."""
    cause = finding.cause
    if cause is None:
        return False
    name, _, value = cause.declaration.partition(":")
    return name.strip() in ("margin", "margin-block") or not value.strip()


def _in_pictures(look: Look, finding: Finding) -> bool:
    """Names inside drawings, which a drawing program wrote."""
    return all(any(a.tag == "svg" for a in (e, *e.ancestors())) for e in finding.elements)


def _moves_on_purpose(look: Look, finding: Finding) -> bool:
    """Neighbours of one kind, such as pictures of people; borders that lie over each other; what covers no text."""
    first, second = finding.elements[0], finding.elements[1]
    one, other = look.box(first), look.box(second)
    if _kind(first) == _kind(second) or one is None or other is None:
        return True
    shared = one.border_box.shared_with(other.border_box)
    if min(shared.width, shared.height) <= _BORDER * 64:
        return True
    return not any(meet(t.letters, shared) for e in (first, second) for t in look.texts_of(e))


_BORDER = 2  # px


def _kind(element: Element) -> tuple[str, tuple[str, ...]]:
    return element.tag, element.classes


_TESTS: dict[str, Callable[[Look, Finding], bool]] = {
    "invalid-value": _is_for_others,
    "unit-missing": _is_for_others,
    "comma-in-shorthand": _is_for_others,
    "margins-collapsed": _of_flowing_text,
    "class-missing-on-one": _at_the_end,
    "throw-away-colour": _marks_something,
    "size-overruled": _is_idiom,
    "class-without-rule": _always,
    "rule-without-element": _always,
    "image-descent-gap": _is_icon,
    "no-effect-on-item": _is_fallback,
    "media-range-overlap": _speak_of_others,
    "media-range-gap": _speak_of_others,
    "near-miss-name": _is_of_many,
    "source-space-gap": _are_like_words,
    "inline-size-ignored": _is_by_a_shorthand,
    "duplicate-id": _in_pictures,
    "negative-margin-overlap": _moves_on_purpose,
}
# Families all of whose findings are minor: who does not ask for those need not look for them.
ALWAYS_MINOR = frozenset(family for family, test in _TESTS.items() if test is _always)
