"""What comes into vessels and goes out of them beside the network: inflows, draws, animals, what ponds lose."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3, m3s_from_lpm
from leadsman.core.design import Design, PumpInflow, Scenario, SteadyInflow
from leadsman.core.farm.day_demand import MIDDAY_H, drinking_spells
from leadsman.core.farm.demand import herd_demands
from leadsman.core.farm.growing import pond_demand
from leadsman.core.farm.inflow import daily_m3
from leadsman.core.farm.pump_cycle import pump_flow_m3s


@dataclass(frozen=True, kw_only=True)
class Spell:
    """A flow [m3/s] from one time to another [s], into a vessel or out of one.

    `to` is None of what leaves the system, `from_` of what comes from outside; `switch_m` are the levels of the vessel
    it fills between which float switches let it run; `of` is the part that it belongs to.
    """

    of: str
    begins_s: float
    ends_s: float
    flow_m3s: float
    to: str | None = None
    from_: str | None = None
    switch_m: tuple[float, float] | None = None


def spells(design: Design, scenario: Scenario, length_s: float) -> list[Spell]:
    """Return all that runs during a run from midnight on [s], in no order.

    A source that runs for some hours a day does so about midday (ours, no source); rain falls evenly.
    """
    daily = [*_inflows(design, scenario), *_herds(design, scenario), *_ponds(design)]
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
        )


def _herds(design: Design, scenario: Scenario) -> Iterator[Spell]:
    fills = {outlet.id: outlet.fills for outlet in design.outlets}
    for demand in herd_demands(design, scenario):
        vessels = [vessel for outlet in demand.outlets if (vessel := fills.get(outlet)) is not None]
        for number, (start_h, length_h, litres) in enumerate(drinking_spells(demand)):
            if not vessels or length_h <= 0.0:
                continue
            yield Spell(
                of=demand.herd.id,
                begins_s=start_h * HOUR_S,
                ends_s=(start_h + length_h) * HOUR_S,
                flow_m3s=litres * LITRE_M3 / (length_h * HOUR_S),
                from_=vessels[number % len(vessels)],
            )


def _ponds(design: Design) -> Iterator[Spell]:
    vessels = {vessel.id: vessel for vessel in design.vessels}
    for pond in design.ponds:
        lost_m3s = pond_demand(pond, vessels[pond.vessel]).daily_l * LITRE_M3 / DAY_S
        yield Spell(of=pond.vessel, begins_s=0.0, ends_s=DAY_S, flow_m3s=lost_m3s, from_=pond.vessel)


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
