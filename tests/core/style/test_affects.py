"""What a property says that it affects is true, and a new one is right before anything is fast with it."""

import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
import tinycss2

import redcrate
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.session import Session
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.properties import PROPERTIES
from redcrate.core.style.property import Affects
from tests.snapshot import page_snapshot
from tests.trying import full

VALUES = """7px|12%|40%|3|0|auto|none|left|right|center|end|hidden|collapse|flex|flow-root|list-item|relative|absolute
border-box|rtl|dashed|solid|red|url(x.png)|16/9|layout|block-start|both|vertical|top|bottom|2em|bold|italic|'a'|justify|normal
uppercase|pre|nowrap|break-all|anywhere|loose|inside|decimal|fixed|column|wrap-reverse|stretch|small-caps|clone|menulist|cover
7px 9px|all|ellipsis|circle(4px)|blur(3px)|multiply|isolate|pixelated|scale(2)|9deg|minmax(20px, 1fr) 60px|a 2|'a b'|counter(a) 'x'|'<' '>'|2|1px 2px red|1.5 2|dense|span 2|'kern' 0
underline|double|linear-gradient(red, blue)|no-repeat|padding-box|contain|inter-word|first|hide|inline-block|luminance|subtract|under|30 fill|space|tabular-nums|balance"""
PAGE = """<!doctype html><style>i { display: inline-block } .x {}</style><body>
<div class=x><p class=x>tide and <b class=x>kale</b> marram, far-away reeds</p><p>sea</p></div>
<div class=x style="display:flex"><u class=x>one</u><u>two</u></div>
<div class=x style="display:grid;grid-template-columns:1fr 1fr"><u class=x>one</u><u>two</u></div>
<table class=x><tr><td class=x>cell<td>other</table>
<ol><li class=x>item<li>next</ol><p><img class=x alt=x width=20 height=10><i class=x>in</i> text</p>
<section class=x><h2>one</h2><em style="position:absolute;right:0">e</em><h3>two</h3></section>
<section class=x style="overflow:hidden"><h2>in a context of its own</h2><em style="position:absolute;right:0;top:0">e</em></section>"""


def other_values(name: str) -> list[str]:
    """Values of a property that are not its initial one."""
    found: dict[str, str] = {}
    prop = PROPERTIES[name]
    for text in VALUES.replace("\n", "|").split("|"):
        value = parse_declaration(name, tinycss2.parse_component_value_list(text))
        if value is not None and value.get(name) not in (None, prop.initial):
            found.setdefault(repr(value[name]), text)
    return list(found.values())


def some_at_once() -> Iterator[str]:
    """All properties with values, a few at a time that affect the same: none of them hides what another says."""
    for affects in dict.fromkeys(p.affects for p in PROPERTIES.values()):
        alike = {n: other_values(n) for n, p in PROPERTIES.items() if p.affects is affects}
        assert all(alike.values()), f"no value for one of {alike}"
        names = list(alike)
        for first in range(0, len(names), 5):
            for way in (0.5, 1):
                yield "; ".join(
                    f"{n}: {alike[n][int(way * (len(alike[n]) - 1))]}" for n in names[first : first + 5]
                )


def test_properties_affect_no_more_than_they_say(tmp_path: Path) -> None:
    """Set and taken away again on boxes of all kinds, what is worked out from before is what a full pass gives."""
    path = tmp_path / "page.html"
    path.write_text(PAGE, encoding="utf-8")
    session = Session(path, 400)
    at = end = PAGE.index(".x {") + 4
    for new in some_at_once():
        session.editor.apply(Patch((TextEdit("page.html", at, end, new),), "values"))
        end = at + len(new)
        assert page_snapshot(session.views.page) == page_snapshot(full(session)), new


# In a copy of the package with five more rows in the table, and nothing else of them anywhere: which short ways are taken.
ASK = """
import sys
from pathlib import Path
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.session import Session
from redcrate.core.boxes import generation
from redcrate.core.layout import block_container
from redcrate.core.layout.kept_lines import can_be_kept
moved, asked_for = [], []
content_of, boxes_of = block_container.moved_content, generation._Generation._boxes_of
def moving(*given):
    found = content_of(*given)
    moved.append(found is not None)
    return found
def generating(self, element):
    asked_for.append(element.id)
    return boxes_of(self, element)
block_container.moved_content, generation._Generation._boxes_of = moving, generating
def of(ident):
    page = session.views.page
    return page.boxes.generated[next(e for e in page.elements if e.id == ident)][0]
def edit(old, new):
    text = session.document.text("page.html").text
    at = text.index(old)
    moved.clear(), asked_for.clear()
    session.editor.apply(Patch((TextEdit("page.html", at, at + len(old), new),), "an edit"))
for name in sys.argv[2:]:
    session = Session(Path(sys.argv[1]), 400)
    edit("#a {}", f"#a {{ {name}: 10% }}")
    said = ["same boxes" if of("a").stands_for is not None else "boxes anew"]
    said.append("moved" if any(moved) else "laid out")
    said.append("others asked for" if "beside" in asked_for else "others left")
    edit("#p {}", f"#p, #p b {{ {name}: 10% }}")
    page, box = session.views.page, of("p")
    content = page.layouts.inline_content(box)
    said.append("plain" if content.may_be_plain else "not plain")
    said.append("text plain" if all(i.is_plain for i in content.items if i.run) else "text not plain")
    said.append("kept" if can_be_kept(box, content) else "not kept")
    print(", ".join(said))
"""
ALL_SHORT = "same boxes, moved, others left, plain, text plain, kept"
TAKEN = {
    "BOXES": "boxes anew, laid out, others asked for, plain, text plain, kept",
    "LINES": "boxes anew, laid out, others left, not plain, text not plain, not kept",
    "INSIDE": "boxes anew, laid out, others left, plain, text plain, kept",
    "ROOM": ALL_SHORT.removesuffix("kept") + "not kept",
    "PAINT": ALL_SHORT,
}


@pytest.fixture
def with_five_more(tmp_path: Path) -> Path:
    """A copy of the package whose table has a property for each thing that there is to affect."""
    assert TAKEN.keys() == {a.name for a in Affects}
    place = tmp_path
    shutil.copytree(
        Path(redcrate.__file__).parent,
        place / "redcrate",
        ignore=shutil.ignore_patterns("app", "__pycache__"),
    )
    table = place / "redcrate/core/style/computed.py"
    rows = "".join(
        f"    made_up_{n.lower()}: LengthValue = field(metadata=row(ZERO_PX, pp.length(), {n}))\n"
        for n in TAKEN
    )
    text = table.read_text(encoding="utf-8")
    table.write_text(
        text.replace("    color: Colour =", rows + "    color: Colour =", 1), encoding="utf-8"
    )
    (place / "page.html").write_text(
        "<!doctype html><style>#a {} #p {}</style><body><main><div id=a style='overflow:hidden'><h2>x</h2></div>"
        "<div id=beside><p>y</p></div></main><p id=p>tide <b>and</b> kale</p>",
        encoding="utf-8",
    )
    return place


def test_a_new_property_makes_all_short_ways_give_way(with_five_more: Path) -> None:
    """Its row alone decides: what it affects is worked out afresh, and nothing else is."""
    names = [f"made-up-{affects.lower()}" for affects in TAKEN]
    found = subprocess.run(
        [sys.executable, "-c", ASK, str(with_five_more / "page.html"), *names],
        cwd=with_five_more,
        env={"PYTHONPATH": str(with_five_more)},
        capture_output=True,
        text=True,
        check=False,
    )
    assert found.stdout.splitlines() == list(TAKEN.values()), found.stderr[-2000:]
