"""Where the demo pages are: in the source tree, or as installed beside the package."""

from importlib.resources import files
from pathlib import Path


def demo_page(name: str = "ploverfield") -> Path:
    """The HTML file of a demo page."""
    package = Path(str(files("redcrate")))
    tree = package.parents[1] / "demo"
    folder = tree if tree.is_dir() else package / "demo"
    return folder / name / "index.html"


def is_demo_text(text: str) -> bool:
    """Whether a page's HTML is that of the demo page that is opened at the start, wherever a copy of it is."""
    try:
        return demo_page().read_text(encoding="utf-8") == text
    except OSError:
        return False
