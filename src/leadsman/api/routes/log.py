"""The log of the real line: entries are added, one by one or as many as waited on a phone, and read."""

import csv
import io
from datetime import UTC, datetime, timedelta
from uuid import UUID

from flask import Response
from psycopg import Connection
from psycopg.rows import TupleRow
from pydantic import ValidationError

from leadsman.api.errors import NotFound, fault_bodies
from leadsman.api.routes import Routes, answer, database
from leadsman.api.schemas import DesignPath, Problem
from leadsman.api.schemas.log import (
    KeptEntry,
    LogBody,
    LogKept,
    LogQuery,
    LogSent,
    LookedBody,
    LooksBody,
    RefusedEntry,
    RoundBody,
    RoundStop,
)
from leadsman.core.base.fault import Fault, faults_from
from leadsman.core.base.spreadsheet import text_cell
from leadsman.core.field.entry import LogEntry
from leadsman.core.field.look import looked
from leadsman.core.report.base import words
from leadsman.db.log import LogPage, LogRow, has_design, insert_entry, select_entries, select_round

AHEAD = timedelta(hours=1)  # that a phone's clock may be
OLDEST = datetime(2000, 1, 1, tzinfo=UTC)
MOST_ENTRIES = 100_000
MOST_ON_A_ROUND = 200
MOST_LOOKED_AT = 2_000  # the newest entries say how things stand

log = Routes("log", __name__, url_prefix="/api/designs")


@log.post("/<uuid:design_id>/log", operation_id="sendLog", responses={200: LogKept, 404: Problem, 422: Problem})
def send_log(path: DesignPath, body: LogSent) -> Response:
    """Keep entries, each by itself: one that is refused holds up no other, and what is known already counts as kept."""
    now = datetime.now(UTC)
    kept, refused = [], []
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
        for index, sent in enumerate(body.entries):
            try:
                entry = LogEntry.model_validate(sent)
                faults = _faults_of_time(entry, now)
            except ValidationError as error:
                faults = faults_from(error)
            if not faults and not insert_entry(connection, path.design_id, row_of(entry, now)):
                faults = [_other(entry)]
            if faults:
                told = sent.get("id")
                name = told if isinstance(told, str) else None
                refused.append(RefusedEntry(index=index, id=name, faults=fault_bodies(faults)))
            else:
                kept.append(entry.id)
    return answer(LogKept(kept=kept, refused=refused))


def require_plan(connection: Connection[TupleRow], design_id: UUID) -> None:
    if not has_design(connection, design_id):
        raise NotFound(f"no plan {design_id}")


def row_of(entry: LogEntry, received_at: datetime) -> LogRow:
    """Return an entry as it is kept."""
    return LogRow(**entry.model_dump(), received_at=received_at)


def entry_of(row: LogRow) -> LogEntry:
    """Return an entry as it was made; it was checked when it came."""
    return LogEntry.model_construct(**{key: getattr(row, key) for key in LogEntry.model_fields})


def _faults_of_time(entry: LogEntry, now: datetime) -> list[Fault]:
    if OLDEST <= entry.happened_at <= now + AHEAD:
        return []
    allowed = f"from 2000 to now, {now:%Y-%m-%d %H:%M} UTC"
    return [Fault(path="/happened_at", code="out_of_range", found=entry.happened_at.isoformat(), allowed=allowed)]


def _other(entry: LogEntry) -> Fault:
    allowed = "an id of its own: the log has another entry of that id, and it is never changed"
    return Fault(path="/id", code="other_entry", found=str(entry.id), allowed=allowed)


@log.get("/<uuid:design_id>/log", operation_id="readLog", responses={200: LogBody, 404: Problem, 422: Problem})
def read_log(path: DesignPath, query: LogQuery) -> Response:
    """Read the log, newest first, a page at a time; of one part where one is said."""
    page = LogPage(before=query.before, before_id=query.before_id, part=query.part, length=query.length)
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
        rows = select_entries(connection, path.design_id, page)
    return answer(LogBody(entries=[KeptEntry(**vars(row)) for row in rows]))


@log.get("/<uuid:design_id>/looks", operation_id="readLooks", responses={200: LooksBody, 404: Problem})
def read_looks(path: DesignPath) -> Response:
    """Tell what the looks at each part say together, by the part that waits longest for one."""
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
        rows = select_entries(connection, path.design_id, LogPage(length=MOST_LOOKED_AT))
    found = looked([entry_of(row) for row in rows])
    return answer(
        LooksBody(looks=[LookedBody(part=one.part, last_at=one.last_at, told=words(one.told)) for one in found])
    )


@log.get("/round", operation_id="readRound", responses={200: RoundBody})
def read_round() -> Response:
    """Tell the plans in the order in which a round goes: those whose water lasts shortest first."""
    with database().transaction() as connection:
        rows = select_round(connection, MOST_ON_A_ROUND)
    stops = [
        RoundStop(
            design_id=row.design_id,
            site_name=row.site_name,
            name=row.name,
            lasts_days=(row.glance or {}).get("lasts_days"),
            last_look=row.last_look,
        )
        for row in rows
    ]
    return answer(RoundBody(stops=sorted(stops, key=lambda one: (one.lasts_days is None, one.lasts_days or 0.0))))


@log.get("/<uuid:design_id>/log.csv", operation_id="exportLog", responses={200: None, 404: Problem})
def export_log(path: DesignPath) -> Response:
    """Export the whole log as a table; nothing in it becomes a formula."""
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
        rows = select_entries(connection, path.design_id, LogPage(length=MOST_ENTRIES))
    keys = sorted({key for row in rows for key in row.figures})
    written = io.StringIO()
    table = csv.writer(written)
    table.writerow(["happened_at", "kind", "part", "part_name", "who", "said", *keys, "id", "corrects", "received_at"])
    for row in rows:
        figures = [row.figures.get(key, "") for key in keys]
        cells = [
            row.happened_at.isoformat(), row.kind, row.part or "", row.part_name or "", row.who, row.said, *figures,
            str(row.id), str(row.corrects or ""), row.received_at.isoformat(),
        ]  # fmt: skip
        table.writerow([text_cell(cell) if cell and isinstance(cell, str) else cell for cell in cells])
    headers = {"Content-Disposition": 'attachment; filename="log.csv"'}
    return Response(written.getvalue(), 200, headers, mimetype="text/csv")
