"""Two versions of one file: what differs, line by line, and both changes in one where they do not meet."""

from difflib import SequenceMatcher, unified_diff

_Change = tuple[int, int, list[str]]  # lines [start, end) of the base become these


def differing_lines(old: str, new: str, old_name: str, new_name: str, most: int = 400) -> list[str]:
    """The lines that differ, with three around them; at most `most`."""
    lines = unified_diff(old.splitlines(), new.splitlines(), old_name, new_name, lineterm="")
    found = []
    for line in lines:
        found.append(line)
        if len(found) == most:
            found.append("…")
            break
    return found


def merged(base: str, mine: str, theirs: str) -> str | None:
    """Both changes of `base` in one text; None where they touch the same lines."""
    lines = base.splitlines(keepends=True)
    both = [(c, 0) for c in _changes(lines, mine)] + [(c, 1) for c in _changes(lines, theirs)]
    out: list[str] = []
    at = 0
    last: tuple[_Change, int] | None = None
    for change, whose in sorted(both, key=lambda c: (c[0][0], c[0][1], c[1])):
        start, end, new = change
        if last is not None and last[1] != whose:
            if last[0] == change:
                continue
            if start < last[0][1] or start == last[0][0] or start == last[0][1] == end:
                return None
        out += [*lines[at:start], *new]
        at = max(at, end)
        last = (change, whose)
    return "".join([*out, *lines[at:]])


def _changes(base: list[str], text: str) -> list[_Change]:
    new = text.splitlines(keepends=True)
    matcher = SequenceMatcher(None, base, new, autojunk=False)
    return [(a, b, new[c:d]) for tag, a, b, c, d in matcher.get_opcodes() if tag != "equal"]
