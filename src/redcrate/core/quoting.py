"""Texts of a page in sentences of ours: in one line, and cut between two words where they are long."""

_USUAL = 60  # characters


def quoted(text: str, most: int = _USUAL) -> str:
    """A text in one line; of one longer than `most` characters the first words, and an ellipsis."""
    line = " ".join(text.split())
    if len(line) <= most:
        return line
    head = line[: most - 1]
    at_word = head if line[most - 1] == " " else head.rpartition(" ")[0]
    return f"{at_word.rstrip(' ,;') or head} …" if at_word else f"{head}…"
