"""What a single fitting, part or thin piece of pipe takes of the head: the necks on the way to an outlet."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.catalogue import fittings
from leadsman.core.design import OutletBase
from leadsman.core.line import line_lumps
from leadsman.core.route import Leg
from leadsman.core.running import Running

THINNER = 0.75  # of the widest pipe before it: from here on a piece counts as a neck; ours, no source
SHORT = 0.1  # of the way: what is thin over more of it is the pipe chosen, not a neck; ours, no source


@dataclass(frozen=True)
class Neck:
    """A neck: its line and place in the document, what it is called, what it takes of the head [m], and where [m].

    `part` is ("fittings", number), ("inline", number), or ("runs", number) for a thin piece of the line itself.
    """

    leg: Leg
    part: tuple[str, int]
    name: str
    loss_m: float
    at_m: float


def necks(running: Running, outlet: OutletBase) -> list[Neck]:
    """Return what every fitting, part and thin short piece takes on the way to an outlet, all drawing; most first."""
    route = running.routes[outlet.id]
    if route is None:
        return []
    found, widest = [], 0.0
    for leg in route.legs:
        flow = abs(running.state.flow.line_flow_m3s(leg.line.id))
        found += [
            Neck(leg, part, name, per_flow2 * flow * flow, at) for part, name, per_flow2, at in _lumps(running, leg)
        ]
        pipes = list(enumerate(running.model.reaches_of_line(leg.line.id)))
        for number, pipe in pipes if leg.forward else reversed(pipes):
            if pipe.bore_m < THINNER * widest and pipe.length_m < SHORT * route.length_m:
                loss, _ = pipe.friction_loss_m(flow, running.model.water.kinematic_viscosity_m2s)
                before = sum(one.length_m for _, one in pipes[:number])
                found.append(Neck(leg, ("runs", number), f"{pipe.bore_m * 1e3:.0f} mm of bore", loss, before))
            widest = max(widest, pipe.bore_m)
    return sorted(found, key=lambda neck: -neck.loss_m)


def _lumps(running: Running, leg: Leg) -> Iterator[tuple[tuple[str, int], str, float, float]]:
    """Yield place, name, loss over flow squared and distance [m] of each fitting and part of a line."""
    line, design = leg.line, running.design
    lumps = line_lumps(line, f"/lines/{design.lines.index(line)}", running.model.water, design.own_pipes)
    for number, fitting in enumerate(line.fittings):
        each = f"{fitting.count} × " if fitting.count > 1 else ""
        sold = fittings().get(fitting.product or "")
        on = f" of {fitting.bore_mm:g} mm" if fitting.bore_mm else ""
        name = sold.name[:1].lower() + sold.name[1:] if sold else f"fitting (K {fitting.k:g})"
        yield ("fittings", number), f"{each}{name}{on}", next(lumps).per_flow2, 0.0
    for number, part in enumerate(line.inline):
        taken = sum(next(lumps).per_flow2 for figure in (part.k, part.kv_m3h) if figure is not None)
        if taken:
            yield ("inline", number), part.kind.replace("_", " "), taken, part.at_m
