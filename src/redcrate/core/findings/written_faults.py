"""What the families about faulty declarations share: the notice, its rule, and the text that is there."""

from collections.abc import Callable, Iterator

from redcrate.core.edit.css_text import DeclarationPlace, declaration_place
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.edit.removal import removed_declaration
from redcrate.core.edit.rule_places import author_rules
from redcrate.core.edit.targets import matched
from redcrate.core.explain.terms import Source
from redcrate.core.findings.finding import Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.markup.tags import attribute_value_span
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.sheets import Origin, StyleRule


def faults(
    look: Look, kind: NoticeKind
) -> Iterator[tuple[Notice, StyleRule | None, tuple[Element, ...], DeclarationPlace, str]]:
    """The notices of a kind that speak of one declaration: its rule, the elements, its place and name."""
    for notice in look.page.notices:
        text = look.texts.get(notice.file, "")
        if notice.kind is not kind or notice.offset < 0 or ":" not in text[notice.offset :]:
            continue
        rule = _rule_of(look, notice)
        limit = _end_of_attribute(look, notice)
        place = declaration_place(text, notice.offset, limit)
        name = text[notice.offset : text.index(":", notice.offset)].strip()
        yield notice, rule, _elements(look, rule), place, name


Ways = Callable[[Notice, DeclarationPlace, str], tuple[MakeFix, ...]]


def fault_findings(
    look: Look, kind: NoticeKind, family: str, what: str, ways: Ways
) -> Iterator[Finding]:
    """One finding for each dropped declaration of a kind; `what` follows its text in the sentence."""
    for notice, rule, elements, place, name in faults(look, kind):
        value = look.texts[notice.file][place.value.start : place.value.end]
        yield Finding(
            family,
            Severity.SUSPICIOUS,
            f"{name}: {value} {what}",
            tuple(e for e in elements if e.index >= 0),
            {"elements": float(len(elements))},
            source_of(notice, rule, name),
            ways(notice, place, value),
            fold=name.lower(),
        )


def _end_of_attribute(look: Look, notice: Notice) -> int | None:
    """Where the style attribute ends in which the fault stands; None in a sheet."""
    markup = look.page.source.markup
    if notice.file != markup.source.name:
        return None
    spans = (attribute_value_span(markup, e, "style") for e in markup.with_style)
    return next((s.end for s in spans if s is not None and s.start <= notice.offset < s.end), None)


def _rule_of(look: Look, notice: Notice) -> StyleRule | None:
    inline = [
        r
        for r in look.page.source.inline_rules.values()
        if r.file == notice.file and notice.offset - r.start >= 0
    ]
    rules = [r for r in author_rules(look.page) if r.file == notice.file and r.start <= notice.offset]
    return max([*rules, *inline], key=lambda r: r.start, default=None)


def _elements(look: Look, rule: StyleRule | None) -> tuple[Element, ...]:
    if rule is None:
        return ()
    if rule.origin is Origin.INLINE:
        return tuple(e for e, r in look.page.source.inline_rules.items() if r is rule)
    return matched(look.page, rule.selectors)


def source_of(notice: Notice, rule: StyleRule | None, name: str) -> Source:
    """The place of the fault."""
    return Source(rule.label if rule is not None else "", notice.file, notice.line, name, True)


def replaced(look: Look, notice: Notice, place: DeclarationPlace, value: str) -> Patch | None:
    """The declaration with another value, if that is a valid one."""
    text = look.texts[notice.file]
    name = text[notice.offset : text.index(":", notice.offset)].strip().lower()
    if parse_declaration(name, component_values(value)) is None:
        return None
    edit = TextEdit(notice.file, place.value.start, place.value.end, value)
    return Patch((edit,), f"{name}: {text[place.value.start : place.value.end]} → {value}")


def removed(look: Look, notice: Notice) -> Patch:
    """The declaration taken out."""
    edit = removed_declaration(look.page, look.texts, notice.file, notice.offset)
    return Patch((edit,), f"removed from {notice.file} line {notice.line}")
