"""inline-size-ignored: width, height or vertical margins on an inline element."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.units import format_px

_NAMES = ("width", "height", "min-width", "min-height", "margin-top", "margin-bottom")


def find(look: Look) -> Iterator[Finding]:
    """Sizes and vertical margins that CSS 2.2 §10.3.1 and §10.6.1 ignore."""
    for element, box in look.boxes:
        if box.box is not None or not box.pieces or look.style(element).display != "inline":
            continue
        style = look.style(element)
        ignored = []
        for name in _NAMES:
            value = getattr(style, name.replace("-", "_"))
            nothing = value == "auto" or (
                name.startswith("margin") and not getattr(value, "px", 1) and not value.percent
            )
            if not nothing and look.is_meant_for(
                element, name, lambda e: look.style(e).display == "inline"
            ):
                ignored.append(name)
        if not ignored:
            continue
        yield Finding(
            "inline-size-ignored",
            Severity.SUSPICIOUS,
            f"{_listed(ignored)} on {element.label}: it is inline and as wide as its text "
            f"({format_px(box.border_box.width)} px).",
            (element,),
            {"width": box.border_box.width / 64, "height": box.border_box.height / 64},
            look.source(element, ignored[0]),
            (
                look.setting("make it inline-block", (element, "display", "inline-block")),
                look.setting("make it a block of its own", (element, "display", "block")),
                look.removing(
                    "take the values away that do nothing",
                    *(w for n in ignored if (w := look.winner(element, n))),
                ),
            ),
        )


def _listed(names: list[str]) -> str:
    """The properties as the subject of a sentence."""
    first = ", ".join(names[:-1])
    words = f"{first} and {names[-1]}" if first else names[-1]
    return f"{words[0].upper()}{words[1:]} do{'es' if len(names) == 1 else ''} nothing"


FAMILY = Family(
    "inline-size-ignored",
    "A size on an inline element",
    "An inline element takes the room of its text. Width, height and vertical margins do nothing to it; an "
    "inline-block stands in the same line and honours all of them.",
    "<p style='margin:0'>see <a style='width:120px;background:#cde'>this link</a> here</p>",
    find,
)
