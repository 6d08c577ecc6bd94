"""What plants, ponds and carried troughs need in a day of a scenario."""

from dataclasses import dataclass
from datetime import date

from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.units import DAY_S, LITRE_M3, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import Crop, Design, OutletBase, PondLoss, Scenario, Vessel, label
from leadsman.core.design.store import shape_of
from leadsman.core.farm.evapotranspiration import hargreaves_mm
from leadsman.core.farm.moving import Moving, movings

DRIP_SHARE = 0.9  # of the water gets to the roots: typical of drip, from memory
PAN_FACTOR = 0.7  # pond over pan: typical, from memory
USUAL_SPREAD_C = 12.0  # between the day's least and greatest temperature where the least is unknown; ours, no source
DAYS_A_WEEK = 7.0


@dataclass(frozen=True, kw_only=True)
class OtherDemand:
    """What something other than animals needs [L/d], where, and how that is found.

    `kind` is crop (at its outlet), pond (at its vessel), move (thrown away where the trough goes to, with `herd`), or
    leak (what runs over at a valve that the case holds open).
    """

    kind: str
    part_id: str
    name: str
    where: str
    daily_l: float
    how: Wording
    herd: str | None = None


def reference_mm(design: Design, scenario: Scenario) -> float:
    """Return reference evapotranspiration [mm/d] of a scenario: its own figure, else by the day's temperatures.

    Raises:
        OutOfRange: neither the figure nor the day and the site's latitude are given.
    Source: as `hargreaves_mm`, with our usual spread of a day's temperatures where its least is unknown.
    >>> reference_mm(Design.model_construct(), Scenario(id="hot", et0_mm_d=5.5))
    5.5
    """
    if scenario.et0_mm_d is not None:
        return scenario.et0_mm_d
    if scenario.date is None or design.site.latitude_deg is None:
        missing = "/site/latitude_deg" if scenario.date is not None else "/scenarios"
        raise OutOfRange("et0_mm_d, or the day and the site's latitude,", float("nan"), 0.0, 25.0, missing)
    least_c = scenario.air_c - USUAL_SPREAD_C if scenario.least_air_c is None else scenario.least_air_c
    day = date.fromisoformat(scenario.date)
    return hargreaves_mm(min(least_c, scenario.air_c), scenario.air_c, design.site.latitude_deg, day)


def other_demands(design: Design, scenario: Scenario, flows_lpm: dict[str, float]) -> list[OtherDemand]:
    """Return what every crop and pond needs, and what is thrown away when troughs are moved.

    Args:
        flows_lpm: what each outlet gives [L/min], for crops that are watered by the minute.
    Raises: as `reference_mm` does, where a crop is watered by its area.
    """
    vessels = {vessel.id: vessel for vessel in design.vessels}
    needs = [_crop(design, crop, scenario, flows_lpm) for crop in design.crops]
    needs += [pond_demand(pond, vessels[pond.vessel]) for pond in design.ponds]
    return needs + [_move(moving) for moving in movings(design, scenario.date)]


def leak_demand(outlet: OutletBase, flow_m3s: float, used_l: float) -> OtherDemand:
    """Return what runs over in a day at a float valve that a case holds open: its flow less what is used there."""
    litres = max(flow_m3s * DAY_S / LITRE_M3 - used_l, 0.0)
    how = say("{} all day, less what is used there", Quantity(value=lpm_from_m3s(flow_m3s), unit="L/min"))
    return OtherDemand(
        kind="leak", part_id=outlet.id, name=f"{label(outlet)}, stuck open", where=outlet.id, daily_l=litres, how=how
    )


def _crop(design: Design, crop: Crop, scenario: Scenario, flows_lpm: dict[str, float]) -> OtherDemand:
    share = crop.applied_share or DRIP_SHARE
    if crop.litres_lpd is not None:
        litres, how = crop.litres_lpd, say("your own figure")
    elif crop.plants is not None and (each := crop.litres_each_on(scenario.date)) is not None:
        litres = crop.plants * each
        how = say(f"{crop.plants} plants, own figure per plant")
    elif crop.area_m2 is not None and crop.crop_factor is not None:
        et0 = reference_mm(design, scenario)
        litres = et0 * crop.crop_factor * crop.area_m2 / share  # a millimetre on a square metre is a litre
        how = say(
            f"{{}} of reference evapotranspiration, crop factor {crop.crop_factor:g}, {share:.0%} to the roots",
            Quantity(value=et0, unit="mm rain"),
        )
    else:
        minutes = crop.minutes_per_day or 0.0
        litres = minutes * flows_lpm.get(crop.outlet, 0.0)
        how = say("{} at the outlet's flow", Quantity(value=minutes, unit="min"))
    return OtherDemand(kind="crop", part_id=crop.id, name=label(crop), where=crop.outlet, daily_l=litres, how=how)


def surface_m2(pond: PondLoss, vessel: Vessel) -> float:
    """Return the surface of a pond that air and ground take water from [m2], as it stands.

    Source: its own figure, else the vessel's shape at its level.
    >>> box = {"kind": "box", "length_m": 5.0, "width_m": 4.0, "height_m": 1.0}
    >>> surface_m2(PondLoss(vessel="p"), Vessel.model_validate({"id": "p", "place": "q", "shape": box, "level_m": 0.8}))
    20.0
    """
    shape = shape_of(vessel)
    return shape.surface_m2(min(vessel.level_m, shape.height_m)) if pond.area_m2 is None else pond.area_m2


def evaporated_mm(pond: PondLoss) -> float:
    """Return what the air takes of a pond in a day [mm]: its own figure, else the pan's times its factor.

    Source: a pan over a pond, 0.7 where nothing is said (typical, from memory).
    >>> evaporated_mm(PondLoss(vessel="p", pan_mm_d=8.0)), evaporated_mm(PondLoss(vessel="p", evaporation_mm_d=3.0))
    (5.6, 3.0)
    """
    by_pan = (pond.pan_mm_d or 0.0) * (pond.pan_factor or PAN_FACTOR)
    return by_pan if pond.evaporation_mm_d is None else pond.evaporation_mm_d


def pond_demand(pond: PondLoss, vessel: Vessel) -> OtherDemand:
    """Return what a vessel under the sky loses in a day, at the surface and volume that it has as it stands.

    Source: depth times surface; a share of the volume for changes of water.
    >>> box = {"kind": "box", "length_m": 5.0, "width_m": 4.0, "height_m": 1.0}
    >>> pond = Vessel.model_validate({"id": "pond", "place": "here", "shape": box, "level_m": 0.8})
    >>> pond_demand(PondLoss(vessel="pond", evaporation_mm_d=6.0), pond).daily_l
    120.0
    """
    shape, area_m2, evaporated = shape_of(vessel), surface_m2(pond, vessel), evaporated_mm(pond)
    lost = (evaporated + pond.seepage_mm_d) * area_m2
    changed = pond.change_percent_week / 100.0 / DAYS_A_WEEK * shape.volume_m3(vessel.level_m) / LITRE_M3
    how = say(
        "{} to the air and {} to the ground on {}",
        Quantity(value=evaporated, unit="mm rain"),
        Quantity(value=pond.seepage_mm_d, unit="mm rain"),
        Quantity(value=area_m2, unit="m²"),
    )
    return OtherDemand(
        kind="pond",
        part_id=vessel.id,
        name=label(vessel),
        where=vessel.id,
        daily_l=lost + changed + pond.discharge_lpd,
        how=how,
    )


def _move(moving: Moving) -> OtherDemand:
    times = "once" if moving.moves == 1 else f"{moving.moves} times"
    how = say(f"thrown away as it is moved {times} with {{}}", label(moving.herd))
    if moving.minutes is not None:
        how = say("{}, {} of work", how, Quantity(value=moving.minutes, unit="min"))
    return OtherDemand(
        kind="move",
        part_id=moving.vessel.id,
        name=label(moving.vessel),
        where=moving.outlet,
        daily_l=moving.thrown_l,
        how=how,
        herd=moving.herd.id,
    )
