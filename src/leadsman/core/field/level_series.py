"""What a series of tank levels says: faults of the sensor, leaks by night, a fading source, a pump that stays on.

Levels from a sensor or a dipstick; all rules look at no more than the last days.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from typing import Literal

import numpy as np
from scipy.stats import theilslopes

from leadsman.core.base.array import Floats
from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3
from leadsman.core.base.wording import Quantity, Wording, duration, say

SeriesCode = Literal["silent", "stuck", "jumping", "wrong-clock", "passes-at-night", "source-fades", "pump-stays-on"]
SILENT_H = 2.0  # without a reading; ours
STUCK_H = 12.0  # with the very same figure; ours
STUCK_READINGS = 12
JUMPS = 3  # that nothing in the plan could make; ours
JUMP_LEAST_M = 0.05
AHEAD = timedelta(minutes=10)  # a clock may be
NIGHT_H = (0.0, 4.0)  # in which hardly anything drinks: ours; the herds' hours in the plan say it better
NIGHT_READINGS, NIGHT_LEAST_H = 5, 1.5
NIGHT_OVER = timedelta(hours=3.8)  # after its first reading
LEAST_LEAK_LPH = 5.0  # under this nobody finds anything; ours
FADED_SHARE = 0.7  # of what it gave at first, or by the plan; ours
FULL_WITHIN_M = 0.02
STAYS_ON_H = 2.0


@dataclass(frozen=True, kw_only=True)
class Store:
    """What is known of a vessel by the plan: area [m2] at a level, what comes in and goes out at most [m3/s].

    `comes_m3s` is what its sources bring all day, None where they come and go; `full_m` at which it is full, `stops_m`
    at which its pump is to stop, None without one.
    """

    area_m2: float
    most_m3s: float
    comes_m3s: float | None
    full_m: float
    stops_m: float | None = None


@dataclass(frozen=True, kw_only=True)
class SeriesFinding:
    """Something that a series says; `lph` is the water that goes or lacks [L/h], where it is one."""

    code: SeriesCode
    told: Wording
    since: datetime
    lph: float | None = None


def series_findings(
    readings: Sequence[tuple[datetime, float]], store: Store, now: datetime, utc_offset: timedelta = timedelta()
) -> list[SeriesFinding]:
    """Return what a series of levels [m] says, its sensor's faults first; nothing where there is no reading.

    Args:
        readings: times and levels, in the order in which they came.
        utc_offset: of the farm's clock, which says when it is night.
    """
    if not readings:
        return []
    found = list(_clock(readings, now))
    known = sorted((when, level) for when, level in readings if when <= now + AHEAD)
    if not known:
        return found
    found += [one for one in (_silent(known, now), _stuck(known), _jumping(known, store)) if one is not None]
    if any(one.code in ("stuck", "jumping", "wrong-clock") for one in found):
        return found  # its figures say nothing of the water
    nights = _nights(known, store, now, utc_offset)
    found += [one for one in (_passing(nights, store), _fading(nights, store), _pump(known, store)) if one is not None]
    return found


def _clock(readings: Sequence[tuple[datetime, float]], now: datetime) -> list[SeriesFinding]:
    ahead = [when for when, _ in readings if when > now + AHEAD]
    back = [here for (here, _), (later, _) in pairwise(readings) if later < here - AHEAD]
    if ahead:
        told = say("Its clock is {} ahead: set it, its days and nights are not ours.",
            duration((max(ahead) - now).total_seconds()))  # fmt: skip
        return [SeriesFinding(code="wrong-clock", told=told, since=now)]
    if back:
        told = say("Its clock went back: what came before and after does not fit together.")
        return [SeriesFinding(code="wrong-clock", told=told, since=back[-1])]
    return []


def _silent(known: Sequence[tuple[datetime, float]], now: datetime) -> SeriesFinding | None:
    last = known[-1][0]
    quiet_s = (now - last).total_seconds()
    if quiet_s <= SILENT_H * HOUR_S:
        return None
    return SeriesFinding(
        code="silent", since=last,
        told=say("Nothing was heard of it for {}: battery, cable or reception. Look at the tank itself.",
            duration(quiet_s)),
    )  # fmt: skip


def _stuck(known: Sequence[tuple[datetime, float]]) -> SeriesFinding | None:
    last = known[-1][1]
    first = next((i for i in range(len(known) - 1, -1, -1) if known[i][1] != last), -1) + 1
    same_s = (known[-1][0] - known[first][0]).total_seconds()
    if same_s < STUCK_H * HOUR_S or len(known) - first < STUCK_READINGS:
        return None
    return SeriesFinding(
        code="stuck", since=known[first][0],
        told=say("It says {} for {} without a change: its float hangs, or it repeats itself.",
            Quantity(value=last, unit="m"), duration(same_s)),
    )  # fmt: skip


def _jumping(known: Sequence[tuple[datetime, float]], store: Store) -> SeriesFinding | None:
    times, levels = _arrays(known)
    steps_s, moves = np.maximum(np.diff(times), 1.0), np.abs(np.diff(levels))
    able = np.maximum(JUMP_LEAST_M, 2.0 * store.most_m3s * steps_s / store.area_m2)
    jumps = np.flatnonzero(moves > able)
    if len(jumps) < JUMPS:
        return None
    greatest = Quantity(value=float(moves[jumps].max()), unit="m")
    return SeriesFinding(
        code="jumping", since=known[int(jumps[0])][0],
        told=say("It jumps, by up to {}: no water does that here. Waves, a loose cable, or the sensor.", greatest),
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class _Night:
    """A night: when, by how much the water rose [m3/s], and how sure that is; whether it stood full, and is over."""

    when: datetime
    rise_m3s: float
    low_m3s: float
    high_m3s: float
    full: bool
    is_over: bool


def _nights(
    known: Sequence[tuple[datetime, float]], store: Store, now: datetime, utc_offset: timedelta
) -> list[_Night]:
    """Return the slopes of the nights, by Theil's robust line, with its 95 % range."""
    by_night: dict[str, list[tuple[datetime, float]]] = {}
    for when, level in known:
        local = when.astimezone(UTC) + utc_offset
        hour = local.hour + local.minute / 60.0
        if NIGHT_H[0] <= hour < NIGHT_H[1]:
            by_night.setdefault(f"{local:%Y-%m-%d}", []).append((when, level))
    found = []
    for own in by_night.values():
        times, levels = _arrays(own)
        if len(own) < NIGHT_READINGS or times[-1] - times[0] < NIGHT_LEAST_H * HOUR_S:
            continue
        if levels.max() == levels.min():  # not even noise: it may as well be the sensor that rests
            continue
        slope, _, low, high = theilslopes(levels, times, 0.95)
        area = store.area_m2
        full = bool(levels.max() >= store.full_m - FULL_WITHIN_M)
        found.append(
            _Night(when=own[0][0], rise_m3s=float(slope) * area, low_m3s=float(low) * area,
                high_m3s=float(high) * area, full=full, is_over=now - own[0][0] >= NIGHT_OVER)
        )  # fmt: skip
    return found


def _passing(nights: Sequence[_Night], store: Store) -> SeriesFinding | None:
    """Return that water goes though nobody drinks: what comes in, less what the level rose by."""
    usable = [night for night in nights if not night.full]
    found = _passing_by(usable, store)
    if found is None and usable and not usable[-1].is_over:  # of a night that has just begun little is sure yet
        return _passing_by(usable[:-1], store)
    return found


def _passing_by(usable: Sequence[_Night], store: Store) -> SeriesFinding | None:
    """Return what the last of some nights says."""
    if not usable:
        return None
    last = usable[-1]
    comes = store.comes_m3s or 0.0
    goes, least = comes - last.rise_m3s, comes - last.high_m3s
    if store.comes_m3s is not None and comes > 0.0 and len(usable) > 1:
        return None if not _went_up(usable, goes) else _told_passing(last, goes)
    if least <= LEAST_LEAK_LPH * LITRE_M3 / HOUR_S or (store.comes_m3s is None and last.high_m3s >= 0.0):
        return None
    return _told_passing(last, goes)


def _went_up(usable: Sequence[_Night], goes_m3s: float) -> bool:
    """Whether the water falls at night, or rises clearly less from one night on: a source fades slowly, a valve not."""
    last, before = usable[-1], usable[:-1]
    if last.high_m3s < -LEAST_LEAK_LPH * LITRE_M3 / HOUR_S:
        return True
    usual = float(np.median([night.rise_m3s for night in before]))
    sudden = before[-1].rise_m3s - last.rise_m3s
    return sudden > max(0.3 * max(usual, 0.0), LEAST_LEAK_LPH * LITRE_M3 / HOUR_S) and goes_m3s > 0.0


def _told_passing(night: _Night, goes_m3s: float) -> SeriesFinding:
    lph = goes_m3s * HOUR_S / LITRE_M3
    return SeriesFinding(
        code="passes-at-night", since=night.when, lph=lph,
        told=say("{} an hour go at night, when nobody drinks: a valve passes or a line leaks. Shut the outlet of the "
            "tank: still falling, it is the tank; else shut line by line.", Quantity(value=lph, unit="L")),
    )  # fmt: skip


def _fading(nights: Sequence[_Night], store: Store) -> SeriesFinding | None:
    """Return that less and less comes in: the nights of late against the first, or against the plan."""
    usable = [night for night in nights if not night.full]
    if store.comes_m3s is None or store.comes_m3s <= 0.0 or not usable:
        return None
    last = usable[-1]
    first = usable[0].rise_m3s if len(usable) > 2 else store.comes_m3s
    if first <= 0.0 or last.rise_m3s < 0.0 or last.high_m3s >= FADED_SHARE * min(first, store.comes_m3s):
        return None
    if len(usable) > 1 and usable[-2].rise_m3s - last.rise_m3s > 0.3 * max(usable[-2].rise_m3s, 0.0):
        return None  # at one stroke: not a source that fades
    now, planned = (Quantity(value=one * DAY_S / LITRE_M3, unit="L/d") for one in (last.rise_m3s, store.comes_m3s))
    lacks = (store.comes_m3s - last.rise_m3s) * HOUR_S / LITRE_M3
    return SeriesFinding(
        code="source-fades", since=last.when, lph=lacks,
        told=say("Its source brings {} by the last night; {} are planned. Reckon with less.", now, planned),
    )  # fmt: skip


def _pump(known: Sequence[tuple[datetime, float]], store: Store) -> SeriesFinding | None:
    if store.stops_m is None:
        return None
    limit = store.stops_m + FULL_WITHIN_M
    above = next((i for i in range(len(known) - 1, -1, -1) if known[i][1] <= limit), -1) + 1
    if above >= len(known):
        return None
    over_s = (known[-1][0] - known[above][0]).total_seconds()
    if over_s < STAYS_ON_H * HOUR_S:
        return None
    return SeriesFinding(
        code="pump-stays-on", since=known[above][0],
        told=say("The water stands over {}, at which its pump is to stop, for {}: the pump stays on. Switch it off, "
            "look at its float switch.", Quantity(value=store.stops_m, unit="m"), duration(over_s)),
    )  # fmt: skip


def _arrays(known: Sequence[tuple[datetime, float]]) -> tuple[Floats, Floats]:
    start = known[0][0]
    times = np.array([(when - start).total_seconds() for when, _ in known])
    return times, np.array([level for _, level in known])
