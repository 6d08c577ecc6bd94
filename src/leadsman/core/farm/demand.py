"""What each herd needs in a day of a scenario."""

from dataclasses import dataclass

from leadsman.core.base.errors import CoreError
from leadsman.core.design import Design, Herd, Scenario
from leadsman.core.farm.grazing import outlets_of, stops_on
from leadsman.core.farm.herd import USUAL_FEED_DRY_PERCENT, Condition, Intake, calf_lpd, daily_intake


@dataclass(frozen=True, kw_only=True)
class HerdDemand:
    """One herd's demand on the day shown: heads, where they drink and graze, what one is to have [L/d], published too.

    `intake` is None for a class of the user's own. `calves_l` is what calves at foot drink besides, in all [L/d].
    """

    herd: Herd
    head: int
    outlets: list[str]
    paddocks: list[str]
    per_head_lpd: float
    intake: Intake | None
    calves_l: float = 0.0

    @property
    def daily_l(self) -> float:
        """Litres a day of the whole herd, its calves too."""
        return self.head * self.per_head_lpd + self.calves_l


def herd_demands(design: Design, scenario: Scenario) -> list[HerdDemand]:
    """Return each herd's demand.

    Raises: as `daily_intake` does, where a herd has no figure of its own.
    """
    return [_need(design, herd, scenario, f"/herds/{index}") for index, herd in enumerate(design.herds)]


def per_head_lpd(herd: Herd, air_c: float, *, humid: bool = False, path: str = "") -> float:
    """Return what to plan on for one animal of a herd in a heat [L/d].

    Raises: as `daily_intake` does, where the herd has no figure of its own.
    Source: the herd's own figure, else as `daily_intake`.
    >>> geese = {"id": "h", "class": "geese", "head": 30, "outlet": "o", "intake_lpd": 1.2}
    >>> per_head_lpd(Herd.model_validate(geese), 35.0)
    1.2
    """
    return herd.intake_lpd or _intake(herd, air_c, humid, path).planned_lpd


def _intake(herd: Herd, air_c: float, humid: bool, path: str) -> Intake:
    condition = Condition(
        weight_kg=herd.weight_kg,
        milk_kgd=herd.milk_kgd,
        feed_dry_percent=herd.feed_dry_percent or USUAL_FEED_DRY_PERCENT,
    )
    return daily_intake(herd.animal, condition, air_c, humid=humid, path=path)


def _need(design: Design, herd: Herd, case: Scenario, path: str) -> HerdDemand:
    try:
        intake = _intake(herd, case.air_c, case.humid, path)
    except CoreError:
        if herd.intake_lpd is None:
            raise
        intake = None  # the user's own figure stands whatever the tables say
    per_head = herd.intake_lpd or (intake.planned_lpd if intake else 0.0)
    stops = stops_on(design, herd, case.date)
    paddocks = [stop.paddock for stop in stops if stop.paddock]
    return HerdDemand(
        herd=herd,
        head=herd.head_on(case.date),
        outlets=outlets_of(stops),
        paddocks=paddocks,
        per_head_lpd=per_head,
        intake=intake,
        calves_l=herd.calves * calf_lpd(case.air_c) if herd.calves else 0.0,
    )
