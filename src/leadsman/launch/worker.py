"""A gunicorn worker on waitress: connections that are slow or idle cost no thread, and saves never wait for analyses.

One loop reads requests whole, however slowly they come; only then a thread takes them. Each thread is of one lane: what
calculates long waits in its own, and so do the edits of a hand that draws.
"""

import os
import resource
import time
from copy import copy
from logging import CRITICAL, Logger
from typing import Any

from gunicorn.workers.base import Worker
from waitress import wasyncore
from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer
from waitress.task import ThreadedTaskDispatcher

from leadsman.api.body_size import largest_body
from leadsman.api.lanes import Lane, lane_of

THREADS = {Lane.QUICK: 6, Lane.EDIT: 2, Lane.LONG: 2}
MOST_CONNECTIONS = 2_000
HEADER_S, BODY_S, IDLE_S = 20.0, 120.0, 75.0
BEAT_S = 1.0
STOP_WAIT_S = 5
HEADER_BYTES = 64_000
MEMORY_BYTES = 1_300_000_000  # two of the largest plans that are judged take 0.9 GB at once, as measured


class Lanes:
    """Hands each request to a thread of its lane."""

    def __init__(self) -> None:
        self._lanes = {lane: ThreadedTaskDispatcher() for lane in Lane}
        for lane, threads in self._lanes.items():
            threads.queue_logger = Logger("lanes", CRITICAL)  # waiting is what lanes are for
            threads.set_thread_count(THREADS[lane])

    def add_task(self, channel: HTTPChannel) -> None:
        """Queue a channel, whose first request has come whole."""
        request = channel.requests[0]
        lane = Lane.QUICK if request.error else lane_of(request.command, request.path)
        self._lanes[lane].add_task(channel)

    def shutdown(self, cancel_pending: bool = True, timeout: float = STOP_WAIT_S) -> None:
        """Let the threads end."""
        for threads in self._lanes.values():
            threads.shutdown(cancel_pending, timeout)


class _Request(HTTPRequestParser):  # type: ignore[misc]
    """A request that may be as large as where it goes takes."""

    adj: Adjustments

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        self.adj = copy(self.adj)
        self.adj.max_request_body_size = largest_body(self.path)


class _Channel(HTTPChannel):  # type: ignore[misc]
    """A connection that is closed when a request takes too long to come, whatever dribbles in meanwhile."""

    parser_class = _Request
    begun_at: float | None = None

    def received(self, data: bytes) -> Any:
        if self.request is None:
            self.begun_at = time.time()
        answer = super().received(data)
        if self.request is None:
            self.begun_at = None
        return answer

    def is_late(self, now: float) -> bool:
        """Whether the request that is coming has been coming for too long, or none comes at all."""
        quiet_s: float = now - self.last_activity
        if self.requests:
            return False
        if self.begun_at is None or self.request is None:
            return quiet_s > (HEADER_S if self.last_activity == self.creation_time else IDLE_S)
        return now - self.begun_at > (BODY_S if self.request.headers_finished else HEADER_S)


class _Server(TcpWSGIServer):  # type: ignore[misc]
    channel_class = _Channel

    def maintenance(self, now: float) -> None:
        for channel in list(self.active_channels.values()):
            if channel.is_late(now):
                channel.will_close = True


class BufferingWorker(Worker):  # type: ignore[misc]
    """Runs waitress on the sockets that gunicorn opened; gunicorn starts, watches and replaces it."""

    def run(self) -> None:
        """Serve until told to stop, in no more memory than the largest plan that is judged takes."""
        resource.setrlimit(resource.RLIMIT_DATA, (MEMORY_BYTES, MEMORY_BYTES))
        settings = Adjustments(
            connection_limit=MOST_CONNECTIONS, asyncore_use_poll=True, cleanup_interval=1, ident=None,
            channel_request_lookahead=1,  # so that a client that hangs up is noticed while its request is worked on
            max_request_header_size=HEADER_BYTES,
            clear_untrusted_proxy_headers=True,
        )  # fmt: skip
        lanes, connections = Lanes(), {}  # type: ignore[var-annotated]
        servers = [
            _Server(
                self.wsgi, map=connections, _sock=listener.sock, dispatcher=lanes, adj=settings, bind_socket=False,
                sockinfo=(listener.sock.family, listener.sock.type, listener.sock.proto, listener.sock.getsockname()),
            )
            for listener in self.sockets
        ]  # fmt: skip
        while self.alive:
            self.notify()
            if os.getppid() != self.ppid:
                break
            wasyncore.loop(timeout=BEAT_S, use_poll=True, map=connections, count=1)
        for server in servers:
            server.accepting = False
        self._finish(lanes, connections)

    def _finish(self, lanes: Lanes, connections: dict[int, Any]) -> None:
        """Answer what is being worked on, for a few seconds."""
        until = time.time() + STOP_WAIT_S
        while time.time() < until and any(
            getattr(one, "requests", None) or getattr(one, "total_outbufs_len", 0) for one in list(connections.values())
        ):
            self.notify()
            wasyncore.loop(timeout=0.1, use_poll=True, map=connections, count=1)
        lanes.shutdown(timeout=0.1)
