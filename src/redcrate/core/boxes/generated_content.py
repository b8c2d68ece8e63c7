"""What `content` comes to, with quotation marks and counters: CSS Content 3 §2 and §3, CSS Lists 3 §4.

Quotes and counters hang on all that stands before them in the document, so a page that uses them is
walked once in its order.
"""

from collections.abc import Iterator, Sequence
from itertools import chain, groupby
from operator import itemgetter
from typing import TypeAlias

from redcrate.core.boxes.markers import counter_text
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.styling import StyledTree

# Of one pseudo-element: texts, and addresses of pictures, in order.
Parts: TypeAlias = tuple[tuple[str, str], ...]  # ("text" | "url", what)
_GENERATED = ("before", "after")
MOST_GENERATED = 200_000  # characters of quotes, counters and what stands beside them, of a page
_LONGEST = 1000  # characters of one text or attribute
_ENGLISH = (("“", "”"), ("‘", "’"))  # where `quotes` is auto


class GeneratedContent:
    """The content of the pseudo-elements of a page."""

    def __init__(self, styled: StyledTree) -> None:
        self._styled = styled
        hanging = any(
            part[0] in ("quote", "counter") for s in styled.pseudo.values() for part in _written(s)
        )
        self.hanging: dict[tuple[Element, str], Parts] = {}
        self.cut: tuple[str, ...] = tuple(dict.fromkeys(_cut(styled)))
        if hanging:
            counted = _Counted(styled)
            self.hanging = counted.run()
            if counted.is_cut:
                self.cut += (
                    f"quotes and counters have more than {MOST_GENERATED} characters: the rest is not laid out.",
                )

    def parts(self, element: Element, kind: str, style: ComputedStyle) -> Parts:
        """What stands in the pseudo-element of that style."""
        known = self.hanging.get((element, kind))
        if known is None:
            known = tuple(_plain(element, part) for part in _written(style))
        return tuple(_together(known))

    def first_text(self, element: Element, style: ComputedStyle) -> str:
        """The text that an element's ::before begins with."""
        first = next(iter(self.parts(element, "before", style)), ("", ""))
        return first[1] if first[0] == "text" else ""


def _together(parts: Parts) -> Iterator[tuple[str, str]]:
    """Parts with texts beside one another as one text, none of them empty."""
    for kind, alike in groupby(parts, itemgetter(0)):
        if kind != "text":
            yield from alike
        elif text := "".join(what for _, what in alike):
            yield kind, text


def _cut(styled: StyledTree) -> Iterator[str]:
    """The sentences about texts of `content` that are too long."""
    for (element, kind), style in styled.pseudo.items():
        for part in _written(style):
            if part[0] == "string" and len(part[1]) > _LONGEST:
                yield (
                    f"the content of {element.label}::{kind} has {len(part[1])} characters: only the "
                    f"first {_LONGEST} are laid out."
                )


def _written(style: ComputedStyle) -> tuple[tuple[str, ...], ...]:
    return style.content if isinstance(style.content, tuple) else ()


def _plain(element: Element, part: tuple[str, ...]) -> tuple[str, str]:
    """A part that hangs on nothing but the element."""
    kind, value, *rest = part
    if kind == "attr":
        value = element.attributes.get(value, rest[0] if rest else "")
    return ("url", value) if kind == "url" else ("text", value[:_LONGEST])


@dataclass(slots=True)
class _Scope:
    """One counter of a name; it counts for `parent`'s children after its own element, and inside these."""

    parent: Element | None
    value: int


class _Counted:
    """One walk in document order; depth: how many quotations are open."""

    def __init__(self, styled: StyledTree) -> None:
        self._styled = styled
        self._scopes: dict[str, list[_Scope]] = {}
        self._depth = 0
        self._left = MOST_GENERATED
        self.is_cut = False  # whether there was no room for some
        self._found: dict[tuple[Element, str], Parts] = {}

    def run(self) -> dict[tuple[Element, str], Parts]:
        """The parts of every pseudo-element that is generated."""
        root = self._styled.markup.listed[0]
        stack: list[tuple[Element, bool]] = [(root, False)]
        while stack:
            element, ends = stack.pop()
            style = self._styled.styles.get(element)
            if style is None or style.display == "none":
                continue
            if ends:
                self._generate(element, "after")
                self._close(element)
                continue
            self._count(style, element.parent)
            self._generate(element, "before")
            stack.append((element, True))
            stack.extend((c, False) for c in reversed(element.child_elements))
        return self._found

    def _close(self, element: Element) -> None:
        """An element ends, and with it the counters that its children began."""
        for scopes in self._scopes.values():
            while scopes and scopes[-1].parent is element:
                scopes.pop()

    def _count(self, style: ComputedStyle, parent: Element | None) -> None:
        """CSS Lists 3 §4.1–4.3: resets, then increments, then sets."""
        for name, value in style.counter_reset:
            scopes = self._scopes.setdefault(name, [])
            if scopes and scopes[-1].parent is parent:
                scopes.pop()  # a sibling's counter of that name ends here
            scopes.append(_Scope(parent, value))
        changes = chain(
            ((c, True) for c in style.counter_increment), ((c, False) for c in style.counter_set)
        )
        for (name, value), adds in changes:
            scopes = self._scopes.setdefault(name, [])
            if not scopes:
                scopes.append(_Scope(parent, 0))
            scopes[-1].value = scopes[-1].value + value if adds else value

    def _generate(self, element: Element, kind: str) -> None:
        style = self._styled.pseudo.get((element, kind))
        if style is None or style.display == "none":
            return
        self._count(style, element)
        self._found[(element, kind)] = tuple(self._bounded(self._resolved(element, style)))

    def _bounded(self, parts: Iterator[tuple[str, str]]) -> Iterator[tuple[str, str]]:
        """The parts as far as there is room for their texts: quotes and counters of a page can grow without end."""
        for kind, what in parts:
            text = what[: self._left] if kind == "text" else what
            self._left -= len(text) if kind == "text" else 0
            self.is_cut = self.is_cut or len(text) < len(what)
            yield kind, text

    def _resolved(self, element: Element, style: ComputedStyle) -> Iterator[tuple[str, str]]:
        for part in _written(style):
            if part[0] == "quote":
                yield "text", self._quote(part[1], style.quotes)
            elif part[0] == "counter":
                yield "text", self._counter(part)
            else:
                yield _plain(element, part)

    def _counter(self, part: Sequence[str]) -> str:
        """§4.5: the innermost value, or all from the outermost with a text between."""
        _, name, style, *between = part
        values = [s.value for s in self._scopes.get(name, ())] or [0]
        if not between:
            return counter_text(style, values[-1])
        return between[0].join(counter_text(style, v) for v in values)

    def _quote(self, what: str, quotes: tuple[tuple[str, str], ...] | str) -> str:
        """CSS Content 3 §3.2: opening goes a level down, closing comes back; never above the outermost."""
        pairs = quotes if isinstance(quotes, tuple) else _ENGLISH if quotes == "auto" else ()
        opens = what.endswith("open-quote")
        if not opens and not self._depth:
            return ""
        level = self._depth if opens else self._depth - 1
        self._depth += 1 if opens else -1
        if what.startswith("no-") or not pairs:
            return ""
        return pairs[min(level, len(pairs) - 1)][0 if opens else 1]
