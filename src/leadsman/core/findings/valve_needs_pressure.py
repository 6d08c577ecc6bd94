"""A float valve made for more pressure than it gets."""

from collections.abc import Iterator

from leadsman.core.analysis import Analysis
from leadsman.core.answer import OutletState
from leadsman.core.design import FloatValveOutlet, label
from leadsman.core.findings.registry import Finding, Question, Severity, judgement
from leadsman.core.units import head_m_from_pa, kpa_from_pa, pa_from_head_m, pa_from_kpa
from leadsman.core.wording import Quantity, say


@judgement("valve-needs-pressure", "A valve needs more pressure than it gets", Question.DOES_IT_RUN)
def valve_needs_pressure(analysis: Analysis) -> Iterator[Finding]:
    """Yield valves that stay shut under their least pressure (stop), or run below it (watch).

    The least pressure to open is judged on what the valve sees while itself shut.
    """
    layout, density = analysis.state.layout, analysis.state.water.density_kgm3
    for outlet in analysis.fed_outlets:
        answer = analysis.answer(outlet)
        if (
            not isinstance(outlet, FloatValveOutlet)
            or outlet.valve.min_pressure_kpa <= 0.0
            or answer.static_head_m is None
        ):
            continue
        least_kpa, height_m = outlet.valve.min_pressure_kpa, layout.outlet_height_m(outlet)
        shut_kpa = kpa_from_pa(pa_from_head_m(answer.static_head_m - height_m, density))
        if answer.state is OutletState.SHUT and 0.0 < shut_kpa < least_kpa:
            yield Finding(
                Severity.STOP,
                outlet.id,
                shut_kpa,
                least_kpa,
                "kPa",
                say("The valve of {} does not open", label(outlet)),
                say(
                    "It needs {} while shut and gets {}. A valve made for low pressure, or {} more fall, would open.",
                    Quantity(least_kpa, "kPa"),
                    Quantity(shut_kpa, "kPa"),
                    Quantity(head_m_from_pa(pa_from_kpa(least_kpa - shut_kpa), density), "m"),
                ),
            )
        elif answer.state is OutletState.RUNNING and answer.head_m is not None:
            running_kpa = kpa_from_pa(pa_from_head_m(answer.head_m - height_m, density))
            if running_kpa < least_kpa:
                yield Finding(
                    Severity.WATCH,
                    outlet.id,
                    running_kpa,
                    least_kpa,
                    "kPa",
                    say("The valve of {} runs under its least pressure", label(outlet)),
                    say(
                        "It opens at {}, and running it sees {}: it may dribble or stick.",
                        Quantity(least_kpa, "kPa"),
                        Quantity(running_kpa, "kPa"),
                    ),
                )
