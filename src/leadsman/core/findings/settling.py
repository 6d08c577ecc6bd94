"""Which measurement would settle a verdict that the errors of heights leave open."""

from collections.abc import Sequence

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.first_water import height_error
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import OutletBase, label
from leadsman.core.steady.answer import OpenToAir


def is_settled(margin_m: float, causes: Sequence[tuple[float, str]]) -> bool:
    """Whether a figure keeps or misses its limit whatever the errors of the heights: else nothing definite is said.

    Args:
        margin_m, causes: as for `what_would_settle`.
    """
    return sum(effect for effect, _ in causes) <= abs(margin_m)


def what_would_settle(margin_m: float, causes: Sequence[tuple[float, str]]) -> Wording:
    """Say what to measure better, where heights decide.

    Args:
        margin_m: by how much the likely figure keeps its limit [m]; negative where it does not.
        causes: by how much each uncertain height may move it [m], most first, and what it is the height of.
    """
    if not causes or is_settled(margin_m, causes):
        return ()
    effect, name = causes[0]
    by = Quantity(value=abs(margin_m), unit="m")
    keeps = "It keeps within this by {} only" if margin_m >= 0.0 else "It misses this by {} only"
    return say(f"{keeps}, and the height of {{}} alone may move it by {{}}: level that better. ", by, name,
               Quantity(value=effect, unit="m"))  # fmt: skip


def static_causes(analysis: Analysis, number: int) -> list[tuple[float, str]]:
    """Return by how much each uncertain height may move what stands at a surveyed point [m], most first.

    They are those of the point itself, and of the vessel that stands highest over it.
    """
    return _with_source(analysis, *height_error(analysis.model, number))


def suction_causes(analysis: Analysis, below: OpenToAir) -> list[tuple[float, str]]:
    """Return by how much each uncertain height may move the grade over the pipe at a suction [m], most first."""
    along = analysis.model.along
    number = min(along.of_line[below.line_id], key=lambda number: abs(along.points[number].at_m - below.at_m))
    return static_causes(analysis, number)


def outlet_causes(analysis: Analysis, outlet: OutletBase) -> list[tuple[float, str]]:
    """Return by how much each uncertain height may move what stands on an outlet [m], most first."""
    place = analysis.model.layout.places[outlet.place]
    source = analysis.highest_source if analysis.stores_uncertain else None
    if not place.height_error_m and not (source and source.height_error_m):
        return []
    return _with_source(analysis, label(place), place.height_error_m or 0.0)


def _with_source(analysis: Analysis, name: str, error_m: float) -> list[tuple[float, str]]:
    found, over = {name: error_m}, analysis.highest_source
    if over is not None and label(over) != name:
        found[label(over)] = over.height_error_m or 0.0
    return sorted(((effect, name) for name, effect in found.items() if effect > 0.0), reverse=True)
