"""What an outlet needs: the head above its own height that passes a flow to air."""

from dataclasses import dataclass

from leadsman.core.base.units import head_m_from_pa, m3s_from_lpm, m_from_mm, pa_from_kpa
from leadsman.core.design import EmitterOutlet, FixedOutlet, FloatValveOutlet, OpenEndOutlet, OutletBase
from leadsman.core.physics.fittings import kv_loss_per_flow2, minor_loss_per_flow2
from leadsman.core.physics.float_valve import FloatValve

FULLY_OPEN = 1.0
SQUARE = 2.0


@dataclass(frozen=True)
class OutletLaw:
    """Head above the outlet [m] = scale · flow^exponent, flow in m3/s; fully open."""

    scale: float
    exponent: float

    def head_m(self, flow_m3s: float) -> float:
        """Return the head [m] that passes a flow [m3/s], 0 or more."""
        return self.scale * float(flow_m3s**self.exponent)


def outlet_law(outlet: OutletBase, line_bore_m: float, density_kgm3: float) -> OutletLaw:
    """Return the law of an outlet fully open; a fixed draw needs no head to pass its flow.

    A float valve by its Kv, an open end by its velocity head (at the line's bore [m] where it gives none),
    an emitter by its own exponent.
    """
    if isinstance(outlet, FloatValveOutlet):
        return OutletLaw(kv_loss_per_flow2(outlet.valve.kv_m3h, density_kgm3), SQUARE)
    if isinstance(outlet, OpenEndOutlet):
        bore = m_from_mm(outlet.bore_mm) if outlet.bore_mm else line_bore_m
        return OutletLaw(minor_loss_per_flow2(1.0, bore), SQUARE)
    if isinstance(outlet, EmitterOutlet):
        exponent = 1.0 / outlet.exponent
        nominal_m = head_m_from_pa(pa_from_kpa(outlet.pressure_kpa), density_kgm3)
        return OutletLaw(nominal_m / float(m3s_from_lpm(outlet.flow_lpm) ** exponent), exponent)
    return OutletLaw(0.0, SQUARE)


def float_valve(outlet: FloatValveOutlet) -> FloatValve:
    """Return the valve of a float-valve outlet."""
    return FloatValve(kv_m3h=outlet.valve.kv_m3h, closes_at_m=outlet.valve.closes_at_m, band_m=outlet.valve.band_m)


def least_head_m(outlet: OutletBase, density_kgm3: float) -> float:
    """Return the head [m] that the outlet asks for: to open (a float valve), or to work (a fixed draw)."""
    if isinstance(outlet, FloatValveOutlet):
        return head_m_from_pa(pa_from_kpa(outlet.valve.min_pressure_kpa), density_kgm3)
    if isinstance(outlet, FixedOutlet):
        return head_m_from_pa(pa_from_kpa(outlet.min_pressure_kpa), density_kgm3)
    return 0.0
