"""Ponds whose pump falls dry by the level of the float, or that overflow when it stops."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import OutletBase, Vessel, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, Ladder, that_help
from leadsman.core.pond.levels import Basin, depth
from leadsman.core.pond.pond import FloatPlace, Pond, ponds

RUNS = Question.DOES_IT_RUN
BELOW_BRIM_M = 0.02  # of a level that is offered; ours, no source
WIDTHS_MM = (32.0, 40.0, 50.0, 63.0, 75.0, 90.0, 110.0, 125.0, 160.0, 200.0)
NEEDY = ("pump", "skimmer")


@judgement("pump-left-dry", "A pump or skimmer is left dry by the level of the float", RUNS)
def pump_left_dry(analysis: Analysis) -> Iterator[Finding]:
    """Yield each pond whose pump or skimmer stands dry while the pump runs and the float is only just wide open."""
    for pond in ponds(analysis):
        for basin, lowest_m, needs_m, what in _left_dry(pond):
            here_m, need_m = lowest_m - basin.floor_m, needs_m - basin.floor_m
            fall = say("") if pond.levels is None else say(
                "While it runs the chamber stands {} lower than the pond. ", depth(pond.levels.fall_m)
            )  # fmt: skip
            yield Finding(
                severity=Severity.STOP if here_m <= 0.0 else Severity.FIX,
                where=basin.vessel.id,
                value=max(0.0, here_m),
                limit=need_m,
                unit="m",
                headline=say("{} in {} is left dry: {} of water, and it needs {}", what, label(basin.vessel),
                             depth(max(0.0, here_m)), depth(need_m)),
                why=say(
                    "{}The float is wide open again only at that level. Set it higher, or join pond and chamber by a "
                    "wider pipe.", fall,
                ),
                try_remedies=partial(_wetter, analysis, pond, needs_m - lowest_m),
            )  # fmt: skip


def _left_dry(pond: Pond) -> Iterator[tuple[Basin, float, float, str]]:
    """Yield what is left dry: its basin, the lowest level there and the one it needs [m], and what it is called.

    What the float swims beside is judged where floats are.
    """
    band_m = pond.outlet.valve.band_m if pond.outlet is not None else 0.0
    if pond.levels is not None and pond.chamber is not None and pond.place is not FloatPlace.FILTER:
        lowest = pond.levels.chamber_on_m - band_m
        needs = pond.chamber.needs_m(NEEDY)
        least = pond.chamber.floor_m if needs is None else needs
        if lowest < least or (needs is None and lowest <= least):
            yield pond.chamber, lowest, least, _named(pond.chamber.vessel)
    if pond.place in (FloatPlace.FILTER, FloatPlace.BALANCE) and pond.keeps_m is not None:
        lowest, needs = pond.keeps_m - band_m, pond.basin.needs_m(NEEDY)
        if needs is not None and lowest < needs:
            yield pond.basin, lowest, needs, _named(pond.vessel)


def _named(vessel: Vessel) -> str:
    things = [one for one in vessel.inside if one.kind in NEEDY and one.needs_m is not None]
    most = max(things, key=lambda one: one.needs_m or 0.0, default=None)
    return "The pump" if most is None else most.name or f"The {most.kind}"


def _wetter(analysis: Analysis, pond: Pond, lacks_m: float) -> list[Remedy]:
    """Return the float set higher as far as the brims allow, and a wider pipe to the chamber."""

    def spare_m(after: Analysis) -> float:
        own = ponds(after)[pond.number]
        return min((lowest - needs for _, lowest, needs, _ in _left_dry(own)), default=0.0)

    def effect(spare: float) -> Wording:
        return say("then it is never dry") if spare >= 0.0 else say("then {} lack", depth(-spare))

    tried: list[Candidate | Ladder] = []
    outlet, room_m = pond.outlet, pond.basin.brim_m - BELOW_BRIM_M - (pond.keeps_m or 0.0)
    if outlet is not None and pond.floats_in is not None and not outlet.valve.steps and 0.0 < lacks_m <= room_m:
        level_m = round(outlet.valve.closes_at_m + lacks_m + MILLIMETRE_M / 2.0, 3)
        if level_m <= pond.floats_in.vessel.brim_m:
            tried.append(Candidate(
                say("the float set to {}", Quantity(value=level_m, unit="m", digits=3)),
                _set_to(analysis, outlet, level_m),
            ))  # fmt: skip
    return that_help(analysis, [*tried, *_wider(pond)], spare_m, effect, 0.0)


def _set_to(analysis: Analysis, outlet: OutletBase, level_m: float) -> list[dict[str, Any]]:
    index = [each.id for each in analysis.document.outlets].index(outlet.id)
    return [{"op": "replace", "path": f"/outlets/{index}/valve/closes_at_m", "value": level_m}]


def _wider(pond: Pond) -> list[Ladder]:
    loop = pond.pond.circulation
    if loop is None:
        return []
    path = f"/ponds/{pond.number}/circulation/pipe_mm"
    wider = [width for width in WIDTHS_MM if width > loop.pipe_mm]
    return [Ladder([
        Candidate(
            say("a pipe of {} bore between pond and chamber", Quantity(value=width, unit="mm")),
            [{"op": "replace", "path": path, "value": width}],
        )
        for width in wider
    ])]  # fmt: skip


@judgement("pump-off-floods", "Water runs out of pond or filter when the pump stops", RUNS)
def pump_off_floods(analysis: Analysis) -> Iterator[Finding]:
    """Yield each pond that runs out of itself or its chamber when the pump stops, or was set with the pump off."""
    for pond in ponds(analysis):
        if pond.levels is None or pond.chamber is None:
            continue
        lower = min((pond.chamber, pond.basin), key=lambda basin: basin.brim_m)  # there the water runs out
        over_m, set_off_m = pond.levels.off_m - lower.brim_m, pond.levels.pond_if_set_off_m - pond.basin.brim_m
        if over_m > 0.0:
            yield Finding(
                severity=Severity.FIX,
                where=lower.vessel.id,
                value=over_m / MILLIMETRE_M,
                limit=0.0,
                unit="mm",
                headline=say("{} overflows when the pump stops, by {}", label(lower.vessel), depth(over_m)),
                why=say(
                    "The water of pond, chamber, filter and return pipe then stands at one level. Set the float "
                    "lower, with the pump running, or give {} a higher rim.", label(lower.vessel),
                ),
                try_remedies=partial(lowered, analysis, pond, over_m, _off_under_brim),
            )  # fmt: skip
        elif pond.place is FloatPlace.FILTER and set_off_m > 0.0 and pond.keeps_m is not None:
            yield Finding(
                severity=Severity.WATCH,
                where=pond.chamber.vessel.id,
                value=set_off_m / MILLIMETRE_M,
                limit=0.0,
                unit="mm",
                headline=say("Set the float of {} with the pump running", label(pond.chamber.vessel)),
                why=say(
                    "The pump draws the chamber down by {}: set to the same water with the pump off, the float "
                    "opens as soon as it runs, and the pond overflows by {}.",
                    depth(pond.levels.fall_m), depth(set_off_m),
                ),
                try_remedies=partial(_wider_only, analysis, pond),
            )  # fmt: skip


def _off_under_brim(pond: Pond) -> float:
    if pond.levels is None or pond.chamber is None:
        return 0.0
    return min(pond.chamber.brim_m, pond.basin.brim_m) - pond.levels.off_m


def lowered(analysis: Analysis, pond: Pond, over_m: float, spare_of: Callable[[Pond], float]) -> list[Remedy]:
    """Return the float set lower by what runs over."""
    outlet = pond.outlet
    if outlet is None or outlet.valve.steps:
        return []
    level_m = round(outlet.valve.closes_at_m - over_m - BELOW_BRIM_M, 3)
    if level_m <= 0.0:
        return []
    text = say("the float set to {}", Quantity(value=level_m, unit="m", digits=3))

    def effect(spare: float) -> Wording:
        return say("then {} are left to the rim", depth(max(0.0, spare)))

    return that_help(
        analysis, [Candidate(text, _set_to(analysis, outlet, level_m))],
        lambda after: spare_of(ponds(after)[pond.number]), effect, 0.0,
    )  # fmt: skip


def _wider_only(analysis: Analysis, pond: Pond) -> list[Remedy]:
    def spare_m(after: Analysis) -> float:
        own = ponds(after)[pond.number]
        return 0.0 if own.levels is None else own.basin.brim_m - own.levels.pond_if_set_off_m

    return that_help(analysis, _wider(pond), spare_m, lambda _: say("then it does not overflow either way"), 0.0)
