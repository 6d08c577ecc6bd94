"""The three ways through a winter side by side: buried, left running, or drained before it."""

from dataclasses import dataclass
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S, LITRE_M3, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import label
from leadsman.core.design.site_costs import digging_price
from leadsman.core.parts.work_plan import DIG_MIN_PER_M
from leadsman.core.winter.bleed import run_together
from leadsman.core.winter.walk import OPEN_MIN, drain_walk, spring_walk, walk_h, walking_h
from leadsman.core.winter.winter import Winter

SPADE_M = 0.3  # of depth, for the minutes that a metre of trench takes
SURE_SHARE = 0.7  # of the heat that is reckoned to be lost: correlations are good to 20 to 30 %

WayKey = Literal["bury", "bleed", "drain"]


@dataclass(frozen=True, kw_only=True)
class Way:
    """One way through a winter.

    `dig_m` of trench, `work_h` of one person by hand, `price` of the trench as the site has it dug, None where unknown,
    `water_lpd` that runs off, `days_without` water at the outlets, `stays_l` in low points. `does` is None where that
    is not certain.
    """

    key: WayKey
    name: str
    work_h: float
    does: bool | None
    means: Wording
    dig_m: float = 0.0
    price: float | None = None
    water_lpd: float = 0.0
    days_without: int = 0
    stays_l: float = 0.0


def ways(analysis: Analysis, found: Winter) -> list[Way]:
    """Return the three ways through a plan's winter."""
    return [_bury(analysis, found), _run(analysis, found), _drain(analysis, found)]


def _bury(analysis: Analysis, found: Winter) -> Way:
    dig_m = sum(one.line.pipe_length_m for one in found.lines if one.line.cover_m < found.depth_m)
    depth = Quantity(value=found.depth_m, unit="m")
    told = (
        say("Everything deeper than {}; what comes up to a valve needs foam and shelter. Ask what frost depth is usual "
            "where you are; call the utility locating service before digging.", depth)
        if dig_m
        else say("All pipe lies deeper than {} already.", depth)
    )  # fmt: skip
    minutes = DIG_MIN_PER_M * dig_m * max(1.0, found.depth_m / SPADE_M)
    return Way(
        key="bury", name="Buried below the frost", dig_m=dig_m, work_h=minutes / 60.0,
        price=digging_price(analysis.document, dig_m).price, does=True, means=told,
    )  # fmt: skip


def _run(analysis: Analysis, found: Winter) -> Way:
    litres = sum(one.least_m3s or 0.0 for one in found.bleeds) * DAY_S / LITRE_M3
    short = [one for one in found.sources if one.is_short]
    sure = [one for one in short if one.by_plan or SURE_SHARE * (one.bled_m3 or 0.0) > (one.spare_m3 or 0.0)]
    narrow = [one for one in found.bleeds if SURE_SHARE * (one.least_m3s or 0.0) > one.passes_m3s]
    does: bool | None = not short
    if any(one.least_m3s is None for one in found.bleeds):
        told, does = say("The source is too cold: no flow arrives above 0 °C."), False
    elif narrow:
        told, does = say("{} passes {} at most, and {} would keep it open: foam, deeper pipe or draining.",
                         label(narrow[0].outlet), _flow(narrow[0].passes_m3s), _flow(narrow[0].least_m3s or 0.0),
                         ), False  # fmt: skip
    elif not found.bled_at_once:
        told = say("All together they take more than the lines pass: foam, deeper pipe or draining for some.")
        does = None if run_together(analysis, {one.outlet.id: SURE_SHARE * (one.least_m3s or 0.0)
                                               for one in found.bleeds}) else False  # fmt: skip
    elif sure:
        told, does = say("More than {} can spare: the store runs empty, and then the lines freeze.",
                         label(sure[0].vessel)), False  # fmt: skip
    elif short:
        told, does = say("It may be more than {} can spare: what pipe loses is good to about 30 %. Time the source in "
                         "the cold, and read what arrives.", label(short[0].vessel)), None  # fmt: skip
    else:
        told = say("The source can spare it. It must not stop: a stuck valve or an empty store freezes the lines. "
                   "Look every day.")  # fmt: skip
    opened = sum(1 for one in found.bleeds if one.least_m3s != 0.0)
    work_h = 2.0 * (opened * OPEN_MIN / 60.0 + walking_h(analysis))  # set before the frost, shut after it
    return Way(key="bleed", name="Left running", work_h=work_h, water_lpd=litres, does=does, means=told)


def _flow(flow_m3s: float) -> Quantity:
    return Quantity(value=lpm_from_m3s(flow_m3s), unit="L/min", digits=2)


def _drain(analysis: Analysis, found: Winter) -> Way:
    stays = sum(one.litres for one in found.held)
    need = Quantity(value=found.need.daily_l, unit="L/d")
    told = (
        say("{} stay in low points and split the pipe there: drains first. ", Quantity(value=stays, unit="L"))
        if stays
        else say("Nothing stays in it. ")
    )
    hauled = say("No water at the outlets meanwhile: {} are hauled or drunk elsewhere.", need)
    walks = walk_h(analysis, drain_walk(analysis)) + walk_h(analysis, spring_walk(analysis))
    return Way(
        key="drain", name="Drained before it", work_h=walks, days_without=found.frost.days, stays_l=stays,
        does=stays == 0.0, means=(*told, *hauled),
    )  # fmt: skip
