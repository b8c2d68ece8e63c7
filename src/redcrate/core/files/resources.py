"""The files beside a page, each read once: style sheets, pictures, fonts.

A page is a stranger. Only regular files are read, within a bound; what lies outside the page's folder, or is led out of
it by a link, is used only where it is what it is used for, and is told.
"""

import os
from collections.abc import Callable
from hashlib import sha256
from pathlib import Path

from redcrate.core.boxes.image_size import IntrinsicSize, data_uri_bytes, intrinsic_size
from redcrate.core.errors import PageNotReadable
from redcrate.core.files.judging import is_font, is_picture, is_sheet
from redcrate.core.files.kept_fonts import font_data
from redcrate.core.files.reading import read_regular, reason_of
from redcrate.core.markup import SourceText, decode_css
from redcrate.core.markup.addresses import local_path
from redcrate.core.page_files import NOTHING_TO_SAY, PictureFile
from redcrate.core.records import dataclass

NOT_FOUND = "was not found"


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
        """page: its file; the folder that it is in counts from the present one, now and later."""
        self.page = Path(os.path.abspath(page))
        self.folder = self.page.parent
        self._real_folder = os.path.realpath(self.folder)
        self._images: dict[str, IntrinsicSize | None] = {}
        self._sheets: dict[str, Loaded | None] = {}
        self._fonts: dict[str, tuple[object, FontData | None]] = {}  # with how the file was
        self._faults: dict[Path, str] = {}
        self._places: dict[
            str, tuple[Path | None, str]
        ] = {}  # of pictures, as when they were first looked for

    def path_of(self, address: str, base: Path) -> Path | None:
        """The local file that an address means; None for anything over a network."""
        path = local_path(address)
        if path is None:
            return None
        return Path(os.path.normpath(base / path.lstrip("/") if path.startswith("/") else base / path))

    # -- what there is to say of a file

    def outside(self, path: Path | None) -> str:
        """How people know a file outside the page's folder, or led out of it by a link; "" for one within."""
        if path is None or self.is_inside(path):
            return ""
        return os.path.relpath(path, self.folder)

    def is_inside(self, path: Path) -> bool:
        """Whether a file really lies in the page's folder or below."""
        try:
            real = os.path.realpath(path)
            return os.path.commonpath([real, self._real_folder]) == self._real_folder
        except ValueError:
            return False

    def fault(self, address: str, base: Path) -> str:
        """Why a file was not used, as the end of a sentence: "was not found", "is not read: it is a device"."""
        path = self.path_of(_plain(address), base)
        return NOT_FOUND if path is None else self._faults.get(path, NOT_FOUND)

    def about_picture(self, address: str) -> PictureFile:
        """What there is to say of the file of a picture."""
        if _is_data(address):
            return NOTHING_TO_SAY
        if address not in self._places:
            path = self.path_of(_plain(address), self.folder)
            is_there = path is not None and os.path.isfile(path)
            self._places[address] = path, self.outside(path) if is_there else ""
        path, outside = self._places[address]
        fault = self._faults.get(path, "") if path is not None else ""
        return PictureFile(fault, "" if fault else outside)

    def _bytes(self, path: Path, fits: Callable[[bytes], bool], kind: str) -> bytes | None:
        """The bytes of a file; None if it is not there, or must not be used as what it is used for."""
        try:
            data = read_regular(path)
        except FileNotFoundError:
            self._faults.pop(path, None)
            return None
        except OSError as problem:
            self._faults[path] = f"is not read: {reason_of(problem)}"
            return None
        if not self.is_inside(path) and not fits(data):
            self._faults[path] = f"is not used: it is outside the page's folder and not a {kind}"
            return None
        self._faults.pop(path, None)
        return data

    # -- pictures and fonts

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
        if _is_data(address):
            return data_uri_bytes(address)
        path = self.path_of(address, self.folder)
        return None if path is None else self._bytes(path, is_picture, "picture")

    def font(self, address: str) -> FontData | None:
        """A font file, unpacked once as long as it is the same; None if it is not there, broken or remote."""
        path = None if _is_data(address) else self.path_of(_plain(address), self.folder)
        state = None if path is None else _state_of(path)
        known = self._fonts.get(address)
        if known is None or known[0] != state:
            packed = data_uri_bytes(address) if path is None else self._bytes(path, is_font, "font")
            data = font_data(packed) if packed else None
            made = None if data is None else FontData(sha256(data).hexdigest(), data)
            known = self._fonts[address] = (state, made)
        return known[1]

    def local_files(self) -> frozenset[Path]:
        """The pictures and fonts on this machine that a page has asked for so far."""
        found = (self.path_of(_plain(a), self.folder) for a in (*self._images, *self._fonts))
        return frozenset(path for path in found if path is not None)

    def forget_images(self) -> None:
        """Look for all pictures again when they are next asked for."""
        self._images.clear()
        self._places.clear()

    # -- style sheets

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
        name = self.name_of(path)

        def fits(data: bytes) -> bool:
            try:
                return is_sheet(decode_css(data, name, codec).text)
            except PageNotReadable:
                return False

        data = self._bytes(path, fits, "style sheet")
        try:
            return None if data is None else Loaded(path, decode_css(data, name, codec), data)
        except (ValueError, PageNotReadable):
            self._faults[path] = "is not read: it is not text"
            return None

    def name_of(self, path: Path) -> str:
        """A file's name as people know it: relative to the page's folder where possible."""
        try:
            return path.relative_to(self.folder).as_posix()
        except ValueError:
            return str(path)


def _is_data(address: str) -> bool:
    return address.lstrip()[:5].lower() == "data:"


def _plain(address: str) -> str:
    """An address without what a server would be asked."""
    return address.partition("#")[0].partition("?")[0]


def _state_of(path: Path) -> object:
    """What changes when a file does."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return ""
    return found.st_mtime_ns, found.st_size
