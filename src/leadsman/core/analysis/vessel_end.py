"""Where lines end at vessels, and whether a tap there shuts the water off."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.route import Leg
from leadsman.core.analysis.running import Running
from leadsman.core.design import Vessel

AT_VESSEL_M = 2.0  # within reach of somebody who stands at it; ours, no source
TAPS = ("ball-valve", "gate-valve", "globe-valve")  # fittings that shut a line
INLINE_TAPS = ("isolating_valve", "tap_point")


@dataclass(frozen=True, kw_only=True)
class VesselEnd:
    """The end of a line at a vessel: it `leaves` it, or else fills it over a valve or its top.

    `between` tells that its line's other end is at a vessel too.
    """

    leg: Leg
    leaves: bool
    between: bool

    @property
    def spot(self) -> tuple[str, float]:
        """The line, and how far from its `from` end this end lies [m]."""
        line = self.leg.line
        return line.id, 0.0 if self.leaves is self.leg.forward else line.pipe_length_m

    @property
    def taps_m(self) -> list[float]:
        """How far from this end the taps of its line stand [m]."""
        _, at_m = self.spot
        return [abs(part.at_m - at_m) for part in self.leg.line.inline if part.kind in INLINE_TAPS]


def vessel_ends(running: Running) -> Iterator[tuple[Vessel, VesselEnd]]:
    """Yield each vessel that feeds an outlet or is filled by one, with the end of a line there, every line once."""
    layout = running.model.layout
    found: set[tuple[str, float]] = set()
    for outlet in running.fed_outlets:
        route = running.routes[outlet.id]
        if route is None or not route.legs:
            continue
        filled = layout.vessels.get(outlet.fills or "")
        whole = len(route.legs) == 1 and filled is not None
        own = [] if route.vessel.id in layout.sources else [route.vessel]  # a source under pressure holds nothing
        pairs = [(vessel, VesselEnd(leg=route.legs[0], leaves=True, between=whole)) for vessel in own]
        pairs += [(filled, VesselEnd(leg=route.legs[-1], leaves=False, between=whole))] if filled else []
        for vessel, end in pairs:
            if end.spot not in found:
                found.add(end.spot)
                yield vessel, end


def has_tap(end: VesselEnd) -> bool:
    """Whether a tap stands at an end of a line.

    Where a fitting sits is unknown: one tap among them counts for one end at a vessel, between two vessels for the one
    that the water comes from unless a part shuts that.
    """
    if any(at_m <= AT_VESSEL_M for at_m in end.taps_m):
        return True
    fitted = sum(fitting.count for fitting in end.leg.line.fittings if fitting.product in TAPS)
    other = VesselEnd(leg=end.leg, leaves=not end.leaves, between=end.between)
    first = end.leaves or not end.between or any(at_m <= AT_VESSEL_M for at_m in other.taps_m)
    return fitted >= (1 if first else 2)
