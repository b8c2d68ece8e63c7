"""Where the exercises lie: in the source tree, or as installed beside the package."""

from importlib.resources import files
from pathlib import Path


def exercises_folder() -> Path:
    """The folder of all exercises."""
    package = Path(str(files("redcrate")))
    tree = package.parents[1] / "exercises"
    return tree if tree.is_dir() else package / "exercises"
