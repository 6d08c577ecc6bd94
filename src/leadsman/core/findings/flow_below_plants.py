"""Rows of containers whose plants take more than the feed of their pot brings."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import LITRE_M3
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.findings.remedies import more_flow


@judgement("flow-below-plants", "The feed of a row brings less than its plants take", Question.HOW_FAST)
def flow_below_plants(analysis: Analysis) -> Iterator[Finding]:
    """Yield each row of containers whose plants take more in a day than the feed brings, running day and night."""
    for row in analysis.container_rows:
        if row.gets_m3_per_day < row.demand_m3_per_day:
            gets, demand = row.gets_m3_per_day / LITRE_M3, row.demand_m3_per_day / LITRE_M3
            yield Finding(
                severity=Severity.FIX,
                where=row.outlet.id,
                value=gets,
                limit=demand,
                unit="L/d",
                headline=say("{} falls behind its plants", label(row.vessels[0])),
                why=say(
                    "They take {}, and running day and night the feed brings {}. "
                    f"What the {row.containers} containers hold lasts {{}} without it.",
                    Quantity(value=demand, unit="L/d"),
                    Quantity(value=gets, unit="L/d"),
                    Quantity(value=row.days_held or 0.0, unit="d"),
                ),
                try_remedies=partial(more_flow, analysis, row.outlet),
            )
