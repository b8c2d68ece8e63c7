"""Where padding or border alone change, what is inside is moved, and stands as if it were laid out there."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.layout import block_container
from redcrate.core.layout.contexts import Content
from redcrate.core.layout.moved_content import moved_content
from redcrate.core.session import Session
from tests.snapshot import page_snapshot
from tests.trying import full

HTML = """<!doctype html><style>#b {{ {css} }}</style><style>{more}</style><body><main id=m><div id=b>
<p id=p><i>leek</i></p><div id=f style="float:left;width:70%;height:29px"></div>
<div id=g style="float:left;width:60%;height:29px"></div><div id=q>beside</div>
<div id=r style="position:relative;left:2px;top:3px;clear:left">moved</div><p>deep</p></div>
<div id=x>after</div></main>"""
CLAMPED = "display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2"


@pytest.mark.parametrize(
    ("css", "more", "moves"),
    [
        ("overflow: hidden; width: 200px", "", True),
        ("overflow: hidden; width: 200px; min-height: 300px", "", True),
        ("float: right; width: 200px", "", True),
        ("display: inline-block; width: 200px", "", True),
        ("width: 200px; flex: none", "#m { display: flex; height: 400px }", None),
        ("width: 200px; flex: none", "#m { display: flex; align-items: baseline }", True),
        ("display: flow-root; height: 300px; width: 200px", "#q { height: 50% }", False),
        ("display: flow-root; height: 300px; box-sizing: border-box; width: 200px", "", None),
        ("display: flow-root; height: 300px; width: 200px", "", True),
        ("position: absolute; top: 3px; bottom: 40px; width: 200px", "", None),
        ("position: relative; overflow: hidden; width: 200px", "#f { position: absolute }", False),
        ("overflow: hidden; width: 200px", "#f { position: absolute }", False),
        ("overflow: hidden; width: 200px; contain: size", "", False),
        ("overflow: hidden; width: 200px; direction: rtl", "", True),
        (f"{CLAMPED}; width: 200px", "", False),
        ("overflow: hidden; width: 200px; aspect-ratio: 2", "", False),
        ("overflow: hidden", "", None),
        ("width: 200px", "", False),
    ],
)
def test_other_edges(
    tmp_path: Path, css: str, more: str, moves: bool | None, monkeypatch: pytest.MonkeyPatch
) -> None:
    """One after another, each held against a fresh page; moves: True where nothing is laid out anew inside."""
    path = tmp_path / "page.html"
    path.write_text(HTML.format(css=css, more=more), encoding="utf-8")
    session = Session(path, 500)
    moved: list[Content | None] = []
    take = moved_content
    monkeypatch.setattr(block_container, "moved_content", lambda *a: moved.append(take(*a)) or moved[-1])
    edges = [
        "padding: 9px 4px 1px 7px",
        "border: 3px solid",
        "padding-left: 2px",
        "padding-left: 2px; padding-right: 1px",
        "padding-top: 8px",
        "",
    ]
    trimmed = ["margin-trim: block", "margin-trim: block; padding: 6px"]
    inner = [
        "",
        "padding: 1px } #q { padding: 1px",
        "} #p { overflow: hidden; padding: 3px 0",
        "} #p { overflow: hidden; padding: 4px 0",
    ]
    for extra in (*edges, *trimmed, *inner):
        name = session.document.html_name
        text = session.document.text(name).text
        start, end = text.index("#b {") + 4, text.index("}</style>")
        moved.clear()
        session.editor.apply(Patch((TextEdit(name, start, end, f" {css}; {extra}"),), "other edges"))
        is_moved = any(content is not None for content in moved)
        assert extra not in edges[:-1] or moves is None or is_moved == moves, extra
        assert page_snapshot(session.views.page) == page_snapshot(full(session)), extra
