"""Somebody else's file read in a process of its own, with limits on memory, time and files, and at most two at once."""

import fcntl
import json
import os
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from pydantic import BaseModel

import leadsman
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.report.background import ReliefReport
from leadsman.core.report.survey_import import ImportReport
from leadsman.formats import reader
from leadsman.formats.importing import ImportAsked
from leadsman.formats.photo import PhotoAsked, PhotoRead
from leadsman.formats.relief_reader import ReliefAsked

AT_ONCE = 2
TURN_S, ENDING_S = 0.02, 0.5
ENVIRONMENT = ("PATH", "LANG", "LC_ALL", "TMPDIR")
Check = Callable[[], None]


def import_guarded(data: bytes, asked: ImportAsked, check_cancelled: Check = lambda: None) -> ImportReport:
    """Return what `import_survey` returns, as `_guarded` does."""
    report = _guarded("survey", data, asked, check_cancelled)
    assert isinstance(report, ImportReport)
    return report


def relief_guarded(data: bytes, asked: ReliefAsked, check_cancelled: Check = lambda: None) -> ReliefReport:
    """Return what `read_relief` returns, as `_guarded` does."""
    report = _guarded("relief", data, asked, check_cancelled)
    assert isinstance(report, ReliefReport)
    return report


def photo_guarded(data: bytes, asked: PhotoAsked, check_cancelled: Check = lambda: None) -> PhotoRead:
    """Return what `read_photo` returns, as `_guarded` does."""
    read = _guarded("photo", data, asked, check_cancelled)
    assert isinstance(read, PhotoRead)
    return read


def make_ready() -> None:
    """Start the reader's process, so that the first file need not wait for that."""
    _reader.start()


class _Reader:
    """The reader's process: it ends with this one, and is started again where it has ended."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._control: socket.socket | None = None

    def start(self) -> subprocess.Popen[bytes]:
        """Return the process, which is started where it does not run."""
        with self._lock:
            if self._process is None or self._process.poll() is not None:
                if self._control is not None:
                    self._control.close()
                kept = {name: value for name, value in os.environ.items() if name in ENVIRONMENT}
                source = str(Path(leadsman.__file__).parents[1])
                environment = {**kept, "PYTHONPATH": source, "OPENBLAS_NUM_THREADS": "1"}  # nothing of the database
                self._control, theirs = socket.socketpair()
                with theirs:
                    self._process = subprocess.Popen(
                        [sys.executable, "-m", "leadsman.formats.reader"],
                        stdin=theirs.fileno(), stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, env=environment,
                    )  # fmt: skip
            return self._process

    def ask(self, message: bytes) -> bytes:
        """Return what a fork of the process answers; nothing where it did not live to."""
        answer = b""
        for _ in range(2):  # the process itself may have ended, and nothing of the file is to blame
            process = self.start()
            with suppress(OSError):
                answer = self._asked(message)
            if answer or not _ends(process):
                break
        return answer

    def _asked(self, message: bytes) -> bytes:
        ours, theirs = socket.socketpair()
        with ours:
            with theirs, self._lock:
                assert self._control is not None, "started just now"
                socket.send_fds(self._control, [b"?"], [theirs.fileno()])
            ours.settimeout(2.0 * reader.WAIT_S)
            ours.sendall(message)
            ours.shutdown(socket.SHUT_WR)
            return reader.received(ours)


def _ends(process: subprocess.Popen[bytes]) -> bool:
    """Whether a process has ended, or does so at once: one that is killed lives on for a moment."""
    try:
        process.wait(ENDING_S)
    except subprocess.TimeoutExpired:
        return False
    return True


class _Slots:
    """So many at once, in all processes that came of one: what holds a slot gives it back, however it ends."""

    def __init__(self, count: int) -> None:
        self._file = tempfile.TemporaryFile()  # noqa: SIM115  locked as long as we live
        self._locks = [threading.Lock() for _ in range(count)]

    @contextmanager
    def one(self, check_cancelled: Check) -> Iterator[None]:
        """Wait for a slot and hold it."""
        while (number := self._taken()) is None:
            check_cancelled()
            time.sleep(TURN_S)
        try:
            yield
        finally:
            fcntl.lockf(self._file, fcntl.LOCK_UN, 1, number)
            self._locks[number].release()

    def _taken(self) -> int | None:
        """Take a free slot: a lock on a byte of a file excludes other processes, one in memory other threads."""
        for number, lock in enumerate(self._locks):
            if not lock.acquire(blocking=False):
                continue
            try:
                fcntl.lockf(self._file, fcntl.LOCK_EX | fcntl.LOCK_NB, 1, number)
                return number
            except OSError:
                lock.release()
        return None


_reader, _slots = _Reader(), _Slots(AT_ONCE)


def _guarded(job: str, data: bytes, asked: BaseModel, check_cancelled: Check) -> BaseModel:
    """Return what the reader of a job returns, worked out in a process of its own.

    Raises:
        DesignFaults: as it does, or because the file took too long or too much memory.
    """
    with _slots.one(check_cancelled):
        begun_s = time.monotonic()
        answer = _reader.ask(reader.packed(job, asked, data))
    if not answer:
        slow = time.monotonic() - begun_s > reader.PROCESSOR_S - 1
        code, found = ("too_slow", "too long to read") if slow else ("too_much", "more than its reader could bear")
        allowed = f"{reader.PROCESSOR_S} s and {reader.MEMORY_BYTES // 10**9} GB"
        raise DesignFaults([Fault(path="", code=code, found=f"a file that takes {found}", allowed=allowed)])
    told = json.loads(answer)
    if "faults" in told:
        raise DesignFaults([Fault(**fault) for fault in told["faults"]])
    return reader.JOBS[job].answer.model_validate(told["report"])
