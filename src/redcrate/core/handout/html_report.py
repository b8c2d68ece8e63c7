"""The HTML report: page plan, diagrams, equations, reasons and findings in one self-contained file.

It asks nothing of a network, holds no script, and prints: HTML Standard §4.8.17 (SVG in it), CSS Paged Media 3 §3.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import field, replace
from functools import cache

from jinja2 import Environment, PackageLoader, StrictUndefined, Template
from markupsafe import Markup

from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram, equations_of
from redcrate.core.diagram.codes import LIGHT, Palette
from redcrate.core.diagram.page_plan import NoPlan, PlanOptions, page_plan
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.diagram.worksheet import Blank, blanked, worksheet
from redcrate.core.explain import Equation, Reason
from redcrate.core.explain.position import position
from redcrate.core.findings.at_widths import Held
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import format_number, format_px


@dataclass(frozen=True, slots=True)
class ReportOptions:
    """How the drawings are made, and in which colours; depth: of the plan, None for all levels.

    blank: numbers that are left out: then it is a worksheet, without plan, reasons and findings, which tell them.
    """

    diagrams: DiagramOptions = field(default_factory=DiagramOptions)
    palette: Palette = LIGHT
    depth: int | None = None
    blank: Blank | None = None


@dataclass(frozen=True, slots=True)
class _Told:
    """A finding as the report tells it. places: ids of the report's sections on its elements, and their names."""

    shape: str
    severity: str
    sentence: str
    widths: str
    source: str
    places: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class _Section:
    """What the report says of one element."""

    anchor: str
    label: str
    svg: Markup
    sums: tuple[str, ...]
    reasons: tuple[tuple[str, str], ...]
    findings: tuple[_Told, ...]


def html_report(
    page: Page,
    name: str,
    elements: Sequence[Element],
    found: Sequence[Held],
    options: ReportOptions | None = None,
    step: Callable[[int], None] = lambda done: None,
) -> str:
    """The report as an HTML document.

    elements: those that get a section. found: the page's findings at all widths that are told; none for a
    worksheet. step: called with the number of finished sections; what it raises ends the work.
    """
    options = options or ReportOptions()
    chosen = {e.index for e in elements}
    told = {id(h): _told(h, chosen) for h in found}
    sections = []
    for number, element in enumerate(elements):
        mine = tuple(
            told[id(h)] for h in found if any(e.index == element.index for e in h.finding.elements)
        )
        sections.append(_section(page, element, name, options, mine))
        step(number + 1)
    return _template().render(
        name=name,
        width=format_number(page.viewport.width),
        plan=_plan(page, name, chosen, options),
        findings=list(told.values()),
        sections=sections,
        palette=options.palette,
        is_worksheet=options.blank is not None,
    )


@cache
def _template() -> Template:
    environment = Environment(
        loader=PackageLoader("redcrate.core.handout", "."),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    return environment.get_template("report.html.jinja")


def anchor_of(element: Element) -> str:
    """The id of an element's section."""
    return f"element-{element.index}"


def _plan(page: Page, name: str, chosen: set[int], options: ReportOptions) -> Markup:
    """The page plan, whose names lead to the sections; nothing for a page without a block."""

    def link(element: Element) -> str:
        return f"#{anchor_of(element)}" if element.index in chosen else ""

    if options.blank is not None:
        return Markup("")
    try:
        drawing = page_plan(page, None, PlanOptions(options.depth, name, link))
    except NoPlan:
        return Markup("")
    return Markup(drawing_svg(drawing, options.palette, "plan-"))  # noqa: S704 - the SVG end escapes all text


def _section(
    page: Page, element: Element, name: str, options: ReportOptions, found: tuple[_Told, ...]
) -> _Section:
    drawing = box_diagram(page, element, replace(options.diagrams, page_name=name))
    blank = options.blank
    if blank is not None:
        drawing = worksheet(drawing, blank)
    svg = Markup(drawing_svg(drawing, options.palette, f"e{element.index}-"))  # noqa: S704 - as above
    equations = equations_of(page, element) or ()
    reasons = [r for equation in equations for r in equation.reasons] + list(position(page, element))
    sums = (_sum(equation) for equation in equations)
    return _Section(
        anchor_of(element),
        element.label,
        svg,
        tuple(s if blank is None else blanked(s, blank) for s in sums),
        tuple(_reasons(reasons if blank is None else ())),
        found,
    )


def _sum(equation: Equation) -> str:
    """An equation in one line: `across: 28 left margin + … = 680 px of 1000 px in body, 320 free`."""
    terms = [t for t in equation.terms if t.used or t.part == "content"]
    parts = (
        f"{format_px(t.used)} {t.side} {t.part}".replace("  ", " ") + (" (struck)" if t.struck else "")
        for t in terms
    )
    words = f"{equation.axis}: {' + '.join(parts)} = {format_px(equation.spent)} px"
    if equation.available is None:
        return words
    left = equation.left
    rest = (
        f", {format_px(left)} free" if left > 0 else f", overflows by {format_px(-left)}" if left else ""
    )
    return f"{words} of {format_px(equation.available)} px in {equation.container}{rest}"


def _reasons(reasons: Sequence[Reason]) -> Iterator[tuple[str, str]]:
    for reason in reasons:
        yield reason.sentence, reason.source.sentence if reason.source is not None else ""


def _told(held: Held, chosen: set[int]) -> _Told:
    finding = held.finding
    widths = ", ".join(format_number(w) for w in sorted(held.widths, reverse=True))
    places = tuple(
        (anchor_of(e) if e.index in chosen else "", e.label)
        for e in dict.fromkeys(finding.elements[:12])
    )
    source = finding.cause.sentence if finding.cause is not None else ""
    severity = finding.severity
    return _Told(severity.shape, severity.value, finding.sentence, widths, source, places)
