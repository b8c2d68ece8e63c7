"""Where `redcrate draw` writes to: one file or a folder of files, never over another one unasked."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TypeAlias

import click

from redcrate.cli.telling import tell
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.file_names import file_names
from redcrate.core.diagram.paper import Paper, pages_of
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.errors import FileIsThere, PageNotWritable
from redcrate.core.files.saving import write_made
from redcrate.core.records import dataclass
from redcrate.core.units import counted

_ENDINGS = (".svg", ".png", ".pdf", ".html")
Named: TypeAlias = tuple[str, Drawing]
# Writes what has a name (drawings, or the text of a report) into one file.
End: TypeAlias = Callable[[Sequence[tuple[str, Drawing | str]], Path], None]


@dataclass(frozen=True, slots=True)
class EndOptions:
    """scale: dots of a PNG for one px. paper: sheets of a PDF, None for pages as large as their drawings.

    each: drawings on such a sheet.
    """

    palette: Palette
    scale: float = 1.0
    paper: Paper | None = None
    each: int = 1


def ending_of(output: Path | None, form: str | None) -> str:
    """The ending of the files, with its dot."""
    if output is not None and is_one_file(output):
        ending = output.suffix.lower()
        if ending not in _ENDINGS or (form is not None and ending != f".{form}"):
            raise click.UsageError("the output must be an .svg, .png, .pdf or .html file, or a folder.")
        return ending
    return f".{form or 'svg'}"


def is_one_file(output: Path | None) -> bool:
    """Whether one drawing is printed, or all go into one file."""
    return output is None or (output.suffix != "" and not output.is_dir())


def print_svg(drawings: Sequence[Named], ending: str, palette: Palette) -> None:
    """Print the one drawing there is."""
    if ending != ".svg":
        raise click.UsageError(f"Give the name of the {ending[1:]} file with -o.")
    if len(drawings) > 1:
        raise click.UsageError(f"there are {len(drawings)} drawings: give a folder with -o.")
    for _, drawing in drawings:
        tell(drawing_svg(drawing, palette), nl=False)


def ends(ending: str, options: EndOptions) -> End:
    """What writes files of that kind; Qt is loaded only for pictures and PDF."""
    if ending in (".svg", ".html"):
        return lambda named, path: write_made(path, _text(named[0][1], options.palette))
    try:
        from redcrate.app.painting import drawing_files
    except ImportError as problem:
        raise click.ClickException(
            f"PNG and PDF need Qt, which does not load ({problem}). Install redcrate[window]."
        ) from None
    application = drawing_files.make_ready()
    click.get_current_context().call_on_close(lambda: application)  # it lives as long as the command

    def write_drawings(named: Sequence[tuple[str, Drawing | str]], path: Path) -> None:
        drawn = [(name, drawing) for name, drawing in named if isinstance(drawing, Drawing)]
        if ending == ".png":
            drawing_files.write_png(drawn[0][1], path, options.palette, options.scale)
            return
        paper = options.paper
        pages = None if paper is None else pages_of([d for _, d in drawn], paper, options.each)
        drawing_files.write_pdf(drawn, path, options.palette, pages)

    return write_drawings


def _text(what: Drawing | str, palette: Palette) -> str:
    return what if isinstance(what, str) else drawing_svg(what, palette)


def _ask(paths: Sequence[Path], *, force: bool) -> None:
    """No file is written over unless that is wished for."""
    there = next((p for p in paths if p.exists()), None)
    if there is not None and not force:
        raise FileIsThere(f"{there} already exists.", remedy="Choose another name, or use --force.")


def write(
    named: Sequence[tuple[str, Drawing | str]], output: Path, ending: str, end: End, *, force: bool
) -> None:
    """One file, which for a PDF holds all drawings, or a folder of files; none is written if one is in the way."""
    if not named:
        raise click.UsageError("none of these elements can be drawn.")
    if is_one_file(output):
        if len(named) > 1 and ending != ".pdf":
            raise click.UsageError(
                f"there are {len(named)} drawings: give a folder, not an {ending} file."
            )
        _ask([output], force=force)
        end(named, output)
        return
    paths = [output / n for n in file_names((label for label, _ in named), ending)]
    _ask(paths, force=force)
    try:
        output.mkdir(parents=True, exist_ok=True)
    except OSError as problem:
        raise PageNotWritable(f"{output} cannot be created ({problem.strerror}).") from None
    for number, path in enumerate(paths):
        end(named[number : number + 1], path)
    tell(counted(len(paths), "exported 1 drawing to ", "exported {count} drawings to ") + str(output))
