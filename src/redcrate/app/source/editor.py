"""The text of one file in an editor component: colours, folding, line numbers, and marks in the margin.

The component keeps no undo of its own: what is typed becomes steps of the session's one history.
Offsets are characters of the file's text; the component counts bytes of UTF-8, so they are mapped.
"""

from collections.abc import Iterable

from PyQt6.Qsci import QsciLexerCustom, QsciScintilla
from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QColor, QFont, QKeyEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.source.colouring import Kind, css_stretches, html_stretches
from redcrate.app.theme.look import colour
from redcrate.core.markup.reparsing import difference

_LINE_NUMBERS, _MARKS, _FOLDS = 0, 1, 2
_FAULT = 8  # the number of the indicator under what is wrong
_FOUND = 9
PARTS = ("margin", "border", "padding", "content")
_LARGEST_COLOURED = 2_000_000  # characters; longer texts stay plain


class PlainLexer(QsciLexerCustom):
    """Colours the text by `colouring.py`, and folds it by its brackets or tags."""

    def __init__(self, editor: "SourceEditor", is_css: bool) -> None:
        super().__init__(editor)
        self._editor = editor
        self._is_css = is_css
        shades = {
            Kind.TEXT: "ink",
            Kind.TAG: "border_ink",
            Kind.ATTRIBUTE: "margin_ink",
            Kind.STRING: "source_string",
            Kind.COMMENT: "second_ink",
            Kind.SELECTOR: "border_ink",
            Kind.PROPERTY: "margin_ink",
            Kind.VALUE: "ink",
            Kind.AT_RULE: "problem",
            Kind.PUNCTUATION: "second_ink",
        }
        font = QFont("Liberation Mono")
        font.setPointSizeF(10)
        for kind, shade in shades.items():
            self.setColor(colour(shade), int(kind))
            self.setPaper(colour("field"), int(kind))
            self.setFont(font, int(kind))

    def language(self) -> str:
        """The name of the language."""
        return "CSS" if self._is_css else "HTML"

    def description(self, style: int) -> str:
        """The name of a style."""
        return Kind(style).name.lower() if style in set(Kind) else ""

    def styleText(self, start: int, end: int) -> None:
        """Colour all of it: a scan of the whole text costs a few milliseconds."""
        text = self._editor.text()
        if len(text) > _LARGEST_COLOURED:
            return
        self.startStyling(0)
        at = 0
        for first, last, kind in css_stretches(text) if self._is_css else html_stretches(text):
            if first > at:
                self.setStyling(_bytes(text[at:first]), int(Kind.TEXT))
            self.setStyling(_bytes(text[first:last]), int(kind))
            at = last
        self.setStyling(_bytes(text[at:]), int(Kind.TEXT))
        self._fold(text)

    def _fold(self, text: str) -> None:
        """Levels: braces in CSS, indentation in HTML."""
        level = 0
        lines = text.split("\n")
        send = self._editor.SendScintilla
        base, header = QsciScintilla.SC_FOLDLEVELBASE, QsciScintilla.SC_FOLDLEVELHEADERFLAG
        if not self._is_css:
            depths = [len(line) - len(line.lstrip()) if line.strip() else -1 for line in lines]
            for i in range(len(depths) - 2, -1, -1):
                if depths[i] < 0:
                    depths[i] = depths[i + 1]
            for i, depth in enumerate(depths):
                opens = i + 1 < len(depths) and depths[i + 1] > depth and lines[i].strip()
                send(QsciScintilla.SCI_SETFOLDLEVEL, i, base + max(0, depth) | (header if opens else 0))
            return
        for i, line in enumerate(lines):
            grows = line.count("{") - line.count("}")
            send(QsciScintilla.SCI_SETFOLDLEVEL, i, base + level | (header if grows > 0 else 0))
            level = max(0, level + grows)


def _bytes(text: str) -> int:
    return len(text.encode("utf-8", "surrogatepass"))


class SourceEditor(QsciScintilla):
    """One file's text."""

    edited = pyqtSignal()  # the user typed
    undo_wanted = pyqtSignal()
    redo_wanted = pyqtSignal()

    def __init__(self, is_css: bool, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._showing = False
        self._faults: list[tuple[int, str]] = []
        self.setUtf8(True)
        self.SendScintilla(QsciScintilla.SCI_SETUNDOCOLLECTION, 0)
        self.setLexer(PlainLexer(self, is_css))
        self.setFolding(QsciScintilla.FoldStyle.PlainFoldStyle, _FOLDS)
        self.setMarginType(_LINE_NUMBERS, QsciScintilla.MarginType.NumberMargin)
        self.setMarginType(_MARKS, QsciScintilla.MarginType.SymbolMargin)
        self.setMarginWidth(_MARKS, 16)
        self.setCaretLineVisible(True)
        self.setTabWidth(4)
        self.setAutoIndent(True)
        self.setBraceMatching(QsciScintilla.BraceMatch.SloppyBraceMatch)
        self.setAccessibleName("Source text")
        self._dress()
        self.textChanged.connect(self._text_changed)

    def _dress(self) -> None:
        self.setPaper(colour("field"))
        self.setColor(colour("ink"))
        self.setCaretForegroundColor(colour("ink"))
        self.setCaretLineBackgroundColor(colour("paper"))
        self.setMarginsBackgroundColor(colour("paper"))
        self.setMarginsForegroundColor(colour("second_ink"))
        self.setFoldMarginColors(colour("paper"), colour("paper"))
        self.setSelectionBackgroundColor(colour("ink"))
        self.setSelectionForegroundColor(colour("paper"))
        self.setMatchedBraceBackgroundColor(colour("hairline"))
        self.setMatchedBraceForegroundColor(colour("ink"))
        shapes = QsciScintilla.MarkerSymbol
        for number, (part, shape) in enumerate(
            zip(
                PARTS,
                (shapes.Circle, shapes.SmallRectangle, shapes.RightTriangle, shapes.RightArrow),
                strict=True,
            )
        ):
            self.markerDefine(shape, number)
            shade = {
                "margin": "margin_ink",
                "border": "border_ink",
                "padding": "accent",
                "content": "ink",
            }[part]
            self.setMarkerBackgroundColor(colour(shade), number)
            self.setMarkerForegroundColor(colour(shade), number)
        self.setMarginMarkerMask(_MARKS, 0b1111)
        self.indicatorDefine(QsciScintilla.IndicatorStyle.SquiggleIndicator, _FAULT)
        self.setIndicatorForegroundColor(colour("problem"), _FAULT)
        self.indicatorDefine(QsciScintilla.IndicatorStyle.StraightBoxIndicator, _FOUND)
        self.setIndicatorForegroundColor(QColor(colour("accent")), _FOUND)

    # -- text

    def show_text(self, text: str) -> None:
        """Show a text; only what differs is replaced, so that caret and scroll stay."""
        change = difference(self.text(), text)
        if change is None:
            return
        self._showing = True
        crlf = "\r\n" in text
        self.setEolMode(QsciScintilla.EolMode.EolWindows if crlf else QsciScintilla.EolMode.EolUnix)
        now = self.text()
        read_only = self.isReadOnly()
        self.setReadOnly(False)
        start, end = _bytes(now[: change.start]), _bytes(now[: change.end])
        new = text[change.start : change.end + change.by].encode("utf-8", "surrogatepass")
        self.SendScintilla(QsciScintilla.SCI_SETTARGETRANGE, start, end)
        self.SendScintilla(QsciScintilla.SCI_REPLACETARGET, len(new), new)
        self.setReadOnly(read_only)
        self._showing = False
        self.setMarginWidth(_LINE_NUMBERS, "0" * (len(str(self.lines())) + 2))

    def _text_changed(self) -> None:
        if not self._showing:
            self.edited.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Undo and redo are the program's, not the component's."""
        assert event is not None
        from PyQt6.QtGui import QKeySequence

        if event.matches(QKeySequence.StandardKey.Undo):
            self.undo_wanted.emit()
        elif event.matches(QKeySequence.StandardKey.Redo):
            self.redo_wanted.emit()
        else:
            super().keyPressEvent(event)

    # -- places

    def go_to(self, offset: int, end: int | None = None) -> None:
        """Put the caret at an offset (select up to `end`) and show its line in the upper third."""
        text = self.text()
        start = _bytes(text[:offset])
        stop = start if end is None else _bytes(text[:end])
        line = text.count("\n", 0, offset)
        self.ensureLineVisible(line)
        self.SendScintilla(QsciScintilla.SCI_SETSEL, start, stop)
        self.setFirstVisibleLine(max(0, line - 8))

    def bring_into_view(self, line: int) -> None:
        """Show a line (from 1) in the upper third, unless it is seen already; the caret stays."""
        first, shown = self.firstVisibleLine(), int(self.SendScintilla(QsciScintilla.SCI_LINESONSCREEN))
        self.ensureLineVisible(line - 1)
        if not first <= line - 1 < first + shown - 1:
            self.setFirstVisibleLine(max(0, line - 9))

    def caret_offset(self) -> int:
        """The offset of the caret."""
        line, column = self.getCursorPosition()
        lines = self.text().split("\n")
        return sum(len(one) + 1 for one in lines[:line]) + column

    def mark_lines(self, marks: Iterable[tuple[int, str]]) -> None:
        """Mark lines (from 1) with the code of a part of the box."""
        self.markerDeleteAll(-1)
        for line, part in marks:
            self.markerAdd(line - 1, PARTS.index(part))

    def marked_lines(self) -> dict[int, set[str]]:
        """The marked lines (from 1) with their parts."""
        found: dict[int, set[str]] = {}
        for line in range(self.lines()):
            bits = self.markersAtLine(line)
            if bits:
                found[line + 1] = {p for i, p in enumerate(PARTS) if bits & 1 << i}
        return found

    def mark_faults(self, faults: Iterable[tuple[int, str]]) -> None:
        """Underline lines (from 1) that hold a fault, with its sentence below them."""
        self.clearIndicatorRange(0, 0, self.lines(), 0, _FAULT)
        self.clearAnnotations()
        by_line: dict[int, list[str]] = {}
        self._faults = list(faults)
        for line, sentence in self._faults:
            by_line.setdefault(line, []).append(sentence)
        for line, sentences in by_line.items():
            if 1 <= line <= self.lines():
                length = len(self.text(line - 1).rstrip())
                self.fillIndicatorRange(line - 1, 0, line - 1, length, _FAULT)
                self.annotate(line - 1, "\n".join(sentences), int(Kind.AT_RULE))
        self.setAnnotationDisplay(QsciScintilla.AnnotationDisplay.AnnotationIndented)

    def faults(self) -> list[tuple[int, str]]:
        """The sentences that stand below lines, with their line from 1."""
        shown = QsciScintilla.SCI_ANNOTATIONGETLINES
        return [(n, s) for n, s in self._faults if self.SendScintilla(shown, n - 1) > 0]
