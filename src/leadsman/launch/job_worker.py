"""A worker for long runs, on this machine or on a further one with the same database."""

import resource
import sys

import psycopg

from leadsman.db.migrate import NewerDatabase, migrate
from leadsman.jobs.worker import work
from leadsman.launch import step
from leadsman.launch.process import end_with_parent
from leadsman.launch.worker import MEMORY_BYTES
from leadsman.settings import settings_from


def run_worker(with_parent: bool) -> int:
    """Take jobs from the queue of DATABASE_URL until stopped; return the exit code.

    Args:
        with_parent: whether it ends with the process that started it.
    """
    url = settings_from().database_url
    if not url:
        print("DATABASE_URL is not set: a worker takes its jobs from there.", file=sys.stderr)
        return 1
    resource.setrlimit(resource.RLIMIT_DATA, (MEMORY_BYTES, MEMORY_BYTES))
    if with_parent:
        end_with_parent()
    try:
        for name in migrate(url):
            step(f"migrated {name}")
    except NewerDatabase as error:
        print(error, file=sys.stderr)
        return 1
    except psycopg.OperationalError as error:
        print(f"The database of DATABASE_URL does not answer: {str(error).strip()}", file=sys.stderr)
        return 1
    if not with_parent:
        step("waiting for jobs (Ctrl-C stops it)")
    work(url)
    return 0
