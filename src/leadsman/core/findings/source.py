"""Sources not to be relied on as they are: never timed, alone, shut in, without an air gap, starting too often."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3, MINUTE_S, m_from_mm
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import HaulInflow, PumpInflow, RainInflow, RamInflow, SpringInflow, SteadyInflow, label
from leadsman.core.farm.haul import hauling
from leadsman.core.farm.pump_cycle import pump_cycle
from leadsman.core.farm.rain import plan_area_m2
from leadsman.core.farm.ram import MOST_LIFT_RATIO, USUAL_LIFT_RATIO, ram_ratio
from leadsman.core.farm.spring import STOPWATCH_S, longest_gap_d, planned_flow_error_m3s, planned_flow_m3s
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

LASTS = Question.HOW_LONG_DOES_IT_LAST
MOST_STARTS_PER_H = 15.0  # of a small motor: typical, from memory; its plate says
GAP_D = 200.0  # between timings of a spring; ours, no source
MOST_ERROR_SHARE = 0.1  # of a spring's flow: a tenth apart is timed again (common practice)
FLUSH_MM = 0.41  # the least of a first flush: 1 gal per 100 ft², Texas manual on rainwater harvesting, from memory


@judgement("source-not-timed", "A source was never timed", LASTS)
def source_not_timed(analysis: Analysis) -> Iterator[Finding]:
    """Yield each spring whose flow nobody timed, or only in one season, or in too short a time."""
    for inflow in analysis.design.inflows:
        if not isinstance(inflow, SpringInflow):
            continue
        gap = longest_gap_d(inflow.timings)
        if not inflow.timings:
            yield Finding(
                severity=Severity.FIX,
                where=inflow.fills,
                inflow=inflow.id,
                value=None,
                limit=None,
                unit="count",
                headline=say("{} was never timed", label(inflow)),
                why=say(
                    "Its {} were not measured. Time how long a pail of known size takes to fill, also at the driest "
                    "time of the year.",
                    Quantity(value=inflow.claimed_lpm or 0.0, unit="L/min"),
                ),
            )
        elif gap is not None and gap > GAP_D:
            yield Finding(
                severity=Severity.WATCH,
                where=inflow.fills,
                inflow=inflow.id,
                value=gap,
                limit=GAP_D,
                unit="d",
                headline=say(
                    "{} was not timed for {} of the year", label(inflow), Quantity(value=gap, unit="d", digits=0)
                ),
                why=say("Its flow in between is unknown: time it at the end of a dry summer."),
            )

        if inflow.timings:
            short = planned_flow_error_m3s(inflow) / planned_flow_m3s(inflow)
            if short > MOST_ERROR_SHARE:
                slowest_s = min(inflow.timings, key=lambda timing: timing.volume_l / timing.time_s).time_s
                yield Finding(
                    severity=Severity.WATCH,
                    where=inflow.fills,
                    inflow=inflow.id,
                    value=100.0 * short,
                    limit=100.0 * MOST_ERROR_SHARE,
                    unit="count",
                    headline=say(
                        "{} was timed in {}: it may give {} % less",
                        label(inflow), Quantity(value=slowest_s, unit="s", digits=1), f"{100.0 * short:.0f}",
                    ),
                    why=say(
                        "A stopwatch used by hand is accurate to about {} (our own limit). A larger pail gives "
                        "a better figure.",
                        Quantity(value=STOPWATCH_S, unit="s", digits=1),
                    ),
                )  # fmt: skip


@judgement("one-source", "There is only one source", LASTS)
def one_source(analysis: Analysis) -> Iterator[Finding]:
    """Yield each system whose water all comes from one source, where animals depend on it."""
    for system in analysis.systems:
        if len(system.inflows) == 1 and analysis.waters_animals(system):
            (inflow,) = system.inflows
            of = say("of {} ", name) if (name := analysis.name_among(system)) else ()
            yield Finding(
                severity=Severity.WATCH,
                where=inflow.fills,
                inflow=inflow.id,
                value=1.0,
                limit=2.0,
                unit="count",
                headline=("All water ", *of, *say("comes from {}", label(inflow))),
                why=say(
                    "When it fails, only the store is left. A second source, or a tank to haul to, keeps animals alive."
                ),
            )


@judgement("ram-shut-in", "A ram has no overflow when every float is shut", LASTS)
def ram_shut_in(analysis: Analysis) -> Iterator[Finding]:
    """Yield each ram whose vessel has no overflow."""
    for inflow in analysis.design.inflows:
        vessel = analysis.model.layout.vessels[inflow.fills]
        if isinstance(inflow, RamInflow) and vessel.overflow_m is None:
            yield Finding(
                severity=Severity.STOP, where=vessel.id, inflow=inflow.id, value=None, limit=None, unit="count",
                headline=say("{} is shut in when {} is full", label(inflow), label(vessel)),
                why=say("A ram must never be shut off: give {} an overflow to a safe place.", label(vessel)),
            )  # fmt: skip


@judgement("ram-cannot-lift", "The lift is outside what rams do", LASTS)
def ram_cannot_lift(analysis: Analysis) -> Iterator[Finding]:
    """Yield each ram whose lift is out of what is published of them: over 25 times its fall, or no more than that."""
    for inflow in analysis.design.inflows:
        if not isinstance(inflow, RamInflow):
            continue
        ratio = ram_ratio(inflow.fall_m, inflow.lift_m)
        fall, lift = Quantity(value=inflow.fall_m, unit="m"), Quantity(value=inflow.lift_m, unit="m")
        if ratio <= 1.0:
            headline = say("{} lifts {}, no more than its fall of {}", label(inflow), lift, fall)
            why = say(
                "Water runs to that height by itself: a pipe from above the ram brings all of it. Or a value is "
                "wrong: the lift counts from the ram to where it delivers."
            )
            severity = Severity.STOP
        elif ratio > MOST_LIFT_RATIO:
            headline = say("{} lifts {}, {} times its fall of {}", label(inflow), lift, f"{ratio:.0f}", fall)
            why = say(
                "Rams lift 5 to 12 times their fall, at most 20 to 25 times (Watt 1975, from memory): nothing would "
                "come up. More fall, by a longer drive pipe, or a pump."
            )
            severity = Severity.STOP
        elif ratio > USUAL_LIFT_RATIO:
            headline = say("{} lifts {} times its fall of {}", label(inflow), f"{ratio:.0f}", fall)
            why = say(
                "Rams lift 5 to 12 times their fall as a rule (Watt 1975, from memory); over that they give less than "
                "their efficiency promises. Measure what comes before you plan on it."
            )
            severity = Severity.WATCH
        else:
            continue
        yield Finding(
            severity=severity,
            where=inflow.fills,
            inflow=inflow.id,
            value=ratio,
            limit=1.0 if ratio <= 1.0 else MOST_LIFT_RATIO if ratio > MOST_LIFT_RATIO else USUAL_LIFT_RATIO,
            unit="count",
            headline=headline,
            why=why,
        )


@judgement("no-air-gap", "Treated mains without an air gap", LASTS)
def no_air_gap(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel that mains fill without falling in through air."""
    for inflow in analysis.design.inflows:
        if isinstance(inflow, SteadyInflow) and inflow.kind == "mains" and not inflow.air_gap:
            yield Finding(
                severity=Severity.STOP, where=inflow.fills, inflow=inflow.id, value=None, limit=None, unit="count",
                headline=say("{} can draw stock water back into the mains", label(inflow)),
                why=say("Fill through an air gap, or fit a backflow preventer as the local plumbing code says; often "
                        "a licensed plumber must do it."),
            )  # fmt: skip


@judgement("first-flush-missing", "Roof water without a first flush", LASTS)
def first_flush_missing(analysis: Analysis) -> Iterator[Finding]:
    """Yield each roof whose first-flush leg holds less than the least that is published for its area."""
    for inflow in analysis.design.inflows:
        if not isinstance(inflow, RainInflow):
            continue
        wanted_l = m_from_mm(FLUSH_MM) * plan_area_m2(inflow) / LITRE_M3
        if inflow.first_flush_l < wanted_l:
            yield Finding(
                severity=Severity.WATCH,
                where=inflow.fills,
                inflow=inflow.id,
                value=inflow.first_flush_l,
                limit=wanted_l,
                unit="L",
                headline=say(
                    "The first flush of {} holds {}", label(inflow), Quantity(value=inflow.first_flush_l, unit="L")
                ),
                why=say(
                    "For its roof at least {} would keep droppings and dust out of the tank (0.41 mm, Texas manual, "
                    "from memory). Roof water is not drinking water for people.",
                    Quantity(value=wanted_l, unit="L"),
                ),
            )


@judgement("pump-starts-often", "A pump starts too often", LASTS)
def pump_starts_often(analysis: Analysis) -> Iterator[Finding]:
    """Yield each pump on float switches that may start more often in an hour than a small motor stands."""
    for inflow in analysis.design.inflows:
        if not isinstance(inflow, PumpInflow):
            continue
        draw = analysis.demand_m3s(inflow.fills)
        cycle = pump_cycle(inflow, analysis.model.layout.vessels[inflow.fills], draw)
        if cycle and cycle.most_starts_per_h > MOST_STARTS_PER_H:
            yield Finding(
                severity=Severity.FIX,
                where=inflow.fills,
                inflow=inflow.id,
                value=cycle.most_starts_per_h,
                limit=MOST_STARTS_PER_H,
                unit="count",
                headline=say(f"{{}} may start {cycle.most_starts_per_h:.0f} times an hour", label(inflow)),
                why=say(
                    "The volume between its switches is {}, filled in {}. Set them further apart; the motor's plate "
                    "says how often it may start (about 15 times, typical, from memory).",
                    Quantity(value=cycle.between_m3 / LITRE_M3, unit="L"),
                    Quantity(value=cycle.idle_run_s / MINUTE_S, unit="min", digits=1),
                ),
            )


@judgement("load-over-limit", "A load is heavier than its vehicle may carry", LASTS)
def load_over_limit(analysis: Analysis) -> Iterator[Finding]:
    """Yield each haul whose full tank weighs more than the vehicle may carry, or of which that is unknown."""
    for inflow in analysis.design.inflows:
        if not isinstance(inflow, HaulInflow):
            continue
        load = Quantity(value=hauling(inflow).load_kg, unit="kg")
        limit = inflow.vehicle_limit_kg
        if limit is None or load.value > limit:
            unknown = limit is None
            yield Finding(
                severity=Severity.WATCH if unknown else Severity.STOP,
                where=inflow.fills,
                inflow=inflow.id,
                value=load.value,
                limit=limit,
                unit="kg",
                headline=say("{} weighs {} a trip", label(inflow), load),
                why=say("What the vehicle and its axle may carry is unknown: read its plate.")
                if unknown
                else say(
                    "The vehicle may carry {}: haul less at a time. A full tank can crush.",
                    Quantity(value=limit or 0.0, unit="kg"),
                ),
            )
