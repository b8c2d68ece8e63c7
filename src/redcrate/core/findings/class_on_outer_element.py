"""class-on-outer-element: a class on the block around the one that it is for."""

from collections import Counter
from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.classes import with_class, without_class
from redcrate.core.edit.patch import Patch
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element


def find(look: Look) -> Iterator[Finding]:
    """A class that everywhere else is on the inner of two nested elements, and once on the outer one."""
    for use in look.classes:
        if len(use.users) < 3 or not use.rules:
            continue
        inner = [u for u in use.users if u.parent is not None]
        kinds = Counter(u.tag for u in inner)
        for outer in use.users:
            if kinds[outer.tag] != (outer.parent is not None) or len(kinds) - kinds[outer.tag] != 1:
                continue  # the others are not all of one other kind
            others = [u for u in inner if u is not outer]
            tags = {u.tag for u in others}
            parents = {(u.parent.tag, u.parent.classes) for u in others if u.parent is not None}
            if len(tags) != 1 or len(parents) != 1 or outer.tag in tags:
                continue
            bare = (outer.tag, tuple(c for c in outer.classes if c != use.name))
            meant = [c for c in outer.child_elements if c.tag in tags]
            if bare not in parents or len(meant) != 1 or use.name in meant[0].classes:
                continue
            yield Finding(
                "class-on-outer-element",
                Severity.SUSPICIOUS,
                f"The class “{use.name}” is on {outer.label}; elsewhere it is on the {meant[0].tag} inside.",
                (outer, meant[0]),
                {"elsewhere": float(len(others))},
                None,
                (
                    look.fix(
                        "Move the class to the inner element",
                        partial(_moved, look, outer, meant[0], use.name),
                    ),
                ),
            )


def _moved(look: Look, outer: Element, inner: Element, name: str) -> Patch:
    markup = look.page.source.markup
    away, there = without_class(markup, (outer,), name), with_class(markup, (inner,), name)
    return Patch((*away.edits, *there.edits), f"class {name} moved from {outer.label} to {inner.label}")


FAMILY = Family(
    "class-on-outer-element",
    "Class on the wrong one of two nested elements",
    "The class is on the outer element instead of the inner one: the outer one gets the style, the inner one does not.",
    "<style>.a{background:#cde}</style><div><p class=a>in</div><div><p class=a>in</div><div class=a><p>out</div>",
    find,
    about=About.WRITING,
)
