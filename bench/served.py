"""A plan served as a product serves it, for benchmarks in a real browser."""

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from leadsman.core.design.file import read_design, write_design
from leadsman.db.connection import Database
from leadsman.db.design import insert_design
from leadsman.db.migrate import migrate
from leadsman.launch import front_end
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.server import web_server


@contextmanager
def served(document: dict[str, Any]) -> Iterator[str]:
    """Serve a plan, and give the address of its view Lines."""
    front_end.build()
    folder = Path(tempfile.mkdtemp(prefix="leadsman-bench-"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "data", free_port(0))
    try:
        cluster.start()
        migrate(cluster.url)
        database = Database(cluster.url)
        with database.transaction() as connection:
            design_id = insert_design(connection, write_design(read_design(document)))
        database.close()
        server = web_server("127.0.0.1", free_port(0), cluster.url, folder / "server.pid")
        try:
            server.await_answer()
            yield f"{server.address}designs/{design_id}/lines"
        finally:
            server.stop()
    finally:
        cluster.stop()
        shutil.rmtree(folder)
