"""A real browser on the built front end, served by gunicorn on the run's own PostgreSQL."""

from collections.abc import Iterator

import pytest
from bench_page import Bench
from chrome import chrome
from selenium import webdriver

from leadsman.db.connection import Database
from leadsman.launch import front_end
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.server import Server, height_server, web_server
from leadsman.settings import AUTOSAVE_MS, HEIGHT_SERVICE_URL

QUIET_MS = "150"  # a plan is saved soon: nothing is gained by waiting for it


@pytest.fixture(scope="session")
def heights(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    """The stand-in height service."""
    running = height_server(free_port(0), tmp_path_factory.mktemp("heights") / "service.pid")
    try:
        running.await_answer()
        yield running
    finally:
        running.stop()


@pytest.fixture(scope="session")
def server(cluster: Cluster, heights: Server, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    front_end.build()
    pid_file = tmp_path_factory.mktemp("server") / "server.pid"
    running = web_server(
        "127.0.0.1", free_port(0), cluster.url, pid_file, workers=1,
        further={HEIGHT_SERVICE_URL: heights.address, AUTOSAVE_MS: QUIET_MS},
    )  # fmt: skip
    try:
        running.await_answer()
        yield running
    finally:
        running.stop()


@pytest.fixture(scope="session")
def browser() -> Iterator[webdriver.Chrome]:
    with chrome() as driver:
        yield driver


@pytest.fixture
def bench(browser: webdriver.Chrome, server: Server, url: str, demo_id: str) -> Iterator[Bench]:
    """A tab at the laptop's size, and the demonstration design fresh in the database; each test opens a view of it."""
    page = Bench(browser, server.address, demo_id, Database(url))
    page.size(1280, 800)
    page.logged()
    yield page
    logged = [entry for entry in page.logged() if "Failed to load resource" not in entry["message"]]
    page.leave()
    assert logged == [], "the page wrote to the console"
