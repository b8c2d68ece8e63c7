"""What is kept beside a page in PAGE.redcrate.json: widths and silenced findings. docs/settings-file.md."""

import json
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

from redcrate.core.comp.placing import CompPlace, comp_from_json
from redcrate.core.files.saving import save_bytes
from redcrate.core.units import format_number

_VERSION = 1
_KNOWN = ("version", "widths", "names", "comps", "silenced")


@dataclass(frozen=True, slots=True)
class PageSettings:
    """widths: px, widest first as the designer put them; empty: the usual ones. silenced: pairs of a
    finding's family and the place of its element (`html>body>div:2`), "*" for the whole family. names: what the
    designer calls widths. comps: the pictures that lie over the page, by window width.
    """

    widths: tuple[float, ...] = ()
    silenced: frozenset[tuple[str, str]] = frozenset()
    names: Mapping[float, str] = field(default_factory=dict)
    comps: Mapping[float, CompPlace] = field(default_factory=dict)
    unknown: Mapping[str, object] = field(default_factory=dict)  # what a newer version wrote is kept

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
    """The settings beside a page; a missing or damaged file counts as none."""
    try:
        kept = json.loads(settings_path(page).read_text(encoding="utf-8"))
        widths = tuple(float(w) for w in kept.get("widths", []) if 1 <= float(w) <= 20_000)
        silenced = frozenset((str(s["family"]), str(s["place"])) for s in kept.get("silenced", []))
        names = {float(w): str(n) for w, n in kept.get("names", {}).items()}
        comps = {float(w): comp_from_json(c) for w, c in kept.get("comps", {}).items()}
        unknown = {k: v for k, v in kept.items() if k not in _KNOWN}
    except (OSError, ValueError, KeyError, TypeError, AttributeError):
        return PageSettings()
    return PageSettings(widths, silenced, names, comps, unknown)


def write_settings(page: Path, settings: PageSettings) -> None:
    """Write the settings beside a page. Raises PageNotWritable."""
    text = {
        "version": _VERSION,
        "widths": list(settings.widths),
        **(
            {"names": {format_number(w): n for w, n in settings.names.items()}} if settings.names else {}
        ),
        **(
            {"comps": {format_number(w): c.as_json() for w, c in settings.comps.items()}}
            if settings.comps
            else {}
        ),
        "silenced": [{"family": f, "place": p} for f, p in sorted(settings.silenced)],
        **settings.unknown,
    }
    save_bytes(settings_path(page), (json.dumps(text, indent=1) + "\n").encode("utf-8"))
