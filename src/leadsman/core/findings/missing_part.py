"""Parts that a line lacks: a check valve after a tee, a tap to shut it with, a drain before frost, a filter."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.drain_back import DrainBack, drain_backs
from leadsman.core.analysis.profile import Extreme, PipeProfile
from leadsman.core.analysis.route import Leg
from leadsman.core.analysis.vessel_end import AT_VESSEL_M, VesselEnd, has_tap, vessel_ends
from leadsman.core.base.units import LITRE_M3, MILLIMETRE_M, MINUTE_S, m_from_mm
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue.product import PartKind
from leadsman.core.design import FloatValveOutlet, Line, label
from leadsman.core.design.fitted import part_document
from leadsman.core.farm.daily_weather import daily_weather
from leadsman.core.findings.registry import Finding, Judgement, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, drains, sold_part, that_end, that_help, with_parts
from leadsman.core.findings.velocity import carries_silt
from leadsman.core.physics.orifice import seat_bore_m

LASTS = Question.HOW_LONG_DOES_IT_LAST
NEAR_END_M = 0.5  # where a part offered sits, from the end of its line
SMALL_SEAT_MM = 5.0  # what grit of a spring or roof blocks; ours, no source
FREEZES_C = 0.0
# of water pipes in the ground: UK Water Supply (Water Fittings) Regulations 1999, schedule 2, from memory; for a mild
# climate: ask what frost depth is usual where you are
SAFE_COVER_M = 0.75
DRAINS = ("drain", "tap_point")


@judgement("no-check-valve", "A rising pipe drains back past a tee", LASTS)
def no_check_valve(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel filled over its top past a tee to a lower outlet, where no check valve holds the upper line."""
    for back in drain_backs(analysis) if analysis.state.converged else ():
        filled, lower = label(back.filled), label(back.outlet)
        litres = Quantity(value=back.volume_m3 / LITRE_M3, unit="L", digits=1)
        again = Quantity(value=back.again_s / MINUTE_S, unit="min", digits=1) if back.again_s is not None else None
        when: Wording = (
            say("While {} runs it takes all the flow, and nothing reaches {}: ", lower, filled)
            if back.takes_all
            else say("Each time the feed stops and {} is emptied, ", lower)
        )
        yield Finding(
            severity=Severity.FIX,
            where=back.filled.id,
            value=litres.value,
            limit=0.0,
            unit="L",
            headline=say("The line up to {} drains back through {}", filled, lower),
            why=(
                *when,
                *say("{} run back out of the line above the tee", litres),
                *(say(", and the feed takes {} to fill it again. ", again) if again else say(". ")),
                *say("A check valve just after the tee holds them."),
            ),
            try_remedies=partial(_checked, analysis, back),
            spot=(back.tee_leg.line.id, 0.0 if back.tee_leg.forward else back.tee_leg.line.pipe_length_m),
        )


def _checked(analysis: Analysis, back: DrainBack) -> list[Remedy]:
    leg = back.tee_leg
    if not leg.forward:
        return []  # it would have to pass against the way the line is drawn

    def held_l(after: Analysis) -> float:
        return -sum(
            drained.volume_m3 / LITRE_M3 for drained in drain_backs(after) if drained.filled.id == back.filled.id
        )

    def effect(held: float) -> Wording:
        return say("then {} run back", Quantity(value=abs(held), unit="L", digits=1))

    candidates = [_with(analysis, leg, "check_valve", leg.start_m)]
    return that_help(analysis, [candidate for candidate in candidates if candidate], held_l, effect, 0.0)


def _with(analysis: Analysis, leg: Leg, kind: PartKind, at_route_m: float) -> Candidate | None:
    """Return a part put into a leg at a distance along its route; None where none of its kind is sold."""
    along = at_route_m - leg.start_m
    at_m = along if leg.forward else leg.line.pipe_length_m - along
    at_m = min(max(at_m, min(NEAR_END_M, leg.line.pipe_length_m / 2)), leg.line.pipe_length_m)
    bore_m = analysis.model.reaches_of_line(leg.line.id)[0].bore_m
    product = sold_part(kind, bore_m)
    if product is None:
        return None
    text = say("{} at {} along {}", product.spoken, Quantity(value=at_m, unit="m", digits=1), label(leg.line))
    return with_parts(analysis, text, [(leg.line, part_document(product, at_m, bore_m))])


def _that_end(
    analysis: Analysis, judge: Judgement, where: str, leg: Leg, kind: PartKind, at_m: float, text: str
) -> list[Remedy]:
    candidate = _with(analysis, leg, kind, at_m)
    return that_end(analysis, [candidate], judge, where, text) if candidate else []


@judgement("no-isolating-valve", "No stopcock at a vessel", LASTS)
def no_isolating_valve(analysis: Analysis) -> Iterator[Finding]:
    """Yield the vessels that lines leave, and those they fill, without a tap at them: on the way does not count."""
    without = [(vessel, end) for vessel, end in vessel_ends(analysis) if not has_tap(end)]
    for leaves in (True, False):
        ends = [(vessel, end) for vessel, end in without if end.leaves is leaves]
        if not ends:
            continue
        vessel, end = ends[0]
        more = f" and at {len(ends) - 1} more" if len(ends) > 1 else ""
        yield Finding(
            severity=Severity.WATCH,
            where=vessel.id,
            value=float(len(ends)),
            limit=0.0,
            unit="count",
            headline=say("No stopcock at {}{}", label(vessel), more),
            why=(
                *say(
                    "There is no stopcock on {} within {} of it. ",
                    label(end.leg.line),
                    Quantity(value=AT_VESSEL_M, unit="m"),
                ),
                *(
                    say("To repair the line, {} would have to be emptied.", label(vessel))
                    if leaves
                    else say("To clean or move it, or to repair its valve, everything on the line would have to stop.")
                ),
            ),
            try_remedies=partial(_taps, analysis, vessel.id, [end for _, end in ends]),
            spot=end.spot,
        )


def _taps(analysis: Analysis, where: str, ends: list[VesselEnd]) -> list[Remedy]:
    """Return a tap beside each of some vessels, all together."""
    added = []
    for end in ends:
        line, (_, at_m) = end.leg.line, end.spot
        bore_m = analysis.model.reaches_of_line(line.id)[0].bore_m
        product = sold_part("isolating_valve", bore_m)
        near_m = min(NEAR_END_M, line.pipe_length_m / 2)
        if product is not None:
            spot_m = near_m if at_m == 0.0 else at_m - near_m
            added.append((line, part_document(product, spot_m, bore_m)))
    text = say("a stopcock beside it" if len(ends) == 1 else "a stopcock beside each of them")
    return that_end(analysis, [with_parts(analysis, text, added)], no_isolating_valve, where, "then it can be shut off")


@judgement("no-drain", "A low point that holds water in frost", LASTS)
def no_drain(analysis: Analysis) -> Iterator[Finding]:
    """Yield each low point without a drain in a line that frost may reach, where the weather or the case has frost."""
    coldest = None if analysis.document.frost else _coldest_c(analysis)  # a stated frost is judged by itself
    if coldest is None or coldest >= FREEZES_C:
        return
    found: dict[str, dict[int, tuple[PipeProfile, Extreme]]] = {}
    for outlet in analysis.fed_outlets:
        route = analysis.routes[outlet.id]
        profile = PipeProfile(analysis.model, route) if route and route.legs else None
        for low_point in profile.low_points if profile else ():
            line_id = profile.spot(low_point.at_m)[0] if profile else ""
            shallow = analysis.model.layout.lines[line_id].cover_m < SAFE_COVER_M
            if profile and shallow and not profile.has_part(low_point.at_m, DRAINS):
                found.setdefault(line_id, {}).setdefault(low_point.number, (profile, low_point))
    for line_id, low_points in found.items():
        yield _undrained(analysis, line_id, list(low_points.values()), coldest)


def _undrained(
    analysis: Analysis, line_id: str, low_points: list[tuple[PipeProfile, Extreme]], coldest_c: float
) -> Finding:
    (profile, low_point), more, line = low_points[0], len(low_points) - 1, analysis.model.layout.lines[line_id]
    return Finding(
        severity=Severity.WATCH,
        where=line.id,
        value=line.cover_m,
        limit=SAFE_COVER_M,
        unit="m",
        headline=say(
            "The low point {} along {}{} stays full in frost",
            Quantity(value=profile.spot(low_point.at_m)[1], unit="m", digits=0),
            label(line),
            f", with {more} more," if more else "",
        ),
        why=say(
            "It can fall to {}, and water stays in the low point even with both ends open, under {} of cover: it "
            "freezes and splits the pipe. Add a drain there, or bury the pipe below the local frost depth.",
            Quantity(value=coldest_c, unit="°C"),
            Quantity(value=line.cover_m, unit="m"),
        ),
        try_remedies=partial(_drained, analysis, line, [profile.spot(low.at_m)[1] for profile, low in low_points]),
        spot=profile.spot(low_point.at_m),
    )


def _drained(analysis: Analysis, line: Line, spots_m: list[float]) -> list[Remedy]:
    return that_end(analysis, drains(analysis, line, spots_m), no_drain, line.id, "then it can be emptied")


def _coldest_c(analysis: Analysis) -> float | None:
    """Return the lowest temperature of the air in the chosen case and in the weather of the season [°C]."""
    case = analysis.scenario
    told = [case.air_c, *([case.least_air_c] if case.least_air_c is not None else [])]
    season = analysis.design.season
    least = daily_weather(season.weather).least_c if season is not None else None
    return min([*told, *([] if least is None else [float(bound) for bound in least])])


@judgement("no-filter", "Grit may block a small seat", LASTS)
def no_filter(analysis: Analysis) -> Iterator[Finding]:
    """Yield each float valve with a small opening on unfiltered water from a spring, a stream or a roof."""
    for outlet in analysis.fed_outlets:
        route = analysis.routes[outlet.id]
        if not isinstance(outlet, FloatValveOutlet) or route is None or not carries_silt(analysis, route.vessel):
            continue
        seat_m = seat_bore_m(outlet.valve.kv_m3h)
        filtered = any(part.kind == "filter" for leg in route.legs for part in leg.line.inline)
        if filtered or seat_m >= m_from_mm(SMALL_SEAT_MM):
            continue
        leg = route.legs[-1]
        yield Finding(
            severity=Severity.WATCH,
            where=outlet.id,
            value=seat_m / MILLIMETRE_M,
            limit=SMALL_SEAT_MM,
            unit="mm",
            headline=say("Grit may block the valve of {}, or hold it open", label(outlet)),
            why=say(
                "Its opening is about {} wide, and the water comes from {} without a filter. A grain under the seat "
                "keeps it running; a grain before it stops the flow.",
                Quantity(value=seat_m / MILLIMETRE_M, unit="mm", digits=1),
                label(route.vessel),
            ),
            try_remedies=partial(_that_end, analysis, no_filter, outlet.id, leg, "filter", leg.end_m - NEAR_END_M,
                    "then grit stays before it: clean it when the flow falls"),
        )  # fmt: skip
