"""`redcrate draw`: box diagrams, steps, before and after, the plan of a page; as SVG, PNG, PDF or one HTML file."""

from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

import click

from redcrate.cli.drawing_ends import EndOptions, Named, ending_of, ends, is_one_file, print_svg, write
from redcrate.cli.reading import guarded, height_option, load, width_option
from redcrate.cli.telling import tell
from redcrate.core.diagram.box_diagram import DiagramOptions, has_box
from redcrate.core.diagram.codes import LIGHT, PRINT, Palette
from redcrate.core.diagram.page_plan import NoPlan
from redcrate.core.diagram.paper import MOST_ON_A_PAGE, PAPERS
from redcrate.core.diagram.series import Before, Kind, NotOnOtherPage, Series
from redcrate.core.diagram.steps import NoSteps
from redcrate.core.diagram.worksheet import Blank
from redcrate.core.edit.targets import matched
from redcrate.core.errors import SelectorMatchesNothing
from redcrate.core.files.trial import Trial
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.media import DEFAULT_WIDTHS, Viewport
from redcrate.core.style.selectors import SelectorNotUnderstood, compile_selectors
from redcrate.core.units import format_number

if TYPE_CHECKING:
    pass

_KINDS = {"box": Kind.BOX, "plan": Kind.PLAN, "steps": Kind.STEPS, "compare": Kind.COMPARE}
_ENDS = {"box": "", "plan": "-plan", "steps": "-steps", "compare": "-compared"}  # of the files' names
_PALETTES: dict[str, Palette] = {"screen": LIGHT, "print": PRINT}


@dataclass(frozen=True, slots=True)
class _Wish:
    """What is to be drawn. against: the other page file of a comparison; with_width: its window width, px."""

    page: Path
    selectors: tuple[str, ...]
    everything: bool
    kind: str
    depth: int | None
    mode: str
    width: float
    height: float
    against: Path | None
    with_width: float | None

    @property
    def name(self) -> str:
        """The page as title blocks call it."""
        return _name_of(self.page)

    @property
    def options(self) -> DiagramOptions:
        """How boxes are drawn."""
        return DiagramOptions(self.mode == "true", self.name)


def _name_of(page: Path) -> str:
    return f"{page.resolve().parent.name} / {page.name}"


@click.command()
@click.argument("page", type=click.Path(path_type=Path))
@click.option("--select", "selectors", multiple=True, help="Elements to draw; can be repeated.")
@click.option("--all", "everything", is_flag=True, help="Draw every element that has a box.")
@click.option("--kind", type=click.Choice(tuple(_KINDS)), default="box", show_default=True)
@click.option("--depth", type=click.IntRange(min=0), help="Levels of a plan; default: all.")
@click.option(
    "--scale-mode",
    "mode",
    type=click.Choice(("schematic", "true")),
    default="schematic",
    show_default=True,
    help="schematic: thin parts widened so that labels fit; scale: true proportions.",
)
@click.option("--palette", type=click.Choice(tuple(_PALETTES)), default="screen", show_default=True)
@click.option(
    "--format",
    "form",
    type=click.Choice(("svg", "png", "pdf", "html")),
    help="Default: from the name of the output.",
)
@click.option(
    "--scale",
    type=click.FloatRange(1, 4),
    default=1.0,
    show_default=True,
    help="Dots per px of a PNG.",
)
@click.option(
    "--paper",
    type=click.Choice(("fit", *PAPERS)),
    default="fit",
    show_default=True,
    help="Page size of a PDF: the size of each drawing, or a paper size.",
)
@click.option(
    "--each",
    type=click.IntRange(1, MOST_ON_A_PAGE),
    default=1,
    show_default=True,
    help="Drawings per sheet of paper.",
)
@click.option(
    "--against",
    type=click.Path(path_type=Path),
    help="compare: the page before the change.",
)
@click.option("--with-width", type=float, help="compare: the viewport width of the state before, px.")
@click.option(
    "-o",
    "--output",
    type=click.Path(path_type=Path),
    help="An .svg, .png, .pdf or .html file, or a folder; default: SVG on standard output.",
)
@click.option(
    "--blank",
    type=click.Choice([b.value for b in Blank]),
    help="Make a worksheet: blanks for the sums, or for all numbers. Without it, the same drawing is the key.",
)
@click.option("--force", is_flag=True, help="Overwrite existing files.")
@width_option
@height_option
def draw(
    palette: str,
    form: str | None,
    scale: float,
    paper: str,
    each: int,
    output: Path | None,
    blank: str | None,
    force: bool,
    **wished: object,
) -> None:
    """Draw boxes of PAGE: diagrams, steps, before and after, or its plan, as SVG, PNG, PDF or HTML."""
    wish = _Wish(**wished)  # type: ignore[arg-type]
    ending = ending_of(output, form)
    if paper == "fit" and each > 1:
        raise click.UsageError("--each needs a paper size: --paper a4, a3 or letter.")
    if (wish.against or wish.with_width) is not None and wish.kind != "compare":
        raise click.UsageError("--against and --with-width belong to --kind compare.")
    if ending == ".html":
        _report(wish, _PALETTES[palette], output, blank, force=force)
        return
    drawings = guarded(lambda: list(_drawings(wish, blank, first_only=_holds_one(output, ending))))
    if output is None:
        print_svg(drawings, ending, _PALETTES[palette])
        return
    end = ends(ending, EndOptions(_PALETTES[palette], scale, PAPERS.get(paper), each))
    guarded(lambda: write(drawings, output, ending, end, force=force))


def _holds_one(output: Path | None, ending: str) -> bool:
    """Whether the output holds one drawing alone: then it is the first."""
    return is_one_file(output) and ending != ".pdf"


def _blank(word: str | None) -> Blank | None:
    return None if word is None else Blank(word)


def _drawings(wish: _Wish, blank: str | None, *, first_only: bool) -> Iterator[Named]:
    """What was wished for, drawn one by one; of all elements those that can be drawn so."""
    trial = Trial.of_file(wish.page)
    page = trial.page(Viewport(wish.width, wish.height))
    chosen = list(_chosen(page, wish))
    if len(wish.selectors) < 2 and not wish.everything and first_only:
        chosen = chosen[:1]
    before = _before(wish) if wish.kind == "compare" else None
    kind = _KINDS[wish.kind]
    series = Series(page, kind, wish.options, wish.depth, before, trial, _blank(blank))
    for element in chosen:
        if not wish.everything or has_box(page, element):
            try:
                yield f"{element.label}{_ENDS[wish.kind]}", series.drawing(element)
            except (NoPlan, NoSteps, NotOnOtherPage):
                if not wish.everything:
                    raise


def _chosen(page: Page, wish: _Wish) -> Iterator[Element]:
    """The elements in document order, each once; body if nothing is asked for."""
    if wish.everything:
        yield from page.elements
        return
    found: dict[Element, None] = {}
    for selector in wish.selectors or ("body",):
        found.update(dict.fromkeys(all_matching(page, selector)))
    yield from sorted(found, key=lambda e: e.index)


def all_matching(page: Page, selector: str) -> tuple[Element, ...]:
    """The elements that match; raises SelectorMatchesNothing."""
    try:
        compiled = compile_selectors(component_values(selector))
    except SelectorNotUnderstood as problem:
        raise SelectorMatchesNothing(
            f"the selector “{selector}” is invalid or unknown ({problem}).",
            remedy="Try a tag, #id or .class.",
        ) from None
    found = matched(page, tuple(compiled))
    if not found:
        raise SelectorMatchesNothing(
            f"no element matches “{selector}”.",
            remedy="`redcrate report PAGE --format text` lists the elements.",
        )
    return found


def _before(wish: _Wish) -> Before:
    """The other page of a comparison: another file, or this one at another width."""
    if wish.against is None and wish.with_width is None:
        raise click.UsageError("compare needs --against PAGE or --with-width W.")
    width = wish.with_width or wish.width
    page = load(wish.against or wish.page, width, wish.height)
    caption = f"at width {format_number(width)} px"
    if wish.against is not None:
        caption = f"{_name_of(wish.against)}, {caption}"
    return Before(page, caption, _now(wish))


def _now(wish: _Wish) -> str:
    name = f"{wish.name}, " if wish.against is not None else ""
    return f"{name}at width {format_number(wish.width)} px"


def _report(
    wish: _Wish, palette: Palette, output: Path | None, blank: str | None, *, force: bool
) -> None:
    """The HTML report: all elements with a box, or the selected ones."""
    from redcrate.core.files.settings import read_settings
    from redcrate.core.findings.checking import Fixes, check_page
    from redcrate.core.handout import ReportOptions, html_report

    def work() -> str:
        page = load(wish.page, wish.width, wish.height)
        asked = list(_chosen(page, wish)) if wish.selectors else list(page.elements)
        chosen = [e for e in asked if wish.selectors or has_box(page, e)]
        options: ReportOptions = ReportOptions(wish.options, palette, wish.depth, _blank(blank))
        if blank is not None:  # a worksheet tells no findings
            return html_report(page, wish.name, chosen, (), options)
        usual = read_settings(wish.page).widths or DEFAULT_WIDTHS
        widths = list(dict.fromkeys((wish.width, *usual)))
        check = check_page(wish.page, widths, wish.height, fixes=Fixes.NONE)
        return html_report(page, wish.name, chosen, [c.held for c in check.checked], options)

    text = guarded(work)
    if output is None:
        tell(text, nl=False)
        return
    guarded(
        lambda: write(
            [("report", text)], output, ".html", ends(".html", EndOptions(palette)), force=force
        )
    )
