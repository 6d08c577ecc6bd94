"""`./leadsman test`: what the tests need, then pytest."""

import os
import subprocess
import sys

from leadsman.launch import PROJECT, LaunchError, front_end
from leadsman.launch.debian import CHROMEDRIVER, CHROMIUM, POSTGRES, require


def run_tests(words: list[str]) -> int:
    """Install what is missing, build the front end, run pytest with further words, return its exit code."""
    try:
        require((POSTGRES, CHROMIUM, CHROMEDRIVER))
        front_end.install_modules()
        front_end.build()
    except LaunchError as error:
        print(error, file=sys.stderr)
        return 1
    return subprocess.run([sys.executable, "-m", "pytest", *words], cwd=PROJECT, env=os.environ, check=False).returncode
