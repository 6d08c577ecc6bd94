"""Many people at once: each reads, analyses and saves a plan of their own every two seconds."""

import asyncio
import json
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from statistics import quantiles
from typing import Any
from urllib.parse import urlparse

from bench.designs import comb
from bench.measure import Result, at_most, million_steps_s
from bench.served import served

DOCUMENT = comb(1, 1)
EDITORS = {50: 20.0, 200: 60.0}  # and for how long they work [s]
EVERY_S = 2.0
SAVE_P95_S = 0.5
LAPTOP_MS = 20.0  # as in bench.editing


@dataclass
class Seen:
    """How long each kind of request took [s], and what went wrong."""

    saves_s: list[float] = field(default_factory=list)
    analyses_s: list[float] = field(default_factory=list)
    errors: int = 0
    late: int = 0


class Editor:
    """Somebody who works on a plan over a connection that stays open."""

    def __init__(self, host: str, port: int, seen: Seen) -> None:
        self._host, self._port, self._seen = host, port, seen

    async def work(self, begins_s: float, until_s: float) -> None:
        """Read, analyse and save every two seconds, until it is time."""
        await asyncio.sleep(begins_s)
        self._reader, self._writer = await asyncio.open_connection(self._host, self._port)
        made, _ = await self._ask("POST", "/api/designs", {"document": DOCUMENT})
        address, number = f"/api/designs/{made['design_id']}", 1
        while (begun_s := time.monotonic()) < until_s:
            document = (await self._ask("GET", address))[0]["document"]
            self._seen.analyses_s.append((await self._ask("POST", "/api/analyses", {"document": document}))[1])
            changed = {**document, "name": f"Save {number + 1}"}
            saved, took_s = await self._ask("PUT", address, {"base_number": number, "document": changed})
            self._seen.saves_s.append(took_s)
            self._seen.errors += saved.get("number") != number + 1
            number += 1
            rest_s = EVERY_S - (time.monotonic() - begun_s)
            self._seen.late += rest_s < 0
            await asyncio.sleep(max(rest_s, 0.0))
        self._writer.close()

    async def _ask(self, method: str, path: str, body: Any = None) -> tuple[Any, float]:
        begun_s = time.monotonic()
        data = b"" if body is None else json.dumps(body).encode()
        head = f"{method} {path} HTTP/1.1\r\nHost: {self._host}\r\nContent-Type: application/json\r\n"
        self._writer.write(f"{head}Content-Length: {len(data)}\r\n\r\n".encode() + data)
        status, *headers = (await self._reader.readuntil(b"\r\n\r\n")).decode().split("\r\n")
        length = next(int(one.split(":")[1]) for one in headers if one.lower().startswith("content-length:"))
        answer = await self._reader.readexactly(length)
        self._seen.errors += " 20" not in status
        return json.loads(answer), time.monotonic() - begun_s


def worked_on(address: str, editors: int, seconds: float) -> Seen:
    """Return what so many editors saw of a server in so long a time [s]."""
    place, seen = urlparse(address), Seen()

    async def all_of_them() -> None:
        until_s = time.monotonic() + EVERY_S + seconds
        starts = [EVERY_S * number / editors for number in range(editors)]
        working = [Editor(str(place.hostname), int(place.port or 80), seen).work(start, until_s) for start in starts]
        await asyncio.gather(*working)

    asyncio.run(all_of_them())
    return seen


def results() -> Iterator[Result]:
    """Yield how long saves take [s] beside others' work, and what went wrong."""
    pace = 1_000.0 * million_steps_s() / LAPTOP_MS
    with served(DOCUMENT) as address:
        for editors, seconds in EDITORS.items():
            seen = worked_on(address, editors, seconds)
            p95_s = quantiles(seen.saves_s, n=20)[-1]
            analyses_s = quantiles(seen.analyses_s, n=20)[-1]
            note = f"{p95_s:.2f} s; analyses {analyses_s:.2f} s; {len(seen.saves_s)} saves, {seen.late} late"
            name = f"a save (p95) beside {editors} editors / {SAVE_P95_S:g} s on a laptop"
            yield at_most(name, p95_s / SAVE_P95_S / pace, 1.0, note)
            yield at_most(f"requests of {editors} editors that failed", float(seen.errors), 0.0)
