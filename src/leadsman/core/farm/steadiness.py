"""Whether a trough stands when stock push it: its weight with the water in it against sliding and tipping."""

from leadsman.core.base.errors import require_between
from leadsman.core.design import BoxShape, FrustumShape, LyingCylinderShape, UprightCylinderShape, Vessel

PUSH_SHARE = 0.15  # of an animal's weight, pushed level at the rim; ours, no source
GRIP = 0.5  # friction of a trough on the ground [-]; ours, no source


def base_m(vessel: Vessel) -> float | None:
    """Return the narrow way across a trough's base [m]; None for a shape of which only volumes are known.

    Source: the dimensions of its shape.
    >>> shape = {"kind": "box", "length_m": 1.5, "width_m": 0.5, "height_m": 0.4}
    >>> base_m(Vessel.model_validate({"id": "t", "role": "trough", "place": "p", "shape": shape, "level_m": 0.2}))
    0.5
    """
    match vessel.shape:
        case BoxShape(length_m=length, width_m=width):
            return min(length, width)
        case UprightCylinderShape(diameter_m=across) | LyingCylinderShape(diameter_m=across):
            return across
        case FrustumShape(bottom_diameter_m=across):
            return across
    return None


def steady_kg(animal_kg: float, rim_m: float, base_m: float) -> float:
    """Return the mass [kg] that a trough must have not to slide or tip when one animal pushes at its rim.

    Args:
        animal_kg: mass of the animal, 0 to 5,000.
        rim_m: height of its rim over the ground it tips on [m], 0 to 100.
        base_m: the narrow way across its base [m], 0.01 to 1,000.
    Raises:
        OutOfRange: an argument is outside those limits.
    Source: moments about the far edge of the base, and dry friction; any text on statics.
    >>> round(steady_kg(animal_kg=400.0, rim_m=0.6, base_m=0.5), 1)
    144.0
    """
    require_between("animal [kg]", animal_kg, 0.0, 5_000.0)
    require_between("rim [m]", rim_m, 0.0, 100.0)
    require_between("base [m]", base_m, 0.01, 1_000.0)
    return PUSH_SHARE * animal_kg * max(1.0 / GRIP, 2.0 * rim_m / base_m)


def rim_height_m(vessel: Vessel) -> float:
    """Return the height of a trough's rim over the ground [m], its stand included.

    Source: the height of its shape over its stand.
    >>> shape = {"kind": "box", "length_m": 1.5, "width_m": 0.5, "height_m": 0.4}
    >>> rim_height_m(Vessel.model_validate(
    ...     {"id": "t", "role": "trough", "place": "p", "shape": shape, "level_m": 0.2, "stand_m": 0.1}))
    0.5
    """
    return vessel.shape.inside_m + max(vessel.stand_m, 0.0)
