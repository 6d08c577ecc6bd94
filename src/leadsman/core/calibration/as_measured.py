"""The plan as it was measured: its document with the part that is off changed."""

from typing import Any

from leadsman.core.calibration.suspect import Suspect
from leadsman.core.design import Design, FloatValveOutlet
from leadsman.core.design.change import JsonPatch
from leadsman.core.design.file import write_design
from leadsman.core.physics.fittings import minor_loss_per_flow2
from leadsman.core.physics.pipe import Pipe

MOST_K = 1e6


def as_measured(design: Design, suspect: Suspect, best: float, pipes: list[Pipe]) -> JsonPatch:
    """Return the JSON Patch that puts a suspect into a document with its best figure; empty where none can say it.

    Args:
        pipes: the pieces of pipe of the line, where the suspect is one.
    """
    match suspect.kind:
        case "rough":
            number = _number(design.lines, suspect.part)
            if design.lines[number].runs:  # of products, which have their own wall
                return []
            return [{"op": "add", "path": f"/lines/{number}/roughness_mm", "value": round(1000.0 * best, 4)}]
        case "blocked":
            number = _number(design.lines, suspect.part)
            bore_m = min(pipe.bore_m for pipe in pipes)
            k = min(MOST_K, best / minor_loss_per_flow2(1.0, bore_m))
            fitting = {"k": float(f"{k:.4g}"), "bore_mm": float(f"{1000.0 * bore_m:.6g}")}
            others = write_design(design)["lines"][number].get("fittings", [])
            return [{"op": "add", "path": f"/lines/{number}/fittings", "value": [*others, fitting]}]
        case "valve":
            number = _number(design.outlets, suspect.part)
            outlet = design.outlets[number]
            if not isinstance(outlet, FloatValveOutlet):
                return []
            kv = float(f"{outlet.valve.kv_m3h * best:.4g}")
            return [{"op": "replace", "path": f"/outlets/{number}/valve/kv_m3h", "value": kv}]
        case "height":
            number = _number(design.places, suspect.part)
            ground_m = round(design.places[number].ground_m + best, 2)
            return [{"op": "replace", "path": f"/places/{number}/ground_m", "value": ground_m}]
    if suspect.part not in {vessel.id for vessel in design.vessels}:  # a source under pressure has no level
        return []
    number = _number(design.vessels, suspect.part)
    vessel = design.vessels[number]
    if 0.0 <= vessel.level_m + best <= vessel.brim_m:
        return [{"op": "add", "path": f"/vessels/{number}/level_m", "value": round(vessel.level_m + best, 3)}]
    place = _number(design.places, vessel.place)
    ground_m = round(design.places[place].ground_m + best, 2)
    return [{"op": "replace", "path": f"/places/{place}/ground_m", "value": ground_m}]


def _number(parts: list[Any], part_id: str) -> int:
    return next(number for number, part in enumerate(parts) if part.id == part_id)
