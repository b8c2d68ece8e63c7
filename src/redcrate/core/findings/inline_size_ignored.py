"""inline-size-ignored: width, height or vertical margins on an inline element."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.units import counted, format_px

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
            f"{_listed(ignored)} on {element.label}: it is inline, as wide as its text "
            f"({format_px(box.border_box.width)} px).",
            (element,),
            {"width": box.border_box.width / 64, "height": box.border_box.height / 64},
            look.source(element, ignored[0]),
            (
                look.setting(
                    "Make it an inline-block (display: inline-block)",
                    (element, "display", "inline-block"),
                ),
                look.setting("Make it a block (display: block)", (element, "display", "block")),
                look.removing(
                    "Remove the values without effect",
                    *(w for n in ignored if (w := look.winner(element, n))),
                ),
            ),
        )


def _listed(names: list[str]) -> str:
    """The properties as the subject of a sentence."""
    first = ", ".join(names[:-1])
    words = f"{first} and {names[-1]}" if first else names[-1]
    return f"{words[0].upper()}{words[1:]} {counted(len(names), 'has', 'have')} no effect"


FAMILY = Family(
    "inline-size-ignored",
    "Size on an inline element",
    "An inline element is as wide as its text. Width, height and vertical margins have no effect on "
    "it; an inline-block stays in the line and uses them.",
    "<p style='margin:0'>see <a style='width:120px;background:#cde'>this link</a> here</p>",
    find,
)
