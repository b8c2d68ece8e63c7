"""An edit of room makes no box anew, and what makes other boxes is never taken for one."""

from pathlib import Path

import pytest

from redcrate.core.boxes import generation
from redcrate.core.boxes.wrapping import block_container
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.session import Session
from tests.snapshot import page_snapshot
from tests.trying import full

HTML = """<!doctype html><style>#x {}</style><body><main id=m><section id=s><h2 id=h>Plot</h2><p id=p>kale</p></section>
<section id=n><p>beside</p></section></main>
<div id=t>words <i>and</i> more</div><ul id=u><li id=l>one</li></ul><div id=e></div>"""


@pytest.mark.parametrize(
    ("rule", "again"),
    [
        ("#s { padding: 9px }", True),
        ("#s { margin: 3% auto; border: 2px solid }", True),
        ("#e { padding: 9px }", True),
        ("#s { padding: 9px } #m { margin: 4px }", True),
        ("#s, #n { border-left: 9px dotted }", True),
        ("#s { padding: 9px; display: flex }", False),
        ("#s { padding: 9px; float: left }", False),
        ("#s { padding: 9px; height: 50% }", False),
        ("#s { padding: 9px } #h { display: none }", False),
        ("#s { padding: 9px } #h { float: left }", False),
        ("#s { padding: 9px } #s::before { content: 'x' }", False),
        ("#s { padding: 9px } #s::first-line { color: red }", False),
        ("#s { padding: 9px; overflow: hidden }", False),
        ("#t { padding: 9px }", False),
        ("#l { padding: 9px }", False),
        ("body { padding: 9px }", False),
    ],
)
def test_an_edit_of_room(
    tmp_path: Path, rule: str, again: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """There and back and elsewhere: the boxes are those of a fresh page; made anew only where they may be others."""
    path = tmp_path / "page.html"
    path.write_text(HTML, encoding="utf-8")
    session = Session(path)
    made: list[object] = []
    makes = block_container
    monkeypatch.setattr(
        generation, "block_container", lambda *a, **k: made.append(a[1]) or makes(*a, **k)
    )
    for css in (rule, "#x {}", "#s { padding: 1px }", rule):
        name = session.document.html_name
        text = session.document.text(name).text
        start, end = text.index("<style>") + 7, text.index("</style>")
        made.clear()
        session.editor.apply(Patch((TextEdit(name, start, end, css),), "another rule"))
        if css == rule:
            changed = [e for e in session.views.page.elements if f"#{e.id or e.tag} " in f"#{rule}"]
            changed += [e for e in session.views.page.elements if again and e.id == "m"]
            assert len(changed) > again and again == (not set(made) & set(changed))
        fresh = full(session)
        assert page_snapshot(session.views.page) == page_snapshot(fresh)
