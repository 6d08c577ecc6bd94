"""Two outlets far apart in height on one line: the low one takes it all."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.starved import Starved, starved_outlets
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import FloatValveOutlet, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import smaller_valves, that_help


@judgement("low-outlet-takes-all", "A lower outlet takes the water of a higher one", Question.HOW_FAST, at_rest=True)
def low_outlet_takes_all(analysis: Analysis) -> Iterator[Finding]:
    """Yield each outlet that has enough by itself, and not half of it while one lower outlet draws too."""
    for outlet in starved_outlets(analysis):
        together, alone, without = (
            Quantity(value=lpm_from_m3s(flow), unit="L/min")
            for flow in (outlet.together_m3s, outlet.alone_m3s, outlet.without_m3s)
        )
        yield Finding(
            severity=Severity.FIX,
            where=outlet.outlet.id,
            value=together.value,
            limit=lpm_from_m3s(outlet.enough_m3s),
            unit="L/min",
            headline=say("{} takes the water of {}", label(outlet.taker), label(outlet.outlet)),
            why=say(
                "{} gets {} by itself, {} with all running and, with {} shut, {}. The lower outlet takes nearly all "
                "the water until its float shuts. A smaller valve there shares it out.",
                label(outlet.outlet),
                alone,
                together,
                label(outlet.taker),
                without,
            ),
            try_remedies=partial(_throttled, analysis, outlet),
        )


def _throttled(analysis: Analysis, starved: Starved) -> list[Remedy]:
    taker = starved.taker
    if not isinstance(taker, FloatValveOutlet):
        return []
    wanted = analysis.wanted_m3s(taker) or 0.0

    def flow(after: Analysis) -> float | None:
        kept = next(outlet for outlet in after.fed_outlets if outlet.id == taker.id)
        if after.answer(kept).judged_flow_m3s < wanted:
            return None
        return after.state.outlets[starved.outlet.id].judged_flow_m3s

    def effect(flow_m3s: float) -> Wording:
        return say("then {} gets {}", label(starved.outlet), Quantity(value=lpm_from_m3s(flow_m3s), unit="L/min"))

    return that_help(analysis, smaller_valves(analysis, taker), flow, effect, starved.enough_m3s)
