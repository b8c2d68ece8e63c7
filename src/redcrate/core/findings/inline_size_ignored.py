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
            if look.winner(element, name) is not None and not nothing:
                ignored.append(name)
        if not ignored:
            continue
        words = ", ".join(n.replace("-", " ") for n in ignored)
        yield Finding(
            "inline-size-ignored",
            Severity.SUSPICIOUS,
            f"{element.label} is inline: its {words} is ignored, it takes {format_px(box.border_box.width)} px of its text.",
            (element,),
            {"width": box.border_box.width / 64, "height": box.border_box.height / 64},
            look.source(element, ignored[0]),
            (
                look.removing(
                    "take the ignored values away",
                    *(w for n in ignored if (w := look.winner(element, n))),
                ),
                look.setting(
                    "let it stand in the line as a block (inline-block)",
                    (element, "display", "inline-block"),
                ),
                look.setting("make it a block of its own", (element, "display", "block")),
            ),
        )


FAMILY = Family(
    "inline-size-ignored",
    "A size on an inline element",
    "An inline element takes the room of its text. Width, height and vertical margins do nothing to it; an "
    "inline-block stands in the same line and honours all of them.",
    "<p style='margin:0'>see <a style='width:120px;background:#cde'>this link</a> here</p>",
    find,
)
