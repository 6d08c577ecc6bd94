"""The page's component tests: without a browser, every answer from a server that is started for them."""

import os
import subprocess
from pathlib import Path
from typing import Any

from bench.designs import comb

from leadsman.core.design.file import read_design, write_design
from leadsman.db.connection import Database
from leadsman.db.design import insert_design
from leadsman.launch.cluster import free_port
from leadsman.launch.server import web_server

WEB = Path(__file__).parents[2] / "web"


def of_many_findings() -> Any:
    """48 troughs that each want more than they get."""
    document = comb(6, 8)
    document["requirements"] = [{"outlet": outlet["id"], "flow_lpm": 200.0} for outlet in document["outlets"]]
    return document


def test_components_show_what_the_server_answers(url: str, demo_id: str, database: Database, tmp_path: Path) -> None:
    with database.transaction() as connection:
        many = insert_design(connection, write_design(read_design(of_many_findings())))
    server = web_server("127.0.0.1", free_port(0), url, tmp_path / "server.pid", workers=2)
    try:
        server.await_answer()
        told = {"LEADSMAN_API": server.address, "LEADSMAN_DEMO": demo_id, "LEADSMAN_MANY": str(many)}
        environment = {**os.environ, **told, "NODE_ENV": "production", "NO_COLOR": "1"}
        vitest = [str(WEB / "node_modules" / ".bin" / "vitest"), "run", "--project", "components"]
        done = subprocess.run(vitest, cwd=WEB, env=environment, capture_output=True, text=True, check=False)
    finally:
        server.stop()
    assert done.returncode == 0, done.stdout[-6000:] + done.stderr[-4000:]
