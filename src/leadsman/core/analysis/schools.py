"""Two schools of feeding a trough, side by side: a small valve that loses little, a large one that keeps up."""

from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.change import changed
from leadsman.core.analysis.leak import leak_of
from leadsman.core.analysis.watering import Watering
from leadsman.core.base.errors import UnknownName
from leadsman.core.design import FloatValveOutlet

TIMES = (("a quarter of this valve", 0.25), ("this valve", 1.0), ("four times this valve", 4.0))  # ours, no source


@dataclass(frozen=True, kw_only=True)
class School:
    """One way to feed a trough: Kv [m3/h], what it passes alone [m3/s], how the mob fares, and what a failure costs.

    `lost_m3` is what runs away when it sticks open until the next look, no more than the tanks hold and get;
    `empties_store` whether that is all of it.
    """

    title: str
    kv_m3h: float
    alone_m3s: float
    watering: Watering | None
    lost_m3: float
    empties_store: bool


def schools(analysis: Analysis, outlet_id: str) -> list[School]:
    """Return the trough of an outlet with a smaller valve, its own and a larger one, all else as drawn.

    Raises:
        UnknownName: the outlet is no float valve that draws in the chosen case.
    """
    drawing = {fed.id: fed for fed in analysis.fed_outlets if isinstance(fed, FloatValveOutlet)}
    if outlet_id not in drawing:
        raise UnknownName("float valve that draws", outlet_id, list(drawing), "/outlet")
    outlet = drawing[outlet_id]
    path = f"/outlets/{analysis.design.outlets.index(outlet)}/valve/kv_m3h"
    found = []
    for title, times in TIMES:
        kv = round(outlet.valve.kv_m3h * times, 4)
        with_valve = changed(analysis, [{"op": "replace", "path": path, "value": kv}])
        if with_valve is not None:
            found.append(_school(with_valve, outlet_id, title, kv))
    return found


def _school(analysis: Analysis, outlet_id: str, title: str, kv_m3h: float) -> School:
    outlet = next(candidate for candidate in analysis.fed_outlets if candidate.id == outlet_id)
    alone, leak = analysis.flows_alone_m3s[outlet_id], leak_of(analysis, outlet)
    watering = next(
        (candidate for candidate in analysis.waterings if outlet_id in {valve.id for valve in candidate.outlets}), None
    )
    lost, empties = (leak.lost_m3, leak.empties) if leak else (0.0, False)
    return School(title=title, kv_m3h=kv_m3h, alone_m3s=alone, watering=watering, lost_m3=lost, empties_store=empties)
