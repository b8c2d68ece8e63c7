"""A patch: the one form of every change.

Offsets count characters of the decoded text; what lies outside the edited ranges stays as it is.
"""

from collections.abc import Mapping

from redcrate.core.errors import EditRefused
from redcrate.core.markup.reparsing import difference
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class TextEdit:
    """Replace the characters from `start` to `end` of `file` by `text`."""

    file: str
    start: int
    end: int
    text: str


@dataclass(frozen=True, slots=True)
class Patch:
    """Edits that belong together, and what they do in words; one patch is one undo step."""

    edits: tuple[TextEdit, ...]
    sentence: str

    @property
    def files(self) -> tuple[str, ...]:
        """The files that it touches, each once."""
        return tuple(dict.fromkeys(e.file for e in self.edits))


def patch_between(before: Mapping[str, str], after: Mapping[str, str], sentence: str) -> Patch:
    """The patch that turns the texts `before` into those of `after`, one stretch a file."""
    edits = []
    for file, text in after.items():
        change = difference(before[file], text)
        if change is not None:
            end = change.end + change.by
            edits.append(TextEdit(file, change.start, change.end, text[change.start : end]))
    return Patch(tuple(edits), sentence)


def offset_after(patch: Patch, file: str, offset: int) -> int:
    """Where the character at `offset` of a file stands after the patch."""
    return offset + sum(
        len(e.text) - (e.end - e.start) for e in patch.edits if e.file == file and e.end <= offset
    )


def apply_patch(patch: Patch, texts: Mapping[str, str]) -> tuple[dict[str, str], Patch]:
    """The texts after `patch`, and the patch that takes it back.

    Raises EditRefused if edits overlap or lie outside a text.
    """
    changed: dict[str, str] = {}
    backward: list[TextEdit] = []
    for file in patch.files:
        edits = sorted((e for e in patch.edits if e.file == file), key=lambda e: (e.start, e.end))
        text = texts.get(file)
        if text is None:
            raise EditRefused(f"the page has no file “{file}”.")
        changed[file], inverse = _apply_to_one(file, text, edits)
        backward.extend(inverse)
    return changed, Patch(tuple(backward), patch.sentence)


def _apply_to_one(file: str, text: str, edits: list[TextEdit]) -> tuple[str, list[TextEdit]]:
    parts: list[str] = []
    inverse: list[TextEdit] = []
    at = moved = 0
    for edit in edits:
        if not at <= edit.start <= edit.end <= len(text):
            raise EditRefused("two changes of this edit overlap.", where=file)
        parts += [text[at : edit.start], edit.text]
        start = edit.start + moved
        inverse.append(TextEdit(file, start, start + len(edit.text), text[edit.start : edit.end]))
        moved += len(edit.text) - (edit.end - edit.start)
        at = edit.end
    parts.append(text[at:])
    return "".join(parts), inverse
