"""Checks: what is looked at, what it costs in minutes, and how each answer fits each cause."""

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Wording, say
from leadsman.core.design import label
from leadsman.core.trouble.cause import STARVING, Cause, named
from leadsman.core.trouble.kinds import KINDS, CauseKind, Symptom

CANNOT_TELL = "unknown"
WALK_M_PER_MIN = 60.0  # over a field, in boots; ours
SURE, FALSE = 0.9, 0.06  # how often a look finds its own cause, and one that is not there; ours
# how often a look says yes though another kind is behind it
ALSO: dict[tuple[CauseKind, CauseKind], float] = {
    ("seat", "float_up"): 0.9, ("seat", "set_low"): 0.9, ("seat", "valve_ice"): 0.85, ("float_up", "set_low"): 0.8,
    ("float_up", "valve_ice"): 0.4, ("valve_ice", "frost"): 0.5, ("frost", "valve_ice"): 0.4,
    ("caught", "holed"): 0.7, ("caught", "set_high"): 0.7, ("caught", "grit"): 0.15, ("grit", "caught"): 0.3,
    ("vortex", "store_empty"): 0.6, ("store_empty", "vortex"): 0.6, ("store_empty", "pump_off"): 0.7,
    ("pump_off", "store_empty"): 0.2, ("leak", "joint"): 0.7, ("leak", "split"): 0.8, ("joint", "split"): 0.15,
    ("set_high", "pressure"): 0.5, ("set_high", "grit"): 0.5, ("set_high", "washer"): 0.5, ("set_high", "holed"): 0.2,
    ("first_air", "air"): 0.4, ("dirt", "bottom"): 0.4, ("cushion", "leak"): 0.4, ("others", "filter"): 0.2,
    ("others", "dirt"): 0.2, ("others", "leak"): 0.2,
}  # fmt: skip
# whether another outlet runs, by whether the cause leaves it short: nothing, weak, well
SHORT_RUNS = {"low": (0.65, 0.28, 0.07), "slow": (0.1, 0.75, 0.15), "nothing": (0.8, 0.15, 0.05)}
OTHER_RUNS = (0.04, 0.11, 0.85)
MOST_RUNS_ASKED = 6


@dataclass(frozen=True, kw_only=True)
class Answer:
    """One answer, and how likely it is where each cause is behind the trouble, by the cause's id."""

    answer_id: str
    text: str
    likely: Mapping[str, float]


@dataclass(frozen=True, kw_only=True)
class Check:
    """One thing to look at: at a part, in so many minutes with the walk there."""

    check_id: str
    told: Wording
    part: str
    minutes: float
    answers: tuple[Answer, ...]


def checks(analysis: Analysis, symptom: Symptom, part: str, found: Sequence[Cause]) -> list[Check]:
    """Return all that could be looked at to tell causes apart."""
    here = _spot(analysis, part)
    looks = [_look(analysis, cause, found, here) for cause in found]
    runs = list(_runs(analysis, symptom, part, found, here)) if symptom in STARVING else []
    return [*looks, *runs]


def _look(analysis: Analysis, cause: Cause, found: Sequence[Cause], here: tuple[float, float] | None) -> Check:
    kind = KINDS[cause.kind]

    def yes(other: Cause) -> float:
        if other.cause_id == cause.cause_id:
            return SURE
        near = other.part == cause.part or other.short <= cause.short
        return ALSO.get((cause.kind, other.kind), FALSE) if near else FALSE

    likely = {other.cause_id: yes(other) for other in found}
    line = analysis.model.layout.lines.get(cause.part)
    along = line.pipe_length_m if line is not None and cause.at_m is None else 0.0
    walk_min = (_distance_m(here, _spot(analysis, cause.part, cause.at_m)) + along) / WALK_M_PER_MIN
    return Check(
        check_id=f"look:{cause.cause_id}",
        told=say(kind.look, named(analysis, cause)),
        part=cause.part,
        minutes=kind.minutes + walk_min,
        answers=(
            Answer(answer_id="yes", text=kind.yes, likely=likely),
            Answer(answer_id="no", text=kind.no, likely={name: 1.0 - share for name, share in likely.items()}),
            _cannot_tell(found),
        ),
    )


def _cannot_tell(found: Sequence[Cause]) -> Answer:
    return Answer(answer_id=CANNOT_TELL, text="Can't tell", likely={one.cause_id: 1.0 for one in found})


def _runs(
    analysis: Analysis, symptom: Symptom, part: str, found: Sequence[Cause], here: tuple[float, float] | None
) -> Iterator[Check]:
    """Yield, for other outlets that may share the fault, whether they run, those that are near first."""
    sharing = frozenset().union(*(cause.short for cause in found))
    layout = analysis.model.layout
    own = {part} | {outlet.id for outlet in analysis.fed_outlets if outlet.fills == part}
    others = [layout.outlets[name] for name in sharing - own]
    others.sort(key=lambda outlet: (_distance_m(here, _spot(analysis, outlet.id)), outlet.id))
    shares = SHORT_RUNS.get(symptom, SHORT_RUNS["low"])
    for outlet in others[:MOST_RUNS_ASKED]:
        rows = {cause.cause_id: shares if outlet.id in cause.short else OTHER_RUNS for cause in found}
        texts = (("nothing", "Nothing"), ("weak", "Weak"), ("well", "Runs well"))
        yield Check(
            check_id=f"runs:{outlet.id}",
            told=say("Lift the float of {} or open it: does it run?", label(outlet)),
            part=outlet.id,
            minutes=1.0 + _distance_m(here, _spot(analysis, outlet.id)) / WALK_M_PER_MIN,
            answers=(
                *(
                    Answer(answer_id=name, text=text, likely={key: row[i] for key, row in rows.items()})
                    for i, (name, text) in enumerate(texts)
                ),
                _cannot_tell(found),
            ),
        )


def _spot(analysis: Analysis, part: str, at_m: float | None = None) -> tuple[float, float] | None:
    """Return where a part stands on the plan [m east, north]; of a line where it begins, or so far along it."""
    layout = analysis.model.layout
    if part in layout.lines:
        line = layout.lines[part]
        way = layout.way_of(line)
        share = 0.0 if at_m is None else at_m / line.pipe_length_m
        (x0, y0), (x1, y1) = way[0], way[-1]
        return x0 + share * (x1 - x0), y0 + share * (y1 - y0)
    owner = layout.outlets.get(part) or layout.vessels.get(part)
    if owner is None:
        inflow = next((one for one in analysis.document.inflows if one.id == part), None)
        owner = layout.vessels.get(inflow.fills) if inflow is not None else None
    place = layout.places.get(owner.place) if owner is not None else None
    return None if place is None else (place.east_m, place.north_m)


def _distance_m(here: tuple[float, float] | None, there: tuple[float, float] | None) -> float:
    return 0.0 if here is None or there is None else math.dist(here, there)
