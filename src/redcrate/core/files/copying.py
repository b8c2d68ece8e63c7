"""Save as: a page with its stylesheets and pictures in another folder, by the same relative names."""

import os
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path

from redcrate.core.errors import PageNotWritable
from redcrate.core.files.loading import Resources
from redcrate.core.files.saving import save_bytes
from redcrate.core.markup.elements import Markup
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
) -> CopyReport:
    """Write the page to `goal` with all local files that it uses.

    texts: the bytes of the HTML and CSS files as they are now, by name. Files outside the page's
    folder stay where they are. Raises PageNotWritable; what was written so far is whole.
    """
    folder, source = goal.parent, page.parent
    if goal.resolve() == page.resolve():
        raise PageNotWritable(
            "this is the page itself.", where=str(goal), remedy="Choose another name or folder."
        )
    wanted: dict[str, bytes] = {}
    left: list[str] = []
    for name, data in texts.items():
        if name == page.name:
            continue
        _take(name, data, wanted, left)
    if folder.resolve() != source.resolve():
        for address in _addresses(markup, texts):
            path = resources.path_of(address, source)
            if path is None:
                if address and not address.lower().startswith(("data:", "#", "mailto:")):
                    left.append(address)
                continue
            found = _read(path)
            if found is not None:
                _take(resources.name_of(path), found, wanted, left)
    else:
        wanted = {}
    _make_folder(folder)
    for name, data in wanted.items():
        target = folder / name
        _make_folder(target.parent)
        save_bytes(target, data)
    save_bytes(goal, texts[page.name])
    return CopyReport(goal, (goal.name, *wanted), tuple(dict.fromkeys(left)))


def _take(name: str, data: bytes, wanted: dict[str, bytes], left: list[str]) -> None:
    if os.path.isabs(name) or ".." in Path(name).parts:
        left.append(name)
    else:
        wanted.setdefault(name, data)


def _addresses(markup: Markup, texts: Mapping[str, bytes]) -> Iterable[str]:
    for element in markup.root.walk():
        for attribute in ("src", "poster"):
            if element.attributes.get(attribute):
                yield element.attributes[attribute]
        if element.tag == "link" and element.attributes.get("href"):
            yield element.attributes["href"]
        style = markup.style_attribute(element)
        if "url(" in style.lower():
            yield from css_addresses(style)
    for data in texts.values():
        yield from css_addresses(data.decode("latin-1"))


def css_addresses(css: str) -> Iterable[str]:
    """The addresses in url() of a CSS text."""
    for match in _URL.finditer(css):
        text = next((g for g in match.groups() if g is not None), "")
        tokens = component_values(f'"{text}"')
        yield str(tokens[0].value) if tokens and tokens[0].type == "string" else text


def _read(path: Path) -> bytes | None:
    try:
        return path.read_bytes()
    except OSError:
        return None


def _make_folder(folder: Path) -> None:
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as problem:
        raise PageNotWritable(
            f"the folder cannot be made ({problem.strerror}).", where=str(folder)
        ) from None
