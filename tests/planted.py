"""A folder of a stranger, with modules of every name that a Python program may load from beside a page."""

import sys
from pathlib import Path

_TAKEN_ALONG = """redcrate html5lib tinycss2 cssselect2 webencodings uharfbuzz fontTools brotli PIL defusedxml click platformdirs
jinja2 msgspec selenium psutil urllib3 trio numpy pyqtgraph pypdf PyQt6 sitecustomize usercustomize tests conftest""".split()


def plant(folder: Path) -> Path:
    """Put modules into `folder` that write their name into a file when they are run; that file."""
    mark = folder / "was-run.txt"
    for name in {*sys.stdlib_module_names, *_TAKEN_ALONG}:
        text = f"open({str(mark)!r}, 'a').write({name + ' '!r})\nraise ImportError({name!r})\n"
        (folder / f"{name}.py").write_text(text)
    return mark
