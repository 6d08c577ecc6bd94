"""What several kinds of test need: a real PostgreSQL of the run's own, the application on it, a server."""

import os
import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest
from flask.testing import FlaskClient

import properties
from leadsman.api.app import create_app
from leadsman.api.routes import DATABASE
from leadsman.db.connection import Database
from leadsman.db.migrate import migrate
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.demo import DEMO_KEY, load_demo
from leadsman.launch.process import is_alive
from leadsman.settings import (
    AUTOSAVE_MS,
    DATABASE_URL,
    HEIGHT_SERVICE_URL,
    LEADSMAN_STATE,
    LEVEL_SERVICE_URL,
    WEATHER_SERVICE,
    Settings,
)

CLUSTER, OWNER = "leadsman-test-", "owner.pid"


def end_left_clusters() -> None:
    """End the clusters of earlier runs that were cut off before they could end their own."""
    for folder in Path(tempfile.gettempdir()).glob(f"{CLUSTER}*"):
        owner = folder / OWNER
        if owner.exists() and not is_alive(int(owner.read_text())):
            Cluster(folder / "data", 0).stop()
            shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    """A temporary cluster, in a folder that an unprivileged PostgreSQL can enter; gone afterwards."""
    end_left_clusters()
    folder = Path(tempfile.mkdtemp(prefix=CLUSTER))
    folder.chmod(0o755)
    (folder / OWNER).write_text(str(os.getpid()))
    running = Cluster(folder / "data", free_port(0))
    try:
        running.start()
        migrate(running.url)
        yield running
    finally:
        running.stop()
        shutil.rmtree(folder)


@pytest.fixture
def url(cluster: Cluster) -> str:
    """The database, emptied."""
    with psycopg.connect(cluster.url, autocommit=True) as connection:
        connection.execute("TRUNCATE design, own_product CASCADE")
    return cluster.url


@pytest.fixture
def demo_id(url: str) -> str:
    """The demonstration design, fresh in the database: its id."""
    load_demo(url)
    with psycopg.connect(url) as connection:
        row = connection.execute("SELECT id FROM design WHERE demo_key = %s", [DEMO_KEY]).fetchone()
    assert row is not None
    return str(row[0])


@pytest.fixture
def database(url: str) -> Iterator[Database]:
    opened = Database(url)
    yield opened
    opened.close()


@pytest.fixture
def client(url: str) -> Iterator[FlaskClient]:
    app = create_app(Settings(database_url=url))
    app.testing = False  # errors are answered as they are in use
    yield app.test_client()
    app.extensions[DATABASE].close()


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The longest tests begin first, so that none waits for them at the end: components, then checks of all code."""
    items.sort(key=lambda item: (item.path.parent.name != "web", not item.name.startswith("test_check_passes")))


def pytest_configure() -> None:
    """Database tests must not meet a database of somebody's own; generated cases are the same in every short run."""
    properties.register()
    own = (DATABASE_URL, HEIGHT_SERVICE_URL, LEVEL_SERVICE_URL, WEATHER_SERVICE, AUTOSAVE_MS, LEADSMAN_STATE)
    for name in (*own, "PGHOST", "PGPORT", "PGUSER", "PGPASSWORD"):
        os.environ.pop(name, None)
