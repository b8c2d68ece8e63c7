"""Which elements are drawn on a contact sheet, and in which order."""

from collections.abc import Collection, Iterator

from redcrate.core.diagram.box_diagram import has_box
from redcrate.core.explain.flow import flow_of
from redcrate.core.labelled import Labelled
from redcrate.core.markup.elements import Element, mentions
from redcrate.core.page import Page
from redcrate.core.records import dataclass


class Which(Labelled):
    """Which elements; the values are the words of the interface."""

    ALL = "all", "all elements"
    SELECTION = "selection", "selected, with content"
    CONTAINERS = "containers", "containers"
    FINDINGS = "findings", "with findings"
    CLASS = "class", "of a class"


class Order(Labelled):
    """In which order; the values are the words of the interface."""

    DOCUMENT = "document", "page order"
    SIZE = "size", "largest first"
    FLOW = "flow", "by layout"
    CLASS = "class", "by class"


@dataclass(frozen=True, slots=True)
class Choice:
    """What was asked for. class_name: for those of a class. sought: in names and texts. folds: alike boxes to one."""

    which: Which = Which.ALL
    class_name: str = ""
    sought: str = ""
    order: Order = Order.DOCUMENT
    folds: bool = False


@dataclass(frozen=True, slots=True)
class Entry:
    """One drawing of the sheet. alike: all elements that it stands for, this one first."""

    element: Element
    alike: tuple[Element, ...]

    @property
    def label(self) -> str:
        """The element's name, with how many there are where it stands for several."""
        more = f"  ×{len(self.alike)}, alike" if len(self.alike) > 1 else ""
        return f"{self.element.label}{more}"


def choose(
    page: Page,
    choice: Choice,
    selection: Collection[Element] = (),
    with_findings: Collection[Element] = (),
) -> list[Entry]:
    """The entries of a contact sheet. selection, with_findings: for those that are asked for by these."""
    sought = choice.sought.strip().lower()
    chosen = [
        e
        for e in _of_kind(page, choice, selection, with_findings)
        if has_box(page, e) and (not sought or mentions(e, sought))
    ]
    entries = _folded(page, chosen) if choice.folds else [Entry(e, (e,)) for e in chosen]
    return sorted(entries, key=lambda entry: _rank(page, choice.order, entry.element))


def _of_kind(
    page: Page, choice: Choice, selection: Collection[Element], with_findings: Collection[Element]
) -> Iterator[Element]:
    """In document order, each once."""
    which = choice.which
    if which is Which.SELECTION:
        inside = {inner for element in selection for inner in element.walk()}
        yield from (e for e in page.elements if e in inside)
    elif which is Which.FINDINGS:
        indices = {e.index for e in with_findings}
        yield from (e for e in page.elements if e.index in indices)
    elif which is Which.CLASS:
        yield from (e for e in page.elements if choice.class_name in e.classes)
    elif which is Which.CONTAINERS:
        yield from (e for e in page.elements if _is_container(page, e))
    else:
        yield from page.elements


def _is_container(page: Page, element: Element) -> bool:
    """Whether it is a block with boxes of other elements inside."""
    box = page.box_of(element)
    if box is None or box.box is None:
        return False
    return any(page.box_of(child) is not None for child in element.child_elements)


def _folded(page: Page, elements: list[Element]) -> list[Entry]:
    """Elements of one name whose boxes are identical as one entry, where the first stands."""
    groups: dict[tuple[object, ...], list[Element]] = {}
    for element in elements:
        groups.setdefault(_likeness(page, element), []).append(element)
    return [Entry(group[0], tuple(group)) for group in groups.values()]


def _likeness(page: Page, element: Element) -> tuple[object, ...]:
    """What two boxes have in common that are drawn alike, their place apart."""
    box = page.box_of(element)
    assert box is not None
    sizes = tuple((r.width, r.height) for r in box.fragments)
    return element.label, flow_of(page, element), box.margin, box.border, box.padding, sizes


def _rank(page: Page, order: Order, element: Element) -> tuple[object, ...]:
    """Entries of one rank stay in document order."""
    if order is Order.SIZE:
        box = page.box_of(element)
        return (-(box.border_box.width * box.border_box.height) if box is not None else 0,)
    if order is Order.FLOW:
        return (flow_of(page, element),)
    if order is Order.CLASS:
        return (not element.classes, element.classes[:1], element.tag)
    return ()
