"""Heights from what people have at hand: clinometer and paces, posts, barometer; and two ways weighed together."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from leadsman.core.base.errors import require_between


@dataclass(frozen=True, kw_only=True)
class MeasuredSlope:
    """A slope told as distance on plan and rise [m], with the half-width of the rise's error [m]."""

    plan_m: float
    rise_m: float
    rise_error_m: float


def clinometer_sight(
    slope_m: float, angle_deg: float, angle_error_deg: float = 1.0, slope_error: float = 0.0
) -> MeasuredSlope:
    """Return the sight of a clinometer along a slope.

    Args:
        slope_m: distance along the ground [m], 0 to 10,000 (paces times their length, posts times their spacing).
        angle_deg: up positive, −80 to 80; its error [degrees], 0 to 20; of the distance as a share, 0 to 1.
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: plane trigonometry.
    >>> sight = clinometer_sight(45.0, 6.0)
    >>> round(sight.plan_m, 3), round(sight.rise_m, 3), round(sight.rise_error_m, 3)
    (44.753, 4.704, 0.781)
    """
    require_between("slope [m]", slope_m, 0.0, 1e4)
    require_between("angle [degrees]", angle_deg, -80.0, 80.0)
    require_between("error of the angle [degrees]", angle_error_deg, 0.0, 20.0)
    require_between("error of the distance", slope_error, 0.0, 1.0)
    angle = math.radians(angle_deg)
    rise = slope_m * math.sin(angle)
    by_angle = slope_m * math.cos(angle) * math.radians(angle_error_deg)
    return MeasuredSlope(
        plan_m=slope_m * math.cos(angle), rise_m=rise, rise_error_m=math.hypot(by_angle, rise * slope_error)
    )


def barometric_rise_m(from_hpa: float, to_hpa: float, air_c: float) -> float:
    """Return the height of one place over another [m] by their air pressures, taken at one time.

    Raises:
        OutOfRange: a pressure is outside 300 to 1,100 hPa, or the temperature outside −60 to 60 °C.
    Source: the hypsometric equation for dry air, R = 287.05 J/(kg K); any text on meteorology.
    >>> round(barometric_rise_m(1013.25, 1012.25, 15.0), 2)
    8.33
    """
    for name, value in (("pressure [hPa]", from_hpa), ("pressure [hPa]", to_hpa)):
        require_between(name, value, 300.0, 1_100.0)
    require_between("air temperature [°C]", air_c, -60.0, 60.0)
    return 287.05 * (air_c + 273.15) / 9.80665 * math.log(from_hpa / to_hpa)


def without_drift_m(times_min: Sequence[float], heights_m: Sequence[float]) -> list[float]:
    """Return heights of a walk that ends where it began, the drift between both taken out evenly over the time.

    Args:
        times_min: rising, two or more [min]; heights_m: as many [m], the first and last of one place.
    Raises:
        OutOfRange: the times do not rise.
    """
    span = times_min[-1] - times_min[0]
    require_between("time of the walk [min]", span, 1e-9, 1e6)
    drift = heights_m[-1] - heights_m[0]
    return [height - drift * (time - times_min[0]) / span for time, height in zip(times_min, heights_m, strict=True)]


def weighed_m(ways: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """Return the height [m] of several ways, each with the half-width of its error [m, above 0], and its own error.

    Each counts by the inverse square of its error; where they disagree by more than their errors together explain,
    the error that is given is half of what lies between them.
    Source: the weighted mean; any text on the adjustment of observations.
    """
    for _, error in ways:
        require_between("error [m]", error, 1e-6, 1e4)
    weights = [error**-2 for _, error in ways]
    mean = sum(weight * height for weight, (height, _) in zip(weights, ways, strict=True)) / sum(weights)
    heights = [height for height, _ in ways]
    apart = (max(heights) - min(heights)) / 2.0
    agree = all(abs(height - mean) <= error for height, error in ways)
    return mean, sum(weights) ** -0.5 if agree else max(apart, sum(weights) ** -0.5)
