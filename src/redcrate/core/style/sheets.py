"""What a stylesheet is: rules and declarations that know their place in the file."""

from dataclasses import dataclass
from enum import IntEnum
from typing import Any, NamedTuple

from redcrate.core.markup.source_text import SourceText
from redcrate.core.notices import Notice
from redcrate.core.style.font_faces import FontFaceRule
from redcrate.core.style.layers import NO_LAYER, LayerName
from redcrate.core.style.media import MediaList
from redcrate.core.style.selectors import Selector
from redcrate.core.style.window_ranges import WindowRange


class Origin(IntEnum):
    """Where a declaration comes from, in cascade order for normal ones (CSS Cascade 4 §6.1)."""

    USER_AGENT = 0
    HINT = 1  # presentational hints of attributes
    AUTHOR = 2
    INLINE = 3  # the style attribute


@dataclass(frozen=True, slots=True, eq=False)
class Declaration:
    """One valid declaration.

    text: the value as written. offset: where the declaration begins in `file` (characters, from 0).
    longhands: the longhands it sets, each with its specified value, CssWide or Pending; for a custom
    property its own name and its tokens.
    """

    name: str
    text: str
    important: bool
    file: str
    line: int
    offset: int
    longhands: dict[str, Any]


@dataclass(frozen=True, slots=True, eq=False)
class StyleRule:
    """One rule.

    selector_text: as written. media: the queries of the @media blocks around it. start: offset of the
    prelude in `file`. layer: the cascade layer that it stands in. attributes: those that its values
    refer to by attr().
    """

    selector_text: str
    selectors: tuple[Selector, ...]
    declarations: tuple[Declaration, ...]
    media: tuple[MediaList, ...]
    origin: Origin
    file: str
    line: int
    start: int
    layer: LayerName = NO_LAYER
    attributes: frozenset[str] = frozenset()

    @property
    def label(self) -> str:
        """The selector as it is shown: on one line, however it was broken."""
        return " ".join(self.selector_text.split())


@dataclass(frozen=True, slots=True, eq=False)
class MediaRule:
    """One @media block. media: its queries and those of the blocks around it. start: offset of its `@` in `file`.

    window: the range of window widths that is all it asks for; None where it asks for more, or where other than such
    blocks stands around it (a layer, a style rule, a scope, another condition).
    """

    media: tuple[MediaList, ...]
    file: str
    line: int
    start: int
    window: WindowRange | None


class SheetPart(NamedTuple):
    """One rule or at-rule of a sheet that stands in no other: where it begins in the text of the sheet.

    The others: how many rules, notices, and so on, were read before it.
    """

    start: int
    rules: int
    notices: int
    layers: int
    font_faces: int
    media_rules: int


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class Sheet:
    """One stylesheet in cascade order, its imports already in front of its rules.

    layers: as they appear, names of layers again where they appear again. parts: in order. first_offset, first_line:
    where the sheet begins in its file. imports: whether it asks for others, which may change while it does not.
    """

    source: SourceText
    rules: tuple[StyleRule, ...]
    notices: tuple[Notice, ...]
    layers: tuple[LayerName, ...] = ()
    font_faces: tuple[FontFaceRule, ...] = ()
    media_rules: tuple[MediaRule, ...] = ()
    parts: tuple[SheetPart, ...] = ()
    first_offset: int = 0
    first_line: int = 1
    imports: bool = False
