"""The lists of the bench's left column."""

from redcrate.core.labelled import Labelled


class Side(Labelled):
    """One list; the label is that of its button."""

    OUTLINE = "outline", "Outline"
    FINDINGS = "findings", "Findings"
    CLASSES = "classes", "Classes"
    ROWS = "rows", "Rows and centring"
    HISTORY = "history", "History"
    COMP = "comp", "Comp"
    SELECTED = "selected", "Selected"  # in a narrow window
