"""How high water can be drawn over a crest, and what must be filled before it runs."""

from leadsman.core.base.errors import require_between
from leadsman.core.base.units import GRAVITY_MS2, head_m_from_pa
from leadsman.core.physics.water import Water, atmospheric_pressure_pa

DISSOLVED_AIR_MARGIN_M = 1.0  # by which a siphon stays under its limit, as air comes out of the water; ours, no source


def siphon_limit_m(altitude_m: float, water: Water) -> float:
    """Return the height [m] over its own level at which still water would boil: no siphon reaches it.

    Args:
        altitude_m: of the water's surface [m], as `atmospheric_pressure_pa` takes it.
    Raises:
        OutOfRange: the altitude is outside its limits.
    Source: (atmosphere − vapour pressure) / ρg; any fluid mechanics text.
    >>> from leadsman.core.physics.water import water_at
    >>> round(siphon_limit_m(1_000.0, water_at(20.0)), 2)
    8.94
    """
    return head_m_from_pa(atmospheric_pressure_pa(altitude_m) - water.vapour_pressure_pa, water.density_kgm3)


def crest_pressure_head_m(altitude_m: float, water: Water, lift_m: float, loss_m: float, velocity_ms: float) -> float:
    """Return the pressure [m of water, absolute] at the crest of a running siphon; below that of vapour it breaks.

    Args:
        lift_m: of the crest over the water that is drawn [m].
        loss_m: what pipe and fittings take up to there [m], 0 or more.
        velocity_ms: in the pipe at the crest [m/s].
    Raises:
        OutOfRange: a figure is not a number, or the loss is negative.
    Source: Bernoulli's equation from the surface to the crest; any fluid mechanics text.
    >>> from leadsman.core.physics.water import water_at
    >>> round(crest_pressure_head_m(0.0, water_at(15.0), lift_m=3.0, loss_m=0.5, velocity_ms=1.0), 2)
    6.79
    """
    require_between("lift [m]", lift_m, -1_000.0, 1_000.0)
    require_between("loss [m]", loss_m, 0.0, 1_000.0)
    require_between("velocity [m/s]", velocity_ms, -50.0, 50.0)
    atmosphere_m = head_m_from_pa(atmospheric_pressure_pa(altitude_m), water.density_kgm3)
    return atmosphere_m - lift_m - loss_m - velocity_ms**2 / (2.0 * GRAVITY_MS2)
