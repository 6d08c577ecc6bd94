"""Air in a line: whether the first water gets through at all, and whether what gathers later is carried out."""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.first_water import STAYS_UNDER_PRESSURE_M, FirstWater
from leadsman.core.analysis.profile import Extreme, PipeProfile
from leadsman.core.base.wording import Quantity, Wording, listed, say
from leadsman.core.design import label
from leadsman.core.design.fitted import part_document
from leadsman.core.findings.registry import Finding, LineSpot, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, sold_part, that_end, that_help, with_parts
from leadsman.core.findings.running_profile import running_profiles
from leadsman.core.findings.settling import what_would_settle
from leadsman.core.physics.clearing import air_clearing_velocity_ms


@judgement("air-lock", "Air may block the first water", Question.DOES_IT_RUN)
def air_lock(analysis: Analysis) -> Iterator[Finding]:
    """Yield the outlets whose line, filled from empty, keeps so much air behind its high points that no water comes.

    Of those behind the same high point the one that lacks most is told. A watch where only the errors of the heights
    could make it so.
    """
    behind: dict[LineSpot | None, list[FirstWater]] = {}
    for first in analysis.first_waters.values():
        if first.stands_over_all and first.margin_m < sum(effect for effect, _ in first.causes):
            spot = first.profile.spot(first.profile.high_points[0].at_m) if first.profile.high_points else None
            behind.setdefault(spot, []).append(first)
    for spot, found in behind.items():
        first = min(found, key=lambda candidate: candidate.margin_m)
        blocked = first.margin_m < 0.0
        end_m = first.profile.extremes[-1].pipe_m
        stands, needs = (
            Quantity(value=height - end_m, unit="m") for height in (first.surface_m, first.filling.needed_m)
        )
        air = Quantity(value=sum(pocket.squeezed_m for pocket in first.filling.pockets), unit="m")
        yield Finding(
            severity=Severity.FIX if blocked else Severity.WATCH,
            where=first.outlet.id,
            value=stands.value,
            limit=needs.value,
            unit="m",
            headline=say(
                "Air may block the water to {}{} when the line fills",
                label(first.outlet),
                f" and {len(found) - 1} more" if found[1:] else "",
            ),
            why=(
                *say("Air trapped behind {} holds back {} of water. ", _high_points(first), air),
                *say("The source stands {} over the last rise, and {} are needed. ", stands, needs),
                *(_advice(first) if blocked else what_would_settle(first.margin_m, first.causes)),
            ),
            try_remedies=partial(_vents, analysis, first),
            spot=spot,
        )


def _high_points(first: FirstWater) -> str:
    count = len(first.filling.pockets)
    return "one high point" if count == 1 else f"{count} high points"


def _advice(first: FirstWater) -> Wording:
    if first.cures:
        return say("A vent lets it out where the pressure line stays above the pipe; or fill the line from the bottom.")
    return say(
        "Lay the pipe without high points, or fill it from the bottom: a vent at a point under suction would "
        "draw air in."
    )


def _vents(analysis: Analysis, first: FirstWater) -> list[Remedy]:
    def margin_m(after: Analysis) -> float | None:
        filled = after.first_waters.get(first.outlet.id)
        return filled.margin_m if filled else None

    def effect(margin: float) -> Wording:
        return say("the source then stands {} over what it takes", Quantity(value=margin, unit="m"))

    candidates = [_vented(analysis, first.profile, high_points) for high_points in first.cures]
    return that_help(analysis, candidates, margin_m, effect, 0.0)


def _vented(analysis: Analysis, profile: PipeProfile, high_points: list[Extreme]) -> Candidate:
    added, said = [], []
    for high_point in high_points:
        line_id, at_m = profile.spot(high_point.at_m)
        bore_m = profile.bore_m(high_point.at_m)
        product, line = sold_part("vent", 0.0), analysis.model.layout.lines[line_id]
        part = part_document(product, at_m, bore_m) if product else {"kind": "vent", "at_m": at_m}
        added.append((line, part))
        said.append(say("{} along {}", Quantity(value=at_m, unit="m", digits=0), label(line)))
    return with_parts(analysis, say("{} at {}", "a vent" if len(high_points) == 1 else "vents", listed(said)), added)


@judgement("air-not-cleared", "Water too slow to carry air out past a high point", Question.HOW_FAST)
def air_not_cleared(analysis: Analysis) -> Iterator[Finding]:
    """Yield each high point without a vent before a low point, where the flow with all open does not clear the air."""
    found: dict[str, dict[int, _Slow]] = {}
    for _, _, profile in running_profiles(analysis):
        turns, vented = profile.extremes, profile.vented()
        for i in range(0, len(turns) - 2, 2):
            slow = _slow(analysis, profile, turns[i], turns[i + 1]) if i // 2 not in vented else None
            if slow is not None:
                found.setdefault(profile.spot(turns[i].at_m)[0], {}).setdefault(turns[i].number, slow)
    for line_id, high_points in found.items():
        yield _uncleared(
            analysis,
            line_id,
            sorted(high_points.values(), key=lambda high_point: high_point.runs_ms / high_point.clears_ms),
        )


@dataclass(frozen=True, kw_only=True)
class _Slow:
    """A high point past which water runs too slowly to carry air down: its velocity, and what would [m/s]."""

    profile: PipeProfile
    high_point: Extreme
    runs_ms: float
    clears_ms: float
    under_pressure: bool


def _slow(analysis: Analysis, profile: PipeProfile, high_point: Extreme, low_point: Extreme) -> _Slow | None:
    middle = (high_point.at_m + low_point.at_m) / 2.0
    runs = abs(analysis.state.flow.line_flow_m3s(profile.spot(middle)[0])) / profile.area_m2(middle)
    clears = air_clearing_velocity_ms(profile.bore_m(middle), profile.mean_fall(high_point.at_m, low_point.at_m))
    under_pressure = float(analysis.state.flow.over_pipe_m[high_point.number]) > STAYS_UNDER_PRESSURE_M
    return (
        _Slow(profile=profile, high_point=high_point, runs_ms=runs, clears_ms=clears, under_pressure=under_pressure)
        if 0.0 < runs < clears
        else None
    )


def _uncleared(analysis: Analysis, line_id: str, slow: list[_Slow]) -> Finding:
    worst, line = slow[0], analysis.model.layout.lines[line_id]
    at_m = Quantity(value=worst.profile.spot(worst.high_point.at_m)[1], unit="m", digits=0)
    more = "" if len(slow) == 1 else f", and at {len(slow) - 1} more"
    under_pressure = [stretch for stretch in slow if stretch.under_pressure]
    return Finding(
        severity=Severity.WATCH,
        where=line_id,
        value=worst.runs_ms,
        limit=worst.clears_ms,
        unit="m/s",
        headline=say("Air may collect at the high point {} along {}{}", at_m, label(line), more),
        why=say(
            "All running it runs at {} there, and {} carry air down and out. What comes out of the water stays: "
            "the line gives less from month to month, or splutters. {}",
            Quantity(value=worst.runs_ms, unit="m/s"),
            Quantity(value=worst.clears_ms, unit="m/s"),
            "A vent, or a tap opened now and then, lets it out." if under_pressure else "Lay the pipe lower there.",
        ),
        try_remedies=partial(_vents_at, analysis, line_id, under_pressure),
        spot=worst.profile.spot(worst.high_point.at_m),
    )


def _vents_at(analysis: Analysis, line_id: str, slow: list[_Slow]) -> list[Remedy]:
    if not slow:
        return []
    candidates = [_vented(analysis, slow[0].profile, [stretch.high_point for stretch in slow])]
    return that_end(analysis, candidates, air_not_cleared, line_id, "lets the air out there")
