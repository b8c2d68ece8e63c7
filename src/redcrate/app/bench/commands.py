"""The commands of the bench: they go to it where they need it to be seen."""

from collections.abc import Callable
from functools import partial

from redcrate.app.bench.bench import Bench
from redcrate.app.bench.sides import Side
from redcrate.app.commands.command import Command
from redcrate.app.painting.tint import Tint
from redcrate.app.screen import Host
from redcrate.core.edit import tree_edits
from redcrate.core.edit.gives import Gives
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.tree_edits import Where

_LISTS = (
    ("outline", "Show the outline", Side.OUTLINE),
    ("findings-list", "Show the findings beside the sheet", Side.FINDINGS),
    ("classes", "Show the classes of the page", Side.CLASSES),
    ("arrange", "Rows and centring: set a row, centre, take width from neighbours", Side.ROWS),
    ("steps", "Show the history of edits", Side.HISTORY),
    ("comp", "Show the comp, a picture of the intended page", Side.COMP),
)


def bench_commands(host: Host) -> list[Command]:
    """Structure, learning, lists, findings, tints, and what absorbs a change of padding."""
    return [*_structure(host), *_learning(host), *_tints(host), *_lists(host), *_gives(host)]


def _on_bench(host: Host, what: Callable[[Bench], object]) -> None:
    bench = host.screen_named("bench")
    if isinstance(bench, Bench):
        what(bench)


def _has_page(host: Host) -> bool:
    return host.session is not None


def _structure(host: Host) -> list[Command]:
    def chosen() -> bool:
        return host.session is not None and host.session.views.selected is not None

    def add(where: Where) -> None:
        _on_bench(host, lambda bench: bench.selected.structure.add(where))

    def acting(edit: Callable[..., Patch]) -> None:
        _on_bench(host, lambda bench: bench.selected.structure.do_all(edit))

    def take_off() -> None:
        _on_bench(host, lambda bench: bench.budget.take_off())

    def style_to_class() -> None:
        _on_bench(host, lambda bench: bench.selected.structure.style_to_class())

    return [
        *(
            Command(f"add-{w.value}", f"Insert an element {w.label} the selected one", "", partial(add, w), chosen)
            for w in Where
        ),
        Command(
            "take-off", "Subtract padding and border from the width", "", take_off, chosen,
        ),
        Command(
            "duplicate", "Duplicate the selected elements", "",
            partial(acting, tree_edits.duplicated), chosen,
        ),
        Command("delete", "Delete the selected elements", "", partial(acting, tree_edits.deleted), chosen),
        Command("style-class", "Move the style attribute to a class", "", style_to_class, chosen),
    ]  # fmt: skip


def _learning(host: Host) -> list[Command]:
    def switch() -> None:
        host.show_screen("bench")
        _on_bench(host, lambda bench: bench.width_bar.predicts.toggle())

    words = "Predict first on or off: answer what a change will do before it is shown"
    return [Command("predict-first", words, "", switch, partial(_has_page, host))]


def _tints(host: Host) -> list[Command]:
    def tint(which: Tint) -> None:
        _on_bench(host, lambda bench: bench.width_bar.tint.choose(which))

    has_page = partial(_has_page, host)
    return [Command(f"tint-{t.value}", t.label, "", partial(tint, t), has_page) for t in Tint]


def _lists(host: Host) -> list[Command]:
    def side(which: Side) -> None:
        host.show_screen("bench")
        _on_bench(host, lambda bench: bench.show_side(which))

    has_page = partial(_has_page, host)
    return [
        *(Command(name, words, "", partial(side, which), has_page) for name, words, which in _LISTS),
    ]


def _gives(host: Host) -> list[Command]:
    def choose(which: Gives) -> None:
        if host.session is not None:
            host.session.editor.set_gives(which)

    return [
        Command(
            f"gives-{g.value}", f"When padding or border changes: {g.label}", "",
            partial(choose, g), partial(_has_page, host),
        )
        for g in Gives
    ]  # fmt: skip
