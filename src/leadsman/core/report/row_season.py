"""JSON of rows of containers: which one lags and how it levels, the season week by week, how many could be served."""

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.farm.container_row import ContainerRow
from leadsman.core.findings.pot_lags import spot_name
from leadsman.core.growing.levelling import levelling
from leadsman.core.growing.row_chain import RowChain, row_chain
from leadsman.core.growing.row_season import RowSeason, row_season, row_serves
from leadsman.core.report.base import Report, Words, words

HOURS_A_DAY, MINUTES_AN_HOUR = 24.0, 60.0


class LevellingReport(Report):
    """The container that lags longest: by how long [s], how deep it stands, and how all fill from empty over time.

    `full` is the share of its depth that the first, the middle and the last container of the way hold at each of
    `times_s`; `level_s` when the last is within a twentieth of it, null where it is not in the time shown. `slowest`
    is the line that most of the lag comes from, null for the links between containers; `slowest_share` how much.
    """

    last: Words
    lag_s: float
    depth_m: float
    mean_m: float
    peak_m: float
    times_s: list[float]
    full: list[tuple[float, float, float]]
    slowest: str | None
    slowest_share: float
    level_s: float | None


class WeekReport(Report):
    begins: str
    daily_l: float
    taken_l: float
    closes_at_m: float
    topped_l: float
    left_l: float | None


class RowSeasonReport(Report):
    """A row over the season; `levelling` null where its tubes are unknown, `reservoir` where no vessel feeds it."""

    outlet: str
    levelling: LevellingReport | None
    weeks: list[WeekReport]
    needed_l: float
    reservoir: str | None
    reservoir_l: float
    lasts_to: str | None
    by_float: int | None
    by_tubes: int | None
    reservoir_d: float | None
    air_h: float | None


class RowSeasonsReport(Report):
    rows: list[RowSeasonReport]


def row_seasons_report(analysis: Analysis) -> RowSeasonsReport:
    """Return every row of containers of a design over its season."""
    return RowSeasonsReport(rows=[_row(analysis, row) for row in analysis.container_rows])


def _row(analysis: Analysis, row: ContainerRow) -> RowSeasonReport:
    chain, season = row_chain(analysis, row), row_season(analysis, row)
    serves = row_serves(analysis, row, season)
    air = [vessel.air_min_per_h for vessel in row.vessels if vessel.air_min_per_h is not None]
    return RowSeasonReport(
        outlet=row.outlet.id,
        levelling=None if chain is None else _levelling(chain),
        weeks=[] if season is None else _weeks(season),
        needed_l=0.0 if season is None else season.needed_l,
        reservoir=season.reservoir.id if season and season.reservoir else None,
        reservoir_l=0.0 if season is None else season.reservoir_l,
        lasts_to=None if season is None else season.lasts_to,
        by_float=serves.by_float,
        by_tubes=serves.by_tubes,
        reservoir_d=serves.reservoir_d,
        air_h=max(air) * HOURS_A_DAY / MINUTES_AN_HOUR if air else None,
    )


def _levelling(chain: RowChain) -> LevellingReport:
    over_time = levelling(chain)
    mean_m, peak_m = chain.lowest_m
    pots = [number for number, spot in enumerate(chain.spots) if spot is not None and number > 0]
    slowest, share = chain.slowest
    by_lag = sorted(pots, key=lambda number: float(chain.lags_s[number]))
    shown = [by_lag[0], by_lag[len(by_lag) // 2], chain.last]
    return LevellingReport(
        last=words(spot_name(chain, chain.last)),
        lag_s=chain.lag_s,
        depth_m=float(chain.depths_m[chain.last]),
        mean_m=mean_m,
        peak_m=peak_m,
        times_s=over_time.times_s.tolist(),
        full=[
            (float(a), float(b), float(c))
            for a, b, c in np.round(over_time.depths_m[:, shown] / np.maximum(chain.depths_m[shown], 1e-6), 4)
        ],
        slowest=slowest.id if slowest else None,
        slowest_share=share,
        level_s=over_time.level_s,
    )


def _weeks(season: RowSeason) -> list[WeekReport]:
    return [
        WeekReport(
            begins=week.begins,
            daily_l=week.daily_l,
            taken_l=week.taken_l,
            closes_at_m=week.closes_at_m,
            topped_l=week.topped_l,
            left_l=week.left_l,
        )
        for week in season.weeks
    ]
