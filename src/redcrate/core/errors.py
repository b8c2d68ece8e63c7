"""Everything that Red Crate raises on purpose.

RedCrateError
├── PageNotReadable      the page's file cannot be opened or is no text
├── PageNotWritable      a file cannot be saved
│   ├── ChangedOnDisk        another program has changed it since it was read
│   └── OutsideFolder        it lies outside the page's folder, and nobody has said yet that it may be written
├── ValueNotUnderstood   what was typed is no value for that term
├── EditRefused          an edit makes no sense; says why and what would do
├── SelectorMatchesNothing   a selector that was asked for finds no element
├── FileIsThere              a file would be written over
└── LayoutBug            our own fault, made at the core's entry (error_boundary.py)
"""


class RedCrateError(Exception):
    """Base of all; `where`, `what` and `remedy` make one sentence each.

    where: the file, with a line where known; empty if there is none.
    what: what is wrong. remedy: what to do about it; may be empty.
    """

    def __init__(self, what: str, *, where: str = "", remedy: str = "") -> None:
        self.what = what
        self.where = where
        self.remedy = remedy
        super().__init__(self.sentence)

    @property
    def sentence(self) -> str:
        """The whole message as people read it."""
        head = f"{self.where}: {self.what}" if self.where else self.what
        return f"{head} {self.remedy}".strip()


class PageNotReadable(RedCrateError):
    """The page or a file of it cannot be opened, or holds no text."""


class PageNotWritable(RedCrateError):
    """A file cannot be saved; the work is still in memory."""


class ChangedOnDisk(PageNotWritable):
    """Another program has changed a file since it was read; nothing was written to it."""


class OutsideFolder(PageNotWritable):
    """Files outside the page's folder would be written, and nobody has said that they may be.

    names: as the page knows them.
    """

    def __init__(self, names: tuple[str, ...], page: str) -> None:
        self.names = names
        super().__init__(
            f"{', '.join(names)}: outside the page's folder; not saved without your permission.",
            where=page,
        )


class ValueNotUnderstood(RedCrateError):
    """A typed value is no value of that property."""


class EditRefused(RedCrateError):
    """An edit would do nothing or something that CSS does not allow."""


class FileIsThere(RedCrateError):
    """Files would be overwritten. names: which."""

    def __init__(
        self, what: str, *, where: str = "", remedy: str = "", names: tuple[str, ...] = ()
    ) -> None:
        self.names = names
        super().__init__(what, where=where, remedy=remedy)


class SelectorMatchesNothing(RedCrateError):
    """No element of the page matches the selector."""


class LayoutBug(RedCrateError):
    """The computation met something that nobody expected: a fault of Red Crate, not of the page.

    page: its name. element: the one that was worked on, "" if unknown. cause: the exception.
    """

    def __init__(self, page: str, element: str, cause: BaseException) -> None:
        self.page = page
        self.element = element
        self.cause = cause
        at = f" at {element}" if element else ""
        super().__init__(
            f"Red Crate failed{at} ({type(cause).__name__}: {str(cause)[:120] or 'no details'}).",
            where=page,
            remedy="This is an error in Red Crate, not in the page; nothing was changed.",
        )
