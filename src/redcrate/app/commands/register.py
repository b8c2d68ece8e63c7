"""The register of all commands: buttons, keys and the searchable list are made from it."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from redcrate.app.commands.command import Command
from redcrate.app.painting.tint import Tint
from redcrate.core.edit import tree_edits
from redcrate.core.edit.gives import Gives
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.tree_edits import Where

if TYPE_CHECKING:
    from redcrate.app.window import Window


def all_commands(window: "Window") -> list[Command]:
    """Every command of the window."""
    return [
        *_file_commands(window),
        *_edit_commands(window),
        *_view_commands(window),
        *_side_commands(window),
        *_gives_commands(window),
    ]


def _file_commands(window: "Window") -> list[Command]:
    def has_page() -> bool:
        return window.session is not None

    def edited() -> bool:
        return window.session is not None and window.session.document.is_edited

    return [
        Command("open", "Open a page…", "Ctrl+O", window.choose_page, teaches="Right click: pages opened before"),
        Command("recent", "Pages opened before", "Ctrl+Shift+O", window.show_recent),
        Command("new", "New page from a frame", "Ctrl+N", window.show_new_page, teaches="Wrapper, header, columns"),
        Command("save", "Save", "Ctrl+S", window.save, edited),
        Command("save-as", "Save as, with stylesheets and pictures…", "Ctrl+Shift+S", window.save_as, has_page),
        Command(
            "diagram", "Box diagram…", "Ctrl+D", window.choose_diagram, has_page,
            "Save a labelled drawing of the selected block as SVG",
        ),
        Command("quit", "Close the window", "Ctrl+Q", window.close),
    ]  # fmt: skip


def _edit_commands(window: "Window") -> list[Command]:
    def done() -> bool:
        return window.session is not None and bool(window.session.editor.history.done)

    def undone() -> bool:
        return window.session is not None and bool(window.session.editor.history.undone)

    def chosen() -> bool:
        return window.session is not None and window.session.views.selected is not None

    def structure(where: Where) -> None:
        if window.bench is not None:
            window.bench.selected.structure.add(where)

    def acting(edit: Callable[..., Patch]) -> None:
        if window.bench is not None:
            window.bench.selected.structure.do_all(edit)

    def style_to_class() -> None:
        if window.bench is not None:
            window.bench.selected.structure.style_to_class()

    found = [
        Command("undo", "Undo", "Ctrl+Z", window.undo, done),
        Command("redo", "Redo", "Ctrl+Shift+Z", window.redo, undone),
    ]
    for where in Where:
        word = where.value.split(",")[0]
        words = f"Add an element {word} the selected one"
        found.append(Command(f"add-{word}", words, "", partial(structure, where), chosen))

    def take_off() -> None:
        if window.bench is not None:
            window.bench.budget.take_off()

    found += [
        Command("take-off", "Take padding and border off the width that was given", "", take_off, chosen),
        Command(
            "duplicate", "Duplicate the selected elements", "",
            partial(acting, tree_edits.duplicated), chosen,
        ),
        Command("delete", "Delete the selected elements", "", partial(acting, tree_edits.deleted), chosen),
        Command(
            "style-class", "Move the element's own style into a class", "",
            style_to_class, chosen,
        ),
    ]  # fmt: skip
    return found


def _view_commands(window: "Window") -> list[Command]:
    def has_page() -> bool:
        return window.session is not None

    def set_tint(tint: Tint) -> None:
        if window.bench is not None:
            window.bench.width_bar.tint.setCurrentText(tint.value)

    screens = [
        ("bench", "Bench", "Ctrl+1", "Sheet, outline and budget"),
        ("source", "Source", "Ctrl+2", "The page's HTML and CSS as text"),
    ]
    found = [
        Command(
            "commands",
            "All commands",
            "Alt+C",
            lambda: window.command_list.open(),
            teaches="Find any command by its words",
        )
    ]
    for name, words, keys, teaches in screens:
        found.append(Command(name, words, keys, partial(window.show_screen, name), has_page, teaches))
    for tint in Tint:
        words = f"Blocks on the sheet: {tint.value}"
        found.append(Command(f"tint-{tint.name.lower()}", words, "", partial(set_tint, tint), has_page))
    return found


def _side_commands(window: "Window") -> list[Command]:
    def has_page() -> bool:
        return window.session is not None

    def side(name: str) -> None:
        if window.bench is not None:
            window.show_screen("bench")
            window.bench.show_side(name)

    def finding(step: int) -> None:
        if window.bench is not None:
            side("Findings")
            window.bench.findings.go(step)

    lists = [
        ("outline", "Show the outline", "Outline"),
        ("findings", "Show the findings", "Findings"),
        ("classes", "Show the classes of the page", "Classes"),
        ("arrange", "Fit a row, centre, let neighbours give", "Arrange"),
        ("steps", "Show the steps that were done", "Steps"),
    ]
    return [
        Command("next-finding", "Next finding", "Alt+N", partial(finding, 1), has_page),
        Command("previous-finding", "Previous finding", "Alt+Shift+N", partial(finding, -1), has_page),
        *(Command(name, words, "", partial(side, which), has_page) for name, words, which in lists),
    ]


def _gives_commands(window: "Window") -> list[Command]:
    def has_page() -> bool:
        return window.session is not None

    def choose(gives: Gives) -> None:
        if window.session is not None:
            window.session.editor.set_gives(gives)

    return [
        Command(
            f"gives-{gives.name.lower()}",
            f"When padding or border changes: {gives.value}",
            "",
            partial(choose, gives),
            has_page,
        )
        for gives in Gives
    ]
