"""A list of sentences: they wrap, and each row is as high as what it says at the present width."""

from collections.abc import Iterator

from PyQt6.QtCore import QEvent, QRect, QSize, Qt
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from redcrate.app.theme.look import text_font

_KEY = Qt.ItemDataRole.UserRole
_BESIDE, _AROUND = 26, 12  # px: beside and above the words of a row, as the style gives them


class SentenceList(QListWidget):
    """Rows with a key each; what is read keeps its place when rows come or go."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        """name: for those who do not see it."""
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setWordWrap(True)
        self.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)  # one width for all
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        viewport = self.viewport()
        if viewport is not None:
            viewport.installEventFilter(self)

    # -- rows

    def add(self, text: str, key: object) -> QListWidgetItem:
        """One more row, at the end."""
        item = QListWidgetItem(text)
        item.setData(_KEY, key)
        self.addItem(item)
        return item

    def add_title(self, text: str) -> None:
        """A title of the rows that follow; it cannot be chosen."""
        item = QListWidgetItem(text)
        item.setFlags(Qt.ItemFlag.NoItemFlags)
        item.setFont(text_font(12, bold=True))
        self.addItem(item)

    def add_part_below(self, item: QListWidgetItem, part: QWidget) -> None:
        """A widget below a row; the arrow keys go past it."""
        place = QListWidgetItem()
        place.setFlags(Qt.ItemFlag.NoItemFlags)
        self.insertItem(self.row(item) + 1, place)
        self.setItemWidget(place, part)
        self.fit_rows()

    def remove_part(self, part: QWidget) -> None:
        """The widget below a row goes; nobody is told."""
        was = self.blockSignals(True)
        for item in [i for i in self.rows() if self.itemWidget(i) is part]:
            self.removeItemWidget(item)
            self.takeItem(self.row(item))
        self.blockSignals(was)

    def rows(self) -> Iterator[QListWidgetItem]:
        """All rows, from the top."""
        for row in range(self.count()):
            item = self.item(row)
            if item is not None:
                yield item

    def key_of(self, item: QListWidgetItem | None) -> object:
        """The key of a row; None: it is a title, a part, or none."""
        return None if item is None else item.data(_KEY)

    def item_of(self, key: object) -> QListWidgetItem | None:
        """The row with a key."""
        return next((i for i in self.rows() if key is not None and self.key_of(i) == key), None)

    # -- heights

    def eventFilter(self, watched: object, event: QEvent | None) -> bool:
        """Rows are fitted as soon as the list has another width, so that none is cut when it is first seen."""
        if event is not None and event.type() is QEvent.Type.Resize:
            self.fit_rows()
        return False

    def fit_rows(self) -> None:
        """Every row is as high as what it says at the present width."""
        viewport = self.viewport()
        if viewport is None:
            return
        room = QRect(0, 0, viewport.width() - _BESIDE, 100_000)
        for item in self.rows():
            part = self.itemWidget(item)
            if part is not None:
                item.setSizeHint(QSize(60, _height_in(part, viewport.width())))
            else:
                flags = int(Qt.TextFlag.TextWordWrap)
                words = self.fontMetrics().boundingRect(room, flags, item.text())
                item.setSizeHint(QSize(60, words.height() + _AROUND))

    # -- what is read stays where it is

    def reading(self) -> tuple[object, int] | None:
        """The key of the row at the upper end of what is seen, and where that row begins, px."""
        for item in self.rows():
            place = self.visualItemRect(item)
            if self.key_of(item) is not None and place.bottom() > 0:
                return self.key_of(item), place.top()
        return None

    def go_on_reading(self, place: tuple[object, int] | None) -> None:
        """New rows come without moving what is read."""
        bar = self.verticalScrollBar()
        item = self.item_of(place[0]) if place is not None else None
        if item is None or bar is None or place is None:
            return
        if not bar.value() and self.currentItem() is None:
            return  # nobody reads further down: the first ones are at the top
        bar.setValue(bar.value() + self.visualItemRect(item).top() - place[1])


def _height_in(part: QWidget, width: int) -> int:
    """How high a widget is when it is that wide, px, with the row's padding."""
    part.setFixedWidth(width)
    layout = part.layout()
    if layout is None:
        return part.sizeHint().height()
    layout.invalidate()
    layout.activate()
    high = layout.totalHeightForWidth(width) if layout.hasHeightForWidth() else part.sizeHint().height()
    return high + _AROUND - 2
