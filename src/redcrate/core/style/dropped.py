"""Why a declaration is dropped: there is no such property, its value is not allowed, or it is not computed here."""

from typing import Any

from redcrate.core.notices import NoticeKind
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import component_values, css_text
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.standards import Verdict, standards


def why_dropped(name: str, text: str, tokens: list[Any]) -> tuple[NoticeKind, str] | None:
    """What to tell of a declaration; None for what moves no box, and for what is for other browsers only.

    text, tokens: its value, as written and without white space.
    """
    verdict = standards().verdict(name, tokens)
    if name.startswith("-") or verdict is Verdict.NO_EFFECT:
        return None
    if verdict is Verdict.NOT_COMPUTED and tokens:
        shown = text if len(text) <= 60 else text[:57] + "…"
        return NoticeKind.NOT_COMPUTED, f"{name}: {shown} is valid, but not computed here."
    if verdict is Verdict.UNKNOWN:
        return NoticeKind.UNKNOWN_PROPERTY, f"Ignored: there is no property {name[:80]}."
    return _why_invalid(name, text, tokens)


def _why_invalid(name: str, text: str, tokens: list[Any]) -> tuple[NoticeKind, str]:
    shown = text if len(text) <= 60 else text[:57] + "…"
    spaced = [t for t in tokens if not (t.type == "literal" and t.value == ",")]
    if len(spaced) < len(tokens) and parse_declaration(name, spaced) is not None:
        return (
            NoticeKind.COMMA_IN_SHORTHAND,
            f"Ignored: {name}: {shown} has commas between its values; use spaces.",
        )
    if any(t.type == "number" and t.value != 0 for t in tokens) and _takes_units(name, spaced):
        return (
            NoticeKind.MISSING_UNIT,
            f"Ignored: {name}: {shown} has no unit, such as px.",
        )
    return NoticeKind.INVALID_VALUE, f"Ignored: {name} cannot be “{shown}”."


def _takes_units(name: str, tokens: list[Any]) -> bool:
    """Whether the value would be valid with px behind its plain numbers."""
    texts = (f"{css_text([t])}px" if t.type == "number" else css_text([t]) for t in tokens)
    mended = significant(component_values(" ".join(texts)))
    if parse_declaration(name, mended) is not None:
        return True
    return standards().verdict(name, mended) is not Verdict.INVALID
