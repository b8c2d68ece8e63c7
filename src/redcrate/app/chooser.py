"""A choice of one of several values, each with its label; what was chosen is known by the value, never by the label."""

from collections.abc import Hashable, Iterable, Mapping
from typing import Generic, TypeVar

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QSizePolicy

from redcrate.core.labelled import Labelled

Value = TypeVar("Value", bound=Hashable)
Member = TypeVar("Member", bound=Labelled)


class Chooser(QComboBox, Generic[Value]):
    """A list of labels. taken: another value was chosen, by a person or by `choose`."""

    taken = pyqtSignal()

    def __init__(self, name: str, labels: Mapping[Value, str]) -> None:
        """name: for those who do not see it. labels: by value, in their order; the first one is chosen."""
        super().__init__()
        self._values: list[Value] = []
        self.setAccessibleName(name)
        self.offer(labels)
        self.currentIndexChanged.connect(lambda _: self.taken.emit())

    def offer(self, labels: Mapping[Value, str]) -> None:
        """Offer other values; nothing is told, and what was chosen stays where it is still offered."""
        known = self.chosen if self._values else None
        self.blockSignals(True)
        self._values = list(labels)
        self.clear()
        self.addItems(list(labels.values()))
        if known in self._values:
            self.setCurrentIndex(self._values.index(known))
        self.blockSignals(False)

    @property
    def values(self) -> list[Value]:
        """All that can be chosen."""
        return list(self._values)

    @property
    def chosen(self) -> Value:
        """The value that is chosen; raises IndexError where none is offered."""
        return self._values[max(0, self.currentIndex())]

    def choose(self, value: Value) -> None:
        """Choose a value; raises ValueError for one that is not offered."""
        self.setCurrentIndex(self._values.index(value))

    def fill_column(self) -> "Chooser[Value]":
        """As wide as the column around it, whatever its longest label is."""
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(12)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        return self


def labels_of(members: Iterable[Member]) -> dict[Member, str]:
    """The labels of an enumeration's members."""
    return {member: member.label for member in members}
