"""Every reference case against the measured geometry, to 0.05 px."""

import json

import pytest

from redcrate.core.report import box_report
from tests.conftest import CASES, load
from tests.reference.compare import compare_case

NOT_YET = {
    line.split(":", 1)[0].strip(): line.split(":", 1)[1].strip()
    for line in (CASES.parent / "not_yet_right.txt").read_text(encoding="utf-8").splitlines()
    if line.strip() and not line.startswith("#")
}
NAMES = sorted(p.stem for p in CASES.glob("*.json"))


@pytest.mark.parametrize("name", NAMES)
def test_case(name: str) -> None:
    """All boxes are right; a case listed as not yet right must still be wrong."""
    expected = json.loads((CASES / f"{name}.json").read_text(encoding="utf-8"))
    size = expected["viewport"]
    page = load(CASES / f"{name}.html", size["width"], size["height"])
    outcome = compare_case(expected, box_report(page, name))
    if name in NOT_YET:
        assert not outcome["ok"], f"{name} is right now: take it out of not_yet_right.txt"
    else:
        assert outcome["ok"], outcome["error"] or outcome["differences"][:3]


def test_the_list_names_real_cases_with_reasons() -> None:
    """The list of cases not yet right has no stale names, and a reason for each."""
    assert set(NOT_YET) <= set(NAMES)
    assert all(len(reason) > 10 for reason in NOT_YET.values())
