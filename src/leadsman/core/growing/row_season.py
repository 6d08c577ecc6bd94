"""A row of containers week by week: what its plants take, the level of the float, and how long a full reservoir lasts.

And how many containers the float, the tubes and the reservoir could serve.
"""

from dataclasses import dataclass, replace
from datetime import date, timedelta

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Crop, Vessel
from leadsman.core.design.store import volume_between_m3
from leadsman.core.farm.container_row import ContainerRow
from leadsman.core.growing.row_chain import RowChain, row_chain

AROUND_D = 28  # before the first change and after the last, where no step ends the season; ours, no source
WEEK_D = 7
LONGEST_D = 366
MOST_CONTAINERS = 1_000


@dataclass(frozen=True, kw_only=True)
class RowWeek:
    """A week from its first day on: litres a day of all plants, what they take in it, the level the float keeps [m].

    `topped_l` comes through the float: what plants take, less what the containers give as the level is lowered.
    `left_l` is what a reservoir full at the start still holds at its end; below 0 what is short by then.
    """

    begins: str
    days: int
    daily_l: float
    taken_l: float
    closes_at_m: float
    topped_l: float
    left_l: float | None


@dataclass(frozen=True, kw_only=True)
class RowSeason:
    """A season of a row. `reservoir` is what its water comes from, None where a pipe or a source under pressure does.

    `lasts_to` is the last day for which the full reservoir is enough, None where it is enough for all.
    """

    weeks: list[RowWeek]
    reservoir: Vessel | None
    reservoir_l: float
    lasts_to: str | None

    @property
    def needed_l(self) -> float:
        """What comes through the float over the season [L]."""
        return sum(week.topped_l for week in self.weeks)

    @property
    def peak_lpd(self) -> float:
        """What plants take a day in the week in which they take most [L/d]."""
        return max((week.daily_l for week in self.weeks), default=0.0)


@dataclass(frozen=True, kw_only=True)
class RowServes:
    """How many containers each part could serve at the season's peak: the float day and night, and the tubes.

    None where nothing is taken, or the tubes are unknown; `reservoir_d` is how long a full reservoir lasts then [d].
    """

    by_float: int | None
    by_tubes: int | None
    reservoir_d: float | None


def row_season(analysis: Analysis, row: ContainerRow) -> RowSeason | None:
    """Return the season of a row, from four weeks before the first change of litres or level to four after the last.

    A step to no litres ends it. None where nothing changes over the season.
    """
    crops = [crop for crop in analysis.document.crops if crop.outlet == row.outlet.id and crop.plants is not None]
    steady_l = sum(
        need.daily_l for need in analysis.other_demands
        if need.kind == "crop" and need.where == row.outlet.id and need.part_id not in {crop.id for crop in crops}
    )  # fmt: skip
    span = _span(row, crops)
    if span is None:
        return None
    reservoir, full_l = _reservoir(analysis, row)
    begins, ends = span
    weeks: list[RowWeek] = []
    left_l, lasts_to = full_l, None
    while begins <= ends:
        days = min(WEEK_D, (ends - begins).days + 1)
        each = [_litres_on(crops, begins + timedelta(days=day)) + steady_l for day in range(days)]
        given_l = -sum(
            level.change_m3 for level in row.levels[1:]
            if level.since is not None and begins <= date.fromisoformat(level.since) < begins + timedelta(days=days)
        ) / LITRE_M3  # fmt: skip
        topped = max(0.0, sum(each) - given_l)
        if reservoir is not None and lasts_to is None and topped > left_l:
            lasts_to = (begins + timedelta(days=int(days * left_l / topped) - 1)).isoformat()
        left_l -= topped
        weeks.append(
            RowWeek(
                begins=begins.isoformat(), days=days, daily_l=sum(each) / days, taken_l=sum(each), topped_l=topped,
                closes_at_m=_closes_at_m(row, begins), left_l=None if reservoir is None else left_l,
            )
        )  # fmt: skip
        begins += timedelta(days=days)
    return RowSeason(weeks=weeks, reservoir=reservoir, reservoir_l=full_l, lasts_to=lasts_to)


def row_serves(analysis: Analysis, row: ContainerRow, season: RowSeason | None) -> RowServes:
    """Return how many containers the float and the tubes could serve, and how long the reservoir lasts at the peak."""
    peak_lpd = max(season.peak_lpd if season else 0.0, row.demand_m3_per_day / LITRE_M3)
    if peak_lpd <= 0.0 or row.containers == 0:
        return RowServes(by_float=None, by_tubes=None, reservoir_d=None)
    reservoir, full_l = _reservoir(analysis, row)
    return RowServes(
        by_float=int(row.gets_m3_per_day / LITRE_M3 * row.containers / peak_lpd),
        by_tubes=_by_tubes(analysis, row, peak_lpd / row.containers),
        reservoir_d=full_l / peak_lpd if reservoir is not None else None,
    )


def keeps_up(chain: RowChain) -> bool:
    """Whether the last container keeps half the depth it would have at the float's level, on the mean of the day."""
    return bool(chain.lowest_m[0] >= chain.depths_m[chain.last] / 2.0)


def _by_tubes(analysis: Analysis, row: ContainerRow, each_lpd: float) -> int | None:
    """Return the greatest number of containers in the row's chain of which the last keeps half its depth."""
    rows = [vessel for vessel in row.vessels if vessel.count > 1]
    if len(rows) != 1 or row_chain(analysis, row) is None:
        return None
    low, high = 0, 2
    while high <= MOST_CONTAINERS and _keeps_up_with(analysis, row, rows[0], high, each_lpd):
        low, high = high, high * 2
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if _keeps_up_with(analysis, row, rows[0], middle, each_lpd) else (low, middle)
    return min(low, MOST_CONTAINERS)


def _keeps_up_with(analysis: Analysis, row: ContainerRow, linked: Vessel, count: int, each_lpd: float) -> bool:
    others = row.containers - linked.count
    vessels = tuple(v.model_copy(update={"count": count}) if v is linked else v for v in row.vessels)
    needs_m3 = each_lpd * (others + count) * LITRE_M3
    tried = replace(row, vessels=vessels, containers=others + count, demand_m3_per_day=needs_m3)
    chain = row_chain(analysis, tried)
    return chain is not None and keeps_up(chain)


def _span(row: ContainerRow, crops: list[Crop]) -> tuple[date, date] | None:
    """Return the first and the last day of the season; None where nothing changes."""
    grown = sorted(date.fromisoformat(step.from_) for crop in crops for step in crop.over_season)
    levels = sorted(date.fromisoformat(level.since) for level in row.levels if level.since is not None)
    if not grown and not levels:
        return None
    begins = min([*grown, *levels]) - timedelta(days=AROUND_D)
    ended = [
        date.fromisoformat(crop.over_season[-1].from_) for crop in crops
        if crop.over_season and crop.over_season[-1].litres_each_lpd == 0.0
    ]  # fmt: skip
    if ended and len(ended) == len(crops):
        ends = max(ended) - timedelta(days=1)
    else:
        ends = max([*grown, *levels]) + timedelta(days=AROUND_D - 1)
    return begins, min(ends, begins + timedelta(days=LONGEST_D - 1))


def _litres_on(crops: list[Crop], day: date) -> float:
    return sum((crop.plants or 0) * (crop.litres_each_on(day.isoformat()) or 0.0) for crop in crops)


def _closes_at_m(row: ContainerRow, day: date) -> float:
    held = [level for level in row.levels if level.since is None or level.since <= day.isoformat()]
    return held[-1].closes_at_m


def _reservoir(analysis: Analysis, row: ContainerRow) -> tuple[Vessel | None, float]:
    """Return what a row's water comes from, and what that gives when full [L]; None where it is no vessel."""
    route = analysis.routes.get(row.outlet.id)
    vessel = None if route is None else analysis.model.layout.vessels.get(route.vessel.id)
    return vessel, 0.0 if vessel is None else volume_between_m3(vessel, vessel.outlet_m, vessel.brim_m) / LITRE_M3
