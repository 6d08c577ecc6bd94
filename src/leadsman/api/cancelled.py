"""Work that has to end: whoever asked has gone, or it takes longer than one request may.

Either way the processor is free for the next question.
"""

import time

from flask import Flask, g, request

from leadsman.api.lanes import Lane, lane_of

BUDGET_S = {Lane.QUICK: 20.0, Lane.EDIT: 20.0, Lane.LONG: 120.0}


class Cancelled(Exception):
    """Whoever asked no longer listens."""


class OverBudget(Exception):
    """A request takes longer than its kind may [s]."""

    def __init__(self, budget_s: float) -> None:
        super().__init__(f"more than {budget_s:g} s")
        self.budget_s = budget_s


def count_time(app: Flask) -> None:
    """Have the time of every request counted from when a thread takes it."""

    @app.before_request
    def begin() -> None:
        g.begun_s, g.budget_s = time.monotonic(), BUDGET_S[lane_of(request.method, request.path)]


def check_client() -> None:
    """Raise where the work on the request in hand has to end.

    Raises:
        Cancelled: its connection was closed from the other side, as the server tells with the request.
        OverBudget: it has taken all the time it may.
    """
    gone = request.environ.get("waitress.client_disconnected")
    if gone is not None and gone():
        raise Cancelled
    if time.monotonic() - g.begun_s > g.budget_s:
        raise OverBudget(g.budget_s)
