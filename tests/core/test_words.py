"""The words that do not come back: what people read speaks the standard's terms and plain English.

Read are all strings of the program that are sentences or labels (docstrings, style sheets and markup apart), the
exercises, and the README and docs that designers read. Each word has what is said instead.
"""

import ast
import json
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
SOURCE = ROOT / "src" / "redcrate"

# A word that does not come back: what is said instead.
GONE = {
    r"[Ww]rites? to|written to|[Gg]ive it to|into its own style": "Edits go to",
    r"[Hh]olds? in|all windows|windows (up to|from)": "at (all widths, up to 520)",
    r"[Aa]s now|[Ll]oses to|width loses": "current rule · overridden by",
    r"[Tt]he box grows|[Cc]ontent gives|[Mm]argins give|[Nn]eighbours give": "Box changes, Content adapts, Margins adapt",
    r"\boff the (width|height)|off its width": "Subtract … from width",
    r"to spend\b|\b[Ss]pen(d|ds|t)\b|px are left|px left\b": "available, used, free",
    r"\blacks?\b|too few here|too little room|px short\b": "short by",
    r"\bdrop(s|ped)?\b|goes below|\bfell\b": "wraps, moves below",
    r"[Ss]ticks? out|reach(es)? beyond|[Rr]uns? (out|over)\b": "overflows",
    r"takes? what|leaves it\b": "fills its containing block",
    r"@media \S* ?holds|\brule holds": "media query applies",
    r"\b[Ss]kipped\b|is dropped": "ignored",
    r"\b[Hh]olds? (its|the|them|all|both|floats|padding)\b|[Ll]et (it|them|its|the)\b": "contain; a verb",
    r"\b[Ss]wallow|\b[Ww]ins?\b|margins? (meet|met)|that meet": "margins collapse; overrides",
    r"text line|letters like g": "baseline, room for descenders",
    r"to itself\b": "on its own line",
    r"[Ss]mallest (width|height)|[Ll]argest (width|height)": "min-width, max-width",
    r"^Steps$|^Arrange$|^Chains$": "History, Rows and centring, Dimensions",
    r"\b[Tt]ak(e|en|es) (it |them )?(out|off|away)\b|\btake .{1,40} (out|off)\b": "Remove",
    r"\b[Gg]ive up|[Gg]iven up": "Cancel",
    r"keep mine|take theirs|take both": "Keep my version, Use version on disk, Merge both",
    r"[Hh]and(ed)? over|[Ww]rite over|[Ww]rote\b": "Export, Overwrite existing files, Changed",
    r"[Ll]eave it out|[Ll]eft out|[Bb]rought back|[Bb]ring it back": "Hide here",
    r"[Ss]ame as wide": "Remove overrides for this range",
    r"\b[Ss]ilence": "Ignore on this element",
    r"see to it": "edit by hand",
    r"[Aa]sk again|after its scripts|\b[Ii]ts picture": "Check again, Run page scripts, Browser's picture",
    r"[Mm]ake one of|[Bb]egin again|[Ss]ay it\b": "Create an exercise, Reset my copy, Submit",
    r"\b(is|are) no (number|width|list|text|value|unit|object|selector|block|picture|file|name|class)\b": "is not a …",
    r"\bnobody\b|\bsomebody\b|\bstands? (in|on|at)\b|what it stands": "the name of the thing",
    r"\bwindow'?s? width|[Ww]idth of the window|in a window of|\bof the window\b": "viewport",
}  # fmt: skip

ANY = re.compile("|".join(f"(?:{gone})" for gone in GONE))

# Where a word is meant otherwise: the ending of a file and the text.
MEANT = (
    ("app/theme/look.py", "QComboBox::drop-down"),  # Qt's own name of a part
    ("app/commands/old_words.py", ""),  # commands are found by these
    ("app/comp/panel.py", "drop a file on the sheet"),  # with the pointer
    ("core/edit/tree_edits.py", "cannot be moved into itself"),
    ("core/predictions/question.py", "margins that meet"),  # the key of saved counts
    ("core/widths/events.py", "page wider than the window"),  # a kind in files
    ("core/files/data_files.py", "an entry of"),
)


def strings_of(path: Path) -> Iterator[tuple[int, str]]:
    """The strings of a module that people may read, with their lines; places in them as `{}`."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    inside: set[int] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            inside.add(id(node.value))  # docstrings
        if isinstance(node, ast.JoinedStr):
            inside.update(id(n) for n in ast.walk(node) if n is not node)
    for node in ast.walk(tree):
        if id(node) in inside:
            continue
        if isinstance(node, ast.Constant) and isinstance(node.value, str):
            yield node.lineno, node.value
        elif isinstance(node, ast.JoinedStr):
            yield (
                node.lineno,
                "".join(str(v.value) if isinstance(v, ast.Constant) else "{}" for v in node.values),
            )


def is_read(text: str) -> bool:
    """Whether a string is a label or a sentence: not a key, a style sheet or markup."""
    words = re.sub(r"\{\}", "", text).strip()
    return (" " in words or words[:1].isupper()) and "<" not in text and "{ " not in text


def wrong_words(text: str) -> list[str]:
    """The words in a text that do not come back, each with what is said instead."""
    if not ANY.search(text):
        return []
    return [f"“{m[0]}”: {instead}" for gone, instead in GONE.items() if (m := re.search(gone, text))]


def test_strings_speak_plainly() -> None:
    """No string of the program has a word that was left behind."""
    found = []
    for path in sorted(SOURCE.rglob("*.py")):
        name = path.relative_to(SOURCE).as_posix()
        meant = [text for file, text in MEANT if file == name]
        for line, text in strings_of(path):
            if is_read(text) and not any(m in text for m in meant):
                found += [f"{name} line {line}: {wrong} in “{text}”" for wrong in wrong_words(text)]
    assert not found, "\n".join(found)


def test_exercises_speak_plainly() -> None:
    """Titles, tasks and hints of the exercises that come with the program."""
    found = []
    for path in sorted((ROOT / "exercises").rglob("*.redcrate-exercise.json")):
        data = json.loads(path.read_text(encoding="utf-8"))
        texts = [data["title"], data["task"], *(hint["say"] for hint in data.get("hints", []))]
        found += [f"{path.stem}: {wrong} in “{text}”" for text in texts for wrong in wrong_words(text)]
    assert not found, "\n".join(found)


GUIDE = ["README.md", *sorted(f"docs/{p.name}" for p in (ROOT / "docs").glob("*.md"))]
FOR_DEVELOPERS = ("docs/house.md", "docs/reliability.md", "docs/truth.md", "docs/coverage.md")


@pytest.mark.parametrize("name", [n for n in GUIDE if n not in FOR_DEVELOPERS])
def test_the_guide_speaks_plainly(name: str) -> None:
    """The README and the pages of the guide, code apart."""
    text = (ROOT / name).read_text(encoding="utf-8")
    text = re.sub(r"```.*?```|^    [^\n]*$", "", text, flags=re.DOTALL | re.MULTILINE)
    text = re.sub(r"\s+", " ", re.sub(r"`[^`]*`", "", text))
    assert not wrong_words(text)
