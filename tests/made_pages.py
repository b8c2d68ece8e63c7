"""Pages made at random from a seed: what people never write, and what a core must hold all the same.

Each family is a function from a random source to the HTML of a page. `tools/fuzz.py` runs them for as
long as one likes; the suite runs the first seeds of each.
"""

import random
from collections.abc import Callable

WORDS = "one two three four plover estuary a b long-word-with-hyphens supercalifragilistic x".split()
LENGTHS = ["0", "1px", "7px", "13.4px", "40px", "120px", "-9px", "10%", "50%", "100%", "1.5em", "-20%"]
SIZES = [
    "auto", "0", "30px", "120px", "50%", "100%", "200%", "min-content", "max-content", "fit-content",
    "fit-content(30px)", "fit-content(20%)", "calc(50% - 9px)", "min(80px, 60%)", "clamp(10px, 50%, 90px)",
    "stretch", "10vw", "3lh", "99999999px",
]  # fmt: skip
DISPLAYS = ["block", "inline", "inline-block", "list-item", "flow-root", "contents", "none"]
LATER = ["table", "inline-table", "table-cell", "flex", "inline-flex", "grid", "inline-grid"]
INLINE_TAGS = ["span", "b", "i", "em", "a", "code"]


def _pick(rng: random.Random, of: dict[str, list[str]], least: int, most: int) -> str:
    names = rng.sample(sorted(of), min(len(of), rng.randint(least, most)))
    return "; ".join(f"{n}: {rng.choice(of[n])}" for n in names)


_EDGES = {
    f"{m}-{s}": LENGTHS for m in ("margin", "padding") for s in ("left", "right", "top", "bottom")
} | {
    "border": ["1px solid", "thick solid", "0"],
    "margin": ["auto", "0 auto", "5px -3px", "10%"],
}
_SIZING = dict.fromkeys(
    ("width", "height", "min-width", "max-width", "min-height", "max-height"), SIZES
) | {"box-sizing": ["border-box", "content-box"]}
_FLOWING = {
    "float": ["left", "right", "none"],
    "clear": ["left", "both", "right"],
    "overflow": ["hidden", "visible", "auto"],
    "display": DISPLAYS,
    "direction": ["rtl", "ltr"],
}
_LINES = {
    "vertical-align": ["top", "bottom", "middle", "super", "10px", "-50%", "text-top"],
    "font-size": ["8px", "30px", "1.5em", "0"],
    "line-height": ["0", "1", "40px", "normal", "200%"],
    "white-space": ["pre", "nowrap", "pre-wrap", "pre-line", "normal"],
    "text-align": ["center", "right", "justify"],
    "text-indent": ["20px", "-20px", "10%"],
    "letter-spacing": ["2px", "-1px"],
    "word-break": ["break-all", "keep-all"],
    "overflow-wrap": ["anywhere", "break-word"],
}
_PLACES = {n: ["auto", *LENGTHS] for n in ("top", "left", "right", "bottom")} | {
    "position": ["absolute", "fixed", "relative", "static", "absolute"]
}


def _text(rng: random.Random) -> str:
    words = [rng.choice(WORDS) for _ in range(rng.randint(0, 9))]
    return rng.choice(["", " ", "\n"]) + " ".join(words) + rng.choice(["", " ", "<br>", "\t", "\u00a0"])


def inline_content(rng: random.Random, depth: int = 4) -> str:
    """Text and inline boxes, with floats and tall atomic boxes among them."""
    out = []
    for _ in range(rng.randint(1, 5)):
        kind = rng.random()
        if kind < 0.4 or depth == 0:
            out.append(_text(rng))
            continue
        tag = rng.choice(INLINE_TAGS)
        if kind < 0.65:
            style = _pick(rng, _EDGES | _LINES, 0, 2)
        elif kind < 0.8:
            style = f"float: {rng.choice(['left', 'right'])}; " + _pick(rng, _SIZING | _EDGES, 0, 3)
        else:
            height = rng.choice(["10px", "50px", "90px", "auto"])
            style = f"display: inline-block; height: {height}; " + _pick(rng, _SIZING | _EDGES, 0, 2)
        out.append(f'<{tag} style="{style}">{inline_content(rng, depth - 1)}</{tag}>')
    return "".join(out)


def inline_page(rng: random.Random) -> str:
    """Paragraphs of inline content with floats and tall atomic boxes."""
    parts = [
        f'<p style="{_pick(rng, _LINES | _SIZING, 0, 2)}">{inline_content(rng)}</p>'
        for _ in range(rng.randint(1, 3))
    ]
    return "".join(parts)


def _boxes(rng: random.Random, of: dict[str, list[str]], depth: int) -> str:
    out = []
    for _ in range(rng.randint(1, 4)):
        if depth == 0 or rng.random() < 0.25:
            out.append(_text(rng))
            continue
        tag = rng.choice(["div", "div", "p", "span", "ul", "li", "h2", "img", "b", "fieldset", "legend"])
        style = _pick(rng, of, 0, 4)
        if tag == "img":
            size = rng.choice(["", 'width="30" height="20"', 'alt="words here"'])
            out.append(f'<img {size} style="{style}">')
        else:
            out.append(f'<{tag} style="{style}">{_boxes(rng, of, depth - 1)}</{tag}>')
    return "".join(out)


def positioned_page(rng: random.Random) -> str:
    """Absolute, fixed and relative boxes in one another, in lines, floats and inline blocks."""
    return _boxes(rng, _PLACES | _FLOWING | _SIZING | _EDGES, 5)


def flowing_page(rng: random.Random) -> str:
    """Blocks, floats, margins that meet, negative ones, and lists."""
    return _boxes(rng, _FLOWING | _EDGES | _SIZING | _LINES, 5)


_ALIGN = [
    "start",
    "end",
    "center",
    "stretch",
    "normal",
    "baseline",
    "last baseline",
    "flex-end",
    "safe center",
    "left",
    "right",
    "self-end",
]
_SPREAD = ["space-between", "space-around", "space-evenly", *_ALIGN[:5], "safe end"]
_ALIGNED = {
    "align-items": _ALIGN, "align-self": ["auto", *_ALIGN], "justify-items": _ALIGN, "justify-self": ["auto", *_ALIGN],
    "align-content": _SPREAD, "justify-content": _SPREAD, "gap": ["0", "7px", "10%", "4px 20%"], "order": ["-1", "0", "2"],
}  # fmt: skip
_FLEX = {
    "display": ["flex", "inline-flex", *DISPLAYS], "flex-direction": ["row", "column", "row-reverse", "column-reverse"],
    "flex-wrap": ["wrap", "nowrap", "wrap-reverse"], "flex-grow": ["0", "1", "0.3", "2"], "flex-shrink": ["0", "1", "3"],
    "flex-basis": ["auto", "content", "0", "50px", "30%"], "flex": ["1", "none", "auto", "0 0 40px"], "aspect-ratio": ["2", "auto"],
}  # fmt: skip
_TRACKS = [
    "1fr 1fr", "auto 2fr", "repeat(3, minmax(0, 1fr))", "repeat(auto-fill, 60px)", "repeat(auto-fit, minmax(40px, 1fr))",
    "min-content max-content", "[a] 30px [b] 20% [a]", "fit-content(80px) auto", "minmax(20px, max-content) 0.2fr", "none",
]  # fmt: skip
_LINES_OF_GRIDS = [
    "auto",
    "1",
    "2 / 4",
    "span 2",
    "-1",
    "a",
    "a 2 / span 3",
    "x",
    "3 / 1",
    "-3 / span 2",
]
_GRID = {
    "display": ["grid", "inline-grid", *DISPLAYS], "grid-template-columns": _TRACKS, "grid-template-rows": _TRACKS,
    "grid-auto-rows": ["auto", "30px", "minmax(10px, 1fr) 20px"], "grid-auto-flow": ["row", "column", "dense", "column dense"],
    "grid-column": _LINES_OF_GRIDS, "grid-row": _LINES_OF_GRIDS, "grid-template-areas": ["'x x' '. x'", "'x y' 'z y'", "none"],
}  # fmt: skip
_TABLES = {
    "display": [
        "table", "inline-table", "table-row", "table-cell", "table-row-group", "table-header-group", "table-footer-group",
        "table-column", "table-column-group", "table-caption", "block", "inline",
    ],
    "table-layout": ["fixed", "auto"], "border-collapse": ["collapse", "separate"], "border-spacing": ["0", "7px", "3px 9px"],
    "caption-side": ["bottom", "top"], "visibility": ["collapse", "visible"], "vertical-align": ["top", "middle", "bottom", "baseline"],
}  # fmt: skip


def flex_page(rng: random.Random) -> str:
    """Flex containers in one another, with floats and absolute boxes that are no items as others are."""
    return _boxes(rng, _FLOWING | _EDGES | _SIZING | _ALIGNED | _PLACES | _FLEX, 5)


def grid_page(rng: random.Random) -> str:
    """Grids in grids, with lines and areas that are there or not."""
    return _boxes(rng, _FLOWING | _EDGES | _SIZING | _ALIGNED | _PLACES | _GRID, 5)


def parts_page(rng: random.Random) -> str:
    """Parts of tables anywhere, with tables round them or without."""
    return _boxes(rng, _EDGES | _SIZING | _PLACES | _TABLES, 5)


def _rows(rng: random.Random, depth: int) -> str:
    rows = []
    for _ in range(rng.randint(1, 3)):
        cells = []
        for _ in range(rng.randint(0, 3)):
            spans = (
                f'colspan="{rng.choice([0, 1, 2, 3, 40])}" rowspan="{rng.choice([0, 1, 2, 9])}"'
                if rng.random() < 0.4
                else ""
            )
            inner = _table(rng, depth - 1) if depth and rng.random() < 0.2 else _text(rng)
            style = _pick(rng, _EDGES | _SIZING | _TABLES | {"display": ["table-cell"]}, 0, 3)
            cells.append(f'<{rng.choice(["td", "th"])} {spans} style="{style}">{inner}')
        rows.append(
            f'<tr style="{_pick(rng, {"height": SIZES, "visibility": ["collapse"]}, 0, 1)}">'
            + "".join(cells)
        )
    return "".join(rows)


def _table(rng: random.Random, depth: int = 1) -> str:
    groups = "".join(
        f"<{g}>{_rows(rng, depth)}"
        for g in rng.sample(["thead", "tbody", "tbody", "tfoot"], rng.randint(1, 2))
    )
    columns = "".join(
        f'<col span="{rng.randint(1, 3)}" style="{_pick(rng, {"width": SIZES}, 0, 1)}">'
        for _ in range(rng.randint(0, 3))
    )
    caption = f"<caption>{_text(rng)}</caption>" if rng.random() < 0.3 else ""
    style = _pick(rng, _EDGES | _SIZING | {k: v for k, v in _TABLES.items() if k != "display"}, 0, 4)
    border = rng.choice(["", "border", 'rules="all"', 'cellpadding="5" cellspacing="0"'])
    return f'<table {border} style="{style}">{caption}{columns}{groups}</table>'


def table_page(rng: random.Random) -> str:
    """Tables with spans that overlap and reach too far, in one another."""
    return _text(rng) + "".join(_table(rng) for _ in range(rng.randint(1, 2)))


def mixed_page(rng: random.Random) -> str:
    """Containers of all kinds in one another."""
    kinds = _FLOWING | _EDGES | _SIZING | _FLEX | _GRID | _TABLES | _ALIGNED
    return _boxes(rng, {**kinds, "display": LATER + DISPLAYS}, 6)


VALUES = [
    *SIZES, *LENGTHS, "none", "normal", "inherit", "initial", "unset", "revert", "1", "-1", "0.5", "red", "#12345",
    "var(--x)", "var(--nothing)", "var(--loop)", "calc(1px + )", "calc((1px + 2em) * 3)", "url(x.png)", "url(http://[x/)",
    "attr(title)", "'text'", "1 2 3 4 5", "a, b", "10px 20px 30px 40px", "1e99px", "-1e99px", "calc(1px / 0)",
    "calc(infinity * 1px)", "16 / 9", "repeat(3, 1fr)", "span 2", "bold 12px/1.5 serif", "small-caps", "rtl",
    "hidden", "visible", "scroll", "list-item", "table-cell", "absolute", "fixed", "sticky", "left", "both", "pre",
    "center", "1fr", "90deg", "translate(3px)", "linear-gradient(red, blue)", "counter(a)", "open-quote", "xx-large",
    "monospace", "cover", "dotted", "!important", "fit-content(", ")", "}", "/*", "\\0", "9" * 400, "0" * 400 + "px",
]  # fmt: skip


def values_page(rng: random.Random, names: list[str] | None = None) -> str:
    """Every property with every shape of value."""
    from redcrate.core.style.properties import LOGICAL, PROPERTIES
    from redcrate.core.style.shorthands import SHORTHANDS
    from redcrate.core.style.standards import standards

    names = names or sorted({*PROPERTIES, *LOGICAL, *SHORTHANDS, *standards().properties})
    rules = "".join(
        f"#e{i}, .c{i}::before {{ {rng.choice(names)}: {rng.choice(VALUES)}; {rng.choice(names)}: {rng.choice(VALUES)} }}\n"
        for i in range(12)
    )
    css = (
        ":root { --x: 3px; --loop: var(--loop2); --loop2: var(--loop) } .c3::before { content: 'x' }"
        + rules
    )
    body = "".join(
        f'<{t} id="e{i}" class="c{i % 5}" title="t">{_text(rng)}<span class="c{i % 7}">in</span></{t}>'
        for i, t in enumerate(rng.choice(["div", "p", "span", "li", "h1"]) for _ in range(12))
    )
    where = rng.choice(["html", "body", "head", "title"])
    return f"<style>{css} {where} {{ {_pick(rng, _FLOWING | _PLACES | _SIZING, 1, 3)} }}</style>{body}"


FAMILIES: dict[str, Callable[[random.Random], str]] = {
    "inline": inline_page,
    "positioned": positioned_page,
    "flowing": flowing_page,
    "flex": flex_page,
    "grid": grid_page,
    "parts": parts_page,
    "table": table_page,
    "mixed": mixed_page,
    "values": values_page,
}


def made_page(family: str, seed: int) -> str:
    """The page of a family and a seed, the same each time."""
    rng = random.Random(f"{family} {seed}")
    doctype = "<!doctype html>" if seed % 5 else ""
    return f"{doctype}<meta charset=utf-8><style>body {{ margin: 0 }}</style>{FAMILIES[family](rng)}"
