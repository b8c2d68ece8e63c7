"""The HTML report: one file, whole without a network, every link leads somewhere, numbers as in the report."""

import re
from html.parser import HTMLParser
from pathlib import Path

from click.testing import CliRunner

from redcrate.cli.commands import commands
from redcrate.core.findings.at_widths import held_at
from redcrate.core.findings.register import findings_of
from redcrate.core.handout import ReportOptions, html_report
from redcrate.core.units import format_px
from tests.conftest import DEMO, PageOf, by_id, load


class _Read(HTMLParser):
    """Collects the tags with their attributes, and the text."""

    def __init__(self, text: str) -> None:
        super().__init__()
        self.tags: list[tuple[str, dict[str, str | None]]] = []
        self.texts: list[str] = []
        self.feed(text)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, dict(attrs)))

    def handle_data(self, data: str) -> None:
        self.texts.append(data)


def test_the_demo_as_one_file(tmp_path: Path) -> None:
    """Plan, a section for each box with diagram, sums and reasons; nothing is fetched; links and ids fit."""
    target = tmp_path / "report.html"
    result = CliRunner().invoke(commands, ["draw", str(DEMO), "--width", "1100", "-o", str(target)])
    assert result.exit_code == 0, result.output
    read, page = _Read(target.read_text(encoding="utf-8")), load(DEMO, 1100, 800)
    ids = [a["id"] for _, a in read.tags if "id" in a]
    assert len(ids) == len(set(ids))
    links = [a.get("href") or "" for t, a in read.tags if t == "a"]
    assert links and all(link.startswith("#") and link[1:] in ids for link in links)
    names = {t for t, _ in read.tags}
    assert not names & {"script", "link", "img", "iframe", "object"}
    assert not any(re.search(r"url\((?!#)", v or "") for _, a in read.tags for v in a.values())
    shown = [e for e in page.elements if (b := page.box_of(e)) is not None and (b.box or b.pieces)]
    sections = [a["id"] for t, a in read.tags if t == "section"]
    assert sections == [f"element-{e.index}" for e in shown]
    text = "".join(read.texts)
    for element in shown:
        box = page.box_of(element)
        assert box is not None and format_px(box.fragments[0].width) in text
    assert "across: 28 left margin + 2 left border + 36 left padding + 560 content" in text
    assert "width: 560px." in text and "· at 390 px" in text
    assert all(f"#element-{e.index}" in links for e in shown)


def test_findings_stand_in_the_list_and_at_their_elements(page_of: PageOf) -> None:
    """With their widths, causes and links; what is written is escaped; elements that were not asked for have no link."""
    page = page_of(
        "<div id=w><p id='a&quot;&lt;b'>x</p></div><i id=z>y</i>",
        "#w { width: 300px } p { width: 400px; padding: 7px }",
    )
    found = held_at({1000: findings_of(page, {})})
    box = next(e for e in page.elements if e.tag == "p")
    text = html_report(page, "<name>", [box], found, ReportOptions(depth=1))
    read = _Read(text)
    assert "<name>" in "".join(read.texts) and "&lt;name&gt;" in text
    sections = [a for t, a in read.tags if t == "section"]
    assert [a["id"] for a in sections] == [f"element-{box.index}"]
    sentence = next(h.finding.sentence for h in found if box in h.finding.elements)
    assert "".join(read.texts).count(sentence) == 2 and "· at 1000 px" in text
    assert f'href="#element-{box.index}"' in text
    assert f'href="#element-{by_id(page, "w").index}"' not in text
    assert "1 level inside" in text
    around = by_id(page, "w")
    text = html_report(page, "x", [around], found)
    assert "".join(_Read(text).texts).count(sentence) == 1, "it stands in the list alone"
    assert box.label in "".join(_Read(text).texts) and f'href="#element-{box.index}"' not in text
