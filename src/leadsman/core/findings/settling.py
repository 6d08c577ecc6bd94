"""Which measurement would settle a verdict that the errors of heights leave open."""

from collections.abc import Sequence

from leadsman.core.analysis import Analysis
from leadsman.core.design import OutletBase, label
from leadsman.core.first_water import height_error
from leadsman.core.wording import Quantity, Wording, say


def what_would_settle(margin_m: float, causes: Sequence[tuple[float, str]]) -> Wording:
    """Say what to measure better, where heights decide.

    Args:
        margin_m: by how much the likely figure keeps its limit [m]; negative where it does not.
        causes: by how much each uncertain height may move it [m], most first, and what it is the height of.
    """
    if not causes or sum(effect for effect, _ in causes) <= abs(margin_m):
        return ()
    effect, name = causes[0]
    by = Quantity(abs(margin_m), "m")
    keeps = "It keeps this by {} only" if margin_m >= 0.0 else "It misses this by {} only"
    return say(f"{keeps}, and the height of {{}} alone may move it by {{}}: level that better. ", by, name,
               Quantity(effect, "m"))  # fmt: skip


def static_causes(analysis: Analysis, number: int) -> list[tuple[float, str]]:
    """Return by how much each uncertain height may move what stands at a surveyed point [m], most first.

    They are those of the point itself, and of the vessel that stands highest over it.
    """
    return _with_source(analysis, *height_error(analysis.model, number))


def outlet_causes(analysis: Analysis, outlet: OutletBase) -> list[tuple[float, str]]:
    """Return by how much each uncertain height may move what stands on an outlet [m], most first."""
    place = analysis.model.layout.places[outlet.place]
    return _with_source(analysis, label(place), place.height_error_m or 0.0)


def _with_source(analysis: Analysis, name: str, error_m: float) -> list[tuple[float, str]]:
    found = {name: error_m}
    over = highest_source(analysis)
    if over is not None and over[0] != name:
        found[over[0]] = over[1]
    return sorted(((effect, name) for name, effect in found.items() if effect > 0.0), reverse=True)


def highest_source(analysis: Analysis) -> tuple[str, float] | None:
    """Return the name of the place of the source whose brim is highest, and how good its height is [m]."""
    layout = analysis.model.layout
    sources = analysis.sources_of_outlets
    if not sources:
        return None
    top = max(sources, key=lambda vessel: layout.floor_m(vessel) + vessel.brim_m)
    place = layout.places[top.place]
    return label(place), place.height_error_m or 0.0
