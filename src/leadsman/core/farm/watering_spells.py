"""When timers water: each zone after the other, for as long as its plants need."""

from collections.abc import Sequence
from dataclasses import dataclass

from leadsman.core.design import Design, Timer
from leadsman.core.farm.growing import OtherDemand

DAY_MIN = 24 * 60


@dataclass(frozen=True, kw_only=True)
class Spell:
    """Something that runs at an outlet: minutes from midnight, `until` past 1,440 where it goes over midnight."""

    outlet: str
    since: float
    until: float
    part_id: str = ""


def zone_spells(timer: Timer, needs: Sequence[OtherDemand], design: Design, flows_lpm: dict[str, float]) -> list[Spell]:
    """Return when each zone of a timer runs, one after the other; a zone without any flow is passed over.

    Args:
        needs: what each crop needs; one on several timers has its share from each.
        flows_lpm: what each outlet gives [L/min].
    """
    crops = {crop.id: crop for crop in design.crops}
    litres = {demand.part_id: demand.daily_l for demand in needs if demand.kind == "crop"}
    at, spells = float(timer.starts_min), []
    for crop_id in timer.crops:
        crop, flow = crops[crop_id], flows_lpm.get(crops[crop_id].outlet, 0.0)
        timers = sum(crop_id in own.crops for own in design.timers)
        whole = crop.minutes_per_day or (litres[crop_id] / flow if flow > 0.0 else 0.0)
        minutes = min(whole / timers, float(DAY_MIN))
        if minutes > 0.0:
            spells.append(Spell(outlet=crop.outlet, since=at, until=at + minutes, part_id=crop_id))
            at += minutes
    return spells
