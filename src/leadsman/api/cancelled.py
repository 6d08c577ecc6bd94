"""Work for somebody who has gone: it ends, so that the processor is free for the question that replaced it."""

import socket

from flask import request


class Cancelled(Exception):
    """Whoever asked no longer listens."""


def check_client() -> None:
    """Raise Cancelled where the connection of the request in hand was closed from the other side."""
    connection = request.environ.get("gunicorn.socket")
    if not isinstance(connection, socket.socket):
        return
    try:
        gone = connection.recv(1, socket.MSG_PEEK | socket.MSG_DONTWAIT) == b""
    except BlockingIOError:  # open, and nothing more was sent
        return
    except OSError:
        gone = True
    if gone:
        raise Cancelled
