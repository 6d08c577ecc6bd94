"""First water, step by step: what to open and shut in which order, when water is where, what to see and measure."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.route import Route
from leadsman.core.base.units import LITRE_M3, kpa_from_pa, lpm_from_m3s, pa_from_head_m
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import FixedOutlet, FloatValveOutlet, Line, OutletBase, PumpInflow, label
from leadsman.core.physics.front import Stretch, front_times_s

StepKind = Literal[
    "prime", "shut", "open", "fill", "arrives", "close", "vents", "flush", "float", "pail", "gauge", "night", "joints"
]
SLOWER = 2.0  # than the front alone, or than all the lines fill together: air has to leave, taps open slowly; ours
WATCHED_DAYS = 3  # that joints are looked at before they are covered: common practice, no source


@dataclass(frozen=True, kw_only=True)
class FieldStep:
    """One step: what is done, what is seen and heard then, at which part of the plan.

    `soonest_s` and `latest_s` are when water comes after the source is opened [s]; `flow_m3s` is what a timed pail
    should show, `shut_kpa` what a gauge should.
    """

    step_id: str
    kind: StepKind
    told: Wording
    seen: Wording = ()
    part: str | None = None
    soonest_s: float | None = None
    latest_s: float | None = None
    flow_m3s: float | None = None
    shut_kpa: float | None = None


def first_water_steps(analysis: Analysis) -> list[FieldStep]:
    """Return the steps of first water of a design, in order: open, fill from the top, close from the top down, test."""
    return [
        *_before(analysis), *_arrivals(analysis), *_closing(analysis), *_tests(analysis), *_after(analysis),
    ]  # fmt: skip


def _before(analysis: Analysis) -> Iterator[FieldStep]:
    design = analysis.document
    for line in design.lines:
        if line.siphon:
            yield FieldStep(
                step_id=f"prime-{line.id}", kind="prime", part=line.id,
                told=say("Prime {}: fill it through its crest until no bubble comes, its lower tap shut", label(line)),
                seen=say("Water stands in the filling port and stays there. Never suck with the mouth."),
            )  # fmt: skip
        if line.pump is not None:
            yield _primed_pump(line.id, label(line))
    for inflow in design.inflows:
        if isinstance(inflow, PumpInflow):
            yield _primed_pump(inflow.id, label(inflow))
    drains = [(line, part.at_m) for line in design.lines for part in line.inline if part.kind == "drain"]
    for number, (line, at_m) in enumerate(drains, start=1):
        yield FieldStep(
            step_id=f"drain-{number}", kind="shut", part=line.id,
            told=say("Shut the drain of {} at {}", label(line), Quantity(value=at_m, unit="m", digits=0)),
        )  # fmt: skip
    if analysis.fed_outlets:
        yield FieldStep(
            step_id="open-ends", kind="open",
            told=say("Open all ends and vents; floats and filters not yet fitted, or held down"),
            seen=say("Air comes out everywhere once the water runs"),
        )  # fmt: skip
        yield FieldStep(
            step_id="fill", kind="fill",
            told=say("Open the source a little, a quarter at most, and start the clock: fill slowly from the top"),
            seen=say("Air hisses, then spits, then a clear stream"),
        )  # fmt: skip


def _primed_pump(part: str, name: str) -> FieldStep:
    return FieldStep(
        step_id=f"prime-{part}", kind="prime", part=part,
        told=say("Fill the pump of {} with water before it runs; never run it dry", name),
    )  # fmt: skip


def _arrivals(analysis: Analysis) -> Iterator[FieldStep]:
    """Yield when water should come to each end, the soonest first."""
    found = []
    shared = _shared(analysis)
    for outlet in analysis.fed_outlets:
        route = analysis.routes[outlet.id]
        if route is None:
            continue
        soonest_s = _front_s(analysis, route)
        shared_s = shared[route.vessel.id][0] / max(shared[route.vessel.id][1], 1e-9)
        holds_m3 = sum(_holds_m3(analysis, leg.line) for leg in route.legs)
        told = say("Water should reach {}", label(outlet))
        if soonest_s is None:
            seen = say("No water comes so far on its own: the ground on the way stands over the source.")
            never = FieldStep(step_id=f"arrives-{outlet.id}", kind="arrives", part=outlet.id, told=told, seen=seen)
            found.append((math.inf, never))
            continue
        latest_s = SLOWER * max(soonest_s, shared_s)
        seen = say(
            "Between {} and {} after the source is opened; its pipe holds {}. Later: a tap is shut, a "
            "joint leaks, or air stands at a high point.",
            duration(soonest_s), duration(latest_s), Quantity(value=holds_m3 / LITRE_M3, unit="L"),
        )  # fmt: skip
        step = FieldStep(
            step_id=f"arrives-{outlet.id}", kind="arrives", part=outlet.id, told=told, seen=seen,
            soonest_s=soonest_s, latest_s=latest_s,
        )  # fmt: skip
        found.append((soonest_s, step))
    yield from (step for _, step in sorted(found, key=lambda pair: pair[0]))


def _shared(analysis: Analysis) -> dict[str, tuple[float, float]]:
    """Return, by the vessel that feeds them, what all its lines hold [m3], and what runs in them [m3/s]."""
    lines: dict[str, dict[str, Line]] = {}
    flows: dict[str, float] = {}
    for outlet in analysis.fed_outlets:
        route = analysis.routes[outlet.id]
        if route is not None:
            lines.setdefault(route.vessel.id, {}).update({leg.line.id: leg.line for leg in route.legs})
            flows[route.vessel.id] = flows.get(route.vessel.id, 0.0) + analysis.answer(outlet).judged_flow_m3s
    return {
        vessel: (sum(_holds_m3(analysis, line) for line in of.values()), flows[vessel]) for vessel, of in lines.items()
    }


def _front_s(analysis: Analysis, route: Route) -> float | None:
    """Return when the front alone gets to the end of a route [s]."""
    along, points = analysis.model.along, route.points
    way = []
    for before, after in pairwise(points):
        length_m = after.at_m - before.at_m
        if length_m <= 0.0:
            continue
        pipe = analysis.model.reaches_of_line(route.legs[after.leg].line.id)[0]
        way.append(
            Stretch(
                length_m=length_m, bore_m=pipe.bore_m, roughness_m=pipe.roughness_m,
                end_m=float(along.pipe_m[after.number]),
            )
        )  # fmt: skip
    if not way:
        return 0.0
    surface_m = analysis.model.layout.surface_m(route.vessel)
    begin_m = min(float(along.pipe_m[points[0].number]), surface_m)
    return front_times_s(surface_m, begin_m, way, analysis.state.water.kinematic_viscosity_m2s)[-1]


def _holds_m3(analysis: Analysis, line: Line) -> float:
    return sum(pipe.volume_m3 for pipe in analysis.model.reaches_of_line(line.id))


def _by_height(analysis: Analysis) -> list[OutletBase]:
    layout = analysis.model.layout
    return sorted(analysis.fed_outlets, key=lambda outlet: -layout.outlet_height_m(outlet))


def _closing(analysis: Analysis) -> Iterator[FieldStep]:
    """Yield the ends to close, the highest first, then the vents."""
    for outlet in _by_height(analysis):
        yield FieldStep(
            step_id=f"close-{outlet.id}", kind="close", part=outlet.id,
            told=say("Let {} run clear and without spitting, then close it", label(outlet)),
            seen=say("The first of it is dirty: away with it, not into the trough"),
        )  # fmt: skip
    if any(part.kind == "vent" for line in analysis.document.lines for part in line.inline):
        yield FieldStep(step_id="vents", kind="vents", told=say("Close the vents, the highest last"))
    if analysis.fed_outlets:
        yield FieldStep(
            step_id="flush", kind="flush",
            told=say("Fit filters and floats now that it is flushed; open the source fully"),
        )  # fmt: skip


def _tests(analysis: Analysis) -> Iterator[FieldStep]:
    density, layout = analysis.state.water.density_kgm3, analysis.model.layout
    for outlet in _by_height(analysis):
        name = label(outlet)
        if isinstance(outlet, FloatValveOutlet):
            yield FieldStep(
                step_id=f"float-{outlet.id}", kind="float", part=outlet.id,
                told=say("Lift the float of {} by hand, let go, three times", name),
                seen=say("Lifted it shuts, let go it runs at once. A hose looped over a high point siphons and "
                    "proves nothing."),
            )  # fmt: skip
        flow = analysis.flows_alone_m3s.get(outlet.id, 0.0)
        if flow > 0.0 and not isinstance(outlet, FixedOutlet):
            yield FieldStep(
                step_id=f"pail-{outlet.id}", kind="pail", part=outlet.id, flow_m3s=flow,
                told=say("Time a pail at {}, the others shut, twice", name),
                seen=say(
                    "{} is planned; more than a tenth between the two: once more",
                    Quantity(value=lpm_from_m3s(flow), unit="L/min"),
                ),
            )  # fmt: skip
    lowest = min(analysis.fed_outlets, key=layout.outlet_height_m, default=None)
    static_m = None if lowest is None else analysis.answer(lowest).static_head_m
    if lowest is not None and static_m is not None:
        kpa = max(0.0, kpa_from_pa(pa_from_head_m(static_m - layout.outlet_height_m(lowest), density)))
        yield FieldStep(
            step_id="gauge", kind="gauge", part=lowest.id, shut_kpa=kpa,
            told=say("All shut: read a gauge at {}, the lowest end", label(lowest)),
            seen=say("{} should stand there and stay", Quantity(value=kpa, unit="kPa")),
        )  # fmt: skip


def _after(analysis: Analysis) -> Iterator[FieldStep]:
    yield FieldStep(
        step_id="night", kind="night", told=say("All ends shut, a night under full pressure"),
        seen=say("In the morning the tank stands as high, and no joint is wet"),
    )  # fmt: skip
    buried = [line for line in analysis.document.lines if line.cover_m > 0.0 or line.crossings]
    if buried:
        yield FieldStep(
            step_id="joints", kind="joints",
            told=say("Look at every joint that is to be covered on {} days before it is", str(WATCHED_DAYS)),
            seen=say("On {}", ", ".join(label(line) for line in buried)),
        )  # fmt: skip
