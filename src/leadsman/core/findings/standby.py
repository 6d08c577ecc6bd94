"""Standby containers that do not reach, give nothing, or weigh more than what they stand on carries."""

import math
from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, that_end
from leadsman.core.parts.setting import length
from leadsman.core.standby.standby import StandbyAnswer, standbys

LASTS = Question.HOW_LONG_DOES_IT_LAST
HOSE_SLACK = 1.1  # over the straight way; ours, no source


@judgement("standby-out-of-reach", "A standby container does not reach what it is to fill", LASTS, at_rest=True)
def standby_out_of_reach(analysis: Analysis) -> Iterator[Finding]:
    """Yield each standby whose hose is too short, or whose water does not rise to the brim of what it fills."""
    for answer in standbys(analysis):
        standby, name = answer.standby, label(answer.vessel)
        if not answer.runs:
            yield _unreached(
                analysis, answer, -answer.fall_m, standby.deep_m,
                say("Nothing runs from {} into {} by itself", answer.name, name),
                say("Even full its water stands {} under the brim. A higher stand, or a pump, helps.",
                    length(-answer.fall_m - standby.deep_m)),
            )  # fmt: skip
        elif answer.reaches is False:
            yield _unreached(
                analysis, answer, answer.away_m, standby.hose_m,
                say("The hose of {} is too short for {}", answer.name, name),
                say("It is {} to there on the plan, and the hose is {} long.",
                    length(answer.away_m), length(standby.hose_m or 0.0)),
            )  # fmt: skip


def _unreached(
    analysis: Analysis, answer: StandbyAnswer, value: float, limit: float | None, headline: Wording, why: Wording
) -> Finding:
    return Finding(
        severity=Severity.FIX, where=answer.vessel.id, value=value, limit=limit, unit="m", headline=headline, why=why,
        try_remedies=partial(_reaching, analysis, answer),
    )  # fmt: skip


def _reaching(analysis: Analysis, answer: StandbyAnswer) -> list[Remedy]:
    """Return a hose that is long enough, or a floor that is high enough, where that ends it."""
    path = f"/standbys/{[one.id for one in analysis.document.standbys].index(answer.standby.id)}"
    if not answer.runs:
        floor_m = round(answer.standby.floor_m - answer.fall_m, 1) + 0.1
        text = say("its floor {} over the ground", Quantity(value=floor_m, unit="m"))
        candidate = Candidate(text, [{"op": "add", "path": f"{path}/floor_m", "value": round(floor_m, 2)}])
        return that_end(analysis, [candidate], standby_out_of_reach, answer.vessel.id, "then all of it runs by itself")
    hose_m = math.ceil(answer.away_m * HOSE_SLACK)
    text = say("a hose of {}", Quantity(value=hose_m, unit="m", digits=0))
    candidate = Candidate(text, [{"op": "add", "path": f"{path}/hose_m", "value": hose_m}])
    return that_end(analysis, [candidate], standby_out_of_reach, answer.vessel.id, "then it reaches")


def _lighter(analysis: Analysis, answer: StandbyAnswer, feet: int, limit_kg: float) -> list[Remedy]:
    """Return it filled less, where its own weight leaves room for water."""
    holds_l = math.floor(limit_kg * feet - answer.standby.empty_kg)
    if holds_l <= 0:
        return []
    number = [one.id for one in analysis.document.standbys].index(answer.standby.id)
    patch = [{"op": "replace", "path": f"/standbys/{number}/holds_l", "value": holds_l}]
    text = say("filled with {} only", Quantity(value=holds_l, unit="L", digits=0))
    return that_end(analysis, [Candidate(text, patch)], standby_overloaded, answer.vessel.id, "then it is carried")


@judgement("standby-overloaded", "A standby container is too heavy for what it stands on", LASTS, at_rest=True)
def standby_overloaded(analysis: Analysis) -> Iterator[Finding]:
    """Yield each standby that is too heavy for its vehicle, or for its legs or pallets on level or uneven ground."""
    for answer in standbys(analysis):
        standby, load = answer.standby, answer.load
        feet = standby.feet or 1
        carried = [
            (load.full_kg, standby.vehicle_limit_kg, 1, Severity.STOP, "Its vehicle may carry {}. Fill it less."),
            (load.level_kg, standby.foot_limit_kg, feet, Severity.STOP, "Each leg or pallet is rated for {}."),
            (load.uneven_kg, standby.foot_limit_kg, min(2, feet), Severity.WATCH,
             "On uneven ground two that stand across from each other may carry all, half each; each is rated for {}. "
             "Level the ground first."),
        ]  # fmt: skip
        for weighs, limit, shared, severity, why in carried:
            if weighs is None or limit is None or weighs <= limit:
                continue
            yield Finding(
                severity=severity,
                where=answer.vessel.id,
                value=weighs,
                limit=limit,
                unit="kg",
                headline=say("{} puts {} on it when full", answer.name, Quantity(value=weighs, unit="kg")),
                why=say(why + " A full tank can crush: have stand and ground checked by someone competent.",
                        Quantity(value=limit, unit="kg")),
                try_remedies=partial(_lighter, analysis, answer, shared, limit),
            )  # fmt: skip
            break
