"""Notices as people read them: many of one kind in one line, the others as they are."""

from redcrate.core.notices import Notice, NoticeKind, told
from tests.conftest import PageOf


def test_what_is_for_other_browsers_is_one_line(page_of: PageOf) -> None:
    """With the prefixes; a slip of the pen between them keeps its own line; the page's list keeps all."""
    css = "a::-moz-x{x:y} p{margn:1px} b::-ms-y{x:y} i{width:-moz-foo}"
    page = page_of("<p>x", css)
    lines = [n.sentence for n in told(page.notices)]
    assert lines == [
        "Ignored: 3 rules and declarations for other browsers only (-moz-, -ms-).",
        "Ignored: there is no property margn.",
    ]
    assert len(page.notices) == 4


def test_one_alone_is_told_as_it_is(page_of: PageOf) -> None:
    """A line of its own says more than a count."""
    (notice,) = told(page_of("<p>x", "a::-moz-x{x:y}").notices)
    assert "a::-moz-x" in notice.sentence and notice.line


def test_what_is_on_a_network_is_named_once() -> None:
    """The first four, how many more, and what would help."""
    far = [Notice(NoticeKind.REMOTE_NOT_LOADED, "x", "p.html", n, about=f"{n}.css") for n in range(6)]
    (line,) = told(far)
    assert line.sentence == (
        "6 files on a network are not loaded: 0.css, 1.css, 2.css, 3.css and 2 more. "
        "Save copies beside the page to use them."
    )
