"""flex-minimum-overflow: a line is too full, since an item may not become smaller than its content."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.shared_lines import FullLine, full_lines
from redcrate.core.layout.flex_facts import FlexedItem
from redcrate.core.markup.elements import Element
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """CSS Flexbox 1 §4.5: the items that hold on to their content in a line that overflows, the widest first."""
    for full in full_lines(look):
        holding = sorted(full.holding, key=lambda i: -i.used)
        if holding and all(_is_read(look, i) for i in full.line.items):
            yield _finding(look, full, holding)


def _is_read(look: Look, item: FlexedItem) -> bool:
    """Whether it is as wide as it is for more than the names of icons, which stand there where their font is not."""
    texts = look.texts_of(item.box.element) if item.box.element is not None else []
    return not texts or any(t.is_read for t in texts)


def _finding(look: Look, full: FullLine, holding: list[FlexedItem]) -> Finding:
    elements = [i.box.element for i in holding if i.box.element is not None]
    first = elements[0]
    over, used = format_px(full.over), format_px(holding[0].used)
    return Finding(
        "flex-minimum-overflow",
        Severity.BREAKS,
        f"The flex line of {full.container.label} overflows by {over} px: {first.label} cannot become "
        f"narrower than its content ({used} px), because its min-width is auto.",
        (first, full.container),
        {"over": full.over / 64, "used": holding[0].used / 64},
        look.source(first, "flex-basis") or look.source(full.container, "display"),
        (
            _letting_go(look, first),
            look.setting(
                "Allow the items to wrap (flex-wrap: wrap)", (full.container, "flex-wrap", "wrap")
            ),
        ),
    )


def _letting_go(look: Look, element: Element) -> MakeFix:
    sentence = "Allow it to become narrower (min-width: 0; overflow-wrap: anywhere)"
    return look.setting(sentence, (element, "min-width", "0"), (element, "overflow-wrap", "anywhere"))


FAMILY = Family(
    "flex-minimum-overflow",
    "Flex item cannot become narrower than its content",
    "A flex item shrinks only to its longest word or widest image, because its min-width is auto. "
    "With min-width: 0 it can shrink further; then its words must be able to break, or its images to "
    "shrink.",
    "<div style='display:flex;width:200px'><p style='flex:1;margin:0'>unbreakablelongestwordinallthegarden</p>"
    "<p style='flex:0 0 90px;margin:0;background:#cde'>side</p></div>",
    find,
)
