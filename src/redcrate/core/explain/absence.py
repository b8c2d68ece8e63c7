"""Why an element has no box of its own: CSS 2.2 §9.2.4, CSS Display 3 §2.5 and §2.6."""

from redcrate.core.boxes.replaced_elements import is_displayed, swallows
from redcrate.core.explain.terms import Reason, written_value
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page


def absence(page: Page, element: Element) -> Reason:
    """The sentence on why the element has no box, and where that was written."""
    for at in (element, *element.ancestors()):
        if at not in page.styled.styles:
            continue
        display = page.style_of(at).display
        source = written_value(page, at, "display")[1]
        if display == "none":
            where = "" if at is element else f" {at.label} around it has"
            return Reason(f"{element.label} has no box:{where} display: none.", source)
        if at is not element and swallows(at):
            return Reason(f"{element.label} has no box: {at.label} does not show its content.", None)
        if at is element and not is_displayed(element, display):
            sentence = f"{element.label} has no box: display: {display} counts as none on this element."
            return Reason(sentence, source)
        if at is element and display == "contents":
            return Reason(
                f"{element.label} has no box: with display: contents only its content has boxes.",
                source,
            )
    return Reason(f"{element.label} has no box of its own.", None)
