"""What the jobs are: what is asked of each kind, and what does it."""

from collections.abc import Callable
from functools import partial
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from leadsman.core.base.fault import fault
from leadsman.core.base.units import HOUR_S
from leadsman.core.dayrun.run import LEAST_HOURS, MOST_HOURS
from leadsman.core.design import Design
from leadsman.core.report.dayrun import asked_day
from leadsman.core.report.failure_survey import failure_survey_report
from leadsman.core.report.siting import outlet_siting_report, tank_siting_report
from leadsman.core.report.sizing import curve_report, sized_plan_report
from leadsman.core.siting import outlet, tank
from leadsman.core.siting.outlet import along_line, in_paddock
from leadsman.core.siting.position import Position
from leadsman.core.siting.tank import on_hill, stands_needed
from leadsman.core.sizing.curve import over_stand, trade_off
from leadsman.core.sizing.size import size

Progress = Callable[..., None]
"""Called with how far the work is, 0 to 1, and the best answer so far where there is one; what it raises ends it."""


class DayAsked(BaseModel):
    """A design to run over time, in the case that it shows, with its events or without."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["day"]
    document: Design
    hours: Annotated[float, Field(ge=LEAST_HOURS, le=MOST_HOURS)]
    events: bool = True


class SurveyAsked(BaseModel):
    """A design of which each failure is run until the next look, in the case that it shows."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["failures"]
    document: Design


class SizeAsked(BaseModel):
    """A design of which the cheapest plan is looked for that gives all that is required."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["size"]
    document: Design


class CurveAsked(BaseModel):
    """A design of which the cheapest plans are looked for, from little flow to the most there can be."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["curve"]
    document: Design


class StandAsked(BaseModel):
    """A design of which the cheapest plans are looked for with a tank higher by nothing up to so much [m]."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["stand"]
    document: Design
    vessel: str
    most_m: Annotated[float, Field(gt=0, le=50)]


class SiteAsked(BaseModel):
    """A trough or tank that may stand elsewhere: along a line, in a paddock, or within some metres of its place.

    With `for_all` a tank is to serve outlets that lack water now, too.
    """

    model_config = ConfigDict(extra="forbid")

    kind: Literal["site"]
    document: Design
    part: str
    along: str | None = None
    paddock: str | None = None
    reach_m: Annotated[float, Field(ge=1, le=2_000)] | None = None
    for_all: bool = False

    @model_validator(mode="after")
    def somewhere(self) -> "SiteAsked":
        if sum(one is not None for one in (self.along, self.paddock, self.reach_m)) != 1:
            raise fault("exactly one of along, paddock and reach_m")
        return self


JobAsked = Annotated[
    DayAsked | SurveyAsked | SizeAsked | CurveAsked | StandAsked | SiteAsked, Field(discriminator="kind")
]
KINDS = ("day", "failures", "size", "curve", "stand", "site")


def do_work(asked: JobAsked, progress: Progress) -> BaseModel:
    """Return the answer of a job.

    Raises: as the work itself; and what `progress` raises.
    """
    if isinstance(asked, SurveyAsked):
        return failure_survey_report(asked.document, progress)
    design = asked.document
    stop = partial(progress, None)
    if isinstance(asked, SizeAsked):
        sized = size(
            design,
            check_cancelled=stop,
            watch=lambda share, best: progress(share, partial(sized_plan_report, design, best)),
        )
        return sized_plan_report(design, sized)
    if isinstance(asked, CurveAsked):
        curve = trade_off(
            design, check_cancelled=stop, watch=lambda share, best: progress(share, partial(curve_report, design, best))
        )
        return curve_report(design, curve)
    if isinstance(asked, StandAsked):
        vessel = asked.vessel
        curve = over_stand(
            design, vessel, asked.most_m, check_cancelled=stop,
            watch=lambda share, best: progress(share, partial(curve_report, design, best, vessel)),
        )  # fmt: skip
        return curve_report(design, curve, vessel)
    if isinstance(asked, SiteAsked):
        return _sited(asked, progress)
    length_s = asked.hours * HOUR_S
    return asked_day(
        asked.document, asked.hours, with_events=asked.events, watch=lambda time_s: progress(time_s / length_s)
    )


def _sited(asked: SiteAsked, progress: Progress) -> BaseModel:
    """Return where a trough or a tank could stand."""
    design, part, stop = asked.document, asked.part, partial(progress, None)
    if asked.reach_m is not None:

        def told(share: float, best: list[Position]) -> None:
            progress(share, partial(tank_siting_report, design, part, best, []))

        found = on_hill(design, part, asked.reach_m, for_all=asked.for_all, check_cancelled=stop, watch=told)
        stands = stands_needed(design, part, check_cancelled=stop)
        left_out = tank.without_ground(design, part, asked.reach_m)
        return tank_siting_report(design, part, found, stands, left_out)

    def shown(share: float, best: list[Position]) -> None:
        progress(share, partial(outlet_siting_report, design, part, best))

    if asked.along is not None:
        return outlet_siting_report(
            design, part, along_line(design, part, asked.along, check_cancelled=stop, watch=shown)
        )
    found = in_paddock(design, part, asked.paddock or "", check_cancelled=stop, watch=shown)
    return outlet_siting_report(design, part, found, outlet.without_ground(design, asked.paddock or ""))
