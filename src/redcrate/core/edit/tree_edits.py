"""Edits of the element tree: add, duplicate, move, delete, rename, id, text.

Each is a splice of the source. What would be parsed into another tree than the one that was meant is
refused, with what the parser would make of it.
"""

import re
from collections import Counter
from collections.abc import Mapping, Sequence
from itertools import count

from redcrate.core.edit.extents import VOID, Extent, extent_of, indent_step, newline_of, reindented
from redcrate.core.edit.patch import Patch, TextEdit, apply_patch, offset_after
from redcrate.core.edit.writing import attribute_edit
from redcrate.core.errors import EditRefused
from redcrate.core.labelled import Labelled
from redcrate.core.markup import parse_html
from redcrate.core.markup.elements import Element, Markup, Text

_TAG = re.compile(r"[a-z][a-z0-9-]*\Z")
_BAD_ID = re.compile(r"\s")
_IMPLIED = frozenset(("tbody", "colgroup"))  # what the parser adds around others, where it is needed


class Where(Labelled):
    """Where something goes, seen from an element."""

    BEFORE = "before", "before"
    AFTER = "after", "after"
    INSIDE = "inside", "inside"
    AROUND = "around", "around"


def added(markup: Markup, target: Element, where: Where, tag: str, text: str = "") -> Patch:
    """A new element in front of, behind, inside or around `target`."""
    _check_tag(tag)
    if where is Where.AROUND:
        return wrapped(markup, (target,), tag)
    snippet = f"<{tag}>" if tag in VOID else f"<{tag}>{_escaped(text)}</{tag}>"
    edit, at = _insertion(markup, target, where, snippet, "")
    patch = Patch((edit,), f"new {tag} {where.value} {target.label}")
    parent = target if where is Where.INSIDE else target.parent
    _check_tree(markup, patch, edit.start + at, tag, parent, (), more=1)
    return patch


def wrapped(markup: Markup, targets: Sequence[Element], tag: str) -> Patch:
    """A new element around neighbours that share a parent."""
    _check_tag(tag)
    if tag in VOID:
        raise EditRefused(
            f"a {tag} cannot contain elements.", remedy="Use another element, such as div."
        )
    ordered = sorted(targets, key=lambda e: e.number)
    first, last = ordered[0], ordered[-1]
    if any(e.parent is not first.parent for e in ordered):
        raise EditRefused("the selected elements have different parents.", remedy="Select siblings.")
    top, bottom = extent_of(markup, first), extent_of(markup, last)
    file, text = markup.source.name, markup.source.text
    newline = newline_of(text)
    if top.own_lines and bottom.own_lines:
        step = indent_step(markup)
        body = text[top.lines.start : bottom.lines.end]
        closed = body if body.endswith(("\n", "\r")) else body + newline
        inner = step + reindented(closed, top.indent, top.indent + step)
        whole = (
            f"{top.indent}<{tag}>{newline}{inner}{top.indent}</{tag}>{newline if closed == body else ''}"
        )
        edit = TextEdit(file, top.lines.start, bottom.lines.end, whole)
        at = top.lines.start + len(top.indent)
    else:
        body = text[top.span.start : bottom.span.end]
        edit = TextEdit(file, top.span.start, bottom.span.end, f"<{tag}>{body}</{tag}>")
        at = top.span.start
    patch = Patch((edit,), f"{tag} around {', '.join(e.label for e in ordered)}")
    _check_tree(markup, patch, at, tag, first.parent, ordered, more=1)
    return patch


def duplicated(markup: Markup, targets: Sequence[Element]) -> Patch:
    """A copy of each element behind it; an id gets a number, since it may stand only once."""
    edits = []
    taken = {e.id for e in markup.root.walk() if e.id}
    for target in outermost(targets):
        extent = extent_of(markup, target)
        edit, _ = _insertion(
            markup, target, Where.AFTER, _copy(markup, target, extent, taken), extent.indent
        )
        edits.append(edit)
    return Patch(tuple(edits), f"{_labels(targets)} duplicated")


def _copy(markup: Markup, target: Element, extent: Extent, taken: set[str]) -> str:
    edits = []
    for element in target.walk():
        tag = markup.start_tag(element)
        if element.id and tag is not None:
            new = next(name for n in count(2) if (name := f"{element.id}-{n}") not in taken)
            taken.add(new)
            edits.append(attribute_edit("", markup.source.text, tag, "id", element.id, new))
    text = markup.source.text[extent.span.start : extent.span.end]
    for edit in sorted(edits, key=lambda e: -e.start):
        start, end = edit.start - extent.span.start, edit.end - extent.span.start
        text = text[:start] + edit.text + text[end:]
    return text


def deleted(markup: Markup, targets: Sequence[Element]) -> Patch:
    """The elements taken out, with their lines where they have them to themselves."""
    edits = []
    for target in outermost(targets):
        if target.tag in ("html", "body", "head"):
            raise EditRefused(f"a page needs its {target.tag}.")
        extent = extent_of(markup, target)
        edits.append(TextEdit(markup.source.name, extent.lines.start, extent.lines.end, ""))
    return Patch(tuple(edits), f"{_labels(targets)} deleted")


def moved(markup: Markup, targets: Sequence[Element], goal: Element, where: Where) -> Patch:
    """The elements, as they stand in the source, at another place; indented for it."""
    return move_plan(markup, targets, goal, where)[0]


def move_plan(
    markup: Markup, targets: Sequence[Element], goal: Element, where: Where
) -> tuple[Patch, int]:
    """The patch of a move, and the offset at which the first element begins after it."""
    movers = outermost(targets)
    if any(goal is m or m in goal.ancestors() for m in movers):
        raise EditRefused("an element cannot be moved into itself.")
    if any(m.tag in ("html", "body", "head") for m in movers):
        raise EditRefused("html, head and body cannot be moved.")
    text = markup.source.text
    removals, snippets = [], []
    for mover in movers:
        extent = extent_of(markup, mover)
        removals.append(TextEdit(markup.source.name, extent.lines.start, extent.lines.end, ""))
        snippets.append((text[extent.span.start : extent.span.end], extent.indent))
    edits = [_insertion(markup, goal, where, snippet, indent) for snippet, indent in snippets]
    start = edits[0][0].start
    joined = TextEdit(markup.source.name, start, start, "".join(e.text for e, _ in edits))
    for removal in removals:
        if removal.start < start < removal.end:
            raise EditRefused("an element cannot be moved into itself.")
    patch = Patch((*removals, joined), f"{_labels(movers)} moved {where.value} {goal.label}")
    at = start + edits[0][1] - sum(min(r.end, start) - r.start for r in removals if r.start < start)
    parent = goal if where is Where.INSIDE else goal.parent
    _check_tree(markup, patch, at, movers[0].tag, parent, movers[0].child_elements)
    return patch, at


def renamed(markup: Markup, target: Element, tag: str) -> Patch:
    """The element with another tag."""
    _check_tag(tag)
    if target.tag in ("html", "body", "head"):
        raise EditRefused(f"{target.tag} cannot be renamed.")
    start, end = markup.start_tag(target), markup.end_tag(target)
    if start is None:
        raise EditRefused(f"{target.label} has no tag in the source.")
    if (tag in VOID) != (target.tag in VOID):
        raise EditRefused(f"{target.tag} cannot become {tag}: only one of the two can have content.")
    file = markup.source.name
    edits = [TextEdit(file, start.start + 1, start.start + 1 + len(target.tag), tag)]
    if end is not None:
        edits.append(TextEdit(file, end.start + 2, end.start + 2 + len(target.tag), tag))
    patch = Patch(tuple(edits), f"{target.label}: {target.tag} → {tag}")
    _check_tree(markup, patch, start.start, tag, target.parent, target.child_elements)
    return patch


def with_id(markup: Markup, target: Element, ident: str) -> Patch:
    """The element with another id; an empty one takes the attribute off."""
    if _BAD_ID.search(ident):
        raise EditRefused(f"“{ident}” has a space: an id is one word.")
    other = next((e for e in markup.root.walk() if e.id == ident and e is not target), None)
    if ident and other is not None:
        raise EditRefused(f"{other.label} already has the id “{ident}”: an id is unique in a page.")
    return Patch(
        (set_attribute(markup, target, "id", target.id or "", ident),),
        f"id of {target.label}: {target.id or 'none'} → {ident or 'none'}",
    )


def set_attribute(markup: Markup, target: Element, name: str, old: str, value: str) -> TextEdit:
    """The edit that gives an attribute another value; an empty one takes it out of the tag."""
    tag = markup.start_tag(target)
    if tag is None:
        raise EditRefused(f"{target.label} has no tag in the source.")
    return attribute_edit(markup.source.name, markup.source.text, tag, name, old, value)


def with_text(markup: Markup, target: Element, text: str) -> Patch:
    """The element with another text; it must hold nothing else."""
    if target.child_elements:
        raise EditRefused(
            f"{target.label} contains other elements.", remedy="Select one of those and edit its text."
        )
    inside = extent_of(markup, target).inside
    if inside is None:
        raise EditRefused(f"a {target.tag} cannot contain text.")
    known = next((c for c in target.children if isinstance(c, Text)), None)
    span = markup.places.text(known) if known is not None else inside
    if span is None:
        raise EditRefused(
            f"the text of {target.label} is in several pieces.", remedy="Edit it on the Source screen."
        )
    raw = markup.source.text[span.start : span.end]
    lead, tail = raw[: len(raw) - len(raw.lstrip())], raw[len(raw.rstrip()) :] if raw.strip() else ""
    edit = TextEdit(markup.source.name, span.start + len(lead), span.end - len(tail), _escaped(text))
    return Patch((edit,), f"text of {target.label}")


def outermost(targets: Sequence[Element]) -> list[Element]:
    """The elements in document order, without those inside another of them."""
    chosen = set(targets)
    kept = [t for t in chosen if not any(a in chosen for a in t.ancestors())]
    return sorted(kept, key=lambda e: e.number)


def _insertion(
    markup: Markup, target: Element, where: Where, snippet: str, indent: str
) -> tuple[TextEdit, int]:
    """The edit that puts `snippet` beside or into `target`, and where in its text the snippet begins."""
    file, text = markup.source.name, markup.source.text
    newline = newline_of(text)
    if where is Where.INSIDE:
        return _inside(markup, target, snippet, indent)
    extent = extent_of(markup, target)
    if not extent.own_lines:
        at = extent.span.start if where is Where.BEFORE else extent.span.end
        return TextEdit(file, at, at, snippet), 0
    body = reindented(snippet, indent, extent.indent)
    if where is Where.BEFORE:
        at = extent.lines.start
        return TextEdit(file, at, at, f"{extent.indent}{body}{newline}"), len(extent.indent)
    at = extent.span.end
    lead = newline + extent.indent
    return TextEdit(file, at, at, lead + body), len(lead)


def _inside(markup: Markup, target: Element, snippet: str, indent: str) -> tuple[TextEdit, int]:
    file, text = markup.source.name, markup.source.text
    if target.tag == "body" and markup.start_tag(target) is None:
        at = len(text.rstrip())
        return TextEdit(file, at, at, newline_of(text) + snippet), len(newline_of(text))
    extent = extent_of(markup, target)
    if extent.inside is None:
        raise EditRefused(f"a {target.tag} cannot contain elements.")
    newline = newline_of(text)
    own = extent.own_lines
    inside = text[extent.inside.start : extent.inside.end]
    last = next((c for c in reversed(target.child_elements) if markup.start_tag(c)), None)
    if last is not None and extent_of(markup, last).own_lines:
        return _insertion(markup, last, Where.AFTER, snippet, indent)
    if not own or (inside.strip() and "\n" not in inside):
        at = extent.inside.start + len(inside.rstrip())
        return TextEdit(file, at, at, snippet), 0
    inner = extent.indent + indent_step(markup)
    at = extent.inside.start + len(inside.rstrip())
    tail = "" if "\n" in inside[len(inside.rstrip()) :] else newline + extent.indent
    lead = newline + inner
    return TextEdit(file, at, at, f"{lead}{reindented(snippet, indent, inner)}{tail}"), len(lead)


def _check_tag(tag: str) -> None:
    if not _TAG.match(tag):
        raise EditRefused(
            f"“{tag}” is not an element name.", remedy="Use letters, as in div or section."
        )


def _check_tree(
    markup: Markup,
    patch: Patch,
    offset: int,
    tag: str,
    parent: Element | None,
    held: Sequence[Element],
    more: int = 0,
) -> None:
    """Refuse a patch after which the parser would put the new tag elsewhere than it was meant.

    held: the elements that are to stand inside it. more: how many elements the patch adds.
    """
    texts: Mapping[str, str] = {markup.source.name: markup.source.text}
    changed, _ = apply_patch(patch, texts)
    after = parse_html(markup.source.with_text(changed[markup.source.name]))
    found = next((e for e in after.root.walk() if _start(after, e) == offset), None)
    inside = f" inside {parent.label}" if parent is not None else ""
    if found is None or found.tag != tag:
        raise EditRefused(f"HTML does not allow {tag}{inside}: the parser would ignore its tag.")
    if [e.tag for e in found.child_elements] != [e.tag for e in held]:
        first = held[0].tag if held else "element"
        raise EditRefused(
            f"HTML does not allow {first} inside {tag}: the parser would close the {tag} first.",
            remedy="Use another tag, such as div.",
        )
    got = found.parent
    if parent is None or got is None:
        return
    wanted = _start(markup, parent)
    if got.tag != parent.tag or (
        wanted >= 0 and _start(after, got) != offset_after(patch, markup.source.name, wanted)
    ):
        raise EditRefused(
            f"HTML does not allow {tag} inside {parent.label}: the parser would put it into {got.label}.",
            remedy="Choose another place, or another tag.",
        )
    _check_rest(markup, after, tag, parent, more)


def _check_rest(before: Markup, after: Markup, tag: str, parent: Element, more: int) -> None:
    """The rest of the tree must not fall apart: as many elements as before, and those that are added."""
    old = Counter(e.tag for e in before.root.walk() if e.tag not in _IMPLIED)
    new = Counter(e.tag for e in after.root.walk() if e.tag not in _IMPLIED)
    for name in new:
        if name != tag and new[name] > old[name]:
            raise EditRefused(
                f"HTML does not allow {tag} at this place in {parent.label}: the parser would close or repeat a {name}.",
                remedy="Choose another place, or another tag.",
            )
    if new.total() != old.total() + more:
        raise EditRefused(
            f"tags around this {tag} are not nested correctly: the parser would repair them differently.",
            remedy="Correct the end tags on the Source screen first.",
        )


def _start(markup: Markup, element: Element) -> int:
    tag = markup.start_tag(element)
    return -1 if tag is None else tag.start


def _escaped(text: str) -> str:
    return text.replace("&", "&amp;").replace("<", "&lt;")


def _labels(targets: Sequence[Element]) -> str:
    names = [t.label for t in targets]
    return names[0] if len(names) == 1 else f"{len(names)} elements"
