"""The files of a page: found, decoded, parsed; kept as text, and written back byte for byte.

Only local files are read: nothing over a network, no scripts run.
"""

import os
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from urllib.parse import quote

from redcrate.core.boxes.image_size import IntrinsicSize, data_uri_bytes, intrinsic_size
from redcrate.core.collecting import collector_paused
from redcrate.core.errors import PageNotReadable
from redcrate.core.markup import (
    Element,
    Markup,
    SourceText,
    Text,
    decode_css,
    decode_html,
    parse_html,
    reparse,
)
from redcrate.core.markup.addresses import is_remote, local_path
from redcrate.core.markup.elements import DocumentMode
from redcrate.core.markup.tags import attribute_value_span
from redcrate.core.notices import Notice, NoticeKind
from redcrate.core.own_faults import own_faults
from redcrate.core.page import PageSource
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.font_faces import FontFaceRule, WebFace, WebFamily, families_of
from redcrate.core.style.media import MediaList, parse_media_list
from redcrate.core.style.sheet_again import moved_style_attribute, sheet_again
from redcrate.core.style.sheet_reading import parse_sheet, parse_style_attribute
from redcrate.core.style.sheets import Sheet, StyleRule
from redcrate.core.text.web_fonts import unpacked

_LARGEST_FILE = 64 * 2**20


@dataclass(frozen=True, slots=True)
class Loaded:
    """One file of the page: where it lies, and its text as on disk."""

    path: Path
    source: SourceText
    data: bytes


@dataclass(frozen=True, slots=True)
class FontData:
    """A font file as TrueType or OpenType, and a name that no other file has."""

    name: str
    data: bytes


class Resources:
    """Reads the files beside a page, each once; keeps what was read."""

    def __init__(self, page: Path) -> None:
        self.page = page
        self.folder = page.parent
        self._images: dict[str, IntrinsicSize | None] = {}
        self._sheets: dict[str, Loaded | None] = {}
        self._fonts: dict[str, tuple[object, FontData | None]] = {}  # with how the file was

    def path_of(self, address: str, base: Path) -> Path | None:
        """The local file that an address means; None for anything over a network."""
        path = local_path(address)
        if path is None:
            return None
        return Path(os.path.normpath(base / path.lstrip("/") if path.startswith("/") else base / path))

    def image(self, address: str) -> IntrinsicSize | None:
        """The intrinsic size of the picture at an address; None if it is missing."""
        if address not in self._images:
            self._images[address] = self._image_size(address)
        return self._images[address]

    def _image_size(self, address: str) -> IntrinsicSize | None:
        data = self.image_bytes(address)
        return intrinsic_size(data) if data else None

    def image_bytes(self, address: str) -> bytes | None:
        """The bytes of a picture: a data address or a local file."""
        if address.lstrip()[:5].lower() == "data:":
            return data_uri_bytes(address)
        path = self.path_of(address, self.folder)
        return None if path is None else _small_file(path)

    def font(self, address: str) -> FontData | None:
        """A font file, unpacked once as long as it is the same; None if it is not there, broken or remote."""
        plain = address.partition("#")[0].partition("?")[0]
        is_data = address.lstrip()[:5].lower() == "data:"
        path = None if is_data else self.path_of(plain, self.folder)
        state = None if path is None else _state_of(path)
        known = self._fonts.get(address)
        if known is None or known[0] != state:
            packed = data_uri_bytes(address) if is_data else _small_file(path) if path else None
            data = unpacked(packed) if packed else None
            made = None if data is None else FontData(sha256(data).hexdigest(), data)
            known = self._fonts[address] = (state, made)
        return known[1]

    def local_files(self) -> frozenset[Path]:
        """The pictures and fonts on this machine that a page has asked for so far."""
        found = (
            self.path_of(a.partition("#")[0].partition("?")[0], self.folder)
            for a in (*self._images, *self._fonts)
        )
        return frozenset(path for path in found if path is not None)

    def forget_images(self) -> None:
        """Look for all pictures again when they are next asked for."""
        self._images.clear()

    def sheet(self, address: str, base: Path, codec: str) -> Loaded | None:
        """A stylesheet by its address; None if it cannot be read."""
        path = self.path_of(address, base)
        if path is None:
            return None
        key = str(path)
        if key not in self._sheets:
            self._sheets[key] = self._read_sheet(path, codec)
        return self._sheets[key]

    def keep_sheet(self, loaded: Loaded) -> None:
        """Hold a stylesheet as it was just written."""
        self._sheets[str(loaded.path)] = loaded

    def _read_sheet(self, path: Path, codec: str) -> Loaded | None:
        try:
            data = path.read_bytes()
            return Loaded(path, decode_css(data, self.name_of(path), codec), data)
        except (OSError, ValueError, PageNotReadable):
            return None

    def name_of(self, path: Path) -> str:
        """A file's name as people know it: relative to the page's folder where possible."""
        try:
            return path.relative_to(self.folder).as_posix()
        except ValueError:
            return str(path)


def _state_of(path: Path) -> object:
    """What changes when a file does."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return ""
    return found.st_mtime_ns, found.st_size


def _small_file(path: Path) -> bytes | None:
    """The bytes of a file; None if it is not there or too large."""
    try:
        return path.read_bytes() if path.stat().st_size <= _LARGEST_FILE else None
    except (OSError, ValueError):  # a name that no file can have is a ValueError
        return None


def read_page(path: Path) -> Loaded:
    """Read the HTML file.

    Raises PageNotReadable with a sentence if there is no such file, or if it is no text.
    """
    try:
        data = path.read_bytes()
    except FileNotFoundError:
        raise PageNotReadable(
            "there is no such file.", where=str(path), remedy="Check the name and the folder."
        ) from None
    except IsADirectoryError:
        raise PageNotReadable(
            "this is a folder.", where=str(path), remedy="Choose the HTML file in it."
        ) from None
    except OSError as problem:
        raise PageNotReadable(
            f"the file cannot be read ({problem.strerror}).",
            where=str(path),
            remedy="Check its permissions.",
        ) from None
    return Loaded(path, decode_html(data, path.name), data)


# The current text of a file by its name; None: as on disk.
CurrentText = Callable[[str], SourceText | None]


@dataclass(frozen=True, slots=True, eq=False)
class Assembled:
    """A page's source ready for the computation, with the stylesheet files that it uses."""

    page: PageSource
    files: dict[str, Loaded]
    parsed: dict[object, Sheet]  # what was parsed, by what it was parsed from


def assemble(
    html: SourceText,
    resources: Resources,
    current: CurrentText = lambda name: None,
    earlier: Assembled | None = None,
) -> Assembled:
    """Parse a page with its stylesheets.

    current: texts of stylesheets that were edited. earlier: the page before an edit; what the edit
    does not concern is not parsed again. Raises LayoutBug where Red Crate itself fails.
    """
    with own_faults(html.name), collector_paused():
        return _assemble(html, resources, current, earlier)


def _assemble(
    html: SourceText, resources: Resources, current: CurrentText, earlier: Assembled | None
) -> Assembled:
    markup = reparse(earlier.page.markup, html) if earlier is not None else parse_html(html)
    made = _Assembly(markup, resources, current, earlier.parsed if earlier else {}).run()
    if markup.restyled and any("[style" in r.selector_text for s in made.page.sheets for r in s.rules):
        # selectors that look at style attributes want the tree as it is
        made = _Assembly(parse_html(html), resources, current, {}).run()
    return made


class _Assembly:
    """Collects what a page refers to, in document order."""

    def __init__(
        self,
        markup: Markup,
        resources: Resources,
        current: CurrentText,
        parsed_before: dict[object, Sheet],
    ) -> None:
        self.html = markup.source
        self.resources = resources
        self.current = current
        self.markup = markup
        self.parsed_before = parsed_before
        self.parsed: dict[object, Sheet] = {}
        self.sheets: list[tuple[Element, Sheet]] = []
        self.files: dict[str, Loaded] = {}
        self.notices: list[Notice] = []
        self.quirks = markup.mode is DocumentMode.QUIRKS

    def run(self) -> Assembled:
        """Everything, parsed."""
        self.markup_notices()
        inline: dict[Element, StyleRule] = {}
        for element in self.markup.referring:
            if element.tag == "style":
                self.style_element(element)
            elif element.tag == "link":
                self.link_element(element)
            elif element.tag == "script":
                self.note(NoticeKind.SCRIPT_NOT_RUN, "scripts are not run.", element)
            elif is_remote(element.attributes.get("src", "")):
                self.note(
                    NoticeKind.REMOTE_NOT_LOADED,
                    f"{element.label} lies on a network; it is not loaded.",
                    element,
                )
        for element in self.markup.with_style:
            inline[element] = self.style_attribute(element)
        families = self.families()
        source = PageSource(
            self.markup,
            tuple(s for _, s in self.sheets),
            inline,
            self.resources.image,
            tuple(self.notices),
            tuple(self.sheets),
            families,
        )
        return Assembled(source, self.files, self.parsed)

    def note(self, kind: NoticeKind, sentence: str, element: Element | None = None) -> None:
        """Keep a notice about the HTML file."""
        line = self.markup.line_of(element) if element is not None else 0
        self.notices.append(Notice(kind, sentence, self.html.name, line))

    def markup_notices(self) -> None:
        """What the HTML parser mended, and quirks mode."""
        if self.markup.mode is not DocumentMode.NO_QUIRKS:
            self.note(
                NoticeKind.QUIRKS,
                f"this page does not begin with <!doctype html>: it is laid out by old rules "
                f"({self.markup.mode.value} mode), as browsers do.",
            )
        for fault in self.markup.faults:
            if fault.sentence.startswith("markup: expected doctype"):
                continue
            self.notices.append(
                Notice(
                    NoticeKind.MARKUP, fault.sentence, self.html.name, self.html.line_of(fault.offset)
                )
            )

    def style_element(self, element: Element) -> None:
        """A <style> element: its text is CSS, with places counted in the HTML file."""
        text = next((c for c in element.children if isinstance(c, Text)), None)
        if text is None or element.attributes.get("type", "text/css").lower() not in ("", "text/css"):
            return
        span = self.markup.places.text(text)
        start = span.start if span else 0
        # The parser normalises line ends; the file's own characters keep the places right.
        raw = self.html.text[span.start : span.end] if span else text.data
        self.keep(
            element,
            SourceText(self.html.name, raw),
            self.resources.folder,
            first_offset=start,
        )

    def keep(
        self, element: Element, text: SourceText, folder: Path, first_offset: int | None = None
    ) -> None:
        """Keep a sheet with its notices.

        Sheets are told by their number and medium: an edit of the tree makes other elements. folder: from which the
        addresses of imports count. first_offset: where the sheet begins in the page; None for a file of its own.
        """
        surroundings = (len(self.sheets), element.attributes.get("media", ""), self.quirks)
        before = self.parsed_before.get(surroundings)
        sheet = self.parsed[surroundings] = self.read(element, text, folder, first_offset, before)
        self.sheets.append((element, sheet))
        self.notices.extend(sheet.notices)

    def read(
        self,
        element: Element,
        text: SourceText,
        folder: Path,
        first_offset: int | None,
        before: Sheet | None,
    ) -> Sheet:
        """A sheet as it is now; of what was read before the last edit only what that edit concerns is read again."""
        start, whole = (0, text) if first_offset is None else (first_offset, self.html)
        media, quirks, base_of = _media(element), self.quirks, self.base_of
        if before is not None:
            again = sheet_again(
                before,
                text,
                first_offset=start,
                whole=whole,
                media=media,
                quirks=quirks,
                base_of=base_of,
            )
            if again is not None:
                return again
        return parse_sheet(
            text,
            first_offset=start,
            whole=whole,
            load_import=self.importer(folder),
            media=media,
            quirks=quirks,
            base_of=base_of,
        )

    def link_element(self, element: Element) -> None:
        """A linked stylesheet: HTML Standard §4.6.7.6."""
        rel = element.attributes.get("rel", "").lower().split()
        if "stylesheet" not in rel or "alternate" in rel or "disabled" in element.attributes:
            return
        address = element.attributes.get("href", "")
        if is_remote(address):
            self.note(
                NoticeKind.REMOTE_NOT_LOADED,
                f"the stylesheet “{address[:80]}” lies on a network; it is not loaded.",
                element,
            )
            return
        loaded = self.load(address, self.resources.folder)
        if loaded is None:
            self.note(
                NoticeKind.MISSING_FILE, f"the stylesheet “{address[:80]}” was not found.", element
            )
            return
        self.keep(element, self.text_of(loaded), loaded.path.parent)

    def text_of(self, loaded: Loaded) -> SourceText:
        """The text of a stylesheet file as it is now."""
        return self.current(loaded.source.name) or loaded.source

    def load(self, address: str, base: Path) -> Loaded | None:
        """A stylesheet file, noted as one of the page's."""
        loaded = self.resources.sheet(address, base, self.html.codec)
        if loaded is not None:
            self.files[loaded.source.name] = loaded
        return loaded

    def importer(self, base: Path) -> Callable[[str, str], SourceText | None]:
        """Loads what @import names; an address counts from the file that holds it."""

        def load(address: str, importing: str) -> SourceText | None:
            folder = base
            if importing in self.files:
                folder = self.files[importing].path.parent
            loaded = None if is_remote(address) else self.load(address, folder)
            return None if loaded is None else self.text_of(loaded)

        return load

    def base_of(self, name: str) -> str:
        """The way from the page's folder to that of a stylesheet; addresses in it count from there."""
        loaded = self.files.get(name)
        if loaded is None:
            return ""
        way = os.path.relpath(loaded.path.parent, self.resources.folder)
        return "" if way == "." else quote(Path(way).as_posix())

    def families(self) -> Mapping[str, WebFamily]:
        """The fonts that the page brings along: CSS Fonts 4 §4; the first source that is there counts."""
        found: list[tuple[FontFaceRule, WebFace]] = []
        for rule in (r for _, sheet in self.sheets for r in sheet.font_faces):
            fonts = (self.resources.font(address) for address in rule.addresses)
            font = next((f for f in fonts if f is not None), None)
            if font is None:
                sentence = (
                    f"no file of the font “{rule.family}” could be loaded; the next family stands in."
                )
                where = (rule.file, rule.line, rule.offset)
                self.notices.append(Notice(NoticeKind.MISSING_FILE, sentence, *where))
            else:
                found.append((rule, WebFace(font.name, font.data, rule.weights, rule.italic)))
        return families_of(found)

    def style_attribute(self, element: Element) -> StyleRule:
        """The rule of a style attribute, with its place in the file."""
        text = self.markup.style_attribute(element)
        span = attribute_value_span(self.markup, element, "style")
        offset = span.start if span else 0
        line = self.html.line_of(offset)
        sheet = self.parsed_before.get((element, text))
        if sheet is None:
            sheet = parse_style_attribute(text, self.html.name, line, offset, quirks=self.quirks)
        elif ((rule := sheet.rules[0]).start, rule.line) != (offset, line):
            sheet = moved_style_attribute(sheet, line - rule.line, offset - rule.start)
        self.parsed[(element, text)] = sheet
        self.notices.extend(sheet.notices)
        return sheet.rules[0]


def _media(element: Element) -> tuple[MediaList, ...]:
    text = element.attributes.get("media", "").strip()
    if not text:
        return ()
    tokens = significant(component_values(text))
    return (parse_media_list(tokens, text),)
