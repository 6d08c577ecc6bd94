"""JSON of levels: what a sensor and a dipstick said, what the plan expects, and what that says."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import UnknownName
from leadsman.core.design import Vessel
from leadsman.core.design.change import with_part
from leadsman.core.field.entry import LogEntry, standing
from leadsman.core.field.level_series import SeriesCode, series_findings
from leadsman.core.field.store_known import stick_leak, store_known
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.dayrun import asked_day

SHOWN = 600
DAY_H = 24.0


class LevelFindingReport(Report):
    code: SeriesCode | str
    told: Words
    since: datetime
    lph: float | None


class LevelsReport(Report):
    """Levels over the floor [m], with times: of a sensor, `stick` of a stick; `since` is the first after midnight."""

    vessel: str
    source: str | None
    trouble: str | None
    readings: list[tuple[datetime, float]]
    stick: list[tuple[datetime, float]]
    since: tuple[datetime, float] | None
    full_m: float
    findings: list[LevelFindingReport]


class ExpectedReport(Report):
    """Levels over the floor [m] that the plan expects of a vessel, with times, from a midnight on."""

    expected: list[tuple[datetime, float]]


def vessel_of(analysis: Analysis, vessel_id: str) -> Vessel:
    """Return a vessel of the plan.

    Raises:
        UnknownName: there is none.
    """
    vessels = analysis.model.layout.vessels
    if vessel_id not in vessels:
        raise UnknownName("vessel", vessel_id, list(vessels), "/vessel")
    return vessels[vessel_id]


def levels_report(
    analysis: Analysis,
    vessel: Vessel,
    readings: Sequence[tuple[datetime, float]],
    entries: Sequence[LogEntry],
    now: datetime,
    utc_offset: timedelta,
    source: str | None = None,
    trouble: str | None = None,
) -> LevelsReport:
    """Return what was read of a vessel's level, with what the plan expects and what it all says."""
    store = store_known(analysis, vessel)
    found = [
        LevelFindingReport(code=one.code, told=words(one.told), since=one.since, lph=one.lph)
        for one in series_findings(readings, store, now, utc_offset)
    ]
    leak = stick_leak(analysis, entries, vessel)
    if leak is not None:
        found.append(LevelFindingReport(code="stick-leak", told=words(leak.told), since=leak.until, lph=leak.lph))
    stick = sorted(
        (one.happened_at, float(one.figures["level_m"]))
        for one in standing(entries)
        if one.kind == "level" and one.part == vessel.id
    )
    step = max(1, len(readings) // SHOWN)
    return LevelsReport(
        vessel=vessel.id,
        source=source,
        trouble=trouble,
        readings=list(readings[::step]),
        stick=stick,
        since=_since_midnight(readings, now, utc_offset),
        full_m=store.full_m,
        findings=found,
    )


def expected_report(analysis: Analysis, vessel: Vessel, midnight: datetime, level_m: float) -> ExpectedReport:
    """Return the levels that the plan expects of a vessel in the day from a midnight on.

    Args:
        level_m: its level then, over its floor; beyond its brim it is full [m].
    """
    design = with_part(analysis.document, "vessels", vessel.id, {"level_m": min(max(level_m, 0.0), vessel.brim_m)})
    run = asked_day(design, DAY_H, with_events=False, watch=lambda _: analysis.check_cancelled())
    times = [midnight + timedelta(seconds=float(at_s)) for at_s in run.times_s]
    return ExpectedReport(expected=list(zip(times, run.levels_m[vessel.id], strict=True)))


def _since_midnight(
    readings: Sequence[tuple[datetime, float]], now: datetime, utc_offset: timedelta
) -> tuple[datetime, float] | None:
    """Return the last midnight on the farm's clock, and the first level that was read after it; None without one."""
    local = (now.astimezone(UTC) + utc_offset).replace(hour=0, minute=0, second=0, microsecond=0)
    midnight = local - utc_offset
    after = [level for when, level in readings if midnight <= when <= now]
    return (midnight, after[0]) if after else None
