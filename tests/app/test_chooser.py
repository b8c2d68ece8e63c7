"""A chooser is asked for values, never for labels."""

from pytestqt.qtbot import QtBot

from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.painting.tint import Tint
from redcrate.core.edit.gives import Gives
from tests.app.pointer import choose


def test_what_is_chosen_stays_when_other_values_are_offered(qtbot: QtBot) -> None:
    """Where it is still offered; nothing is told of that; a choice is told once."""
    made = Chooser("Against", {None: "as saved", 820: "at 820 px", 390: "at 390 px"})
    qtbot.addWidget(made)
    taken: list[object] = []
    made.taken.connect(lambda: taken.append(made.chosen))
    made.show()
    choose(made, "at 390 px")
    assert made.chosen == 390 and taken == [390]
    made.offer({None: "as saved", 390: "at 390 px", 200: "at 200 px"})
    assert made.chosen == 390 and taken == [390] and made.values == [None, 390, 200]
    made.offer({1: "one", 2: "two"})
    assert made.chosen == 1


def test_members_are_known_by_their_keys() -> None:
    """Keys and labels are two things, each of them one member's."""
    for members in (list(Tint), list(Gives)):
        assert len({m.value for m in members}) == len(members) == len(set(labels_of(members).values()))
    assert (Gives.CONTENT.value, Gives.CONTENT.label) == ("content", "Content adapts")
