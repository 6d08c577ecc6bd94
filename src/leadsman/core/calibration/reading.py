"""What was measured on the real line: timed flows and gauge pressures, from entries of the log."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from statistics import fmean, stdev
from typing import Literal

from leadsman.core.base.units import LITRE_M3, pa_from_kpa
from leadsman.core.design import Design
from leadsman.core.field.entry import LogEntry, standing

ReadingKind = Literal["flow", "pressure"]
Drawing = Literal["alone", "all", "none"]  # which outlets ran meanwhile: this one, all of them, none
TIME_ERROR_S = 0.7  # a thumb on a stopwatch; typical, our own
VOLUME_SHARE = 0.02  # of a marked container; typical, our own
LEAST_PRESSURE_ERROR_PA, PRESSURE_SHARE = 4_000.0, 0.016  # a usual gauge of accuracy class 1.6; typical, from memory
TAKEN_TOGETHER = timedelta(days=14)  # how far readings may lie apart that are held against one plan; ours
SAME_DAY = timedelta(hours=18)
LEAST_FLOW_ERROR_M3S = 0.1 * LITRE_M3 / 60.0  # of a trickle; ours


@dataclass(frozen=True, kw_only=True)
class Reading:
    """A flow [m3/s] of an outlet, or a pressure over the air [Pa] at an outlet or at the ground of a place.

    `error` is one standard error; the value is a mean of `count`.
    """

    kind: ReadingKind
    part: str
    drawing: Drawing
    value: float
    error: float
    count: int = 1

    @property
    def key(self) -> tuple[ReadingKind, str, Drawing]:
        return self.kind, self.part, self.drawing


@dataclass(frozen=True, kw_only=True)
class Measured:
    """Readings taken together, and the level at which each vessel stood then [m above its floor]."""

    readings: list[Reading]
    levels_m: dict[str, float]
    last_at: datetime | None = None


def measured(entries: Iterable[LogEntry], design: Design) -> Measured:
    """Return the newest readings of a log that belong together; those of parts the plan no longer has are left out.

    A flow is taken for that outlet alone where the entry says nothing of the others, a pressure with all shut. Readings
    of one thing are one, their mean. What was read before anything was mended or serviced does not count.
    """
    counted = [one for one in standing(entries) if one.part is not None]
    outlets, vessels = {one.id for one in design.outlets}, {one.id for one in design.vessels}
    readable = {"timing": outlets, "gauge": outlets | {one.id for one in design.places}}
    mended_at = max((one.happened_at for one in counted if one.kind in ("mend", "service")), default=None)
    taken = [
        one
        for one in counted
        if one.part in readable.get(one.kind, ()) and (mended_at is None or one.happened_at > mended_at)
    ]
    if not taken:
        return Measured(readings=[], levels_m={})
    last_at = max(one.happened_at for one in taken)
    grouped: dict[tuple[str, Drawing], list[LogEntry]] = {}
    for one in taken:
        if last_at - one.happened_at <= TAKEN_TOGETHER and one.part is not None:
            grouped.setdefault((f"{one.kind} {one.part}", _drawing(one)), []).append(one)
    levels = {
        one.part: float(one.figures["level_m"])
        for one in sorted(counted, key=lambda one: one.happened_at)
        if one.kind == "level" and one.part in vessels and abs(one.happened_at - last_at) <= SAME_DAY
    }
    return Measured(
        readings=[_reading(own, drawing) for (_, drawing), own in sorted(grouped.items())],
        levels_m={part: level for part, level in levels.items() if part is not None},
        last_at=last_at,
    )


def _drawing(entry: LogEntry) -> Drawing:
    told = entry.figures.get("drawing")
    if told in ("alone", "all", "none"):
        return told  # type: ignore[return-value]
    return "alone" if entry.kind == "timing" else "none"


def _reading(entries: Sequence[LogEntry], drawing: Drawing) -> Reading:
    values, errors = zip(*(_value(one) for one in entries), strict=True)
    count = len(values)
    scatter = stdev(values) if count > 1 else 0.0
    error = math.hypot(max(errors) / math.sqrt(count), scatter / math.sqrt(count))
    first = entries[0]
    kind: ReadingKind = "flow" if first.kind == "timing" else "pressure"
    return Reading(
        kind=kind, part=str(first.part), drawing=drawing, value=fmean(values), error=error, count=count
    )  # fmt: skip


def _value(entry: LogEntry) -> tuple[float, float]:
    figures = entry.figures
    if entry.kind == "timing":
        seconds = float(figures["seconds"])
        flow = float(figures["volume_l"]) * LITRE_M3 / seconds
        return flow, max(LEAST_FLOW_ERROR_M3S, flow * math.hypot(TIME_ERROR_S / seconds, VOLUME_SHARE))
    pressure = float(pa_from_kpa(float(figures["pressure_kpa"])))
    return pressure, pressure_error_pa(pressure)


def pressure_error_pa(pressure_pa: float) -> float:
    """Return one standard error of a gauge reading [Pa]."""
    return max(LEAST_PRESSURE_ERROR_PA, PRESSURE_SHARE * abs(pressure_pa))
