"""Days of the season on which the store does not give what is needed."""

from collections.abc import Iterator
from functools import partial
from math import ceil

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import RainInflow, label
from leadsman.core.design.store import brimful, usable_m3
from leadsman.core.farm.rain import plan_area_m2
from leadsman.core.farm.supply import StoreSeason
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, that_help

BADLY_SHORT_SHARE = 0.9
MOST_TANKS = 40


@judgement("season-gap", "The store runs dry in the season", Question.HOW_LONG_DOES_IT_LAST, at_rest=True)
def season_gap(analysis: Analysis) -> Iterator[Finding]:
    """Yield one finding where fewer days of the weather are met than is wanted; says what would close the gap."""
    driest, plan = analysis.dry_season, analysis.design.season
    if driest is None or plan is None:
        return
    system, season = driest
    if not system.inflows:
        return  # it is filled by hand
    share, first = season.lasting_share, float(season.cautious.days_share[0])
    if share >= plan.wanted_share:
        return
    days = season.weather.days
    short = round((1.0 - share) * days)
    hopeful = round((1.0 - float(season.hopeful.days_share[0])) * days)
    again = " if the same weather comes again" if share < first else ""
    at_best = "" if hopeful == short else f"({hopeful} if rain can be used on the day it falls.) "
    longest = Quantity(value=float(season.cautious.longest_gap_d()), unit="d", digits=0)
    of = f" from {name}" if (name := analysis.name_among(system)) else ""
    yield Finding(
        severity=Severity.STOP if share < BADLY_SHORT_SHARE else Severity.FIX,
        where=system.stores[0].id,
        value=100.0 * share,
        limit=100.0 * plan.wanted_share,
        unit="count",
        headline=say(f"On {short} of {days} days there is not enough{of}{again}"),
        why=(
            *_lacking(season),
            *(() if again else say("{}The longest gap lasts {}.", at_best, longest)),
            *_what_closes_it(analysis, plan.wanted_share),
        ),
        try_remedies=partial(_that_close_it, analysis, plan.wanted_share),
    )


def _that_close_it(analysis: Analysis, share: float) -> list[Remedy]:
    """Return more tanks like the largest, and the roof made larger, so that the wanted share of days is met."""
    driest = analysis.dry_season
    assert driest is not None
    system, season = driest
    candidates = []
    largest = max(system.stores, key=lambda outlet: usable_m3(brimful(outlet)))
    store, one_m3 = season.size_for(share), usable_m3(brimful(largest)) / largest.count
    if store is not None and one_m3 > 0.0:
        count = largest.count + ceil((store - season.capacity_m3) / one_m3 - 1e-9)
        if largest.count < count <= MOST_TANKS:
            path = f"/vessels/{analysis.design.vessels.index(largest)}/count"
            text = say("{} linked tanks like {}", str(count), label(largest))
            candidates.append(Candidate(text, [{"op": "add", "path": path, "value": count}]))
    roofs = [inflow for inflow in system.inflows if isinstance(inflow, RainInflow) and inflow.area_m2]
    wanted_m2 = season.roof_for(share)
    if roofs and wanted_m2 is not None:
        roof = max(roofs, key=plan_area_m2)
        area = round(plan_area_m2(roof) + wanted_m2 - season.area_m2, 1)
        path = f"/inflows/{analysis.design.inflows.index(roof)}/area_m2"
        text = say("{} of {}", label(roof), Quantity(value=area, unit="m²", digits=1))
        candidates.append(Candidate(text, [{"op": "replace", "path": path, "value": area}]))

    def days_share(changed: Analysis) -> float | None:
        after = changed.store_season
        return after.lasting_share if after else None

    def effect(met: float) -> Wording:
        return say(f"meets {100 * met:.1f} % of days")

    return that_help(analysis, candidates, days_share, effect)


def _lacking(season: StoreSeason) -> Wording:
    if season.lacking_m3 <= 0.0:
        return ()
    lacking = Quantity(value=season.lacking_m3 / LITRE_M3, unit="L/d")
    return say("On average {} less comes in than is needed: no store is enough, it only delays the shortage. ", lacking)


def _what_closes_it(analysis: Analysis, share: float) -> Wording:
    """Return what would meet the wanted share of days: a larger store, more roof, another source."""
    season = analysis.store_season
    assert season is not None
    ways: list[Wording] = []
    if (store := season.size_for(share)) is not None:
        ways.append(say("a store of {} in all", Quantity(value=store / LITRE_M3, unit="L")))
    if (roof := season.roof_for(share)) is not None:
        ways.append(say("{} of roof in all", Quantity(value=roof, unit="m²")))
    if (more := season.steady_for(share)) is not None:
        ways.append(say("another {} the year round", Quantity(value=more / LITRE_M3, unit="L/d")))
    if not ways:
        return say(
            " Not twenty times the store or the roof, nor three times the demand from another source, closes it."
        )
    listed: list[str | Quantity] = [f" {100 * share:g} % of days would be met by "]
    for number, way in enumerate(ways):
        listed += [", or by " if number else "", *way]
    return (*(part for part in listed if part != ""), ".")
