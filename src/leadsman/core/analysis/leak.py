"""What is lost by the next look when an outlet sticks open, and when the store that feeds it is empty."""

from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.sustained import store_of
from leadsman.core.base.units import HOUR_S
from leadsman.core.design import FloatValveOutlet, OutletBase


@dataclass(frozen=True, kw_only=True)
class Leak:
    """A float valve stuck open by itself: its flow [m3/s], what is lost by the next look [m3].

    `empty_s` is when the store is empty [s], None where what comes in keeps up with it; `look_s` until the next look.
    """

    outlet: FloatValveOutlet
    flow_m3s: float
    lost_m3: float
    empty_s: float | None
    look_s: float

    @property
    def empties(self) -> bool:
        """Whether the store is empty by the next look."""
        return self.empty_s is not None and self.empty_s <= self.look_s


def leak_of(analysis: Analysis, outlet: OutletBase, flow_m3s: float | None = None) -> Leak | None:
    """Return what an outlet loses stuck open; None where it is no float valve, or gets nothing.

    The flow at the level of now is taken for all of the time: a little more than is lost as the store falls.

    Args:
        flow_m3s: what it passes [m3/s]; what it gives by itself where None.
    """
    if not isinstance(outlet, FloatValveOutlet):
        return None
    flow = analysis.flows_alone_m3s.get(outlet.id, 0.0) if flow_m3s is None else flow_m3s
    if flow <= 0.0:
        return None
    system = analysis.system_of(outlet.id)
    if system is None:
        return None
    store = store_of(analysis, system, outlet)
    empty = store.lasts_s(flow)
    look_s = analysis.design.site.look_every_h * HOUR_S
    lost = flow * look_s if empty is None or empty > look_s else store.usable_m3 + store.comes_m3s * look_s
    return Leak(outlet=outlet, flow_m3s=flow, lost_m3=lost, empty_s=empty, look_s=look_s)
