"""What an outlet needs: the head above its own height that passes a flow to air."""

from leadsman.core.design import EmitterOutlet, FixedOutlet, FloatValveOutlet, OpenEndOutlet, OutletBase, Vessel
from leadsman.core.fittings import minor_loss_per_flow2
from leadsman.core.float_valve import FloatValve
from leadsman.core.units import head_m_from_pa, m3s_from_lpm, m_from_mm, pa_from_kpa

FULLY_OPEN = 1.0


def float_valve(outlet: FloatValveOutlet) -> FloatValve:
    """Return the valve of a float-valve outlet."""
    return FloatValve(outlet.valve.kv_m3h, outlet.valve.closes_at_m, outlet.valve.band_m)


def opening(outlet: OutletBase, filled: Vessel | None, all_open: bool) -> float:
    """Return the opening x [-] of an outlet: 0 where it is shut, 1 where no float closes it."""
    if outlet.shut:
        return 0.0
    if all_open or filled is None or not isinstance(outlet, FloatValveOutlet):
        return FULLY_OPEN
    return float_valve(outlet).opening(filled.level_m)


def least_head_m(outlet: OutletBase, density_kgm3: float) -> float:
    """Return the head [m] that the outlet asks for: to open (a float valve), or to work (a fixed draw)."""
    if isinstance(outlet, FloatValveOutlet):
        return head_m_from_pa(pa_from_kpa(outlet.valve.min_pressure_kpa), density_kgm3)
    if isinstance(outlet, FixedOutlet):
        return head_m_from_pa(pa_from_kpa(outlet.min_pressure_kpa), density_kgm3)
    return 0.0


def head_to_pass_m(
    outlet: OutletBase, flow_m3s: float, opening: float, line_bore_m: float, density_kgm3: float
) -> tuple[float, float]:
    """Return the head [m] above the outlet that passes a flow above 0 [m3/s], and its slope [m per m3/s].

    A float valve by its Kv, an open end by its velocity head, an emitter by its own law; all rise convexly.
    """
    if isinstance(outlet, FloatValveOutlet):
        head = float_valve(outlet).head_to_pass_m(flow_m3s, opening, density_kgm3)
        return head, 2.0 * head / flow_m3s
    if isinstance(outlet, OpenEndOutlet):
        bore = m_from_mm(outlet.bore_mm) if outlet.bore_mm else line_bore_m
        head = minor_loss_per_flow2(1.0, bore) * flow_m3s**2
        return head, 2.0 * head / flow_m3s
    if isinstance(outlet, EmitterOutlet):
        nominal_m = head_m_from_pa(pa_from_kpa(outlet.pressure_kpa), density_kgm3)
        head = nominal_m * float((flow_m3s / m3s_from_lpm(outlet.flow_lpm)) ** (1.0 / outlet.exponent))
        return head, head / flow_m3s / outlet.exponent
    return 0.0, 0.0
