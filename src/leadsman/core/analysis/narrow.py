"""What a single fitting, part or thin piece of pipe takes of the head: the necks on the way to an outlet."""

from collections.abc import Iterator
from dataclasses import dataclass

from leadsman.core.analysis.route import Leg
from leadsman.core.analysis.running import Running
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue import fittings
from leadsman.core.design import Line, OutletBase
from leadsman.core.design.line_pipe import Lump, line_lumps

THINNER = 0.75  # of the widest pipe before it: from here on a piece counts as a neck; ours, no source
SHORT = 0.1  # of the way: what is thin over more of it is the pipe chosen, not a neck; ours, no source


@dataclass(frozen=True, kw_only=True)
class Neck:
    """A neck: its line and place in the document, what it is called, what it takes of the head [m], and where [m].

    `part` is ("fittings", number), ("inline", number), or ("runs", number) for a thin piece of the line itself.
    """

    leg: Leg
    part: tuple[str, int]
    name: Wording
    loss_m: float
    at_m: float


def worst_neck(running: Running, outlet: OutletBase) -> Neck | None:
    """Return the fitting, part or thin short piece that takes most on the way to an outlet, all drawing, if any."""
    route = running.routes[outlet.id]
    found: list[Neck] = []
    widest = 0.0
    for leg in route.legs if route else ():
        flow = abs(running.state.flow.line_flow_m3s(leg.line.id))
        own = line_lumps(leg.line, "/lines", running.model.water, running.design.own_pipes)
        lumps = _named_lumps(leg.line, own)
        for part, name, per_flow2, at_m in lumps:
            found.append(Neck(leg=leg, part=part, name=name, loss_m=per_flow2 * flow * flow, at_m=at_m))
        pipes = list(enumerate(running.model.reaches_of_line(leg.line.id)))
        for number, pipe in pipes if leg.forward else reversed(pipes):
            if route and pipe.bore_m < THINNER * widest and pipe.length_m < SHORT * route.length_m:
                loss, _ = pipe.friction_loss_m(flow, running.model.water.kinematic_viscosity_m2s)
                before = sum(above.length_m for _, above in pipes[:number])
                found.append(
                    Neck(
                        leg=leg,
                        part=("runs", number),
                        name=say("{} of bore", Quantity(value=pipe.bore_m / MILLIMETRE_M, unit="mm")),
                        loss_m=loss,
                        at_m=before,
                    )
                )
            widest = max(widest, pipe.bore_m)
    return max(found, key=lambda neck: neck.loss_m, default=None)


NamedLump = tuple[tuple[str, int], Wording, float, float]


def _named_lumps(line: Line, lumps: Iterator[Lump]) -> Iterator[NamedLump]:
    """Yield place, name, loss over flow squared and distance [m] of each fitting and part of a line."""
    for number, fitting in enumerate(line.fittings):
        each = f"{fitting.count} × " if fitting.count > 1 else ""
        sold = fittings().get(fitting.product or "")
        on = say(" of {}", Quantity(value=fitting.bore_mm, unit="mm", digits=1)) if fitting.bore_mm else ()
        name = sold.spoken if sold else f"fitting (K {fitting.k:g})"
        yield ("fittings", number), say("{}{}{}", each, name, on), next(lumps).per_flow2, 0.0
    for number, part in enumerate(line.inline):
        taken = sum(next(lumps).per_flow2 for figure in (part.k, part.kv_m3h) if figure is not None)
        if taken:
            yield ("inline", number), say(part.kind.replace("_", " ")), taken, part.at_m
