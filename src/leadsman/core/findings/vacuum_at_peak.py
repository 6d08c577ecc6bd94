"""The running grade falls below the pipe: suction, which breaks where air gets in."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.first_water import height_error
from leadsman.core.base.units import kpa_from_pa, lpm_from_m3s, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.findings.remedies import larger_pipes, that_raise_flow
from leadsman.core.findings.settling import is_settled, suction_causes, what_would_settle
from leadsman.core.steady.network_model import SUCTION_BELOW_M


@judgement("vacuum-at-peak", "Suction at a high point", Question.HOW_FAST)
def vacuum_at_peak(analysis: Analysis) -> Iterator[Finding]:
    """Yield each running outlet whose line, not declared a siphon, is below atmospheric pressure somewhere.

    A vent is never offered here: it would let air in.
    """
    layout, density = analysis.model.layout, analysis.state.water.density_kgm3
    for outlet in analysis.fed_outlets:
        below = analysis.answer(outlet).below_atmospheric
        if below is None:
            yield from _perhaps(analysis, outlet)
        if below is None or (below.siphon and below.full_pipe_m3s is not None) or below.open_m3s <= 0.0:
            continue
        open_flow = Quantity(value=lpm_from_m3s(below.open_m3s), unit="L/min")
        full: Wording = (
            say("too little to hold water at all")
            if below.full_pipe_m3s is None
            else say("{} while it stays full", Quantity(value=lpm_from_m3s(below.full_pipe_m3s), unit="L/min"))
        )
        causes = suction_causes(analysis, below)
        surely = is_settled(below.pressure_head_m, causes)
        suction_kpa = kpa_from_pa(pa_from_head_m(below.pressure_head_m, density))
        yield Finding(
            severity=Severity.WATCH if not surely else Severity.STOP if below.full_pipe_m3s is None else Severity.FIX,
            where=outlet.id,
            value=None if below.full_pipe_m3s is None else suction_kpa,  # water has no pressure so low
            limit=0.0,
            unit="kPa",
            headline=say(
                "Suction in the line to {}, {} along {}"
                if surely
                else "Suction may occur in the line to {}, {} along {}",
                label(outlet),
                Quantity(value=below.at_m, unit="m", digits=0),
                label(layout.lines[below.line_id]),
            ),
            why=(
                *say("The pipe is {} above its pressure line: ", Quantity(value=-below.pressure_head_m, unit="m")),
                *full,
                *say(
                    ", {} once air is drawn in: count on that flow. Lay the pipe that much lower, or lose less "
                    "pressure before it. ",
                    open_flow,
                ),
                *what_would_settle(below.pressure_head_m, causes),
            ),
            try_remedies=partial(that_raise_flow, analysis, outlet, larger_pipes(analysis, outlet)),
            spot=(below.line_id, below.at_m),
        )


def _perhaps(analysis: Analysis, outlet: OutletBase) -> Iterator[Finding]:
    """Yield an outlet whose line has no suction by the likely figures, and has by the worst of its grade's range."""
    if not analysis.ranges:
        return
    route, along = analysis.routes[outlet.id], analysis.model.along
    if route is None or route.siphon or analysis.answer(outlet).judged_flow_m3s <= 0.0:
        return
    worst: tuple[float, int, float] | None = None
    for point, band in zip(route.points, analysis.band_to(outlet), strict=False):
        over_m = band[0] - float(along.pipe_m[point.number]) if band else 0.0
        if (
            along.inner[point.number]
            and point.at_m > 0.0
            and over_m < SUCTION_BELOW_M
            and (not worst or over_m < worst[0])
        ):
            worst = over_m, point.number, float(analysis.state.flow.over_pipe_m[point.number])
    if worst is None:
        return
    under_m, number, likely_m = worst
    spot = along.points[number]
    name, error_m = height_error(analysis.model, number)
    yield Finding(
        severity=Severity.WATCH,
        where=outlet.id,
        value=kpa_from_pa(pa_from_head_m(likely_m, analysis.state.water.density_kgm3)),
        limit=0.0,
        unit="kPa",
        headline=say(
            "Suction may occur in the line to {}, {} along {}",
            label(outlet),
            Quantity(value=spot.at_m, unit="m", digits=0),
            label(analysis.model.layout.lines[spot.line_id]),
        ),
        why=(
            *say(
                "Its pressure line is {} above the pipe there with everything as new, and {} below it in the "
                "worst case. ",
                Quantity(value=likely_m, unit="m"),
                Quantity(value=-under_m, unit="m"),
            ),
            *(
                say("Level {} better: its height is known to {} only.", name, Quantity(value=error_m, unit="m"))
                if error_m > 0.0
                else say("A timed pail at the outlet shows how much pressure the line takes.")
            ),
        ),
        spot=(spot.line_id, spot.at_m),
    )
