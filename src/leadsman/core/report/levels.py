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
    """Levels over the floor [m], with times: of a sensor, `stick` of a stick, `expected` from the last midnight on."""

    vessel: str
    source: str | None
    trouble: str | None
    readings: list[tuple[datetime, float]]
    stick: list[tuple[datetime, float]]
    expected: list[tuple[datetime, float]]
    full_m: float
    findings: list[LevelFindingReport]


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
        expected=_expected(analysis, vessel, readings, now, utc_offset),
        full_m=store.full_m,
        findings=found,
    )


def _expected(
    analysis: Analysis, vessel: Vessel, readings: Sequence[tuple[datetime, float]], now: datetime, utc_offset: timedelta
) -> list[tuple[datetime, float]]:
    """Return the plan's levels from the last midnight on, from the level that was read then."""
    local = (now.astimezone(UTC) + utc_offset).replace(hour=0, minute=0, second=0, microsecond=0)
    midnight = local - utc_offset
    after = [level for when, level in readings if midnight <= when <= now]
    if not after:
        return []
    level = min(max(after[0], 0.0), vessel.brim_m)
    design = with_part(analysis.document, "vessels", vessel.id, {"level_m": level})
    run = asked_day(design, DAY_H, with_events=False, watch=lambda _: analysis.check_cancelled())
    times = [midnight + timedelta(seconds=float(at_s)) for at_s in run.times_s]
    return list(zip(times, run.levels_m[vessel.id], strict=True))
