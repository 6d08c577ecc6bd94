"""Plans of one or more systems: tanks on the hill, troughs below them, and what joins the two."""

from typing import Any

from examples import Document
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design

SHAPE = {"kind": "box", "length_m": 2.0, "width_m": 1.0, "height_m": 2.0}  # 2,000 L in each metre
TANKS, TROUGHS = {"a": 120.0, "b": 120.0}, {"x": 100.0, "y": 100.0}
NEEDS = {"x": 400.0, "y": 1_000.0}


def farm(lines: list[dict[str, Any]], tanks: dict[str, float] = TANKS, troughs: dict[str, float] = TROUGHS) -> Document:
    """Tanks 1.5 m full and troughs on their ground [m], a spring on each tank, and a herd at each trough's valve."""
    ends = tanks | troughs | {f"j{line['id']}": 100.0 for line in lines}
    places = [
        {"id": f"at-{id_}", "east_m": 50 * i, "north_m": 0, "ground_m": h} for i, (id_, h) in enumerate(ends.items())
    ]
    return {
        "format": "leadsman-design", "version": 1, "name": "Systems", "places": places,
        "site": {"name": "Tamsel Ridge"},
        "vessels": [{"id": tank, "place": f"at-{tank}", "shape": SHAPE, "level_m": 1.5} for tank in tanks],
        "lines": [{"bore_mm": 27.2, "roughness_mm": 0.007, "length_m": 100.0, **line} for line in lines],
        "outlets": [{"id": trough, "place": f"at-{trough}", "kind": "float_valve", "height_m": 0.5,
                     "valve": {"kv_m3h": 2.0, "closes_at_m": 0.4, "band_m": 0.05}} for trough in troughs],
        "herds": [{"id": f"herd-{trough}", "class": "goats", "head": 10, "intake_lpd": NEEDS[trough] / 10,
                   "outlet": trough}
                  for trough in troughs],
        "inflows": [{"id": f"spring-{tank}", "kind": "spring", "fills": tank, "claimed_lpm": 0.5} for tank in tanks],
        "scenarios": [{"id": "day", "air_c": 20.0}],
    }  # fmt: skip


def line(id_: str, start: str, end: str, **more: Any) -> dict[str, Any]:
    return {"id": id_, "from": start, "to": end, **more}


APART = [line("ax", "a", "x"), line("by", "b", "y")]


def judged(document: Document) -> Analysis:
    return Analysis(read_design(document))
