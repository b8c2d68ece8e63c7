"""The files of a page: found, decoded, parsed; kept as text, and written back byte for byte.

Only local files are read: nothing over a network, no scripts run.
"""

import os
from collections.abc import Callable, Mapping
from pathlib import Path
from urllib.parse import quote

from redcrate.core.collecting import collector_paused
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import PageNotReadable
from redcrate.core.files.kept_notices import NoticesOf
from redcrate.core.files.reading import read_regular, reason_of
from redcrate.core.files.resources import NOT_FOUND, Loaded, Resources
from redcrate.core.files.sheets_read import SHEETS_READ, Asked
from redcrate.core.markup import Element, Markup, SourceText, Text, decode_html, parse_html, reparse
from redcrate.core.markup.addresses import is_remote
from redcrate.core.markup.elements import DocumentMode
from redcrate.core.markup.tags import attribute_value_span
from redcrate.core.notices import Notice, NoticeKind, Telling
from redcrate.core.page import PageSource
from redcrate.core.records import dataclass
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.font_faces import FontFaceRule, WebFace, WebFamily, families_of
from redcrate.core.style.media import MediaList, parse_media_list
from redcrate.core.style.sheet_again import moved_style_attribute, sheet_again
from redcrate.core.style.sheet_reading import parse_sheet, parse_style_attribute
from redcrate.core.style.sheets import Sheet, StyleRule


def read_page(path: Path) -> Loaded:
    """Read the HTML file.

    Raises PageNotReadable with a sentence if there is no such file, or if it is no text.
    """
    try:
        data = read_regular(path)
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
            f"the file cannot be read ({reason_of(problem)}).",
            where=str(path),
            remedy="Choose the HTML file of a page.",
        ) from None
    return Loaded(path, decode_html(data, path.name), data)


# The current text of a file by its name; None: as on disk.
CurrentText = Callable[[str], SourceText | None]
# Is told what is being read; what it raises ends the work.
Told = Callable[[str], None]


def nobody_is_told(what: str) -> None:
    """Nobody waits."""


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
    told: Told = nobody_is_told,
) -> Assembled:
    """Parse a page with its stylesheets.

    current: texts of stylesheets that were edited. earlier: the page before an edit; what the edit
    does not concern is not parsed again. told: is told what is being read; what it raises ends the work.
    Raises LayoutBug where Red Crate itself fails.
    """
    with error_boundary(html.name), collector_paused():
        return _assemble(html, resources, current, earlier, told)


def _assemble(
    html: SourceText,
    resources: Resources,
    current: CurrentText,
    earlier: Assembled | None,
    told: Told,
) -> Assembled:
    told(_being_read(html))
    markup = reparse(earlier.page.markup, html) if earlier is not None else parse_html(html)
    made = _Assembly(markup, resources, current, earlier.parsed if earlier else {}, told).run()
    if markup.restyled and any("[style" in r.selector_text for s in made.page.sheets for r in s.rules):
        # selectors that look at style attributes want the tree as it is
        made = _Assembly(parse_html(html), resources, current, {}, told).run()
    return made


def _being_read(text: SourceText) -> str:
    return f"reading {text.name} ({max(1, round(len(text.text) / 1000))} kB)"


class _Assembly:
    """Collects what a page refers to, in document order."""

    def __init__(
        self,
        markup: Markup,
        resources: Resources,
        current: CurrentText,
        parsed_before: dict[object, Sheet],
        told: Told,
    ) -> None:
        self.html = markup.source
        self.resources = resources
        self.current = current
        self.markup = markup
        self.parsed_before = parsed_before
        self.told = told
        self.parsed: dict[object, Sheet] = {}
        self.sheets: list[tuple[Element, Sheet]] = []
        self.files: dict[str, Loaded] = {}
        self.fonts: list[Path | None] = []
        self.notices: list[Notice | Telling] = []
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
                    f"{element.label} is on a network; it is not loaded.",
                    element,
                    element.label,
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
            self.resources.about_picture,
            self.outside(),
        )
        return Assembled(source, self.files, self.parsed)

    def note(
        self, kind: NoticeKind, sentence: str, element: Element | None = None, about: str = ""
    ) -> None:
        """Keep a notice about the HTML file."""
        line = self.markup.line_of(element) if element is not None else 0
        self.notices.append(Notice(kind, sentence, self.html.name, line, about=about))

    def markup_notices(self) -> None:
        """What the HTML parser mended, and quirks mode."""
        if self.markup.mode is not DocumentMode.NO_QUIRKS:
            self.note(
                NoticeKind.QUIRKS,
                "the page does not begin with <!doctype html>: it is laid out in "
                f"{self.markup.mode.value} mode, as in browsers.",
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
        self.told(_being_read(text))
        sheet = self.parsed[surroundings] = self.read(element, text, folder, first_offset, before)
        self.sheets.append((element, sheet))
        self.tell_of(sheet, element, first_offset)

    def tell_of(self, sheet: Sheet, element: Element, first_offset: int | None) -> None:
        """Keep the notices of a sheet; those of a file of its own that is large are told when they are asked for."""
        if all(rule.unread is None for rule in sheet.rules):
            self.notices.extend(sheet.told)
        else:
            is_plain = first_offset is None and not sheet.imports
            asked = self.asked(element, sheet.source)
            self.notices.append(NoticesOf(sheet, repr(asked[1:]) if is_plain else None))

    def asked(self, element: Element, text: SourceText) -> Asked:
        """What decides how a file is read."""
        media = element.attributes.get("media", "")
        return Asked(text, media, self.quirks, self.base_of(text.name))

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
        asked = self.asked(element, text)
        known = SHEETS_READ.of(asked) if first_offset is None else None
        if known is not None and all(known is not sheet for _, sheet in self.sheets):
            return known
        read = parse_sheet(
            text,
            first_offset=start,
            whole=whole,
            load_import=self.importer(folder),
            media=media,
            quirks=quirks,
            base_of=base_of,
        )
        if first_offset is None:
            SHEETS_READ.keep(asked, read)
        return read

    def link_element(self, element: Element) -> None:
        """A linked stylesheet: HTML Standard §4.6.7.6."""
        rel = element.attributes.get("rel", "").lower().split()
        if "stylesheet" not in rel or "alternate" in rel or "disabled" in element.attributes:
            return
        address = element.attributes.get("href", "")
        if is_remote(address):
            self.note(
                NoticeKind.REMOTE_NOT_LOADED,
                f"the stylesheet “{address[:80]}” is on a network; it is not loaded. Save a copy beside the page to use it.",
                element,
                address.rstrip("/").rpartition("/")[2][:40] or address[:40],
            )
            return
        loaded = self.load(address, self.resources.folder)
        if loaded is None:
            why = self.resources.fault(address, self.resources.folder)
            self.note(NoticeKind.MISSING_FILE, f"the stylesheet “{address[:80]}” {why}.", element)
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

    def outside(self) -> tuple[str, ...]:
        """The style sheets and fonts that lie outside the page's folder, as people know them."""
        sheets = [loaded.path for loaded in self.files.values()]
        paths = dict.fromkeys((*sheets, *self.fonts))
        return tuple(name for path in paths if (name := self.resources.outside(path)))

    def families(self) -> Mapping[str, WebFamily]:
        """The fonts that the page brings along: CSS Fonts 4 §4; the first source that is there counts."""
        found: list[tuple[FontFaceRule, WebFace]] = []
        for rule in (r for _, sheet in self.sheets for r in sheet.font_faces):
            tried = ((a, self.resources.font(a)) for a in rule.addresses)
            address, font = next(((a, f) for a, f in tried if f is not None), ("", None))
            if font is None:
                sentence = (
                    f"the font “{rule.family[:80]}” could not be loaded; the next family is used."
                    f"{self.font_fault(rule)}"
                )
                where = (rule.file, rule.line, rule.offset)
                self.notices.append(Notice(NoticeKind.MISSING_FILE, sentence, *where))
            else:
                self.fonts.append(self.resources.path_of(address, self.resources.folder))
                found.append(
                    (rule, WebFace(font.name, font.data, rule.weights, rule.italic, rule.ranges))
                )
        return families_of(found)

    def font_fault(self, rule: FontFaceRule) -> str:
        """Of font files that are there and are none: why."""
        told = ((a, self.resources.fault(a, self.resources.folder)) for a in rule.addresses)
        return "".join(f" “{a[:80]}” {why}." for a, why in told if why and why != NOT_FOUND)

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
        self.notices.extend(sheet.told)
        return sheet.rules[0]


def _media(element: Element) -> tuple[MediaList, ...]:
    text = element.attributes.get("media", "").strip()
    if not text:
        return ()
    tokens = significant(component_values(text))
    return (parse_media_list(tokens, text),)
