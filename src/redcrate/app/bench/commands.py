"""The commands of the bench: they go to it where they need it to be seen."""

from collections.abc import Callable
from functools import partial

from redcrate.app.bench.bench import Bench
from redcrate.app.commands.command import Command
from redcrate.app.painting.tint import Tint
from redcrate.app.screen import Host
from redcrate.core.edit import tree_edits
from redcrate.core.edit.gives import Gives
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.tree_edits import Where

_LISTS = (
    ("outline", "Show the outline", "Outline"),
    ("findings", "Show the findings", "Findings"),
    ("classes", "Show the classes of the page", "Classes"),
    ("arrange", "Fit a row, centre, let neighbours give", "Arrange"),
    ("steps", "Show the steps that were done", "Steps"),
)


def bench_commands(host: Host) -> list[Command]:
    """Structure, learning, lists, findings, tints, and what gives."""
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

    words = {where: where.value.split(",")[0] for where in Where}
    return [
        *(
            Command(f"add-{word}", f"Add an element {word} the selected one", "", partial(add, where), chosen)
            for where, word in words.items()
        ),
        Command("take-off", "Take padding and border off the width that was given", "", take_off, chosen),
        Command(
            "duplicate", "Duplicate the selected elements", "",
            partial(acting, tree_edits.duplicated), chosen,
        ),
        Command("delete", "Delete the selected elements", "", partial(acting, tree_edits.deleted), chosen),
        Command("style-class", "Move the element's own style into a class", "", style_to_class, chosen),
    ]  # fmt: skip


def _learning(host: Host) -> list[Command]:
    def switch() -> None:
        host.show_screen("bench")
        _on_bench(host, lambda bench: bench.width_bar.predicts.toggle())

    words = "Predict first: say what a change will do before it is shown, or no longer"
    return [Command("predict-first", words, "", switch, partial(_has_page, host))]


def _tints(host: Host) -> list[Command]:
    def tint(which: Tint) -> None:
        _on_bench(host, lambda bench: bench.width_bar.tint.setCurrentText(which.value))

    has_page = partial(_has_page, host)
    return [
        Command(
            f"tint-{t.name.lower()}", f"Blocks on the sheet: {t.value}", "", partial(tint, t), has_page
        )
        for t in Tint
    ]


def _lists(host: Host) -> list[Command]:
    def side(name: str) -> None:
        host.show_screen("bench")
        _on_bench(host, lambda bench: bench.show_side(name))

    def finding(step: int) -> None:
        side("Findings")
        _on_bench(host, lambda bench: bench.findings.go(step))

    has_page = partial(_has_page, host)
    return [
        Command("next-finding", "Next finding", "Alt+N", partial(finding, 1), has_page),
        Command("previous-finding", "Previous finding", "Alt+Shift+N", partial(finding, -1), has_page),
        *(Command(name, words, "", partial(side, which), has_page) for name, words, which in _LISTS),
    ]


def _gives(host: Host) -> list[Command]:
    def choose(which: Gives) -> None:
        if host.session is not None:
            host.session.editor.set_gives(which)

    return [
        Command(
            f"gives-{g.name.lower()}", f"When padding or border changes: {g.value}", "",
            partial(choose, g), partial(_has_page, host),
        )
        for g in Gives
    ]  # fmt: skip
