"""A sheet that is read again after an edit is the one that a fresh reading gives, and only the edited rule is read."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import fields
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.markup.source_text import SourceText
from redcrate.core.session import Session
from redcrate.core.style import sheet_reading
from redcrate.core.style.sheet_again import sheet_again
from redcrate.core.style.sheet_reading import SheetReader, parse_sheet
from redcrate.core.style.sheets import Declaration, Sheet, StyleRule
from redcrate.core.style.window_ranges import WindowRange
from tests.conftest import by_id

PIECES = (
    "a { margin: 1px }\n", ".b, .c { color: red; widht: 3px }", "/* a { */ ", "\r\n", "p { q { top: 1px } left: 2px }\n",
    "@media (max-width: 600px) { .d { padding: 2px } }\n", "@media print { a { top: 1px; @media all { a { top: 2px } } } }",
    "@layer base { e { top: 4px } }\n", "@layer x, y;", "@layer { f { top: 5px } }", "}", "{", "(", "]", '"', "'", "\\",
    "@font-face { font-family: F; src: url(f.woff) }\n", "g[h='}'] { width: calc(1px + (2px)) }", ";", ":", "1", "px", "a",
    "@import 'x.css';", "<!--", "i::before { content: '{' }", "j { width: 5 }", "*/", "@scope (k) { l { top: 1px } }",
)  # fmt: skip

HEADS = (
    "a:not(.b,.c) { top: 1px }", ".a:nth-child(2n+1)>b::before{content:'}'}", "[a='x']+*{left:url(})}", ".a.b #c,\n.d{;;top:1px}",
    "@supports (top: 1px) { .n { top: 1px } .m { .o { top: 2px } } }", ".t { background: url('a{.png') } ", "q:has(a){top:1px}",
    "@container (width > 2px) { .r { top: 1px; colour: red } s { widht: 2px } }", ".v { --w: { a } ; top: 1px }", ".x{top:attr(y)}",
    ".é { top: 1px }", ".md\\:w { top: 1px }", "::selection { top: 1px }", ".z { top: 1px !important }", "w { top: (1px }", "url(",
)  # fmt: skip
SHARED = Path(__file__).parents[3].parent / "shared"
NONE_HERE = pytest.param(
    None, marks=pytest.mark.skip(reason="the shared pages are not beside the project")
)


def _size(path: Path) -> int:
    return path.stat().st_size if path.is_file() else 0


def told(item: Any) -> Any:
    """All that a sheet holds, to compare."""
    if isinstance(item, Declaration):
        return [item.name, item.text, item.important, item.line, item.offset, id(item.longhands)]
    if isinstance(item, StyleRule):
        text = item.selector_text.replace("'", '"')  # which a parser writes in its own way
        places = [text, item.file, item.line, item.start, item.layer, item.attributes]
        return [*places, told(item.media), told(item.selectors), told(item.declarations)]
    if isinstance(item, Sheet):
        parts = [(p.start, p.rules, p.layers, p.font_faces, p.media_rules) for p in item.parts]
        lists = (item.rules, item.notices, item.font_faces, item.media_rules, item.layers)
        return [
            *map(told, lists),
            parts,
            item.source.text,
            item.first_offset,
            item.first_line,
            item.imports,
        ]
    if hasattr(item, "__dataclass_fields__") and not isinstance(item, WindowRange):
        return [told(getattr(item, f.name)) for f in fields(item)]
    if isinstance(item, tuple):
        return [told(i) for i in item]
    return item if isinstance(item, int | str | frozenset | bytes) else repr(item)[:40]


def both(
    before: str, after: str, shift: str = "", *, quirks: bool = False
) -> tuple[Sheet | None, Sheet]:
    """The sheet read again and the fresh one, in a page in which it moved by `shift`."""
    whole, text = SourceText("page", f"<style>{before}"), SourceText("page", before)
    first = parse_sheet(text, first_offset=7, whole=whole, quirks=quirks)
    whole, text = SourceText("page", f"<style>{shift}{after}"), SourceText("page", after)
    at = 7 + len(shift)
    again = sheet_again(first, text, first_offset=at, whole=whole, quirks=quirks)
    return again, parse_sheet(text, first_offset=at, whole=whole, quirks=quirks)


@contextmanager
def large_from(characters: int) -> Iterator[None]:
    """Of sheets that are so long the style rules are read when they are asked for."""
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(sheet_reading, "_LARGE", characters)
        yield


@given(st.lists(st.sampled_from((*PIECES, *HEADS)), max_size=10).map("".join), st.booleans())
def test_read_later_is_what_is_read_at_once(text: str, quirks: bool) -> None:
    """Rules that are cut out of a sheet's text without a parser say the same, at the same places."""
    sheets = []
    for characters in (0, 10**9):
        with large_from(characters):
            sheets.append(parse_sheet(SourceText("page.css", text), quirks=quirks))
    assert told(sheets[0]) == told(sheets[1])


@pytest.mark.parametrize("path", sorted(SHARED.glob("*/*/**/*.css"), key=_size)[-60::6] or [NONE_HERE])
def test_sheets_of_real_pages_are_read_the_same_later(path: Path) -> None:
    """Frameworks: nearly all rules are read later."""
    text = path.read_text(encoding="utf-8", errors="replace")
    later = parse_sheet(SourceText("a.css", text))
    with large_from(10**9):
        at_once = parse_sheet(SourceText("a.css", text))
    assert sum(r.unread is not None for r in later.rules) > 0.7 * len(later.rules)
    assert told(later) == told(at_once)


def test_only_what_can_match_is_read(tmp_path: Path) -> None:
    """Of a large sheet a page reads the rules whose classes, ids and tags it has; notices are of all of them."""
    rules = "".join(
        f".c{n} > b.in:hover {{ widht: {n}px }} .d{n}, #e{n} {{ top: 1px }}\n" for n in range(400)
    )
    rules += (
        ".in:not(.gone:nth-child(9)):not(.away)[title~='.lost'] { left: 2px } .in .gone { left: 3px }"
    )
    (tmp_path / "a.css").write_text(rules, encoding="utf-8")
    html = "<!doctype html><link rel=stylesheet href=a.css><p class=c7><b class=in title=.lost>x</b><i id=e9></i>"
    (tmp_path / "page.html").write_text(html, encoding="utf-8")
    session = Session(tmp_path / "page.html")
    page = session.views.page
    (sheet,) = page.source.sheets
    assert [r.selector_text for r in sheet.rules if r._body is not None] == [
        ".c7 > b.in:hover",
        ".d9, #e9",
        ".in:not(.gone:nth-child(9)):not(.away)[title~='.lost']",
    ]
    assert page.style_of(by_id(page, "e9")).top.resolve_px(0.0) == 1.0
    session.editor.apply(
        Patch((TextEdit("page.html", html.index("c7"), html.index("c7") + 2, "d8"),), "an edit")
    )
    page = session.views.page
    assert page.style_of(page.source.markup.listed[2]).top.resolve_px(0.0) == 1.0
    (sheet,) = page.source.sheets
    assert sum(r._body is not None for r in sheet.rules) == 4
    faults = [n.line for n in page.notices if "widht" in n.sentence]
    assert faults == list(range(1, 401))


@given(
    st.lists(st.sampled_from(PIECES), max_size=8).map("".join),
    st.integers(0, 200),
    st.integers(0, 12),
    st.sampled_from(("", *PIECES)),
    st.sampled_from(("", "x", "x\n")),
    st.booleans(),
)
def test_as_a_fresh_reading(
    before: str, at: int, length: int, put: str, shift: str, later: bool
) -> None:
    """Whatever stands in a sheet, and wherever it is edited; also where rules are read when they are asked for."""
    at = min(at, len(before))
    after = before[:at] + put + before[at + length :]
    with large_from(0 if later else 10**9):
        again, _ = both(before, after, shift)
    _, fresh = both(before, after, shift)
    if again is not None:
        assert told(again) == told(fresh)
    assert again is None or not fresh.imports


SHEET = """.a { margin: 1px; colour: red }
@media (max-width: 600px) { .b { padding: 2px } .c { padding: 3px } }
.d { top: 1px; width: 5 } .e { left: 1px }"""


@pytest.mark.parametrize(
    ("old", "new", "read"),
    [
        ("margin: 1px", "margin: 12px", [".a"]),
        ("padding: 2px", "padding:\n20px", [".b", ".c"]),
        ("top: 1px; width: 5 }", "top: 2px }\n.f { bottom: 0 }", [".d", ".f"]),
        ("left: 1px }", "left: 2px }", [".e"]),
        (".d { top: 1px; width: 5 }", "", None),
        (".d {", ".d, .g {", [".d, .g"]),
        ("left: 1px }", "left: 2px", None),
        ("width: 5 }", "width: 5", None),
        ("width: 5 }", "width: 5 } /", None),
        (".a {", "a {", None),
        ("padding: 3px } }", "padding: 3px }", None),
        ("red }\n", "red }\n.x { top: 1px }\n", [".a", ".x"]),
        ("red }\n", "red }\n@IMPORT 'x.css';\n", None),
        ("", "", []),
    ],
)
def test_what_is_read(
    old: str, new: str, read: list[str] | None, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The rules that are read; None where the whole sheet is, as the edit may concern what follows."""
    after = SHEET.replace(old, new)
    rules: list[str] = []
    reads = SheetReader.made_rule
    again, fresh = both(SHEET, after, "\n")
    with monkeypatch.context() as patched:

        def made_rule(*args: Any) -> Any:
            rules.append(args[2].text)
            return reads(*args)

        patched.setattr(SheetReader, "made_rule", made_rule)
        both(SHEET, after, "\n")
    whole = [rule.selector_text for rule in parse_sheet(SourceText("", SHEET)).rules]
    number = len(rules) - len(whole) - len(fresh.rules)
    assert (again is None) == (read is None)
    assert read is None or rules[len(whole) : len(whole) + number] == read
    assert told(fresh if again is None else again) == told(fresh)


@pytest.mark.parametrize(
    ("before", "after"),
    [
        ("a { margin: 1px } b { top: 2px", "a { margin: 1px } b { top: 2px }"),
        ("@layer { f { top: 5px } } a { top: 1px }", "@layer { f { top: 5px } } a { top: 2px }"),
        ("a { top: 1px } b { top: 2px }", "a { width: url({) } b { top: 2px }"),
        ("a { top: 1px } b { top: 2px }", "a { top: 1px } c { top: 2px }"),
        ("a { top: 1 } b { top: 2px }", "a { top: 2 } b { top: 2px }"),
    ],
)
def test_what_reaches_further(before: str, after: str) -> None:
    """An edit that concerns more than its rule, or a rule that hangs on position, in quirks mode too."""
    for quirks in (False, True):
        again, fresh = both(before, after, "x\n", quirks=quirks)
        assert told(fresh if again is None else again) == told(fresh)


def test_kept_where_nothing_changed() -> None:
    """The same text in the same place is the same sheet; on another line it is not."""
    first = parse_sheet(
        SourceText("page", SHEET), first_offset=8, whole=SourceText("page", f"<style> {SHEET}")
    )
    same = {"first_offset": 8, "whole": SourceText("page", f"<style> {SHEET}")}
    assert sheet_again(first, SourceText("page", SHEET), **same) is first  # type: ignore[arg-type]
    lower = sheet_again(
        first,
        SourceText("page", SHEET),
        first_offset=8,
        whole=SourceText("page", f"<style>\n{SHEET}"),
    )
    assert lower is not None and [r.line for r in lower.rules] == [r.line + 1 for r in first.rules]
    assert sheet_again(first, SourceText("other", SHEET)) is None


def test_a_sheet_that_imports_is_read_anew(tmp_path: Path) -> None:
    """However it is written: what it imports may be another text while its own stays as it is."""
    (tmp_path / "a.css").write_text("@Import 'b.css';\nq { top: 1px }", encoding="utf-8")
    (tmp_path / "b.css").write_text("p { width: 90px }", encoding="utf-8")
    html = "<!doctype html><link rel=stylesheet href=a.css><p id=p>"
    (tmp_path / "page.html").write_text(html, encoding="utf-8")
    session = Session(tmp_path / "page.html")
    for patch, width in ((("b.css", 11, 13, "70"), 70.0), (("a.css", 17, 18, "p"), 70.0)):
        session.editor.apply(Patch((TextEdit(*patch),), "an edit"))
        page = session.views.page
        assert page.style_of(by_id(page, "p")).width.resolve_px(0.0) == width
    lines = [(r.file, r.line) for s in session.document.assembled.page.sheets for r in s.rules]
    assert lines == [("b.css", 1), ("a.css", 2)]
