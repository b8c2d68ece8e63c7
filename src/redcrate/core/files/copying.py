"""Save as: a page with its stylesheets and pictures in another folder, by the same relative names."""

import mimetypes
import os
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from pathlib import Path

from redcrate.core.errors import FileIsThere, PageNotWritable
from redcrate.core.files.judging import is_font, is_picture, is_sheet
from redcrate.core.files.reading import read_regular
from redcrate.core.files.resources import Resources
from redcrate.core.files.saving import save_bytes
from redcrate.core.markup.elements import Markup
from redcrate.core.records import dataclass
from redcrate.core.style.css_syntax import component_values

_URL = re.compile(r"""url\(\s*(?:"([^"]*)"|'([^']*)'|([^)\s"']*))\s*\)""", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class CopyReport:
    """What was copied, and the addresses that were left as they are because they lie elsewhere."""

    page: Path
    copied: tuple[str, ...]
    left: tuple[str, ...]


def copy_page(
    page: Path,
    goal: Path,
    markup: Markup,
    resources: Resources,
    texts: Mapping[str, bytes],
    *,
    overwrite: bool = False,
) -> CopyReport:
    """Write the page to `goal` with all local files that it uses.

    texts: the bytes of the HTML and CSS files as they are now, by name. Files outside the page's folder stay where they
    are, and so does what is not what it is used for. overwrite: also where other files stand; otherwise FileIsThere is
    raised with their names before anything is written. Raises PageNotWritable; what was written so far is whole.
    """
    folder, source = goal.parent, page.parent
    if goal.resolve() == page.resolve():
        raise PageNotWritable(
            "this is the page itself.", where=str(goal), remedy="Choose another name or folder."
        )
    wanted: dict[str, bytes] = {}
    left: list[str] = []
    if folder.resolve() != source.resolve():
        for name, data in texts.items():
            if name != page.name:
                _take(name, data, wanted, left)
        _take_used(markup, resources, texts, wanted, left)
    files = {folder / name: data for name, data in wanted.items()} | {goal: texts[page.name]}
    there = tuple(path for path, data in files.items() if _would_be_lost(path, data))
    if there and not overwrite:
        names = tuple(os.path.relpath(path, folder) for path in there)
        raise FileIsThere(
            f"{', '.join(names)}: already exist there with other content.",
            where=str(folder),
            remedy="Choose another folder, or overwrite them.",
            names=names,
        )
    for path, data in files.items():
        _make_folder(path.parent)
        save_bytes(path, data)
    return CopyReport(goal, (goal.name, *wanted), tuple(dict.fromkeys(left)))


def _take_used(
    markup: Markup,
    resources: Resources,
    texts: Mapping[str, bytes],
    wanted: dict[str, bytes],
    left: list[str],
) -> None:
    """The files that the page names, as far as they are what they are used for."""
    for address, is_fit in _addresses(markup, texts):
        path = resources.path_of(address, resources.folder)
        if path is None:
            if address and not address.lower().startswith(("data:", "#", "mailto:")):
                left.append(address)
            continue
        try:
            found = read_regular(path)
        except FileNotFoundError:
            continue
        except OSError:
            left.append(address)
            continue
        if resources.is_inside(path) and is_fit(found, path):
            _take(resources.name_of(path), found, wanted, left)
        else:
            left.append(address)


def _would_be_lost(path: Path, data: bytes) -> bool:
    """Whether something else stands there."""
    try:
        return read_regular(path) != data
    except (FileNotFoundError, NotADirectoryError):
        return False
    except OSError:
        return True


def _take(name: str, data: bytes, wanted: dict[str, bytes], left: list[str]) -> None:
    if os.path.isabs(name) or ".." in Path(name).parts:
        left.append(name)
    else:
        wanted.setdefault(name, data)


Fit = Callable[[bytes, Path], bool]


def _is_ground(data: bytes, path: Path) -> bool:
    return is_picture(data) or is_font(data)


def _is_of_kind(*kinds: str) -> Fit:
    """Whether a file is of one of these kinds by its name: of what nobody here can read."""

    def fits(data: bytes, path: Path) -> bool:
        kind = mimetypes.guess_type(path.name)[0] or ""
        return kind.startswith(kinds)

    return fits


_SOURCES: Mapping[str, Fit] = {
    "img": lambda data, path: is_picture(data),
    "input": lambda data, path: is_picture(data),
    "script": _is_of_kind("text/javascript", "application/javascript", "application/json"),
    "iframe": _is_of_kind("text/html", "image/"),
    "embed": _is_of_kind("image/", "video/", "audio/", "application/pdf"),
    "track": _is_of_kind("text/vtt"),
}
_MEDIA = _is_of_kind("video/", "audio/", "image/")


def _addresses(markup: Markup, texts: Mapping[str, bytes]) -> Iterator[tuple[str, Fit]]:
    """What the page names, each with whether bytes are what it is used for."""
    for element in markup.root.walk():
        if element.attributes.get("src"):
            yield element.attributes["src"], _SOURCES.get(element.tag, _MEDIA)
        if element.attributes.get("poster"):
            yield element.attributes["poster"], _SOURCES["img"]
        if element.tag == "link" and element.attributes.get("href"):
            sheet = "stylesheet" in element.attributes.get("rel", "").lower()
            yield element.attributes["href"], _is_css if sheet else _is_ground
        style = markup.style_attribute(element)
        if "url(" in style.lower():
            yield from ((address, _is_ground) for address in css_addresses(style))
    for data in texts.values():
        yield from ((address, _is_ground) for address in css_addresses(data.decode("latin-1")))


def _is_css(data: bytes, path: Path) -> bool:
    return is_sheet(data.decode("latin-1"))


def css_addresses(css: str) -> Iterable[str]:
    """The addresses in url() of a CSS text."""
    for match in _URL.finditer(css):
        text = next((g for g in match.groups() if g is not None), "")
        tokens = component_values(f'"{text}"')
        yield str(tokens[0].value) if tokens and tokens[0].type == "string" else text


def _make_folder(folder: Path) -> None:
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as problem:
        raise PageNotWritable(
            f"the folder cannot be made ({problem.strerror}).", where=str(folder)
        ) from None
