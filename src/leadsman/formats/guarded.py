"""Somebody else's file read in a process of its own, with limits on memory, time and files: `python -m` this module.

Whatever a file does to a reader, the server stands: the process is gone after the answer.
"""

import json
import os
import resource
import subprocess
import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from pydantic import BaseModel

import leadsman
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.report.background import ReliefReport
from leadsman.core.report.survey_import import ImportReport
from leadsman.formats.importing import ImportAsked, import_survey
from leadsman.formats.relief_reader import ReliefAsked, read_relief

MEMORY_BYTES = 3_000_000_000  # of addresses, most of it libraries
PROCESSOR_S, WAIT_S = 20, 40
LENGTH_BYTES = 8
ENVIRONMENT = ("PATH", "LANG", "LC_ALL", "TMPDIR")


@dataclass(frozen=True, kw_only=True)
class Job:
    """What is asked of a file, who reads it, and what comes back."""

    asked: type[BaseModel]
    read: Callable[[bytes, Any], BaseModel]
    answer: type[BaseModel]


JOBS = {
    "survey": Job(asked=ImportAsked, read=import_survey, answer=ImportReport),
    "relief": Job(asked=ReliefAsked, read=read_relief, answer=ReliefReport),
}


def import_guarded(data: bytes, asked: ImportAsked) -> ImportReport:
    """Return what `import_survey` returns, as `_guarded` does."""
    report = _guarded("survey", data, asked)
    assert isinstance(report, ImportReport)
    return report


def relief_guarded(data: bytes, asked: ReliefAsked) -> ReliefReport:
    """Return what `read_relief` returns, as `_guarded` does."""
    report = _guarded("relief", data, asked)
    assert isinstance(report, ReliefReport)
    return report


def _guarded(job: str, data: bytes, asked: BaseModel) -> BaseModel:
    """Return what the reader of a job returns, worked out in a process of its own.

    Raises:
        DesignFaults: as it does, or because the file took too long or too much memory.
    """
    kept = {name: value for name, value in os.environ.items() if name in ENVIRONMENT}
    environment = {**kept, "PYTHONPATH": str(Path(leadsman.__file__).parents[1])}  # nothing of the database
    question = asked.model_dump_json(by_alias=True, exclude_unset=True).encode()
    try:
        done = subprocess.run(
            [sys.executable, "-m", "leadsman.formats.guarded", job],
            input=len(question).to_bytes(LENGTH_BYTES, "big") + question + data,
            stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, timeout=WAIT_S, check=False, env=environment,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        raise DesignFaults(
            [Fault(path="", code="too_slow", found="a file that takes too long to read", allowed=f"{WAIT_S} s")]
        ) from None
    try:
        told = json.loads(done.stdout)
    except ValueError:
        found = "a file that its reader did not survive: too much memory, or too long"
        raise DesignFaults(
            [Fault(path="", code="too_much", found=found, allowed=f"{PROCESSOR_S} s and {MEMORY_BYTES // 10**9} GB")]
        ) from None
    if "faults" in told:
        raise DesignFaults([Fault(**fault) for fault in told["faults"]])
    return JOBS[job].answer.model_validate(told["report"])


def main() -> None:
    """Read one question and one file from standard input, and print the answer as JSON."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (PROCESSOR_S, PROCESSOR_S))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    given = sys.stdin.buffer.read()
    length = LENGTH_BYTES + int.from_bytes(given[:LENGTH_BYTES], "big")
    job = JOBS[sys.argv[1]]
    asked = job.asked.model_validate_json(given[LENGTH_BYTES:length])
    try:
        report = job.read(given[length:], asked)
    except DesignFaults as refused:
        print(json.dumps({"faults": [vars(fault) for fault in refused.faults]}))
    except MemoryError:
        print(
            json.dumps(
                {
                    "faults": [
                        vars(Fault(path="", code="too_much", found="a file that needs too much memory", allowed="less"))
                    ]
                }
            )
        )
    else:
        print(json.dumps({"report": json.loads(report.model_dump_json(by_alias=True, exclude_unset=True))}))


if __name__ == "__main__":
    main()
