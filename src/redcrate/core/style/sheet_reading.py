"""Reading stylesheets: text → rules whose declarations know their place, by `tinycss2`.

CSS errors recover as CSS Syntax 3 §2.2 says; what was dropped is a notice.
"""

import re
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace
from typing import Any

from tinycss2.ast import ParenthesesBlock

from redcrate.core.markup.source_text import SourceText
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.records import dataclass
from redcrate.core.style.at_rules import condition_node, import_address, layer_names, media_of
from redcrate.core.style.attributes import names_in
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import (
    DEEPEST,
    block_contents,
    component_values,
    css_text,
    is_deep,
    rule_nodes,
    stylesheet_nodes,
    with_base,
)
from redcrate.core.style.declarations import PARSED, Pending
from redcrate.core.style.dropped import why_dropped
from redcrate.core.style.font_faces import FontFaceRule, parse_font_face
from redcrate.core.style.layers import NO_LAYER, LayerName
from redcrate.core.style.media import MediaList, parse_media_list
from redcrate.core.style.nesting import nested_prelude, scoped_prelude
from redcrate.core.style.quirks import takes_plain_numbers, with_units
from redcrate.core.style.scopes import Scope
from redcrate.core.style.selectors import Selector, SelectorNotUnderstood, compile_selectors
from redcrate.core.style.sheet_bounds import is_unclosed, within_bounds
from redcrate.core.style.sheet_cutting import Cut, cuts, needed_names
from redcrate.core.style.sheets import (
    Declaration,
    MediaRule,
    Origin,
    RuleBody,
    Sheet,
    SheetPart,
    StyleRule,
)
from redcrate.core.style.supports import is_supported
from redcrate.core.style.window_ranges import plain_range

_ROOT = tuple(component_values(":root"))


@dataclass(frozen=True, slots=True)
class Around:
    """What stands round a rule: queries, its layer, the selectors of a style rule, a scope and its root.

    conditional: whether it depends on something else too.
    """

    media: tuple[MediaList, ...] = ()
    layer: LayerName = NO_LAYER
    selectors: tuple[Any, ...] = ()
    scope: Scope | None = None
    scope_root: tuple[Any, ...] = ()
    conditional: bool = False

    def prelude(self, tokens: list[Any]) -> list[Any]:
        """The selectors of a rule that stands here, written out."""
        if self.selectors:
            return nested_prelude(tokens, self.selectors, self.scope_root)
        root = self.scope_root or _ROOT
        alone = self.scope is None and not any(t.type == "literal" and t.value == "&" for t in tokens)
        return tokens if alone else scoped_prelude(tokens, root)


@dataclass(frozen=True, slots=True)
class _Head:
    """The selectors of a style rule: as written, compiled, and written out for the rules inside."""

    text: str
    selectors: tuple[Selector, ...]
    tokens: tuple[Any, ...]


# Loads what @import names: (address, file that imports) → text or None (a notice was made).
ImportLoader = Callable[[str, str], "SourceText | None"]
# The way from the page's folder to that of a file, by its name; "" where it is the same.
BaseOf = Callable[[str], str]


def no_base(name: str) -> str:
    """The way to a file that lies where the page lies."""
    return ""


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
    base_of: BaseOf = no_base,
) -> Sheet:
    """The rules of a stylesheet.

    source: the CSS text. whole and first_offset: for CSS inside an HTML file, that file and the
    offset at which the CSS begins in it, so that places count in the file that people know. quirks: the
    page is in quirks mode, in which lengths need no unit. base_of: the way from the page's folder to that
    of a file, from which addresses in it count.
    """
    reader = SheetReader(source, origin, first_offset, whole or source, load_import, base_of)
    reader.quirks = quirks
    reader.read(source.text, Around(media))
    return Sheet(
        source,
        tuple(reader.rules),
        tuple(reader.notices),
        tuple(reader.layers),
        tuple(reader.font_faces),
        tuple(reader.media_rules),
        tuple(reader.parts),
        first_offset,
        reader.whole.line_of(first_offset),
        reader.imports,
    )


def parse_style_attribute(
    text: str, file: str, line: int, offset: int, *, quirks: bool = False
) -> Sheet:
    """The declarations of a style attribute as one rule without selectors.

    line and offset: where the attribute's value begins in the file.
    """
    source = SourceText(file, text)
    reader = SheetReader(source, Origin.INLINE, offset, source, None)
    reader.line_shift = line - 1
    reader.quirks = quirks
    contents = block_contents(text)
    declarations = tuple(reader.declarations(contents))
    body = RuleBody((), declarations, _attributes_of(list(declarations)))
    rule = StyleRule("style attribute", body, (), Origin.INLINE, file, line, offset)
    return Sheet(source, (rule,), tuple(reader.notices))


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


class SheetReader:
    """Walks the syntax tree of one sheet and collects rules and notices."""

    def __init__(
        self,
        source: SourceText,
        origin: Origin,
        first_offset: int,
        whole: SourceText,
        load_import: ImportLoader | None,
        base_of: BaseOf = no_base,
    ) -> None:
        self.source = source
        self.origin = origin
        self.first_offset = first_offset
        self.whole = whole
        self.load_import = load_import
        self.rules: list[StyleRule] = []
        self.layers: list[LayerName] = []
        self.font_faces: list[FontFaceRule] = []
        self.media_rules: list[MediaRule] = []
        self.notices: list[Notice] = []
        self.parts: list[SheetPart] = []
        self.imports = False
        self.line_shift: int | None = None
        self.chain: tuple[str, ...] = (whole.name,)  # the files being read, outermost first
        self.left = _ImportsLeft()
        self.quirks = False
        self.base_of = base_of
        self.base = base_of(whole.name)  # the way to the folder that addresses count from

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

    def read(self, text: str, around: Around) -> None:
        """Read all rules of `text`, as far as a sheet is read."""
        kept = within_bounds(text)
        deep = is_deep(kept)
        if kept is text and not deep and self.read_later(text, around):
            return
        nodes = stylesheet_nodes(kept, deep)
        if nodes and deep:
            sentence = f"blocks are nested more than {DEEPEST} deep: the outer block is ignored."
            self.note(NoticeKind.BAD_SYNTAX, sentence, nodes[0])
        if len(kept) < len(text) and nodes:
            sentence = f"the stylesheet is too long: only its first {len(kept)} of {len(text)} characters are read."
            self.note(NoticeKind.TOO_LONG, sentence, nodes[-1])
            self.read_nodes(nodes, around)  # without parts: an edit reads all of it again
            return
        if nodes and nodes[-1].type in ("qualified-rule", "at-rule") and is_unclosed(text):
            self.note(
                NoticeKind.BAD_SYNTAX,
                "a brace is not closed: all text after it belongs to this rule.",
                nodes[-1],
            )
        self.read_parts(nodes, around)
        if nodes and nodes[-1].type == "error":  # an unfinished rule, whose place is not where it begins
            self.parts.clear()

    def read_later(self, text: str, around: Around) -> bool:
        """Read of a large sheet only what is more than style rules, which are read when they are asked for.

        Whether that was done: not where only the parser can tell where a rule ends.
        """
        is_large = len(text) >= _LARGE or self.origin is Origin.USER_AGENT
        found = cuts(text, 0, len(text)) if is_large and not around.selectors else None
        if found is None:
            return False
        for cut in found:
            self.parts.append(self.part_at(cut.start))
            self.read_cut(text, cut, around)
        return True

    def read_cut(self, text: str, cut: Cut, around: Around, *, in_block: bool = False) -> None:
        """Read a piece of a sheet, or keep it for later. in_block: of a condition."""
        if cut.head and around.scope is None and not _ATTR.search(text, *cut.inside):
            unread = UnreadRule(text[cut.start : cut.end], cut.head, self.base, self.quirks)
            offset = cut.start + self.first_offset
            self.rules.append(
                StyleRule(
                    _with_plain_ends(cut.head), unread, around.media, self.origin, self.whole.name,
                    self.whole.line_of(offset), offset, around.layer,
                )
            )  # fmt: skip
        elif cut.rules:
            with self.at_slice(text, cut.start, cut.inside[0], "}"):
                node = condition_node(self.source.text)
                within = self.condition(node.lower_at_keyword, node, around)
            for part in cut.rules if within is not None else ():
                self.read_cut(text, part, within or around, in_block=True)
        else:
            with self.at_slice(text, cut.start, cut.end):
                read = rule_nodes if in_block else stylesheet_nodes
                self.read_nodes(read(self.source.text), around)

    @contextmanager
    def at_slice(self, text: str, start: int, end: int, more: str = "") -> Iterator[None]:
        """Count the places of nodes from a slice of the sheet's text, which is read by itself."""
        before = self.source, self.first_offset
        self.source = SourceText(self.source.name, text[start:end] + more)
        self.first_offset += start
        yield
        self.source, self.first_offset = before

    def read_parts(self, nodes: list[Any], around: Around) -> None:
        """Read rules and at-rules that stand in no other."""
        for node in nodes:
            self.parts.append(self.part_from(node))
            self.read_nodes([node], around)

    def part_from(self, node: Any) -> SheetPart:
        """What begins with a node of the sheet: its offset in the text, and what was read before it."""
        return self.part_at(self.source.offset_of(node.source_line, node.source_column))

    def part_at(self, start: int) -> SheetPart:
        """What begins at an offset in the text."""
        return SheetPart(
            start,
            len(self.rules),
            len(self.notices),
            len(self.layers),
            len(self.font_faces),
            len(self.media_rules),
        )

    def read_nodes(self, nodes: list[Any], around: Around) -> None:
        """Read rules and at-rules of one level."""
        for node in nodes:
            if node.type == "qualified-rule":
                self.read_rule(node, around)
            elif node.type == "at-rule":
                self.read_at_rule(node, around)
            elif node.type == "error":
                self.note(NoticeKind.BAD_SYNTAX, f"Ignored: {_syntax_fault(node)}.", node)

    def read_rule(self, node: Any, around: Around) -> None:
        """Read one style rule; an invalid selector drops it (Selectors 4 §4.1)."""
        prelude = css_text(node.prelude).strip().replace("/**/", "")  # which nobody has written there
        try:
            tokens = around.prelude(node.prelude)
            selectors = compile_selectors(tokens)
            if around.scope is not None:
                selectors = [replace(s, scope=around.scope) for s in selectors]
        except SelectorNotUnderstood as problem:
            self.note(
                NoticeKind.BAD_SELECTOR,
                f"Ignored: the selector “{' '.join(prelude.split())[:80]}” is invalid or unknown ({problem}).",
                node,
            )
            return
        head = _Head(prelude, tuple(selectors), tuple(tokens))
        self.read_block(node, block_contents(node.content), head, around, is_rule=True)

    def read_block(
        self, node: Any, contents: list[Any], head: _Head, around: Around, *, is_rule: bool
    ) -> None:
        """The declarations and rules in a style rule, or in an at-rule inside one (CSS Nesting 1 §3.2).

        Declarations behind a rule inside are a rule of their own, so that they keep their place.
        """
        run: list[Declaration] = []
        inside = replace(around, selectors=head.tokens)
        wanted = is_rule  # a style rule is there even if it declares nothing
        for part in contents:
            nested = part.type in ("qualified-rule", "at-rule")
            if nested and (run or wanted):
                self.rules.append(self.made_rule(node, head, around, run))
                run, wanted = [], False
            if part.type == "qualified-rule":
                self.read_rule(part, inside)
            elif part.type == "at-rule":
                self.read_at_rule(part, inside, head)
            else:
                run += self.declarations([part])
        if run or wanted:
            self.rules.append(self.made_rule(node, head, around, run))

    def made_rule(
        self, node: Any, head: _Head, around: Around, declarations: list[Declaration]
    ) -> StyleRule:
        """The rule of a block at its place in the file."""
        line, start = self.place(node)
        body = RuleBody(head.selectors, tuple(declarations), _attributes_of(declarations))
        return StyleRule(
            head.text, body, around.media, self.origin, self.whole.name, line, start, around.layer
        )

    def read_at_rule(self, node: Any, around: Around, head: _Head | None = None) -> None:
        """Read one at-rule; head: of the style rule that it stands in."""
        keyword = node.lower_at_keyword
        if keyword == "import":
            self.read_import(node, around)
        elif keyword == "font-face" and node.content is not None:
            content = with_base(node.content, self.base)
            found = parse_font_face(content, self.whole.name, *self.place(node))
            self.font_faces += [found] if found is not None else []
        elif keyword == "layer" and node.content is None:
            self.layers += [(*around.layer, *name) for name in layer_names(node.prelude)]
        elif node.content is not None:
            inner = self.condition(keyword, node, around)
            if inner is None:
                return
            if head is None or keyword == "scope":
                self.read_nodes(rule_nodes(node.content), inner)
            else:
                self.read_block(node, block_contents(node.content), head, inner, is_rule=False)

    def condition(self, keyword: str, node: Any, around: Around) -> Around | None:
        """What stands round the rules in a conditional or grouping rule; None where they do not count."""
        if keyword == "media":
            return self.in_media(node, around)
        if keyword == "supports":
            return replace(around, conditional=True) if is_supported(node.prelude) else None
        if keyword == "container":
            self.note(NoticeKind.NOT_COMPUTED, "@container is ignored; the rules in it apply.", node)
            return replace(around, conditional=True)
        if keyword == "layer":
            return self.in_layer(layer_names(node.prelude), node, around)
        return self.in_scope(node, around) if keyword == "scope" else None

    def in_media(self, node: Any, around: Around) -> Around:
        """CSS Conditional 3 §2: a block that holds for some media."""
        found = media_of(node)
        media = (*around.media, found)
        more = around.conditional or around.layer or around.selectors or around.scope
        window = None if more else plain_range(media)
        self.media_rules.append(MediaRule(media, self.whole.name, *self.place(node), window))
        return replace(around, media=media)

    def in_layer(self, names: list[LayerName], node: Any, around: Around) -> Around | None:
        """CSS Cascade 5 §6.4.2: a block of one layer; without a name it is one that none else can join."""
        if len(names) > 1:
            self.note(
                NoticeKind.BAD_SYNTAX, "Ignored: a @layer with a block has at most one name.", node
            )
            return None
        own = names[0] if names else (f"{self.whole.name}:{self.place(node)[1]}:",)
        layer = (*around.layer, *own)
        self.layers.append(layer)
        return replace(around, layer=layer)

    def in_scope(self, node: Any, around: Around) -> Around | None:
        """CSS Cascade 6 §2.5: the elements from a root down to a limit."""
        words = significant(node.prelude)
        blocks = [w.content for w in words if w.type == "() block"]
        to = [w for w in words if w.type == "ident" and w.lower_value == "to"]
        if len(blocks) + len(to) != len(words) or len(blocks) > 2:
            self.note(NoticeKind.BAD_SYNTAX, "Ignored: @scope has the form (root) to (limit).", node)
            return None
        root = blocks[0] if blocks and words[0].type == "() block" else component_values(":root")
        limit = scoped_prelude(blocks[-1], root) if to and blocks else []
        try:
            roots = tuple(s.test for s in compile_selectors(around.prelude(root)))
            limits = tuple(s.test for s in compile_selectors(limit)) if limit else ()
        except SelectorNotUnderstood as problem:
            self.note(NoticeKind.BAD_SELECTOR, f"Ignored: @scope is invalid ({problem}).", node)
            return None
        scope = Scope(css_text(node.prelude), roots, limits, around.scope)
        return replace(around, scope=scope, scope_root=tuple(root), selectors=())

    def read_import(self, node: Any, around: Around) -> None:
        """CSS Cascade 5 §2: the imported sheet stands in front of the rules, in a layer if it says so."""
        self.imports = True
        prelude = significant(node.prelude)
        address = import_address(prelude[0]) if prelude else None
        if address is None or self.load_import is None:
            self.note(NoticeKind.BAD_SYNTAX, "Ignored: @import without an address.", node)
            return
        loaded = self.load_import(address, self.whole.name)
        refused = self._import_refused(address, loaded)
        if loaded is None or refused:
            self.note(NoticeKind.MISSING_FILE, refused, node)
            return
        inner = self.import_conditions(prelude[1:], node, around)
        if inner is None:
            return
        reader = SheetReader(loaded, self.origin, 0, loaded, self.load_import, self.base_of)
        reader.chain = (*self.chain, loaded.name)
        reader.left = self.left
        reader.quirks = self.quirks
        reader.read(loaded.text, inner)
        self.rules.extend(reader.rules)
        self.layers.extend(reader.layers)
        self.font_faces.extend(reader.font_faces)
        self.media_rules.extend(reader.media_rules)
        self.notices.extend(reader.notices)

    def import_conditions(self, words: list[Any], node: Any, around: Around) -> Around | None:
        """What follows the address: a layer, what must be supported, media queries, in this order."""
        inner: Around | None = around
        if words and words[0].type == "ident" and words[0].lower_value == "layer":
            inner, words = self.in_layer([], node, around), words[1:]
        elif words and words[0].type == "function" and words[0].lower_name == "layer":
            inner, words = self.in_layer(layer_names(words[0].arguments), node, around), words[1:]
        if words and words[0].type == "function" and words[0].lower_name == "supports":
            asked, words = words[0].arguments, words[1:]
            block = ParenthesesBlock(node.source_line, node.source_column, asked)
            if not is_supported([block]) and not is_supported(asked):
                return None
        if words and inner is not None:
            text = css_text(words).strip()
            return replace(inner, media=(*inner.media, parse_media_list(words, text)))
        return inner

    def _import_refused(self, address: str, loaded: SourceText | None) -> str:
        """Why a file is not imported, "" if it is; the same file may well come in twice."""
        if loaded is None:
            return f"the imported file “{address}” was not loaded."
        if loaded.name in self.chain:
            return f"Ignored: “{address}” imports itself."
        if len(self.chain) > _DEEPEST_IMPORT:
            return "Ignored: @import is nested too deeply."
        if not self.left.take(len(loaded.text)):
            return "Ignored: the page has too many imports."
        return ""

    def declarations(self, contents: list[Any]) -> Iterator[Declaration]:
        """The valid declarations of a block."""
        for node in contents:
            if node.type == "declaration":
                made = self.declaration(node)
                if made is not None:
                    yield made
            elif node.type == "error":
                self.note(NoticeKind.BAD_SYNTAX, f"Ignored: {_syntax_fault(node)}.", node)
            elif node.type in ("qualified-rule", "at-rule"):
                self.note(NoticeKind.BAD_SYNTAX, "Ignored: a rule is not allowed here.", node)

    def declaration(self, node: Any) -> Declaration | None:
        """One declaration, or None (with a notice) if it is dropped."""
        name = node.name if node.name.startswith("--") else node.lower_name
        text = css_text(node.value).strip()
        value, key = node.value, text
        if self.base and "url(" in text.lower():
            value = with_base(value, self.base)
            key = css_text(value).strip()
        longhands = PARSED.of(name, key, value)
        if longhands is None and self.quirks and takes_plain_numbers(name):
            mended = component_values(with_units(name, node.value))
            longhands = PARSED.of(name, css_text(mended).strip(), mended)
        if longhands is None:
            told = why_dropped(name, text, significant(node.value))
            if told is not None:
                self.note(*told, node)
            return None
        line, offset = self.place(node)
        return Declaration(name, text, node.important, self.whole.name, line, offset, longhands)


@dataclass(frozen=True, slots=True, eq=False)
class UnreadRule:
    """The text of a style rule that stands in no other, for the day when somebody asks for it. base: of its addresses."""

    text: str
    head: str
    base: str
    quirks: bool

    @property
    def needs(self) -> tuple[frozenset[str], ...]:
        """For each selector the names without which it matches nothing."""
        return needed_names(self.head)

    def read(self, rule: StyleRule) -> RuleBody:
        """What the rule says."""
        source = SourceText(rule.file, self.text)
        reader = SheetReader(source, rule.origin, rule.start, source, None)
        reader.line_shift, reader.quirks, reader.base = rule.line - 1, self.quirks, self.base
        (node,) = stylesheet_nodes(self.text)
        reader.read_rule(node, Around(rule.media, rule.layer))
        (read,) = reader.rules
        return RuleBody(read.selectors, read.declarations, read.attributes, tuple(reader.notices))


_LARGE = 16_000  # characters: below that nobody waits
_ATTR = re.compile(r"attr\(", re.IGNORECASE)


def _with_plain_ends(head: str) -> str:
    """Line ends as a tokenizer hands them on: CSS Syntax 3 §3.3."""
    return head.replace("\r\n", "\n").replace("\r", "\n").replace("\f", "\n")


def _syntax_fault(node: Any) -> str:
    message = str(node.message).rstrip(".")
    if "Stop token" in message or "EOF" in message:
        return "a colon, a semicolon or a brace is missing"
    return message


def _attributes_of(declarations: list[Declaration]) -> frozenset[str]:
    pending = (v for d in declarations for v in d.longhands.values() if isinstance(v, Pending))
    return frozenset(name for value in pending for name in names_in(value.tokens))
