"""What must hold in a sized plan: what is required, or needed by Demand, and what no pipe may be asked to stand."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.base.units import HOUR_S, LITRE_M3, MINUTE_S, head_m_from_pa, m3s_from_lpm, pa_from_kpa
from leadsman.core.design import FixedOutlet, FloatValveOutlet, OutletBase
from leadsman.core.design.use import Requirement
from leadsman.core.farm.day_demand import HOURS, hourly_l

TOGETHER, ALONE = "together", "alone"
"""Cases of requirements that no scenario stands for: every outlet open; the outlet that is asked about, only."""

FILLING = "filling"  # in place of a case: the flow that fills a vessel in time
Times = Mapping[tuple[str, str], float]
Given = Literal["stated", "demand", "limit"]


@dataclass(frozen=True, kw_only=True)
class Must:
    """What must hold in a case, `when`: one of its figures is given.

    Of `where`: the flow of an outlet [m3/s], the pressure at a place or at an outlet [m of water over it], the greatest
    velocity in a line [m/s], a point of a line [m from its `from` end] that the grade may not fall below, the
    flow of a line [m3/s] from its `from` end, negative where it feeds a tank there, or that a float valve has the
    pressure that it `opens` at.
    `given` tells whether it was stated, is what Demand needs there, or is a limit of what is laid. What must hold
    `surely` is asked for so many `times` over, so that the worst of its range is enough, and so is a flow that fills a
    vessel in `fills_s` [s], so that it does.
    """

    where: str
    flow_m3s: float | None = None
    pressure_m: float | None = None
    most_ms: float | None = None
    over_at_m: float | None = None
    opens: bool = False
    feeds_m3s: float | None = None
    when: str = TOGETHER
    given: Given = "stated"
    surely: bool = False
    fills_s: float | None = None
    times: float = 1.0

    @property
    def of_line(self) -> bool:
        """Whether it is about a line, not about an outlet or a place."""
        return self.most_ms is not None or self.over_at_m is not None or self.feeds_m3s is not None


def musts_of(analysis: Analysis, times: Times) -> list[Must]:
    """Return what is stated, and for outlets of which no flow is stated what their herds and plants take at the peak.

    Args:
        times: by how much more flows are asked for, by outlet and case, so that they hold surely.
    Raises:
        DesignFaults: a flow is required of a place, or more than an outlet draws.
    """
    design, density = analysis.design, analysis.model.water.density_kgm3

    def metres(kpa: float) -> float:
        return head_m_from_pa(pa_from_kpa(kpa), density)

    running = [outlet for outlet in design.outlets if not outlet.shut]
    fixed = {outlet.id: outlet for outlet in running if isinstance(outlet, FixedOutlet)}
    found = [Must(where=outlet.id, pressure_m=metres(outlet.min_pressure_kpa)) for outlet in fixed.values()]
    told = {outlet.id for outlet in design.outlets if outlet.shut} | set(fixed)
    for number, wanted in enumerate(design.requirements):
        where, when = wanted.outlet or wanted.place, wanted.case or (ALONE if wanted.alone else TOGETHER)
        if where is None:
            continue
        if wanted.flow_lpm is not None and _is_free(wanted, number, fixed):
            told.add(where)
            more = times.get((where, when), 1.0)
            flow = m3s_from_lpm(wanted.flow_lpm) * more
            found.append(Must(where=where, flow_m3s=flow, when=when, surely=wanted.surely, times=more))
        fills = _filling_m3s(analysis, wanted)
        if fills is not None:
            more, fills_s = times.get((where, FILLING), 1.0), (wanted.refill_min or 0.0) * MINUTE_S
            found.append(Must(where=where, flow_m3s=fills * more, when=ALONE, fills_s=fills_s, times=more))
        if wanted.pressure_kpa is not None:
            found.append(Must(where=where, pressure_m=metres(wanted.pressure_kpa), when=when))
    found += _needed(analysis, [outlet for outlet in running if outlet.id not in told])
    floats = {outlet.id for outlet in running if isinstance(outlet, FloatValveOutlet)}
    opening = {(must.where, must.when) for must in found if must.flow_m3s is not None and must.where in floats}
    return [*found, *(Must(where=where, when=when, opens=True, given="limit") for where, when in sorted(opening))]


def _is_free(wanted: Requirement, number: int, fixed: dict[str, FixedOutlet]) -> bool:
    """Whether a flow is required of an outlet that runs freely; one that draws its own flow has it."""
    if wanted.outlet is None:
        raise _fault(f"/requirements/{number}", "a flow of a place", "a flow of an outlet")
    drawn = fixed.get(wanted.outlet)
    if drawn is not None and drawn.flow_lpm < (wanted.flow_lpm or 0.0):
        raise _fault(
            f"/requirements/{number}/flow_lpm", f"{wanted.flow_lpm:g}",
            f"at most the {drawn.flow_lpm:g} L/min that the outlet draws",
        )  # fmt: skip
    return drawn is None


def _filling_m3s(analysis: Analysis, wanted: Requirement) -> float | None:
    """Return the flow, all other outlets shut and its float fully open, that fills an outlet's vessel in time.

    By how long it takes as the plan is: the float throttles the same share of any flow.
    """
    if wanted.outlet is None or wanted.refill_min is None:
        return None
    refill, flow = analysis.refills.get(wanted.outlet), analysis.flows_alone_m3s.get(wanted.outlet, 0.0)
    if refill is None or flow <= 0.0:
        return None
    if refill.time_s is None:
        return refill.volume_m3 / (wanted.refill_min * MINUTE_S)
    return flow * refill.time_s / (wanted.refill_min * MINUTE_S)


def _needed(analysis: Analysis, outlets: list[OutletBase]) -> Iterator[Must]:
    """Yield what outlets must give in the hour in which most is drunk and watered there."""
    for outlet in outlets:
        herds = [herd for herd in analysis.herds if outlet.id in herd.outlets]
        shares = {herd.herd.id: 1.0 / len(herd.outlets) for herd in herds}
        own = [hourly_l([herd], [], {}) for herd in herds]
        drunk = [sum(hours[hour] * shares[herd.herd.id] for herd, hours in zip(herds, own, strict=True))
                 for hour in range(HOURS)]  # fmt: skip
        needs = [one for one in analysis.other_demands if one.where in (outlet.id, outlet.fills)]
        # behind a float there is water in store: what plants take there may come all day
        even = [sum(one.daily_l for one in needs) / HOURS] * HOURS
        others = even if isinstance(outlet, FloatValveOutlet) else hourly_l([], needs, {})
        most_l = max(a + b for a, b in zip(drunk, others, strict=True))
        if most_l > 0.0:
            yield Must(where=outlet.id, flow_m3s=most_l * LITRE_M3 / HOUR_S, given="demand")


def _fault(path: str, found: str, allowed: str) -> DesignFaults:
    return DesignFaults([Fault(path=path, code="not_allowed", found=found, allowed=allowed)])
