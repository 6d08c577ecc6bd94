"""A spring or intake: its flow from a timed container, and through the year."""

from collections.abc import Sequence
from datetime import date

import numpy as np

from leadsman.core.base.array import Floats, Ints
from leadsman.core.base.errors import require_between
from leadsman.core.base.units import LITRE_M3, m3s_from_lpm
from leadsman.core.design import SpringInflow, Timing

YEAR_D = 365.25
STOPWATCH_S = 0.3  # half-width of the error of a time taken by hand, start and stop together; ours, no source


def timed_flow_m3s(volume_m3: float, time_s: float) -> float:
    """Return the flow [m3/s] that fills a container [m3, above 0] in a time [s, above 0].

    Raises:
        OutOfRange: an argument is not above 0.
    Source: volume over time.
    >>> round(timed_flow_m3s(0.010, 20.0) * 60_000, 6)
    30.0
    """
    require_between("volume [m3]", volume_m3, 1e-6, 1e6)
    require_between("time [s]", time_s, 1e-3, 1e9)
    return volume_m3 / time_s


def planned_flow_m3s(spring: SpringInflow) -> float:
    """Return the flow [m3/s] to plan on: that of the slowest timing, or what is claimed where nobody timed it.

    Source: common practice, no source: plan on the driest that was seen.
    >>> spring = SpringInflow(id="s", fills="t", kind="spring", timings=[
    ...     Timing(volume_l=12.0, time_s=90.0), Timing(volume_l=12.0, time_s=144.0)])
    >>> round(planned_flow_m3s(spring) * 60_000, 6)
    5.0
    """
    if not spring.timings:
        return m3s_from_lpm(spring.claimed_lpm or 0.0)
    return min(_flow_m3s(timing) for timing in spring.timings)


def planned_flow_error_m3s(spring: SpringInflow) -> float:
    """Return how much less the flow to plan on may be [m3/s], by the hand on the stopwatch; 0 where nobody timed it.

    Source: a time taken by hand is good to 0.3 s, ours, no source; volume over time.
    >>> spring = SpringInflow(id="s", fills="t", kind="spring", timings=[Timing(volume_l=10.0, time_s=2.0)])
    >>> round(planned_flow_error_m3s(spring) * 60_000, 2), round(planned_flow_m3s(spring) * 60_000, 2)
    (39.13, 300.0)
    """
    if not spring.timings:
        return 0.0
    slowest = min(spring.timings, key=_flow_m3s)
    return _flow_m3s(slowest) * STOPWATCH_S / (slowest.time_s + STOPWATCH_S)


def greatest_flow_m3s(spring: SpringInflow) -> float:
    """Return the greatest flow that was timed [m3/s], or what is claimed where nobody timed it.

    Source: volume over time, of the fastest timing.
    >>> spring = SpringInflow(id="s", fills="t", kind="spring", timings=[
    ...     Timing(volume_l=12.0, time_s=90.0), Timing(volume_l=12.0, time_s=144.0)])
    >>> round(greatest_flow_m3s(spring) * 60_000, 6)
    8.0
    """
    return max((_flow_m3s(timing) for timing in spring.timings), default=m3s_from_lpm(spring.claimed_lpm or 0.0))


def flow_through_year_m3s(spring: SpringInflow, year_day: Ints) -> Floats:
    """Return the flow on each day of a year [m3/s], shape (days,): on a straight line between dated timings.

    The year goes round: after the last timing comes the first. Of one date, or without two of them, the flow to plan
    on holds throughout: nothing is made up of a year that nobody saw.
    Source: straight lines between what was timed; our own choice.
    >>> spring = SpringInflow(id="s", fills="t", kind="spring", timings=[
    ...     Timing(volume_l=10.0, time_s=60.0, date="2031-04-01"),
    ...     Timing(volume_l=10.0, time_s=120.0, date="2031-08-09")])
    >>> (flow_through_year_m3s(spring, np.array([91, 156, 221])) * 60_000).round(6).tolist()  # 130 days apart
    [10.0, 7.5, 5.0]
    """
    by_day: dict[int, float] = {}
    for timing in spring.timings:
        if timing.date is not None:
            day = date.fromisoformat(timing.date).timetuple().tm_yday
            by_day[day] = min(_flow_m3s(timing), by_day.get(day, np.inf))
    if len(by_day) < 2:
        return np.full(len(year_day), planned_flow_m3s(spring))
    days = np.array(sorted(by_day))
    return np.interp(year_day, days, [by_day[day] for day in days.tolist()], period=YEAR_D)


def longest_gap_d(timings: Sequence[Timing]) -> float | None:
    """Return the longest time of the year between two dated timings [d]; None where none is dated.

    Source: days of the year counted round.
    >>> timed = [Timing(volume_l=10.0, time_s=60.0, date=day) for day in ("2031-04-01", "2031-08-09")]
    >>> longest_gap_d(timed)
    235.25
    """
    days = sorted(
        {date.fromisoformat(timing.date).timetuple().tm_yday for timing in timings if timing.date is not None}
    )
    if not days:
        return None
    return max(float(after - before) for before, after in zip(days, [*days[1:], days[0] + YEAR_D], strict=True))


def _flow_m3s(timing: Timing) -> float:
    return timed_flow_m3s(timing.volume_l * LITRE_M3, timing.time_s)
