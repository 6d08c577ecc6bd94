"""More is drunk in a day than comes back."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.water_system import WaterSystem
from leadsman.core.base.units import DAY_S, LITRE_M3
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import RainInflow, SpringInflow, label
from leadsman.core.farm.balance import Balance
from leadsman.core.farm.spring import planned_flow_error_m3s
from leadsman.core.findings.registry import Finding, Question, Severity, judgement


@judgement("demand-over-refill", "Use exceeds supply", Question.HOW_LONG_DOES_IT_LAST)
def demand_over_refill(analysis: Analysis) -> Iterator[Finding]:
    """Yield each system of which a day's demand is more than a day's refill; a watch where it is filled by hand."""
    for system, day in zip(analysis.systems, analysis.balances, strict=True):
        rain = any(isinstance(inflow, RainInflow) for inflow in system.inflows)
        by_the_season = rain and analysis.design.season is not None and not analysis.scenario.rain_mm_d
        doubt_m3 = sum(
            planned_flow_error_m3s(inflow) * DAY_S for inflow in system.inflows if isinstance(inflow, SpringInflow)
        )
        if day.spare_m3_per_day >= doubt_m3 or by_the_season:
            continue  # a day without rain says nothing of a roof: the season does
        if day.spare_m3_per_day >= 0.0:
            yield _may_be_over(analysis, system, day, doubt_m3)
            continue
        demand, refill = (
            Quantity(value=m3 / LITRE_M3, unit="L/d") for m3 in (day.demand_m3_per_day, day.refill_m3_per_day)
        )
        gap_m3 = -day.spare_m3_per_day
        by_hand = not system.inflows
        if analysis.is_filled_by_hand(system):
            continue  # pots filled by hand are no fault: how long they last is said where the season is
        name = analysis.name_among(system)
        to, of = (f" to {name}" if name else ""), label(system.stores[0])
        lasts = Quantity(value=day.usable_m3 / gap_m3, unit="d")
        yield Finding(
            severity=Severity.WATCH if by_hand else Severity.FIX,
            where=system.stores[0].id,
            value=demand.value,
            limit=refill.value,
            unit="L/d",
            headline=say("{} is filled by hand: what is in it lasts {}", of, lasts)
            if by_hand
            else say(f"Use exceeds supply{to}: {{}} against {{}}", demand, refill),
            why=say("No source in this plan fills it, and {} are used. Fill it before then, or add its source.", demand)
            if by_hand
            else say(
                "The store makes up {} and is empty after {}. A second source of that size would close the gap, or {}.",
                Quantity(value=gap_m3 / LITRE_M3, unit="L/d"),
                lasts,
                "fewer animals on this water" if analysis.waters_animals(system) else "less watering",
            ),
        )


def _may_be_over(analysis: Analysis, system: WaterSystem, day: Balance, doubt_m3: float) -> Finding:
    """Return that the stopwatch leaves open whether enough comes back."""
    demand, refill, doubt = (
        Quantity(value=m3 / LITRE_M3, unit="L/d") for m3 in (day.demand_m3_per_day, day.refill_m3_per_day, doubt_m3)
    )
    to = f" to {name}" if (name := analysis.name_among(system)) else ""
    return Finding(
        severity=Severity.WATCH,
        where=system.stores[0].id,
        value=demand.value,
        limit=refill.value,
        unit="L/d",
        headline=say(f"Use may exceed supply{to}: {{}} against {{}}", demand, refill),
        why=say(
            "A spring was timed over so few seconds that {} less may come. Time it with a larger pail, or "
            "several times.",
            doubt,
        ),
    )
