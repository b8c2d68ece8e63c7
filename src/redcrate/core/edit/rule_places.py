"""Where a new rule goes: at the end of the last sheet, where no later rule of its strength wins.

It follows the manner of the sheet: one declaration a line or all in one, its indentation and line
ends. A page without a sheet gets a <style> element in its head.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass

from redcrate.core.edit.css_text import block_place
from redcrate.core.edit.patch import TextEdit
from redcrate.core.markup.elements import Span, Text
from redcrate.core.page import Page


@dataclass(frozen=True, slots=True)
class SheetPlace:
    """The characters of a sheet in its file."""

    file: str
    span: Span


def new_rule_edit(
    page: Page, texts: Mapping[str, str], selector: str, declarations: str, comment: str = ""
) -> TextEdit:
    """The edit that makes the rule `selector { declarations }`; `declarations` as `a: b; c: d`."""
    place = last_sheet(page, texts)
    if place is None:
        return _new_style_element(page, texts, f"{selector} {{ {declarations}; }}")
    text = texts[place.file]
    rule = rule_text(text[place.span.start : place.span.end], selector, declarations)
    head = f"/* {comment} */" if comment else ""
    return _appended(place, text, f"{head}{_newline(text)}{rule}" if head else rule)


def last_sheet(page: Page, texts: Mapping[str, str]) -> SheetPlace | None:
    """The last sheet of the page that holds for every window; None if there is none."""
    markup = page.source.markup
    found: SheetPlace | None = None
    for element, sheet in page.source.sheet_elements:
        if element.attributes.get("media", "").strip() not in ("", "all", "screen"):
            continue
        if element.tag == "style":
            inside = next((c for c in element.children if isinstance(c, Text)), None)
            span = markup.places.text(inside) if inside is not None else None
            if span is not None:
                found = SheetPlace(markup.source.name, span)
        elif sheet.source.name in texts:
            found = SheetPlace(sheet.source.name, Span(0, len(texts[sheet.source.name])))
    return found


def rule_text(sheet: str, selector: str, declarations: str) -> str:
    """A rule in the manner of the sheet's others."""
    newline = _newline(sheet)
    wanted = [d.strip() for d in declarations.split(";") if d.strip()]
    opened = re.search(r"\{([^{}]*)\}", sheet)
    if (
        opened is None
        and len(wanted) == 1
        or opened is not None
        and re.match(r"[ \t][^\n]*\Z", opened.group(1))
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


def _appended(place: SheetPlace, text: str, rule: str) -> TextEdit:
    css = text[place.span.start : place.span.end]
    newline = _newline(text)
    unclosed = _unclosed_start(css)
    if unclosed is not None:  # a rule after it would belong to the one that is never closed
        at = place.span.start + unclosed
        return TextEdit(place.file, at, at, f"{rule}{newline}{newline}")
    body = css.rstrip()
    at = place.span.start + len(body)
    if body and "\n" not in css.strip():
        return TextEdit(place.file, at, at, rule if len(css) == len(body) else newline + rule)
    indent = re.search(r"(?:^|\n)([ \t]*)[^\n]*\Z", body)
    margin = indent.group(1) if indent and body else ""
    gap = newline * 2 if re.search(r"\}\s*?\n\s*?\n", css) else newline
    head = gap + margin if body else ""
    return TextEdit(place.file, at, at, head + f"{newline}{margin}".join(rule.split(newline)))


def _unclosed_start(css: str) -> int | None:
    """Where the last rule begins, if it is never closed."""
    opened = css.rfind("{")
    if opened < 0:
        return None
    start = css.rfind("}", 0, opened) + 1
    start += len(css[start:opened]) - len(css[start:opened].lstrip())
    block = block_place(css, start)
    return start if block is not None and block.end == len(css) else None


def _newline(text: str) -> str:
    return "\r\n" if "\r\n" in text else "\n"


def _new_style_element(page: Page, texts: Mapping[str, str], rule: str) -> TextEdit:
    """A <style> at the end of the head, or in front of the body where no head is written."""
    markup = page.source.markup
    file = markup.source.name
    newline = _newline(texts[file])
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
