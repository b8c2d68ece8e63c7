"""Which elements a contact sheet shows, which of them as one, and in which order."""

from redcrate.core.diagram.choosing import Choice, Order, Which, choose
from redcrate.core.page import Page
from tests.conftest import PageOf, by_id


def shown(page: Page, choice: Choice, *chosen: str) -> list[str]:
    """The ids of the entries, with how many each stands for."""
    elements = [by_id(page, name) for name in chosen]
    entries = choose(page, choice, elements, elements)
    return [f"{e.element.id}{len(e.alike) if len(e.alike) > 1 else ''}" for e in entries if e.element.id]


def test_folding_by_box(page_of: PageOf) -> None:
    """Classes alone name these: two are alike, the others differ in padding, flow or border."""
    page = page_of(
        "<p class=k></p><p class=k></p><p class=k style='height: 0; padding: 10px 0'></p>"
        "<p class=k style='float: left; width: 1000px'></p><p class=k style='border-bottom: 4px solid; height: 16px'></p>",
        "p { height: 20px; margin: 0 }",
    )
    entries = [e for e in choose(page, Choice(folds=True)) if e.element.tag == "p"]
    assert [len(e.alike) for e in entries] == [2, 1, 1, 1]
    assert entries[0].label == "p.k  ×2, alike" and entries[1].label == "p.k"


def test_orders_and_kinds(page_of: PageOf) -> None:
    """By class those without one come last; by flow the same ones together; no box, no entry."""
    page = page_of(
        "<div id=a><i id=b>x</i></div><p class=z id=c></p><p class=b id=d style='float: left'></p><p id=n></p>"
        "<p class=b id=e></p>", "p { height: 5px } #n { display: none }",
    )  # fmt: skip
    assert shown(page, Choice(order=Order.CLASS)) == ["d", "e", "c", "a", "b"]
    assert shown(page, Choice(order=Order.FLOW)) == ["a", "c", "e", "d", "b"]
    assert shown(page, Choice(Which.CONTAINERS)) == ["a"]
    assert shown(page, Choice(Which.SELECTION), "a") == ["a", "b"]
    assert shown(page, Choice(Which.FINDINGS), "d", "n") == ["d"]
    assert shown(page, Choice(Which.CLASS, "b", sought=" P.B ")) == []
    assert shown(page, Choice(Which.CLASS, "b", sought="#D")) == ["d"]
