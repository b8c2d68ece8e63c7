"""Where a new rule goes: at the end of the last sheet, where no later rule of its strength wins.

It follows the manner of the sheet: one declaration a line or all in one, its indentation and line
ends. A page without a sheet gets a <style> element in its head.
"""

import re
from collections.abc import Mapping

from redcrate.core.edit.css_text import block_place
from redcrate.core.edit.patch import TextEdit
from redcrate.core.markup.elements import Element, Markup, Span, Text
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.sheets import Origin, StyleRule


@dataclass(frozen=True, slots=True)
class SheetPlace:
    """The characters of a sheet in its file."""

    file: str
    span: Span


def author_rules(page: Page) -> list[StyleRule]:
    """All rules of the page's sheets, whether they apply at this width or not."""
    return [r for s in page.source.sheets for r in s.rules if r.origin is Origin.AUTHOR]


def new_rule_edit(
    page: Page, texts: Mapping[str, str], selector: str, declarations: str, comment: str = ""
) -> TextEdit:
    """The edit that makes the rule `selector { declarations }`; `declarations` as `a: b; c: d`."""
    place = last_sheet(page, texts)
    if place is None:
        return with_style_element(page, texts, f"{selector} {{ {declarations}; }}")
    text = texts[place.file]
    rule = rule_text(text[place.span.start : place.span.end], selector, declarations)
    head = f"/* {comment} */" if comment else ""
    return appended(place, text, f"{head}{newline_of(text)}{rule}" if head else rule)


def last_sheet(page: Page, texts: Mapping[str, str]) -> SheetPlace | None:
    """The last sheet of the page that holds for every window; None if there is none."""
    found: SheetPlace | None = None
    for element, sheet in page.source.sheet_elements:
        if element.attributes.get("media", "").strip() in ("", "all", "screen"):
            found = _place_of(page.source.markup, texts, element, sheet.source.name) or found
    return found


def sheet_at(page: Page, texts: Mapping[str, str], file: str, offset: int) -> SheetPlace | None:
    """The sheet in which an offset of a file lies, imported ones too; None in none that can be edited."""
    markup = page.source.markup
    if file != markup.source.name:
        return SheetPlace(file, Span(0, len(texts[file]))) if file in texts else None
    styles = (e for e, _ in page.source.sheet_elements if e.tag == "style")
    places = (_place_of(markup, texts, e, file) for e in styles)
    return next((p for p in places if p is not None and p.span.start <= offset < p.span.end), None)


def _place_of(
    markup: Markup, texts: Mapping[str, str], element: Element, name: str
) -> SheetPlace | None:
    """The characters of the sheet that an element brings."""
    if element.tag != "style":
        return SheetPlace(name, Span(0, len(texts[name]))) if name in texts else None
    inside = next((c for c in element.children if isinstance(c, Text)), None)
    span = markup.places.text(inside) if inside is not None else None
    return SheetPlace(markup.source.name, span) if span is not None else None


def rule_text(sheet: str, selector: str, declarations: str) -> str:
    """A rule in the manner of the sheet's others."""
    newline = newline_of(sheet)
    wanted = [d.strip() for d in declarations.split(";") if d.strip()]
    opened = re.search(r"\{([^{}]*)\}", sheet)
    if (opened is None and len(wanted) == 1) or (
        opened is not None and re.match(r"[ \t][^\n]*\Z", opened.group(1))
    ):
        return f"{selector} {{ {'; '.join(wanted)}; }}"
    if opened is not None and "\n" not in opened.group(1):
        return f"{selector}{{{';'.join(d.replace(': ', ':', 1) for d in wanted)}}}"
    lines = [f"{_unit(opened.group(1) if opened else '', sheet)}{d};" for d in wanted]
    return newline.join([f"{selector} {{", *lines, "}"])


def _unit(block: str, sheet: str) -> str:
    """By how much a declaration stands further in than its rule."""
    inner = re.search(r"\n([ \t]+)\S", block)
    outer = re.search(r"\n([ \t]*)\}", sheet)
    step = inner.group(1) if inner else "  "
    base = outer.group(1) if outer else ""
    return step[len(base) :] if base and step.startswith(base) else step


def step_of(css: str) -> str:
    """By how much what stands in a block is further in than the block, in the manner of a sheet."""
    opened = re.search(r"\{([^{}]*)\}", css)
    if opened is not None and "\n" in opened.group(1):
        return _unit(opened.group(1), css)
    grouped = re.search(r"(?:^|\n)([ \t]*)@[^\n]*\{[ \t]*\r?\n([ \t]+)", css)
    if grouped is None or not grouped.group(2).startswith(grouped.group(1)):
        return "  "
    return grouped.group(2)[len(grouped.group(1)) :] or "  "


def appended(place: SheetPlace, text: str, rule: str) -> TextEdit:
    """The edit that adds a rule at the end of a sheet."""
    css = text[place.span.start : place.span.end]
    newline = newline_of(text)
    unclosed = _unclosed_start(css)
    if unclosed is not None:  # a rule after it would belong to the one that is never closed
        at = place.span.start + unclosed
        return TextEdit(place.file, at, at, f"{rule}{newline}{newline}")
    body = css.rstrip()
    at = place.span.start + len(body)
    indent = re.search(r"(?:^|\n)([ \t]*)[^\n]*\Z", body)
    margin = indent.group(1) if indent and body else ""
    rule = f"{newline}{margin}".join(rule.split(newline))
    if body and "\n" not in css.strip():
        return TextEdit(place.file, at, at, rule if len(css) == len(body) else newline + margin + rule)
    gap = newline * 2 if re.search(r"\}\s*?\n\s*?\n", css) else newline
    head = gap + margin if body else ""
    return TextEdit(place.file, at, at, head + rule)


def _unclosed_start(css: str) -> int | None:
    """Where the last rule begins, if it is never closed."""
    opened = css.rfind("{")
    if opened < 0:
        return None
    start = css.rfind("}", 0, opened) + 1
    start += len(css[start:opened]) - len(css[start:opened].lstrip())
    block = block_place(css, start)
    return start if block is not None and block.end == len(css) else None


def newline_of(text: str) -> str:
    """How lines end in a text."""
    return "\r\n" if "\r\n" in text else "\n"


def with_style_element(page: Page, texts: Mapping[str, str], rule: str) -> TextEdit:
    """The edit that makes a <style> with a rule at the end of the head, or in front of the body where no head is written."""
    markup = page.source.markup
    file = markup.source.name
    newline = newline_of(texts[file])
    element = f"<style>{newline}{rule}{newline}</style>{newline}"
    head = markup.head
    end = markup.end_tag(head) if head is not None else None
    if end is not None:
        return TextEdit(file, end.start, end.start, element)
    body = markup.body
    start = markup.start_tag(body) if body is not None else None
    if start is not None:
        return TextEdit(file, start.start, start.start, element)
    first = next((markup.start_tag(e) for e in markup.listed if markup.start_tag(e)), None)
    doctype = re.match(r"\s*<!doctype[^>]*>\s*", texts[file], re.IGNORECASE)
    at = first.start if first is not None else doctype.end() if doctype else 0
    return TextEdit(file, at, at, element)
