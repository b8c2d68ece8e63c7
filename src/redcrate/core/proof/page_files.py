"""The files that a browser may see of a page: its own ones as they are now, and what lies in its folder."""

import os
from collections.abc import Iterable, Mapping
from dataclasses import replace
from pathlib import Path
from urllib.parse import quote

from redcrate.core.files.judging import is_font, is_picture
from redcrate.core.files.reading import read_regular
from redcrate.core.records import dataclass

# What a request is for (Fetch Standard §2.2.5, Sec-Fetch-Dest) where its answer is handed to the page's scripts.
_READ_BY_SCRIPTS = frozenset(
    ("empty", "json", "worker", "sharedworker", "serviceworker", "text", "manifest")
)


@dataclass(frozen=True, slots=True)
class PageFiles:
    """page: the HTML file. texts: its bytes and those of its sheets as they are now, saved or not, by their paths.

    used: pictures and fonts of it. Sheets, pictures and fonts may lie outside of its folder.
    """

    page: Path
    texts: Mapping[Path, bytes]
    used: frozenset[Path] = frozenset()

    @classmethod
    def of(cls, page: Path, texts: Mapping[Path, bytes], used: Iterable[Path] = ()) -> "PageFiles":
        """The same with whole paths."""
        whole = {Path(os.path.abspath(path)): data for path, data in texts.items()}
        return cls(Path(os.path.abspath(page)), whole, frozenset(Path(os.path.abspath(p)) for p in used))

    @property
    def outside(self) -> tuple[str, ...]:
        """The files outside the page's folder, as people know them."""
        found = sorted(path for path in {*self.texts, *self.used} if not self._is_inside(path))
        return tuple(os.path.relpath(path, self.page.parent) for path in found)

    def without_outside(self) -> "PageFiles":
        """What may be seen where nobody wants files outside the page's folder to be."""
        texts = {path: data for path, data in self.texts.items() if self._is_inside(path)}
        return replace(self, texts=texts, used=frozenset(p for p in self.used if self._is_inside(p)))

    @property
    def root(self) -> Path:
        """What addresses begin at: the folder that holds the page and all of its sheets."""
        folders = [str(path.parent) for path in (self.page, *self.texts, *self.used)]
        return Path(os.path.commonpath(folders))

    @property
    def address(self) -> str:
        """The page's address below the root."""
        return quote(self.page.relative_to(self.root).as_posix())

    def kind(self, address: str) -> str:
        """What the page's own texts are, whatever they are called; "" for other files."""
        path = self._path(address)
        return "" if path not in self.texts else "text/html" if path == self.page else "text/css"

    def is_page(self, address: str) -> bool:
        """Whether an address is the page's."""
        return self._path(address) == self.page

    def _path(self, address: str) -> Path:
        return Path(os.path.normpath(self.root / address.lstrip("/")))

    def read(self, address: str, use: str) -> bytes | None:
        """The bytes at an address below the root; None for what nobody may see, and what is not there.

        use: what the request is for. Seen are the page's own texts, pictures and fonts, and files in its folder and below,
        as long as no part of their path is hidden and no link leads out of there. Files elsewhere are seen as what they
        are, by requests for such; and none of all is handed to a script.
        """
        if "\0" in address or use in _READ_BY_SCRIPTS:
            return None
        path = self._path(address)
        try:
            if not self._is_inside(path):
                return self._elsewhere(path, use)
            if path in self.texts:
                return self.texts[path]
            return read_regular(path) if self._is_shown(path) else None
        except (OSError, ValueError, RuntimeError):
            return None

    def _elsewhere(self, path: Path, use: str) -> bytes | None:
        if path in self.texts:
            return self.texts[path] if use == "style" else None
        if path not in self.used or use not in ("image", "font"):
            return None
        data = read_regular(path)
        return data if (is_picture if use == "image" else is_font)(data) else None

    def _is_inside(self, path: Path) -> bool:
        """Whether it really lies in the page's folder or below."""
        folder = os.path.realpath(self.page.parent)
        return os.path.commonpath([os.path.realpath(path), folder]) == folder

    def _is_shown(self, path: Path) -> bool:
        """Whether no part of its real path below the folder is hidden."""
        below = os.path.relpath(os.path.realpath(path), os.path.realpath(self.page.parent))
        return not any(part.startswith(".") for part in Path(below).parts)
