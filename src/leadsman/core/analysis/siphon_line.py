"""A line that is declared a siphon: its crest over the water it draws, how far it may rise, and what primes it."""

from dataclasses import dataclass

from leadsman.core.analysis.profile import PipeProfile
from leadsman.core.analysis.route import Route
from leadsman.core.analysis.running import Running
from leadsman.core.base.units import head_m_from_pa
from leadsman.core.physics.siphon import DISSOLVED_AIR_MARGIN_M, crest_pressure_head_m, siphon_limit_m


@dataclass(frozen=True, kw_only=True)
class SiphonLine:
    """A siphon as it runs: heights in metres, volumes in m3.

    `lift_m` is of the crest over the water that is drawn, negative where it lies below; `limit_m` the most that
    still water could be lifted here, less a margin for the air that comes out of it; `spare_m` the pressure at the
    crest, as a height of water, over that of vapour and the margin: negative where the siphon breaks. `falling_m3`
    primes it, the leg after the crest; with a foot valve `rising_m3` more, the rising leg above the water.
    """

    line_id: str
    crest_at_m: float
    lift_m: float
    limit_m: float
    spare_m: float
    falling_m3: float
    rising_m3: float


def siphon_lines(running: Running) -> list[SiphonLine]:
    """Return each line that is declared a siphon and through which a way leads, once."""
    found: dict[str, SiphonLine] = {}
    ways = [*running.feeds, *(route for route in running.routes.values() if route)]
    for route in ways:
        for leg in route.legs:
            if leg.line.siphon and leg.line.id not in found:
                found[leg.line.id] = _siphon(running, route, leg.line.id)
    return list(found.values())


def _siphon(running: Running, route: Route, line_id: str) -> SiphonLine:
    model, profile = running.model, PipeProfile(running.model, route)
    leg = next(candidate for candidate in route.legs if candidate.line.id == line_id)
    own = [station for station in profile.stations if leg.start_m <= station[0] <= leg.end_m]
    at_m, crest_m, number = max(own, key=lambda point: point[1])
    vessel, altitude_m = route.vessel, model.layout.design.site.altitude_m
    surface_m = model.layout.floor_m(vessel) + running.standing.levels_m[vessel.id]
    full = running.state.solved.full
    head_m = full.point_head_m(number) if full.converged else None
    loss_m = max(0.0, surface_m - head_m) if head_m is not None else 0.0
    speed = float(model.along.velocities_ms(full.flows_m3s)[number]) if full.converged else 0.0
    pressure_m = crest_pressure_head_m(altitude_m, model.water, crest_m - surface_m, loss_m, speed)
    vapour_m = head_m_from_pa(model.water.vapour_pressure_pa, model.water.density_kgm3)
    return SiphonLine(
        line_id=line_id,
        crest_at_m=at_m - leg.start_m if leg.forward else leg.end_m - at_m,
        lift_m=crest_m - surface_m,
        limit_m=siphon_limit_m(altitude_m, model.water) - DISSOLVED_AIR_MARGIN_M,
        spare_m=pressure_m - vapour_m - DISSOLVED_AIR_MARGIN_M,
        falling_m3=sum(volume for _, volume in profile.pieces(at_m, leg.end_m)),
        rising_m3=profile.volume_over_m3(leg.start_m, at_m, surface_m),
    )
