"""Starting and stopping: what a machine must have, the database cluster, the front end, the server."""

from pathlib import Path

PROJECT = Path(__file__).resolve().parents[3]


class LaunchError(Exception):
    """A step of starting failed; the text says what, and what to do about it."""


def step(text: str) -> None:
    """Say that a step begins."""
    print(f"· {text}", flush=True)
