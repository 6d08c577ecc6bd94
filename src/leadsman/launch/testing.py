"""`./leadsman test` and `./leadsman bench`: what they need, then pytest or the benchmarks."""

import os
import subprocess
import sys

from leadsman.launch import PROJECT, LaunchError, front_end
from leadsman.launch.debian import CHROMEDRIVER, CHROMIUM, POSTGRES, require

LONG, LONG_TESTS = "--long", "LEADSMAN_LONG_TESTS"


def make_ready() -> bool:
    """Install what is missing and build the front end; where that fails, say why and return False."""
    try:
        require((POSTGRES, CHROMIUM, CHROMEDRIVER))
        front_end.install_modules()
        front_end.build()
    except LaunchError as error:
        print(error, file=sys.stderr)
        return False
    return True


def run_benchmarks() -> int:
    """Run the benchmarks; return 0 where every limit is kept."""
    if not make_ready():
        return 1
    return subprocess.run([sys.executable, "-m", "bench"], cwd=PROJECT, env=os.environ, check=False).returncode


def run_tests(words: list[str]) -> int:
    """Run pytest with further words; return its exit code.

    With `--long` among them, properties are tried on many examples, and on others each time.
    """
    if not make_ready():
        return 1
    workers = str((os.cpu_count() or 1) + 1)  # the tests in a browser wait now and then
    environment = {"PYTEST_XDIST_AUTO_NUM_WORKERS": workers, **os.environ}
    if LONG in words:
        environment[LONG_TESTS] = "1"
    words = [word for word in words if word != LONG]
    command = [sys.executable, "-m", "pytest", *words]
    return subprocess.run(command, cwd=PROJECT, env=environment, check=False).returncode
