"""The look: palettes as Qt colours, brushes of the part codes, fonts, and the style sheet."""

from functools import cache
from importlib.resources import files

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QFontDatabase,
    QGuiApplication,
    QImage,
    QPainter,
    QPen,
    QTransform,
)
from PyQt6.QtWidgets import QWidget

from redcrate.core.diagram.codes import DARK, LIGHT, Fill, Palette, PartCode

FAMILY = "Liberation Sans"


@cache
def load_fonts() -> None:
    """Make the bundled fonts known to Qt."""
    folder = files("redcrate.core.text") / "fonts"
    for file in folder.iterdir():
        if file.name.endswith(".ttf"):
            QFontDatabase.addApplicationFont(str(file))


_chosen: list[Palette] = [LIGHT]


def follow_desktop() -> bool:
    """Take the palette that the desktop asks for now; whether it is another one than before."""
    hints = QGuiApplication.styleHints()
    dark = hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark
    return choose_palette(DARK if dark else LIGHT)


def choose_palette(wanted: Palette) -> bool:
    """Take a palette; whether it is another one than before."""
    changed = wanted is not _chosen[0]
    _chosen[0] = wanted
    return changed


def palette() -> Palette:
    """The palette that is used."""
    return _chosen[0]


def colour(name: str) -> QColor:
    """A colour of the palette by its name."""
    return QColor(str(getattr(_chosen[0], name)))


def page_colour(name: str) -> QColor:
    """A colour for marks on the page: the page is a light sheet in every palette."""
    return QColor(str(getattr(LIGHT, name)))


def dress(widget: QWidget, sheet: str) -> None:
    """Give a widget a style sheet, if it has another one: Qt works long on each."""
    if widget.styleSheet() != sheet:
        widget.setStyleSheet(sheet)


def lettering(size: float, *, bold: bool = False) -> QFont:
    """The window's font at `size` px, with tabular figures (the face has no others)."""
    font = QFont(FAMILY)
    font.setPixelSize(round(size))
    font.setBold(bold)
    return font


_text: list[float] = [1.0]
_LARGEST = 2.0


def choose_text_scale(scale: float) -> None:
    """How large the window's text is: 1 as designed, at most 2. What is drawn on sheets and drawings keeps its size."""
    _text[0] = min(_LARGEST, max(1.0, scale))


def follow_text_size() -> None:
    """Take the text size that the desktop asks for, where it does not scale the whole window for it."""
    screen = QGuiApplication.primaryScreen()
    choose_text_scale(1.0 if screen is None else screen.logicalDotsPerInch() / 96)


def text_px(size: float) -> int:
    """A size of text, or of what has text in it, px, at the text scale."""
    return round(size * _text[0])


def text_font(size: float, *, bold: bool = False) -> QFont:
    """The window's font, `size` px at the text scale."""
    return lettering(text_px(size), bold=bold)


def part_brush(fill: Fill, ratio: float = 1.0, *, of: Palette | None = None) -> QBrush:
    """The pattern of a part of the box; `ratio` is the screen's pixel ratio. of: another palette than the window's."""
    return _part_brush(fill, (of or palette()).parts[fill], ratio)


@cache
def _part_brush(fill: Fill, code: PartCode, ratio: float) -> QBrush:
    side = {Fill.MARGIN: 6, Fill.PADDING: 7, Fill.UNSPENT: 14, Fill.OVERSPENT: 7}.get(fill)
    if side is None:
        return QBrush(QColor(code.ground))
    dots = round(side * ratio)
    tile = QImage(
        dots, dots, QImage.Format.Format_RGB32
    )  # no pixmap: drawings are made in other threads too
    tile.fill(QColor(code.ground))
    painter = QPainter(tile)
    painter.scale(dots / side, dots / side)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    mark = QColor(code.mark)
    if fill is Fill.MARGIN:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(mark)
        painter.drawEllipse(QRectF(1.2, 1.2, 1.7, 1.7))
    else:
        painter.setPen(QPen(mark, 1.0))
        painter.drawLine(QPointF(-1, side + 1), QPointF(side + 1, -1))
        for shift in (-side, side):
            painter.drawLine(QPointF(shift - 1, side + 1), QPointF(shift + side + 1, -1))
        if fill is Fill.OVERSPENT:
            painter.drawLine(QPointF(-1, -1), QPointF(side + 1, side + 1))
    painter.end()
    brush = QBrush(tile)  # a PDF does not ask a picture for its pixel ratio: the brush itself is scaled
    brush.setTransform(QTransform.fromScale(side / dots, side / dots))
    return brush


def _amounts(p: Palette) -> str:
    """Of what shows or takes an amount."""
    return f"""
    QProgressBar {{ background: {p.field}; border: 1px solid {p.hairline}; border-radius: 3px; }}
    QProgressBar::chunk {{ background: {p.second_ink}; border-radius: 2px; margin: 1px; }}
    QSlider::groove:horizontal {{ height: 4px; background: {p.hairline}; border-radius: 2px; }}
    QSlider::sub-page:horizontal {{ background: {p.second_ink}; border-radius: 2px; }}
    QSlider::handle:horizontal {{ width: 12px; margin: -5px 0; border: 1px solid {p.second_ink}; border-radius: 6px;
        background: {p.field}; }}
    QSlider::handle:horizontal:focus {{ border: 2px solid {p.ink}; }}
    """


def style_sheet() -> str:
    """The window's style sheet."""
    p = palette()
    return f"""
    QWidget {{ background: {p.paper}; color: {p.ink}; font-family: "{FAMILY}"; font-size: {text_px(12)}px; }}
    QPushButton {{ background: {p.field}; border: 1px solid {p.hairline}; border-radius: 4px;
        padding: 5px 10px; }}
    QPushButton:hover {{ border-color: {p.second_ink}; }}
    QPushButton:focus, QLineEdit:focus, QComboBox:focus {{ border: 2px solid {p.ink};
        padding: 4px 9px; }}
    QPushButton:checked {{ background: {p.ink}; color: {p.paper}; border-color: {p.ink}; }}
    QPushButton:disabled {{ color: {p.second_ink}; background: {p.paper}; }}
    QPushButton#save:enabled {{ background: {p.border_ink}; color: {p.paper};
        border-color: {p.border_ink}; }}
    QLineEdit {{ background: {p.field}; border: 1px solid {p.hairline}; border-radius: 3px;
        padding: 5px 10px; selection-background-color: {p.ink}; selection-color: {p.paper}; }}
    QCheckBox::indicator {{ width: 11px; height: 11px; border: 1px solid {p.second_ink};
        border-radius: 2px; background: {p.field}; }}
    QCheckBox::indicator:checked {{ background: {p.ink}; border-color: {p.ink}; }}
    QCheckBox:focus {{ text-decoration: underline; }}
    {_amounts(p)}
    QTreeView {{ border: none; background: {p.paper}; outline: none; }}
    QListWidget {{ background: {p.paper}; outline: none; padding: 0 6px; }}
    QListWidget::item {{ padding: 5px 6px; border-radius: 3px; }}
    QListWidget::item:selected {{ background: {p.ink}; color: {p.paper}; }}
    QListWidget:focus {{ border-left: 3px solid {p.ink}; padding: 0 6px 0 3px; }}
    QComboBox {{ background: {p.field}; border: 1px solid {p.hairline}; border-radius: 3px;
        padding: 4px 8px; }}
    QComboBox::drop-down {{ border: none; width: 16px; }}
    QComboBox::down-arrow {{ image: none; border-left: 4px solid {p.field};
        border-right: 4px solid {p.field}; border-top: 5px solid {p.second_ink}; width: 0; height: 0; }}
    QComboBox QAbstractItemView {{ background: {p.field}; border: 1px solid {p.second_ink};
        selection-background-color: {p.ink}; selection-color: {p.paper}; outline: none; }}
    QTableWidget {{ border: none; background: {p.paper}; outline: none; }}
    QTableWidget::item {{ padding: 2px 6px; }}
    QTableWidget::item:selected {{ background: {p.ink}; color: {p.paper}; }}
    QHeaderView {{ background: {p.paper}; }}
    QHeaderView::section {{ background: {p.paper}; color: {p.second_ink}; border: none;
        border-bottom: 1px solid {p.hairline}; padding: 3px 6px; }}
    QPlainTextEdit {{ background: {p.field}; border: none; font-family: "Liberation Mono"; padding: 6px; }}
    QScrollArea {{ border: none; }}
    QScrollBar:vertical {{ background: {p.paper}; width: 10px; margin: 0; border: none; }}
    QScrollBar:horizontal {{ background: {p.paper}; height: 10px; margin: 0; border: none; }}
    QScrollBar::handle {{ background: {p.hairline}; border-radius: 3px; margin: 2px; }}
    QScrollBar::handle:vertical {{ min-height: 30px; }}
    QScrollBar::handle:horizontal {{ min-width: 30px; }}
    QScrollBar::handle:hover {{ background: {p.second_ink}; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: {p.paper}; }}
    QAbstractScrollArea {{ border: none; }}
    QSplitter::handle {{ background: {p.hairline}; }}
    QToolTip {{ background: {p.ink}; color: {p.paper}; border: none; padding: 4px; }}
    QMenu {{ border: 1px solid {p.hairline}; }}
    QMenu::item:selected {{ background: {p.ink}; color: {p.paper}; }}
    """
