"""What lines that feed a tank have to go on bringing when the tank is raised or moved."""

from collections.abc import Collection, Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S


def feeds_of(analysis: Analysis, tanks: Collection[str]) -> Iterator[tuple[str, float]]:
    """Yield the lines that run into tanks, and what they have to bring [m3/s], below 0 where they run backwards.

    It is what comes to where they begin, where that is less than what they bring now.
    """
    flow = analysis.state.flow
    for line in analysis.design.lines if tanks else ():
        runs = 0.0 if line.shut else flow.line_flow_m3s(line.id)
        tank, source = (line.to, line.from_) if runs > 0.0 else (line.from_, line.to)
        if tank not in tanks or runs == 0.0:
            continue
        comes = sum(
            analysis.brings_m3[inflow.id] / DAY_S for inflow in analysis.design.inflows if inflow.fills == source
        )
        least = min(abs(runs), comes) if comes > 0.0 else abs(runs)
        yield line.id, least if runs > 0.0 else -least
