"""Stylesheets: text → rules whose declarations know their place, by `tinycss2`.

CSS errors recover as CSS Syntax 3 §2.2 says; what was dropped is a notice.
"""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from enum import IntEnum
from threading import Lock
from typing import Any

from redcrate.core.markup.source_text import SourceText
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import (
    block_contents,
    component_values,
    css_text,
    rule_nodes,
    stylesheet_nodes,
)
from redcrate.core.style.media import MediaList, parse_media_list
from redcrate.core.style.properties import (
    LOGICAL,
    PROPERTIES,
)
from redcrate.core.style.quirks import takes_plain_numbers, with_units
from redcrate.core.style.selectors import Selector, SelectorNotUnderstood, compile_selectors
from redcrate.core.style.shorthands import SHORTHANDS, longhands_of, parse_longhand
from redcrate.core.style.standards import Verdict, old_name_of, standards

CSS_WIDE = ("inherit", "initial", "unset", "revert", "revert-layer")


class Origin(IntEnum):
    """Where a declaration comes from, in cascade order for normal ones (CSS Cascade 4 §6.1)."""

    USER_AGENT = 0
    HINT = 1  # presentational hints of attributes
    AUTHOR = 2
    INLINE = 3  # the style attribute


@dataclass(frozen=True, slots=True)
class CssWide:
    """One of the keywords that every property takes: CSS Cascade 4 §7.3."""

    keyword: str


@dataclass(frozen=True, slots=True, eq=False)
class Pending:
    """A value with var(): parsed after substitution (CSS Variables 1 §3). `name` may be a shorthand."""

    name: str
    tokens: tuple[Any, ...]


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
    prelude in `file`. order: its place among all rules of the page.
    """

    selector_text: str
    selectors: tuple[Selector, ...]
    declarations: tuple[Declaration, ...]
    media: tuple[MediaList, ...]
    origin: Origin
    file: str
    line: int
    start: int

    @property
    def label(self) -> str:
        """The selector as it is shown: on one line, however it was broken."""
        return " ".join(self.selector_text.split())


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class Sheet:
    """One stylesheet in cascade order, its imports already in front of its rules."""

    source: SourceText
    rules: tuple[StyleRule, ...]
    notices: tuple[Notice, ...]


# CSS Cascade 4 §3.2: `all` takes only the CSS-wide keywords.
_ALL = tuple(n for n in PROPERTIES if n != "direction")
# Loads what @import names: (address, file that imports) → text or None (a notice was made).
ImportLoader = Callable[[str, str], "SourceText | None"]
_DEEPEST_IMPORT = 16


def parse_sheet(
    source: SourceText,
    origin: Origin = Origin.AUTHOR,
    *,
    first_offset: int = 0,
    whole: SourceText | None = None,
    load_import: ImportLoader | None = None,
    media: tuple[MediaList, ...] = (),
    quirks: bool = False,
) -> Sheet:
    """The rules of a stylesheet.

    source: the CSS text. whole and first_offset: for CSS inside an HTML file, that file and the
    offset at which the CSS begins in it, so that places count in the file that people know. quirks: the
    page is in quirks mode, in which lengths need no unit.
    """
    reader = _SheetReader(source, origin, first_offset, whole or source, load_import)
    reader.quirks = quirks
    reader.read(source.text, media)
    return Sheet(source, tuple(reader.rules), tuple(reader.notices))


def parse_style_attribute(
    text: str, file: str, line: int, offset: int, *, quirks: bool = False
) -> Sheet:
    """The declarations of a style attribute as one rule without selectors.

    line and offset: where the attribute's value begins in the file.
    """
    source = SourceText(file, text)
    reader = _SheetReader(source, Origin.INLINE, offset, source, None)
    reader.line_shift = line - 1
    reader.quirks = quirks
    contents = block_contents(text)
    declarations = tuple(reader.declarations(contents, ()))
    rule = StyleRule("style attribute", (), declarations, (), Origin.INLINE, file, line, offset)
    return Sheet(source, (rule,), tuple(reader.notices))


def moved_style_attribute(sheet: Sheet, lines: int, by: int) -> Sheet:
    """A style attribute's sheet after the attribute moved in the file by so many lines and characters."""
    (rule,) = sheet.rules
    declarations = tuple(
        replace(d, line=d.line + lines, offset=d.offset + by) for d in rule.declarations
    )
    rule = replace(rule, declarations=declarations, line=rule.line + lines, start=rule.start + by)
    notices = tuple(replace(n, line=n.line + lines, offset=n.offset + by) for n in sheet.notices)
    return replace(sheet, rules=(rule,), notices=notices)


@dataclass(slots=True)
class _ImportsLeft:
    """How much one sheet may still import: files that import each other twice grow without end."""

    files: int = 500
    characters: int = 2**24

    def take(self, characters: int) -> bool:
        """Count one more file; whether it is within the limits."""
        self.files -= 1
        self.characters -= characters
        return self.files >= 0 and self.characters >= 0


class _SheetReader:
    """Walks the syntax tree of one sheet and collects rules and notices."""

    def __init__(
        self,
        source: SourceText,
        origin: Origin,
        first_offset: int,
        whole: SourceText,
        load_import: ImportLoader | None,
    ) -> None:
        self.source = source
        self.origin = origin
        self.first_offset = first_offset
        self.whole = whole
        self.load_import = load_import
        self.rules: list[StyleRule] = []
        self.notices: list[Notice] = []
        self.line_shift: int | None = None
        self.chain: tuple[str, ...] = (whole.name,)  # the files being read, outermost first
        self.left = _ImportsLeft()
        self.quirks = False

    def place(self, node: Any) -> tuple[int, int]:
        """The line and offset of a syntax node in the file."""
        offset = self.source.offset_of(node.source_line, node.source_column) + self.first_offset
        if self.line_shift is not None:
            return node.source_line + self.line_shift, offset
        return self.whole.line_of(offset), offset

    def note(self, kind: NoticeKind, sentence: str, node: Any) -> None:
        """Keep a notice, unless the sheet is Red Crate's own."""
        if self.origin is not Origin.USER_AGENT:
            line, offset = self.place(node)
            self.notices.append(Notice(kind, sentence, self.whole.name, line, offset))

    def read(self, text: str, media: tuple[MediaList, ...]) -> None:
        """Read all rules of `text`."""
        nodes = stylesheet_nodes(text)
        if nodes and nodes[-1].type in ("qualified-rule", "at-rule") and _is_unclosed(text):
            self.note(
                NoticeKind.BAD_SYNTAX,
                "a brace is never closed: everything after it belongs to this rule.",
                nodes[-1],
            )
        self.read_nodes(nodes, media)

    def read_nodes(self, nodes: list[Any], media: tuple[MediaList, ...]) -> None:
        """Read rules and at-rules of one level."""
        for node in nodes:
            if node.type == "qualified-rule":
                self.read_rule(node, media)
            elif node.type == "at-rule":
                self.read_at_rule(node, media)
            elif node.type == "error":
                self.note(NoticeKind.BAD_SYNTAX, f"{_syntax_fault(node)}; skipped.", node)

    def read_rule(self, node: Any, media: tuple[MediaList, ...]) -> None:
        """Read one style rule; an invalid selector drops it (Selectors 4 §4.1)."""
        prelude = css_text(node.prelude).strip()
        try:
            selectors = compile_selectors(node.prelude)
        except SelectorNotUnderstood as problem:
            self.note(
                NoticeKind.BAD_SELECTOR,
                f"the selector “{' '.join(prelude.split())[:80]}” is not understood ({problem}): its rule is skipped.",
                node,
            )
            return
        contents = block_contents(node.content)
        line, start = self.place(node)
        declarations = tuple(self.declarations(contents, media))
        self.rules.append(
            StyleRule(
                prelude,
                tuple(selectors),
                declarations,
                media,
                self.origin,
                self.whole.name,
                line,
                start,
            )
        )

    def read_at_rule(self, node: Any, media: tuple[MediaList, ...]) -> None:
        """Read one at-rule: @media, @import and @supports are carried out."""
        keyword = node.lower_at_keyword
        if keyword == "media" and node.content is not None:
            text = css_text(node.prelude).strip()
            inner = (*media, parse_media_list(node.prelude, text))
            self.read_nodes(rule_nodes(node.content), inner)
        elif keyword in ("supports", "layer", "scope", "container") and node.content is not None:
            if keyword != "supports":
                self.note(NoticeKind.NOT_COMPUTED, f"@{keyword} is read as if it were not there.", node)
            self.read_nodes(rule_nodes(node.content), media)
        elif keyword == "import":
            self.read_import(node, media)
        elif keyword == "font-face":
            self.note(
                NoticeKind.NOT_COMPUTED,
                "@font-face files are not loaded; a bundled font stands in.",
                node,
            )

    def read_import(self, node: Any, media: tuple[MediaList, ...]) -> None:
        """CSS Cascade 4 §2: the imported sheet stands in front of the rules."""
        prelude = significant(node.prelude)
        address = _import_address(prelude[0]) if prelude else None
        if address is None or self.load_import is None:
            self.note(NoticeKind.BAD_SYNTAX, "@import without an address; skipped.", node)
            return
        loaded = self.load_import(address, self.whole.name)
        refused = self._import_refused(address, loaded)
        if loaded is None or refused:
            self.note(NoticeKind.MISSING_FILE, refused, node)
            return
        queries = prelude[1:]
        if queries:
            text = css_text(queries).strip()
            media = (*media, parse_media_list(queries, text))
        reader = _SheetReader(loaded, self.origin, 0, loaded, self.load_import)
        reader.chain = (*self.chain, loaded.name)
        reader.left = self.left
        reader.quirks = self.quirks
        reader.read(loaded.text, media)
        self.rules.extend(reader.rules)
        self.notices.extend(reader.notices)

    def _import_refused(self, address: str, loaded: SourceText | None) -> str:
        """Why a file is not imported, "" if it is; the same file may well come in twice."""
        if loaded is None:
            return f"the imported file “{address}” was not loaded."
        if loaded.name in self.chain:
            return f"“{address}” imports itself in the end; skipped."
        if len(self.chain) > _DEEPEST_IMPORT:
            return "@import goes too deep; skipped."
        if not self.left.take(len(loaded.text)):
            return "the page imports too much; skipped."
        return ""

    def declarations(self, contents: list[Any], media: tuple[MediaList, ...]) -> Iterator[Declaration]:
        """The valid declarations of a block."""
        for node in contents:
            if node.type == "declaration":
                made = self.declaration(node)
                if made is not None:
                    yield made
            elif node.type == "error":
                self.note(NoticeKind.BAD_SYNTAX, f"{_syntax_fault(node)}; skipped.", node)
            elif node.type in ("qualified-rule", "at-rule"):
                self.note(NoticeKind.NOT_COMPUTED, "a rule inside a rule is not computed.", node)

    def declaration(self, node: Any) -> Declaration | None:
        """One declaration, or None (with a notice) if it is dropped."""
        name = node.name if node.name.startswith("--") else node.lower_name
        text = css_text(node.value).strip()
        longhands = _PARSED.of(name, text, node.value)
        if longhands is None and self.quirks and takes_plain_numbers(name):
            mended = component_values(with_units(name, node.value))
            longhands = _PARSED.of(name, css_text(mended).strip(), mended)
        if longhands is None:
            self._explain_dropped(name, text, node)
            return None
        line, offset = self.place(node)
        return Declaration(name, text, node.important, self.whole.name, line, offset, longhands)

    def _explain_dropped(self, name: str, text: str, node: Any) -> None:
        """A notice that tells unknown, not allowed and not computed apart; none for what moves no box."""
        tokens = significant(node.value)
        verdict = standards().verdict(name, tokens)
        if name.startswith("-") or verdict is Verdict.NO_EFFECT:
            return
        if verdict is Verdict.NOT_COMPUTED and tokens:
            shown = text if len(text) <= 60 else text[:57] + "…"
            sentence = f"{name}: {shown} is valid, but not computed here."
            self.note(NoticeKind.NOT_COMPUTED, sentence, node)
        elif verdict is Verdict.UNKNOWN:
            self.note(NoticeKind.UNKNOWN_PROPERTY, f"there is no property “{name}”; skipped.", node)
        else:
            self.note(*_why_invalid(name, text, tokens), node)


def _syntax_fault(node: Any) -> str:
    message = str(node.message).rstrip(".")
    if "Stop token" in message or "EOF" in message:
        return "something is missing here, such as a colon, a semicolon or a brace"
    return message


def _why_invalid(name: str, text: str, tokens: list[Any]) -> tuple[NoticeKind, str]:
    shown = text if len(text) <= 60 else text[:57] + "…"
    if any(t.type == "literal" and t.value == "," for t in tokens):
        spaced = [t for t in tokens if not (t.type == "literal" and t.value == ",")]
        if parse_declaration(name, spaced) is not None:
            return (
                NoticeKind.COMMA_IN_SHORTHAND,
                f"{name}: {shown} has commas; values are separated by spaces. It is skipped.",
            )
    if any(t.type == "number" and t.value != 0 for t in tokens):
        return (
            NoticeKind.MISSING_UNIT,
            f"{name}: {shown} lacks a unit, such as px. It is skipped.",
        )
    return NoticeKind.INVALID_VALUE, f"{name} cannot be “{shown}”; skipped."


def parse_declaration(name: str, value: list[Any]) -> dict[str, Any] | None:
    """The longhands that `name: value` sets, or None if it is no valid declaration."""
    if name.startswith("--"):
        return {name: tuple(value)}
    names = _ALL if name == "all" else longhands_of(name)
    if not names:
        alias = old_name_of(name)
        return parse_declaration(alias, value) if alias != name else None
    tokens = significant(value)
    if not tokens:
        return None
    if _has_var(tokens):
        pending = Pending(name, tuple(value))
        return dict.fromkeys(names, pending)
    if len(tokens) == 1 and tokens[0].type == "ident" and tokens[0].lower_value in CSS_WIDE:
        return dict.fromkeys(names, CssWide(tokens[0].lower_value))
    if name == "all":
        return None
    if name in PROPERTIES or name in LOGICAL:
        found = parse_longhand(name, tokens)
        return None if found is None else {name: found}
    return SHORTHANDS[name](tokens)


class _ParsedDeclarations:
    """The longhands of declarations by their text: one object for each, for all sheets of the program.

    The oldest go when there are too many. Threads may share it.
    """

    def __init__(self, kept: int) -> None:
        self._kept = kept
        self._lock = Lock()
        self._found: dict[tuple[str, str], dict[str, Any] | None] = {}

    def of(self, name: str, text: str, value: list[Any]) -> dict[str, Any] | None:
        """What `name: value` sets; None if it is no valid declaration. text: of `value`."""
        key = (name, text)
        with self._lock:
            if key in self._found:
                return self._found[key]
        found = parse_declaration(name, value)
        with self._lock:
            if len(self._found) >= self._kept:
                del self._found[next(iter(self._found))]
            return self._found.setdefault(key, found)


_PARSED = _ParsedDeclarations(20_000)


def _has_var(tokens: list[Any]) -> bool:
    stack = list(tokens)
    while stack:
        token = stack.pop()
        if token.type == "function":
            if token.lower_name == "var":
                return True
            stack.extend(token.arguments)
        elif token.type in ("() block", "[] block", "{} block"):
            stack.extend(token.content)
    return False


def _import_address(token: Any) -> str | None:
    if token.type in ("string", "url"):
        return str(token.value)
    if token.type == "function" and token.lower_name == "url":
        inner = [t for t in token.arguments if t.type == "string"]
        return str(inner[0].value) if inner else None
    return None


_UNCLOSED = re.compile(r"/\*.*?(?:\*/|\Z)|\"(?:\\.|[^\"\\\n])*\"|'(?:\\.|[^'\\\n])*'|[{}]", re.DOTALL)


def _is_unclosed(text: str) -> bool:
    """Whether a brace is open at the end of `text`; strings and comments do not count."""
    depth = 0
    for match in _UNCLOSED.finditer(text):
        depth += {"{": 1, "}": -1}.get(match.group(), 0)
        depth = max(depth, 0)
    return depth > 0
