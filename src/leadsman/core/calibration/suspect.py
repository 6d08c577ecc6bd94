"""What could be wrong on the real line, one part at a time, and how far it is tried."""

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.array import Floats
from leadsman.core.design import FloatValveOutlet, Line, OutletBase, Vessel
from leadsman.core.physics.fittings import minor_loss_per_flow2
from leadsman.core.steady.loading import Figures, likely_figures
from leadsman.core.steady.plumbing import Plumbing

SuspectKind = Literal["rough", "blocked", "valve", "height", "source"]
STEPS = 21
LEAST_K, MOST_K = 1.0, 3e5  # on the line's bore: a hardly shut tap to one that lets a trickle through; ours
MOST_ROUGH_SHARE = 0.05  # of the bore: the end of what the friction law holds for
HEIGHT_REACH_M = 15.0
LEAST_KV, MOST_KV = 0.08, 1.6  # of what the plan says
# how often each is the reason, against each other: common practice, no source. Grit in a valve or a filter comes first,
# a pipe grown rough is rare.
WEIGHTS: dict[SuspectKind, float] = {"rough": 0.5, "blocked": 1.0, "valve": 3.0, "height": 1.0, "source": 1.5}
WITH_PARTS = 3.0  # times as often where a filter, tap or check valve sits in the line
CATCHES = ("filter", "isolating_valve", "check_valve", "reducer")


@dataclass(frozen=True, eq=False, kw_only=True)
class Suspect:
    """One thing that may be off: `values` are the figures it is tried with, shape (steps,), in the unit of its kind.

    rough: absolute roughness [m]; blocked: what a blockage takes over flow squared [s2/m5]; valve: share of its Kv;
    height, source: how much higher a place or a source's water stands than planned [m]. `part` is a line, an outlet, a
    place or a vessel. `weight` is how often it is the reason, against the other suspects.
    """

    kind: SuspectKind
    part: str
    values: Floats
    weight: float

    def applied(self, plumbing: Plumbing, values: Floats) -> Figures:
        """Return the plan's figures with this one as said, one row for each value."""
        likely = likely_figures(plumbing)
        rows = {name: np.repeat(array, len(values), axis=0) for name, array in vars(likely).items()}
        layout = plumbing.layout
        match self.kind:
            case "rough":
                reaches = np.flatnonzero(np.array(plumbing.reach_line) == layout.line_number[self.part])
                rows["roughness_m"][:, reaches] = np.maximum(rows["roughness_m"][:, reaches], values[:, None])
            case "blocked":
                rows["blocked_per_flow2"][:, layout.line_number[self.part]] = values
            case "valve":
                number = [outlet.id for outlet in plumbing.to_air].index(self.part)
                rows["kv_factor"][:, number] = values
            case "height":
                rows["place_rise_m"][:, layout.place_number[self.part]] = values
            case "source":
                rows["level_rise_m"][:, list(plumbing.vessels).index(self.part)] = values
        return Figures(**rows)


def suspects(analysis: Analysis, outlets: list[OutletBase], places: set[str]) -> list[Suspect]:
    """Return what could be wrong on the ways of the water to some outlets, and with the heights of some places."""
    lines: dict[str, Line] = {}
    sources: dict[str, Vessel] = {}
    for outlet in outlets:
        route = analysis.routes[outlet.id]
        if route is not None:
            lines.update({leg.line.id: leg.line for leg in route.legs})
            sources[route.vessel.id] = route.vessel
    found = [one for line in lines.values() for one in _of_line(analysis, line)]
    for outlet in outlets:
        if isinstance(outlet, FloatValveOutlet):
            values = np.geomspace(LEAST_KV, MOST_KV, STEPS)
            found.append(Suspect(kind="valve", part=outlet.id, values=values, weight=WEIGHTS["valve"]))
    heights = np.linspace(-HEIGHT_REACH_M, HEIGHT_REACH_M, STEPS)
    for place in sorted({outlet.place for outlet in outlets} | places):
        found.append(Suspect(kind="height", part=place, values=heights, weight=WEIGHTS["height"]))
    for vessel in sources.values():
        found.append(Suspect(kind="source", part=vessel.id, values=heights, weight=WEIGHTS["source"]))
    return found


def _of_line(analysis: Analysis, line: Line) -> list[Suspect]:
    pipes = analysis.model.reaches_of_line(line.id)
    bore_m, rough_m = min(pipe.bore_m for pipe in pipes), max(pipe.roughness_m for pipe in pipes)
    catches = any(part.kind in CATCHES for part in line.inline)
    blocked = Suspect(
        kind="blocked",
        part=line.id,
        values=np.geomspace(LEAST_K, MOST_K, STEPS) * minor_loss_per_flow2(1.0, bore_m),
        weight=WEIGHTS["blocked"] * (WITH_PARTS if catches else 1.0),
    )
    rough = np.geomspace(max(rough_m, 1e-5), MOST_ROUGH_SHARE * bore_m, STEPS)
    return [blocked, Suspect(kind="rough", part=line.id, values=rough, weight=WEIGHTS["rough"])]


def narrowed(suspect: Suspect, low: float, high: float) -> Suspect:
    """Return a suspect that is tried only between two values."""
    even = suspect.kind in ("height", "source")
    values = np.linspace(low, high, STEPS) if even else np.geomspace(low, high, STEPS)
    return replace(suspect, values=values)
