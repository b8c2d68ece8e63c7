"""Starting a page: the template that a designer asks for, as clean HTML and CSS that a beginner can read."""

from html import escape

from redcrate.core.edit.typed import format_length
from redcrate.core.errors import EditRefused
from redcrate.core.labelled import Labelled
from redcrate.core.records import dataclass


class WrapperKind(Labelled):
    """How the wrapper gets its width; the values are the words of the interface."""

    FIXED = "fixed", "fixed (width), px"
    SHARE = "share", "share (width), %"
    LARGEST = "limited", "limited (max-width), px"


class MainKind(Labelled):
    """What the main part holds."""

    COLUMNS = "columns", "columns"
    ASIDE = "aside", "content and aside"


@dataclass(frozen=True, slots=True)
class Frame:
    """What a new page is to have. Widths and gaps in px; wrapper_width in % for a share."""

    title: str = "New page"
    wrapper: WrapperKind = WrapperKind.LARGEST
    wrapper_width: float = 960
    header: bool = True
    links: tuple[str, ...] = ("Home", "Work", "Contact")
    main: MainKind = MainKind.COLUMNS
    columns: int = 3
    gap: float = 20
    aside_share: float = 30  # % of the main part
    footer_parts: int = 2  # 0: no footer


def frame_problem(frame: Frame) -> str:
    """What is wrong with the wishes, as a sentence; "" if nothing is."""
    if frame.wrapper_width <= 0 or (frame.wrapper is WrapperKind.SHARE and frame.wrapper_width > 100):
        return "The wrapper's width must be more than 0, and a share at most 100 %."
    if not 1 <= frame.columns <= 12 or not 0 <= frame.footer_parts <= 12:
        return "Choose 1 to 12 columns and up to 12 footer parts."
    if frame.gap < 0 or not 5 <= frame.aside_share <= 80:
        return "The gap cannot be negative, and the aside is 5 to 80 % wide."
    if frame.wrapper is not WrapperKind.SHARE and frame.gap * (frame.columns - 1) >= frame.wrapper_width:
        return "The gaps alone are wider than the wrapper."
    return ""


def frame_html(frame: Frame, stylesheet: str = "style.css") -> str:
    """The HTML of a frame, linking `stylesheet`. Raises EditRefused if the wishes cannot be met."""
    _check(frame)
    parts: list[str] = []
    if frame.header:
        parts.append(f'    <header class="header">\n      <h1>{escape(frame.title)}</h1>\n    </header>')
    if frame.links:
        links = "\n".join(f'      <a href="#">{escape(link)}</a>' for link in frame.links)
        parts.append(f'    <nav class="links">\n{links}\n    </nav>')
    parts.append(_main_html(frame))
    if frame.footer_parts:
        inner = "\n".join(
            f'      <div class="part">Part {n + 1} of the footer</div>'
            for n in range(frame.footer_parts)
        )
        parts.append(f'    <footer class="footer">\n{inner}\n    </footer>')
    body = "\n".join(parts)
    return (
        "<!doctype html>\n"
        '<html lang="en">\n<head>\n  <meta charset="utf-8">\n'
        f"  <title>{escape(frame.title)}</title>\n"
        '  <meta name="viewport" content="width=device-width">\n'
        f'  <link rel="stylesheet" href="{escape(stylesheet)}">\n</head>\n'
        f'<body>\n  <div class="wrapper">\n{body}\n  </div>\n</body>\n</html>\n'
    )


def _main_html(frame: Frame) -> str:
    if frame.main is MainKind.ASIDE:
        inside = (
            '      <div class="content">\n        <h2>The main part</h2>\n        <p>Text goes here.</p>\n'
            '      </div>\n      <aside class="aside">\n        <p>Beside it.</p>\n      </aside>'
        )
    else:
        inside = "\n".join(
            f'      <article class="column">\n        <h2>Column {n + 1}</h2>\n'
            "        <p>Text goes here.</p>\n      </article>"
            for n in range(frame.columns)
        )
    return f'    <main class="main">\n{inside}\n    </main>'


def frame_css(frame: Frame) -> str:
    """The stylesheet of a frame."""
    _check(frame)
    width = format_length(frame.wrapper_width)
    wrapper = {
        WrapperKind.FIXED: f"width: {width}px;",
        WrapperKind.SHARE: f"width: {width}%;",
        WrapperKind.LARGEST: f"max-width: {width}px;",
    }[frame.wrapper]
    rules = [
        "/* Every width includes padding and border. */\n* {\n  box-sizing: border-box;\n}",
        "body {\n  margin: 0;\n  font-family: sans-serif;\n  line-height: 1.5;\n}",
        "/* Both side margins auto: the wrapper is centred. */\n"
        f".wrapper {{\n  {wrapper}\n  margin: 0 auto;\n}}",
    ]
    if frame.header:
        rules.append(".header {\n  padding: 20px;\n}\n\n.header h1 {\n  margin: 0;\n}")
    if frame.links:
        rules.append(
            "/* Inline-blocks: their padding moves the content below. */\n"
            ".links {\n  padding: 0 20px;\n}\n\n"
            ".links a {\n  display: inline-block;\n  padding: 8px 12px;\n}"
        )
    rules.append(_main_css(frame))
    if frame.footer_parts:
        share = _share(frame.footer_parts, frame.gap)
        rules.append(
            ".footer {\n  overflow: hidden; /* contains its floats */\n  padding: 20px 0;\n}\n\n"
            + _column_css(".part", share, frame.gap)
        )
    return "\n\n".join(rules) + "\n"


def _main_css(frame: Frame) -> str:
    holder = ".main {\n  overflow: hidden; /* contains its floats */\n  padding: 20px 0;\n}\n\n"
    if frame.main is MainKind.COLUMNS:
        return holder + _column_css(".column", _share(frame.columns, frame.gap), frame.gap)
    aside, rest = format_length(frame.aside_share), format_length(100 - frame.aside_share)
    gap = format_length(frame.gap)
    width = f"calc({rest}% - {gap}px)" if frame.gap else f"{rest}%"
    return (
        f"{holder}.content {{\n  float: left;\n  width: {width};\n  padding: 0 20px;\n}}\n\n"
        f".aside {{\n  float: right;\n  width: {aside}%;\n  padding: 0 20px;\n}}"
    )


def _column_css(selector: str, share: str, gap: float) -> str:
    text = f"{selector} {{\n  float: left;\n  width: {share};\n  padding: 0 20px;\n}}"
    if gap:
        text += f"\n\n{selector} + {selector} {{\n  margin-left: {format_length(gap)}px;\n}}"
    return text


def _share(count: int, gap: float) -> str:
    """The width of one of `count` columns: all of them and the gaps are exactly the whole."""
    if count == 1:
        return "100%"
    if not gap:
        return f"calc(100% / {count})"
    return f"calc((100% - {format_length(gap * (count - 1))}px) / {count})"


def _check(frame: Frame) -> None:
    problem = frame_problem(frame)
    if problem:
        raise EditRefused(problem)
