"""Where this user's exercises and progress are kept."""

from pathlib import Path

from platformdirs import user_data_path

from redcrate.core.exercises.progress import Progress


def work_folder() -> Path:
    """The folder of the user's own copies of exercises."""
    return user_data_path("redcrate") / "exercises"


def progress() -> Progress:
    """What was done so far."""
    return Progress(work_folder() / "progress.json")
