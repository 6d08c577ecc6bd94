"""A run over time as JSON: levels, flows, what happened in plain words."""

from leadsman.core.base.units import DAY_S, LITRE_M3, MINUTE_S, lpm_from_m3s
from leadsman.core.dayrun.run import DayRun, Event
from leadsman.core.design import Design, label
from leadsman.core.report.base import Report

DIGITS_LEVEL, DIGITS_FLOW = 6, 5
SAID = {
    "overflows": "{} runs over",
    "overflow-ends": "{} no longer runs over",
    "runs-dry": "{} is down to its outlet: it gives only what comes in",
    "gives-again": "{} gives water again",
    "below-outlet": "{} falls below its outlet and gives nothing",
    "empty": "{} is empty",
    "wet-again": "{} has water again",
    "pump-starts": "{} starts",
    "pump-stops": "{} stops",
}


class EventReport(Report):
    """Something that happened: when [s], what kind of thing, to which part, and in words with the time of day."""

    time_s: float
    kind: str
    where: str
    text: str


class DayRunReport(Report):
    """Levels [m] of vessels and flows [L/min] of outlets and lines at times [s], and what happened.

    `mass_error` is what is missing in the balance, as a share of the throughput; `over_l` what ran over. Where the
    network has no solution the run ends, at `ended_s`, with all that came before.
    """

    times_s: list[float]
    levels_m: dict[str, list[float]]
    flows_lpm: dict[str, list[float]]
    events: list[EventReport]
    over_l: dict[str, float]
    mass_error: float
    ended_s: float | None = None


def day_run_report(design: Design, run: DayRun) -> DayRunReport:
    """Return a run as JSON holds it."""
    names = {part.id: label(part) for part in [*design.vessels, *design.inflows]}
    flows = {outlet.id: run.outlets_m3s[:, number] for number, outlet in enumerate(design.outlets)}
    flows |= {line.id: run.lines_m3s[:, number] for number, line in enumerate(design.lines)}
    return DayRunReport(
        times_s=run.times_s.tolist(),
        levels_m={
            vessel.id: [round(level, DIGITS_LEVEL) for level in run.levels_m[:, number].tolist()]
            for number, vessel in enumerate(design.vessels)
        },
        flows_lpm={
            key: [round(lpm_from_m3s(flow), DIGITS_FLOW) + 0.0 for flow in row.tolist()] for key, row in flows.items()
        },
        events=[_event(event, names) for event in run.events],
        over_l={
            vessel.id: round(float(run.over_m3[number]) / LITRE_M3, 3)
            for number, vessel in enumerate(design.vessels)
            if run.over_m3[number] > 0.0
        },
        mass_error=run.mass_error,
        ended_s=run.ended_s,
    )


def _event(event: Event, names: dict[str, str]) -> EventReport:
    text = f"{clock(event.time_s)} {SAID[event.kind].format(names.get(event.where, event.where))}"
    return EventReport(time_s=round(event.time_s, 3), kind=event.kind, where=event.where, text=text)


def clock(time_s: float) -> str:
    """Return a time from midnight on as a clock shows it, with its day where it is not the first."""
    minutes = int(time_s / MINUTE_S + 1e-6)
    day, rest = divmod(minutes, int(DAY_S / MINUTE_S))
    told = f"{rest // 60:02d}:{rest % 60:02d}"
    return told if day == 0 else f"day {day + 1}, {told}"
