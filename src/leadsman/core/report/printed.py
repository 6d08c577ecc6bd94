"""The steady state as lines of text, for reading at the command line."""

from leadsman.core.physics.friction import TURBULENT_ABOVE_RE
from leadsman.core.report.steady import LineReport, SolveReport


def printed(report: SolveReport) -> str:
    """Return a solve report as text: outlets, lines, a section where one was asked for, and what to be wary of."""
    text = []
    for outlet_id, outlet in report.outlets.items():
        pressure = "" if outlet.pressure_kpa is None else f"{outlet.pressure_kpa:8.1f} kPa"
        text.append(f"{outlet_id:24} {outlet.state:8} {outlet.flow_lpm:8.2f} L/min {pressure:13} {outlet.reason}")
        if outlet.below_atmospheric:
            below = outlet.below_atmospheric
            full = "would boil full" if below.full_pipe_lpm is None else f"{below.full_pipe_lpm:.2f} L/min full"
            text.append(
                f"{'':24} sucks at {below.at_m:.0f} m of {below.line}: {full}, {below.open_lpm:.2f} with air in; "
                f"count on the {'one with air in' if below.used == 'open_to_air' else 'full pipe'}"
            )
    for line_id, line in report.lines.items():
        speed, loss = f"{line.velocity_ms:8.2f} m/s", f"loses {line.loss_m:.3f} m"
        text.append(f"{line_id:24} {line.state:12} {line.flow_lpm:8.2f} L/min {speed}  {loss}  {_other_school(line)}")
    if report.section:
        text.append(f"section of {report.section.line}: m along, ground, pipe, grade running, grade shut, kPa, m/s")
        for point in report.section.points:
            heads = [f"{'–':>9}" if head is None else f"{head:9.2f}" for head in (point.head_m, point.shut_head_m)]
            pressure = f"{'–':>8}" if point.pressure_kpa is None else f"{point.pressure_kpa:8.1f}"
            marks = f"{point.mark or '':5} {'below atmospheric' if (point.pressure_kpa or 0.0) < 0.0 else ''}".rstrip()
            text.append(
                f"{point.at_m:8.1f} {point.ground_m:9.2f} {point.pipe_m:9.2f} {heads[0]} {heads[1]} {pressure} "
                f"{point.velocity_ms:6.2f} {marks}"
            )
    if report.ranges:
        text.append("worst … likely … best")
        for outlet_id, found in report.ranges.outlets.items():
            for key, unit in (("flow_lpm", "L/min"), ("pressure_kpa", "kPa")):
                if key in found:
                    value = found[key]
                    text.append(f"{outlet_id:24} {value.worst:8.2f} … {value.likely:8.2f} … {value.best:8.2f} {unit}")
    text += _warnings(report)
    return "\n".join(text)


def _other_school(line: LineReport) -> str:
    ratio = line.hazen_williams_ratio
    return f"Hazen–Williams reads {ratio:.2f} of Darcy" if ratio is not None else ""


def _warnings(report: SolveReport) -> list[str]:
    warnings = []
    if report.reason:
        warnings.append(("no answer: " if not report.converged else "not feasible: ") + report.reason)
    slow = [line_id for line_id, line in report.lines.items() if 0.0 < line.reynolds < TURBULENT_ABOVE_RE]
    if report.friction == "hazen-williams" and slow:
        warnings.append(f"Hazen–Williams does not hold below Re 4,000: do not believe it for {', '.join(slow)}")
    return warnings
