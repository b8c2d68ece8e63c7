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
        tag = rng.choice(["div", "div", "p", "span", "ul", "li", "h2", "img", "b"])
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


def stand_in_page(rng: random.Random) -> str:
    """Containers that blocks stand in for, among everything else."""
    return _boxes(rng, _FLOWING | _EDGES | {"display": LATER + DISPLAYS, **_SIZING}, 5)


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
    "stand-in": stand_in_page,
    "values": values_page,
}


def made_page(family: str, seed: int) -> str:
    """The page of a family and a seed, the same each time."""
    rng = random.Random(f"{family} {seed}")
    doctype = "<!doctype html>" if seed % 5 else ""
    return f"{doctype}<meta charset=utf-8><style>body {{ margin: 0 }}</style>{FAMILIES[family](rng)}"
