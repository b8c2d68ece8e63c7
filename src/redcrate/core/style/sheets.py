"""What a stylesheet is: rules and declarations that know their place in the file."""

from collections.abc import Container
from dataclasses import replace
from enum import IntEnum
from threading import RLock
from typing import Any, NamedTuple, Protocol

from redcrate.core.markup.source_text import SourceText
from redcrate.core.notices import Notice
from redcrate.core.records import dataclass
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
class RuleBody:
    """What only reading a rule tells. notices: what was dropped of it."""

    selectors: tuple[Selector, ...] = ()
    declarations: tuple[Declaration, ...] = ()
    attributes: frozenset[str] = frozenset()
    notices: tuple[Notice, ...] = ()


class StyleRule:
    """One rule, which may be read when it is asked for; it never changes.

    selector_text: as written. media: the queries of the @media blocks around it. start: offset of the
    prelude in `file`. layer: the cascade layer that it stands in. selectors, declarations: what it says. attributes:
    those that its values refer to by attr().
    """

    __slots__ = (
        "_body",
        "file",
        "layer",
        "line",
        "media",
        "origin",
        "selector_text",
        "start",
        "unread",
    )

    def __init__(
        self,
        selector_text: str,
        body: "RuleBody | UnreadBody",
        media: tuple[MediaList, ...],
        origin: Origin,
        file: str,
        line: int,
        start: int,
        layer: LayerName = NO_LAYER,
    ) -> None:
        self.selector_text = selector_text
        self.media, self.origin, self.layer = media, origin, layer
        self.file, self.line, self.start = file, line, start
        self.unread = None if isinstance(body, RuleBody) else body
        self._body = body if isinstance(body, RuleBody) else None

    @property
    def body(self) -> RuleBody:
        """What it says, read now if nobody has asked before."""
        if self._body is None:
            assert self.unread is not None
            with _READING:  # so that a declaration is one object for all
                if self._body is None:
                    self._body = self.unread.read(self)
        return self._body

    @property
    def is_read(self) -> bool:
        """Whether somebody has asked for what it says, or it was read at once."""
        return self._body is not None

    @property
    def selectors(self) -> tuple[Selector, ...]:
        """Which elements it is about."""
        return self.body.selectors

    @property
    def declarations(self) -> tuple[Declaration, ...]:
        """What it declares."""
        return self.body.declarations

    @property
    def attributes(self) -> frozenset[str]:
        """Those that its values refer to by attr(); a rule that does is read at once."""
        return frozenset() if self.unread is not None else self.body.attributes

    def may_match(self, names: Container[str]) -> bool:
        """Whether anything on a page with those classes, ids and tags can match it; told without reading it."""
        if self.unread is None:
            return True
        return any(all(name in names for name in needed) for needed in self.unread.needs)

    def moved(self, lines: int, by: int) -> "StyleRule":
        """The rule after its text moved so many lines and characters further down in its file."""
        body: RuleBody | UnreadBody
        if self._body is not None:
            body = moved_body(self._body, lines, by)
        else:
            assert self.unread is not None
            body = self.unread
        made = StyleRule(
            self.selector_text, body, self.media, self.origin, self.file, self.line + lines,
            self.start + by, self.layer,
        )  # fmt: skip
        made.unread = self.unread
        return made

    @property
    def label(self) -> str:
        """The selector as it is shown: on one line, however it was broken."""
        return " ".join(self.selector_text.split())


class UnreadBody(Protocol):
    """The text of a rule that is read later. needs: for each selector the names without which it matches nothing."""

    @property
    def needs(self) -> tuple[frozenset[str], ...]:
        """`.class`, `#id` and `tag`."""

    def read(self, rule: StyleRule) -> RuleBody:
        """What it says, with places counted from where the rule stands."""


def moved_body(body: RuleBody, lines: int, by: int) -> RuleBody:
    """What a rule says, so much further down in its file."""
    return RuleBody(
        body.selectors,
        tuple(replace(d, line=d.line + lines, offset=d.offset + by) for d in body.declarations),
        body.attributes,
        tuple(replace(n, line=n.line + lines, offset=n.offset + by) for n in body.notices),
    )


_READING = RLock()


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

    The others: how many rules, notices that were told at once, and so on, stand before it.
    """

    start: int
    rules: int
    told: int
    layers: int
    font_faces: int
    media_rules: int


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class Sheet:
    """One stylesheet in cascade order, its imports already in front of its rules.

    told: notices of what was read at once. layers: as they appear, names of layers again where they appear again. parts:
    in order. first_offset, first_line: where the sheet begins in its file. imports: whether it asks for others, which may
    change while it does not.
    """

    source: SourceText
    rules: tuple[StyleRule, ...]
    told: tuple[Notice, ...]
    layers: tuple[LayerName, ...] = ()
    font_faces: tuple[FontFaceRule, ...] = ()
    media_rules: tuple[MediaRule, ...] = ()
    parts: tuple[SheetPart, ...] = ()
    first_offset: int = 0
    first_line: int = 1
    imports: bool = False

    @property
    def is_read(self) -> bool:
        """Whether all rules were read, at once or when they were asked for."""
        return all(rule.is_read for rule in self.rules)

    @property
    def notices(self) -> tuple[Notice, ...]:
        """All that was dropped, in the order of the text; reads all rules."""
        later = [r for r in self.rules if r.unread is not None]
        if not any(r.body.notices for r in later):
            return self.told
        places = [(p.rules, p.told) for p in self.parts] or [(0, 0)]
        ends = [*places[1:], (len(self.rules), len(self.told))]
        found = list(self.told[: places[0][1]])
        for (rule, notice), (last_rule, last_notice) in zip(places, ends, strict=True):
            found += _in_order(self.told[notice:last_notice], self.rules[rule:last_rule])
        return tuple(found)


def _in_order(told: tuple[Notice, ...], rules: tuple[StyleRule, ...]) -> list[Notice]:
    """The notices of one part, those of rules that were read later among them."""
    later = [n for r in rules if r.unread is not None for n in r.body.notices]
    if not later:
        return list(told)
    files = list(dict.fromkeys(n.file for n in (*told, *later)))
    return sorted((*told, *later), key=lambda n: (files.index(n.file), n.offset))
