"""JSON of upkeep: the service calendar, the next moves, and the ledger."""

from collections.abc import Iterable, Sequence
from datetime import date

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design import Design, label
from leadsman.core.design.price_book import PRICED_IN
from leadsman.core.field.entry import LogEntry, Noted
from leadsman.core.field.ledger import Ledger, Totals, ledger, line_begun
from leadsman.core.field.moving_day import Move, next_moves
from leadsman.core.field.service import ServiceKind, Task, service_tasks
from leadsman.core.parts.parts_list import parts_list
from leadsman.core.report.base import Report, Words, words


class TaskReport(Report):
    """Something to do: when next and last, and why then; `litres` is what ran through since [L]."""

    id: str
    kind: ServiceKind
    part: str
    told: Words
    due: date
    late: bool
    why: Words
    last: date | None
    litres: float | None


class MoveReport(Report):
    """One move of a herd: what is done step by step; litres thrown away, minutes of work, seconds until it is full."""

    day: date
    herd: str
    herd_name: str
    left: str
    reached: str
    reached_name: str
    paddock: str | None
    carried: str | None
    thrown_l: float
    minutes: float | None
    wait_s: float | None
    steps: list[Words]


class UpkeepReport(Report):
    """What is to be done, the first due first, and the next moves."""

    tasks: list[TaskReport]
    moves: list[MoveReport]


class TotalsReport(Report):
    days: int
    trips: int
    litres: float
    hours: float
    money: float
    per_day: float | None


class MonthReport(Report):
    month: str
    totals: TotalsReport


class LedgerReport(Report):
    """Before the line and since; `price` is what payback goes by, `planned_price` what the plan's parts cost."""

    before: TotalsReport
    after: TotalsReport
    begun: date | None
    months: list[MonthReport]
    saved_per_day: float | None
    payback_d: float | None
    price: float | None
    planned_price: float | None
    currency: str


def upkeep_report(analysis: Analysis, entries: Iterable[LogEntry], today: date) -> UpkeepReport:
    """Return what is to be done on a line, and its next moves."""
    return UpkeepReport(
        tasks=[_task(task, today) for task in service_tasks(analysis, entries, today)],
        moves=[_move(analysis, move) for move in next_moves(analysis, today)],
    )


def _task(task: Task, today: date) -> TaskReport:
    return TaskReport(
        id=task.task_id,
        kind=task.kind,
        part=task.part,
        told=words(task.told),
        due=task.due,
        late=task.due < today,
        why=words(task.why),
        last=task.last,
        litres=task.litres,
    )


def _move(analysis: Analysis, move: Move) -> MoveReport:
    outlets = analysis.model.layout.outlets
    paddocks = {one.id: label(one) for one in analysis.document.paddocks}
    return MoveReport(
        day=move.day,
        herd=move.herd.id,
        herd_name=label(move.herd),
        left=move.left,
        reached=move.reached,
        reached_name=paddocks.get(move.paddock or "") or label(outlets[move.reached]),
        paddock=move.paddock,
        carried=label(move.vessel) if move.vessel else None,
        thrown_l=move.thrown_l,
        minutes=move.minutes,
        wait_s=move.wait_s,
        steps=[words(step) for step in move.steps],
    )


def ledger_report(
    design: Design, entries: Sequence[Noted], today: date, begun: date | None, wage: float, price: float | None
) -> LedgerReport:
    """Return the ledger of a log, with the price that is said, else with what the plan's parts cost.

    Raises:
        OutOfRange: a wage or a price below 0 or beyond all sense.
    """
    planned = parts_list(design).price if design.prices or design.site.currency == PRICED_IN else 0.0
    counted = price if price is not None else (planned or None)
    found: Ledger = ledger(entries, today, begun or line_begun(entries), wage, counted)
    return LedgerReport(
        before=_totals(found.before, wage),
        after=_totals(found.after, wage),
        begun=found.begun,
        months=[MonthReport(month=one.month, totals=_totals(one.totals, wage)) for one in found.months],
        saved_per_day=found.saved_per_day,
        payback_d=found.payback_d,
        price=counted,
        planned_price=planned or None,
        currency=design.site.currency,
    )


def _totals(totals: Totals, wage: float) -> TotalsReport:
    return TotalsReport(**vars(totals), per_day=totals.per_day(wage))
