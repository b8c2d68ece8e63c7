"""@supports: CSS Conditional Rules 4 §2 and §3.

A condition asks what browsers of today carry out, not what Red Crate computes: a page shows its rules for
grid to a reader whose browser lays out grids. So what the table of standards allows is supported.
"""

from collections.abc import Sequence
from typing import Any

from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import block_contents
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.selectors import SelectorNotUnderstood, compile_selectors
from redcrate.core.style.standards import standards

_DEEPEST = 32


def is_supported(tokens: Sequence[Any], depth: int = 0) -> bool:
    """Whether a condition holds; one that nobody understands does not."""
    words = significant(list(tokens))
    if depth > _DEEPEST or not words:
        return False
    if _is(words[0], "not"):
        return len(words) == 2 and not _in_parens(words[1], depth)
    joints = [t.lower_value for t in words[1::2] if t.type == "ident"]
    if len(words) % 2 == 0 or len(joints) != len(words) // 2 or len(set(joints)) > 1:
        return False
    parts = (_in_parens(word, depth) for word in words[::2])
    if not joints:
        return next(parts)
    return any(parts) if joints[0] == "or" else joints[0] == "and" and all(parts)


def _is(token: Any, word: str) -> bool:
    return bool(token.type == "ident" and token.lower_value == word)


def _in_parens(token: Any, depth: int) -> bool:
    if token.type == "function" and token.lower_name == "selector":
        return _knows_selector(token.arguments)
    if token.type != "() block":
        return False
    nodes = block_contents(token.content)
    if len(nodes) == 1 and nodes[0].type == "declaration":
        return _allows(nodes[0])
    return is_supported(token.content, depth + 1)


def _allows(declaration: Any) -> bool:
    name = declaration.name if declaration.name.startswith("--") else declaration.lower_name
    if parse_declaration(name, declaration.value) is not None:
        return True
    table = standards()
    return name in table.properties and table.grammars.allows(name, significant(declaration.value))


def _knows_selector(tokens: Sequence[Any]) -> bool:
    try:
        compile_selectors(list(tokens))
    except SelectorNotUnderstood:
        return False
    return True
