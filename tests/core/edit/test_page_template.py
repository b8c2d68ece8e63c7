"""Wishes for a new page that cannot be met are told in a sentence."""

from dataclasses import replace

import pytest

from redcrate.core.edit.page_template import Frame, WrapperKind, frame_problem

PROBLEMS = [
    # what is wished, part of the sentence; "" for none
    ({}, ""), ({"wrapper_width": 0}, "more than 0"), ({"wrapper": WrapperKind.SHARE, "wrapper_width": 101}, "at most 100"),
    ({"wrapper": WrapperKind.SHARE, "wrapper_width": 100}, ""), ({"columns": 0}, "1 to 12"), ({"columns": 13}, "1 to 12"),
    ({"columns": 12}, ""), ({"footer_parts": 13}, "12 footer parts"), ({"footer_parts": 0}, ""), ({"gap": -1}, "negative"),
    ({"aside_share": 4}, "5 to 80"), ({"aside_share": 81}, "5 to 80"), ({"aside_share": 80}, ""),
    ({"wrapper": WrapperKind.SHARE, "wrapper_width": 50, "columns": 4, "gap": 20}, ""),
]  # fmt: skip


@pytest.mark.parametrize(("wished", "part"), PROBLEMS)
def test_problems(wished: dict[str, object], part: str) -> None:
    """The sentence names the limit; a gap in px is no share of the window."""
    found = frame_problem(replace(Frame(), **wished))  # type: ignore[arg-type]
    assert (part in found) if part else not found


def test_gaps_that_are_wider_than_the_wrapper() -> None:
    """Three gaps between four columns."""
    frame = replace(
        Frame(), wrapper=next(w for w in WrapperKind if w is not WrapperKind.SHARE), columns=4
    )
    assert frame_problem(replace(frame, wrapper_width=61, gap=20)) == ""
    assert "gaps alone" in frame_problem(replace(frame, wrapper_width=60, gap=20))
