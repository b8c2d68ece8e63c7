"""Where a value ends to be valid: the last one that is taken, and the first one that is not."""

import pytest

from tests.conftest import PageOf, by_id

# Property, valid values, and values that are dropped with a notice.
BOUNDS = {
    "font-weight": (("1", "1000", "400"), ("0", "1001", "-1", "1 2")),
    "opacity": (("0", "1", "50%"), ("red",)),
    "z-index": (("-1", "0", "auto"), ("1.5", "1px")),
    "width": (("0", "1px", "auto"), ("-1px", "1", "1px 1px")),
    "padding-left": (("0", "1px", "1%"), ("-1px", "auto")),
    "margin-left": (("-1px", "auto", "1%"), ("1", "none")),
    "border-left-width": (("0", "thin", "3px"), ("-1px", "1%")),
    "line-height": (("0", "1.5", "10px", "120%"), ("-1", "-1px")),
    "font-size": (("0", "10px", "smaller", "120%"), ("-1px", "10")),
    "text-indent": (("-10px", "5%"), ("10", "auto")),
    "letter-spacing": (("-1px", "normal"), ("1", "5 5")),
    "max-width": (("none", "0", "10px"), ("auto", "-1px")),
    "min-width": (("auto", "0", "10px"), ("none", "-1px")),
    "aspect-ratio": (("1", "auto", "16 / 9", "auto 2"), ("-1", "1 2", "1 /")),
    "flex-grow": (("0", "1.5"), ("-1", "1px")),
    "order": (("-1", "3"), ("1.5",)),
    "tab-size": (("0", "4", "10px"), ("-1", "5%")),
    "display": (("none", "inline flow-root", "block"), ("blocks", "block block")),
    "color": (("#123", "#12345678", "rgb(1 2 3 / 50%)", "hsl(10deg 5% 5%)"), ("#12", "#12345")),
    "background-position": (("left 10px top 5%", "center", "right"), ("left left", "10px 10px 10px")),
}  # fmt: skip
CASES = [(name, value, True) for name, (good, _) in BOUNDS.items() for value in good]
CASES += [(name, value, False) for name, (_, bad) in BOUNDS.items() for value in bad]


@pytest.mark.parametrize(("name", "value", "valid"), CASES)
def test_bounds(page_of: PageOf, name: str, value: str, valid: bool) -> None:
    """A valid one wins over the one before; an invalid one leaves a notice and nothing else."""
    page = page_of("<span id='a'>x</span>", f"#a {{ {name}: {value} }}")
    element = by_id(page, "a")
    told = [n for n in page.notices if name in n.sentence]
    assert (page.origin_of(element, name) is not None) is valid
    assert bool(told) is not valid, told
