"""The SVG end: a drawing as SVG 1.1 text; patterns are defined once, text stays text."""

from collections import Counter
from html import escape

from redcrate.core.diagram.codes import LIGHT, Fill, Palette
from redcrate.core.diagram.drawing import Area, Dot, Drawing, Label, Part, Segment, Stroke, paint_part
from redcrate.core.diagram.lettering import text_width

FONT_FAMILY = "'Liberation Sans', Arial, Helvetica, sans-serif"


def drawing_svg(drawing: Drawing, palette: Palette = LIGHT, prefix: str = "") -> str:
    """The drawing as an SVG document. prefix: before all ids, where several stand in one HTML file."""
    end = _SvgEnd(palette, prefix)
    names: Counter[str] = Counter()
    body = []
    for part in drawing.parts:
        names[part.name] += 1
        number = names[part.name]
        body.append(end.group(part, f"{prefix}{part.name}" + (f"-{number}" if number > 1 else "")))
    width, height = f"{drawing.width:.6g}", f"{drawing.height:.6g}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" '
        f'viewBox="0 0 {width} {height}" font-family="{FONT_FAMILY}" role="img" '
        f'aria-labelledby="{prefix}title {prefix}desc">\n'
        f'<title id="{prefix}title">{_text(drawing.title)}</title>\n'
        f'<desc id="{prefix}desc">{_text(drawing.description)}</desc>\n{_patterns(palette, prefix)}'
        f'<rect width="{width}" height="{height}" fill="{palette.paper}"/>\n'
        + "".join(body)
        + "</svg>\n"
    )


# XML 1.0 §2.2: characters that no document may hold.
_NO_XML = dict.fromkeys(
    [*range(9), 11, 12, *range(14, 32), 0xFFFE, 0xFFFF, *range(0xD800, 0xE000)], "\ufffd"
)


def _text(text: str) -> str:
    return escape(text.translate(_NO_XML))


def _patterns(palette: Palette, prefix: str) -> str:
    """The part codes as pattern fills."""
    margin, padding = palette.parts[Fill.MARGIN], palette.parts[Fill.PADDING]
    unspent, over = palette.parts[Fill.UNSPENT], palette.parts[Fill.OVERSPENT]
    unit = 'patternUnits="userSpaceOnUse"'
    return (
        f'<defs>\n<pattern id="{prefix}fill-margin" {unit} width="6" height="6">'
        f'<rect width="6" height="6" fill="{margin.ground}"/>'
        f'<circle cx="2" cy="2" r="0.8" fill="{margin.mark}"/></pattern>\n'
        f'<pattern id="{prefix}fill-padding" {unit} width="7" height="7">'
        f'<rect width="7" height="7" fill="{padding.ground}"/>'
        f'<path d="M-1 8L8 -1" stroke="{padding.mark}" stroke-width="1"/></pattern>\n'
        f'<pattern id="{prefix}fill-unspent" {unit} width="14" height="14">'
        f'<rect width="14" height="14" fill="{unspent.ground}"/>'
        f'<path d="M-1 15L15 -1" stroke="{unspent.mark}" stroke-width="1"/></pattern>\n'
        f'<pattern id="{prefix}fill-overspent" {unit} width="7" height="7">'
        f'<rect width="7" height="7" fill="{over.ground}"/>'
        f'<path d="M0 0L7 7M7 0L0 7" stroke="{over.mark}" stroke-width="1"/></pattern>\n</defs>\n'
    )


class _SvgEnd:
    """Collects SVG elements."""

    def __init__(self, palette: Palette, prefix: str) -> None:
        self.palette = palette
        self.prefix = prefix
        self._strokes: dict[Stroke | None, str] = {}
        self.parts: list[str] = []

    def group(self, part: Part, name: str) -> str:
        """A part as a group with an id; as a link, where it leads somewhere."""
        self.parts = []
        paint_part(part, self)
        label = f' id="{escape(name)}"' if part.name else ""
        inner = "\n".join(self.parts)
        link = f'<a href="{escape(part.link)}">' if part.link else ""
        return f"<g{label}>{link}\n{inner}\n{'</a>' if link else ''}</g>\n"

    def colour(self, name: str) -> str:
        """A colour of the palette by its name."""
        return str(getattr(self.palette, name))

    def fill(self, fill: Fill | None) -> str:
        """The paint of a surface."""
        if fill is None:
            return "none"
        if fill in (Fill.BORDER, Fill.CONTENT, Fill.PAPER):
            return self.palette.parts[fill].ground
        return f"url(#{self.prefix}fill-{fill.value})"

    def stroke(self, stroke: Stroke | None) -> str:
        """The stroke attributes."""
        known = self._strokes.get(stroke)
        if known is None:
            known = self._strokes[stroke] = self._stroke(stroke) if stroke is not None else ""
        return known

    def _stroke(self, stroke: Stroke) -> str:
        text = f' stroke="{self.colour(stroke.colour)}" stroke-width="{stroke.width:.6g}"'
        if stroke.dashes:
            text += f' stroke-dasharray="{" ".join(f"{d:g}" for d in stroke.dashes)}"'
        return text

    def area(self, shape: Area) -> None:
        """A rect."""
        self.parts.append(
            f'<rect x="{shape.x:.6g}" y="{shape.y:.6g}" width="{shape.width:.6g}" '
            f'height="{shape.height:.6g}" fill="{self.fill(shape.fill)}"{self.stroke(shape.stroke)}/>'
        )

    def segment(self, shape: Segment) -> None:
        """A line."""
        self.parts.append(
            f'<line x1="{shape.x1:.6g}" y1="{shape.y1:.6g}" x2="{shape.x2:.6g}" '
            f'y2="{shape.y2:.6g}"{self.stroke(shape.stroke)}/>'
        )

    def dot(self, shape: Dot) -> None:
        """A circle."""
        self.parts.append(
            f'<circle cx="{shape.x:.6g}" cy="{shape.y:.6g}" r="{shape.radius:.6g}" '
            f'fill="{self.palette.ink}"/>'
        )

    def label(self, shape: Label) -> None:
        """A text element; paper behind it where lines would run through."""
        weight = ' font-weight="bold"' if shape.bold else ""
        text = (
            f'<text x="{shape.x:.6g}" y="{shape.y:.6g}" font-size="{shape.size:.6g}"{weight} '
            f'text-anchor="{shape.anchor}"'
        )
        if shape.back:
            width = text_width(shape.text, shape.size, bold=shape.bold) + 8
            x = shape.x - {"start": 4, "middle": width / 2, "end": width - 4}[shape.anchor]
            self.parts.append(
                f'<rect x="{x:.6g}" y="{shape.y - shape.size:.6g}" width="{width:.6g}" '
                f'height="{shape.size * 1.3:.6g}" fill="{self.palette.paper}"/>'
            )
        self.parts.append(f'{text} fill="{self.colour(shape.colour)}">{_text(shape.text)}</text>')
