"""Where the demo pages lie: in the source tree, or as installed beside the package."""

from importlib.resources import files
from pathlib import Path


def demo_page(name: str = "ploverfield") -> Path:
    """The HTML file of a demo page."""
    package = Path(str(files("redcrate")))
    tree = package.parents[1] / "demo"
    folder = tree if tree.is_dir() else package / "demo"
    return folder / name / "index.html"
