"""What layout has found out about boxes, kept beside them: the side table of a page family.

A page family is one page with its edits, previews and window widths: their box trees share boxes, so
what is known of a box serves all of them. Nothing is kept longer than it is in use: what is known of
a box goes with the box, and a fragment goes with the last page that shows it. Threads may share a
cache: each step on it is one step of a dictionary, and what two of them find out is the same.
"""

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING
from weakref import ref

from redcrate.core.boxes.box import Box
from redcrate.core.geometry import Edges
from redcrate.core.layout.extents import Extents
from redcrate.core.layout.forgetting import forgetting
from redcrate.core.layout.fragments import ContentSizes, Fragment
from redcrate.core.layout.inline_items import InlineContent, inline_content
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.units import LayoutUnit

if TYPE_CHECKING:
    from redcrate.core.layout.kept_lines import KeptLines
    from redcrate.core.layout.table.kept import KeptTable


class KeptFragment(ref[Fragment]):
    """A fragment as long as a page shows it; then it takes itself out of its record.

    rises: how far above the box's top its layout looked for floats, 1/64 px.
    """

    __slots__ = ("record", "rises", "space")

    record: "dict[ConstraintSpace, KeptFragment]"
    space: ConstraintSpace
    rises: LayoutUnit


def _gone(dead: "KeptFragment") -> None:
    found = dead.record.pop(dead.space, None)
    if found is not None and found is not dead:
        dead.record.setdefault(dead.space, found)  # it was made anew meanwhile


class BoxRecord:
    """What is known of one box; fields are None until they are asked for."""

    __slots__ = ("collapses_through", "content", "fragments", "keeps_lines", "lines", "sizes", "table")

    def __init__(self) -> None:
        self.content: InlineContent | None = None
        self.keeps_lines: bool | None = None  # whether its lines may serve in another width
        self.lines: KeptLines | None = None
        self.collapses_through: bool | None = None
        self.table: KeptTable | None = None
        self.sizes: dict[ConstraintSpace, ContentSizes] = {}
        self.fragments: dict[ConstraintSpace, KeptFragment] = {}

    def keep(self, space: ConstraintSpace, fragment: Fragment, rises: LayoutUnit) -> None:
        """Keep a fragment as long as a page shows it."""
        kept = KeptFragment(fragment, _gone)
        kept.record, kept.space, kept.rises = self.fragments, space, rises
        self.fragments[space] = kept

    def kept(self) -> Iterator[tuple[ConstraintSpace, Fragment]]:
        """The fragments that are kept, and what each was laid out in."""
        for space, kept in tuple(self.fragments.items()):
            fragment = kept()
            if fragment is not None:
                yield space, fragment

    def alike(
        self,
        space: ConstraintSpace,
        width: LayoutUnit,
        border: Edges,
        padding: Edges,
        *,
        reads_height: bool,
    ) -> Fragment | None:
        """A fragment of the box with that content width and those edges, where heights count alike.

        For boxes that start a block formatting context: what is inside hangs on nothing else. reads_height: the
        height of the containing block counts.
        """
        for known, fragment in self.kept():
            edges = fragment.border, fragment.padding
            if fragment.across.content != width or edges != (border, padding):
                continue
            if known.gives_alike(space, reads_height=reads_height):
                return fragment
        return None


class LayoutCache:
    """The records of all boxes that are in use. extents: how far their fragments reach."""

    def __init__(self) -> None:
        self.extents = Extents()
        self._records: dict[ref[Box], BoxRecord] = {}
        self._forget: Callable[[ref[Box]], object] = forgetting(self._records)

    def __len__(self) -> int:
        return len(self._records)

    def of(self, box: Box) -> BoxRecord:
        """The record of a box."""
        found = self._records.get(ref(box))
        if found is None:
            found = self._records.setdefault(ref(box, self._forget), BoxRecord())
        return found

    def inline_content(self, box: Box) -> InlineContent:
        """The items of a block container that holds lines; made once for each box."""
        record = self.of(box)
        if record.content is None:
            record.content = inline_content(box)
        return record.content
