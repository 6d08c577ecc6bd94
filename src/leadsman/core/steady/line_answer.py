"""What a line does in a solved case, and the reason in words."""

import numpy as np

from leadsman.core.base.units import kpa_from_pa, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Line, label
from leadsman.core.physics.friction import TURBULENT_ABOVE_RE, DarcyWeisbach, HazenWilliams
from leadsman.core.physics.pipe import Pipe
from leadsman.core.solver.gradient import CLOSED, KEEPING
from leadsman.core.solver.network import Control
from leadsman.core.steady.answer import LineAnswer, LineState, SteadyState


def line_answer(state: SteadyState, line: Line) -> LineAnswer:
    """Return the answer of a line in a state whose flows are known."""
    if not state.converged:
        return LineAnswer(state=LineState.STILL, reason=say("no answer for this network"))
    if line.id in state.case.shut_lines:
        return LineAnswer(state=LineState.SHUT, reason=say("shut by hand" if line.shut else "shut in this case"))
    flow_m3s = state.flow.line_flow_m3s(line.id)
    ends = state.flow.head_m(line.from_), state.flow.head_m(line.to)
    if flow_m3s == 0.0 or ends[0] is None or ends[1] is None:
        return _without_flow(state, line, ends)
    reaches = state.model.reaches_of_line(line.id)
    viscosity = state.water.kinematic_viscosity_m2s
    velocities = [abs(reach.velocity_ms(flow_m3s)) for reach in reaches]
    reynolds = min(v * reach.bore_m / viscosity for v, reach in zip(velocities, reaches, strict=True))
    return LineAnswer(
        state=LineState.RUNNING,
        reason=_how_it_runs(state, line),
        flow_m3s=flow_m3s,
        loss_m=ends[0] - ends[1],
        velocity_ms=float(np.copysign(max(velocities), flow_m3s)),
        reynolds=reynolds,
        hazen_williams_ratio=hazen_williams_ratio(line, reaches, flow_m3s, viscosity, reynolds),
    )


def hazen_williams_ratio(
    line: Line, reaches: list[Pipe], flow_m3s: float, viscosity_m2s: float, reynolds: float
) -> float | None:
    """Return Hazen–Williams' friction loss of a line over Darcy–Weisbach's at a flow; None below Re 4,000."""
    if reynolds < TURBULENT_ABOVE_RE:
        return None
    length = np.array([reach.length_m for reach in reaches])
    bore = np.array([reach.bore_m for reach in reaches])
    rough = np.array([reach.roughness_m for reach in reaches])
    flow = np.full(len(reaches), abs(flow_m3s))
    hazen = HazenWilliams(length, bore, np.full(len(reaches), line.hazen_williams_c))(flow)[0].sum()
    return float(hazen / DarcyWeisbach(length, bore, rough, viscosity_m2s)(flow)[0].sum())


def _how_it_runs(state: SteadyState, line: Line) -> Wording:
    model, flow = state.flow.model, state.flow
    for link in model.plumbing.of_line[line.id]:
        segment = model.plumbing.segments[link]
        if segment.control is Control.REDUCER:
            part = next(part for part in line.inline if part.kind == "reducer")
            if flow.control_states.get(link) == KEEPING:
                return say("its reducer holds {}", Quantity(value=part.outlet_kpa or 0.0, unit="kPa"))
            return say(
                "its reducer stands open: less than {} comes to it", Quantity(value=part.outlet_kpa or 0.0, unit="kPa")
            )
    lift_m = (flow.head_m(line.to) or 0.0) - (flow.head_m(line.from_) or 0.0)
    return say("its pump lifts it {}", Quantity(value=lift_m, unit="m")) if line.pump is not None else say("running")


def _without_flow(state: SteadyState, line: Line, ends: tuple[float | None, float | None]) -> LineAnswer:
    from_m, to_m = ends
    vessels = [state.layout.vessels[end] for end in (line.from_, line.to) if end in state.layout.vessels]
    empty = [vessel for vessel in vessels if not state.model.loader.gives(vessel.id, state.case)]
    if from_m is None or to_m is None:
        return LineAnswer(state=LineState.CUT_OFF, reason=say("no water gets to it"))
    model = state.flow.model
    held = any(state.flow.pressed_shut[link] for link in model.plumbing.of_line[line.id])
    held |= any(state.flow.control_states.get(link) == CLOSED for link in model.plumbing.of_line[line.id])
    if not held or abs(to_m - from_m) <= 1e-6:
        return LineAnswer(state=LineState.STILL, reason=say("nothing draws through it"))
    behind = Quantity(value=abs(to_m - from_m), unit="m")
    if empty:
        return LineAnswer(
            state=LineState.PRESSED_SHUT, reason=say("{} is down to its outlet and gives nothing", label(empty[0]))
        )
    if line.pump is not None:
        return LineAnswer(
            state=LineState.PRESSED_SHUT, reason=say("its pump would have to lift {}, more than it can", behind)
        )
    what = "reducer" if any(part.kind == "reducer" for part in line.inline) else "check valve"
    if any(part.kind == "check_valve" for part in line.inline):
        what = "check valve"
    if to_m < from_m:
        kpa = Quantity(value=kpa_from_pa(pa_from_head_m(from_m - to_m, state.water.density_kgm3)), unit="kPa")
        return LineAnswer(state=LineState.STILL, reason=say("its {} holds back {}", what, kpa))
    return LineAnswer(
        state=LineState.PRESSED_SHUT,
        reason=say("its {} is held closed by the pressure behind it, {} higher", what, behind),
    )
