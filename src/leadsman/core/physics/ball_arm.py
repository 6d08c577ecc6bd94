"""A float on an arm that shuts a valve against the pressure: what it can hold shut, and how deep it sinks."""

import math
from dataclasses import dataclass

from leadsman.core.base.bisection import reached_at
from leadsman.core.base.errors import require_between
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.physics.fittings import bore_area_m2

WELL_SUNK = 0.5  # share of a float under water that leaves it some to spare; ours, no source


@dataclass(frozen=True, kw_only=True)
class BallArm:
    """A round float of a diameter [m] and mass [kg, its arm's counted at the float] that presses on a seat [m].

    Arms [m] are from the pin: to the plunger over the seat, and to the middle of the float.

    Raises:
        OutOfRange: a figure is not positive, or the float's arm is the shorter one.
    """

    seat_bore_m: float
    valve_arm_m: float
    float_arm_m: float
    float_kg: float
    float_diameter_m: float

    def __post_init__(self) -> None:
        require_between("seat bore [m]", self.seat_bore_m, 1e-4, 1.0)
        require_between("arm to the valve [m]", self.valve_arm_m, 1e-4, 1.0)
        require_between("arm to the float [m]", self.float_arm_m, self.valve_arm_m, 10.0)
        require_between("mass of the float [kg]", self.float_kg, 0.0, 100.0)
        require_between("diameter of the float [m]", self.float_diameter_m, 1e-3, 2.0)

    def float_force_n(self, gauge_pressure_pa: float) -> float:
        """Return the force [N] at the float that holds the valve shut against a pressure [Pa, gauge, 0 or more].

        >>> arms = {"valve_arm_m": 0.015, "float_arm_m": 0.3}
        >>> arm = BallArm(seat_bore_m=0.006, **arms, float_kg=0.2, float_diameter_m=0.115)
        >>> round(arm.float_force_n(300e3), 3)
        0.424
        """
        require_between("pressure [Pa]", gauge_pressure_pa, 0.0, 1e8)
        return gauge_pressure_pa * bore_area_m2(self.seat_bore_m) * self.valve_arm_m / self.float_arm_m

    def greatest_pressure_pa(self, density_kgm3: float, sunk: float = WELL_SUNK) -> float:
        """Return the pressure [Pa, gauge] that the float holds shut when so much of it [-, 0 to 1] is under water.

        0 where it does not carry its own weight.
        >>> arms = {"valve_arm_m": 0.015, "float_arm_m": 0.3}
        >>> arm = BallArm(seat_bore_m=0.006, **arms, float_kg=0.2, float_diameter_m=0.115)
        >>> round(arm.greatest_pressure_pa(998.2) / 1e3, -1)
        1370.0
        """
        require_between("share of the float under water", sunk, 0.0, 1.0)
        volume_m3 = math.pi / 6.0 * self.float_diameter_m**3 * sunk
        spare_n = (density_kgm3 * volume_m3 - self.float_kg) * GRAVITY_MS2
        return max(0.0, spare_n) * self.float_arm_m / self.valve_arm_m / bore_area_m2(self.seat_bore_m)

    def sinks_m(self, gauge_pressure_pa: float, density_kgm3: float) -> float | None:
        """Return how deep the float sinks [m] to hold a pressure [Pa, gauge]; None where it goes under.

        >>> arms = {"valve_arm_m": 0.015, "float_arm_m": 0.3}
        >>> arm = BallArm(seat_bore_m=0.006, **arms, float_kg=0.2, float_diameter_m=0.115)
        >>> round(arm.sinks_m(300e3, 998.2) * 1e3, 2)
        42.27
        """
        wanted_m3 = (self.float_force_n(gauge_pressure_pa) / GRAVITY_MS2 + self.float_kg) / density_kgm3
        radius = self.float_diameter_m / 2.0

        def cap_m3(depth: float) -> float:
            return math.pi * depth**2 * (3.0 * radius - depth) / 3.0

        if cap_m3(2.0 * radius) < wanted_m3:
            return None
        return reached_at(cap_m3, wanted_m3, 0.0, 2.0 * radius)
