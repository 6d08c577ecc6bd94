"""The demand of a day by the hour: when animals drink, plants are watered and ponds lose water."""

from leadsman.core.base.units import HOUR_S
from leadsman.core.farm.demand import HerdDemand
from leadsman.core.farm.drinking import DAYLIGHT_H, PEAK_S, habit_of
from leadsman.core.farm.growing import OtherDemand

HOURS = 24
MIDDAY_H = 13.0  # middle of the daylight; ours, no source
DAYLIGHT = (MIDDAY_H - DAYLIGHT_H / 2.0, DAYLIGHT_H)
WATERED_FROM_H = 6.0  # plants are watered in the morning; ours, no source


def hourly_l(
    herds: list[HerdDemand], others: list[OtherDemand], watered: dict[str, list[tuple[float, float]]]
) -> list[float]:
    """Return what is drunk, watered and lost in each hour of a day [L], from midnight on.

    A mob drinks at its visits, evenly over the daylight; a herd near water all day, two hours of it at its peak
    rate; one of which nothing is said, evenly. Plants are watered when their timer runs, from six on where they have
    none; ponds lose evenly, troughs are moved by day.

    Args:
        watered: of each crop with a timer its spells, from [h] and how long [h].
    """
    hours = [0.0] * HOURS
    for demand in herds:
        for start, length, litres in drinking_spells(demand):
            _pour(hours, start, length, litres)
    for other in others:
        spells = {"crop": watered.get(other.part_id, [(WATERED_FROM_H, 1.0)]), "move": [DAYLIGHT]}
        for start, length in (own := spells.get(other.kind, [(0.0, float(HOURS))])):
            _pour(hours, start, length, other.daily_l / len(own))
    return hours


def drinking_spells(demand: HerdDemand) -> list[tuple[float, float, float]]:
    """Return when a herd drinks: from [h], how long [h], litres."""
    daily_l, habit = demand.daily_l, habit_of(demand.herd) if demand.herd.drinking else None
    daylight = habit.daylight_s / HOUR_S if habit else DAYLIGHT_H
    dawn = MIDDAY_H - daylight / 2.0
    if habit is None:
        return [(dawn, daylight, daily_l)]
    if habit.pattern == "near":
        peak_h = min(PEAK_S / HOUR_S, daylight)
        at_peak = min(habit.peak_factor * peak_h / daylight, 1.0) * daily_l
        return [(dawn, daylight, daily_l - at_peak), (MIDDAY_H - peak_h / 2.0, peak_h, at_peak)]
    count = max(1, round(habit.visits), len(demand.outlets))
    apart = daylight / count
    return [(dawn + (visit + 0.5) * apart - 0.5, 1.0, daily_l / count) for visit in range(count)]


def _pour(hours: list[float], start: float, length: float, litres: float) -> None:
    """Add litres that run evenly over a spell to the hours that it covers, round the clock."""
    for hour in range(-HOURS, 2 * HOURS):
        covered = min(start + length, hour + 1.0) - max(start, float(hour))
        if covered > 0.0:
            hours[hour % HOURS] += litres * covered / length
