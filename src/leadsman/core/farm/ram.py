"""A ram pump: part of a stream lifted by the fall of all of it."""

from dataclasses import dataclass

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import require_between
from leadsman.core.base.units import m3s_from_lpm, m_from_mm
from leadsman.core.design import RamSource, RamTrial
from leadsman.core.farm.spring import timed_flow_m3s

USUAL_LIFT_RATIO, MOST_LIFT_RATIO = 12.0, 25.0  # lift over fall of rams: Watt 1975, from memory
LEAST_DRIVE_BORES, MOST_DRIVE_BORES = 150.0, 1_000.0  # length of a drive pipe over its bore: Watt 1975, from memory
CURVE_POINTS = 40


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


def daubuisson_efficiency(drive_m3s: float, delivered_m3s: float, fall_m: float, lift_m: float) -> float:
    """Return the efficiency after D'Aubuisson [-]: the lift counted from the ram, of all the water.

    Source: q h / Q H; Watt 1975, from memory.
    >>> round(daubuisson_efficiency(60.0, 3.6, fall_m=2.0, lift_m=20.0), 3)
    0.6
    """
    return delivered_m3s * lift_m / (drive_m3s * fall_m)


def rankine_efficiency(drive_m3s: float, delivered_m3s: float, fall_m: float, lift_m: float) -> float:
    """Return the efficiency after Rankine [-]: the lift counted from the source, of the waste only.

    Source: q (h − H) / (Q − q) H; Watt 1975, from memory.
    >>> round(rankine_efficiency(60.0, 3.6, fall_m=2.0, lift_m=20.0), 3)
    0.574
    """
    return delivered_m3s * (lift_m - fall_m) / ((drive_m3s - delivered_m3s) * fall_m)


def ram_curve(drive_m3s: float, fall_m: float, efficiency: float) -> tuple[Floats, Floats]:
    """Return what a ram delivers [m3/s] and the head it stands against then [m above it], flows rising from 0.

    It stands against no more than 25 times its fall, and never delivers more than drives it.

    Source: q = efficiency · Q · H / h, as `ram_flow_m3s`; the greatest lift is Watt's (1975, from memory).
    >>> flows, heads = ram_curve(60 / 60_000, fall_m=2.0, efficiency=0.6)
    >>> round(float(np.interp(-20.0, -heads, flows)) * 60_000, 1), round(float(heads[0]), 1)
    (3.6, 50.0)
    """
    heads = np.geomspace(MOST_LIFT_RATIO * fall_m, efficiency * fall_m, CURVE_POINTS)
    flows = efficiency * drive_m3s * fall_m / heads
    top, bottom = heads[0] * (1.0 + 1e-6), flows[-1] * (1.0 + 1e-6)
    return np.concatenate([[0.0], flows, [bottom]]), np.concatenate([[top], heads, [0.0]])


@dataclass(frozen=True, kw_only=True)
class RamDuty:
    """What drives a ram [m3/s], and its efficiency after D'Aubuisson [-]."""

    drive_m3s: float
    efficiency: float


def trial_duty(trial: RamTrial, fall_m: float) -> RamDuty:
    """Return what a trial says: what drives the ram is its waste and what it delivers together.

    Source: volumes over times; q h / Q H (D'Aubuisson; Watt 1975, from memory).
    >>> from leadsman.core.design import Timing
    >>> trial = RamTrial(waste=Timing(volume_l=18.8, time_s=20.0), delivery=Timing(volume_l=1.2, time_s=20.0),
    ...                  lift_m=20.0)
    >>> duty = trial_duty(trial, fall_m=2.0)
    >>> round(duty.drive_m3s * 60_000, 6), round(duty.efficiency, 6)
    (60.0, 0.6)
    """
    delivered = timed_flow_m3s(trial.delivery.volume_l / 1e3, trial.delivery.time_s)
    drive = delivered + timed_flow_m3s(trial.waste.volume_l / 1e3, trial.waste.time_s)
    return RamDuty(drive_m3s=drive, efficiency=daubuisson_efficiency(drive, delivered, fall_m, trial.lift_m))


def ram_duty(source: RamSource) -> RamDuty:
    """Return what a ram does as it stands: by its last trial, else as said of it.

    Source: as `trial_duty`.
    >>> ram_duty(RamSource(id="r", place="p", kind="ram", fall_m=2.0, drive_lpm=60.0)).efficiency
    0.5
    """
    if source.trials:
        return trial_duty(source.trials[-1], source.fall_m)
    return RamDuty(drive_m3s=m3s_from_lpm(source.drive_lpm or 0.0), efficiency=source.efficiency)


def drive_pipe_lengths_m(bore_mm: float) -> tuple[float, float]:
    """Return the least and the greatest length [m] of a drive pipe of a bore [mm].

    Source: 150 to 1,000 times its bore; Watt 1975, from memory.
    >>> drive_pipe_lengths_m(50.0)
    (7.5, 50.0)
    """
    bore_m = m_from_mm(bore_mm)
    return LEAST_DRIVE_BORES * bore_m, MOST_DRIVE_BORES * bore_m
