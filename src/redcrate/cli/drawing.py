"""`redcrate draw`: box diagrams of elements and the plan of a page, as SVG files."""

import sys
from collections.abc import Iterator
from pathlib import Path

import click

from redcrate.cli.reading import guarded, height_option, load, width_option
from redcrate.core.diagram.box_diagram import DiagramOptions, NoDiagram, box_diagram
from redcrate.core.diagram.codes import LIGHT, PRINT, Palette
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.file_names import file_names
from redcrate.core.diagram.page_plan import PlanOptions, page_plan
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.edit.targets import matched
from redcrate.core.errors import FileIsThere, SelectorMatchesNothing
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.selectors import SelectorNotUnderstood, compile_selectors

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
    "-o", "--output", type=click.Path(path_type=Path), help="An .svg file or a folder; else printed."
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
    output: Path | None,
    force: bool,
    width: float,
    height: float,
) -> None:
    """Draw labelled box diagrams of elements of PAGE, or its plan, as SVG."""

    def work() -> list[tuple[str, str]]:
        computed = load(page, width, height)
        chosen = list(_chosen(computed, selectors, everything=everything))
        if len(selectors) < 2 and not everything and _is_one_file(output):
            chosen = chosen[:1]  # one file holds one drawing: the first
        name = f"{page.resolve().parent.name} / {page.name}"
        if kind == "plan":
            roots = chosen if selectors else [None]
            made = [_plan(computed, root, PlanOptions(depth, name)) for root in roots]
        else:
            made = list(_diagrams(computed, chosen, DiagramOptions(mode == "true", name)))
        return [(label, drawing_svg(drawing, _PALETTES[palette])) for label, drawing in made]

    drawings = guarded(work)
    guarded(lambda: _write(drawings, output, force=force))


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
    page: Page, chosen: list[Element], options: DiagramOptions
) -> Iterator[tuple[str, Drawing]]:
    """A diagram of each that has a box; of a single one without, the sentence that it has none."""
    for element in chosen:
        try:
            yield element.label, box_diagram(page, element, options)
        except NoDiagram:
            if len(chosen) == 1:
                raise


def _plan(page: Page, root: Element | None, options: PlanOptions) -> tuple[str, Drawing]:
    label = "page" if root is None else root.label
    return f"{label}-plan", page_plan(page, root, options)


def _is_one_file(output: Path | None) -> bool:
    """Whether one drawing is printed, or goes into one file."""
    return output is None or output.suffix.lower() == ".svg" and not output.is_dir()


def _write(drawings: list[tuple[str, str]], output: Path | None, *, force: bool) -> None:
    """Print one drawing, or write all of them; nothing is written if a file is in the way."""
    if output is None:
        if len(drawings) > 1:
            raise click.UsageError(f"there are {len(drawings)} drawings: name a folder with -o.")
        for _, svg in drawings:
            click.echo(svg, nl=False)
        return
    one = _is_one_file(output)
    if one and len(drawings) > 1:
        raise click.UsageError(f"there are {len(drawings)} drawings: name a folder, not an .svg file.")
    if not one and output.suffix and not output.is_dir():
        raise click.UsageError("the output must be an .svg file or a folder.")
    names = [output] if one else [output / n for n in file_names((la for la, _ in drawings), ".svg")]
    there = [n for n in names if n.exists()]
    if there and not force and not one:
        raise FileIsThere(
            f"{there[0]}: it is there already.", remedy="Name another folder, or say --force."
        )
    try:
        if not one:
            output.mkdir(parents=True, exist_ok=True)
        for name, (_, svg) in zip(names, drawings, strict=True):
            name.write_text(svg, encoding="utf-8")
    except OSError as problem:
        click.echo(f"redcrate: {output}: it cannot be written ({problem.strerror}).", err=True)
        sys.exit(2)
    if not one:
        click.echo(f"wrote {len(names)} drawing{'s' if len(names) != 1 else ''} to {output}")
