"""A float valve made for more pressure than it gets."""

import math
from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import head_m_from_pa, kpa_from_pa, pa_from_head_m, pa_from_kpa
from leadsman.core.base.wording import Quantity, say
from leadsman.core.catalogue import float_valves
from leadsman.core.design import FloatValveOutlet, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import other_valve, that_end, that_raise_flow
from leadsman.core.findings.settling import is_settled, outlet_causes, what_would_settle
from leadsman.core.steady.answer import OutletState

MOST_TRIED = 6


@judgement("valve-needs-pressure", "A valve needs more pressure than it gets", Question.DOES_IT_RUN)
def valve_needs_pressure(analysis: Analysis) -> Iterator[Finding]:
    """Yield valves that stay shut under their least pressure (stop), may do so, or run below it (watch).

    The least pressure to open is judged on what the valve sees while itself shut.
    """
    layout, density = analysis.state.layout, analysis.state.water.density_kgm3
    for outlet in analysis.fed_outlets:
        answer = analysis.answer(outlet)
        if not isinstance(outlet, FloatValveOutlet) or outlet.valve.opens_kpa <= 0.0 or answer.static_head_m is None:
            continue
        height_m = layout.outlet_height_m(outlet)
        shut_kpa = kpa_from_pa(pa_from_head_m(answer.static_head_m - height_m, density))
        if answer.state is OutletState.SHUT and 0.0 < shut_kpa < outlet.valve.min_pressure_kpa:
            yield _stays_shut(analysis, outlet, shut_kpa)
        elif answer.state is OutletState.RUNNING:
            doubtful = _may_stay_shut(analysis, outlet, shut_kpa)
            if doubtful:
                yield doubtful
            elif answer.head_m is not None:
                running_kpa = kpa_from_pa(pa_from_head_m(answer.head_m - height_m, density))
                if running_kpa < outlet.valve.min_pressure_kpa:
                    yield _runs_under(outlet, running_kpa)


def _stays_shut(analysis: Analysis, outlet: FloatValveOutlet, shut_kpa: float) -> Finding:
    least_kpa = outlet.valve.min_pressure_kpa
    spare_m = head_m_from_pa(pa_from_kpa(shut_kpa - least_kpa), analysis.state.water.density_kgm3)
    causes = outlet_causes(analysis, outlet)
    surely = is_settled(spare_m, causes)
    return Finding(
        severity=Severity.STOP if surely else Severity.WATCH,
        where=outlet.id,
        value=shut_kpa,
        limit=least_kpa,
        unit="kPa",
        headline=say("The valve of {} does not open" if surely else "The valve of {} may not open", label(outlet)),
        why=(
            *say(
                "It needs {} to open and gets {}. A low-pressure valve, or {} more fall, would open. ",
                Quantity(value=least_kpa, unit="kPa"),
                Quantity(value=shut_kpa, unit="kPa"),
                Quantity(value=-spare_m, unit="m"),
            ),
            *what_would_settle(spare_m, causes),
        ),
        try_remedies=partial(_that_open, analysis, outlet),
    )


def _may_stay_shut(analysis: Analysis, outlet: FloatValveOutlet, shut_kpa: float) -> Finding | None:
    """Return that a valve may not open: some of its kind do not at what it gets, or the heights are too uncertain."""
    least_kpa, sure_kpa = outlet.valve.min_pressure_kpa, outlet.valve.opens_kpa
    density = analysis.state.water.density_kgm3
    spare_m = head_m_from_pa(pa_from_kpa(shut_kpa - sure_kpa), density)
    causes = outlet_causes(analysis, outlet)
    if spare_m >= 0.0 and is_settled(spare_m, causes):
        return None
    gets = Quantity(value=shut_kpa, unit="kPa")
    if sure_kpa > least_kpa:
        needs = say(
            "Valves of its kind need between {} and {} to open, and it gets {}{}. ",
            Quantity(value=least_kpa, unit="kPa"), Quantity(value=sure_kpa, unit="kPa"), gets,
            ": it may stay shut, or open a little. Test the valve itself at that pressure" if spare_m < 0.0 else "",
        )  # fmt: skip
    else:
        needs = say(
            "It needs {} to open and gets {} by the heights as measured. ",
            Quantity(value=sure_kpa, unit="kPa"),
            gets,
        )
    return Finding(
        severity=Severity.WATCH,
        where=outlet.id,
        value=shut_kpa,
        limit=sure_kpa,
        unit="kPa",
        headline=say("The valve of {} may not open", label(outlet)),
        why=(*needs, *what_would_settle(spare_m, causes)),
        try_remedies=partial(_that_surely_open, analysis, outlet) if spare_m < 0.0 else list,
    )


def _runs_under(outlet: FloatValveOutlet, running_kpa: float) -> Finding:
    least_kpa = outlet.valve.min_pressure_kpa
    return Finding(
        severity=Severity.WATCH,
        where=outlet.id,
        value=running_kpa,
        limit=least_kpa,
        unit="kPa",
        headline=say("The valve of {} runs below its least pressure", label(outlet)),
        why=say(
            "It needs {} to open and has {} while running: it may dribble or stick.",
            Quantity(value=least_kpa, unit="kPa"),
            Quantity(value=running_kpa, unit="kPa"),
        ),
    )


def _that_surely_open(analysis: Analysis, outlet: FloatValveOutlet) -> list[Remedy]:
    """Return the cheapest valves that open for certain on what this one gets, and pass no less."""
    easier = [
        valve
        for valve in float_valves().values()
        if (valve.sure_kpa or valve.min_kpa) < outlet.valve.opens_kpa and valve.kv_m3h >= outlet.valve.kv_m3h
    ]
    easier.sort(key=lambda valve: valve.price or math.inf)
    return that_end(
        analysis,
        [other_valve(analysis, outlet, valve) for valve in easier[:MOST_TRIED]],
        valve_needs_pressure,
        outlet.id,
        "opens on this for certain",
    )


def _that_open(analysis: Analysis, outlet: FloatValveOutlet) -> list[Remedy]:
    """Return the cheapest valves that open on less, where one does."""
    easier = [valve for valve in float_valves().values() if valve.min_kpa < outlet.valve.min_pressure_kpa]
    easier.sort(key=lambda valve: valve.price or math.inf)
    return that_raise_flow(analysis, outlet, [other_valve(analysis, outlet, valve) for valve in easier[:MOST_TRIED]])
