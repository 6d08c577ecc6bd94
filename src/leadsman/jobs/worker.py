"""A worker: takes jobs from the queue one at a time, and takes up again those of workers that are no more."""

import asyncio
import contextlib
import logging

import procrastinate

from leadsman.jobs.queue import QUEUE, queue_of

BEAT_S, GONE_AFTER_S = 5.0, 20.0  # how often a worker says that it is there, and after how long it is not
LOOK_S = 2.0  # how often it looks for jobs, beside being told of them


def work(url: str) -> None:
    """Work until stopped by a signal."""
    logging.basicConfig(level=logging.WARNING, format="worker: %(message)s")
    asyncio.run(_work(url))


async def _work(url: str) -> None:
    async with queue_of(url, worker=True).open_async() as app:
        again = asyncio.create_task(_take_up_again(app))
        try:
            await app.run_worker_async(
                queues=[QUEUE],
                concurrency=1,
                fetch_job_polling_interval=LOOK_S,
                update_heartbeat_interval=BEAT_S,
                stalled_worker_timeout=GONE_AFTER_S,
                shutdown_graceful_timeout=1.0,
                delete_jobs="always",
            )
        finally:
            again.cancel()
            with contextlib.suppress(asyncio.CancelledError):
                await again


async def _take_up_again(app: procrastinate.App) -> None:
    """Put the jobs of workers that were killed back on the queue, now and then."""
    while True:
        with contextlib.suppress(procrastinate.exceptions.ConnectorException):  # the database may be away for a while
            for job in await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=GONE_AFTER_S):
                await app.job_manager.retry_job(job)
        await asyncio.sleep(BEAT_S)
