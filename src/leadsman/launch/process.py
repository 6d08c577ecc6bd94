"""Whether a process lives, and what one that we start is told."""

import os
from collections.abc import Mapping
from pathlib import Path


def is_alive(process_id: int | None) -> bool:
    """Whether a process runs; one that has ended and waits to be reaped by its parent does not."""
    try:
        return "\nState:\tZ" not in Path(f"/proc/{process_id}/status").read_text()
    except (FileNotFoundError, ProcessLookupError):
        return False


def bare_environment(more: Mapping[str, str]) -> dict[str, str]:
    """Return an environment for a program of somebody else's: where programs are, and what is given; none of ours."""
    return {"PATH": os.environ.get("PATH", "/usr/bin:/bin"), "LC_ALL": "C.UTF-8", **more}
