"""Why a network has no answer: one sentence."""

import numpy as np

from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.design import label
from leadsman.core.solver.network import Control
from leadsman.core.solver.still_part import joined_parts
from leadsman.core.steady.flow import Flow


def why_no_answer(flow: Flow) -> Wording:
    """Return why a case did not converge: water forced in or out where none can go or come, or states that flutter."""
    plumbing, net = flow.model.plumbing, flow.model.plumbing.network
    fixed = net.controls[net.control_kinds == Control.FIXED_FLOW]
    apart = np.zeros(net.links, dtype=bool)
    apart[fixed] = True
    cases = flow.model.loader.cases([flow.case])
    part = joined_parts(net, cases.closed[0] | apart)
    held = set(part[net.junctions :].tolist())
    for link in fixed.tolist():
        line = flow.model.layout.lines[plumbing.segments[link].line_id]
        rate = Quantity(value=lpm_from_m3s(plumbing.segments[link].setting), unit="L/min")
        if part[net.end[link]] not in held:
            return say("the pump of {} forces {} into a part that no water can leave", label(line), rate)
        if part[net.start[link]] not in held:
            return say("the pump of {} draws {} from a part that no water gets to", label(line), rate)
    for node_id, number in plumbing.junctions.items():
        if cases.draw_m3s[0, number] > 0.0 and part[number] not in held:
            rate = Quantity(value=lpm_from_m3s(float(cases.draw_m3s[0, number])), unit="L/min")
            return say("{} is taken at {}, and no open line leads there", rate, node_id)
    return say("its valves and reducers never come to rest: each change of one undoes another")
