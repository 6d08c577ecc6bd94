"""The process that reads somebody else's files: started once, it forks for each file, so that each is read at once.

Run as `python -m leadsman.formats.reader`, with one end of a socket pair as standard input. Each message on it brings
one end of another: there the question and the file come, and there the answer goes. Whatever a file does to its reader,
only that fork ends.
"""

import gc
import json
import os
import resource
import signal
import socket
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel

from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.report.background import ReliefReport
from leadsman.core.report.survey_import import ImportReport
from leadsman.formats.importing import ImportAsked, import_survey
from leadsman.formats.photo import PhotoAsked, PhotoRead, read_photo
from leadsman.formats.relief_reader import ReliefAsked, read_relief

MEMORY_BYTES = 3_000_000_000  # of addresses, most of it libraries
PROCESSOR_S, WAIT_S = 20, 40
LENGTH_BYTES = 8
PIECE_BYTES = 1 << 20


@dataclass(frozen=True, kw_only=True)
class Job:
    """What is asked of a file, who reads it, and what comes back."""

    asked: type[BaseModel]
    read: Callable[[bytes, Any], BaseModel]
    answer: type[BaseModel]


JOBS = {
    "survey": Job(asked=ImportAsked, read=import_survey, answer=ImportReport),
    "relief": Job(asked=ReliefAsked, read=read_relief, answer=ReliefReport),
    "photo": Job(asked=PhotoAsked, read=read_photo, answer=PhotoRead),
}


def packed(job: str, asked: BaseModel, data: bytes) -> bytes:
    """Return a question and its file as one message."""
    question = json.dumps([job, asked.model_dump(mode="json", by_alias=True, exclude_unset=True)]).encode()
    return len(question).to_bytes(LENGTH_BYTES, "big") + question + data


def received(connection: socket.socket) -> bytes:
    """Return all that comes until the other side has said all."""
    return b"".join(iter(lambda: connection.recv(PIECE_BYTES), b""))


def answered(message: bytes) -> bytes:
    """Return the answer to a message: the report, or the faults, as JSON."""
    end = LENGTH_BYTES + int.from_bytes(message[:LENGTH_BYTES], "big")
    name, asked = json.loads(message[LENGTH_BYTES:end])
    job = JOBS[name]
    try:
        report = job.read(message[end:], job.asked.model_validate(asked))
    except DesignFaults as refused:
        return json.dumps({"faults": [vars(fault) for fault in refused.faults]}).encode()
    except MemoryError:
        fault = Fault(path="", code="too_much", found="a file that needs too much memory", allowed="less")
        return json.dumps({"faults": [vars(fault)]}).encode()
    return b'{"report": ' + report.model_dump_json(by_alias=True, exclude_unset=True).encode() + b"}"


def main() -> None:
    """Fork for each connection that comes, until the one who asks has gone."""
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # nobody waits for the forks
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    gc.freeze()
    with socket.socket(fileno=0) as control:
        while True:
            message, handles, _, _ = socket.recv_fds(control, 1, 1)
            if not message:
                return
            with socket.socket(fileno=handles[0]) as connection:
                if os.fork() == 0:
                    control.close()
                    _serve(connection)


def _serve(connection: socket.socket) -> None:
    """Answer one message, within limits, and end."""
    try:
        signal.alarm(WAIT_S)
        resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
        resource.setrlimit(resource.RLIMIT_CPU, (PROCESSOR_S, PROCESSOR_S))
        connection.sendall(answered(received(connection)))
    finally:
        os._exit(0)


if __name__ == "__main__":
    main()
