"""A float-valve vessel filling from its level to full, while the tank that feeds it sinks."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from leadsman.core.design import FloatValveOutlet, Vessel
from leadsman.core.filling import time_to_level_s
from leadsman.core.layout import Layout
from leadsman.core.outlet import FULLY_OPEN, float_valve
from leadsman.core.route import Route
from leadsman.core.route_flow import open_to_air, steady_flow_m3s
from leadsman.core.store import shape_of
from leadsman.core.units import DAY_S
from leadsman.core.vessel import level_m

LONGEST_REFILL_S = 10 * DAY_S


@dataclass(frozen=True)
class Refill:
    """Volume lacking [m3], and the time it takes [s]: None where the vessel never gets there."""

    vessel: Vessel
    full_level_m: float
    volume_m3: float
    time_s: float | None


def refill(outlet: FloatValveOutlet, vessel: Vessel, route: Route, layout: Layout, altitude_m: float) -> Refill:
    """Return the refill of the vessel that an outlet fills by a route.

    The tank sinks by what leaves it; what refills the tank meanwhile is left out. The way is taken in two
    parts, with the valve open and with it closing, so that neither has a corner for the integrator.
    """
    valve, trough = float_valve(outlet), shape_of(vessel)
    full_m = min(valve.full_level_m, vessel.brim_m)
    if vessel.level_m >= full_m:
        return Refill(vessel, full_m, 0.0, 0.0)
    inflow = _inflow(outlet, vessel, route, layout, altitude_m)
    corner_m = min(max(valve.closes_at_m - valve.band_m, vessel.level_m), full_m)
    open_s = time_to_level_s(
        trough, vessel.level_m, corner_m, lambda level: inflow(level, FULLY_OPEN), LONGEST_REFILL_S
    )
    closing_s = time_to_level_s(
        trough, corner_m, full_m, lambda level: inflow(level, valve.opening(level)), LONGEST_REFILL_S
    )
    volume_m3 = trough.volume_m3(full_m) - trough.volume_m3(vessel.level_m)
    return Refill(vessel, full_m, volume_m3, None if open_s is None or closing_s is None else open_s + closing_s)


def _inflow(
    outlet: FloatValveOutlet, vessel: Vessel, route: Route, layout: Layout, altitude_m: float
) -> Callable[[float, float], float]:
    """Return the flow [m3/s] into the vessel at its level [m] and an opening of the valve [-]."""
    trough, tank = shape_of(vessel), shape_of(route.vessel)
    both_m3 = tank.volume_m3(route.vessel.level_m) + trough.volume_m3(vessel.level_m)
    outlet_m, tank_floor_m = layout.outlet_height_m(outlet), layout.floor_m(route.vessel)
    near_m3s: float | None = None

    def inflow_m3s(level: float, opening: float) -> float:
        nonlocal near_m3s
        tank_level = level_m(tank, max(0.0, both_m3 - trough.volume_m3(level)))
        if tank_level <= route.vessel.outlet_m:
            return 0.0
        now = replace(route, surface_m=tank_floor_m + tank_level)
        near_m3s, _ = steady_flow_m3s(now, outlet, outlet_m, opening, near_m3s)
        below = open_to_air(now, near_m3s, altitude_m)
        return near_m3s if below is None else below.used_m3s

    return inflow_m3s
