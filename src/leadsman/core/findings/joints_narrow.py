"""Joints whose bores are not in the flows yet, and that would leave an outlet short."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.change import changed
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, say
from leadsman.core.design import OutletBase, label
from leadsman.core.design.change import JsonPatch
from leadsman.core.design.cost import price_of_change
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.parts.connection import connections
from leadsman.core.parts.in_line import joints_in_lines
from leadsman.core.parts.roll import rolls_of

MUCH = 0.25  # of a flow, where nobody has said what is wanted: as much as a neck takes; ours


@judgement("joints-narrow", "The joints would leave an outlet short", Question.HOW_FAST, at_rest=True)
def joints_narrow(analysis: Analysis) -> Iterator[Finding]:
    """Yield each outlet that gets what is wanted now, and would not with the bores of all joints in the flows."""
    found = joints_in_lines(analysis.document, connections(analysis.document), rolls_of(analysis.document))
    with_joints = changed(analysis, found.patch) if found else None
    if found is None or with_joints is None:
        return
    for outlet in analysis.fed_outlets:
        now, wanted = analysis.answer(outlet).judged_flow_m3s, analysis.wanted_m3s(outlet)
        then = with_joints.answer(outlet).judged_flow_m3s
        least = now * (1.0 - MUCH) if wanted is None else wanted
        if now >= least > then and now > 0.0:
            price = price_of_change(analysis.document, with_joints.document)
            yield _narrow(outlet, (now, then, least), found.patch, price, is_wanted=wanted is not None)


def _narrow(
    outlet: OutletBase, flows_m3s: tuple[float, float, float], patch: JsonPatch, price: float | None, *, is_wanted: bool
) -> Finding:
    """Return the finding; flows are that of now, with the joints, and what it is to get at least."""
    flows = [Quantity(value=lpm_from_m3s(flow), unit="L/min") for flow in flows_m3s]
    return Finding(
        severity=Severity.WATCH,
        where=outlet.id,
        value=flows[1].value,
        limit=flows[2].value,
        unit="L/min",
        headline=say("With the bores of its joints {} gets {}", label(outlet), flows[1]),
        why=say(
            "The flows are without the joints: {} now. Every adapter on the way, with its own bore, takes some of "
            "the fall; "
            "{}. Calculate with them, see which is the neck, and take a wider way there.",
            flows[0],
            say("{} are wanted", flows[2]) if is_wanted else say("a quarter of the flow goes with them"),
        ),
        try_remedies=partial(_with_them, patch, flows[1], price),
    )


def _with_them(patch: JsonPatch, then: Quantity, price: float | None) -> list[Remedy]:
    """Return the joints in the flows: that helps nobody, but the neck among them is found then."""
    text, effect = say("every joint with its own bore in the flows"), say("then it gets {}", then)
    return [Remedy(text=text, patch=patch, effect=effect, price=price)]
