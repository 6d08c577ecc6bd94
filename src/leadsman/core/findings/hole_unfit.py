"""A hole through a vessel's wall that cannot be made where or as the plan has it."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.parts.hole import holes


@judgement("hole-unfit", "A hole that cannot be drilled there", Question.DOES_IT_RUN, at_rest=True)
def hole_unfit(analysis: Analysis) -> Iterator[Finding]:
    """Yield each hole above its rim, without wall around it, or whose stem does not reach through the wall.

    Only of what the plan names, or what was measured: what is assumed may as well hang over the rim.
    """
    for hole in holes(analysis.document):
        for reason in hole.unfit if hole.is_chosen or hole.stem is not None else []:
            yield Finding(
                severity=Severity.FIX,
                where=hole.vessel.id,
                value=None,
                limit=None,
                unit="count",
                headline=say("The hole for {} in {} cannot be made", hole.product.spoken, label(hole.vessel)),
                why=say("For {}: {}.", hole.product.name, reason),
            )
