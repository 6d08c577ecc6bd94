"""Water for plants whose strength strays from the recipe's."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, that_end
from leadsman.core.growing.dosing import DRIFT, Dose, doses

FEWEST_DAYS, STEP = 1.0, 0.8


@judgement("strength-drifts", "The strength in pots strays from the recipe's", Question.HOW_LONG_DOES_IT_LAST)
def strength_drifts(analysis: Analysis) -> Iterator[Finding]:
    """Yield each dose with which the strength in the pots strays by more than a quarter."""
    for number, dose in enumerate(doses(analysis)):
        if not dose.drifts or dose.row is None:
            continue
        low, high = dose.strengths
        far = max((high, low), key=lambda strength: abs(strength - 1.0))
        name = label(dose.row.vessels[-1])
        why = (
            say(
                "Plain water comes as plants drink, and a dose every {} days: the strength goes from {} to {} of the "
                "recipe's and back.", f"{dose.dosing.every_days:g}", f"{low:.0%}", f"{high:.0%}",
            )
            if dose.cycle is not None
            else say(
                "All that tops up is at strength, and plants take {} of it with the water, the air none: in {} days it "
                "is {} of the recipe's. Empty the pots now and then, or mix it weaker.",
                f"{dose.dosing.taken_share:.0%}", str(len(dose.by_day) - 1), f"{dose.by_day[-1]:.0%}",
            )
        )  # fmt: skip
        yield Finding(
            severity=Severity.WATCH,
            where=dose.vessel.id,
            value=far,
            limit=1.0 + DRIFT if far > 1.0 else 1.0 - DRIFT,
            unit="count",
            headline=say("The strength in {} goes to {} of the recipe's", name, f"{far:.0%}"),
            why=(*why, *say(" Measure it before each dose.")),
            try_remedies=partial(_steadier, analysis, number, dose),
        )


def _steadier(analysis: Analysis, number: int, dose: Dose) -> list[Remedy]:
    """Return smaller doses more often, or a weaker mix, where they help."""
    path, dosing = f"/dosings/{number}", dose.dosing
    if dose.keeps is None:
        share, days = round(dosing.share / max(dose.by_day), 3), dosing.every_days
        text = say("{} of the packet's dose", f"{share:.0%}")
    else:
        days = dosing.every_days
        while days > FEWEST_DAYS and dose.keeps * days / dosing.every_days > DRIFT:
            days = max(FEWEST_DAYS, STEP * days)
        days = round(days, 1)
        share = round(dose.keeps * days / dosing.every_days, 3)
        text = say("{} of the packet's dose every {} days", f"{share:.0%}", f"{days:g}")
    patch = [
        {"op": "add", "path": f"{path}/share", "value": share},
        {"op": "add", "path": f"{path}/every_days", "value": days},
    ]
    effect = "then it stays within a quarter"
    return that_end(analysis, [Candidate(text, patch)] if share > 0.0 else [], strength_drifts, dose.vessel.id, effect)
