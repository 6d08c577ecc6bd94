"""Runoff of rain from a roof, less the first rain lost and what the first-flush diverter keeps."""

import math

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import require_between
from leadsman.core.base.units import HOUR_S, LITRE_M3, m_from_mm
from leadsman.core.design import RainInflow

DAY_MIN = 24 * 60
WET_FROM_MM = 0.1  # less in a day is a dry one: the usual least reading of a gauge, from memory


def plan_area_m2(roof: RainInflow) -> float:
    """Return the area of a roof seen from above [m2]: as given, by its lengths, or of the polygon of its corners.

    Source: the shoelace formula, any geometry text.
    >>> corners = [[0.0, 0.0], [8.0, 0.0], [8.0, 5.0], [0.0, 5.0]]
    >>> plan_area_m2(RainInflow(id="r", fills="t", kind="rain", corners=corners))
    40.0
    """
    if roof.area_m2 is not None:
        return roof.area_m2
    if roof.length_m is not None and roof.width_m is not None:
        return roof.length_m * roof.width_m
    east, north = (np.array([corner[axis] for corner in roof.corners]) for axis in (0, 1))
    return abs(float(east @ np.roll(north, -1) - north @ np.roll(east, -1))) / 2.0


def runoff_m3(
    rain_mm: Floats, area_m2: float, coefficient: float, first_loss_mm: float = 0.0, first_flush_m3: float = 0.0,
    weep_m3: float = 0.0,
) -> Floats:  # fmt: skip
    """Return what each day's rain brings to the vessel [m3], shape (days,).

    Args:
        rain_mm: rain of each day [mm], not negative.
        area_m2: of the roof seen from above, 0 to 1e6.
        coefficient: runoff as a share of the rain [-], 0 to 1.
        first_loss_mm: lost on the roof on every wet day [mm], 0 to 100.
        first_flush_m3: kept back from the first rain after a dry day [m3]; the diverter has leaked empty by then.
        weep_m3: runs away through that weep on every wet day [m3].
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: area × coefficient × (rain − first loss); coefficients of Gould & Nissen-Petersen 1999, from memory.
    >>> runoff_m3(np.array([4.0]), area_m2=60.0, coefficient=0.85, first_loss_mm=0.5).round(4).tolist()
    [0.1785]
    """
    require_between("area [m2]", area_m2, 0.0, 1e6)
    require_between("coefficient", coefficient, 0.0, 1.0)
    require_between("first loss [mm]", first_loss_mm, 0.0, 100.0)
    require_between("first flush [m3]", first_flush_m3, 0.0, 1e6)
    require_between("weep [m3]", weep_m3, 0.0, 1e6)
    ran = np.maximum(rain_mm - first_loss_mm, 0.0) * m_from_mm(1.0) * area_m2 * coefficient
    dry_before = np.concatenate([[True], rain_mm[:-1] < WET_FROM_MM])
    lost = weep_m3 + np.where(dry_before, first_flush_m3, 0.0)
    return np.asarray(np.maximum(ran - lost, 0.0))


def roof_daily_m3(roof: RainInflow, rain_mm: Floats) -> Floats:
    """Return what a roof of the design brings on each day [m3]; no more than its gutter carries all day.

    Source: as `runoff_m3`; a gutter full all day carries its flow times 1,440 min.
    >>> shed = RainInflow(id="r", fills="t", kind="rain", area_m2=100.0, coefficient=0.9, gutter_lpm=2.0)
    >>> roof_daily_m3(shed, np.array([10.5, 90.5])).round(3).tolist()
    [0.9, 2.88]
    """
    flush, weep = roof.first_flush_l * LITRE_M3, roof.weep_lpd * LITRE_M3
    brought = runoff_m3(rain_mm, plan_area_m2(roof), roof.coefficient, roof.first_loss_mm, flush, weep)
    carried = math.inf if roof.gutter_lpm is None else roof.gutter_lpm * LITRE_M3 * DAY_MIN
    return np.minimum(brought, carried)


def storm_m3s(area_m2: float, coefficient: float, intensity_mm_h: float) -> float:
    """Return the flow of a storm off a roof [m3/s]: what gutter, links and overflow must carry.

    Source: the rational formula, any hydrology text.
    >>> round(storm_m3s(100.0, 0.9, 100.0) * 1_000, 3)
    2.5
    """
    require_between("intensity [mm/h]", intensity_mm_h, 0.0, 1_000.0)
    return area_m2 * coefficient * m_from_mm(intensity_mm_h) / HOUR_S
