"""Standby containers that do not reach, give nothing, or weigh more than what they stand on carries."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.parts.setting import length
from leadsman.core.standby.standby import StandbyAnswer, standbys

LASTS = Question.HOW_LONG_DOES_IT_LAST


@judgement("standby-out-of-reach", "A standby container does not reach what it is to fill", LASTS, at_rest=True)
def standby_out_of_reach(analysis: Analysis) -> Iterator[Finding]:
    """Yield each standby whose hose is too short, or whose water does not rise to the brim of what it fills."""
    for answer in standbys(analysis):
        standby, name = answer.standby, label(answer.vessel)
        if not answer.runs:
            yield _unreached(
                answer, -answer.fall_m, standby.deep_m,
                say("Nothing runs from {} into {} by itself", answer.name, name),
                say("Even full its water stands {} under the brim. A higher stand, or a pump, helps.",
                    length(-answer.fall_m - standby.deep_m)),
            )  # fmt: skip
        elif answer.reaches is False:
            yield _unreached(
                answer, answer.away_m, standby.hose_m,
                say("The hose of {} is too short for {}", answer.name, name),
                say("It is {} to there on the plan, and the hose is {} long.",
                    length(answer.away_m), length(standby.hose_m or 0.0)),
            )  # fmt: skip


def _unreached(answer: StandbyAnswer, value: float, limit: float | None, headline: Wording, why: Wording) -> Finding:
    return Finding(
        severity=Severity.FIX, where=answer.vessel.id, value=value, limit=limit, unit="m", headline=headline, why=why
    )


@judgement("standby-overloaded", "A standby container is too heavy for what it stands on", LASTS, at_rest=True)
def standby_overloaded(analysis: Analysis) -> Iterator[Finding]:
    """Yield each standby that is too heavy for its vehicle, or for its legs or pallets on level or uneven ground."""
    for answer in standbys(analysis):
        standby, load = answer.standby, answer.load
        carried = [
            (load.full_kg, standby.vehicle_limit_kg, Severity.STOP, "Its vehicle may carry {}. Fill it less."),
            (load.level_kg, standby.foot_limit_kg, Severity.STOP, "Each leg or pallet is rated for {}."),
            (load.uneven_kg, standby.foot_limit_kg, Severity.WATCH,
             "On uneven ground two that stand across from each other may carry all, half each; each is rated for {}. "
             "Level the ground first."),
        ]  # fmt: skip
        for weighs, limit, severity, why in carried:
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
            )  # fmt: skip
            break
