"""The answer of a steady state: what each outlet and line does, and why."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import NamedTuple

from leadsman.core.base.wording import Wording
from leadsman.core.design.layout import Layout
from leadsman.core.physics.water import Water
from leadsman.core.steady.case import Case
from leadsman.core.steady.flow import Flow, Solved
from leadsman.core.steady.network_model import NetworkModel


class OutletState(StrEnum):
    """What an outlet does."""

    RUNNING = "running"
    DRY = "dry"
    SHUT = "shut"
    SHORT = "short"


class LineState(StrEnum):
    """What a line does."""

    RUNNING = "running"
    STILL = "still"
    SHUT = "shut"
    PRESSED_SHUT = "pressed_shut"
    CUT_OFF = "cut_off"


@dataclass(frozen=True, kw_only=True)
class OpenToAir:
    """Where the grade falls below the pipe on an outlet's way: full-pipe flow, and flow with it open to air.

    `at_m` is the distance along the line, `pressure_head_m` the head over the pipe there with the line full,
    negative; `full_pipe_m3s` is None where the water would boil.
    """

    line_id: str
    at_m: float
    pressure_head_m: float
    full_pipe_m3s: float | None
    open_m3s: float
    used_m3s: float
    siphon: bool


class OutletAnswer(NamedTuple):
    """State of one outlet; heads on the datum [m], None where it is cut off.

    `static_head_m` is the head there with itself shut: the others as asked for where its valve needs a least
    pressure, else with everything shut. `judged_flow_m3s` is what judgements go by: the smaller where a line
    draws air in.
    """

    state: OutletState
    reason: Wording
    flow_m3s: float
    head_m: float | None
    static_head_m: float | None
    judged_flow_m3s: float
    below_atmospheric: OpenToAir | None = None


@dataclass(frozen=True, kw_only=True)
class LineAnswer:
    """State of one line: flow [m3/s] and loss of head [m] positive from `from` to `to`, greatest velocity [m/s].

    `reynolds` is the least along it [-]; `hazen_williams_ratio` what Hazen–Williams says of its friction at this
    flow, over what Darcy–Weisbach says; None where that flow is below Re 4,000 or nothing runs.
    """

    state: LineState
    reason: Wording
    flow_m3s: float = 0.0
    loss_m: float = 0.0
    velocity_ms: float = 0.0
    reynolds: float = 0.0
    hazen_williams_ratio: float | None = None


@dataclass(kw_only=True)
class SteadyState:
    """The answer for the whole design in one case; node heads [m on the datum] are None where cut off.

    `why` is the sentence that says why there is no answer, or why it is not feasible; empty where it is.
    """

    model: NetworkModel
    case: Case
    solved: Solved
    shut: Flow
    converged: bool = True
    feasible: bool = True
    why: Wording = ()
    heads_m: Mapping[str, float | None] = field(default_factory=dict)
    lines: Mapping[str, LineAnswer] = field(default_factory=dict)
    outlets: Mapping[str, OutletAnswer] = field(default_factory=dict)

    @property
    def water(self) -> Water:
        return self.model.water

    @property
    def layout(self) -> Layout:
        return self.model.layout

    @property
    def flow(self) -> Flow:
        """The answer that is shown: full pipes, but open to air where full ones would boil."""
        return self.solved.used if self.solved.boils else self.solved.full
