"""`./leadsman demo`: everything a fresh machine needs, then the demonstration site, served."""

import fcntl
import os
import sys
from pathlib import Path

from leadsman.core.design.file import write_design
from leadsman.core.report.background import relief_report
from leadsman.db.background import put_height_model
from leadsman.db.connection import Database
from leadsman.db.design import insert_design
from leadsman.db.migrate import NewerDatabase, migrate
from leadsman.demo import tamsel_relief, tamsel_ridge, tamsel_ridge_in_winter
from leadsman.launch import LaunchError, front_end, step
from leadsman.launch.cluster import Cluster, free_port
from leadsman.launch.debian import POSTGRES, require
from leadsman.launch.keeping import keep_running
from leadsman.launch.server import (
    Stopped,
    height_server,
    job_worker,
    level_server,
    require_free_port,
    require_loopback,
    stop_left_over,
    stop_on_signals,
    web_server,
)
from leadsman.settings import HEIGHT_SERVICE_URL, LEVEL_SERVICE_URL, settings_from

DATABASE_PORT = 54_817
HEIGHTS_PORT = 54_818
LEVELS_PORT = 54_819
DEMO_KEY, WINTER_KEY = "tamsel-ridge", "tamsel-ridge-winter"


def run_demo(host: str, port: int, allow_network: bool = False) -> int:
    """Start everything, print the address, and wait to be stopped; return the exit code."""
    folder = settings_from().state_folder
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / "demo.lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            lock.seek(0)
            print(
                f"Leadsman runs already, at {lock.read().strip() or 'an address it is about to print'}", file=sys.stderr
            )
            return 1
        lock.truncate(0)
        stop_on_signals()
        try:
            require_loopback(host, allow_network)
            _serve(folder, host, port, lock.fileno())
        except Stopped:
            step("stopped; the data stays")
        except (LaunchError, NewerDatabase) as error:
            print(error, file=sys.stderr)
            return 1
    return 0


def _serve(folder: Path, host: str, port: int, lock: int) -> None:
    names = ("server", "height-service", "level-service", "worker")
    pid_file, heights_pid, levels_pid, worker_pid = (folder / f"{name}.pid" for name in names)
    for left_over in (pid_file, heights_pid, levels_pid, worker_pid):
        stop_left_over(left_over)
    require_free_port(host, port)
    require((POSTGRES,))
    front_end.build()
    cluster = running_cluster(folder / "data")
    try:
        for name in migrate(cluster.url):
            step(f"migrated {name}")
        load_demo(cluster.url)
        heights = height_server(free_port(HEIGHTS_PORT), heights_pid)
        levels = level_server(free_port(LEVELS_PORT), levels_pid)
        further = {HEIGHT_SERVICE_URL: heights.address, LEVEL_SERVICE_URL: levels.address}
        server = web_server(host, port, cluster.url, pid_file, further=further)
        worker = job_worker(cluster.url, worker_pid)
        try:
            heights.await_answer()
            levels.await_answer()
            server.await_answer()
            os.write(lock, server.address.encode())
            step(f"Leadsman is at {server.address}   (Ctrl-C stops it)")
            keep_running([cluster, server, worker, heights, levels], cluster.url)
        finally:
            worker.stop()
            server.stop()
            heights.stop()
            levels.stop()
    finally:
        cluster.stop()


def running_cluster(data: Path) -> Cluster:
    """Return the cluster of a data folder, started; a server that a killed run left is stopped first."""
    left_over = Cluster(data, DATABASE_PORT)
    left_over.stop()
    cluster = Cluster(data, free_port(DATABASE_PORT))
    step(f"starting the database on port {cluster.port}")
    cluster.start()
    return cluster


def load_demo(url: str) -> None:
    """Keep the demonstration design and its winter, where they are not there yet."""
    database = Database(url)
    try:
        design = tamsel_ridge()
        with database.transaction() as connection:  # saved before the other, which the list shows first
            insert_design(connection, write_design(tamsel_ridge_in_winter(design)), WINTER_KEY)
        with database.transaction() as connection:
            design_id = insert_design(connection, write_design(design), DEMO_KEY)
            if design_id is not None:
                put_height_model(connection, design_id, relief_report(tamsel_relief(design)).model_dump())
                step("loaded the demonstration site Tamsel Ridge (made up)")
    finally:
        database.close()
