"""Writes src/redcrate/core/style/standards.json: what today's CSS standards define.

Usage: tools/standards.py CSS_JSON, the file css.json of the npm package @webref/css (MIT licence), which
its editors extract from the standards themselves.
"""

import json
import sys
from pathlib import Path

TARGET = Path(__file__).parent.parent / "src" / "redcrate" / "core" / "style" / "standards.json"


def standard_of(address: str) -> str:
    """The short name of the standard that an address lies in, such as css-grid-2."""
    path = address.split("#")[0].rstrip("/").removeprefix("https://").split("/")
    name = path[-1].removesuffix(".html")
    return f"svg-{name}" if name != path[-1] else name


def main(source: Path) -> None:
    """Read the definitions and write what the core asks about."""
    given = json.loads(source.read_text(encoding="utf-8"))
    properties = {
        p["name"]: [standard_of(p["href"]), p.get("legacyAliasOf") or "", p.get("syntax") or ""]
        for p in given["properties"]
    }
    types: dict[str, str] = {}
    for entry in given["types"]:
        if entry.get("syntax"):  # a name that two standards define means either of the two
            known = types.get(entry["name"])
            both = f"[ {known} ] | [ {entry['syntax']} ]" if known else entry["syntax"]
            types[entry["name"]] = both
    data = {
        "source": "@webref/css (MIT licence), extracted from the standards",
        "properties": dict(sorted(properties.items())),
        "types": dict(sorted(types.items())),
        "functions": sorted({f["name"].rstrip("()") for f in given["functions"]}),
        "selectors": sorted({s["name"].rstrip("()") for s in given["selectors"]}),
        "atrules": sorted({a["name"] for a in given["atrules"]}),
    }
    TARGET.write_text(json.dumps(data, indent=0, ensure_ascii=False) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
