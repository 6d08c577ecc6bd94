"""What ends by itself is started again, later each time; what has had its time is removed from the database."""

import time
from collections.abc import Callable, Sequence
from typing import NoReturn, Protocol

import psycopg

from leadsman.db.tidy import tidy
from leadsman.launch import LaunchError, step

LOOK_EVERY_S = 0.5
LONGEST_PAUSE_S = 60.0
CALM_S = 300.0
TIDY_FIRST_S, TIDY_EVERY_S = 60.0, 3600.0


class Runs(Protocol):
    """Something that should run."""

    @property
    def name(self) -> str:
        """What it is called in a sentence."""

    def is_running(self) -> bool:
        """Whether it runs."""

    def start(self) -> None:
        """Start it again."""


class Kept:
    """Something that is started again when it has ended: at once, then after 1, 2, 4 s and so on up to a minute."""

    def __init__(self, runs: Runs, clock: Callable[[], float] = time.monotonic) -> None:
        self._runs, self._clock = runs, clock
        self._pause_s, self._started_at, self._not_before = 0.0, clock(), 0.0
        self._ended = False

    def look(self) -> None:
        """Look whether it runs, and start it where it does not and it is time."""
        now = self._clock()
        if self._runs.is_running():
            self._ended = False
            return
        if not self._ended:
            self._ended = True
            calm = now - self._started_at > CALM_S
            self._pause_s = 0.0 if calm else min(max(1.0, 2.0 * self._pause_s), LONGEST_PAUSE_S)
            self._not_before = now + self._pause_s
            later = f" in {self._pause_s:.0f} s" if self._pause_s else ""
            step(f"{self._runs.name} ended by itself; starting it again{later}")
        if now < self._not_before:
            return
        try:
            self._runs.start()
        except LaunchError as error:
            step(f"{self._runs.name} does not start: {error}")
        self._started_at, self._ended = self._clock(), False


def keep_running(running: Sequence[Runs], database_url: str) -> NoReturn:
    """Keep all of it running, and its database tidy, until an exception ends that, as of a signal."""
    kept = [Kept(runs) for runs in running]
    tidy_at = time.monotonic() + TIDY_FIRST_S
    while True:
        time.sleep(LOOK_EVERY_S)
        for one in kept:
            one.look()
        if time.monotonic() > tidy_at:
            tidy_at = time.monotonic() + TIDY_EVERY_S
            tidy_now(database_url)


def tidy_now(database_url: str) -> None:
    """Remove what has had its time from a database; where that fails it is tried again next time."""
    try:
        with psycopg.connect(database_url) as connection:
            removed = tidy(connection)
    except psycopg.Error as error:
        step(f"old autosaves were not thinned out: {error}")
        return
    if removed and (removed.plans or removed.revisions):
        step(f"removed {removed.revisions} old autosaves, and {removed.plans} plans deleted over 30 days ago")
