"""`redcrate draw`: box diagrams of elements and the plan of a page, as SVG, PNG or PDF files."""

from collections.abc import Callable, Iterator
from pathlib import Path

import click

from redcrate.cli.reading import guarded, height_option, load, width_option
from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram, has_box
from redcrate.core.diagram.codes import LIGHT, PRINT, Palette
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.file_names import file_names
from redcrate.core.diagram.page_plan import PlanOptions, page_plan
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.edit.targets import matched
from redcrate.core.errors import FileIsThere, PageNotWritable, SelectorMatchesNothing
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.selectors import SelectorNotUnderstood, compile_selectors

_ENDINGS = (".svg", ".png", ".pdf")
_PALETTES: dict[str, Palette] = {"screen": LIGHT, "print": PRINT}


@click.command()
@click.argument("page", type=click.Path(path_type=Path))
@click.option("--select", "selectors", multiple=True, help="Which elements; may stand more than once.")
@click.option("--all", "everything", is_flag=True, help="Every element that has a box.")
@click.option("--kind", type=click.Choice(("box", "plan")), default="box", show_default=True)
@click.option("--depth", type=click.IntRange(min=0), help="Levels of a plan; all if not given.")
@click.option(
    "--scale-mode",
    "mode",
    type=click.Choice(("schematic", "true")),
    default="schematic",
    show_default=True,
    help="Thin parts of a box widened so that labels fit, or true proportions.",
)
@click.option("--palette", type=click.Choice(tuple(_PALETTES)), default="screen", show_default=True)
@click.option(
    "--format", "form", type=click.Choice(("svg", "png", "pdf")), help="If the output does not say it."
)
@click.option(
    "--scale",
    type=click.FloatRange(1, 4),
    default=1.0,
    show_default=True,
    help="Dots for a px of a PNG.",
)
@click.option(
    "-o",
    "--output",
    type=click.Path(path_type=Path),
    help="An .svg, .png or .pdf file, or a folder; else SVG is printed.",
)
@click.option("--force", is_flag=True, help="Write over files that are there.")
@width_option
@height_option
def draw(
    page: Path,
    selectors: tuple[str, ...],
    everything: bool,
    kind: str,
    depth: int | None,
    mode: str,
    palette: str,
    form: str | None,
    scale: float,
    output: Path | None,
    force: bool,
    width: float,
    height: float,
) -> None:
    """Draw labelled box diagrams of elements of PAGE, or its plan, as SVG, PNG or PDF."""
    ending = _ending(output, form)

    def work() -> list[tuple[str, Drawing]]:
        computed = load(page, width, height)
        chosen = list(_chosen(computed, selectors, everything=everything))
        alone = _is_one_file(output) and ending != ".pdf"
        if len(selectors) < 2 and not everything and alone:
            chosen = chosen[:1]  # one file holds one drawing: the first
        name = f"{page.resolve().parent.name} / {page.name}"
        if kind == "plan":
            roots = chosen if selectors else [None]
            return [_plan(computed, root, PlanOptions(depth, name)) for root in roots]
        return list(
            _diagrams(computed, chosen, DiagramOptions(mode == "true", name), everything=everything)
        )

    drawings = guarded(work)
    if output is None:
        _print(drawings, ending, _PALETTES[palette])
        return
    end = _ends(ending, _PALETTES[palette], scale)
    guarded(lambda: _write(drawings, output, ending, end, force=force))


def _ending(output: Path | None, form: str | None) -> str:
    """The ending of the files, with its dot."""
    if output is not None and _is_one_file(output):
        ending = output.suffix.lower()
        if ending not in _ENDINGS or form is not None and ending != f".{form}":
            raise click.UsageError("the output must be an .svg, .png or .pdf file, or a folder.")
        return ending
    return f".{form or 'svg'}"


def _chosen(page: Page, selectors: tuple[str, ...], *, everything: bool) -> Iterator[Element]:
    """The elements in document order, each once; body if nothing is asked for."""
    if everything:
        yield from page.elements
        return
    found: dict[Element, None] = {}
    for selector in selectors or ("body",):
        found.update(dict.fromkeys(all_matching(page, selector)))
    yield from sorted(found, key=lambda e: e.index)


def all_matching(page: Page, selector: str) -> tuple[Element, ...]:
    """The elements that match; raises SelectorMatchesNothing."""
    try:
        compiled = compile_selectors(component_values(selector))
    except SelectorNotUnderstood as problem:
        raise SelectorMatchesNothing(
            f"the selector “{selector}” is not understood ({problem}).",
            remedy="Try a tag, #id or .class.",
        ) from None
    found = matched(page, tuple(compiled))
    if not found:
        raise SelectorMatchesNothing(
            f"no element matches “{selector}”.",
            remedy="Look into `redcrate report PAGE --format text`.",
        )
    return found


def _diagrams(
    page: Page, chosen: list[Element], options: DiagramOptions, *, everything: bool
) -> Iterator[tuple[str, Drawing]]:
    """A diagram of each; of all elements only those that have a box."""
    for element in chosen:
        if not everything or has_box(page, element):
            yield element.label, box_diagram(page, element, options)


def _plan(page: Page, root: Element | None, options: PlanOptions) -> tuple[str, Drawing]:
    label = "page" if root is None else root.label
    return f"{label}-plan", page_plan(page, root, options)


def _is_one_file(output: Path | None) -> bool:
    """Whether one drawing is printed, or all go into one file."""
    return output is None or output.suffix != "" and not output.is_dir()


def _print(drawings: list[tuple[str, Drawing]], ending: str, palette: Palette) -> None:
    if ending != ".svg":
        raise click.UsageError(f"name the {ending[1:]} file with -o.")
    if len(drawings) > 1:
        raise click.UsageError(f"there are {len(drawings)} drawings: name a folder with -o.")
    for _, drawing in drawings:
        click.echo(drawing_svg(drawing, palette), nl=False)


# Writes drawings into one file.
End = Callable[[list[Drawing], Path], None]


def _ends(ending: str, palette: Palette, scale: float) -> End:
    """What writes files of that kind; Qt is loaded only for pictures and PDF."""
    if ending == ".svg":
        return lambda drawings, path: _write_text(path, drawing_svg(drawings[0], palette))
    try:
        from redcrate.app.painting import drawing_files
    except ImportError as problem:
        raise click.ClickException(
            f"PNG and PDF need Qt, which does not load ({problem}). Install redcrate[window]."
        ) from None
    application = drawing_files.make_ready()
    click.get_current_context().call_on_close(lambda: application)  # it lives as long as the command
    if ending == ".png":
        return lambda drawings, path: drawing_files.write_png(drawings[0], path, palette, scale)
    return lambda drawings, path: drawing_files.write_pdf(drawings, path, palette)


def _write_text(path: Path, text: str) -> None:
    try:
        path.write_text(text, encoding="utf-8")
    except OSError as problem:
        raise PageNotWritable(f"{path}: it cannot be written ({problem.strerror}).") from None


def _write(
    drawings: list[tuple[str, Drawing]], output: Path, ending: str, end: End, *, force: bool
) -> None:
    """One file, which for a PDF holds all drawings, or a folder of files; none is written if one is in the way."""
    if _is_one_file(output):
        if len(drawings) > 1 and ending != ".pdf":
            raise click.UsageError(
                f"there are {len(drawings)} drawings: name a folder, not an {ending} file."
            )
        end([drawing for _, drawing in drawings], output)
        return
    names = [output / n for n in file_names((label for label, _ in drawings), ending)]
    there = [n for n in names if n.exists()]
    if there and not force:
        raise FileIsThere(
            f"{there[0]}: it is there already.", remedy="Name another folder, or say --force."
        )
    try:
        output.mkdir(parents=True, exist_ok=True)
    except OSError as problem:
        raise PageNotWritable(f"{output}: it cannot be made ({problem.strerror}).") from None
    for name, (_, drawing) in zip(names, drawings, strict=True):
        end([drawing], name)
    click.echo(f"wrote {len(names)} drawing{'s' if len(names) != 1 else ''} to {output}")
