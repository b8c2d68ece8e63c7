"""How wide the lettering of a drawing is, which place a label takes, and how long texts are cut."""

import unicodedata
from functools import lru_cache

from redcrate.core.diagram.drawing import Label
from redcrate.core.diagram.label_places import Place
from redcrate.core.text.fonts import FontFace, choose_font
from redcrate.core.text.shaping import ShapedRun, shape

_ASCENT, _DESCENT = 0.82, 0.24  # em: of figures and letters, not of the whole font box
_WIDE_EM, _OTHER_EM, _SYMBOL_EM = 1.0, 0.75, 1.4  # letters that the bundled face lacks


@lru_cache(maxsize=4)
def _face(bold: bool) -> FontFace:
    return choose_font(("sans-serif",), 700 if bold else 400, "normal").face


@lru_cache(maxsize=20_000)
def text_width(text: str, size: float, *, bold: bool = False) -> float:
    """The width of a label in px at `size` px; of letters that the bundled face lacks, a guess on the safe side."""
    face = _face(bold)
    run = shape(face, text)
    width = run.sums[-1] * size / face.upem
    return width + sum(_lacking(run, number) for number in _missing(run)) * size


def _missing(run: ShapedRun) -> list[int]:
    return [n for n, char in enumerate(run.text) if char in run.missing] if run.missing else []


def _lacking(run: ShapedRun, number: int) -> float:
    """What a letter of another font is probably wider than the empty box that stands for it, em."""
    char = run.text[number]
    wide = unicodedata.east_asian_width(char) in "WF"
    em = _SYMBOL_EM if unicodedata.category(char) == "So" else _WIDE_EM if wide else _OTHER_EM
    return max(0.0, em - (run.sums[number + 1] - run.sums[number]) / run.face.upem)


def label_place(label: Label) -> Place:
    """The room that a label takes on the drawing, px."""
    width = text_width(label.text, label.size, bold=label.bold)
    start = label.x - {"start": 0.0, "middle": width / 2, "end": width}[label.anchor]
    top = label.y - _ASCENT * label.size
    return Place(start, top, width, (_ASCENT + _DESCENT) * label.size)


def shortened(text: str, most: int) -> str:
    """A text with an ellipsis where it is longer than `most` characters."""
    return text if len(text) <= most else text[: most - 1] + "…"


def cut_to(text: str, width: float, size: float, *, bold: bool = False) -> str:
    """A text with an ellipsis where it is wider than `width` px."""
    if text_width(text, size, bold=bold) <= width:
        return text
    fits, too_long = 0, len(text)
    while too_long - fits > 1:
        middle = (fits + too_long) // 2
        if text_width(text[:middle] + "…", size, bold=bold) <= width:
            fits = middle
        else:
            too_long = middle
    return text[:fits] + "…"


def wrapped(text: str, width: float, size: float, most: int = 4) -> list[str]:
    """A text in lines of at most `width` px, at most `most` of them; what is longer is cut with an ellipsis."""
    lines: list[str] = []
    words = text.split()
    while words:
        line = words.pop(0)
        while words and text_width(f"{line} {words[0]}", size) <= width:
            line = f"{line} {words.pop(0)}"
        if len(lines) == most - 1 and words:
            lines.append(cut_to(f"{line} {' '.join(words)}", width, size))
            break
        lines.append(cut_to(line, width, size))
    return lines
