"""What an outlet does in a solved case, and the reason in words."""

from dataclasses import replace
from functools import lru_cache

from leadsman.core.base.units import lpm_from_m3s, m3s_from_lpm
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FixedOutlet, FloatValveOutlet, OutletBase, label
from leadsman.core.design.outlet_law import least_head_m
from leadsman.core.steady.answer import OpenToAir, OutletAnswer, OutletState, SteadyState
from leadsman.core.steady.opening import OpeningJudgement

ALL_BUT = 1.0 - 1e-6
StateReason = tuple[OutletState, Wording]


def outlet_answer(state: SteadyState, judged: OpeningJudgement, outlet: OutletBase) -> OutletAnswer:
    """Return the answer of an outlet in a state whose flows are known."""
    seen_m = judged.shut_heads_m
    static_m = seen_m[outlet.id] if outlet.id in seen_m else state.shut.outlet_head_m(outlet.id)
    if not state.converged:
        return OutletAnswer(OutletState.DRY, say("no answer for this network"), 0.0, None, static_m, 0.0)
    flow, head_m = state.flow.outlet_flow_m3s(outlet.id), state.flow.outlet_head_m(outlet.id)
    told, reason = _told(state, judged, outlet, flow, head_m)
    below = _below_atmospheric(state, outlet) if state.solved.opened else None
    if below and told is OutletState.DRY and below.used_m3s <= 0.0:  # not for want of fall: it does not get so far
        line = label(state.layout.lines[below.line_id])
        reason = say(
            "the water breaks off at the crest of {}, {} along it",
            line,
            Quantity(value=below.at_m, unit="m", digits=0),
        )
    counted = min(flow, state.solved.used.outlet_flow_m3s(outlet.id)) if state.solved.opened else flow
    return OutletAnswer(told, reason, flow, head_m, static_m, below.used_m3s if below else counted, below)


def _told(
    state: SteadyState, judged: OpeningJudgement, outlet: OutletBase, flow_m3s: float, head_m: float | None
) -> StateReason:
    opening = state.case.openings[outlet.id]
    if flow_m3s > 0.0 and opening > 0.0 and head_m is not None and not isinstance(outlet, FixedOutlet):
        return OutletState.RUNNING, _open(opening)
    height_m, density = state.layout.outlet_height_m(outlet), state.water.density_kgm3
    least_m = least_head_m(outlet, density)
    if outlet.id in judged.unopened:
        seen_m = (judged.shut_heads_m[outlet.id] or height_m) - height_m
        needs = say(
            "its valve needs {} of head to open and gets {}",
            Quantity(value=least_m, unit="m"),
            Quantity(value=seen_m, unit="m"),
        )
        return OutletState.SHUT, needs
    if opening <= 0.0:
        return OutletState.SHUT, _why_shut(state, outlet)
    if head_m is None:
        return OutletState.DRY, _why_cut_off(state, outlet)
    over_m = head_m - height_m
    if isinstance(outlet, FixedOutlet):
        asked_m3s = m3s_from_lpm(outlet.flow_lpm)
        if flow_m3s < asked_m3s * ALL_BUT:
            gets, asked = (Quantity(value=lpm_from_m3s(flow), unit="L/min") for flow in (flow_m3s, asked_m3s))
            return OutletState.SHORT, say("gets {} of the {} it needs: no more comes over the high point", gets, asked)
        if over_m < least_m:
            return OutletState.SHORT, say(
                "needs {} of head and has {}", Quantity(value=least_m, unit="m"), Quantity(value=over_m, unit="m")
            )
        return OutletState.RUNNING, say("takes its flow whatever the head")
    static_m = state.shut.outlet_head_m(outlet.id)
    if static_m is not None and static_m > height_m:
        return OutletState.DRY, say(
            "what the others draw brings the water {} below it", Quantity(value=max(0.0, -over_m), unit="m")
        )
    return OutletState.DRY, say(
        "it stands {} above the water that feeds it", Quantity(value=max(0.0, -over_m), unit="m")
    )


@lru_cache(maxsize=256)
def _open(opening: float) -> Wording:
    return say("open {} %", f"{100 * opening:.0f}")


def _why_shut(state: SteadyState, outlet: OutletBase) -> Wording:
    vessel = state.layout.vessels.get(outlet.fills or "")
    if outlet.shut or vessel is None or not isinstance(outlet, FloatValveOutlet):
        return say("shut by hand" if outlet.shut else "shut in this case")
    if state.case.levels_m[vessel.id] > outlet.valve.closes_at_m - outlet.valve.band_m:
        return say("{} is full: its float has closed the valve", label(vessel))
    return say("shut in this case")


def _why_cut_off(state: SteadyState, outlet: OutletBase) -> Wording:
    layout, loader = state.layout, state.model.loader
    brimming = replace(state.case, levels_m={vessel.id: vessel.brim_m for vessel in layout.design.vessels})
    if loader.reached(brimming)[state.model.plumbing.junctions[layout.node_of_outlet[outlet.id]]]:
        joined = {end for line in layout.design.lines for end in (line.from_, line.to)}
        empty = [
            vessel
            for vessel in layout.design.vessels
            if vessel.id in joined and not loader.gives(vessel.id, state.case)
        ]
        return say("{} is down to its outlet and gives nothing", " and ".join(label(vessel) for vessel in empty))
    return say("cut off: no open line brings water from a tank")


def _below_atmospheric(state: SteadyState, outlet: OutletBase) -> OpenToAir | None:
    """Return the two answers where the outlet's own way draws air in, and the one to go by."""
    solved, along = state.solved, state.model.along
    full = solved.full.outlet_flow_m3s(outlet.id)
    if solved.opened is None or full <= 0.0:
        return None
    found = solved.deepest_suction(state.layout.node_of_outlet[outlet.id])
    if found is None:
        return None
    deepest, all_siphons = found
    point = along.points[deepest.point]
    opened, used = (
        min(full, flow.outlet_flow_m3s(outlet.id)) if flow.converged else 0.0 for flow in (solved.opened, solved.used)
    )
    return OpenToAir(
        line_id=point.line_id,
        at_m=point.at_m,
        pressure_head_m=deepest.head_over_pipe_m,
        full_pipe_m3s=None if deepest.head_over_pipe_m < state.model.boils_below_m else full,
        open_m3s=opened,
        used_m3s=used,
        siphon=all_siphons,
    )
