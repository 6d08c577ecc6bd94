"""What may be behind a symptom on the network of a plan: each cause at its part, and whom it leaves short."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.downstream import behind_line, drawing_from
from leadsman.core.analysis.route import Route
from leadsman.core.base.units import kpa_from_pa, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FloatValveOutlet, Line, OutletBase, PumpInflow, RainInflow
from leadsman.core.design.document import labels
from leadsman.core.trouble.kinds import KINDS, CauseKind, Symptom

SURFACE_COVER_M = 0.05  # less lies open to hooves and frost; ours
BURIED_SHARE = 0.2  # how often a buried line is trodden, against one on the ground; ours
SURELY_NOT, HARDLY = 0.02, 0.3
MANY = 3.0  # times as often where the plan itself points at it; ours
GROUND_FROST_C = 5.0  # of the air: from here on the ground freezes on a clear night; common practice, no source
OF_FROST: tuple[CauseKind, ...] = ("frost", "valve_ice")
STARVING: tuple[Symptom, ...] = ("low", "slow", "nothing", "frozen")


@dataclass(frozen=True, kw_only=True)
class Cause:
    """One thing that may be wrong: its part and, along a line, how far [m]; how often, against the others.

    `short` are the outlets that get less or nothing by it.
    """

    kind: CauseKind
    part: str
    weight: float
    short: frozenset[str] = frozenset()
    at_m: float | None = None

    @property
    def cause_id(self) -> str:
        return f"{self.kind}:{self.part}" + (f":{self.at_m:g}" if self.at_m is not None else "")


def named(analysis: Analysis, cause: Cause) -> Wording:
    """Return what the part of a cause is called, and how far along it."""
    name = labels(analysis.document).get(cause.part, cause.part)
    if cause.at_m is None:
        return say("{}", name)
    return say("{} at {}", name, Quantity(value=cause.at_m, unit="m", digits=0))


def causes(analysis: Analysis, symptom: Symptom, part: str) -> list[Cause]:
    """Return what may be behind a symptom at an outlet, a vessel or a line, the most frequent first."""
    found: dict[str, Cause] = {}
    for cause in _possible(analysis, symptom, part):
        weight = KINDS[cause.kind].weights.get(symptom, 0.0)
        if cause.kind in OF_FROST and symptom != "frozen":
            weight *= _cold(analysis)
        if weight > 0.0:
            whole = Cause(**{**vars(cause), "weight": cause.weight * weight})
            found.setdefault(whole.cause_id, whole)
    return sorted(found.values(), key=lambda one: -one.weight)


def _possible(analysis: Analysis, symptom: Symptom, part: str) -> Iterator[Cause]:
    layout = analysis.model.layout
    outlet = layout.outlets.get(part)
    if outlet is None and part in layout.vessels:
        outlet = next((one for one in analysis.fed_outlets if one.fills == part), None)
    if symptom == "pump":
        yield from _of_pump(analysis, part)
        return
    if part in layout.lines:
        yield from _of_wet_line(layout.lines[part])
    if outlet is None:
        if part in layout.vessels:
            yield from _of_store(analysis, part)
        return
    route = analysis.routes.get(outlet.id)
    yield from _of_outlet(analysis, outlet)
    if route is not None:
        yield from _of_store(analysis, route.vessel.id)
        for leg in route.legs:
            yield from _of_line(analysis, leg.line)
        yield from _of_air(analysis, outlet)
        yield from _of_inflows(analysis, route)
        yield from _of_wet_line(route.legs[-1].line) if symptom == "wet" and route.legs else ()


def _of_outlet(analysis: Analysis, outlet: OutletBase) -> Iterator[Cause]:
    own = frozenset([outlet.id])
    for kind in ("float_up", "seat", "set_low", "valve_ice", "caught", "holed", "grit", "washer"):
        if isinstance(outlet, FloatValveOutlet) or kind == "seat":
            yield Cause(kind=kind, part=outlet.id, weight=1.0, short=own)
    yield Cause(kind="first_air", part=outlet.id, weight=1.0)
    yield Cause(kind="dead_end", part=outlet.id, weight=1.0)
    route = analysis.routes.get(outlet.id)
    if route is not None:
        others = drawing_from(analysis, route.vessel.id) - own
        alone = analysis.flows_alone_m3s.get(outlet.id, 0.0)
        together = analysis.answer(outlet).judged_flow_m3s
        if others:
            yield Cause(kind="others", part=outlet.id, weight=MANY if together < alone / 2.0 else 0.5, short=own)
    vessel = analysis.model.layout.vessels.get(outlet.fills or "")
    if isinstance(outlet, FloatValveOutlet) and vessel is not None:
        yield Cause(kind="light", part=vessel.id, weight=0.5)
        yield Cause(kind="bottom", part=vessel.id, weight=1.0)
        yield Cause(kind="animal", part=vessel.id, weight=1.0)
        over = vessel.overflow_m is not None and outlet.valve.closes_at_m >= vessel.overflow_m
        yield Cause(kind="set_high", part=outlet.id, weight=MANY if over else 1.0)
        others_fill = sum(one.fills == vessel.id for one in analysis.document.outlets) > 1
        others_fill |= any(inflow.fills == vessel.id for inflow in analysis.document.inflows)
        yield Cause(kind="second_source", part=outlet.id, weight=MANY if others_fill else 0.2)
        yield Cause(kind="pressure", part=outlet.id, weight=_over_pressure(analysis, outlet))


def _over_pressure(analysis: Analysis, outlet: FloatValveOutlet) -> float:
    static_m, most_kpa = analysis.answer(outlet).static_head_m, outlet.valve.max_pressure_kpa
    if static_m is None or most_kpa is None:
        return 1.0
    density = analysis.model.water.density_kgm3
    stands = kpa_from_pa(pa_from_head_m(static_m - analysis.model.layout.outlet_height_m(outlet), density))
    return 4.0 * MANY if stands > most_kpa else HARDLY


def _of_store(analysis: Analysis, vessel_id: str) -> Iterator[Cause]:
    short = drawing_from(analysis, vessel_id)
    yield Cause(kind="store_empty", part=vessel_id, weight=1.0, short=short)
    for kind in ("vortex", "light", "bottom", "animal"):
        yield Cause(kind=kind, part=vessel_id, weight=1.0)
    if any(isinstance(one, RainInflow) and one.fills == vessel_id for one in analysis.document.inflows):
        yield Cause(kind="first_flush", part=vessel_id, weight=1.0)


def _of_line(analysis: Analysis, line: Line) -> Iterator[Cause]:
    short = behind_line(analysis, line.id)
    for part in line.inline:
        if part.kind in ("isolating_valve", "filter", "check_valve"):
            kind: CauseKind = "tap_shut" if part.kind == "isolating_valve" else part.kind
            yield Cause(kind=kind, part=line.id, at_m=part.at_m, weight=1.0, short=short)
    bare = line.cover_m <= SURFACE_COVER_M
    yield Cause(kind="kinked", part=line.id, weight=1.0 if bare else BURIED_SHARE, short=short)
    yield Cause(kind="leak", part=line.id, weight=1.0 if bare else 0.5, short=short)
    yield Cause(kind="dirt", part=line.id, weight=1.0, short=short)
    yield Cause(kind="frost", part=line.id, weight=1.0 if bare else BURIED_SHARE, short=short)
    if line.pump is not None:
        yield Cause(kind="pump_off", part=line.id, weight=MANY, short=short)
    sucks = analysis.state.solved.opened is not None
    yield Cause(kind="suction", part=line.id, weight=1.0 if sucks else HARDLY)


def _cold(analysis: Analysis) -> float:
    """Return how often frost is behind it in the air of the chosen case, where nobody says that it is frozen."""
    air_c = analysis.scenario.air_c
    if air_c > GROUND_FROST_C:
        return SURELY_NOT
    return 1.0 if air_c > 0.0 else MANY


def _of_air(analysis: Analysis, outlet: OutletBase) -> Iterator[Cause]:
    """Yield each high point at which air may stand; where it would stop the water, by the plan, that is likely."""
    filling = analysis.first_waters.get(outlet.id)
    if filling is None:
        return
    for number, high_point in enumerate(filling.profile.high_points):
        line_id, at_m = filling.profile.spot(high_point.at_m)
        vented = number in filling.profile.vented()
        weight = 0.3 if vented else (MANY if filling.filling.pockets else 1.0)
        yield Cause(kind="air", part=line_id, at_m=round(at_m, 1), weight=weight, short=behind_line(analysis, line_id))


def _of_inflows(analysis: Analysis, route: Route) -> Iterator[Cause]:
    for inflow in analysis.document.inflows:
        if inflow.fills == route.vessel.id and isinstance(inflow, PumpInflow):
            short = drawing_from(analysis, route.vessel.id)
            yield Cause(kind="pump_off", part=inflow.id, weight=1.0, short=short)


def _of_wet_line(line: Line) -> Iterator[Cause]:
    yield Cause(kind="joint", part=line.id, weight=1.0)
    yield Cause(kind="split", part=line.id, weight=1.0)
    for part in line.inline:
        if part.kind in ("tap_point", "drain"):
            kind: CauseKind = "tap_open" if part.kind == "tap_point" else "drain_open"
            yield Cause(kind=kind, part=line.id, at_m=part.at_m, weight=1.0)


def _of_pump(analysis: Analysis, part: str) -> Iterator[Cause]:
    pumps = [inflow.id for inflow in analysis.document.inflows if isinstance(inflow, PumpInflow)]
    pumps += [line.id for line in analysis.document.lines if line.pump is not None]
    for pump in [part] if part in pumps else pumps:
        for kind in ("switch", "pump_valve", "cushion"):
            yield Cause(kind=kind, part=pump, weight=1.0)
    for line in analysis.document.lines if pumps else ():
        yield Cause(kind="leak", part=line.id, weight=1.0 / max(1, len(analysis.document.lines)))
        yield from (cause for cause in _of_wet_line(line) if cause.kind in ("tap_open", "drain_open"))
