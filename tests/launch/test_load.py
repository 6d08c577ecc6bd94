"""The server under load: who is slow, or asks for much, takes nothing from the others."""

import contextlib
import json
import re
import socket
import urllib.request
from collections.abc import Iterator
from types import SimpleNamespace
from typing import Any

import pytest
from bench.designs import comb

from examples import one_line
from leadsman.api.lanes import Lane, lane_of
from leadsman.launch.cluster import free_port
from leadsman.launch.server import Server, web_server
from leadsman.launch.worker import BODY_S, HEADER_S, IDLE_S, _Channel

COMING = {"last_activity": 900.0, "begun_at": 10.0}
SLOW_CLIENTS, SAVES, LONG_ASKED, WAIT_S = 200, 12, 6, 60


@pytest.fixture
def server(url: str, tmp_path: Any) -> Iterator[Server]:
    running = web_server("127.0.0.1", free_port(0), url, tmp_path / "pid")
    try:
        running.await_answer()
        yield running
    finally:
        running.stop()


def ask(server: Server, method: str, path: str, body: Any = None) -> Any:
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(server.address + path, data, {"Content-Type": "application/json"}, method=method)
    with urllib.request.urlopen(request, timeout=WAIT_S) as answer:
        return json.load(answer)


def saves(server: Server) -> None:
    made = ask(server, "POST", "api/designs", {"document": one_line()})
    for number in range(1, SAVES + 1):
        body = {"base_number": number, "document": one_line(name=f"Edit {number}")}
        assert ask(server, "PUT", f"api/designs/{made['design_id']}", body)["number"] == number + 1


def connected(server: Server, begun: bytes) -> socket.socket:
    host, port = server.address.removeprefix("http://").rstrip("/").split(":")
    slow = socket.create_connection((host, int(port)), timeout=WAIT_S)
    slow.sendall(begun)
    return slow


def test_two_hundred_slow_clients_beside_one_editor_take_nothing_from_him(server: Server) -> None:
    """Half of them never end their headers, half never end their body; each goes on sending."""
    begun = [
        b"GET /api/designs HTTP/1.1\r\nHost: 127.0.0.1\r\n",
        b"POST /api/edits HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 900\r\n\r\n{",
    ]
    slow = [connected(server, begun[number % 2]) for number in range(SLOW_CLIENTS)]
    try:
        for _ in range(2):
            for number, client in enumerate(slow):
                client.sendall([b"X-More: 1\r\n", b" "][number % 2])
            saves(server)
            assert "standing" in json.dumps(ask(server, "POST", "api/analyses", {"document": one_line()}))
    finally:
        for client in slow:
            client.close()


def test_long_analyses_wait_for_each_other_and_saves_and_edits_for_none(server: Server) -> None:
    body = json.dumps({"document": comb(16, 16)}).encode()
    headers = ["Host: 127.0.0.1", "Content-Type: application/json", f"Content-Length: {len(body)}"]
    begun = "\r\n".join(["POST /api/analyses HTTP/1.1", *headers, "", ""]).encode() + body
    asked = [connected(server, begun) for _ in range(LONG_ASKED)]
    try:
        saves(server)
        edit = {"kind": "move_places", "places": {one_line()["places"][0]["id"]: [5.0, 5.0]}}
        ask(server, "POST", "api/edits", {"document": one_line(), "edits": [edit]})
        for client in asked:
            client.setblocking(False)
        answered = 0
        for client in asked:
            with contextlib.suppress(BlockingIOError):
                answered += bool(client.recv(1))
        assert answered < LONG_ASKED  # they were still being worked on
    finally:
        for client in asked:
            client.close()
    ask(server, "POST", "api/analyses", {"document": one_line()})  # those that hung up have left their lane


@pytest.mark.parametrize(
    ("path", "length_b", "sent", "said"),
    [
        ("designs/7b0d4c1e-0000-4000-8000-00000000abcd/picture", 23_000_000, True, "no_database|refused|not_found"),
        ("designs", 5_000_000, True, "too_large"),
        ("designs", 40_000_000, False, "Too Large"),
        ("archive", 40_000_000, True, "refused|not_found|http"),
        ("archive", 1_100_000_000, False, "Too Large"),
    ],
)
def test_how_much_is_taken_in_depends_on_where_it_goes(
    server: Server, path: str, length_b: int, sent: bool, said: str
) -> None:
    """What no route takes is refused before it has come."""
    head = f"POST /api/{path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {length_b}\r\n"
    if path.endswith("picture"):
        head = head.replace("POST", "PUT")
    with connected(server, f"{head}Content-Type: application/json\r\nConnection: close\r\n\r\n".encode()) as asking:
        if sent:
            asking.sendall(bytes(length_b))
        answered = b"".join(iter(lambda: asking.recv(65536), b"")).decode()
    assert re.search(said, answered), answered[:500]
    assert answered.startswith("HTTP/1.1 4"), answered[:100]


@pytest.mark.parametrize(
    ("since", "late_after_s"),
    [
        ({}, HEADER_S),  # connected, and nothing sent
        ({"last_activity": 1.0}, IDLE_S + 1.0),  # between two requests
        (
            {"last_activity": 900.0, "begun_at": 10.0, "request": SimpleNamespace(headers_finished=False)},
            10.0 + HEADER_S,
        ),
        ({"last_activity": 900.0, "begun_at": 10.0, "request": SimpleNamespace(headers_finished=True)}, 10.0 + BODY_S),
    ],
)
def test_who_takes_too_long_to_ask_is_hung_up_on(since: dict[str, Any], late_after_s: float) -> None:
    channel: Any = SimpleNamespace(
        **{"creation_time": 0.0, "last_activity": 0.0, "requests": [], "begun_at": None, "request": None, **since}
    )
    assert not _Channel.is_late(channel, late_after_s - 0.1)
    assert _Channel.is_late(channel, late_after_s + 0.1)
    channel.requests = ["being worked on"]
    assert not _Channel.is_late(channel, late_after_s + 0.1)


@pytest.mark.parametrize(
    ("method", "path", "lane"),
    [
        ("GET", "/api/designs", Lane.QUICK),
        ("PUT", "/api/designs/0f-1", Lane.QUICK),
        ("GET", "/api/designs/0f-1/revisions/3", Lane.QUICK),
        ("GET", "/api/designs/0f-1/relief", Lane.QUICK),
        ("PUT", "/api/designs/0f-1/relief", Lane.LONG),
        ("GET", "/api/designs/0f-1/analysis", Lane.LONG),
        ("GET", "/api/designs/0f-1/revisions/3/glance", Lane.LONG),
        ("POST", "/api/analyses", Lane.LONG),
        ("POST", "/api/analyses/season", Lane.LONG),
        ("POST", "/api/ground/imports", Lane.LONG),
        ("POST", "/api/analyses/preview", Lane.EDIT),
        ("POST", "/api/edits", Lane.EDIT),
        ("GET", "/assets/index.js", Lane.QUICK),
    ],
)
def test_what_calculates_has_its_own_lane(method: str, path: str, lane: Lane) -> None:
    assert lane_of(method, path) is lane
