"""What to measure next: the readings whose better accuracy would most narrow what an outlet may get."""

from dataclasses import dataclass
from typing import Literal

from leadsman.core.analysis.ranges import Range
from leadsman.core.analysis.running import Running
from leadsman.core.analysis.uncertainty import part_of
from leadsman.core.design import Design, OutletBase

LEVELLED_M = 0.02  # what level and staff or a hose level leave of a height's error; our own
REMAINS = 0.2  # of any other figure's interval once it was measured; our own
SUPPOSED_M = 1.0  # the error of a height of which nobody said how good it is; our own
COUNTS = 0.03  # of a range's width: what narrows it by less is good enough

Measured = Literal["height", "valve", "fittings", "bore", "roughness"]
KINDS: dict[str, Measured] = {
    "place_rise_m": "height", "kv_factor": "valve", "fitting_factor": "fittings", "bore_m": "bore",
    "roughness_m": "roughness",
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class NextReading:
    """One reading, the outlet whose flow it narrows most, and that flow's worst and best before and after [m3/s].

    `limit_m3s` is what is wanted there, or 0 where it only has to run at all. `turns` says that the range crosses
    it, `settles` that it no longer would; `is_stated` is False of a height of which nobody said how good it is.
    """

    kind: Measured
    part_id: str
    outlet_id: str
    limit_m3s: float
    before: tuple[float, float]
    after: tuple[float, float]
    turns: bool
    settles: bool
    is_stated: bool
    narrows: float


def next_readings(running: Running) -> list[NextReading]:
    """Return the readings worth taking, first those that settle an answer, then by how much they narrow it.

    Heights of which nobody said how good they are count as good to a metre here. A reading is listed once, for
    the outlet of which it says most; each figure acts on a range by its own share of it, as at the likely answer.
    """
    unsaid = {place.id for place in running.document.places if place.height_error_m is None}
    judged = Running(_supposed(running.document), check_cancelled=running.check_cancelled) if unsaid else running
    best: dict[tuple[Measured, str], NextReading] = {}
    for outlet in judged.fed_outlets:
        found = judged.flow_range(outlet)
        if found is None or not found.best > found.worst:
            continue
        for reading in _of_outlet(judged, outlet, found, unsaid):
            known = best.get((reading.kind, reading.part_id))
            if known is None or _rank(reading) < _rank(known):
                best[reading.kind, reading.part_id] = reading
    return sorted(best.values(), key=_rank)


def _rank(reading: NextReading) -> tuple[bool, bool, float]:
    return not reading.turns, not reading.settles, -reading.narrows


def _supposed(design: Design) -> Design:
    places = [
        place if place.height_error_m is not None else place.model_copy(update={"height_error_m": SUPPOSED_M})
        for place in design.places
    ]
    return design.model_copy(update={"places": places})


def _of_outlet(running: Running, outlet: OutletBase, found: Range, unsaid: set[str]) -> list[NextReading]:
    limit = running.wanted_m3s(outlet) or 0.0
    down, up = found.shares
    taken: dict[tuple[Measured, str], tuple[float, float]] = {}
    for (kind, number), low, high in zip(found.columns, down.tolist(), up.tolist(), strict=True):
        if kind in KINDS:
            key = KINDS[kind], part_of(running.model.plumbing, kind, number).id
            known, gone = taken.get(key, (0.0, 0.0)), 1.0 - _remains(running, kind, number)
            taken[key] = known[0] + low * gone, known[1] + high * gone
    width = found.best - found.worst
    listed = []
    for (kind, part_id), (low, high) in taken.items():
        worst = found.worst + low * (found.likely - found.worst)
        best = found.best - high * (found.best - found.likely)
        narrows = 1.0 - (best - worst) / width
        if narrows <= COUNTS:
            continue
        turns = _crosses(limit, found.worst, found.best)
        listed.append(
            NextReading(
                kind=kind,
                part_id=part_id,
                outlet_id=outlet.id,
                limit_m3s=limit,
                before=(found.worst, found.best),
                after=(worst, best),
                turns=turns,
                settles=turns and not _crosses(limit, worst, best),
                is_stated=kind != "height" or part_id not in unsaid,
                narrows=narrows,
            )
        )
    return listed


def _crosses(limit: float, worst: float, best: float) -> bool:
    return worst < limit <= best if limit else worst <= 0.0 < best


def _remains(running: Running, kind: str, number: int) -> float:
    if kind != "place_rise_m":
        return REMAINS
    error = running.design.places[number].height_error_m or 0.0
    return min(1.0, LEVELLED_M / error) if error else 1.0
