"""Other people's pages get nothing done here, and no page anywhere is told more than it needs."""

import logging
import re

import pytest
from flask.testing import FlaskClient

from examples import one_line
from leadsman.api.app import create_app
from leadsman.launch import LaunchError
from leadsman.launch.server import require_loopback
from leadsman.settings import HOST_NAMES, Settings, settings_from

NOWHERE = "postgresql://asked-without-a-database/"


@pytest.mark.parametrize(
    ("host", "status"),
    [
        ("localhost:8317", 200),
        ("127.0.0.1:8317", 200),
        ("[::1]:8317", 200),
        ("192.0.2.7", 200),  # an address cannot be made to point elsewhere
        ("farm.example", 200),  # set as its name
        ("FARM.example:8317", 200),
        ("evil.example", 421),
        ("localhost.evil.example", 421),
        ("127.0.0.1.evil.example", 421),
        ("", 421),
    ],
)
def test_the_server_answers_to_its_own_names_only(host: str, status: int) -> None:
    settings = settings_from({"DATABASE_URL": NOWHERE, HOST_NAMES: "farm.example, other.example"})
    client = create_app(settings).test_client()
    for path in ("/api/catalogue", "/api/analyses"):
        asked = client.get(path, headers={"Host": host})
        assert (asked.status_code == 421) == (status == 421), asked.data


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({}, 200),  # a program
        ({"Origin": "http://localhost"}, 200),
        ({"Origin": "http://localhost", "Sec-Fetch-Site": "same-origin"}, 200),
        ({"Origin": "http://evil.example"}, 403),
        ({"Origin": "http://localhost:9000"}, 403),
        ({"Origin": "null"}, 403),
        ({"Sec-Fetch-Site": "cross-site"}, 403),
        ({"Sec-Fetch-Site": "same-site"}, 403),
    ],
)
def test_a_foreign_page_can_start_nothing(client: FlaskClient, headers: dict[str, str], status: int) -> None:
    answer = client.post("/api/analyses", json={"document": one_line()}, headers=headers)
    assert answer.status_code == status
    made = client.post("/api/designs", json={"document": one_line()}, headers=headers)
    assert (made.status_code == 201) == (status == 200)


@pytest.mark.parametrize("path", ["/api/catalogue", "/api/nothing", "/api/designs/x"])
def test_what_is_answered_stays_with_who_asked(client: FlaskClient, path: str) -> None:
    headers = client.get(path).headers
    assert headers["Cache-Control"] == "no-store"
    assert headers["Cross-Origin-Resource-Policy"] == "same-origin"
    assert headers["Referrer-Policy"] == "no-referrer"
    assert headers["X-Content-Type-Options"] == "nosniff"
    assert re.fullmatch("[0-9a-f]{12}", headers["X-Request-Id"])


def test_every_request_is_logged_on_one_line_with_its_number(caplog: pytest.LogCaptureFixture) -> None:
    client = create_app(Settings(database_url=NOWHERE, access_log=True)).test_client()
    logging.getLogger("leadsman.access").addHandler(caplog.handler)
    answer = client.get("/api/no%0d%0asuch")
    (line,) = [record.getMessage() for record in caplog.records if record.name == "leadsman.access"]
    assert re.fullmatch(rf"{answer.headers['X-Request-Id']} GET /api/no\\r\\nsuch 404 \d+ ms", line), line


@pytest.mark.parametrize(
    ("host", "allowed", "refused"),
    [("127.0.0.1", False, False), ("::1", False, False), ("localhost", False, False), ("0.0.0.0", False, True),
     ("192.0.2.7", False, True), ("farm.example", False, True), ("0.0.0.0", True, False)],
)  # fmt: skip
def test_other_machines_are_let_in_only_where_that_is_said(host: str, allowed: bool, refused: bool) -> None:
    if refused:
        with pytest.raises(LaunchError, match="--allow-network"):
            require_loopback(host, allowed)
    else:
        require_loopback(host, allowed)
