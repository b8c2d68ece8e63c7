"""What stands in front of the block of an at-rule: conditions, layers, addresses."""

from functools import lru_cache
from typing import Any

from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import css_text, stylesheet_nodes
from redcrate.core.style.layers import LayerName
from redcrate.core.style.media import MediaList, parse_media_list
from redcrate.core.style.property_parsers import split_commas


@lru_cache(256)
def condition_node(text: str) -> Any:
    """The syntax node of a condition with nothing in it: a framework has some, each dozens of times."""
    (node,) = stylesheet_nodes(text)
    return node


def media_of(node: Any) -> MediaList:
    """The queries of a @media rule; kept for a condition that is read by itself."""
    return _read_media(node) if node.content else _kept_media(node)


def _read_media(node: Any) -> MediaList:
    return parse_media_list(node.prelude, css_text(node.prelude).strip())


_kept_media = lru_cache(256)(_read_media)


def layer_names(prelude: list[Any]) -> list[LayerName]:
    """The names in a @layer rule: words joined by dots, with commas between."""
    names: list[LayerName] = []
    for part in split_commas(significant(prelude)):
        words = tuple(t.value for t in part if t.type == "ident")
        if words:
            names.append(words)
    return names


def import_address(token: Any) -> str | None:
    """The address in an @import rule, from its first token: CSS Cascade 5 §2."""
    if token.type in ("string", "url"):
        return str(token.value)
    if token.type == "function" and token.lower_name == "url":
        inner = [t for t in token.arguments if t.type == "string"]
        return str(inner[0].value) if inner else None
    return None
