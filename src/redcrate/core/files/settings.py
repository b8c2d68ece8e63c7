"""What is kept beside a page in PAGE.redcrate.json: widths and silenced findings. docs/settings-file.md."""

from collections.abc import Mapping
from dataclasses import field, replace
from pathlib import Path
from typing import Annotated

from msgspec import Meta, Struct

from redcrate.core.comp.placing import CompPlace, KeptComp
from redcrate.core.files.data_files import DataFile, read_data
from redcrate.core.records import dataclass

_Width = Annotated[float, Meta(ge=1, le=20_000)]


class _Silenced(Struct):
    """A finding that is not told."""

    family: str
    place: str


class _Kept(Struct):
    """The settings file."""

    version: int = 1
    widths: list[_Width] = []
    names: dict[_Width, str] = {}
    comps: dict[_Width, KeptComp] = {}
    silenced: list[_Silenced] = []


@dataclass(frozen=True, slots=True)
class PageSettings:
    """widths: px, widest first as the designer put them; empty: the usual ones. silenced: pairs of a
    finding's family and the place of its element (`html>body>div:2`), "*" for the whole family. names: what the
    designer calls widths. comps: the pictures that lie over the page, by window width. faults: what of the file was
    passed over, a sentence each.
    """

    widths: tuple[float, ...] = ()
    silenced: frozenset[tuple[str, str]] = frozenset()
    names: Mapping[float, str] = field(default_factory=dict)
    comps: Mapping[float, CompPlace] = field(default_factory=dict)
    faults: tuple[str, ...] = ()

    def with_silenced(self, family: str, place: str) -> "PageSettings":
        """The settings with one more finding that is not told."""
        return replace(self, silenced=self.silenced | {(family, place)})

    def without_silenced(self, family: str, place: str) -> "PageSettings":
        """The settings with a finding told again."""
        return replace(self, silenced=self.silenced - {(family, place)})

    def is_silenced(self, family: str, place: str) -> bool:
        """Whether a finding is not to be told."""
        return (family, place) in self.silenced or (family, "*") in self.silenced


def settings_path(page: Path) -> Path:
    """Where the settings of a page lie."""
    return page.with_name(f"{page.name}.redcrate.json")


def read_settings(page: Path) -> PageSettings:
    """The settings beside a page; what is missing or malformed in the file is as usual, and told."""
    file = _file(page)
    kept = file.content
    return PageSettings(
        tuple(kept.widths),
        frozenset((s.family, s.place) for s in kept.silenced),
        dict(kept.names),
        {width: comp.placed() for width, comp in kept.comps.items()},
        file.faults,
    )


def write_settings(page: Path, settings: PageSettings) -> None:
    """Write the settings beside a page; what they do not speak of stays in the file. Raises PageNotWritable."""
    _file(page).write(
        _Kept(
            1,
            [*settings.widths],
            dict(settings.names),
            {width: KeptComp.of(comp) for width, comp in settings.comps.items()},
            [_Silenced(*pair) for pair in sorted(settings.silenced)],
        )
    )


def _file(page: Path) -> DataFile[_Kept]:
    return read_data(settings_path(page), _Kept)
