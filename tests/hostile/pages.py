"""Some two hundred pages that nobody writes by accident: each by its name, made by code. `PAGES[name]()` gives its files.

What a page is good for: its name says which part of the program it aims at.
"""

import base64
import struct
import zlib
from collections.abc import Callable

Files = dict[str, bytes]
Make = Callable[[], Files]
PAGES: dict[str, Make] = {}


def page(body: str, css: str = "", head: str = "", **others: bytes) -> Files:
    """A page with a style sheet in it; other files by their names, in which `__` stands for a dot."""
    html = f"<!doctype html><html><head>{head}<style>{css}</style></head><body>{body}</body></html>"
    files = {name.replace("__", "."): data for name, data in others.items()}
    return {"index.html": html.encode("utf-8", "surrogatepass"), **files}


def _add(name: str, make: Make) -> None:
    assert name not in PAGES, name
    PAGES[name] = make


def _css(
    name: str, css: Callable[[], str], body: str = "<div class=d><p class=d>x<b>y</b></p></div>"
) -> None:
    _add(f"css: {name}", lambda: page(body, css()))


def _html(name: str, body: Callable[[], str], css: str = "") -> None:
    _add(f"html: {name}", lambda: page(body(), css))


def nested(before: str, inside: str, after: str, depth: int) -> str:
    """Something in itself, so deep."""
    return before * depth + inside + after * depth


# -- selectors

MANY = "".join(f"<div class='d e{n % 7}' id=i{n}><p class=d>x</p></div>" for n in range(1500))
DEEP = nested("<div class=d>", "x", "</div>", 400)
_SELECTORS: dict[str, tuple[str, str]] = {
    "not nested 500": (nested(":not(", ".d", ")", 500), "<p class=d>x"),
    "is nested 500": (nested(":is(", ".d", ")", 500), "<p class=d>x"),
    "has in has on 3000": ("div:has(p:has(+ *), :has(b))", MANY),
    "has nested 8": (nested(":has(", "b", ")", 8), MANY),
    "has descendants on deep": (":has(.d .d .d .x)", DEEP),
    "has siblings on many": (":has(~ .d ~ .d ~ .x)", MANY),
    "has star": ("*:has(* * * *)", MANY),
    "nth of nested 12": (nested(":nth-child(2n+1 of ", ".d", ")", 12), MANY),
    "nth of has": (":nth-last-child(odd of :has(.d))", MANY),
    "nth huge": (":nth-child(99999999999999999999n+1)", MANY),
    "nth negative": (":nth-child(-99999999999n-99999999999)", MANY),
    "descendants 40 on deep": (" ".join([".d"] * 40) + " .x", DEEP),
    "descendants star 30 on deep": (" ".join(["*"] * 30) + " .x", DEEP),
    "siblings 25 on many": (" ~ ".join([".d"] * 25) + " ~ .x", MANY),
    "siblings and descendants": (" ~ div ".join(["div"] * 12), MANY),
    "children and descendants on deep": (" > div ".join(["div"] * 60), DEEP),
    "is descendants on deep": (":is(.d .d) " * 20 + ".x", DEEP),
    "is of ten thousand": (":is(" + ",".join(f".c{n}" for n in range(10_000)) + ")", MANY),
    "where of where": (":where(:where(.d *, .d) *, .d) .d", MANY),
    "not with complex": (":not(.d .d .d, .d ~ .d .d) .x", MANY),
    "attribute of a megabyte": ("[class*='xxxxxxxxxx']", f"<p class='{'x' * 1_000_000}'>y"),
    "attribute words": ("[class~=d]", f"<p class='{'d ' * 300_000}'>y"),
    "long name": (f".{'x' * 1_000_000}", "<p>x"),
    "empty is": (":is() :where() p:not()", "<p>x"),
    "unclosed": (":is(:not([a='", "<p>x"),
    "list of fifty thousand": (",".join(f"#i{n}" for n in range(50_000)), MANY),
    "scoped root": (":root:has(:root:has(*))", MANY),
    "lang and dir": (":lang(" + ",".join(["de"] * 5000) + ")", MANY),
    "pseudo-elements": ("::before::after::before" * 500, "<p>x"),
    "namespaces": ("|*|*|*|d" * 300, "<p>x"),
}  # fmt: skip
for _name, (_selector, _body) in _SELECTORS.items():
    _add(f"selector: {_name}", lambda s=_selector, b=_body: page(b, f"{s} {{ color: red; width: 9px }}"))  # type: ignore[misc]


def _branching(depth: int) -> str:
    return ".d { " + nested(":is(&, & .d) { ", "width: 9px", " }", depth) + " }"


_css("nesting that doubles 12", lambda: _branching(12))
_css("nesting that doubles 60", lambda: _branching(60))
_css("nesting lists 10", lambda: ".d { " + nested("&.d, & .d, .d & { ", "width: 9px", " }", 10) + " }")
_css("is that doubles 20", lambda: _doubled(20) + " { width: 9px }")
_css("rules nested 1000", lambda: nested(".d { ", "width: 9px", " }", 1000))
_css("media nested 900", lambda: nested("@media all { ", ".d { width: 9px }", " }", 900))
_css("supports nested 900", lambda: nested("@supports (top: 0) { ", ".d { width: 9px }", " }", 900))
_css("layers nested 900", lambda: nested("@layer a { ", ".d { width: 9px }", " }", 900))
_css("scopes nested 300", lambda: nested("@scope (.d) { ", ".d { width: 9px }", " }", 300))
_css(
    "media in parentheses",
    lambda: f"@media {nested('(', 'width > 1px', ')', 2000)} {{ p {{ top: 0 }} }}",
)
_css("media not not", lambda: f"@media {nested('(not ', '(color)', ')', 1000)} {{ p {{ top: 0 }} }}")
_css(
    "supports in parentheses",
    lambda: f"@supports {nested('(', 'top: 0', ')', 2000)} {{ p {{ top: 0 }} }}",
)
_css(
    "media of thousands",
    lambda: "".join(f"@media (min-width: {n}px) {{ .d {{ left: {n}px }} }}" for n in range(4000)),
)
_css("ten thousand rules", lambda: "".join(f".c{n} {{ width: {n}px }}" for n in range(10_000)))
_css(
    "rules that all match",
    lambda: "".join(f".d {{ width: {n}px; padding: {n}px }}" for n in range(500)),
    MANY[:40_000],
)


def _doubled(depth: int) -> str:
    text = ".d"
    for _ in range(depth):
        text = f":is({text}, {text})" if len(text) < 300_000 else text
    return text


# -- values

_VALUES = {
    "calc nested 800": ("width", nested("calc(", "1px", ")", 800)),
    "calc nested 20000": ("width", nested("calc(", "1px", ")", 20_000)),
    "calc parentheses 800": ("width", f"calc({nested('(', '1px', ')', 800)})"),
    "calc of sums": ("width", f"calc({' + '.join(['1px'] * 20_000)})"),
    "calc of products": ("width", f"calc(1px * {' * '.join(['1.5'] * 5000)})"),
    "calc division by nothing": ("width", "calc(1px / (1 - 1))"),
    "min of min": ("width", nested("min(1px, ", "2px", ")", 800)),
    "clamp of clamp": ("width", nested("clamp(1px, ", "2px", ", 3px)", 500)),
    "var fallback nested": ("width", nested("var(--x, ", "1px", ")", 800)),
    "number of a megabyte": ("width", f"{'9' * 1_000_000}px"),
    "fraction of a megabyte": ("width", f"0.{'0' * 1_000_000}1px"),
    "exponent": ("width", "1e999999999px"),
    "negative exponent": ("margin", "-1e38px -1e308px 1e38px 1e308px"),
    "huge everything": (
        "padding",
        "1e30px; margin: -1e30px; border: 1e30px solid; width: 1e30px; height: 1e30px",
    ),
    "percent huge": ("width", "1e30%"),
    "brackets": ("width", "(" * 100_000),
    "braces": ("width", "{" * 100_000),
    "square": ("width", "[" * 100_000),
    "functions": ("width", "a(" * 50_000),
    "url nested": ("background", "url(" * 50_000),
    "families": ("font-family", ", ".join(f"f{n}" for n in range(50_000))),
    "family quoted": ("font-family", "'" + "x" * 1_000_000 + "'"),
    "shadows": ("box-shadow", ", ".join(["1px 1px red"] * 10_000)),
    "text shadows": ("text-shadow", ", ".join(["1px 1px red"] * 10_000)),
    "gradient stops": ("background", f"linear-gradient({', '.join(['red'] * 50_000)})"),
    "gradients": ("background", ", ".join(["linear-gradient(red, blue)"] * 5000)),
    "transforms": ("transform", " ".join(["rotate(1deg)"] * 10_000)),
    "transform huge": ("transform", "scale(1e308) scale(1e308) translate(1e308px)"),
    "transform none": ("transform", "matrix(nan, inf, 0, 0, 0, 0)"),
    "colour nested": ("color", nested("color-mix(in srgb, ", "red", ", blue)", 500)),
    "colour of another": ("color", nested("rgb(from ", "red", " r g b)", 500)),
    "colour calculated": ("color", "rgb(" + nested("calc(1 + ", "1", ")", 500) + " 0 0)"),
    "subgrids": (
        "display",
        "grid; grid-template: subgrid / subgrid; grid-area: auto / auto / span 2 / span 2",
    ),
    "grid repeat": ("display", "grid; grid-template-columns: repeat(1000000, 1px)"),
    "grid repeat fill": (
        "display",
        "grid; grid-template-columns: repeat(auto-fill, 0.001px); width: 100000px",
    ),
    "grid repeat of many": (
        "display",
        "grid; grid-template-columns: repeat(9999, 1px 2px 3px 4px) repeat(9999, 1fr)",
    ),
    "grid far away": ("display", "grid; grid-auto-flow: dense"),
    "grid names": (
        "display",
        "grid; grid-template-columns: " + " ".join(f"[a{n}] 1px" for n in range(10_000)),
    ),
    "grid areas": ("display", "grid; grid-template-areas: " + " ".join(["'" + "a " * 100 + "'"] * 100)),
    "font size huge": ("font-size", "1e30px"),
    "font size tiny": ("font-size", "1e-30px"),
    "line height huge": ("line-height", "1e30"),
    "letter spacing huge": ("letter-spacing", "1e30px"),
    "letter spacing negative": ("letter-spacing", "-1e9px"),
    "word spacing huge": ("word-spacing", "1e30px"),
    "indent huge": ("text-indent", "-1e30px"),
    "tab size huge": ("tab-size", "1000000000; white-space: pre"),
    "z-index huge": ("z-index", "999999999999999999999; position: relative"),
    "order huge": ("order", "-999999999999999999999"),
    "flex huge": ("display", "flex; flex: 1e30 1e30 1e30px; gap: 1e30px"),
    "flex infinitesimal": ("flex", "1e-300 1e-300 0"),
    "radius huge": ("border-radius", "1e30px / 1e30%; border: 1px solid"),
    "outline huge": ("outline", "1e30px solid red; outline-offset: 1e30px"),
    "columns": ("column-count", "1000000000"),
    "aspect ratio nothing": ("aspect-ratio", "0 / 0; width: 100px"),
    "aspect ratio huge": ("aspect-ratio", "1e300 / 1e-300; width: 100px"),
    "escapes": ("width", "\\" * 100_000),
    "escape of zero": ("content", "'\\0 \\ffffff \\d800 \\110000'"),
    "unclosed string": ("content", "'" + "x" * 1_000_000),
    "newline in string": ("content", "'a\nb\nc"),
    "important": ("width", "1px" + " !important" * 10_000),
    "unicode range": (
        "font-family",
        "x; } @font-face { unicode-range: " + ",".join(["U+0-10FFFF"] * 10_000),
    ),
}
for _name, (_property, _value) in _VALUES.items():
    _add(
        f"value: {_name}",
        lambda p=_property, v=_value: page(MANY[:3000] + "<p class=d>x y z", f".d {{ {p}: {v} }}"),  # type: ignore[misc]
    )
_css(
    "var that doubles",
    lambda: (
        ":root { --a0: 1px; "
        + "".join(f"--a{n}: var(--a{n - 1}) var(--a{n - 1});" for n in range(1, 40))
        + " } .d { margin: var(--a39); font-family: var(--a39) }"
    ),
)
_css(
    "var in a ring",
    lambda: (
        ":root { "
        + "".join(f"--a{n}: var(--a{(n + 1) % 300});" for n in range(300))
        + " } .d { margin: var(--a0) }"
    ),
)
_css(
    "var chain 2000",
    lambda: (
        ":root { --a0: 1px; "
        + "".join(f"--a{n}: var(--a{n - 1});" for n in range(1, 2000))
        + " } .d { margin: var(--a1999) }"
    ),
)
_css(
    "variables on many",
    lambda: ".d { " + "".join(f"--v{n}: {n}px;" for n in range(2000)) + " }",
    MANY[:60_000],
)
_css("comment of five megabytes", lambda: "/*" + "x*" * 2_500_000 + "*/ .d { width: 9px }")
_css("comments", lambda: "/**/" * 300_000 + " .d { width: 9px }")
_css("comment unclosed", lambda: ".d { width: 9px } /*" + "x" * 2_000_000)
_css("sixty thousand declarations", lambda: ".d { " + "width: 9px;" * 60_000 + " }")
_css("semicolons", lambda: ".d { " + ";" * 1_000_000 + " }")
_css("unknown at-rules", lambda: "@x y;" * 100_000)
_css("control characters", lambda: "".join(map(chr, range(1, 32))) * 3000 + ".d { width: 9px }")
_css("one line", lambda: ".d{width:9px}" * 40_000)
_css(
    "font faces",
    lambda: "".join(f"@font-face {{ font-family: f{n}; src: url(n{n}.woff) }}" for n in range(4000)),
)
_css(
    "counters",
    lambda: (
        ".d { counter-increment: a; } .d::before { content: counters(a, 'xxxxxxxxxx') } .d { counter-reset: a }"
    ),
    DEEP,
)
_css(
    "quotes of 100 kB",
    lambda: (
        f".d {{ quotes: '{'x' * 100_000}' '{'y' * 100_000}' }} .d::before {{ content: open-quote }} .d::after {{ content: close-quote }}"
    ),
    "".join("<i class=d>z</i>" for _ in range(400)),
)
_css(
    "content of a megabyte",
    lambda: f".d::before {{ content: '{'x ' * 500_000}' }}",
    "<i class=d>z</i>" * 4,
)
_css(
    "content of a thousand parts",
    lambda: f".d::before {{ content: {' '.join(['attr(class)'] * 5000)} }}",
    "<i class=d>z</i>" * 50,
)
_css(
    "list numbers",
    lambda: "li { list-style: lower-roman inside } ol { counter-reset: list-item 2147483647 }",
    "<ol start=999999999><li>a<li value=-2147483648>b<li>c</ol>" * 100,
)
_css(
    "first letters",
    lambda: ".d::first-letter { font-size: 2em } .d::first-line { font-size: 3em }",
    "<p class=d>" + "“" * 100_000 + "a</p>",
)
_css(
    "first lines nested",
    lambda: ".d::first-line { font-size: 1.01em }",
    nested("<div class=d>", "x y z", "</div>", 200),
)

# -- markup

_html("divs 50000 deep", lambda: "<div>" * 50_000)
_html("spans 20000 deep", lambda: "<span>" * 20_000 + "x")
_html("formatting never closed", lambda: "<p>x<b><i><u><s><a href=#>" * 400)
_html("formatting crossed", lambda: "<b><p></b><i></p>" * 300)
_html("tables 1000 deep", lambda: "<table><tr><td>" * 1000 + "x")
_html("tables 60 deep with spans", lambda: "<table><tr><td colspan=3 rowspan=3>" * 60 + "x")
_html("lists 3000 deep", lambda: "<ul><li>" * 3000 + "x")
_html("quotes deep", lambda: "<q>" * 3000 + "x")
_html("buttons deep", lambda: "<button><div>" * 1000 + "x")
_html("fieldsets deep", lambda: "<fieldset><legend>x</legend>" * 300)
_html("attributes 100000", lambda: "<p " + " ".join(f"a{n}=x" for n in range(100_000)) + ">x")
_html("attributes twice", lambda: "<p " + "a=x " * 200_000 + ">x")
_html(
    "an attribute of a megabyte",
    lambda: f"<p style='{'width: 9px;' * 100_000}' title='{'x' * 1_000_000}'>x",
)
_html("style attributes", lambda: "".join(f"<p style='width: {n}px'>x" for n in range(3000)))
_html("a word of ten megabytes", lambda: "<p>" + "x" * 10_000_000)
_html("a line of ten megabytes", lambda: "<p>" + "x y " * 2_500_000)
_html("a line of two megabytes that may not wrap", lambda: "<pre>" + "x y " * 500_000 + "</pre>")
_html("tabs", lambda: "<pre>" + "\t" * 300_000 + "</pre>")
_html("spaces", lambda: "<p>" + " " * 3_000_000 + "x")
_html("lines", lambda: "<pre>" + "x\n" * 60_000 + "</pre>")
_html("breaks", lambda: "<br>" * 15_000)
_html("soft hyphens", lambda: "<p style='width: 50px'>" + "x\u00ad" * 60_000)
_html("zero widths", lambda: "<p style='width: 50px'>" + "\u200b\u200d\u2060" * 60_000)
_html("combining marks", lambda: "<p>e" + "\u0301" * 200_000)
_html("joined emoji", lambda: "<p>" + "\U0001f468\u200d" * 30_000)
_html("overrides", lambda: "<p>" + "\u202e\u2066x\u2069\u202c" * 20_000)
_html("no characters", lambda: "<p>" + "\uffff\ufffe\ufdd0" * 50_000)
_html("entities", lambda: "<p>" + "&amp;&notin;&#x1F600;" * 60_000)
_html("entities that are none", lambda: "<p>" + "&#xFFFFFFFFFFFF;&#0;&zzz;&" * 60_000)
_html("many inline elements", lambda: "<p>" + "<span>x</span>" * 5000)
_html("many floats", lambda: "<div style='float: left; width: 30px'>x</div>" * 4000)
_html(
    "floats of all heights",
    lambda: (
        "".join(
            f"<div style='float: {'left' if n % 2 else 'right'}; width: {n % 90}px; height: {n % 70}px'></div>"
            for n in range(3000)
        )
        + "<p>"
        + "word " * 3000
    ),
)
_html("columns spans", lambda: "<table>" + "<col span=1000>" * 1000 + "<tr><td>x</table>")
_html(
    "spans of cells", lambda: "<table>" + "<tr>" + "<td colspan=1000 rowspan=65534>x" * 100 + "</table>"
)
_html(
    "spans that cross",
    lambda: (
        "<table>"
        + "".join(
            f"<tr>{''.join(f'<td rowspan={n % 9 + 1} colspan={m % 7 + 1}>x' for m in range(30))}"
            for n in range(60)
        )
        + "</table>"
    ),
)
_html("rows", lambda: "<table>" + "<tr><td>x<td>y" * 1500 + "</table>")
_html("cells", lambda: "<table><tr>" + "<td>x" * 2500 + "</table>")
_html("options", lambda: "<select>" + "<option>x" * 20_000 + "</select>")
_html(
    "sizes of fields",
    lambda: (
        "<textarea rows=999999999 cols=999999999>x</textarea><input size=999999999><select size=999999999><option>x</select>"
    ),
)
_html(
    "sizes of pictures",
    lambda: (
        "<img width=99999999999999 height=1e30 src=x.png alt=x><canvas width=2147483647 height=2147483647></canvas><svg width=1e30 viewBox='0 0 1e-300 1e300'></svg>"
    ),
)
_html(
    "old sizes",
    lambda: (
        "<hr size=999999999 width=999999999><font size=+999999999>x</font><table border=999999999 cellpadding=999999999 cellspacing=999999999><tr><td>x</table>"
    ),
)
_html("forms", lambda: "<form>" * 5000 + "<input>" * 3000)
_html(
    "frames",
    lambda: (
        "<iframe src=index.html></iframe><object data=index.html></object><embed src=index.html>" * 1000
    ),
)
_html("comments", lambda: "<!--" + "x--" * 500_000 + ">")
_html("comments of five megabytes", lambda: "<!--" + "x" * 5_000_000 + "-->x")
_html("not closed", lambda: "<" * 300_000)
_html("closed only", lambda: "</p></b></table>" * 2000)
_html("plaintext", lambda: "<plaintext>" + "<p>" * 60_000)
_html("scripts", lambda: "<script>while (true) {}</script>" * 3000)
_html("noscript", lambda: "<noscript><p>x" * 2000)
_html("style elements", lambda: "".join(f"<style>.c{n} {{ width: 9px }}</style>" for n in range(2000)))
_html("links to nothing", lambda: "".join(f"<link rel=stylesheet href=n{n}.css>" for n in range(3000)))
_html("pictures that are not there", lambda: "".join(f"<img src=n{n}.png>" for n in range(3000)))
_html("one identifier for all", lambda: "<p id=a class=a>x" * 4000)
_html(
    "classes",
    lambda: "".join(f"<p class='{' '.join(f'c{m}' for m in range(n, n + 50))}'>x" for n in range(1000)),
)
_html("templates and slots", lambda: "<template><slot>" * 1500 + "x")
_html("svg deep", lambda: "<svg>" + "<g>" * 5000 + "</svg>")
_html("svg and html", lambda: "<svg><foreignObject><div><math><mtext>" * 300 + "x")
_html("ruby", lambda: "<ruby>x<rt>y" * 1000)
_html("details", lambda: "<details open><summary>x</summary>" * 400)
_html("headings", lambda: "<h1>x</h1>" * 6000)
_html(
    "base",
    lambda: "<base href='file:///'><base href='http://[::1'><img src=etc/passwd><img src='http://[x/'>",
)

# -- layouts in one another

_LAYOUTS = {
    "flex": "display: flex",
    "flex in columns": "display: flex; flex-direction: column; flex-wrap: wrap; height: 50%",
    "flex that wraps": "display: flex; flex-wrap: wrap; align-items: stretch; flex: 1 1 auto",
    "grid": "display: grid; grid-template-columns: auto 1fr minmax(min-content, auto)",
    "grid in rows": "display: grid; grid-auto-flow: column; grid-template-rows: auto 1fr",
    "inline-block": "display: inline-block; width: auto",
    "floats": "float: left; width: auto",
    "absolute": "position: absolute; width: auto; left: 0",
    "relative": "position: relative; left: 1px; overflow: hidden",
    "tables": "display: table",
    "cells": "display: table-cell; width: 50%",
    "inline tables": "display: inline-table; width: 90%",
    "fit-content": "width: fit-content; min-width: min-content; max-width: max-content",
    "percentages": "height: 100%; padding: 1%; box-sizing: border-box",
    "margins": "margin: 10px; min-height: 1px",
    "transforms": "transform: rotate(1deg); padding: 1px",
    "inline": "display: inline; padding: 1px; border: 1px solid",
    "list items": "display: list-item; list-style: inside",
    "contents": "display: contents",
    "border-box em": "font-size: 1.1em; width: 50em",
}
for _name, _style in _LAYOUTS.items():
    for _depth in (60, 500):
        _html(
            f"{_name} {_depth} deep",
            lambda s=_style, d=_depth: nested(f"<div style='{s}'>a", "word", "</div>", d),  # type: ignore[misc]
        )
_html(
    "flex and grid and table 40 deep",
    lambda: nested(
        "<div style='display: flex'><div style='display: grid'><table><tr><td>",
        "word",
        "</table></div></div>",
        40,
    ),
)
_html(
    "flex items 3000",
    lambda: (
        "<div style='display: flex; flex-wrap: wrap'>"
        + "<p style='flex: 1 1 90px; min-width: 5px; max-width: 95px'>x" * 3000
    ),
)
_html(
    "grid items 3000",
    lambda: (
        "<div style='display: grid; grid-template-columns: repeat(auto-fill, minmax(30px, 1fr)); grid-auto-flow: dense'>"
        + "".join(
            f"<p style='grid-column: span {n % 5 + 1}; grid-row: span {n % 4 + 1}'>x</p>"
            for n in range(2000)
        )
    ),
)
_html(
    "grid lines far away",
    lambda: (
        "<div style='display: grid'>"
        + "".join(
            f"<p style='grid-column: {n * 99999}; grid-row: -{n * 99999}'>x</p>" for n in range(50)
        )
    ),
)

# -- other files


def _png(width: int, height: int) -> bytes:
    """A PNG that says it is that large, and holds next to nothing."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", head)
        + chunk(b"IDAT", zlib.compress(b"\0" * 99))
        + chunk(b"IEND", b"")
    )


def _woff(size: int) -> bytes:
    """WOFF 1.0: tables of nothing that unfold to `size` bytes each."""
    packer, piece = zlib.compressobj(9), b"\0" * 2**20
    packed = b"".join(packer.compress(piece) for _ in range(size // len(piece))) + packer.flush()
    tables, body, at = b"", b"", 44 + 20 * 8
    for name in (b"cmap", b"glyf", b"head", b"hhea", b"hmtx", b"loca", b"maxp", b"name"):
        tables += name + struct.pack(">IIII", at, len(packed), size, 0)
        body += packed + b"\0" * (-len(packed) % 4)
        at += len(packed) + -len(packed) % 4
    whole = 44 + len(tables) + len(body)
    head = b"wOFF" + struct.pack(
        ">IIHHIHHIIIII", 0x10000, whole, 8, 0, 12 + 16 * 8 + size * 8, 1, 0, 0, 0, 0, 0, 0
    )
    return head + tables + body


def _woff2(size: int) -> bytes:
    """WOFF 2.0 whose one stream unfolds to `size` bytes."""
    import brotli

    packer, piece = brotli.Compressor(quality=5, lgwin=24), b"\0" * 2**20
    packed = b"".join(packer.process(piece) for _ in range(size // len(piece))) + packer.finish()
    length = b""
    value = size
    while True:
        length = bytes([(value & 127) | (128 if length else 0)]) + length
        value >>= 7
        if not value:
            break
    directory = bytes([0x3F]) + b"abcd" + length
    whole = 48 + len(directory) + len(packed)
    head = b"wOF2" + struct.pack(
        ">IIHHIIHHIIIII", 0x10000, whole, 1, 0, 12 + 16 + size, len(packed), 1, 0, 0, 0, 0, 0, 0
    )
    made: bytes = head + directory + packed
    return made


_LAUGHS = (
    "<?xml version='1.0'?><!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'>"
    + "".join(f"<!ENTITY {chr(98 + n)} '{f'&{chr(97 + n)};' * 10}'>" for n in range(12))
    + "]><svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><text>&m;</text></svg>"
)
_USES = (
    "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='90' height='90'><defs><rect id='u0' width='9' height='9'/>"
    + "".join(
        f"<g id='u{n}'>{''.join(f'<use xlink:href=%su{n - 1}%s/>' % (chr(39) + '#', chr(39)) for _ in range(10))}</g>"
        for n in range(1, 12)
    )
    + "</defs><use xlink:href='#u11'/></svg>"
)
_OUTSIDE = "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='90' height='90'><image xlink:href='/dev/zero' width='9' height='9'/><image xlink:href='file:///dev/urandom' width='9' height='9'/><style>@import url(file:///dev/zero);</style></svg>"
_PICTURE = "<img src=p.{0}><p style='background: url(p.{0}) repeat'>x<ul style='list-style: url(p.{0})'><li>y</ul>"
for _name, _ending, _data in (
    ("svg of entities", "svg", lambda: _LAUGHS.encode()),
    ("svg of uses", "svg", lambda: _USES.encode()),
    ("svg that names devices", "svg", lambda: _OUTSIDE.encode()),
    ("svg deep", "svg", lambda: ("<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'>" + nested("<g>", "", "</g>", 50_000) + "</svg>").encode()),
    ("svg of many shapes", "svg", lambda: ("<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'>" + "<rect width='9' height='9'/>" * 100_000 + "</svg>").encode()),
    ("svg of a long path", "svg", lambda: ("<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><path d='M0 0" + " l1 1" * 300_000 + "'/></svg>").encode()),
    ("svg of huge size", "svg", lambda: b"<svg xmlns='http://www.w3.org/2000/svg' width='1e30' height='1e30'><rect width='1e30' height='1e30'/></svg>"),
    ("svg of filters", "svg", lambda: ("<svg xmlns='http://www.w3.org/2000/svg' width='9999' height='9999'><filter id='f'>" + "<feGaussianBlur stdDeviation='999'/>" * 300 + "</filter><rect filter='url(#f)' width='9999' height='9999'/></svg>").encode()),
    ("png of a hundred thousand px", "png", lambda: _png(100_000, 100_000)),
    ("png of no px", "png", lambda: _png(0, 0)),
    ("png cut off", "png", lambda: _png(9, 9)[:40]),
    ("gif of rubbish", "gif", lambda: b"GIF89a" + b"\xff" * 100_000),
    ("webp of rubbish", "webp", lambda: b"RIFF\xff\xff\xff\xffWEBPVP8L" + b"\xff" * 100_000),
    ("ico of many", "ico", lambda: b"\0\0\1\0\xff\xff" + b"\xff" * 100_000),
    ("jpeg of segments", "jpg", lambda: b"\xff\xd8" + b"\xff\xe1\xff\xff" + b"\0" * 200_000),
    ("tiff in a ring", "tif", lambda: b"II*\0\x08\0\0\0" + b"\0\0\x08\0\0\0" * 1000),
    ("psd of rubbish", "psd", lambda: b"8BPS\0\1" + b"\xff" * 1000),
    ("nothing", "png", lambda: b""),
):  # fmt: skip
    _add(
        f"picture: {_name}",
        lambda e=_ending, d=_data: {**page(_PICTURE.format(e) * 3), f"p.{e}": d()},  # type: ignore[misc]
    )
_FONT = "@font-face { font-family: f; src: url(f.woff) } p { font-family: f }"
for _name, _data in (
    ("woff that unfolds to a gigabyte", lambda: _woff(128 * 2**20)),
    ("woff2 that unfolds to a gigabyte", lambda: _woff2(2**30)),
    ("woff of rubbish", lambda: b"wOFF" + b"\xff" * 100_000),
    ("woff2 of rubbish", lambda: b"wOF2" + b"\xff" * 100_000),
    ("truetype of rubbish", lambda: b"\0\1\0\0" + b"\xff" * 100_000),
    ("truetype of many tables", lambda: b"\0\1\0\0\xff\xff" + b"\0" * 100_000),
    ("opentype cut off", lambda: b"OTTO\0\1"),
    ("nothing", lambda: b""),
):
    _add(f"font: {_name}", lambda d=_data: {**page("<p>x y z", _FONT), "f.woff": d()})  # type: ignore[misc]
_SHEET = "<link rel=stylesheet href=s.css>"
for _name, _data in (
    ("imports itself", lambda: b"@import 's.css'; p { width: 9px }"),
    ("imports itself thousands of times", lambda: b"@import 's.css';" * 5000),
    ("imports one another", lambda: b"@import 't.css'; @import 't.css';"),
    ("of zero bytes", lambda: b"\0" * 100_000),
    ("of rubbish", lambda: bytes(range(256)) * 1000),
    ("in utf-16 without end", lambda: b"\xff\xfe" + b"p\0{\0" * 10_000 + b"\0"),
    ("of an encoding that is none", lambda: b'@charset "zlib_codec"; p { width: 9px }'),
    ("of another encoding that is none", lambda: b'@charset "unicode_escape"; p { width: 9px }'),
    ("of ten megabytes", lambda: b"p{width:9px}" * 800_000),
):
    _add(
        f"sheet: {_name}",
        lambda d=_data: {  # type: ignore[misc]
            **page("<p>x", head=_SHEET),
            "s.css": d(),
            "t.css": b"@import 's.css'; @import 'u.css';" * 50,
            "u.css": b"@import 't.css'; p { top: 0 }",
        },
    )
for _codec in (
    "utf-7",
    "zlib",
    "idna",
    "punycode",
    "rot13",
    "raw_unicode_escape",
    "undefined",
    "utf-16",
    "x" * 500,
    "utf-32",
    "hz-gb-2312",
    "iso-2022-jp",
):
    _add(
        f"charset: {_codec[:20]}",
        lambda c=_codec: {"index.html": f"<!doctype html><meta charset='{c}'><p>+ADw-script+AD4- ~{{\x1b$B!".encode() + b"\xe4\xff"},  # type: ignore[misc]
    )  # fmt: skip
_add(
    "data: a picture of a megabyte",
    lambda: page(f"<img src='data:image/png;base64,{base64.b64encode(bytes(1_000_000)).decode()}'>"),
)
_add(
    "data: many", lambda: page("".join(f"<img src='data:image/svg+xml,<svg/>{n}'>" for n in range(2000)))
)
_add(
    "data: in itself",
    lambda: page(
        "<p>x", head="<link rel=stylesheet href=\"data:text/css,@import 'data:text/css,p{}'\">"
    ),
)
_add("bytes: rubbish", lambda: {"index.html": bytes(range(1, 256)) * 2000})
_add("bytes: high ones", lambda: {"index.html": b"<p>" + b"\xff" * 1_000_000})
_add("bytes: nothing", lambda: {"index.html": b""})
_add("bytes: carriage returns", lambda: {"index.html": b"<p>\r\r\n\n\r" * 3000})
_add("bytes: form feeds", lambda: {"index.html": b"\x0c<p>\x0c" * 3000})
_add("bytes: zero late", lambda: {"index.html": b"<p>" + b"x" * 5000 + b"\0" * 1000})
_add(
    "names: of a kernel's files",
    lambda: page(
        "<img src=/proc/self/mem><img src='file:///dev/zero'><link rel=stylesheet href=/dev/zero>"
    ),
)
_add(
    "names: a path of a megabyte",
    lambda: page(f"<img src='{'a/' * 500_000}x.png'><link rel=stylesheet href='{'../' * 10_000}x.css'>"),
)
_add("names: with zeros", lambda: page("<img src='a%00b.png'><link rel=stylesheet href='s%00.css'>"))
