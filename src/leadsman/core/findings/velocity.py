"""Water that runs too slowly to keep silt moving, or so fast that shutting a tap hammers."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.hammer import Hammer, hammer
from leadsman.core.analysis.profile import Extreme, PipeProfile
from leadsman.core.base.units import kpa_from_pa
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import (
    FloatValveOutlet,
    Line,
    RainInflow,
    RamInflow,
    SpringInflow,
    SteadyInflow,
    Vessel,
    label,
)
from leadsman.core.design.fitted import part_document
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import (
    Candidate,
    Ladder,
    drains,
    larger_pipe,
    smaller_valves,
    sold_part,
    that_end,
    that_help,
    with_parts,
)
from leadsman.core.findings.running_profile import running_profiles
from leadsman.core.physics.clearing import FASTEST_MS, SILT_MS

LETS_SILT_OUT = ("drain",)
DEEP_M = (
    0.5  # of a low point under the lower of the heights beside it: in shallower ones little gathers; ours, no source
)


def carries_silt(analysis: Analysis, vessel: Vessel) -> bool:
    """Whether what fills a vessel brings silt and grit: a spring, a stream, a roof, or open water."""
    kinds = (SpringInflow, RainInflow, RamInflow)
    own = [inflow for inflow in analysis.design.inflows if inflow.fills == vessel.id]
    open_water = any(isinstance(inflow, SteadyInflow) and inflow.kind == "siphon" for inflow in own)
    return vessel.role == "pond" or open_water or any(isinstance(inflow, kinds) for inflow in own)


@judgement("silt-settles", "Water too slow to keep silt moving past a low point", Question.HOW_LONG_DOES_IT_LAST)
def silt_settles(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line that carries silt, unfiltered, too slowly past a low point without a drain."""
    found: dict[str, dict[int, tuple[float, PipeProfile, Extreme]]] = {}
    for _, route, profile in running_profiles(analysis):
        if not carries_silt(analysis, route.vessel):
            continue
        filters = [leg.at_m(part.at_m) for leg in route.legs for part in leg.line.inline if part.kind == "filter"]
        for low_point in profile.deep_low_points(DEEP_M):
            line_id, _ = profile.spot(low_point.at_m)
            runs = abs(analysis.state.flow.line_flow_m3s(line_id)) / profile.area_m2(low_point.at_m)
            clean = any(at_m < low_point.at_m for at_m in filters) or profile.has_part(low_point.at_m, LETS_SILT_OUT)
            if not clean and 0.0 < runs < SILT_MS:
                found.setdefault(line_id, {}).setdefault(low_point.number, (runs, profile, low_point))
    for line_id, low_points in found.items():
        yield _silted(analysis, line_id, sorted(low_points.values(), key=lambda found: found[0]))


def _silted(analysis: Analysis, line_id: str, low_points: list[tuple[float, PipeProfile, Extreme]]) -> Finding:
    (runs_ms, profile, low_point), more = low_points[0], len(low_points) - 1
    line = analysis.model.layout.lines[line_id]
    spots_m = [low_profile.spot(low.at_m)[1] for _, low_profile, low in low_points]
    return Finding(
        severity=Severity.WATCH,
        where=line_id,
        value=runs_ms,
        limit=SILT_MS,
        unit="m/s",
        headline=say(
            "Silt may settle in the low point {} along {}{}",
            Quantity(value=profile.spot(low_point.at_m)[1], unit="m", digits=0),
            label(line),
            f", and in {more} more" if more else "",
        ),
        why=say(
            "With all running the water moves at {} there; silt settles below about {}. A drain at the low point "
            "lets you flush it out; a filter at the source keeps it out.",
            Quantity(value=runs_ms, unit="m/s"),
            Quantity(value=SILT_MS, unit="m/s"),
        ),
        try_remedies=partial(_drained, analysis, line, spots_m, profile.bore_m(low_point.at_m)),
        spot=profile.spot(low_point.at_m),
    )


def _drained(analysis: Analysis, line: Line, spots_m: list[float], bore_m: float) -> list[Remedy]:
    sieve, candidates = sold_part("filter", bore_m), list(drains(analysis, line, spots_m))
    if sieve:
        text = say("{} at the head of {}", sieve.spoken, label(line))
        candidates.append(with_parts(analysis, text, [(line, part_document(sieve, 0.5, bore_m))]))
    return that_end(analysis, candidates, silt_settles, line.id, "nothing settles there for good")


@judgement("too-fast", "Water fast enough to wear fittings and cause water hammer", Question.HOW_LONG_DOES_IT_LAST)
def too_fast(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line in which water runs faster than 3 m/s, all drawing."""
    for line in analysis.design.lines if analysis.state.converged else ():
        runs = analysis.state.lines[line.id].velocity_ms
        if runs <= FASTEST_MS:
            continue
        yield Finding(
            severity=Severity.WATCH,
            where=line.id,
            value=runs,
            limit=FASTEST_MS,
            unit="m/s",
            headline=say("Water moves at {} in {}", Quantity(value=runs, unit="m/s"), label(line)),
            why=say(
                "Above about {} it wears fittings, and closing fast causes water hammer. A smaller valve, or a "
                "larger pipe where the pipe is the narrow part, slows it.",
                Quantity(value=FASTEST_MS, unit="m/s"),
            ),
            try_remedies=partial(_slower, analysis, line),
        )


def _slower(analysis: Analysis, line: Line) -> list[Remedy]:
    def slowness(after: Analysis) -> float:
        return -after.state.lines[line.id].velocity_ms

    def effect(slowness: float) -> Wording:
        return say("then it runs at {}", Quantity(value=-slowness, unit="m/s"))

    candidates: list[Candidate | Ladder] = [larger_pipe(analysis, line), *_smaller_valves(analysis, line)]
    return that_help(analysis, candidates, slowness, effect, -FASTEST_MS)


def _smaller_valves(analysis: Analysis, line: Line) -> Iterator[Candidate]:
    for outlet, *_ in analysis.ways_over[line.id]:
        if isinstance(outlet, FloatValveOutlet) and analysis.standing.openings[outlet.id] > 0.0:
            yield from smaller_valves(analysis, outlet)


@judgement("hammer", "Closing a tap fast takes the pipe above its rating", Question.HOW_LONG_DOES_IT_LAST)
def hammer_exceeds_class(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line that a tap shuts, where what stands and the blow of a quick closing are more than its class."""
    for line in analysis.design.lines:
        analysis.check_cancelled()
        blow = hammer(analysis, line)
        if blow is None or blow.pressure_pa <= blow.limit_pa:
            continue
        stands, rise, limit = (
            Quantity(value=kpa_from_pa(pa), unit="kPa") for pa in (blow.stands_pa, blow.rise_pa, blow.limit_pa)
        )
        softer, stiffer = (Quantity(value=kpa_from_pa(pa), unit="kPa") for pa in blow.rise_range_pa)
        yield Finding(
            severity=Severity.WATCH,
            where=line.id,
            value=kpa_from_pa(blow.pressure_pa),
            limit=kpa_from_pa(blow.limit_pa),
            unit="kPa",
            headline=say(
                "{} causes water hammer in {}",
                "A tap closed fast" if not blow.outlet else label(blow.outlet),
                label(line),
            ),
            why=(
                *say(
                    "Water at {}, stopped within {}, adds {} to the {} when shut, and the pipe is rated for "
                    "{}. The stiffness of the pipe wall is taken as {} GPa; a softer or a stiffer one makes it "
                    "{} to {}. ",
                    Quantity(value=blow.velocity_ms, unit="m/s"),
                    Quantity(value=blow.quick_s, unit="s", digits=1),
                    rise,
                    stands,
                    limit,
                    f"{blow.modulus_pa / 1e9:.2g}",
                    softer,
                    stiffer,
                ),
                *_gently(blow),
            ),
            try_remedies=partial(_softer, analysis, line),
        )


def _gently(blow: Hammer) -> Wording:
    if blow.outlet is not None:
        return say("Its pilot closes at once: a float valve whose arm closes slowly, or a larger pipe, is gentler.")
    if blow.gentle_s is None or blow.turned_s is None:
        return say("A larger pipe slows it.")
    stopped = Quantity(value=blow.gentle_s, unit="s", digits=0 if blow.gentle_s >= 10.0 else 1)
    return say(
        "Closing evenly in {} or more avoids it; a tap stops the flow in about the last twentieth of its turn (our "
        "own limit): take {} or more to close it, or close that last part as slowly.",
        stopped,
        Quantity(value=blow.turned_s, unit="s", digits=0),
    )


def _softer(analysis: Analysis, line: Line) -> list[Remedy]:
    def spare_kpa(after: Analysis) -> float | None:
        blow = hammer(after, after.model.layout.lines[line.id])
        return kpa_from_pa(blow.limit_pa - blow.pressure_pa) if blow else None

    def effect(spare: float) -> Wording:
        text = "then {} are left to its rating" if spare >= 0.0 else "then it is {} above its rating"
        return say(text, Quantity(value=abs(spare), unit="kPa"))

    return that_help(analysis, [larger_pipe(analysis, line)], spare_kpa, effect, 0.0)
