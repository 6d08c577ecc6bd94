"""A solved flow as a start for a network of the same design in which other points are open to air."""

import numpy as np

from leadsman.core.solver.gradient import Start, usual_state
from leadsman.core.solver.network import Control
from leadsman.core.steady.flow import Flow
from leadsman.core.steady.plumbing import Plumbing
from leadsman.core.steady.segment import Segment


def start_near(plumbing: Plumbing, flow: Flow) -> Start:
    """Return the flows and states of another network of one design, both with points open to air, for this one."""
    its = flow.model.plumbing
    net, lines, its_lines = plumbing.network, len(plumbing.segments), len(its.segments)
    sign = np.where([segment.forward for segment in plumbing.segments], 1.0, -1.0)
    of_line = flow.flows_m3s[its.first_link] * its.line_sign
    shut_line = flow.pressed_shut[its.first_link] & ~np.isin(its.first_link, its.network.controls)
    after = slice(its_lines, None)  # outlets and limited draws: the same in both
    by_cut = {_cut(its.segments[link]): state for link, state in flow.control_states.items() if link < its_lines}
    usual = usual_state(net)
    state = [
        by_cut.get(_cut(plumbing.segments[link]), usual[number])
        if link < lines
        else flow.control_states[link - lines + its_lines]
        for number, link in enumerate(net.controls.tolist())
    ]
    return Start(
        flows_m3s=np.concatenate([of_line[plumbing.segment_line] * sign, flow.flows_m3s[after]]),
        control_state=np.array(state, dtype=np.intp),
        shut=np.concatenate([shut_line[plumbing.segment_line], flow.pressed_shut[after]]),
    )


def _cut(segment: Segment) -> tuple[str, bool, float, Control | None]:
    return segment.line_id, segment.forward, segment.from_m, segment.control
