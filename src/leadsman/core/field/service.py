"""The service calendar: what is looked at, cleaned, drained and tested, and when next, from the plan and its log."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.downstream import behind_line
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Design, FloatValveOutlet, InlinePart, Line, PumpInflow, RainInflow, label
from leadsman.core.field.entry import LogEntry, standing

ServiceKind = Literal[
    "filter", "tank", "float", "check_valve", "first_flush", "pump", "standby", "drain", "spring", "bury"
]
# days between two times: common practice, no source. The user's own interval, in an entry of the log, goes before it.
EVERY_D: dict[ServiceKind, int] = {
    "filter": 30, "tank": 365, "float": 182, "check_valve": 365, "first_flush": 30, "pump": 182,
    "standby": 182,
}  # fmt: skip
SPRING_FILTER_D = 7  # while algae and worms come: common practice, no source
SPRING_MONTHS = (3, 4, 5)  # north of the equator
DRAIN_DAY, SPRING_DAY = (11, 1), (3, 15)  # month and day, north of the equator; ours
WATCHED_D = 3  # that joints are looked at before they are covered: common practice, no source
SIX_MONTHS = 6
LEAST_EVERY, MOST_EVERY_D, MOST_EVERY_L = 1.0, 3_650.0, 1e9


@dataclass(frozen=True, kw_only=True)
class Task:
    """Something to do at a part: when next, when last, and why then.

    `litres` is what ran through since the last time [L], where that is counted.
    """

    task_id: str
    kind: ServiceKind
    part: str
    told: Wording
    due: date
    why: Wording
    last: date | None = None
    litres: float | None = None


def service_tasks(analysis: Analysis, entries: Iterable[LogEntry], today: date) -> list[Task]:
    """Return what is to be done on a line, the first due first.

    Something done is an entry of the log of the kind service with the task's id in `figures.task`; `every_days` or
    `every_l` there is the user's own interval, in days or in litres that run through. What was never done counts from
    the day on which the line was started, else from today.
    """
    done = [one for one in standing(entries) if one.kind == "service"]
    started = _started(entries)
    found = [_dated(analysis, task, done, started, today) for task in _planned(analysis, started, today)]
    return sorted((task for task in found if task is not None), key=lambda one: (one.due, one.task_id))


def _started(entries: Iterable[LogEntry]) -> date | None:
    """Return the day on which the line was filled: when its first water ended well."""
    ends = [
        one.happened_at.date()
        for one in standing(entries)
        if one.kind == "step" and one.figures.get("ended") == "done" and one.figures.get("step") in ("flush", "night")
    ]
    return max(ends, default=None)


def _planned(analysis: Analysis, started: date | None, today: date) -> Iterator[Task]:
    """Yield every task of a plan, without when it is due."""
    design = analysis.document
    for line in design.lines:
        for number, part in enumerate(line.inline):
            if part.kind in ("filter", "check_valve"):
                yield _in_line(line, part, number)
    for vessel in design.vessels:
        if vessel.role != "trough":
            yield _task("tank", vessel.id, say("Clean {}", label(vessel)), today)
    for outlet in design.outlets:
        if isinstance(outlet, FloatValveOutlet):
            yield _task("float", outlet.id, say("Check float and washer of {}", label(outlet)), today)
    for inflow in design.inflows:
        if isinstance(inflow, RainInflow):
            told = say("Empty the first flush and the gutter of {}", label(inflow))
            yield _task("first_flush", inflow.id, told, today)
        if isinstance(inflow, PumpInflow):
            yield _task("pump", inflow.id, say("Check {}: strainer, check valve, switch", label(inflow)), today)
    if design.herds:
        told = say("Test the standby: fill it, connect it, water the herds from it once")
        yield _task("standby", design.herds[0].id, told, today)
    drained = [line for line in design.lines if any(part.kind == "drain" for part in line.inline)]
    if drained:
        told = say("Drain the lines before frost: from the source down, ends open")
        yield _task("drain", drained[0].id, told, today)
        told = say("Start again: drains shut, prime, fill slowly, walk along it")
        yield _task("spring", drained[0].id, told, today)
    if started is not None:
        for line in design.lines:
            if line.cover_m > 0.0 or line.crossings:
                yield _task("bury", line.id, say("Cover {}, if its joints are dry", label(line)), today)


def _task(kind: ServiceKind, part: str, told: Wording, today: date) -> Task:
    return Task(task_id=f"{kind}:{part}", kind=kind, part=part, told=told, due=today, why=())


def _in_line(line: Line, part: InlinePart, number: int) -> Task:
    at = Quantity(value=part.at_m, unit="m", digits=0)
    kind: ServiceKind = "filter" if part.kind == "filter" else "check_valve"
    doing = "Clean the filter of {} at {}" if kind == "filter" else "Check the check valve of {} at {}"
    told = say(doing, label(line), at)
    return Task(task_id=f"{kind}:{line.id}:{number}", kind=kind, part=line.id, told=told, due=date.min, why=())


def _dated(analysis: Analysis, task: Task, done: Sequence[LogEntry], started: date | None, today: date) -> Task | None:
    """Return a task with when it is due; None for what is done once and was done."""
    own = sorted((one for one in done if one.figures.get("task") == task.task_id), key=lambda one: one.happened_at)
    last = own[-1].happened_at.date() if own else None
    if task.kind == "bury":
        if last is not None or started is None:
            return None
        due = started + timedelta(days=WATCHED_D)
        return replace(task, due=due, why=say("{} days after first water, if they stay dry", str(WATCHED_D)))
    if task.kind in ("drain", "spring"):
        return replace(task, last=last, due=_of_the_year(analysis.document, task.kind, last, today),
            why=say("once a year"))  # fmt: skip
    since = last or started or today
    days, why = EVERY_D[task.kind], say("every {} days", str(EVERY_D[task.kind]))
    if task.kind == "filter" and _month(analysis.document, since) in SPRING_MONTHS:
        days, why = SPRING_FILTER_D, say("every {} days in spring", str(SPRING_FILTER_D))
    daily_l = _daily_l(analysis, task.part)
    litres = None if daily_l is None or last is None else max(0, (today - last).days) * daily_l
    own_days, own_l = _said(own, "every_days", MOST_EVERY_D), _said(own, "every_l", MOST_EVERY_L)
    if own_l is not None and daily_l:
        days = max(1, round(own_l / daily_l))
        through = Quantity(value=own_l, unit="L")
        why = say("every {}, at {} your way", through, Quantity(value=daily_l, unit="L/d"))
    elif own_days is not None:
        days, why = round(own_days), say("every {} days, your own", f"{own_days:g}")
    return replace(task, last=last, due=since + timedelta(days=days), why=why, litres=litres)


def _said(own: Sequence[LogEntry], key: str, most: float) -> float | None:
    """Return the interval that was said last, if it is one."""
    told = [value for one in own if isinstance(value := one.figures.get(key), (int, float)) and value is not True]
    return float(told[-1]) if told and LEAST_EVERY <= float(told[-1]) <= most else None


def _daily_l(analysis: Analysis, part: str) -> float | None:
    """Return what runs through a line in a day [L]: what is needed at all outlets behind it; None for other parts."""
    if part not in analysis.model.layout.lines:
        return None
    behind = behind_line(analysis, part)
    herds = sum(
        one.daily_l * len(behind & set(one.outlets)) / len(one.outlets) for one in analysis.herds if one.outlets
    )
    return herds + sum(one.daily_l for one in analysis.other_demands if one.where in behind)


def _month(design: Design, day: date) -> int:
    """Return the month, as it would be called north of the equator."""
    shift = SIX_MONTHS if design.site.is_southern else 0
    return (day.month + shift - 1) % 12 + 1


def _of_the_year(design: Design, kind: ServiceKind, last: date | None, today: date) -> date:
    """Return the next day of the year for draining or starting; overdue until it was done in its season."""
    month, day = DRAIN_DAY if kind == "drain" else SPRING_DAY
    month = (month + (SIX_MONTHS if design.site.is_southern else 0) - 1) % 12 + 1
    years = (today.year - 1, today.year, today.year + 1)
    for due in (date(year, month, day) for year in years):
        done = last is not None and last >= due - timedelta(days=30 * SIX_MONTHS // 2)
        if not done and due >= today - timedelta(days=30 * SIX_MONTHS // 2):
            return due
    return date(today.year + 2, month, day)
