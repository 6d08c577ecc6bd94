"""What the plan knows of a vessel whose level is read, and what a dipstick says of a leak."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from math import hypot

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.downstream import drawing_from
from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import PumpInflow, RamInflow, SpringInflow, Vessel
from leadsman.core.design.store import shape_of
from leadsman.core.field.entry import LogEntry, standing
from leadsman.core.field.level_series import Store

STICK_ERROR_M = 0.005  # of a reading at a stick; typical, ours
NUDGE_M = 0.01
SURELY = 2.0  # errors that a fall has to be over


def store_known(analysis: Analysis, vessel: Vessel) -> Store:
    """Return what is known of a vessel by its plan; stores of one system share what comes in by their areas."""
    inflows = [one for one in analysis.document.inflows if one.fills == vessel.id]
    pumps = [one for one in inflows if isinstance(one, PumpInflow)]
    system = analysis.system_of(vessel.id)
    bringing = list(inflows) if system is None or vessel not in system.stores else list(system.inflows)
    steady = all(isinstance(one, SpringInflow | RamInflow) for one in bringing)
    share = store_share(analysis, vessel) if bringing != inflows else 1.0
    brought = share * sum(analysis.brings_m3.get(one.id, 0.0) for one in bringing) / DAY_S
    stops = [one.cut_out_m for one in pumps if one.cut_out_m is not None]
    drawn = sum(analysis.flows_alone_m3s[outlet] for outlet in drawing_from(analysis, vessel.id))
    flow_in = sum(one.flow_lpm or 0.0 for one in pumps) * LITRE_M3 / 60.0
    return Store(
        area_m2=area_m2(vessel),
        most_m3s=drawn + flow_in + brought,
        comes_m3s=brought if steady else None,
        full_m=vessel.brim_m if vessel.overflow_m is None else vessel.overflow_m,
        stops_m=max(stops, default=None),
    )


def store_share(analysis: Analysis, vessel: Vessel) -> float:
    """Return what share of its system's water a vessel holds [0 to 1], by the areas of its stores: all fill at once."""
    system = analysis.system_of(vessel.id)
    if system is None or vessel not in system.stores:
        return 1.0
    return area_m2(vessel) / sum(area_m2(store) for store in system.stores)


def area_m2(vessel: Vessel) -> float:
    """Return the area of the water of a vessel as it stands [m2], of all of its containers."""
    shape, level = shape_of(vessel), min(max(vessel.level_m, NUDGE_M), vessel.brim_m - NUDGE_M)
    return (shape.volume_m3(level + NUDGE_M) - shape.volume_m3(level - NUDGE_M)) / (2.0 * NUDGE_M)


@dataclass(frozen=True, kw_only=True)
class StickLeak:
    """What went out of a vessel between two readings at a stick, with nobody drinking: litres an hour and its error."""

    part: str
    until: datetime
    lph: float
    error_lph: float
    told: Wording


def stick_leak(analysis: Analysis, entries: Iterable[LogEntry], vessel: Vessel) -> StickLeak | None:
    """Return the leak that the newest two dipstick readings say, the later one noted as with nobody drinking.

    None where there are no such two, or where the fall is within the errors of the stick.
    """
    own = sorted(
        (one for one in standing(entries) if one.kind == "level" and one.part == vessel.id),
        key=lambda one: one.happened_at,
    )
    if len(own) < 2 or own[-1].figures.get("quiet") is not True:
        return None
    first, last = own[-2], own[-1]
    hours = (last.happened_at - first.happened_at).total_seconds() / HOUR_S
    if hours <= 0.0:
        return None
    store = store_known(analysis, vessel)
    fall_m = float(first.figures["level_m"]) - float(last.figures["level_m"])
    comes_lph = (store.comes_m3s or 0.0) * HOUR_S / LITRE_M3
    lph = fall_m * store.area_m2 / LITRE_M3 / hours + comes_lph
    error = hypot(STICK_ERROR_M, STICK_ERROR_M) * store.area_m2 / LITRE_M3 / hours
    if lph <= SURELY * error:
        return None
    told = say(
        "{} an hour went in {} hours though nobody drank, ± {}: the tank leaks, or a line does. Shut its outlet and "
        "read again: it tells which.",
        Quantity(value=lph, unit="L"), f"{hours:.1f}", Quantity(value=error, unit="L"),
    )  # fmt: skip
    return StickLeak(part=vessel.id, until=last.happened_at, lph=lph, error_lph=error, told=told)
