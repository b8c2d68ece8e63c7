"""The files that a browser may see of a page: its own ones as they are now, and what lies in its folder."""

import os
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

_LARGEST = 64 * 2**20


@dataclass(frozen=True, slots=True)
class PageFiles:
    """page: the HTML file. texts: its bytes and those of its sheets as they are now, saved or not, by their paths.

    used: pictures and fonts of it, which may lie outside of its folder.
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
    def root(self) -> Path:
        """What addresses begin at: the folder that holds the page and all of its sheets."""
        folders = [str(path.parent) for path in (self.page, *self.texts, *self.used)]
        return Path(os.path.commonpath(folders))

    @property
    def address(self) -> str:
        """The page's address below the root."""
        return quote(self.page.relative_to(self.root).as_posix())

    def read(self, address: str) -> bytes | None:
        """The bytes at an address below the root; None for what nobody may see, and what is not there.

        Seen are the page's own texts, pictures and fonts, and files in its folder and below, as long as no part of
        their path is hidden and no link leads out of there.
        """
        if "\0" in address:
            return None
        path = Path(os.path.normpath(self.root / address.lstrip("/")))
        if path in self.texts:
            return self.texts[path]
        try:
            folder, real = self.page.parent.resolve(), path.resolve(strict=True)
            inside = real.is_relative_to(folder) and not _is_hidden(real.relative_to(folder))
            if not inside and path not in self.used:
                return None
            if not real.is_file() or real.stat().st_size > _LARGEST:
                return None
            return real.read_bytes()
        except (OSError, ValueError, RuntimeError):
            return None


def _is_hidden(path: Path) -> bool:
    return any(part.startswith(".") for part in path.parts)
