"""Two ends of the plan that no chain of adapters joins."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import say
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.parts.chain import nearest_reached
from leadsman.core.parts.connection import connections, ends_told
from leadsman.core.parts.mate import Misfit, mate


@judgement("thread-chain", "Two ends that no adapter joins", Question.DOES_IT_RUN, at_rest=True)
def thread_chain(analysis: Analysis) -> Iterator[Finding]:
    """Yield each connection whose ends are both known and that no chain of adapters joins."""
    for joint in connections(analysis.document):
        if not joint.lacks_chain or joint.start is None or joint.goal is None:
            continue
        direct, near = mate(joint.start, joint.goal), nearest_reached(joint.start, joint.goal)
        start, goal = ends_told(joint)
        yield Finding(
            severity=Severity.STOP,
            where=joint.line or joint.place or "",
            value=None,
            limit=None,
            unit="count",
            headline=say("{} does not join {}", joint.first, joint.second),
            why=say(
                "{} to {}: {}. No chain of adapters of the catalogue leads from one to the other{}.",
                start[:1].upper() + start[1:],
                goal,
                direct.why if isinstance(direct, Misfit) else "",
                f"; the nearest is {near[0].name}" if near else "",
            ),
            spot=(joint.line, joint.at_m) if joint.line and joint.at_m is not None else None,
        )
