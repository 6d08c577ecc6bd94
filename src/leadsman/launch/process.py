"""Whether a process lives."""

from pathlib import Path


def is_alive(process_id: int | None) -> bool:
    """Whether a process runs; one that has ended and waits to be reaped by its parent does not."""
    try:
        return "\nState:\tZ" not in Path(f"/proc/{process_id}/status").read_text()
    except (FileNotFoundError, ProcessLookupError):
        return False
