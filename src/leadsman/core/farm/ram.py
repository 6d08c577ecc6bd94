"""A ram pump: part of a stream lifted by the fall of all of it."""

from leadsman.core.base.errors import require_between


def ram_flow_m3s(drive_m3s: float, fall_m: float, lift_m: float, efficiency: float) -> float:
    """Return what a ram delivers [m3/s]; the rest of what drives it is waste.

    Args:
        drive_m3s: all the water that comes to it [m3/s], not negative.
        fall_m: down to it [m], above 0; lift_m: above it [m], above 0.
        efficiency: q h over Q H (D'Aubuisson), 0 to 1.
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: q = efficiency · Q · H / h; Watt 1975, from memory.
    >>> round(ram_flow_m3s(60 / 60_000, fall_m=2.0, lift_m=20.0, efficiency=0.6) * 60_000, 6)
    3.6
    """
    require_between("drive flow [m3/s]", drive_m3s, 0.0, 1e3)
    require_between("fall [m]", fall_m, 1e-6, 1e3)
    require_between("lift [m]", lift_m, 1e-6, 1e4)
    require_between("efficiency", efficiency, 0.0, 1.0)
    return min(efficiency * drive_m3s * fall_m / lift_m, drive_m3s)


def ram_ratio(fall_m: float, lift_m: float) -> float:
    """Return how many times its fall [m, above 0] a ram lifts [m].

    Source: lift above the ram over fall to it.
    >>> ram_ratio(fall_m=2.0, lift_m=20.0)
    10.0
    """
    require_between("fall [m]", fall_m, 1e-6, 1e3)
    return lift_m / fall_m


def rankine_efficiency(drive_m3s: float, delivered_m3s: float, fall_m: float, lift_m: float) -> float:
    """Return the efficiency after Rankine [-]: the lift counted from the source, of the waste only.

    Source: q (h − H) / (Q − q) H; Watt 1975, from memory.
    >>> round(rankine_efficiency(60.0, 3.6, fall_m=2.0, lift_m=20.0), 3)
    0.574
    """
    return delivered_m3s * (lift_m - fall_m) / ((drive_m3s - delivered_m3s) * fall_m)
