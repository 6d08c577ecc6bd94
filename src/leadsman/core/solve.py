"""Steady states of a design: the cases that are asked for, solved together and told with their reasons."""

from collections.abc import Mapping

from leadsman.core.answer import OutletState, SteadyState
from leadsman.core.case import Case, case_of
from leadsman.core.design import Design, FixedOutlet, Scenario, label
from leadsman.core.layout import Layout
from leadsman.core.line_answer import line_answers
from leadsman.core.loading import FrictionMaker, darcy, hazen_williams
from leadsman.core.no_answer import why_no_answer
from leadsman.core.opening import OpeningJudgement, judge_openings
from leadsman.core.outlet_answer import outlet_answer
from leadsman.core.steady import Flow, NetworkModel, Solved
from leadsman.core.water import water_at
from leadsman.core.wording import say

ASKED = "asked"
FRICTION: dict[str, FrictionMaker] = {"darcy": darcy, "hazen-williams": hazen_williams}


def model_of(design: Design, *, friction: str = "darcy", scenario: Scenario | None = None) -> NetworkModel:
    """Return the network of a design, with the water of a scenario.

    Raises:
        UnknownName: a product is not in the catalogue.
        OutOfRange: a pipe is rougher than its bore allows.
    """
    water_c = design.site.water_c if scenario is None or scenario.water_c is None else scenario.water_c
    return NetworkModel(Layout(design), water_at(water_c), FRICTION[friction])


def solve(
    design: Design, *, all_open: bool = False, scenario: Scenario | None = None, friction: str = "darcy"
) -> SteadyState:
    """Return the steady state of a design as it stands, or in a scenario.

    Args:
        all_open: every float valve that is not shut stands at x = 1.
    Stopping: see `GradientSolver.solve`; where it does not converge, `why` says so in one sentence.
    Raises: as `model_of`; OutOfRange also where a scenario's level is above its vessel's brim.
    """
    case = case_of(design, all_open=all_open, scenario=scenario)
    return solve_cases(model_of(design, friction=friction, scenario=scenario), {ASKED: case})[ASKED]


def solve_cases(model: NetworkModel, wanted: Mapping[str, Case]) -> dict[str, SteadyState]:
    """Return the state of each case, all solved together over one structure."""
    judged = judge_openings(model, list(wanted.values()))
    still = next(iter(wanted.values())).with_nothing_drawing()
    *solved, shut = model.solve([*(one.case for one in judged), still])
    return {
        name: _told(model, one, answer, shut.full) for name, one, answer in zip(wanted, judged, solved, strict=True)
    }


def _told(model: NetworkModel, judged: OpeningJudgement, solved: Solved, shut: Flow) -> SteadyState:
    state = SteadyState(model, judged.case, solved, shut)
    state.converged = state.flow.converged
    design = model.layout.design
    for node_id in [place.id for place in design.places] + [vessel.id for vessel in design.vessels]:
        state.heads_m[node_id] = state.flow.head_m(node_id) if state.converged else None
    if not state.converged:
        state.why = why_no_answer(state.flow)
    state.lines = line_answers(state)
    state.outlets = {outlet.id: outlet_answer(state, judged, outlet) for outlet in design.outlets}
    if state.converged:
        _judge_feasible(state)
    else:
        state.feasible = False
    return state


def _judge_feasible(state: SteadyState) -> None:
    """Mark a state in which some draw, taken whatever the head, is not to be had."""
    for outlet in state.layout.design.outlets:
        answer = state.outlets[outlet.id]
        if isinstance(outlet, FixedOutlet) and answer.state in (OutletState.SHORT, OutletState.DRY):
            state.feasible = False
            state.why = state.why or say("{} does not get what it draws", label(outlet))
    for place in state.layout.design.places:
        head_m = state.heads_m[place.id]
        drawn = state.case.place_draws and place.draw_lpm > 0.0
        if drawn and (head_m is None or head_m < place.ground_m):
            state.feasible = False
            state.why = state.why or say("{} does not get what is drawn there", label(place))
