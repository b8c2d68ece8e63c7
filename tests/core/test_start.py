"""What a command loads: a report nothing of the window, of editing, of findings, of drawings, nor the packages that those need."""

import subprocess
import sys
from pathlib import Path

# Rooms of the core, and packages of others, that the box report of a page without pictures and fonts needs.
ROOMS = {"boxes", "files", "layout", "markup", "style", "text"}
OTHERS = {
    "click",
    "cssselect2",
    "html5lib",
    "six",
    "tinycss2",
    "uharfbuzz",
    "webencodings",
    "typing_extensions",
    "cython_runtime",
}
SCRIPT = """
import sys
from redcrate.cli.main import main
try:
    main(sys.argv[1:])
finally:
    print(*sys.modules, file=sys.stderr)
"""


def test_what_a_report_loads(tmp_path: Path) -> None:
    """Its own rooms, and no more packages than it says here."""
    page = tmp_path / "page.html"
    page.write_text(
        "<!doctype html><style>p { width: calc(2em + 5%) }</style><p>One<table><tr><td>two",
        encoding="utf-8",
    )
    done = subprocess.run(
        [sys.executable, "-c", SCRIPT, "report", str(page)],
        capture_output=True,
        text=True,
        check=True,
        timeout=120,
    )
    loaded = done.stderr.split()
    rooms = {
        name.split(".")[2]
        for name in loaded
        if name.startswith("redcrate.core.") and name.count(".") > 2
    }
    assert rooms <= ROOMS, sorted(rooms - ROOMS)
    own = {name.split(".")[1] for name in loaded if name.startswith("redcrate.")}
    assert own <= {"core", "cli"}
    others = {name.split(".")[0] for name in loaded} - set(sys.stdlib_module_names)
    others = {name for name in others if not name.startswith(("_", "redcrate"))}
    assert others <= OTHERS, sorted(others - OTHERS)
