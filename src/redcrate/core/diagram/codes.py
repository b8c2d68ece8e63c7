"""The codes of the parts of a box: colour and pattern together, for print and for every eye."""

from dataclasses import fields
from enum import Enum

from redcrate.core.records import dataclass


class Fill(Enum):
    """What a surface stands for; each has its pattern."""

    MARGIN = "margin"
    BORDER = "border"
    PADDING = "padding"
    CONTENT = "content"
    UNSPENT = "unspent"
    OVERSPENT = "overspent"
    PAPER = "paper"


@dataclass(frozen=True, slots=True)
class PartCode:
    """Ground and pattern colours as #rrggbb."""

    ground: str
    mark: str


@dataclass(frozen=True, slots=True)
class Palette:
    """All colours of the drawings and the window, as #rrggbb."""

    parts: dict[Fill, PartCode]
    ink: str
    second_ink: str
    paper: str
    desk: str
    hairline: str
    field: str
    problem: str
    border_ink: str
    margin_ink: str
    accent: str  # thin bars and other marks on the dark row
    source_string: str  # strings on the Source screen


LIGHT = Palette(
    {
        Fill.MARGIN: PartCode("#D8EAE8", "#5E9C97"),
        Fill.BORDER: PartCode("#B8322A", "#B8322A"),
        Fill.PADDING: PartCode("#F3E7C4", "#DCC588"),
        Fill.CONTENT: PartCode("#FFFFFF", "#23262B"),
        Fill.UNSPENT: PartCode("#FFFFFF", "#DCDAD3"),
        Fill.OVERSPENT: PartCode("#7B2CBF", "#B98CE0"),
        Fill.PAPER: PartCode("#FBFAF6", "#FBFAF6"),
    },
    ink="#23262B",
    second_ink="#62666D",
    paper="#FBFAF6",
    desk="#E4DFD3",
    hairline="#D6D0C2",
    field="#FFFFFF",
    problem="#7B2CBF",
    border_ink="#B8322A",
    margin_ink="#2F7A74",
    accent="#C79A2E",
    source_string="#7A5A12",
)

DARK = Palette(
    {
        Fill.MARGIN: PartCode("#23403E", "#6FB3AD"),
        Fill.BORDER: PartCode("#C8473E", "#C8473E"),
        Fill.PADDING: PartCode("#4A4126", "#8F7C3F"),
        Fill.CONTENT: PartCode("#2B2E34", "#E9E6DD"),
        Fill.UNSPENT: PartCode("#24272C", "#3C4046"),
        Fill.OVERSPENT: PartCode("#7B2CBF", "#C9A2EC"),
        Fill.PAPER: PartCode("#1F2226", "#1F2226"),
    },
    ink="#EDEAE2",
    second_ink="#A9ADB4",
    paper="#1F2226",
    desk="#15171A",
    hairline="#3A3E45",
    field="#2B2E34",
    problem="#C49BF0",
    border_ink="#F08A80",
    margin_ink="#7FC6BF",
    accent="#E2B94F",
    source_string="#E2C67F",
)

_BLACK, _WHITE = "#000000", "#FFFFFF"
# For print: black ink and patterns, no grounds.
PRINT = Palette(
    {
        **{fill: PartCode(_WHITE, _BLACK) for fill in Fill},
        Fill.BORDER: PartCode(_BLACK, _BLACK),
        Fill.PAPER: PartCode(_WHITE, _WHITE),
    },
    **{f.name: _WHITE if f.name in ("paper", "desk", "field") else _BLACK for f in fields(Palette)[1:]},
)
