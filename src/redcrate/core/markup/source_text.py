"""The text of one file: how its bytes were decoded, and where its lines begin.

Offsets count characters of the decoded text, from 0. Lines and columns count from 1. Bytes that do
not belong to the declared encoding are kept through `surrogateescape`, so that an unchanged text
always encodes to the very bytes that were read.
"""

import re
from bisect import bisect_right
from codecs import BOM_UTF8, BOM_UTF16_BE, BOM_UTF16_LE
from collections.abc import Iterator
from dataclasses import replace
from functools import cached_property
from itertools import accumulate

import webencodings

from redcrate.core.errors import PageNotReadable
from redcrate.core.records import dataclass

_LINE_END = re.compile(r"\r\n|\r|\n|\f")
_META_CHARSET = re.compile(rb"<meta[^>]*?charset\s*=\s*[\"']?\s*([a-zA-Z0-9_:.-]+)", re.IGNORECASE)
_CSS_CHARSET = re.compile(rb'@charset "([a-zA-Z0-9_:.-]+)";')
_STYLE_TEXT = re.compile(r"<style\b[^>]*>(.*?)(?:</style|\Z)", re.IGNORECASE | re.DOTALL)
_BOMS = ((BOM_UTF8, "utf-8"), (BOM_UTF16_LE, "utf-16-le"), (BOM_UTF16_BE, "utf-16-be"))
_PRESCAN_BYTES = 1024
LARGEST_FILE_BYTES = 64 * 2**20


@dataclass(frozen=True)
class SourceText:
    """One file's text, as it was decoded.

    name: the path as people know it. text: the characters. codec: Python's name of the encoding.
    bom: the bytes of a byte order mark that stood in front, or none. is_css: a stylesheet, not HTML.
    """

    name: str
    text: str
    codec: str = "utf-8"
    bom: bytes = b""
    is_css: bool = False

    @cached_property
    def line_starts(self) -> list[int]:
        """The offset at which each line begins."""
        if "\r" in self.text or "\f" in self.text:
            return [0, *(m.end() for m in _LINE_END.finditer(self.text))]
        before = accumulate(map(len, self.text.split("\n")[:-1]), initial=0)
        return [at + ends for ends, at in enumerate(before)]

    def line_of(self, offset: int) -> int:
        """The line, from 1, that holds the character at `offset`."""
        return bisect_right(self.line_starts, offset)

    def offset_of(self, line: int, column: int) -> int:
        """The offset of a place given as line and column, both from 1; clamped to the text."""
        starts = self.line_starts
        start = starts[min(max(line, 1), len(starts)) - 1]
        return min(start + column - 1, len(self.text))

    def encode(self) -> bytes:
        """The bytes of the file.

        Characters that the encoding lacks are written as the language around them understands: as
        escapes in CSS (CSS Syntax 3 §4.3.7), also inside <style>, else as character references.
        """
        try:
            body = self.text.encode(self.codec, "surrogateescape")
        except UnicodeEncodeError:
            body = b"".join(_encode_part(t, self.codec, css) for t, css in self._parts())
        return self.bom + body

    def _parts(self) -> Iterator[tuple[str, bool]]:
        """The text in stretches of HTML and of CSS, with whether each is CSS."""
        if self.is_css:
            yield self.text, True
            return
        at = 0
        for match in _STYLE_TEXT.finditer(self.text):
            yield self.text[at : match.start(1)], False
            yield match.group(1), True
            at = match.end(1)
        yield self.text[at:], False

    def with_text(self, text: str) -> "SourceText":
        """The same file with another text."""
        return SourceText(self.name, text, self.codec, self.bom, self.is_css)


def _encode_part(text: str, codec: str, css: bool) -> bytes:
    return b"".join(_encode_char(c, codec, css) for c in text)


def _encode_char(char: str, codec: str, css: bool) -> bytes:
    try:
        return char.encode(codec, "surrogateescape")
    except UnicodeEncodeError:
        return (f"\\{ord(char):x} " if css else f"&#{ord(char)};").encode(codec)


def decode_html(data: bytes, name: str) -> SourceText:
    """The text of an HTML file: HTML Standard §13.2.3.2 (byte order mark, then the meta prescan).

    Raises PageNotReadable if the bytes are no text at all.
    """
    declared = _META_CHARSET.search(data[:_PRESCAN_BYTES])
    return _decode(data, name, declared.group(1).decode("ascii") if declared else None)


def decode_css(data: bytes, name: str, page_codec: str = "utf-8") -> SourceText:
    """The text of a stylesheet: CSS Syntax 3 §3.2; `page_codec` is that of the page linking it.

    Raises PageNotReadable if the bytes are no text at all.
    """
    declared = _CSS_CHARSET.match(data)
    source = _decode(data, name, declared.group(1).decode("ascii") if declared else page_codec)
    return replace(source, is_css=True)


def _decode(data: bytes, name: str, declared: str | None) -> SourceText:
    if len(data) > LARGEST_FILE_BYTES:
        raise PageNotReadable(
            f"the file has {len(data) // 2**20} MB.",
            where=name,
            remedy=f"Red Crate opens files of up to {LARGEST_FILE_BYTES // 2**20} MB.",
        )
    for bom, codec in _BOMS:
        if data.startswith(bom):
            return SourceText(name, _text(data[len(bom) :], codec, name), codec, bom)
    if b"\0" in data[:4096]:
        raise PageNotReadable(
            "this is not text: it has zero bytes.",
            where=name,
            remedy="Choose the HTML file of a page.",
        )
    return SourceText(name, *_text_and_codec(data, name, declared))


def _text_and_codec(data: bytes, name: str, declared: str | None) -> tuple[str, str]:
    encoding = webencodings.lookup(declared) if declared else None
    codec = encoding.codec_info.name if encoding else "utf-8"
    if codec.startswith("utf-16"):  # HTML Standard §13.2.3.2: a meta cannot mean this
        codec = "utf-8"
    if declared is None:
        try:
            return data.decode("utf-8"), "utf-8"
        except UnicodeDecodeError:
            codec = "cp1252"
    try:
        return _text(data, codec, name), codec
    except PageNotReadable:  # the declaration is wrong: every byte is a character of this one
        return _text(data, "cp1252", name), "cp1252"


def _text(data: bytes, codec: str, name: str) -> str:
    try:
        return data.decode(codec, "surrogateescape")
    except (UnicodeDecodeError, ValueError, LookupError) as problem:
        raise PageNotReadable(
            f"the file is not {codec} text ({problem}).",
            where=name,
            remedy="Save the file as UTF-8 in your editor.",
        ) from problem
