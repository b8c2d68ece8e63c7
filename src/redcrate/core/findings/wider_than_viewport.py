"""wider-than-viewport: a box that makes the page wider than the window."""

from collections.abc import Iterator

from redcrate.core.findings import folds
from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look, SeenText, more_alike
from redcrate.core.findings.shared_lines import full_lines
from redcrate.core.findings.wider_than_container import at_most
from redcrate.core.markup.elements import Element
from redcrate.core.overflow.sideways import SLACK, Beyond
from redcrate.core.units import LayoutUnit, format_px, nearest_from_px


def find(look: Look) -> Iterator[Finding]:
    """The outermost boxes with a size of their own, and the text, that make the page scroll sideways; then, where those
    are not all, the boxes that stick out of what stands in the window.
    """
    window = nearest_from_px(look.page.viewport.width)
    if look.sideways.reach - window <= SLACK:
        return
    wide = list(_wide(look))
    alike: dict[object, list[tuple[Element, Beyond]]] = {}
    for element, beyond in wide:
        source = look.source(element, "width") or look.source(element, "min-width")
        alike.setdefault((element.tag, element.classes, source), []).append((element, beyond))
    for those in alike.values():
        yield _block(look, those, window)
    told = {e for e, _ in wide}
    for finding in _texts(look, window, told):
        told.update(finding.elements)
        yield finding
    yield from _others(look, told, window)


def _wide(look: Look) -> Iterator[tuple[Element, Beyond]]:
    told: set[Element] = set()
    for one in look.sideways.beyond.values():
        element = one.at.fragment.box.element
        box = look.box(element) if element is not None else None
        if (
            element is None
            or box is None
            or box.box is None
            or any(a in told for a in element.ancestors())
        ):
            continue
        if look.style(element).position == "absolute":
            continue
        picture = one.at.fragment.box.intrinsic is not None
        if picture or look.winner(element, "width") or look.winner(element, "min-width"):
            told.add(element)
            yield element, one


def _others(look: Look, told: set[Element], window: LayoutUnit) -> Iterator[Finding]:
    """The boxes that reach beyond the window out of one that does not, and that nothing else explains."""
    full = {e for line in full_lines(look) for e in (line.container, *line.container.walk())}
    kinds: dict[object, list[Beyond]] = {}
    for one in look.sideways.beyond.values():
        element = one.at.fragment.box.element
        if element is None or not one.is_first or element in full:
            continue
        around = (element, *element.ancestors())
        if any(a in told for a in around) or any(_explains(look, e, told) for e in element.walk()):
            continue
        kinds.setdefault((element.tag, element.classes), []).append(one)
    for alike in kinds.values():
        yield _other(look, alike, window)


def _explains(look: Look, element: Element, told: set[Element]) -> bool:
    """Whether something else is said of what stands in a box: it is too wide itself, or a table."""
    return element in told or (
        look.box(element) is not None and look.style(element).display in ("table", "inline-table")
    )


def _other(look: Look, alike: list[Beyond], window: LayoutUnit) -> Finding:
    first = max(alike, key=lambda one: one.right)
    element = first.at.fragment.box.element
    assert element is not None
    over = first.right - window
    hidden = "" if look.shown.is_shown(element) else ", although it is hidden"
    others = (b.at.fragment.box.element for b in alike if b is not first)
    elements = [element, *(e for e in others if e is not None)]
    limits = [value for e in elements for value in at_most(look, e)]
    words = "Break long words (overflow-wrap: anywhere)"
    return Finding(
        "wider-than-viewport",
        Severity.BREAKS,
        f"{element.label} overflows the viewport of {format_px(window)} px by {format_px(over)} px{hidden}"
        f"{more_alike(len(alike))}.",
        tuple(elements),
        {"room": window / 64, "need": first.right / 64, "over": over / 64},
        look.source(element, "position") or look.source(element, "margin-left"),
        (
            look.setting("Limit its width (max-width: 100%)", *limits),
            look.ruling(words, elements, overflow_wrap="anywhere"),
        ),
    )


def _block(look: Look, alike: list[tuple[Element, Beyond]], window: LayoutUnit) -> Finding:
    element, beyond = max(alike, key=lambda pair: pair[1].right)
    at, over = beyond.at, beyond.right - window
    names = [n for n in ("width", "min-width") if look.winner(element, n)]
    elements = (element, *(e for e, _ in alike if e is not element))
    limits = [value for e in elements for value in at_most(look, e)]
    ways = [look.setting("Limit its width (max-width: 100%)", *limits)]
    if "width" in names and at.fragment.box.intrinsic is None:
        auto = [(e, "width", "auto") for e in elements]
        ways.append(look.setting("Use the available width (width: auto)", *auto))
    if "min-width" in names:
        none = [(e, "min-width", "0") for e in elements]
        ways.append(look.setting("Remove its min-width", *none))
    return Finding(
        "wider-than-viewport",
        Severity.BREAKS,
        f"{element.label} is {format_px(at.rect.width)} px wide and overflows the viewport of "
        f"{format_px(window)} px by {format_px(over)} px{more_alike(len(alike))}.",
        elements,
        {"room": window / 64, "need": beyond.right / 64, "over": over / 64},
        look.source(element, names[0]) if names else None,
        tuple(ways),
        fold=" ".join((element.tag, *element.classes)),
        fold_name=f"{element.label} by {format_px(over)} px",
    )


def _texts(look: Look, window: LayoutUnit, told: set[Element]) -> Iterator[Finding]:
    """Text that reaches out of its block and of the window; once for each kind of block, by its worst line."""
    furthest: dict[Element, SeenText] = {}
    for text in look.texts_seen:
        element = text.element
        right = text.rect.right
        if right - window <= SLACK or right - text.at.content_rect.right <= SLACK:
            continue  # in the window, or in a block that is too wide itself
        if text.at.placed not in look.sideways.free:
            continue
        if element in told or any(a in told for a in element.ancestors()):
            continue
        if element not in furthest or furthest[element].rect.right < right:
            furthest[element] = text
    kinds: dict[object, list[SeenText]] = {}
    for element, text in furthest.items():
        styles = [look.style(a) for a in (element, *element.ancestors())]
        moved = any(
            s.position in ("absolute", "fixed") or s.text_indent.length.px < -500 for s in styles
        )
        if moved or look.style(element).overflow_x != "visible" or _is_clipped(look, element):
            continue  # out of sight on purpose, or scrolled
        kind = (element.tag, element.classes, text.piece.box.style.white_space)
        kinds.setdefault(kind, []).append(text)
    for alike in kinds.values():
        yield _text(look, sorted(alike, key=lambda t: -t.rect.right), window)


def _text(look: Look, alike: list[SeenText], window: LayoutUnit) -> Finding:
    text = alike[0]
    elements = [t.element for t in alike]
    over = text.rect.right - window
    keeps_lines = text.piece.box.style.white_space in ("pre", "nowrap")
    line = look.line_of(text)
    shown = line.strip() if keeps_lines else max(line.split(" "), key=len)
    shown = shown if len(shown) <= 32 else f"{shown[:30]}…"
    return Finding(
        "wider-than-viewport",
        Severity.BREAKS,
        f"The {'line' if keeps_lines else 'word'} “{shown}” in {text.element.label} overflows the "
        f"viewport of {format_px(window)} px by {format_px(over)} px{more_alike(len(alike))}.",
        tuple(elements),
        {"room": window / 64, "need": text.rect.right / 64, "over": over / 64},
        None,
        tuple(_ways_of_text(look, elements, text.piece.box.style.white_space)),
    )


def _ways_of_text(look: Look, elements: list[Element], white_space: str) -> Iterator[MakeFix]:
    scroll = look.ruling("Allow horizontal scrolling (overflow-x: auto)", elements, overflow_x="auto")
    if white_space == "pre":
        yield scroll
        yield look.ruling(
            "Allow its lines to wrap (white-space: pre-wrap)", elements, white_space="pre-wrap"
        )
    elif white_space == "nowrap":
        yield look.ruling("Allow its lines to wrap", elements, white_space="normal")
        yield scroll
    else:
        words = "Break long words (overflow-wrap: anywhere)"
        yield look.ruling(words, elements, overflow_wrap="anywhere")


def _is_clipped(look: Look, element: Element) -> bool:
    known: dict[Element, bool] = look.once("clipped", dict)  # whether it or something around it clips
    way = []
    at = element.parent
    while at is not None and at not in known:
        way.append(at)
        at = at.parent
    clips = at is not None and known[at]
    for one in reversed(way):
        clips = clips or (one.tag not in ("html", "body") and look.style(one).overflow_x != "visible")
        known[one] = clips
    return element.parent is not None and known[element.parent]


FAMILY = Family(
    "wider-than-viewport",
    "Block wider than the viewport",
    "A width in px does not adapt to a narrow viewport: people must scroll horizontally. With "
    "max-width: 100% the block can become narrower.",
    "<div style='width:900px;background:#cde'>900 px</div>",
    find,
    fold=folds.blocks_too_wide,
    folds_alike_only=True,
)
