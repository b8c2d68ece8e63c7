"""The short run of the campaigns of faults; `tools/faults.py --long` makes the long one."""

import subprocess
import sys

import pytest

from tests.conftest import ROOT


@pytest.mark.parametrize("campaign", ["kills", "refusals", "sessions", "damages", "requests"])
def test_nothing_goes_wrong_in_a_short_run_of_each_campaign(campaign: str) -> None:
    """Kills inside saves, refused calls, random sessions, damaged data files, requests of strangers."""
    given = [sys.executable, "tools/faults.py", "--seed", "1", "--only", campaign]
    done = subprocess.run(given, cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 0 and ", 0 went wrong," in done.stdout, f"{done.stdout}{done.stderr}"
