"""The blow in a line when a tap on it or behind it, or a float valve that snaps, shuts quickly."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.pressure_limit import Strain, products_at, strain
from leadsman.core.analysis.route import WayOver
from leadsman.core.analysis.running import Running
from leadsman.core.catalogue import float_valves
from leadsman.core.design import FixedOutlet, FloatValveOutlet, Line, OutletBase
from leadsman.core.physics.surge import joukowsky_pa, quick_below_s, slow_closing_pa, wave_speed_ms

SHUT_BY_HAND = ("tap_point", "isolating_valve")
SNAPS = ("pilot",)  # principles of float valves that shut at once, whatever the level does
STOPS_IN_S = 0.3  # a quarter turn, or a valve that snaps: in less nothing here is stopped; ours, no source
# a tap stops most of the flow late in its travel: water counts as stopped in this last share of an even turn; our own
# bound, which runs by the method of characteristics stay under where the open tap takes 1/400 of the fall or more
STOPS_SHARE = 0.05
SOFTER, STIFFER = 0.7, 1.5  # times the modulus assumed: plastic gives more when warm or slowly loaded; ours, no source


@dataclass(frozen=True, kw_only=True)
class Hammer:
    """What stands where a line is strained most, what a quick closing adds, and what its pipe is good for [Pa].

    `velocity_ms` is stopped in under `quick_s`; stopped evenly over `gentle_s` or more, or turned evenly over
    `turned_s`, it stays within the class (None where what stands is too much by itself, or where a float valve snaps).
    `outlet` is that float valve. `rise_range_pa` is the rise with a softer and a stiffer wall than `modulus_pa`, which
    is assumed.
    """

    velocity_ms: float
    quick_s: float
    gentle_s: float | None
    turned_s: float | None
    stands_pa: float
    rise_pa: float
    rise_range_pa: tuple[float, float]
    modulus_pa: float
    limit_pa: float
    outlet: OutletBase | None

    @property
    def pressure_pa(self) -> float:
        """What stands and the blow together [Pa]."""
        return self.stands_pa + self.rise_pa


@dataclass(frozen=True, kw_only=True)
class _Closer:
    """What shuts: how far from the vessel [m], which share of the line's flow it stops, what of the line is before it.

    `before_m` are distances along the line, from and to [m].
    """

    way_m: float
    share: float
    before_m: tuple[float, float]
    outlet: OutletBase | None = None


def hammer(running: Running, line: Line) -> Hammer | None:
    """Return the worst blow in a line, all drawing, of what can shut quickly on it or behind it.

    A float whose arm closes as the level rises closes slowly. Only what lies before a tap feels its blow, and the
    nearer it is to the vessel the sooner the wave is back.

    None where nothing shuts quickly, nothing runs, or the pipe's class or modulus is not known.
    """
    runs = running.state.lines[line.id].velocity_ms if running.state.converged else 0.0
    ways = running.ways_over[line.id]
    if runs <= 0.0 or not ways:
        return None
    blows = [blow for closer in _closers(running, line, ways) if (blow := _blow(running, line, closer, runs))]
    return max(blows, key=lambda blow: blow.pressure_pa - blow.limit_pa, default=None)


def _blow(running: Running, line: Line, closer: _Closer, runs_ms: float) -> Hammer | None:
    worst, density = strain(running, line, closer.before_m), running.model.water.density_kgm3
    pipes = _stiff_pipes(running, line, worst)
    if worst is None or not pipes:
        return None
    stopped = runs_ms * closer.share

    def rise_pa(times: float) -> tuple[float, float]:
        speed = max(wave_speed_ms(bore, wall, modulus * times, density) for bore, wall, modulus in pipes)
        slow = slow_closing_pa(closer.way_m, stopped, STOPS_IN_S, density)
        return min(joukowsky_pa(speed, stopped, density), slow), quick_below_s(closer.way_m, speed)

    (rise, quick), (least, _), (most, _) = (rise_pa(times) for times in (1.0, SOFTER, STIFFER))
    spare = worst.limit_pa - worst.pressure_pa
    slowly = spare > 0.0 and closer.outlet is None
    stops_in = max(quick, slow_closing_pa(closer.way_m, stopped, 1.0, density) / spare) if slowly else None
    return Hammer(
        velocity_ms=stopped,
        quick_s=max(quick, STOPS_IN_S),
        gentle_s=stops_in,
        turned_s=None if stops_in is None else stops_in / STOPS_SHARE,
        stands_pa=worst.pressure_pa,
        rise_pa=rise,
        rise_range_pa=(least, most),
        modulus_pa=max(modulus for _, _, modulus in pipes),
        limit_pa=worst.limit_pa,
        outlet=closer.outlet,
    )


def _stiff_pipes(running: Running, line: Line, worst: Strain | None) -> list[tuple[float, float, float]]:
    """Return bore, wall and modulus of the pipes where a line is strained most, of those whose modulus is known."""
    found = products_at(running.design, line, worst.at_m) if worst else []
    return [(pipe.bore_m, pipe.wall_m, pipe.modulus_pa) for pipe in found if pipe.modulus_pa is not None]


def _closers(running: Running, line: Line, ways: list[WayOver]) -> Iterator[_Closer]:
    whole = (0.0, line.pipe_length_m)
    leg = ways[0].route.legs[ways[0].leg]
    for part in line.inline:
        if part.kind in SHUT_BY_HAND:
            before = (0.0, part.at_m) if leg.forward else (part.at_m, whole[1])
            yield _Closer(way_m=leg.at_m(part.at_m), share=1.0, before_m=before)
    for outlet, way, at in ways:
        if running.standing.openings[outlet.id] <= 0.0:
            continue
        snaps = isinstance(outlet, FloatValveOutlet) and _snaps(outlet)
        if snaps or not isinstance(outlet, FloatValveOutlet | FixedOutlet):
            share = _share(running, line, outlet)
            yield _Closer(way_m=way.length_m, share=share, before_m=whole, outlet=outlet if snaps else None)
        for other in way.legs[at + 1 :]:
            for part in other.line.inline:
                if part.kind in SHUT_BY_HAND:
                    share = _share(running, line, outlet)
                    yield _Closer(way_m=other.at_m(part.at_m), share=share, before_m=whole)


def _share(running: Running, line: Line, outlet: OutletBase) -> float:
    """Return which share of a line's flow goes to an outlet behind it [-]."""
    through = abs(running.state.lines[line.id].flow_m3s)
    return min(1.0, running.state.outlets[outlet.id].flow_m3s / through) if through > 0.0 else 0.0


def _snaps(outlet: FloatValveOutlet) -> bool:
    product = float_valves().get(outlet.valve.product or "")
    return product is not None and product.principle in SNAPS
