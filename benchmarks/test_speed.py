"""Speed of the core: `.venv/bin/python -m pytest benchmarks` (`--keep` keeps the figures).

Pages come from make_page.py. Cold passes use no kept results; warm text is shaped already.
"""

import random
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from redcrate.core.boxes.generation import generate_boxes
from redcrate.core.diagram.box_diagram import box_diagram
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.files.loading import assemble, read_page
from redcrate.core.files.resources import Resources
from redcrate.core.layout.engine import layout_page
from redcrate.core.page import Page, compute_page
from redcrate.core.session import Session
from redcrate.core.style.media import Viewport
from redcrate.core.style.styling import style_tree
from redcrate.core.text.fonts import measure_font
from redcrate.core.text.shaping import shape

sys.path.insert(0, str(Path(__file__).parent))
from make_page import WORDS
from make_page import page as page_text

VIEWPORT = Viewport(1100, 800)
Bench = Callable[..., Any]


def write_page(folder: Path, count: int) -> Path:
    """A benchmark page of about `count` elements on disk."""
    path = folder / "page.html"
    path.write_text(page_text(count), encoding="utf-8")
    return path


def full(path: Path) -> Page:
    """From bytes to geometry."""
    return compute_page(assemble(read_page(path).source, Resources(path)).page, VIEWPORT)


@pytest.mark.parametrize("count", [100, 1000, 10000])
def test_full(benchmark: Bench, tmp_path: Path, count: int) -> None:
    """From source to geometry."""
    path = write_page(tmp_path, count)
    rounds = 2 if count > 1000 else 5
    page = benchmark.pedantic(full, (path,), rounds=rounds, warmup_rounds=1)  # type: ignore[attr-defined]
    assert len(page.elements) >= count


@pytest.mark.parametrize("count", [100, 1000, 10000])
def test_layout_alone(benchmark: Bench, tmp_path: Path, count: int) -> None:
    """Boxes to fragments, no kept layouts; text shaped before."""
    page = full(write_page(tmp_path, count))
    source = page.source

    def fresh() -> tuple[tuple[Any, ...], dict[str, Any]]:
        styled = style_tree(
            source.markup, source.sheets, source.inline_rules, VIEWPORT, measure=measure_font
        )
        return (generate_boxes(styled, source.image_size).root, 1100 * 64, 800 * 64), {}

    rounds = 2 if count > 1000 else 5
    benchmark.pedantic(layout_page, setup=fresh, rounds=rounds, warmup_rounds=1)  # type: ignore[attr-defined]


@pytest.mark.parametrize("count", [100, 1000, 10000])
def test_one_value_changed(benchmark: Bench, tmp_path: Path, count: int) -> None:
    """A typed padding of one card → the geometry of the whole page."""
    path = write_page(tmp_path, count)
    session = Session(path, 1100)
    card = next(e for e in session.views.page.elements if e.id == "c2")
    rng = random.Random(1)

    def edit() -> None:
        value = str(rng.randint(5, 30))
        session.editor.apply(session.editor.plan(card_now(), "padding", ("top",), value).patch)

    def card_now() -> Any:
        return session.views.page.elements[card.index]

    benchmark.pedantic(edit, rounds=6, warmup_rounds=1)  # type: ignore[attr-defined]


@pytest.mark.parametrize("count", [1000, 10000])
def test_one_element_changed(benchmark: Bench, tmp_path: Path, count: int) -> None:
    """The same into the card's own style, which touches that card alone."""
    session = Session(write_page(tmp_path, count), 1100)
    card = next(e for e in session.views.page.elements if e.id == "c2")
    session.views.select(card)
    session.editor.set_writes_to("style attribute")
    rng = random.Random(1)

    def edit() -> None:
        element = session.views.page.elements[card.index]
        session.editor.apply(
            session.editor.plan(element, "padding", ("top",), str(rng.randint(5, 30))).patch
        )

    benchmark.pedantic(edit, rounds=6, warmup_rounds=1)  # type: ignore[attr-defined]


def test_width_changed(benchmark: Bench, tmp_path: Path) -> None:
    """The 1,000-element page in another window width."""
    session = Session(write_page(tmp_path, 1000), 1100)
    widths = iter(range(600, 1100, 7))
    benchmark.pedantic(lambda: session.views.set_width(next(widths)), rounds=6, warmup_rounds=1)  # type: ignore[attr-defined]


def test_text_warm(benchmark: Bench) -> None:
    """10,000 words in runs of ten, shaped before."""
    from redcrate.core.text.fonts import choose_font

    face = choose_font(("sans-serif",), 400, "normal").face
    rng = random.Random(2)
    runs = [" ".join(rng.choice(WORDS) for _ in range(10)) for _ in range(1000)]
    benchmark(lambda: [shape(face, run).width(0, len(run), 16.0) for run in runs])


def test_1000_diagrams(benchmark: Bench, tmp_path: Path) -> None:
    """The box diagrams of all of 1,000 elements as SVG."""
    page = full(write_page(tmp_path, 1000))

    def draw() -> list[str]:
        return [drawing_svg(box_diagram(page, element)) for element in page.elements]

    drawn = benchmark.pedantic(draw, rounds=3, warmup_rounds=1)  # type: ignore[attr-defined]
    assert len(drawn) >= 1000
