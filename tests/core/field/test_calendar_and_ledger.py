"""Service calendar, moving day and ledger: days, litres and money counted by hand."""

import random
from datetime import UTC, date, datetime, timedelta
from itertools import pairwise
from typing import Any
from uuid import uuid4

import pytest

import planted
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.field.entry import LogEntry, LogKind
from leadsman.core.field.ledger import ledger, line_begun
from leadsman.core.field.moving_day import Move, next_moves
from leadsman.core.field.service import Task, service_tasks

TODAY = date(2031, 6, 20)


def entry(kind: LogKind, day: date, part: str | None = None, **figures: Any) -> LogEntry:
    when = datetime(day.year, day.month, day.day, 9, 0, tzinfo=UTC)
    return LogEntry(id=uuid4(), kind=kind, part=part, happened_at=when, figures=figures)


def document(**changes: Any) -> dict[str, Any]:
    """A farm with a filter in each line, a drain in one, a buried one, and 20 goats of 30 L at each trough."""
    made = planted.document_of(planted.made_up(random.Random(5)))
    made["lines"][0]["cover_m"] = 0.4
    made["lines"][0]["inline"].append({"kind": "drain", "at_m": 9.0})
    made["herds"] = [
        {"id": f"herd-{one['id']}", "class": "goats", "head": 20, "intake_lpd": 30.0, "outlet": one["id"]}
        for one in made["outlets"]
    ]
    made["scenarios"] = [{"id": "day", "air_c": 20.0}]
    return made | changes


def tasks(entries: list[LogEntry], today: date = TODAY, **changes: Any) -> dict[str, Task]:
    found = service_tasks(Analysis(read_design(document(**changes))), entries, today)
    assert [one.due for one in found] == sorted(one.due for one in found)
    return {one.task_id: one for one in found}


def test_what_was_never_done_counts_from_first_water_and_what_was_from_its_last_time() -> None:
    started = entry("step", date(2031, 6, 1), step="flush", ended="done")
    cleaned = entry("service", date(2031, 6, 10), "spur-0", task="filter:spur-0:0")
    found = tasks([started, cleaned])
    assert found["filter:main-0:0"].due == date(2031, 7, 1)
    assert found["filter:spur-0:0"].due == date(2031, 7, 10)
    assert found["filter:spur-0:0"].last == date(2031, 6, 10)
    assert found["filter:spur-0:0"].litres == pytest.approx(10 * 20 * 30.0)
    assert found["tank:tank"].due == date(2032, 5, 31)
    assert found["bury:main-0"].due == date(2031, 6, 4)
    buried = entry("service", date(2031, 6, 5), "main-0", task="bury:main-0")
    assert "bury:main-0" not in tasks([started, cleaned, buried])
    assert "bury:main-0" not in tasks([])  # nothing is filled yet


def test_an_interval_of_one_s_own_goes_before_ours_in_days_and_in_litres() -> None:
    done = date(2031, 6, 10)
    days = tasks([entry("service", done, "spur-0", task="filter:spur-0:0", every_days=5)])["filter:spur-0:0"]
    assert (days.due, plain(days.why)) == (date(2031, 6, 15), "every 5 days, your own")
    litres = tasks([entry("service", done, "spur-0", task="filter:spur-0:0", every_l=6_000)])["filter:spur-0:0"]
    assert litres.due == done + timedelta(days=10)  # 600 L a day
    nonsense = tasks([entry("service", done, "spur-0", task="filter:spur-0:0", every_days=-3)])["filter:spur-0:0"]
    assert nonsense.due == done + timedelta(days=30)


@pytest.mark.parametrize(
    ("latitude", "today", "drain", "spring"),
    [
        (45.0, date(2031, 6, 20), date(2031, 11, 1), date(2032, 3, 15)),
        (45.0, date(2031, 11, 20), date(2031, 11, 1), date(2032, 3, 15)),
        (-42.0, date(2031, 11, 20), date(2032, 5, 1), date(2031, 9, 15)),
        (-42.0, date(2031, 4, 20), date(2031, 5, 1), date(2031, 9, 15)),
    ],
)
def test_draining_and_starting_follow_the_hemisphere(latitude: float, today: date, drain: date, spring: date) -> None:
    found = tasks([], today, site={"name": "Tamsel Ridge", "latitude_deg": latitude})
    assert (found["drain:main-0"].due, found["spring:main-0"].due) == (drain, spring)
    done = entry("service", drain, "main-0", task="drain:main-0")
    if drain <= today:
        again = tasks([done], today, site={"name": "Tamsel Ridge", "latitude_deg": latitude})
        assert again["drain:main-0"].due == drain.replace(year=drain.year + 1)


def test_filters_are_cleaned_weekly_in_spring_in_either_hemisphere() -> None:
    for latitude, month in ((45.0, 4), (-42.0, 10)):
        day = date(2031, month, 10)
        site = {"name": "Tamsel Ridge", "latitude_deg": latitude}
        found = tasks([entry("service", day, "spur-0", task="filter:spur-0:0")], day, site=site)
        assert found["filter:spur-0:0"].due == day + timedelta(days=7)


def carried(minutes: float | None = 12.0) -> list[Move]:
    made = document()
    box = made["vessels"][1]
    made["outlets"] = [{**one, "fills": box["id"]} for one in made["outlets"]]
    box["portable"] = {} if minutes is None else {"minutes": minutes}
    made["vessels"] = made["vessels"][:2]
    made["herds"] = made["herds"][:1]
    stops = [one["id"] for one in made["outlets"][:2]]
    made["calendar"] = [
        {"id": "r", "herd": made["herds"][0]["id"], "from": "2031-06-01", "to": "2031-07-31", "outlets": stops,
         "days_each": 3.0},
    ]  # fmt: skip
    return next_moves(Analysis(read_design(made)), TODAY)


def test_the_next_moves_of_a_trough_say_litres_minutes_and_what_to_do_in_order() -> None:
    moves = carried()
    days = [move.day for move in moves]
    assert all(later - earlier == timedelta(days=3) for earlier, later in pairwise(days))
    assert days[0] == date(2031, 6, 22)  # 21 days after the first, in steps of three
    assert days[-1] <= date(2031, 7, 31)
    first = moves[0]
    assert first.left != first.reached
    assert first.thrown_l == pytest.approx(2.0 * 0.5 * 0.5 * 1000.0)  # all that it holds when its float shuts
    assert first.minutes == 12.0
    assert first.wait_s is not None
    told = [plain(step) for step in first.steps]
    assert told[0].startswith("Shut the tap of")
    assert "500 L run away" in told[1]
    assert told[-1].startswith("Guard over the float")
    assert carried(None)[0].minutes is None


def test_a_plan_without_a_calendar_or_with_one_that_is_over_has_no_moves() -> None:
    assert next_moves(Analysis(read_design(document())), TODAY) == []


def test_the_ledger_counts_before_and_since_and_when_it_is_paid_back() -> None:
    begun = date(2031, 5, 1)
    trip: dict[str, Any] = {"litres": 600.0, "minutes": 30.0, "fill_min": 20.0, "empty_min": 10.0, "fuel_money": 5.0}
    before = [entry("trip", begun - timedelta(days=day), **trip) for day in (20, 16, 12, 8, 4)]
    water = entry("trip", begun - timedelta(days=2), litres=600.0, water_money=3.0)
    started = entry("step", begun, step="flush", ended="done")
    since = [entry("service", begun + timedelta(days=10), "spur-0", task="x", minutes=30.0)]
    entries = [*before, water, started, *since]
    random.Random(4).shuffle(entries)
    assert line_begun(entries) == begun
    found = ledger(entries, begun + timedelta(days=19), begun, wage=20.0, price=520.0)
    assert (found.before.trips, found.before.litres, found.before.hours) == (6, 3_600.0, 5.0)
    assert (found.before.money, found.before.days) == (28.0, 20)
    assert (found.after.trips, found.after.hours, found.after.days) == (0, 0.5, 20)
    assert found.before.per_day(20.0) == pytest.approx(6.4)
    assert found.saved_per_day == pytest.approx(6.4 - 0.5)
    assert found.payback_d == pytest.approx(520.0 / 5.9)
    assert [one.month for one in found.months] == ["2031-04", "2031-05"]
    assert ledger(entries, begun, None, price=520.0).payback_d is None
    assert ledger([], begun, begun, price=520.0).payback_d is None
    with pytest.raises(OutOfRange):
        ledger(entries, begun, begun, wage=-1.0)


def test_a_corrected_trip_counts_as_its_correction_says() -> None:
    wrong = entry("trip", TODAY, litres=6_000.0)
    right = entry("trip", TODAY, litres=600.0).model_copy(update={"corrects": wrong.id})
    assert ledger([wrong, right], TODAY, None).before.litres == 600.0
