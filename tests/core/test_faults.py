"""The short run of the campaigns of faults; `tools/faults.py --long` makes the long one."""

import subprocess
import sys

from tests.conftest import ROOT


def test_nothing_goes_wrong_in_a_short_run_of_each_campaign() -> None:
    """Kills inside saves, refused calls, random sessions, damaged data files, requests of strangers."""
    done = subprocess.run(
        [sys.executable, "tools/faults.py", "--seed", "1"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, f"{done.stdout}{done.stderr}"
    assert done.stdout.count(", 0 went wrong,") == 5
