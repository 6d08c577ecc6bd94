"""Valves that need a least pressure to open: judged on what they see while shut, the others as asked for."""

from collections.abc import Sequence
from dataclasses import dataclass

from leadsman.core.design import FloatValveOutlet
from leadsman.core.design.outlet_law import least_head_m
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.network_model import NetworkModel


@dataclass(frozen=True, kw_only=True)
class OpeningJudgement:
    """A case with the valves that do not open shut, and the head [m] that each judged valve sees while shut."""

    case: Case
    unopened: frozenset[str]
    shut_heads_m: dict[str, float | None]


def lacks_to_open_m(model: NetworkModel, flow: Flow, outlet: FloatValveOutlet) -> float:
    """Return by how much the head on a shut valve is under what opens it [m]; without any head it is dry: 0."""
    head_m = flow.outlet_head_m(outlet.id)
    if head_m is None:
        return 0.0
    over_m = head_m - model.layout.outlet_height_m(outlet)
    lacking = least_head_m(outlet, model.water.density_kgm3) - over_m
    return lacking if lacking > 0.0 and over_m > 0.0 else 0.0


def shut_in_turn(model: NetworkModel, cases: Sequence[Case]) -> list[tuple[int, FloatValveOutlet]]:
    """Return which outlets are to be judged while shut: number of the case, and the outlet that stands open in it."""
    needing = [
        outlet
        for outlet in model.layout.design.outlets
        if isinstance(outlet, FloatValveOutlet) and outlet.valve.min_pressure_kpa > 0.0
    ]
    return [
        (row, outlet)
        for row, case in enumerate(cases)
        for outlet in needing
        if case.openings[outlet.id] > 0.0 and outlet.id not in case.draws_m3s
    ]


def judge_openings(
    model: NetworkModel,
    cases: Sequence[Case],
    asked: Sequence[tuple[int, FloatValveOutlet]],
    flows: Sequence[Flow],
) -> list[OpeningJudgement]:
    """Return each case with valves shut that their pressure cannot open.

    Where several fail, the one that lacks most stays shut first and the rest are judged again: a valve that
    stays shut leaves the others more.

    Args:
        asked, flows: as `shut_in_turn` returns for the cases, and the flow of each with that outlet shut.
    """
    judged = [OpeningJudgement(case=case, unopened=frozenset(), shut_heads_m={}) for case in cases]
    while asked:
        worst: dict[int, tuple[float, str]] = {}
        for (row, outlet), flow in zip(asked, flows, strict=True):
            judged[row].shut_heads_m[outlet.id] = flow.outlet_head_m(outlet.id)
            lacking = lacks_to_open_m(model, flow, outlet)
            if lacking > 0.0:
                worst[row] = max(worst.get(row, (0.0, "")), (lacking, outlet.id))
        for row, (_, outlet_id) in worst.items():
            now = judged[row]
            judged[row] = OpeningJudgement(
                case=now.case.with_shut(outlet_id), unopened=now.unopened | {outlet_id}, shut_heads_m=now.shut_heads_m
            )
        changed = sorted(worst)
        again = shut_in_turn(model, [judged[row].case for row in changed])
        asked = [(changed[number], outlet) for number, outlet in again]
        flows = model.full_flows([judged[row].case.with_shut(outlet.id) for row, outlet in asked]) if asked else []
    return judged
