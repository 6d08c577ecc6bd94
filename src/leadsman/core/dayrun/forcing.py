"""What comes into vessels and goes out of them beside the network: inflows, draws, animals, what ponds lose."""

from collections.abc import Iterator, Mapping
from contextlib import suppress

from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3, MINUTE_S, m3s_from_lpm
from leadsman.core.dayrun.drinking import herd_spells
from leadsman.core.dayrun.spell import Spell
from leadsman.core.design import Design, EmitterOutlet, FixedOutlet, PumpInflow, Scenario, SteadyInflow
from leadsman.core.farm.day_demand import DAYLIGHT, MIDDAY_H, WATERED_FROM_H
from leadsman.core.farm.growing import OtherDemand, other_demands, pond_demand
from leadsman.core.farm.inflow import daily_m3
from leadsman.core.farm.pump_cycle import pump_flow_m3s
from leadsman.core.farm.watering_spells import zone_spells


def spells(design: Design, scenario: Scenario, length_s: float) -> list[Spell]:
    """Return all that runs during a run from midnight on [s], in no order, but for what ponds lose.

    A source that runs for some hours a day does so about midday (ours, no source); rain falls evenly.
    """
    daily = [*_inflows(design, scenario), *herd_spells(design, scenario), *_plants(design, scenario)]
    draws = [
        Spell(
            of=f"draw {number}",
            begins_s=draw.from_s,
            ends_s=draw.to_s,
            flow_m3s=m3s_from_lpm(draw.flow_lpm),
            from_=draw.vessel,
        )
        for number, draw in enumerate(design.draws, 1)
    ]
    return [spell for spell in [*_repeated(daily, length_s), *draws] if spell.flow_m3s > 0.0]


def _inflows(design: Design, scenario: Scenario) -> Iterator[Spell]:
    for inflow in design.inflows:
        day_m3 = daily_m3(inflow, scenario)
        if day_m3 <= 0.0:
            continue
        hours, switch, from_ = 24.0, None, None
        if isinstance(inflow, PumpInflow | SteadyInflow):
            hours, from_ = inflow.hours_per_day, inflow.draws_from
        flow_m3s = day_m3 / (hours * HOUR_S)
        if isinstance(inflow, PumpInflow) and inflow.cut_in_m is not None and inflow.cut_out_m is not None:
            hours, switch, flow_m3s = 24.0, (inflow.cut_in_m, inflow.cut_out_m), pump_flow_m3s(inflow)
        begins_s = 0.0 if hours >= 24.0 else (MIDDAY_H - hours / 2.0) * HOUR_S
        yield Spell(
            of=inflow.id,
            begins_s=begins_s,
            ends_s=begins_s + hours * HOUR_S,
            flow_m3s=flow_m3s,
            to=inflow.fills,
            from_=from_,
            switch_m=switch,
            breaks=inflow.kind == "siphon" and from_ is not None,
        )


def pond_spells(design: Design, levels_m: Mapping[str, float], begins_s: float, ends_s: float) -> list[Spell]:
    """Return what ponds lose from one time to another [s], by the surface and volume that they have at levels [m]."""
    vessels, found = {vessel.id: vessel for vessel in design.vessels}, []
    for pond in design.ponds:
        vessel = vessels[pond.vessel].model_copy(update={"level_m": levels_m[pond.vessel]})
        lost_m3s = pond_demand(pond, vessel).daily_l * LITRE_M3 / DAY_S
        if lost_m3s > 0.0:
            found.append(Spell(of=pond.vessel, begins_s=begins_s, ends_s=ends_s, flow_m3s=lost_m3s, from_=pond.vessel))
    return found


def _plants(design: Design, scenario: Scenario) -> Iterator[Spell]:
    """Yield what plants take out of the vessels that their outlets fill, evenly over the daylight."""
    fills = {outlet.id: outlet.fills for outlet in design.outlets}
    for demand in _crops(design, scenario):
        vessel = fills.get(demand.where)
        if vessel is not None:
            begins_s, length_s = DAYLIGHT[0] * HOUR_S, DAYLIGHT[1] * HOUR_S
            yield Spell(
                of=demand.part_id,
                begins_s=begins_s,
                ends_s=begins_s + length_s,
                flow_m3s=demand.daily_l * LITRE_M3 / length_s,
                from_=vessel,
            )


def watered_s(design: Design, scenario: Scenario) -> dict[str, list[tuple[float, float]]]:
    """Return when outlets that water plants are open in a day [s from midnight], by their id.

    By their timers; those without, from six in the morning until what the plants need has come. Those that fill a
    vessel, and open ends, of which nobody says what they give, are not among them.
    """
    gives_lpm = _rated_lpm(design)
    demands = [demand for demand in _crops(design, scenario) if demand.where in gives_lpm]
    timed: dict[str, list[tuple[float, float]]] = {}
    for timer in design.timers:
        for spell in zone_spells(timer, demands, design, gives_lpm):
            if spell.outlet in gives_lpm:
                timed.setdefault(spell.outlet, []).append((spell.since * MINUTE_S, spell.until * MINUTE_S))
    for demand in demands:
        if demand.where not in timed:
            begins_s = WATERED_FROM_H * HOUR_S
            length_s = min(demand.daily_l / gives_lpm[demand.where] * MINUTE_S, DAY_S)
            timed[demand.where] = [(begins_s, begins_s + length_s)]
    return timed


def _rated_lpm(design: Design) -> dict[str, float]:
    """Return what outlets give that are rated for a flow [L/min] and fill no vessel."""
    return {
        outlet.id: outlet.flow_lpm
        for outlet in design.outlets
        if isinstance(outlet, FixedOutlet | EmitterOutlet) and outlet.fills is None and outlet.flow_lpm > 0.0
    }


def _crops(design: Design, scenario: Scenario) -> list[OtherDemand]:
    """Return what plants need; those of which that cannot be told on this day are left out."""
    found = []
    for crop in design.crops:
        alone = design.model_copy(update={"crops": [crop], "ponds": [], "calendar": []})
        with suppress(OutOfRange):
            found += [demand for demand in other_demands(alone, scenario, _rated_lpm(design)) if demand.kind == "crop"]
    return found


def _repeated(daily: list[Spell], length_s: float) -> Iterator[Spell]:
    """Yield what runs every day on each day of a run, cut at its ends; what runs on and on as one."""
    for spell in daily:
        if spell.ends_s - spell.begins_s >= DAY_S:
            yield Spell(**{**vars(spell), "begins_s": 0.0, "ends_s": length_s})
            continue
        first = int((-spell.ends_s) // DAY_S)
        for day in range(first, int(length_s // DAY_S) + 2):
            begins_s, ends_s = max(spell.begins_s + day * DAY_S, 0.0), min(spell.ends_s + day * DAY_S, length_s)
            if ends_s > begins_s:
                yield Spell(**{**vars(spell), "begins_s": begins_s, "ends_s": ends_s})
