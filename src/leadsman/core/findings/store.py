"""Stores that are not what they seem: dead water, an overflow too small, a stand, a container, a way to reach it."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.link import links
from leadsman.core.base.units import LITRE_M3, lpm_from_m3s
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import HaulInflow, label
from leadsman.core.design.store import brimful, dead_m3, full_kg, shape_of
from leadsman.core.farm.overflow import greatest_inflow_m3s, overflow_capacity_m3s
from leadsman.core.findings.registry import Finding, Question, Severity, judgement

LASTS = Question.HOW_LONG_DOES_IT_LAST
DEAD_SHARE = 0.15  # of what a tank holds; ours, no source


@judgement("dead-volume", "Much of a tank lies below its outlet", LASTS)
def dead_volume(analysis: Analysis) -> Iterator[Finding]:
    """Yield each tank of which more than 15 % can never be drawn."""
    for vessel in analysis.sources_of_outlets:
        whole_l = shape_of(vessel).volume_m3(vessel.brim_m) / LITRE_M3
        dead_l = dead_m3(brimful(vessel)) / LITRE_M3
        if vessel.role == "tank" and dead_l > DEAD_SHARE * whole_l:
            yield Finding(
                severity=Severity.WATCH, where=vessel.id, value=dead_l, limit=DEAD_SHARE * whole_l, unit="L",
                headline=say("{} of {} are unusable", Quantity(value=dead_l, unit="L"), label(vessel)),
                why=say("It holds {}, but its outlet is {} above the floor: do not count what is below.",
                    Quantity(value=whole_l, unit="L"), Quantity(value=vessel.outlet_m, unit="m")),
            )  # fmt: skip


@judgement("overflow-too-small", "An overflow is too small", LASTS)
def overflow_too_small(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel whose overflow carries less than may come in at once: a storm, pumps, one valve stuck open."""
    for vessel in analysis.design.vessels:
        carries = overflow_capacity_m3s(vessel)
        if carries is None:
            continue
        comes = sum(greatest_inflow_m3s(inflow) for inflow in analysis.design.inflows if inflow.fills == vessel.id)
        stuck = [analysis.flows_alone_m3s[outlet.id] for outlet in analysis.fed_outlets if outlet.fills == vessel.id]
        comes += max(stuck, default=0.0)
        if comes > carries:
            yield Finding(
                severity=Severity.FIX,
                where=vessel.id,
                value=lpm_from_m3s(carries),
                limit=lpm_from_m3s(comes),
                unit="L/min",
                headline=say(
                    "The overflow of {} carries {}",
                    label(vessel),
                    Quantity(value=lpm_from_m3s(carries), unit="L/min", digits=0),
                ),
                why=say(
                    "Up to {} may come in at once, in a storm or through a stuck valve: then it spills over the rim "
                    "and may undermine its base.",
                    Quantity(value=lpm_from_m3s(comes), unit="L/min", digits=0),
                ),
            )


@judgement("stand-overloaded", "A stand may not carry its tank", LASTS)
def stand_overloaded(analysis: Analysis) -> Iterator[Finding]:
    """Yield each tank on a stand that weighs more than the stand is rated for, or whose rating is unknown."""
    for vessel in analysis.design.vessels:
        if vessel.role != "tank" or vessel.stand_m <= 0.0:
            continue
        weighs, limit = full_kg(vessel), vessel.stand_limit_kg
        if limit is None or weighs > limit:
            unknown = limit is None
            yield Finding(
                severity=Severity.WATCH if unknown else Severity.STOP,
                where=vessel.id,
                value=weighs,
                limit=limit,
                unit="kg",
                headline=say("{} weighs {} full", label(vessel), Quantity(value=weighs, unit="kg")),
                why=say(
                    "The rating of its stand is unknown: have it checked by someone competent, on level ground. A "
                    "full tank can crush."
                )
                if unknown
                else say(
                    "Its stand is rated for {}. A full tank can crush: fill it less, or have a stronger stand built "
                    "by someone competent.",
                    Quantity(value=limit or 0.0, unit="kg"),
                ),
            )


@judgement("container-unfit", "A container is not food grade", LASTS)
def container_unfit(analysis: Analysis) -> Iterator[Finding]:
    """Yield each container that feeds animals or plants and is not of food grade."""
    for vessel in analysis.sources_of_outlets:
        if vessel.food_grade is False:
            yield Finding(
                severity=Severity.STOP,
                where=vessel.id,
                value=None,
                limit=None,
                unit="count",
                headline=say("{} is not food grade", label(vessel)),
                why=say(
                    "What it held before may leach into the water for years. Use only food-grade containers "
                    "for drinking water."
                ),
            )


@judgement("out-of-reach", "A tank has no tanker access", LASTS)
def out_of_reach(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel that is hauled to, though nobody can reach it."""
    for inflow in analysis.design.inflows:
        vessel = analysis.model.layout.vessels[inflow.fills]
        if isinstance(inflow, HaulInflow) and vessel.reachable is False:
            yield Finding(
                severity=Severity.STOP, where=vessel.id, value=None, limit=None, unit="count",
                headline=say("{} has no tanker access", label(vessel)),
                why=say("{} fills it: it needs a track that carries a loaded vehicle when wet, or a hose that reaches.",
                    label(inflow)),
            )  # fmt: skip


@judgement("link-too-small", "Links between tanks pass less than a storm brings", LASTS)
def link_too_small(analysis: Analysis) -> Iterator[Finding]:
    """Yield each tank under a roof whose links pass less to the tanks beside it than is theirs of a storm."""
    for link in links(analysis):
        if link.passes_m3s < link.wanted_m3s:
            passes, wanted = (lpm_from_m3s(flow) for flow in (link.passes_m3s, link.wanted_m3s))
            yield Finding(
                severity=Severity.FIX,
                where=link.vessel.id,
                value=passes,
                limit=wanted,
                unit="L/min",
                headline=say(
                    "The links of {} pass {}", label(link.vessel), Quantity(value=passes, unit="L/min", digits=0)
                ),
                why=say(
                    "In a storm {} should pass to the tanks beside it: the first overflows while they are not yet "
                    "full. A larger or a second link pipe helps.",
                    Quantity(value=wanted, unit="L/min", digits=0),
                ),
            )
