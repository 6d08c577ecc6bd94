"""A pump on float switches: minutes of a run, starts an hour, and what is in hand when it cuts in."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import HOUR_S, m3s_from_lpm
from leadsman.core.design import PumpInflow, Vessel
from leadsman.core.design.store import shape_of


@dataclass(frozen=True, kw_only=True)
class PumpCycle:
    """What float switches make of a pump: volume between them [m3], a run with nothing drawn [s], starts an hour.

    `most_starts_per_h` is at the draw that makes it start most often, half of what it gives; `starts_per_h` and
    `run_s` are at the draw that is asked about. `run_s` is None where the pump never catches up.
    """

    between_m3: float
    idle_run_s: float
    run_s: float | None
    starts_per_h: float
    most_starts_per_h: float


def pump_flow_m3s(pump: PumpInflow) -> float:
    """Return what a pump gives while it runs [m3/s]: as said, else where its curve meets the lift, friction apart.

    Source: the point at which the pump's curve is as high as the lift, on a straight line between its points.
    >>> well = PumpInflow(id="p", fills="t", kind="pump", curve=[[0.0, 40.0], [30.0, 20.0]], lift_m=25.0)
    >>> round(pump_flow_m3s(well) * 60_000, 6)
    22.5
    """
    if pump.flow_lpm is not None:
        return m3s_from_lpm(pump.flow_lpm)
    flows, heads = np.array(pump.curve).T
    lift = pump.lift_m or 0.0
    if lift > heads[0]:
        return 0.0
    return m3s_from_lpm(float(np.interp(-lift, -heads, flows)))


def pump_cycle(pump: PumpInflow, vessel: Vessel, draw_m3s: float) -> PumpCycle | None:
    """Return the cycle of a pump on float switches at a steady draw [m3/s]; None where it has no switches.

    Raises:
        OutOfRange: a switch stands above the vessel's brim, or the draw is negative.
    Source: V / (q − d) full, V / d empty; a cycle is shortest at d = q / 2 (any text on pumping stations).
    """
    if pump.cut_in_m is None or pump.cut_out_m is None:
        return None
    require_between("cut-out level [m]", pump.cut_out_m, 0.0, vessel.brim_m)
    require_between("draw [m3/s]", draw_m3s, 0.0, 1e3)
    shape, flow = shape_of(vessel), pump_flow_m3s(pump)
    between = shape.volume_m3(pump.cut_out_m) - shape.volume_m3(pump.cut_in_m)
    if flow <= 0.0:
        return PumpCycle(between_m3=between, idle_run_s=np.inf, run_s=None, starts_per_h=0.0, most_starts_per_h=0.0)
    run_s = between / (flow - draw_m3s) if draw_m3s < flow else None
    starts = HOUR_S / (run_s + between / draw_m3s) if run_s is not None and draw_m3s > 0.0 else 0.0
    return PumpCycle(
        between_m3=between,
        idle_run_s=between / flow,
        run_s=run_s,
        starts_per_h=starts,
        most_starts_per_h=HOUR_S * flow / (4.0 * between),
    )
