"""Random sessions on random pages: whatever is done, undoing it gives the bytes, and the page is that of a fresh session."""

import random
from collections.abc import Callable, Iterator
from pathlib import Path

from redcrate.core.edit.classes import with_class, without_class
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.edit.tree_edits import Where, deleted, duplicated, moved, wrapped
from redcrate.core.errors import RedCrateError
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session
from redcrate.core.style.window_ranges import range_between
from tests.made_pages import FAMILIES, made_page
from tests.snapshot import page_snapshot
from tests.trying import full

_VALUES = ["0", "7", "33px", "12%", "1.5em", "auto", "calc(50% - 9px)", "620-54", "-5", "nonsense"]
Act = Callable[[Session, random.Random], None]


def _element(session: Session, chance: random.Random) -> Element:
    return chance.choice(session.views.page.elements[2:] or session.views.page.elements)


def _typed(session: Session, chance: random.Random) -> None:
    part = chance.choice(["padding", "margin", "border", "width", "height"])
    sides = (
        ("",) if part in ("width", "height") else (chance.choice(["left", "right", "top", "bottom"]),)
    )
    element = _element(session, chance)
    session.views.select(element)
    session.editor.apply(session.editor.plan(element, part, sides, chance.choice(_VALUES)).patch)


def _text(session: Session, chance: random.Random) -> None:
    name = chance.choice(list(session.document.files))
    text = session.document.text(name).text
    start = chance.randrange(len(text) + 1)
    end = min(len(text), start + chance.choice([0, 0, 1, 9]))
    new = chance.choice(
        ["", "x", "<p>", "</div>", "} p { top: 0 ", "\r\n", "é\u0301", "<!--", "&amp;", "\t"]
    )
    session.editor.apply(Patch((TextEdit(name, start, end, new),), "typed"))


def _class(session: Session, chance: random.Random) -> None:
    markup, element = session.views.page.source.markup, _element(session, chance)
    change = with_class if chance.random() < 0.6 else without_class
    session.editor.apply(change(markup, (element,), chance.choice("abc")))


def _tree(session: Session, chance: random.Random) -> None:
    markup, element = session.views.page.source.markup, _element(session, chance)
    way = chance.choice(["wrap", "delete", "duplicate", "move"])
    if way == "wrap":
        session.editor.apply(wrapped(markup, (element,), "div"))
    elif way == "delete":
        session.editor.apply(deleted(markup, (element,)))
    elif way == "duplicate":
        session.editor.apply(duplicated(markup, (element,)))
    else:
        goal, where = _element(session, chance), chance.choice(list(Where))
        session.editor.apply(moved(markup, (element,), goal, where))


def _seen(session: Session, chance: random.Random) -> None:
    if chance.random() < 0.3:
        first = chance.randint(300, 700)
        session.editor.set_window(chance.choice([None, range_between(first, first + 200)]))
    session.views.set_width(chance.choice([320, 500, 900, 1280]))


def _back(session: Session, chance: random.Random) -> None:
    step = chance.choice([session.editor.undo, session.editor.redo])
    step()


def _saved(session: Session, chance: random.Random) -> None:
    session.disk.save()


ACTS: list[Act] = [_typed, _typed, _text, _class, _tree, _seen, _back, _saved]


def one_session(folder: Path, chance: random.Random, steps: int = 12) -> str:
    """What went wrong in a session of some steps; "" where nothing did."""
    page = folder / "p.html"
    page.write_text(
        made_page(chance.choice(sorted(FAMILIES)), chance.randrange(10_000)),
        encoding="utf-8",
        newline="",
    )
    first = page.read_bytes()
    session = Session(page, 500)
    names: list[str] = []
    for _ in range(steps):
        act = chance.choice(ACTS)
        names.append(act.__name__.strip("_"))
        before = session.document.texts()
        try:
            act(session, chance)
        except RedCrateError:
            if session.document.texts() != before:
                return f"a refused edit has changed the texts ({names})"
        if page_snapshot(session.views.page) != page_snapshot(full(session)):
            return f"the page is not that of a fresh session ({names})"
    session.editor.go_to(0)
    session.disk.save()
    return "" if page.read_bytes() == first else f"undone and saved, it is not what it was ({names})"


def sessions(folder: Path, seed: int, runs: int) -> Iterator[str]:
    """So many sessions."""
    for run in range(runs):
        place = folder / f"session-{run}"
        place.mkdir()
        told = one_session(place, random.Random(f"{seed} {run}"))
        yield f"session {seed} {run}: {told}" if told else ""
