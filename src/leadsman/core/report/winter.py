"""JSON of winter: what a frost does to lines and vessels, the ways through it side by side, and the walks."""

import math
from datetime import date

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3, lpm_from_m3s
from leadsman.core.base.wording import Wording, say
from leadsman.core.design import Design, Frost, label
from leadsman.core.physics.riser import riser_bore_mm
from leadsman.core.report.base import Report, Words, words
from leadsman.core.winter.bleed import LineBleed
from leadsman.core.winter.line_frost import LineFrost
from leadsman.core.winter.vessel_ice import VesselIce
from leadsman.core.winter.walk import WalkStep, drain_walk, spring_walk
from leadsman.core.winter.ways import Way, WayKey, ways
from leadsman.core.winter.winter import Winter, winter

# a frost to begin with, north of the equator: ours, no source; everybody knows a better one for where they live
BEGINS, ENDS, BEGINS_SOUTH, ENDS_SOUTH = (12, 20), (1, 20), (6, 20), (7, 20)
AIR_C = -5.0


class LineInFrost(Report):
    """A line in the frost: after how long its standing water is at 0 °C, and ice [s]; null where it does not freeze.

    `riser` is the outlet at which it freezes first, where it comes out of the ground there.
    """

    line: str
    cover_m: float
    reached_s: float | None
    cold_s: float | None
    frozen_s: float | None
    riser: str | None
    loss_w_per_k: float


class BleedReport(Report):
    """What keeps the way to an outlet open [L/min], null where nothing does; what is left running, and arrives with.

    It passes no more than `passes_lpm`; `is_too_much` where that does not keep it open.
    """

    outlet: str
    least_lpm: float | None
    passes_lpm: float
    is_too_much: bool
    asked_lpm: float
    asked_c: float | None
    goes: Words
    riser_mm: float | None


class SourceReport(Report):
    vessel: str
    comes_lpd: float | None
    needed_lpd: float
    bled_lpd: float | None
    by_plan: bool


class IceReport(Report):
    """A vessel's ice at the frost's end: least, likely and most; null where it is not solid, closed or empty.

    `left_d` is how many days what is liquid then lasts at the current draw without a refill.
    """

    vessel: str
    top_m: tuple[float, float, float]
    core_l: tuple[float, float, float]
    left_d: tuple[float, float, float] | None
    solid_s: float | None
    closed_s: float | None
    empty_s: float | None
    drawn_lpd: float
    open_lpd: float | None
    kept_open: bool


class WinterHerd(Report):
    """A herd in the frost: what one needs, and all; how far its class walks to water, how far its paddocks reach."""

    herd: str
    head: int
    each_lpd: float
    daily_l: float
    limit_m: float
    farthest_m: float | None


class WayThrough(Report):
    """One way through the winter: digging, work by hand, water, days without the line; what it means.

    `does` tells whether it is a way, null where that is not certain.
    """

    key: WayKey
    name: str
    dig_m: float
    work_h: float
    price: float | None
    water_lpd: float
    days_without: int
    stays_l: float
    does: bool | None
    means: Words


class WalkStepReport(Report):
    id: str
    told: Words
    seen: Words
    part: str | None


class WinterReport(Report):
    """The frost as it is reckoned with, and what it does: the lines that freeze first come first."""

    days: int
    degree_days: float
    depth_m: float
    source_c: float
    lines: list[LineInFrost]
    bleeds: list[BleedReport]
    sources: list[SourceReport]
    vessels: list[IceReport]
    ways: list[WayThrough]
    herds: list[WinterHerd]


class WinterAnswer(Report):
    """What the frost of a plan does, null where it has none; one to begin with; and both walks."""

    winter: WinterReport | None
    suggested: Frost
    drain: list[WalkStepReport]
    spring: list[WalkStepReport]


def winter_answer(analysis: Analysis, today: date) -> WinterAnswer:
    """Return what a frost does to a design, and how its lines are drained and started."""
    found = winter(analysis)
    return WinterAnswer(
        winter=None if found is None else _report(analysis, found),
        suggested=suggested_frost(analysis.document, today),
        drain=[_step(step) for step in drain_walk(analysis)],
        spring=[_step(step) for step in spring_walk(analysis)],
    )


def suggested_frost(design: Design, today: date) -> Frost:
    """Return the frost that a plan is asked about where nobody said one: a month in its next winter."""
    begins, ends = (BEGINS_SOUTH, ENDS_SOUTH) if design.site.is_southern else (BEGINS, ENDS)
    year = today.year if (today.month, today.day) <= begins else today.year + 1
    last = date(year + (ends < begins), *ends)
    return Frost.model_validate(
        {
            "from": date(year, *begins).isoformat(),
            "to": last.isoformat(),
            "air_c": AIR_C,
            "wind_mps": 3.0,
            "soil": "loam",
        }
    )


def _report(analysis: Analysis, found: Winter) -> WinterReport:
    ordered = sorted(found.lines, key=lambda one: (one.cold_s, one.line.id))
    return WinterReport(
        days=found.frost.days,
        degree_days=found.frost.degree_days,
        depth_m=found.depth_m,
        source_c=found.source_c,
        lines=[_line(one) for one in ordered],
        bleeds=[_bleed(analysis, one) for one in found.bleeds],
        sources=[
            SourceReport(
                vessel=one.vessel.id,
                comes_lpd=None if one.comes_m3 is None else one.comes_m3 / LITRE_M3,
                needed_lpd=one.needed_m3 / LITRE_M3,
                bled_lpd=None if one.bled_m3 is None else one.bled_m3 / LITRE_M3,
                by_plan=one.by_plan,
            )
            for one in found.sources
        ],
        vessels=[_ice(one) for one in found.vessels],
        ways=[_way(way) for way in ways(analysis, found)],
        herds=[
            WinterHerd(
                herd=walk.demand.herd.id,
                head=walk.demand.head,
                each_lpd=walk.demand.per_head_lpd,
                daily_l=walk.demand.daily_l,
                limit_m=walk.limit_m,
                farthest_m=walk.farthest_m,
            )
            for walk in found.need.walks
        ],
    )


def _line(one: LineFrost) -> LineInFrost:
    return LineInFrost(
        line=one.line.id,
        cover_m=one.line.cover_m,
        reached_s=_or_none(one.reached_s),
        cold_s=_or_none(one.cold_s),
        frozen_s=_or_none(one.frozen_s),
        riser=one.riser,
        loss_w_per_k=one.loss_wk,
    )


def _or_none(seconds: float) -> float | None:
    return seconds if math.isfinite(seconds) else None


def _bleed(analysis: Analysis, one: LineBleed) -> BleedReport:
    return BleedReport(
        outlet=one.outlet.id,
        least_lpm=None if one.least_m3s is None else lpm_from_m3s(one.least_m3s),
        passes_lpm=lpm_from_m3s(one.passes_m3s),
        is_too_much=one.is_too_much,
        asked_lpm=lpm_from_m3s(one.asked_m3s),
        asked_c=one.asked_c,
        goes=words(_goes(analysis, one)),
        riser_mm=_riser_mm(analysis, one),
    )


def _riser_mm(analysis: Analysis, one: LineBleed) -> float | None:
    """Return the bore of the riser that carries what runs, and the valve stuck open, out of what an outlet fills [mm].

    None where it fills nothing, nothing is left running, or none of those that are sold is wide enough.
    """
    bled_m3s = one.asked_m3s or one.least_m3s or 0.0
    if one.outlet.fills is None or bled_m3s <= 0.0:
        return None
    stuck_m3s = analysis.flows_alone_m3s.get(one.outlet.id, 0.0)
    return riser_bore_mm(max(bled_m3s, stuck_m3s))


def _goes(analysis: Analysis, one: LineBleed) -> Wording:
    """Return where bled water goes from an outlet."""
    vessel = analysis.model.layout.vessels.get(one.outlet.fills or "")
    if vessel is None:
        return say("It runs out where {} ends: lead it away from where animals stand.", label(one.outlet))
    if vessel.overflow_m is None:
        return say("{} has no overflow: it runs over its rim, and the ground around it turns to ice.", label(vessel))
    into = analysis.model.layout.vessels.get(vessel.overflow_into or "")
    if into is not None:
        return say("It leaves by the overflow of {} into {}.", label(vessel), label(into))
    if vessel.overflow_onto == "drain":
        return say("It leaves by the overflow of {} into a drain; a riser lagged and wide keeps open.", label(vessel))
    return say("It leaves by the overflow of {} onto the ground: mud, and ice where animals stand.", label(vessel))


def _ice(one: VesselIce) -> IceReport:
    return IceReport(
        vessel=one.vessel.id,
        top_m=(one.best.top_m, one.likely.top_m, one.worst.top_m),
        core_l=(one.worst.core_m3 / LITRE_M3, one.likely.core_m3 / LITRE_M3, one.best.core_m3 / LITRE_M3),
        left_d=one.left_d,
        solid_s=one.likely.solid_s,
        closed_s=one.likely.closed_s,
        empty_s=one.likely.empty_s,
        drawn_lpd=one.drawn_m3 / LITRE_M3,
        open_lpd=None if one.open_m3 is None else one.open_m3 / LITRE_M3,
        kept_open=one.kept_open,
    )


def _way(way: Way) -> WayThrough:
    return WayThrough(
        key=way.key, name=way.name, dig_m=way.dig_m, work_h=way.work_h, price=way.price, water_lpd=way.water_lpd,
        days_without=way.days_without, stays_l=way.stays_l, does=way.does, means=words(way.means),
    )  # fmt: skip


def _step(step: WalkStep) -> WalkStepReport:
    return WalkStepReport(id=step.step_id, told=words(step.told), seen=words(step.seen), part=step.part)
