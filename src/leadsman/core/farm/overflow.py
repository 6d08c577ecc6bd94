"""What an overflow carries, and what may come into a vessel at once."""

import math

import numpy as np

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import DAY_S, GRAVITY_MS2, m3s_from_lpm, m_from_mm
from leadsman.core.design import (
    HaulInflow,
    InflowBase,
    PumpInflow,
    RainInflow,
    Scenario,
    SpringInflow,
    SteadyInflow,
    Vessel,
)
from leadsman.core.farm.inflow import daily_m3
from leadsman.core.farm.pump_cycle import pump_flow_m3s
from leadsman.core.farm.rain import plan_area_m2, storm_m3s
from leadsman.core.farm.spring import greatest_flow_m3s

DISCHARGE_COEFFICIENT = 0.6
STORM_MM_H = 100.0  # where nothing is said; typical of a short storm, from memory: see your own country's tables
ANY = Scenario(id="any")
QUADRATURE = np.polynomial.legendre.leggauss(32)


def overflow_m3s(bore_m: float, head_m: float, discharge_coefficient: float = DISCHARGE_COEFFICIENT) -> float:
    """Return what a round overflow in a wall carries [m3/s] with the water standing over its lowest point.

    Args:
        bore_m: its inner diameter [m], above 0 to 2.
        head_m: water over its lowest point [m], 0 to 10; under its bore it runs part-full.
        discharge_coefficient: contraction and friction together [-], 0 to 1.
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: Torricelli's velocity over every strip of the opening that is under water, as sharp-crested weirs are worked
        out in Streeter and Wylie, Fluid Mechanics, chapter on flow measurement (from memory).
    >>> round(overflow_m3s(0.05, 1.025) * 60_000, 1)
    313.0
    """
    require_between("bore [m]", bore_m, 1e-4, 2.0)
    require_between("head [m]", head_m, 0.0, 10.0)
    require_between("discharge coefficient", discharge_coefficient, 0.0, 1.0)
    radius, top = bore_m / 2.0, min(head_m, bore_m)
    nodes, weights = QUADRATURE
    # heights by the angle from the centre, so that the strips' widths run smoothly to nothing at the ends
    end = math.acos(max(-1.0, min(1.0, 1.0 - top / radius)))
    angle = (nodes + 1.0) * end / 2.0
    height = radius * (1.0 - np.cos(angle))
    strips = 2.0 * (radius * np.sin(angle)) ** 2 * np.sqrt(2.0 * GRAVITY_MS2 * np.maximum(head_m - height, 0.0))
    return float(discharge_coefficient * (strips @ weights) * end / 2.0)


def overflow_capacity_m3s(vessel: Vessel) -> float | None:
    """Return what a vessel's overflow carries with the water at its rim [m3/s]; None where its bore is unknown.

    Source: as `overflow_m3s`, with the water at the rim.
    >>> shape = {"kind": "box", "length_m": 2.0, "width_m": 2.0, "height_m": 2.0}
    >>> tank = Vessel.model_validate(
    ...     {"id": "t", "place": "p", "shape": shape, "level_m": 1.0, "overflow_m": 1.9, "overflow_mm": 50.0})
    >>> overflow_capacity_m3s(tank) == overflow_m3s(0.05, 2.0 - 1.9)
    True
    """
    if vessel.overflow_mm is None or vessel.overflow_m is None:
        return None
    return overflow_m3s(m_from_mm(vessel.overflow_mm), vessel.shape.inside_m - vessel.overflow_m)


def greatest_inflow_m3s(inflow: InflowBase) -> float:
    """Return the most that an inflow brings at one time [m3/s]: in a storm, while a pump runs.

    Source: of a roof as `storm_m3s`, no more than its gutter carries; of the others their own flow.
    >>> roof = RainInflow(
    ...     id="r", fills="t", kind="rain", area_m2=100.0, coefficient=0.9, storm_mm_h=100.0, gutter_lpm=120.0)
    >>> round(greatest_inflow_m3s(roof) * 60_000, 6)
    120.0
    """
    match inflow:
        case RainInflow():
            storm = storm_m3s(plan_area_m2(inflow), inflow.coefficient, inflow.storm_mm_h or STORM_MM_H)
            return storm if inflow.gutter_lpm is None else min(storm, m3s_from_lpm(inflow.gutter_lpm))
        case SpringInflow():
            return greatest_flow_m3s(inflow)
        case PumpInflow():
            return pump_flow_m3s(inflow)
        case SteadyInflow():
            return m3s_from_lpm(inflow.flow_lpm)
        case HaulInflow():
            return 0.0  # somebody stands by
    return daily_m3(inflow, ANY) / DAY_S
