"""Whether a process lives, and what one that we start is told."""

import ctypes
import os
import signal
from collections.abc import Mapping
from pathlib import Path

PR_SET_PDEATHSIG = 1  # linux/prctl.h


def end_with_parent() -> None:
    """Have this process ended when the one that started it is, even by a kill."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def is_alive(process_id: int | None) -> bool:
    """Whether a process runs; one that has ended and waits to be reaped by its parent does not."""
    try:
        return "\nState:\tZ" not in Path(f"/proc/{process_id}/status").read_text()
    except (FileNotFoundError, ProcessLookupError):
        return False


def is_ending(process_id: int | None) -> bool:
    """Whether a process that has ended, or is ending, still has its number: it has let go of its folder by then."""
    here = Path(f"/proc/{process_id}")
    try:
        (here / "cwd").readlink()
    except FileNotFoundError:
        return here.exists()
    except (ProcessLookupError, PermissionError):
        return False
    return False


def bare_environment(more: Mapping[str, str]) -> dict[str, str]:
    """Return an environment for a program of somebody else's: where programs are, and what is given; none of ours."""
    return {"PATH": os.environ.get("PATH", "/usr/bin:/bin"), "LC_ALL": "C.UTF-8", **more}
