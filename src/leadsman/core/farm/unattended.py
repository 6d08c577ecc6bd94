"""What runs over when a vessel is filled and nobody looks: minutes until it is full, and litres after."""

from dataclasses import dataclass

from leadsman.core.base.units import DAY_S
from leadsman.core.design import FloatValveOutlet, OutletBase, Vessel
from leadsman.core.design.store import shape_of
from leadsman.core.physics.filling import time_to_level_s

LONGEST_S = 400 * DAY_S


@dataclass(frozen=True, kw_only=True)
class UnattendedFill:
    """A vessel filled through an outlet left open: flow [m3/s], time until it is full [s] (None: never), and after.

    `over_m3s` runs over from then on; `has_float` where a float valve would have to stick for it. `by_design` tells
    that a spring or a ram runs through it all day, and its overflow carries the rest away. `lost_m3s` is what the
    vessel loses otherwise, less what else comes in.
    """

    vessel: Vessel
    outlet: OutletBase
    inflow_m3s: float
    full_s: float | None
    over_m3s: float
    has_float: bool
    by_design: bool
    lost_m3s: float

    @property
    def sinks(self) -> bool:
        """Whether it loses more than comes in with the outlet wide open all day: its level cannot be kept."""
        return self.lost_m3s > self.inflow_m3s


def unattended_fill(
    vessel: Vessel, outlet: OutletBase, inflow_m3s: float, lost_m3s: float, by_design: bool = False
) -> UnattendedFill:
    """Return what happens when an outlet runs on into a vessel from its level, less what the vessel loses.

    Args:
        inflow_m3s: what the outlet passes drawing alone [m3/s], not negative.
        lost_m3s: to the air, the ground, and what is let out, less what else comes in [m3/s].
    """
    net = inflow_m3s - lost_m3s
    full_s = time_to_level_s(shape_of(vessel), vessel.level_m, vessel.brim_m, lambda _: net, LONGEST_S)
    over = max(net, 0.0) if full_s is not None else 0.0
    return UnattendedFill(
        vessel=vessel,
        outlet=outlet,
        inflow_m3s=inflow_m3s,
        full_s=full_s,
        over_m3s=over,
        has_float=isinstance(outlet, FloatValveOutlet),
        by_design=by_design,
        lost_m3s=lost_m3s,
    )
