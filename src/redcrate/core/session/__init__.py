"""What is open: the document, the editor, the views, and what passes between memory and disk."""

from redcrate.core.session.changes import Change, Listener
from redcrate.core.session.session import Session
from redcrate.core.style.media import DEFAULT_HEIGHT, DEFAULT_WIDTHS

__all__ = ["DEFAULT_HEIGHT", "DEFAULT_WIDTHS", "Change", "Listener", "Session"]
