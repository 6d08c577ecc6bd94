"""The answer on top of every view: one sentence, and four numbers each with what was wanted."""

from dataclasses import dataclass
from typing import Literal

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.sustained import sustained
from leadsman.core.base.units import DAY_S, LITRE_M3, MINUTE_S, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import OutletBase, label
from leadsman.core.findings.registry import SEVERITIES, Finding, Severity

Standing = Literal["stop", "fix", "watch", "fine", "unknown"]
NOTHING_M3 = 1e-6
TOLD_UP_TO_S = 7.0 * DAY_S  # a flow that lasts longer is as good as lasting
FLOW_CODES = ("no-answer", "draw-short", "dry-outlet", "flow-below-wanted", "flow-uncertain", "valve-needs-pressure",
    "vacuum-at-peak")  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class VerdictNumber:
    """One number of the strip: what it is, its value, what was wanted, how it stands, and where to look."""

    key: Literal["flow", "refill", "days", "spare"]
    title: Wording
    value: Quantity | None
    instead: str
    wanted: Wording
    standing: Standing
    where: str | None


@dataclass(frozen=True, kw_only=True)
class Verdict:
    """The sentence with its standing, and the four numbers."""

    standing: Standing
    sentence: Wording
    numbers: list[VerdictNumber]


def verdict(analysis: Analysis, findings: list[Finding]) -> Verdict:
    """Return the verdict on an analysis with its findings, worst first."""
    outlet = tightest_outlet(analysis, findings)
    numbers = [flow_number(analysis, findings, outlet), _refill(analysis, findings, outlet)]
    numbers += _store(analysis, findings)
    standing, sentence = verdict_sentence(analysis, findings, outlet)
    return Verdict(standing=standing, sentence=sentence, numbers=numbers)


def verdict_sentence(
    analysis: Analysis, findings: list[Finding], outlet: OutletBase | None
) -> tuple[Standing, Wording]:
    """Return how the plan stands by its findings, worst first, and the sentence that answers whether it runs.

    Args:
        outlet: the tightest one.
    """
    if not analysis.fed_outlets:
        return "unknown", say("Not yet: no outlet is open in this plan.")
    worst = findings[0] if findings else None
    if worst is not None and worst.severity is not Severity.WATCH:
        opening = "No" if worst.severity is Severity.STOP else "Yes, but"
        return findings[0].severity.value, (f"{opening}: ", *worst.headline, ".")
    if outlet is None:
        return "unknown", say("Not yet: no tank is connected to an outlet in this plan.")
    if worst is not None and any(analysis.answer(fed).judged_flow_m3s <= 0.0 for fed in analysis.fed_outlets):
        return "watch", ("Not certain: ", *worst.headline, ".")
    watch: Wording = (" Watch: ", *worst.headline, ".") if worst else ()
    flow = Quantity(value=lpm_from_m3s(analysis.answer(outlet).judged_flow_m3s), unit="L/min")
    others = "the tightest, " if len(analysis.fed_outlets) > 1 else ""
    run = f"All {len(analysis.fed_outlets)} outlets run together; " if others else ""
    standing: Standing = "watch" if worst else "fine"
    return standing, (*say("Yes. {}{}{} gets {}.", run, others, label(outlet), flow), *watch)


def tightest_outlet(analysis: Analysis, findings: list[Finding]) -> OutletBase | None:
    """Return the outlet that the strip is about.

    The one with the worst finding on its flow; of equals that which gets least of what is wanted there; where nothing
    is wanted anywhere, that which loses most of its flow to the others.
    """
    worst: dict[str, int] = {}
    for finding in (found for found in findings if found.code in FLOW_CODES):
        severity = SEVERITIES.index(finding.severity)
        worst[finding.where] = min(severity, worst.get(finding.where, severity))

    def rank(outlet: OutletBase) -> tuple[int, bool, float]:
        wanted, flow = analysis.wanted_m3s(outlet), analysis.answer(outlet).judged_flow_m3s
        alone = analysis.flows_alone_m3s[outlet.id]
        share = flow / wanted if wanted else flow / alone if alone > 0.0 else float("inf")
        return worst.get(outlet.id, len(SEVERITIES)), not wanted, share

    fed = [outlet for outlet in analysis.fed_outlets if analysis.is_led_to(outlet)]
    return min(fed, key=rank, default=None)


def _worst(findings: list[Finding], codes: tuple[str, ...], where: str | None = None) -> Standing:
    severities = [f.severity for f in findings if f.code in codes and where in (None, f.where)]
    return min(severities, key=SEVERITIES.index).value if severities else "fine"


def flow_number(analysis: Analysis, findings: list[Finding], outlet: OutletBase | None) -> VerdictNumber:
    """Return the number that tells what the tightest outlet gets."""
    if outlet is None:
        return VerdictNumber(
            key="flow",
            title=say("Flow"),
            value=None,
            instead="no water",
            wanted=say("no tank connected to an outlet"),
            standing="unknown",
            where=None,
        )
    wanted = analysis.wanted_m3s(outlet)
    standing = _worst(findings, FLOW_CODES, outlet.id)
    if standing == "fine" and not analysis.state.feasible:  # some draw is not to be had: nothing else is called good
        standing = "watch"
    elif standing == "fine" and not wanted:
        standing = "unknown"
    return VerdictNumber(
        key="flow",
        title=say("Flow at {}", label(outlet)),
        value=Quantity(value=lpm_from_m3s(analysis.answer(outlet).judged_flow_m3s), unit="L/min"),
        instead="",
        wanted=_wanted_flow(analysis, outlet, wanted),
        standing=standing,
        where=outlet.id,
    )


def _wanted_flow(analysis: Analysis, outlet: OutletBase, wanted_m3s: float | None) -> Wording:
    """Return what is wanted of an outlet, and where its flow does not last, for how long it does and what is left."""
    told = say("{} wanted", Quantity(value=lpm_from_m3s(wanted_m3s), unit="L/min")) if wanted_m3s else say("no target")
    lasting = sustained(analysis, outlet, together=True)
    if lasting is None or lasting.lasts_s > TOLD_UP_TO_S:
        return told
    then = Quantity(value=lpm_from_m3s(lasting.then_m3s), unit="L/min")
    return say("{} · {}, then {}", told, duration(lasting.lasts_s), then)


def _refill(analysis: Analysis, findings: list[Finding], outlet: OutletBase | None) -> VerdictNumber:
    refill = analysis.refills.get(outlet.id) if outlet else None
    if outlet is None or refill is None:
        return VerdictNumber(
            key="refill",
            title=say("Trough full again in"),
            value=None,
            instead="not running",
            wanted=say(""),
            standing="unknown",
            where=None,
        )
    wanted_s = analysis.wanted_refill_s(outlet)
    if refill.time_s is not None and refill.volume_m3 <= NOTHING_M3:
        return VerdictNumber(
            key="refill", title=say("{}", label(refill.vessel)), value=None, instead="full now",
            wanted=say(""), standing="unknown", where=refill.vessel.id,
        )  # fmt: skip
    lacking = Quantity(value=refill.volume_m3 / LITRE_M3, unit="L")
    wanted = (
        say("{} wanted · lacks {}", Quantity(value=wanted_s / MINUTE_S, unit="min"), lacking)
        if wanted_s
        else say("no target · lacks {}", lacking)
    )
    slow_s = analysis.refill_with_what_comes_s(outlet) if refill.time_s is None else None
    standing = _worst(findings, ("refill-too-long",), outlet.id)
    value = None if refill.time_s is None else Quantity(value=refill.time_s / MINUTE_S, unit="min")
    return VerdictNumber(
        key="refill",
        title=say("{} full again in", label(refill.vessel)),
        value=value if slow_s is None else Quantity(value=slow_s / DAY_S, unit="d"),
        instead="never",
        wanted=wanted,
        # what never fills, or only as slowly as water comes in, is nothing to call fine
        standing=standing if standing != "fine" or (wanted_s and value) else "unknown" if value else "watch",
        where=refill.vessel.id,
    )


def _store(analysis: Analysis, findings: list[Finding]) -> list[VerdictNumber]:
    day, (wanted, is_default) = analysis.balance, analysis.wanted_days
    worst = analysis.worst_system
    vessel = worst.stores[0].id if worst else None
    name = analysis.name_among(worst) if worst else None
    demand, refill, usable = (m3 / LITRE_M3 for m3 in (day.demand_m3_per_day, day.refill_m3_per_day, day.usable_m3))
    is_judged = not is_default or (worst is not None and analysis.waters_animals(worst))
    by_hand = worst is not None and analysis.is_filled_by_hand(worst)
    lasts = analysis.lasts(worst) if worst else None
    days = None if lasts is None else Quantity(value=lasts.days, unit="d")
    told = say("{} usable", Quantity(value=usable, unit="L"))
    if lasts and lasts.first:
        told = say("{} lacks first", label(lasts.first))
    return [
        VerdictNumber(
            key="days",
            title=say(f"{name}, no refill" if name else "Lasts with no refill"),
            value=days,
            instead="no use yet",
            wanted=say("{} {} · ", Quantity(value=wanted, unit="d"), "by default" if is_default else "wanted") + told
            if is_judged
            else (*say("no target · "), *told),
            standing=_worst(findings, ("days-in-hand",)) if days and is_judged else "unknown",
            where=vessel,
        ),
        VerdictNumber(
            key="spare",
            title=say(f"Spare at {name}" if name else "Supply to spare"),
            value=None if by_hand and refill == 0.0 else Quantity(value=refill - demand, unit="L/d"),
            instead="filled by hand",
            wanted=say("{} in · {} out", Quantity(value=refill, unit="L"), Quantity(value=demand, unit="L")),
            standing=_worst(findings, ("demand-over-refill",)) if worst and demand > 0.0 and not by_hand else "unknown",
            where=vessel,
        ),
    ]
