"""The blow in a line when a tap on it, or at its end, is shut quickly."""

from dataclasses import dataclass

from leadsman.core.analysis.pressure_limit import products_at, strain
from leadsman.core.analysis.running import Running
from leadsman.core.design import FixedOutlet, FloatValveOutlet, Line
from leadsman.core.physics.surge import joukowsky_pa, quick_below_s, rigid_column_pa, wave_speed_ms

SHUT_BY_HAND = ("tap_point", "isolating_valve")


@dataclass(frozen=True, kw_only=True)
class Hammer:
    """What stands where a line is strained most, what a quick closing adds, and what its pipe is good for [Pa].

    `velocity_ms` is stopped in under `quick_s`; closed over `gentle_s` or more it stays within the class (None where
    what stands is too much by itself).
    """

    velocity_ms: float
    quick_s: float
    gentle_s: float | None
    stands_pa: float
    rise_pa: float
    limit_pa: float

    @property
    def pressure_pa(self) -> float:
        """What stands and the blow together [Pa]."""
        return self.stands_pa + self.rise_pa


def hammer(running: Running, line: Line) -> Hammer | None:
    """Return the blow in a line, all drawing, when what runs in it is stopped at once.

    None where nothing on it or behind it is shut by hand (a float closes slowly), nothing runs, or its pipe's class or
    modulus is not known.
    """
    runs = running.state.lines[line.id].velocity_ms if running.state.converged else 0.0
    worst, density = strain(running, line), running.model.water.density_kgm3
    if worst is None or runs <= 0.0 or not _shut_by_hand(running, line):
        return None
    pipes = [pipe for pipe in products_at(running.design, line, worst.at_m) if pipe.modulus_pa is not None]
    if not pipes:
        return None
    speed = max(wave_speed_ms(pipe.bore_m, pipe.wall_m, pipe.modulus_pa or 0.0, density) for pipe in pipes)
    length = max((route.length_m for route in running.routes.values() if route and line in route.lines), default=0.0)
    rise = joukowsky_pa(speed, runs, density)
    spare = worst.limit_pa - worst.pressure_pa
    quick = quick_below_s(length, speed)
    gentle = max(quick, rigid_column_pa(length, runs, 1.0, density) / spare) if spare > 0.0 else None
    return Hammer(
        velocity_ms=runs,
        quick_s=quick,
        gentle_s=gentle,
        stands_pa=worst.pressure_pa,
        rise_pa=rise,
        limit_pa=worst.limit_pa,
    )


def _shut_by_hand(running: Running, line: Line) -> bool:
    if any(part.kind in SHUT_BY_HAND for part in line.inline):
        return True
    behind = [
        outlet
        for outlet in running.fed_outlets
        if (route := running.routes[outlet.id]) is not None and line in route.lines
    ]
    return any(not isinstance(outlet, FloatValveOutlet | FixedOutlet) for outlet in behind)
