"""The store through its season, in the document's units."""

from datetime import timedelta
from itertools import pairwise

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.array import Floats
from leadsman.core.base.units import LITRE_M3
from leadsman.core.farm.supply import SHARES, StoreSeason
from leadsman.core.report.base import Report
from leadsman.core.report.store import BarReport, bar_reports

MOST_POINTS = 1_100  # a longer series is told in spells of days


class OrderReport(Report):
    """The store in one of the published orders of spill and draw."""

    days_share: float
    volume_share: float
    longest_gap_d: int
    spilled_l: float
    unmet_l: float


class SizeReport(Report):
    """What meets a share of days: the store [L], the roofs in all [m2], the steady inflow to be added [L/d].

    Null where not twenty times what there is would do it.
    """

    share: float
    store_l: float | None
    roof_m2: float | None
    more_lpd: float | None


class CurveReport(Report):
    """Stores [L] and the share of days that each meets."""

    store_l: list[float]
    days_share: list[float]


class BadSpellReport(Report):
    """Days on end whose demand is not wholly met: the first and last, and what is lacking in all."""

    first: str
    last: str
    unmet_l: float


class SeriesReport(Report):
    """Day by day, or in spells of `days_each`: the first day of each, sums [L], levels at the end, days in hand."""

    days_each: int
    days: list[str]
    in_l: dict[str, list[float]]
    out_l: list[float]
    unmet_l: list[float]
    spilled_l: list[float]
    store_l: list[float]
    days_in_hand: list[float]
    most_c: list[float]
    rain_mm: list[float]


class StoreSeasonReport(Report):
    """The store through the weather: `cautious` is yield after spillage, `hopeful` yield before it.

    Of several systems it is the one that meets fewest days, which `system` names.
    """

    system: str | None
    source: str
    days: int
    wanted_share: float
    capacity_l: float
    start_l: float
    cautious: OrderReport
    hopeful: OrderReport
    least_days_in_hand: float
    curve: CurveReport
    sizes: list[SizeReport]
    bad: list[BadSpellReport]
    series: SeriesReport


class SeasonRunReport(Report):
    """Days of the cases and of the worst week; the season, null where the design has no weather."""

    bars: list[BarReport]
    season: StoreSeasonReport | None


def season_run_report(analysis: Analysis) -> SeasonRunReport:
    """Return the store through the design's weather."""
    driest, plan = analysis.dry_season, analysis.design.season
    if driest is None or plan is None:
        return SeasonRunReport(bars=bar_reports(analysis), season=None)
    system, season = driest
    shares = sorted({*SHARES, plan.wanted_share})
    return SeasonRunReport(
        bars=bar_reports(analysis),
        season=StoreSeasonReport(
            system=analysis.name_among(system),
            source=plan.weather.source,
            days=season.weather.days,
            wanted_share=plan.wanted_share,
            capacity_l=season.capacity_m3 / LITRE_M3,
            start_l=season.start_m3 / LITRE_M3,
            cautious=_order(season, cautious=True),
            hopeful=_order(season, cautious=False),
            least_days_in_hand=float(season.days_in_hand.min()),
            curve=CurveReport(store_l=_litres(season.sizes_m3), days_share=season.curve.tolist()),
            sizes=[_size(season, share) for share in shares],
            bad=_bad_spells(season),
            series=_series(season),
        ),
    )


def _order(season: StoreSeason, *, cautious: bool) -> OrderReport:
    run = season.cautious if cautious else season.hopeful
    return OrderReport(
        days_share=float(run.days_share[0]),
        volume_share=float(run.volume_share[0]),
        longest_gap_d=run.longest_gap_d(),
        spilled_l=float(run.spilled_m3.sum()) / LITRE_M3,
        unmet_l=float(run.unmet_m3.sum()) / LITRE_M3,
    )


def _size(season: StoreSeason, share: float) -> SizeReport:
    store, more = season.size_for(share), season.steady_for(share)
    return SizeReport(
        share=share,
        store_l=None if store is None else store / LITRE_M3,
        roof_m2=season.roof_for(share),
        more_lpd=None if more is None else more / LITRE_M3,
    )


def _bad_spells(season: StoreSeason) -> list[BadSpellReport]:
    run = season.cautious
    bad = np.concatenate([[False], np.logical_not(run.met[:, 0]), [False]])
    turns = np.flatnonzero(bad[1:] != bad[:-1]).tolist()
    return [
        BadSpellReport(
            first=season.weather.day(since).isoformat(),
            last=season.weather.day(until - 1).isoformat(),
            unmet_l=float(run.unmet_m3[since:until].sum()) / LITRE_M3,
        )
        for since, until in zip(turns[::2], turns[1::2], strict=True)
    ]


def _series(season: StoreSeason) -> SeriesReport:
    weather, run = season.weather, season.cautious
    each = 1 + (weather.days - 1) // MOST_POINTS
    starts = list(range(0, weather.days, each))
    ends = np.array([until - 1 for _, until in pairwise([*starts, weather.days])])

    def summed(volumes_m3: Floats) -> list[float]:
        return _litres(np.add.reduceat(volumes_m3, starts))

    return SeriesReport(
        days_each=each,
        days=[(weather.first + timedelta(days=start)).isoformat() for start in starts],
        in_l={inflow_id: summed(volumes) for inflow_id, volumes in season.inflows_m3.items()},
        out_l=summed(run.supplied_m3[:, 0]),
        unmet_l=summed(run.unmet_m3[:, 0]),
        spilled_l=summed(run.spilled_m3[:, 0]),
        store_l=_litres(run.volumes_m3[ends, 0]),
        days_in_hand=np.minimum.reduceat(season.days_in_hand, starts).round(2).tolist(),
        most_c=np.maximum.reduceat(weather.most_c, starts).tolist(),
        rain_mm=np.add.reduceat(weather.rain_mm, starts).round(1).tolist(),
    )


def _litres(volumes_m3: Floats) -> list[float]:
    litres: list[float] = (volumes_m3 / LITRE_M3).round(2).tolist()
    return litres
