"""Steady states of a design: the cases that are asked for, solved together and told with their reasons."""

from collections.abc import Mapping, Sequence

from leadsman.core.base.cancel import CancelCheck, never_cancelled
from leadsman.core.base.lazy_map import LazyMap
from leadsman.core.base.wording import say
from leadsman.core.design import Design, FixedOutlet, Scenario, label
from leadsman.core.design.layout import Layout
from leadsman.core.farm.grazing import set_for
from leadsman.core.farm.pressure_source import with_sources
from leadsman.core.physics.water import water_at
from leadsman.core.solver.gradient import ENERGY_WITHIN_M
from leadsman.core.steady.answer import OutletState, SteadyState
from leadsman.core.steady.case import Case, case_of
from leadsman.core.steady.flow import Flow, Solved
from leadsman.core.steady.line_answer import line_answer
from leadsman.core.steady.loading import FrictionMaker, darcy, hazen_williams
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.no_answer import why_no_answer
from leadsman.core.steady.opening import OpeningJudgement, judge_openings, shut_in_turn
from leadsman.core.steady.outlet_answer import outlet_answer

ASKED = "asked"
FRICTION: dict[str, FrictionMaker] = {"darcy": darcy, "hazen-williams": hazen_williams}


def model_of(
    design: Design,
    *,
    friction: str = "darcy",
    scenario: Scenario | None = None,
    check_cancelled: CancelCheck = never_cancelled,
) -> NetworkModel:
    """Return the network of a design, with the water of a scenario.

    Raises:
        UnknownName: a product is not in the catalogue.
        OutOfRange: a pipe is rougher than its bore allows.
    """
    water_c = design.site.water_c if scenario is None or scenario.water_c is None else scenario.water_c
    water, law = water_at(water_c), FRICTION[friction]
    return NetworkModel(Layout(design), water, law, check_cancelled=check_cancelled)


def solve(
    design: Design, *, all_open: bool = False, scenario: Scenario | None = None, friction: str = "darcy"
) -> SteadyState:
    """Return the steady state of a design as it stands, or in a scenario.

    Args:
        all_open: every float valve that is not shut stands at x = 1.
    Stopping: see `GradientSolver.solve`; where it does not converge, `why` says so in one sentence.
    Raises: as `model_of`; OutOfRange also where a scenario's level is above its vessel's brim.
    """
    design = with_sources(set_for(design, scenario.date if scenario else None), scenario)
    case = case_of(design, all_open=all_open, scenario=scenario)
    return solve_cases(model_of(design, friction=friction, scenario=scenario), {ASKED: case})[ASKED]


def solve_cases(model: NetworkModel, wanted: Mapping[str, Case]) -> dict[str, SteadyState]:
    """Return the state of each case, all solved together over one structure."""
    return solve_with(model, wanted, ())[0]


def solve_with(
    model: NetworkModel,
    wanted: Mapping[str, Case],
    also: Sequence[Case],
    within_m: float = ENERGY_WITHIN_M,
    expected: frozenset[int] = frozenset(),
) -> tuple[dict[str, SteadyState], list[Flow]]:
    """Return the state of each case wanted, and the full-pipe flows of other cases, all in one batch.

    Every case is solved as if all its valves opened, and with each valve that needs a pressure shut in turn; only
    where one then stays shut is its case solved again.

    Args:
        within_m: what a solution may be off in a link [m].
        expected: as for `NetworkModel.with_air`.
    """
    cases = list(wanted.values())
    asked = shut_in_turn(model, cases)
    in_turn = [cases[row].with_shut(outlet.id) for row, outlet in asked]
    flows = model.full_flows([*cases, cases[0].with_nothing_drawing(), *in_turn, *also], within_m=within_m)
    count = len(cases)
    openings = judge_openings(model, cases, asked, flows[count + 1 : count + 1 + len(in_turn)])
    again = [row for row, opening in enumerate(openings) if opening.unopened]
    for row, flow in zip(again, model.full_flows([openings[row].case for row in again]) if again else (), strict=True):
        flows[row] = flow
    solved = [model.with_air(flow, expected) for flow in flows[:count]]
    states = {name: _told(model, openings[row], solved[row], flows[count]) for row, name in enumerate(wanted)}
    return states, flows[count + 1 + len(in_turn) :]


def _told(model: NetworkModel, judged: OpeningJudgement, solved: Solved, shut: Flow) -> SteadyState:
    state = SteadyState(model=model, case=judged.case, solved=solved, shut=shut)
    state.converged = state.flow.converged
    design = model.layout.design
    nodes = [place.id for place in design.places] + [vessel.id for vessel in design.vessels]
    state.heads_m = LazyMap(nodes, lambda node_id: state.flow.head_m(node_id) if state.converged else None)
    if not state.converged:
        state.why = why_no_answer(state.flow)
    layout = model.layout
    state.lines = LazyMap(layout.lines, lambda line_id: line_answer(state, layout.lines[line_id]))
    state.outlets = LazyMap(layout.outlets, lambda outlet_id: outlet_answer(state, judged, layout.outlets[outlet_id]))
    if state.converged:
        _judge_feasible(state)
    else:
        state.feasible = False
    return state


def _judge_feasible(state: SteadyState) -> None:
    """Mark a state in which some draw, taken whatever the head, is not to be had."""
    for outlet in state.layout.design.outlets:
        if isinstance(outlet, FixedOutlet) and state.outlets[outlet.id].state in (OutletState.SHORT, OutletState.DRY):
            state.feasible = False
            state.why = state.why or say("{} does not get what it draws", label(outlet))
    for place in state.layout.design.places:
        if not state.case.place_draws or place.draw_lpm <= 0.0:
            continue
        head_m = state.heads_m[place.id]
        if head_m is None or head_m < place.ground_m:
            state.feasible = False
            state.why = state.why or say("{} does not get what is taken there", label(place))
