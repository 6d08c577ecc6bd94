"""A timed flow as a check of head: where the outlet would have to stand for the plan to give what was measured."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.analysis.ranges import Range, has_flow_range
from leadsman.core.analysis.running import Running
from leadsman.core.base.array import Floats
from leadsman.core.design import OutletBase, TimedFlow
from leadsman.core.steady.loading import Figures, likely_figures

TIME_ERROR_S = 1.0  # a thumb on a stopwatch, at both ends together; typical, our own
REACH_M, STEPS = 40.0, 161  # how far up and down the outlet's place is tried


@dataclass(frozen=True, kw_only=True)
class FlowCheck:
    """Measured flow with the half-width of its error, the plan's likely, least and greatest [m3/s].

    `higher_m` is how much higher than planned the outlet's place would stand, all else likely; `least_m` and
    `most_m` with all else that is uncertain, and the stopwatch. None where no height within reach explains it.
    """

    sight: TimedFlow
    measured_m3s: float
    error_m3s: float
    planned: Range
    higher_m: float | None
    least_m: float | None
    most_m: float | None

    @property
    def agrees(self) -> bool:
        """Whether the measured flow lies within what the plan's ranges allow."""
        return self.planned.worst <= self.measured_m3s + self.error_m3s and (
            self.measured_m3s - self.error_m3s <= self.planned.best
        )


def flow_checks(running: Running) -> list[FlowCheck]:
    """Return each timed flow of an outlet that runs and has a flow of its own, held against the plan."""
    fed = {outlet.id: outlet for outlet in running.fed_outlets}
    timed = [taken for taken in running.design.sights if isinstance(taken, TimedFlow) and taken.outlet in fed]
    found = []
    for sight in timed:
        outlet = fed[sight.outlet]
        planned = running.flow_range(outlet, together=False)
        if planned is not None and sight.time_s is not None and has_flow_range(outlet):
            found.append(_check(running, outlet, sight, sight.time_s, planned))
    return found


def _check(running: Running, outlet: OutletBase, sight: TimedFlow, time_s: float, planned: Range) -> FlowCheck:
    measured = sight.volume_l / 1000.0 / time_s
    share = min(0.9, (sight.time_error_s or TIME_ERROR_S) / time_s)
    error = measured * share
    place = [candidate.id for candidate in running.design.places].index(outlet.place)
    own = ("place_rise_m", place)
    others = sum(
        abs(move) / 2.0 for column, move in zip(planned.columns, planned.moves.tolist(), strict=True) if column != own
    )
    rises = np.linspace(-REACH_M, REACH_M, STEPS)
    flows = _flows_m3s(running, outlet, place, rises)
    higher, least, most = (
        _rise_at(rises, flows, flow) for flow in (measured, measured + error + others, measured - error - others)
    )
    return FlowCheck(
        sight=sight,
        measured_m3s=measured,
        error_m3s=error,
        planned=planned,
        higher_m=higher,
        least_m=least,
        most_m=most,
    )


def _flows_m3s(running: Running, outlet: OutletBase, place: int, rises: Floats) -> Floats:
    """Return the outlet's flow by itself with its place so much higher [m3/s]; NaN where there is no answer."""
    plumbing = running.model.plumbing
    figures = {kind: np.repeat(array, len(rises), axis=0) for kind, array in vars(likely_figures(plumbing)).items()}
    figures["place_rise_m"][:, place] = rises
    case = running.states[outlet.id].solved.used.case
    cases = running.model.loader.cases([case] * len(rises), Figures(**figures))
    solution = plumbing.solver.solve(cases)
    flows = solution.flows_m3s[:, plumbing.outlet_link[outlet.id]]
    return np.where(solution.converged, flows, np.nan)


def _rise_at(rises: Floats, flows: Floats, flow_m3s: float) -> float | None:
    """Return the rise [m] at which the flow, which falls as the place rises, is the one asked for."""
    known = ~np.isnan(flows) & (flows > 0.0)
    rises, flows = rises[known][::-1], flows[known][::-1]
    if not len(flows) or not flows[0] <= flow_m3s <= flows[-1]:
        return None
    return float(np.interp(flow_m3s, flows, rises))
