"""The register of longhand properties, made of the rows in `computed.py`, and of their logical names."""

from dataclasses import fields

from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.property import Property, property_of

PROPERTIES: dict[str, Property] = {
    made.name: made
    for made in (property_of(f.name, f.metadata) for f in fields(ComputedStyle) if f.metadata)
}
# The fields that stand for no property of their own.
DERIVED_FIELDS = frozenset(f.name for f in fields(ComputedStyle) if not f.metadata)

# Logical longhands (CSS Logical 1) in horizontal writing: name → (ltr, rtl) physical longhand.
LOGICAL: dict[str, tuple[str, str]] = {}


def _add_logical() -> None:
    sides = {
        "block-start": ("top", "top"),
        "block-end": ("bottom", "bottom"),
        "inline-start": ("left", "right"),
        "inline-end": ("right", "left"),
    }
    for logical, (ltr, rtl) in sides.items():
        for head in ("margin", "padding"):
            LOGICAL[f"{head}-{logical}"] = (f"{head}-{ltr}", f"{head}-{rtl}")
        LOGICAL[f"inset-{logical}"] = (ltr, rtl)
        for tail in ("width", "style", "color"):
            LOGICAL[f"border-{logical}-{tail}"] = (f"border-{ltr}-{tail}", f"border-{rtl}-{tail}")
    for logical, physical in (("inline-size", "width"), ("block-size", "height")):
        for head in ("", "min-", "max-"):
            LOGICAL[head + logical] = (head + physical, head + physical)


_add_logical()
