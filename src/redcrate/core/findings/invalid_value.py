"""invalid-value: a property that there is not, or a value that it does not take."""

import re
from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.findings import folds
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.near_miss_name import distance
from redcrate.core.findings.written_faults import faults, removed, replaced, source_of
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.quoting import quoted
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.properties import PROPERTIES
from redcrate.core.style.shorthands import SHORTHANDS
from redcrate.core.style.standards import standards


def find(look: Look) -> Iterator[Finding]:
    """The declarations that were dropped because of their name or value, slips of the pen first."""
    for kind in (NoticeKind.UNKNOWN_PROPERTY, NoticeKind.INVALID_VALUE):
        for notice, rule, elements, place, name in faults(look, kind):
            value = look.texts[notice.file][place.value.start : place.value.end]
            if _is_for_other_browsers(name, value):
                continue
            unknown = kind is NoticeKind.UNKNOWN_PROPERTY
            what = f"There is no property {quoted(name)}"
            if not unknown:
                what = f"“{quoted(value)}” is not a value of {name}"
            ways = [look.fix("Remove the declaration", partial(removed, look, notice))]
            meant = _meant(name, value) if unknown else _meant_value(name, value)
            if meant and unknown:
                ways.insert(0, look.fix(f"Use {meant}", partial(_renamed, notice, name, meant)))
            elif meant:
                ways.insert(0, look.fix(f"Use {meant}", partial(replaced, look, notice, place, meant)))
            yield Finding(
                "invalid-value",
                Severity.SUSPICIOUS,
                f"{what}, so the declaration is ignored{f'. Did you mean {meant}?' if meant else '.'}",
                tuple(e for e in elements if e.index >= 0),
                {"elements": float(len(elements))},
                source_of(notice, rule, name),
                tuple(ways),
                fold=name.lower(),
            )


_OTHERS = re.compile(
    r"\\[0-9]\s*$|\balpha\(|\bprogid:|\bexpression\(|(?<![\w-])-[a-z]",
    re.IGNORECASE,
)

# Properties that some browser has, or had, and no standard today.
_OF_ONE_BROWSER = frozenset(
    """app-region buffered-rendering color-rendering behavior ime-mode layout-flow layout-grid text-autospace
    text-kashida-space scrollbar-3dlight-color scrollbar-arrow-color scrollbar-base-color
    scrollbar-darkshadow-color scrollbar-face-color scrollbar-highlight-color scrollbar-shadow-color
    scrollbar-track-color font-smoothing user-drag tap-highlight-color overflow-scrolling text-fill-color box-orient
    box-flex box-flex-group box-direction box-pack box-align box-lines box-ordinal-group touch-callout""".split()
)


def _is_for_other_browsers(name: str, value: str) -> bool:
    """Whether it was written so that all but certain old browsers drop it."""
    own = not name[:1].isalpha() or name.startswith("mso-") or name in _OF_ONE_BROWSER
    return own or _OTHERS.search(value) is not None


def _meant(name: str, value: str) -> str:
    """The property that is a letter or two away and takes the value."""
    close = sorted(
        (distance(name, known), known)
        for known in (*PROPERTIES, *SHORTHANDS)
        if abs(len(known) - len(name)) < 3
    )
    tokens = component_values(value)
    return next((k for d, k in close if d <= 2 and parse_declaration(k, tokens) is not None), "")


def _meant_value(name: str, value: str) -> str:
    """The keyword that is one slip of the pen away from a value of one word, and that the property takes."""
    word = value.strip().lower()
    if not word.replace("-", "").isalpha():
        return ""
    known = standards().grammars.keywords(name.lower())
    close = sorted(k for k in known if abs(len(k) - len(word)) < 2 and distance(k, word) == 1)
    return next(
        (k for k in close if parse_declaration(name.lower(), component_values(k)) is not None), ""
    )


def _renamed(notice: Notice, old: str, new: str) -> Patch:
    edit = TextEdit(notice.file, notice.offset, notice.offset + len(old), new)
    return Patch((edit,), f"{old} → {new}")


FAMILY = Family(
    "invalid-value",
    "Invalid declaration",
    "Browsers ignore an unknown property or an invalid value, without a message.",
    "<p style='margin:0;pading:9px;background:#cde'>no padding</p>",
    find,
    about=About.WRITING,
    fold=folds.declarations,
)
