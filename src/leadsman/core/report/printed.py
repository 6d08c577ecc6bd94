"""The steady state as lines of text, for reading at the command line."""

from leadsman.core.base.unit_system import TABLES, System
from leadsman.core.base.wording import Unit
from leadsman.core.dayrun.story import clock
from leadsman.core.physics.friction import TURBULENT_ABOVE_RE
from leadsman.core.report.base import spoken
from leadsman.core.report.dayrun import DayRunReport
from leadsman.core.report.steady import LineReport, SolveReport

ROWS_TOLD = 8


def printed(report: SolveReport, system: System = "metric") -> str:
    """Return a solve report as text: outlets, lines, a section where one was asked for, and what to be wary of."""
    show = _Columns(system)
    text = []
    for outlet_id, outlet in report.outlets.items():
        pressure = "" if outlet.pressure_kpa is None else show(outlet.pressure_kpa, "kPa", 1)
        flow, reason = show(outlet.flow_lpm, "L/min", 2), spoken(outlet.reason_words, system)
        text.append(f"{outlet_id:24} {outlet.state:8} {flow} {pressure:13} {reason}")
        if outlet.below_atmospheric:
            below = outlet.below_atmospheric
            full = "would boil full" if below.full_pipe_lpm is None else f"{show(below.full_pipe_lpm, 'L/min', 2)} full"
            text.append(
                f"{'':24} suction at {show(below.at_m, 'm', 0).strip()} of {below.line}: {full.strip()}, "
                f"{show(below.open_lpm, 'L/min', 2).strip()} with air in; "
                f"count on the {'one with air in' if below.used == 'open_to_air' else 'full pipe'}"
            )
    for line_id, line in report.lines.items():
        speed, loss = show(line.velocity_ms, "m/s", 2), f"loses {show(line.loss_m, 'm', 3).strip()}"
        flow = show(line.flow_lpm, "L/min", 2)
        text.append(f"{line_id:24} {line.state:12} {flow} {speed}  {loss}  {_other_school(line)}")
    if report.section:
        metres, pressures, speeds = (show.unit(unit) for unit in ("m", "kPa", "m/s"))
        text.append(
            f"section of {report.section.line}: {metres} along, ground, pipe, grade running, grade shut, {pressures}, "
            f"{speeds}"
        )
        for point in report.section.points:
            heads = [
                f"{'–':>9}" if head is None else f"{show.figure(head, 'm'):9.2f}"
                for head in (point.head_m, point.shut_head_m)
            ]
            pressure = f"{'–':>8}" if point.pressure_kpa is None else f"{show.figure(point.pressure_kpa, 'kPa'):8.1f}"
            marks = f"{point.mark or '':5} {'below atmospheric' if (point.pressure_kpa or 0.0) < 0.0 else ''}".rstrip()
            at, ground, pipe = (show.figure(metres, "m") for metres in (point.at_m, point.ground_m, point.pipe_m))
            text.append(
                f"{at:8.1f} {ground:9.2f} {pipe:9.2f} {heads[0]} {heads[1]} {pressure} "
                f"{show.figure(point.velocity_ms, 'm/s'):6.2f} {marks}"
            )
    if report.ranges:
        text.append("worst … as new … best")
        units: tuple[tuple[str, Unit], ...] = (("flow_lpm", "L/min"), ("pressure_kpa", "kPa"))
        for outlet_id, found in report.ranges.outlets.items():
            for key, unit in units:
                if key in found:
                    worst, likely, best = (
                        show.figure(figure, unit) for figure in (found[key].worst, found[key].likely, found[key].best)
                    )
                    text.append(f"{outlet_id:24} {worst:8.2f} … {likely:8.2f} … {best:8.2f} {show.unit(unit)}")
    text += _warnings(report, system)
    return "\n".join(text)


class _Columns:
    """A table's numbers in the units of a system."""

    def __init__(self, system: System) -> None:
        self.table = TABLES[system]

    def figure(self, value: float, unit: Unit) -> float:
        """Return a figure of the document in the system's unit."""
        return value * self.table[unit].factor + self.table[unit].offset

    def unit(self, unit: Unit) -> str:
        """Return what the system's unit is called."""
        return self.table[unit].unit

    def __call__(self, value: float, unit: Unit, digits: int) -> str:
        """Return a figure with its unit, in a column."""
        return f"{self.figure(value, unit):8.{digits}f} {self.unit(unit)}"


def _other_school(line: LineReport) -> str:
    ratio = line.hazen_williams_ratio
    return f"Hazen–Williams reads {ratio:.2f} of Darcy" if ratio is not None else ""


def printed_day(report: DayRunReport, system: System = "metric") -> str:
    """Return a run over time as text: the level of each vessel now and then, what happened, and what ran over."""
    show = _Columns(system)
    shown = report.times_s[:: max(1, len(report.times_s) // ROWS_TOLD)]
    text = [f"{'level':24} " + " ".join(f"{clock(time):>9}" for time in shown)]
    for vessel, levels in report.levels_m.items():
        told = dict(zip(report.times_s, levels, strict=True))
        figures = " ".join(f"{show.figure(told[time], 'm'):9.3f}" for time in shown)
        text.append(f"{vessel:24} {figures} {show.unit('m')}")
    text += [f"{clock(one.time_s)} {spoken(one.told, system)}" for one in report.happenings]
    text.append(spoken(report.summary.sentence, system))
    text += [f"{vessel} ran over: {show(litres, 'L', 0).strip()}" for vessel, litres in report.over_l.items()]
    text.append(f"balance: {report.mass_error:.1e} of what passed is missing")
    return "\n".join(text)


def _warnings(report: SolveReport, system: System) -> list[str]:
    warnings = []
    if report.reason:
        told = "no answer: " if not report.converged else "not feasible: "
        warnings.append(told + spoken(report.reason_words, system))
    slow = [line_id for line_id, line in report.lines.items() if 0.0 < line.reynolds < TURBULENT_ABOVE_RE]
    if report.friction == "hazen-williams" and slow:
        warnings.append(f"Hazen–Williams does not hold below Re 4,000: do not believe it for {', '.join(slow)}")
    return warnings
