"""How many predictions were right, by topic."""

from collections.abc import Mapping
from dataclasses import field

from redcrate.core.predictions.question import Topic
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Count:
    """So many were right of those that were asked."""

    right: int = 0
    asked: int = 0


@dataclass(frozen=True, slots=True)
class Record:
    """The counts by topic."""

    counts: Mapping[Topic, Count] = field(default_factory=dict)

    def with_one(self, topic: Topic, *, is_right: bool) -> "Record":
        """The record with one more answer."""
        now = self.counts.get(topic, Count())
        return Record({**self.counts, topic: Count(now.right + is_right, now.asked + 1)})

    @property
    def sentence(self) -> str:
        """“Sums: 40 of 48 right; Collapsing margins: 3 of 9 right”; "" where nothing was answered."""
        asked = [(t, self.counts[t]) for t in Topic if t in self.counts]
        return "; ".join(f"{t.label}: {c.right} of {c.asked} right" for t, c in asked)

    @property
    def data(self) -> dict[str, tuple[int, int]]:
        """The record as plain data."""
        return {t.value: (c.right, c.asked) for t, c in self.counts.items()}


def record_of(data: Mapping[str, tuple[int, int]]) -> Record:
    """The record from its data; what is no topic of ours, or more right than asked, is left out."""
    pairs = {topic: data[topic.value] for topic in Topic if topic.value in data}
    return Record({t: Count(right, asked) for t, (right, asked) in pairs.items() if right <= asked})
