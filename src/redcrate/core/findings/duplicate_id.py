"""duplicate-id: one id on several elements."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.tree_edits import with_id
from redcrate.core.findings import folds
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element


def find(look: Look) -> Iterator[Finding]:
    """Ids that are written more than once; an element that is never closed is written once, however often it is made.

    HTML Standard §13.2.4.3: formatting elements are made again in each paragraph.
    """
    users: dict[str, list[Element]] = {}
    places: set[tuple[str, int]] = set()
    for element in look.page.elements:
        tag = look.page.source.markup.start_tag(element) if element.id else None
        if element.id and tag is not None and (element.id, tag.start) not in places:
            places.add((element.id, tag.start))
            users.setdefault(element.id, []).append(element)
    for ident, those in users.items():
        if len(those) < 2:
            continue
        last = those[-1]
        free = next(n for n in (f"{ident}-{i}" for i in range(2, 10_000)) if n not in users)
        yield Finding(
            "duplicate-id",
            Severity.SUSPICIOUS,
            f"{len(those)} elements have the id “{ident}”; an id is unique in a page.",
            (last, *those[:-1]),
            {"elements": float(len(those))},
            None,
            (
                look.fix(
                    f"Rename the id of the last element (“{free}”)",
                    partial(with_id, look.page.source.markup, last, free),
                ),
                look.fix(
                    "Remove the id of the last element",
                    partial(with_id, look.page.source.markup, last, ""),
                ),
            ),
            fold_name=ident,
        )


FAMILY = Family(
    "duplicate-id",
    "Duplicate id",
    "An id is for one element: links and scripts find only the first. Use a class for several elements.",
    "<p id=a>first</p><p id=a>second</p>",
    find,
    about=About.WRITING,
    fold=folds.ids,
)
