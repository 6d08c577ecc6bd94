"""The store does not last as long as wanted when refill stops."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import RamInflow, SpringInflow, label
from leadsman.core.farm.pressure_source import PressureInflow
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

STEADY = SpringInflow | RamInflow | PressureInflow  # run on, whatever happens to the store
LESS_THAN_A_DAY = 1.0


@judgement("days-in-hand", "Fewer days with no refill than the target", Question.HOW_LONG_DOES_IT_LAST)
def days_in_hand(analysis: Analysis) -> Iterator[Finding]:
    """Yield each system whose usable store lasts less than wanted.

    Under a day is a stop where animals drink from it, unless springs or rams bring all that is needed as it runs: then
    it is to be mended before they fail. Where only plants hang on it our default does not count.
    """
    wanted, is_default = analysis.wanted_days
    for system, day in zip(analysis.systems, analysis.balances, strict=True):
        lasts = analysis.lasts(system)
        animals = analysis.waters_animals(system)
        if lasts is None or lasts.days >= wanted or (is_default and not animals):
            continue
        days = lasts.days
        runs_on = sum(analysis.brings_m3[inflow.id] for inflow in system.inflows if isinstance(inflow, STEADY))
        dies = animals and days < LESS_THAN_A_DAY and runs_on < day.demand_m3_per_day
        lacking_m3 = (wanted - days) * day.demand_m3_per_day
        of = f" of {name}" if (name := analysis.name_among(system)) else ""
        yield Finding(
            severity=Severity.STOP if dies else Severity.FIX,
            where=system.stores[0].id,
            value=days,
            limit=wanted,
            unit="d",
            headline=say(
                f"The store{of} lasts {{}} with no refill; {{}} wanted",
                Quantity(value=days, unit="d"),
                Quantity(value=wanted, unit="d"),
            ),
            why=say(
                "{}{}{} more in store would be enough.{}",
                f"Every float shut at first, {label(lasts.first)} is without water then. " if lasts.first else "",
                "Animals die within days without water: look daily. " if animals else "",
                Quantity(value=lacking_m3 / LITRE_M3, unit="L"),
                " The target is assumed, please check." if is_default else "",
            ),
        )
