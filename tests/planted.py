"""Made-up lines with a fault planted in them, and what a pail and a gauge would show on them.

The flows come from fluids' friction factor and scipy's root finder on a tree of pipes: nothing of the code under test.
"""

import random
from dataclasses import dataclass, replace
from typing import Any

import fluids
import numpy as np
from scipy.optimize import least_squares

from leadsman.core.calibration.reading import Drawing, Measured, Reading, ReadingKind

DENSITY_KGM3, VISCOSITY_M2S, GRAVITY_MS2 = 999.7, 1.3063e-6, 9.80665  # water of 10 °C
KINDS = ("rough", "blocked", "valve", "height", "source")
SHOWS = 5.0  # errors that a fault has to move some reading by: one that shows at all


@dataclass(frozen=True)
class Pipe:
    start: str
    end: str
    length_m: float
    bore_m: float
    rough_m: float = 7e-6
    k: float = 0.0

    def loss_m(self, flow_m3s: float) -> float:
        if flow_m3s <= 0.0:
            return 0.0
        velocity = flow_m3s / (np.pi / 4.0 * self.bore_m**2)
        reynolds = velocity * self.bore_m / VISCOSITY_M2S
        factor = fluids.friction_factor(Re=reynolds, eD=self.rough_m / self.bore_m)
        return float((factor * self.length_m / self.bore_m + self.k) * velocity**2 / (2.0 * GRAVITY_MS2))


@dataclass(frozen=True)
class Farm:
    """A main from a tank over joints, an outlet on a spur at each joint; heights on the datum [m]."""

    surface_m: float
    pipes: dict[str, Pipe]
    height_m: dict[str, float]
    kv_m3h: dict[str, float]

    def way(self, node: str) -> list[str]:
        into = {pipe.end: name for name, pipe in self.pipes.items()}
        found: list[str] = []
        while node in into:
            found.append(into[node])
            node = self.pipes[into[node]].start
        return found

    def head_m(self, node: str, flows: dict[str, float]) -> float:
        """Head at a node while the outlets draw so much [m3/s]."""
        carried = {name: sum(q for outlet, q in flows.items() if name in self.way(outlet)) for name in self.pipes}
        return self.surface_m - sum(self.pipes[name].loss_m(carried[name]) for name in self.way(node))

    def valve_m(self, outlet: str, flow_m3s: float) -> float:
        kpa = 100.0 * (flow_m3s * 3600.0 / self.kv_m3h[outlet]) ** 2
        return kpa * 1000.0 / (DENSITY_KGM3 * GRAVITY_MS2)

    def flows(self, drawing: list[str]) -> dict[str, float]:
        """Flow of each outlet that draws [m3/s], by least squares on what is left of the head at each."""

        def left(scaled: Any) -> list[float]:
            flows = {outlet: float(q) * 1e-4 for outlet, q in zip(drawing, scaled, strict=True)}
            return [self.head_m(o, flows) - self.height_m[o] - self.valve_m(o, q) for o, q in flows.items()]

        solved = least_squares(left, [2.0] * len(drawing), bounds=(0.0, np.inf), xtol=1e-12, ftol=1e-12, gtol=1e-12)
        return {outlet: float(q) * 1e-4 for outlet, q in zip(drawing, solved.x, strict=True)}


def made_up(chance: random.Random) -> Farm:
    """A farm of three to five outlets."""
    pipes, heights, kv = {}, {"tank": 0.0}, {}
    before, ground_m = "tank", 100.0
    for number in range(chance.randint(3, 5)):
        joint, outlet = f"joint-{number}", f"valve-{number}"
        ground_m -= chance.uniform(6.0, 14.0)
        pipes[f"main-{number}"] = Pipe(before, joint, chance.uniform(60.0, 200.0), 0.0352)
        pipes[f"spur-{number}"] = Pipe(joint, outlet, chance.uniform(30.0, 90.0), 0.0204)
        heights |= {joint: ground_m, outlet: ground_m - chance.uniform(1.0, 6.0)}
        kv[outlet] = chance.uniform(0.6, 1.6)
        before = joint
    return Farm(100.0 + 1.5, pipes, heights, kv)


def document_of(farm: Farm) -> dict[str, Any]:
    """The plan of a farm as it is drawn, heights within 0.3 m."""
    places = [{"id": "hill", "east_m": 0, "north_m": 0, "ground_m": 100.0, "height_error_m": 0.3}]
    nodes = [node for node in farm.height_m if node != "tank"]
    at = {node: f"place-{node}" if node.startswith("valve") else node for node in nodes}
    places += [
        {"id": at[node], "east_m": 10.0 * number, "north_m": 0, "ground_m": farm.height_m[node], "height_error_m": 0.3}
        for number, node in enumerate(nodes, start=1)
    ]
    box = {"kind": "box", "length_m": 2.0, "width_m": 0.5, "height_m": 0.6}
    troughs = [
        {"id": f"trough-{outlet}", "role": "trough", "place": at[outlet], "shape": box, "level_m": 0.1}
        for outlet in farm.kv_m3h
    ]
    tank = {"kind": "upright_cylinder", "diameter_m": 2.0, "height_m": 2.2}
    lines = [
        {
            "id": name, "from": pipe.start, "to": pipe.end, "length_m": pipe.length_m, "bore_mm": 1000.0 * pipe.bore_m,
            "roughness_mm": 1000.0 * pipe.rough_m, "inline": [{"kind": "filter", "at_m": 2.0}],
        }
        for name, pipe in farm.pipes.items()
    ]  # fmt: skip
    outlets = [
        {
            "id": outlet, "kind": "float_valve", "place": at[outlet], "fills": f"trough-{outlet}",
            "valve": {"kv_m3h": kv, "closes_at_m": 0.5, "band_m": 0.06},
        }
        for outlet, kv in farm.kv_m3h.items()
    ]  # fmt: skip
    return {
        "format": "leadsman-design", "version": 1, "name": "Planted",
        "site": {"name": "Tamsel Ridge", "altitude_m": 200, "water_c": 10}, "places": places,
        "vessels": [{"id": "tank", "place": "hill", "shape": tank, "level_m": 1.5}, *troughs],
        "lines": lines, "outlets": outlets,
    }  # fmt: skip


def faulty(farm: Farm, kind: str, chance: random.Random) -> tuple[str, Farm]:
    """A farm with one fault of a kind: the part that is off, by the id the plan gives it, and the farm as it is."""
    pipe, outlet = chance.choice(sorted(farm.pipes)), chance.choice(sorted(farm.kv_m3h))
    match kind:
        case "rough":
            rough = replace(farm.pipes[pipe], rough_m=chance.uniform(2e-4, 8e-4))
            return pipe, replace(farm, pipes={**farm.pipes, pipe: rough})
        case "blocked":
            blocked = replace(farm.pipes[pipe], k=10.0 ** chance.uniform(1.5, 3.5))
            return pipe, replace(farm, pipes={**farm.pipes, pipe: blocked})
        case "valve":
            share = chance.uniform(0.15, 0.6)
            return outlet, replace(farm, kv_m3h={**farm.kv_m3h, outlet: share * farm.kv_m3h[outlet]})
        case "height":
            rise_m = chance.choice((-1.0, 1.0)) * chance.uniform(2.0, 5.0)
            higher = {**farm.height_m, outlet: farm.height_m[outlet] + rise_m}
            return f"place-{outlet}", replace(farm, height_m=higher)
    return "tank", replace(farm, surface_m=farm.surface_m - chance.uniform(2.0, 4.0))


def scattered(farm: Farm, chance: random.Random) -> Farm:
    """The farm as it stands in truth: heights and valves as far off as the plan allows for."""
    return replace(
        farm,
        height_m={node: height + chance.uniform(-0.25, 0.25) for node, height in farm.height_m.items()},
        kv_m3h={outlet: kv * chance.uniform(0.93, 1.07) for outlet, kv in farm.kv_m3h.items()},
    )


def shown(farm: Farm) -> dict[tuple[ReadingKind, str, Drawing], float]:
    """What a pail and a gauge would show without any error: outlets alone and together, gauges there and at joints."""
    found: dict[tuple[ReadingKind, str, Drawing], float] = {}
    outlets = sorted(farm.kv_m3h)
    together = farm.flows(outlets)
    cases: list[tuple[Drawing, dict[str, float], list[str]]] = [("all", together, outlets), ("none", {}, outlets)]
    cases += [("alone", farm.flows([outlet]), [outlet]) for outlet in outlets]
    for drawing, flows, read in cases:
        for outlet in read:
            if drawing != "none":
                found["flow", outlet, drawing] = flows[outlet]
            found["pressure", outlet, drawing] = pressure(farm, outlet, flows)
        if drawing == "all":
            found |= {
                ("pressure", j, drawing): pressure(farm, j, flows) for j in farm.height_m if j.startswith("joint")
            }
    return found


def pressure(farm: Farm, node: str, flows: dict[str, float]) -> float:
    return (farm.head_m(node, flows) - farm.height_m[node]) * DENSITY_KGM3 * GRAVITY_MS2


def error(kind: ReadingKind, value: float) -> float:
    return max(2e-6, 0.03 * value) if kind == "flow" else max(4000.0, 0.016 * value)


def read_off(values: dict[tuple[ReadingKind, str, Drawing], float], chance: random.Random) -> Measured:
    """The same as somebody reads it: with errors."""
    readings = [
        Reading(
            kind=kind, part=part, drawing=drawing, value=value + chance.gauss(0.0, error(kind, value)),
            error=error(kind, value),
        )
        for (kind, part, drawing), value in values.items()
    ]  # fmt: skip
    return Measured(readings=readings, levels_m={})


def planted(seed: int) -> tuple[Farm, str, str, Measured]:
    """A farm as it is drawn, what is wrong with it: kind and part, and what was read. Such a fault shows."""
    chance = random.Random(seed)
    kind = KINDS[seed % len(KINDS)]
    while True:
        farm = made_up(chance)
        part, wrong = faulty(farm, kind, chance)
        before, after = shown(farm), shown(wrong)
        if any(abs(after[key] - value) > SHOWS * error(key[0], value) for key, value in before.items()):
            return farm, kind, part, read_off(shown(scattered(wrong, chance)), chance)
