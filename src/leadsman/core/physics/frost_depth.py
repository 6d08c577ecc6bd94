"""How deep frost goes into the ground, and how long it takes to get there."""

import math
from dataclasses import dataclass

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import DAY_S
from leadsman.core.physics.ice import MELTING_JKG, MOST_DEGREE_DAYS


@dataclass(frozen=True, kw_only=True)
class Soil:
    """What frozen soil conducts [W/mK], its dry density [kg/m3] and the water in it as a share of that."""

    conducts_wmk: float
    dry_kgm3: float
    water_share: float

    @property
    def freezing_jm3(self) -> float:
        """What a cubic metre of it gives off when its water freezes [J/m3]."""
        return self.dry_kgm3 * self.water_share * MELTING_JKG


# typical of moist soils, after M. S. Kersten 1949, Thermal properties of soils, from memory
SOILS = {
    "sand": Soil(conducts_wmk=2.2, dry_kgm3=1_700.0, water_share=0.08),
    "loam": Soil(conducts_wmk=1.8, dry_kgm3=1_500.0, water_share=0.18),
    "clay": Soil(conducts_wmk=1.5, dry_kgm3=1_400.0, water_share=0.25),
    "peat": Soil(conducts_wmk=0.8, dry_kgm3=400.0, water_share=1.5),
}


def frost_depth_m(degree_days: float, soil: Soil) -> float:
    """Return how deep bare ground freezes [m], by Stefan's formula: no heat from below, no snow, so the most.

    Args:
        degree_days: of the surface [°C·d], 0 to 20,000.
    Raises:
        OutOfRange: outside those limits or not a number.
    >>> round(frost_depth_m(200.0, SOILS["loam"]), 2)
    0.83
    """
    require_between("degree-days of frost [°C·d]", degree_days, 0.0, MOST_DEGREE_DAYS)
    return math.sqrt(2.0 * soil.conducts_wmk * DAY_S * degree_days / soil.freezing_jm3)


def degree_days_to(depth_m: float, soil: Soil) -> float:
    """Return the degree-days after which frost has reached a depth [°C·d]; the reverse of `frost_depth_m`.

    >>> round(degree_days_to(0.831, SOILS["loam"]))
    200
    """
    return depth_m**2 * soil.freezing_jm3 / (2.0 * soil.conducts_wmk * DAY_S)
