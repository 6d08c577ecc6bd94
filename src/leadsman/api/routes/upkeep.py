"""What keeps a line running: the service calendar and its feed, the next moves, the ledger."""

import hmac
import secrets
from datetime import UTC, datetime
from uuid import UUID

from flask import Response
from psycopg import Connection
from psycopg.rows import TupleRow

from leadsman.api.errors import NotFound
from leadsman.api.routes import Routes, answer, database, judged
from leadsman.api.routes.log import entry_of, require_plan
from leadsman.api.schemas import DesignPath, Problem
from leadsman.api.schemas.upkeep import AskLedger, AskUpkeep, FeedAddress, FeedQuery
from leadsman.core.design.file import read_design
from leadsman.core.field.entry import LogEntry
from leadsman.core.report.upkeep import LedgerReport, UpkeepReport, ledger_report, upkeep_report
from leadsman.db.feed import put_key, select_key
from leadsman.db.log import LogPage, LogRow, select_entries
from leadsman.db.revision import select_head
from leadsman.formats.calendar import calendar_of

UPKEEP_KINDS = ("service", "step")
LEDGER_KINDS = ("trip", "service", "mend", "move", "look", "step")
MOST_ENTRIES = 20_000
KEY_BYTES = 24

upkeep = Routes("upkeep", __name__, url_prefix="/api/designs")


@upkeep.post(
    "/<uuid:design_id>/upkeep", operation_id="planUpkeep", responses={200: UpkeepReport, 404: Problem, 422: Problem}
)
def plan_upkeep(path: DesignPath, body: AskUpkeep) -> Response:
    """Tell what is to be cleaned, checked, drained and covered, when and why, and the next moves with their steps."""
    with database().transaction() as connection:
        entries = _entries(connection, path.design_id, UPKEEP_KINDS)
    return answer(upkeep_report(judged(body.document), entries, body.today))


@upkeep.post(
    "/<uuid:design_id>/ledger", operation_id="readLedger", responses={200: LedgerReport, 404: Problem, 422: Problem}
)
def read_ledger(path: DesignPath, body: AskLedger) -> Response:
    """Add up litres, trips, hours and money before the line and since, and tell when it has paid for itself."""
    with database().transaction() as connection:
        rows = _rows(connection, path.design_id, LEDGER_KINDS)
    return answer(ledger_report(body.document, rows, body.today, body.begun, body.wage, body.price))


@upkeep.post("/<uuid:design_id>/feed", operation_id="makeFeed", responses={200: FeedAddress, 404: Problem})
def make_feed(path: DesignPath) -> Response:
    """Make the address of a plan's calendar feed; an earlier address no longer answers."""
    key = secrets.token_urlsafe(KEY_BYTES)
    with database().transaction() as connection:
        require_plan(connection, path.design_id)
        put_key(connection, path.design_id, key)
    return answer(FeedAddress(path=f"/api/designs/{path.design_id}/calendar.ics?key={key}"))


@upkeep.get(
    "/<uuid:design_id>/calendar.ics", operation_id="readFeed", responses={200: None, 404: Problem, 422: Problem}
)
def read_feed(path: DesignPath, query: FeedQuery) -> Response:
    """Read the calendar of the plan as it was saved last; only with the key of its address."""
    with database().transaction() as connection:
        key = select_key(connection, path.design_id)
        if key is None or not hmac.compare_digest(key, query.key):
            raise NotFound("no calendar at this address: its key is wrong, or a newer address was made")
        head = select_head(connection, path.design_id)
        entries = _entries(connection, path.design_id, UPKEEP_KINDS)
    if head is None:
        raise NotFound(f"no plan {path.design_id}")
    design, today = read_design(head.document), datetime.now(UTC).date()
    told = upkeep_report(judged(design), entries, today)
    name = f"{design.site.name} · {design.name}"
    written = calendar_of(told, name, str(path.design_id), today, query.units)
    return Response(written, 200, {"Cache-Control": "private, max-age=3600"}, mimetype="text/calendar")


def _entries(connection: Connection[TupleRow], design_id: UUID, kinds: tuple[str, ...]) -> list[LogEntry]:
    return [entry_of(row) for row in _rows(connection, design_id, kinds)]


def _rows(connection: Connection[TupleRow], design_id: UUID, kinds: tuple[str, ...]) -> list[LogRow]:
    require_plan(connection, design_id)
    return select_entries(connection, design_id, LogPage(kinds=kinds, length=MOST_ENTRIES))
