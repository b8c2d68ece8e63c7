"""wider-than-viewport: a box that makes the page wider than the window."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look, SeenText, more_alike
from redcrate.core.findings.wider_than_container import at_most
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import LayoutUnit, format_px, nearest_from_px

_SLACK = 32


def find(look: Look) -> Iterator[Finding]:
    """The outermost boxes with a size of their own, and the text, that reach beyond the window's right edge."""
    window = nearest_from_px(look.page.viewport.width)
    wide = list(_wide(look, window))
    alike: dict[object, list[tuple[Element, ElementBox]]] = {}
    for element, box in wide:
        source = look.source(element, "width") or look.source(element, "min-width")
        alike.setdefault((element.tag, element.classes, source), []).append((element, box))
    for those in alike.values():
        yield _block(look, those, window)
    yield from _texts(look, window, {e for e, _ in wide})


def _wide(look: Look, window: LayoutUnit) -> Iterator[tuple[Element, ElementBox]]:
    told: set[Element] = set()
    body = look.page.source.markup.body
    own = look.box(body) if body is not None else None
    around = [(body, own)] if body is not None and own is not None else []
    for element, box in (*around, *look.boxes):
        at = box.box
        if box.border_box.right - window <= _SLACK or at is None:
            continue
        if any(a in told for a in element.ancestors()) or _is_clipped(look, element):
            continue
        if look.style(element).position in ("absolute", "fixed"):
            continue
        picture = at.fragment.box.intrinsic is not None
        if picture or look.winner(element, "width") or look.winner(element, "min-width"):
            told.add(element)
            yield element, box


def _block(look: Look, alike: list[tuple[Element, ElementBox]], window: LayoutUnit) -> Finding:
    element, box = max(alike, key=lambda pair: pair[1].border_box.right)
    over = box.border_box.right - window
    names = [n for n in ("width", "min-width") if look.winner(element, n)]
    elements = (element, *(e for e, _ in alike if e is not element))
    limits = [value for e in elements for value in at_most(look, e)]
    ways = [look.setting("limit it to its container (max-width: 100 %)", *limits)]
    if "width" in names and box.box is not None and box.box.fragment.box.intrinsic is None:
        auto = [(e, "width", "auto") for e in elements]
        ways.append(look.setting("let it take the width that there is", *auto))
    if "min-width" in names:
        none = [(e, "min-width", "0") for e in elements]
        ways.append(look.setting("take its smallest width away", *none))
    return Finding(
        "wider-than-viewport",
        Severity.BREAKS,
        f"{element.label} is {format_px(box.border_box.width)} px wide and reaches {format_px(over)} px beyond "
        f"the window of {format_px(window)} px{more_alike(len(alike))}.",
        elements,
        {"room": window / 64, "need": box.border_box.right / 64, "over": over / 64},
        look.source(element, names[0]) if names else None,
        tuple(ways),
    )


def _texts(look: Look, window: LayoutUnit, told: set[Element]) -> Iterator[Finding]:
    """Text that reaches out of its block and of the window; once for each kind of block, by its worst line."""
    furthest: dict[Element, SeenText] = {}
    for text in look.texts_seen:
        element = text.element
        right = text.rect.right
        if right - window <= _SLACK or right - text.at.content_rect.right <= _SLACK:
            continue  # in the window, or in a block that is too wide itself
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
        f"The {'line' if keeps_lines else 'word'} “{shown}” in {text.element.label} reaches {format_px(over)} px beyond "
        f"the window of {format_px(window)} px{more_alike(len(alike))}.",
        tuple(elements),
        {"room": window / 64, "need": text.rect.right / 64, "over": over / 64},
        None,
        tuple(_ways_of_text(look, elements, text.piece.box.style.white_space)),
    )


def _ways_of_text(look: Look, elements: list[Element], white_space: str) -> Iterator[MakeFix]:
    scroll = look.ruling("let it scroll sideways (overflow-x: auto)", elements, overflow_x="auto")
    if white_space == "pre":
        yield scroll
        yield look.ruling("let its lines wrap (pre-wrap)", elements, white_space="pre-wrap")
    elif white_space == "nowrap":
        yield look.ruling("let its lines wrap", elements, white_space="normal")
        yield scroll
    else:
        words = "let long words break (overflow-wrap: anywhere)"
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
    "A block is wider than the window",
    "A width in px stays what it is on a narrow screen: people must scroll sideways. A largest width of 100 % lets "
    "it shrink where there is less room.",
    "<div style='width:900px;background:#cde'>900 px</div>",
    find,
)
