"""The reserve at each drinker as JSON."""

from leadsman.core.analysis.reserve import reserves
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Design
from leadsman.core.report.base import Report
from leadsman.core.steady.case import shown_scenario


class ReserveReport(Report):
    """What a drinker holds when the line breaks [L], and for how many days that is enough; who drinks there."""

    vessel: str
    held_l: float
    daily_l: float
    days: float
    herds: list[str]


def reserve_reports(design: Design) -> list[ReserveReport]:
    """Return the reserve at each drinker on the day of the case that a design shows, worst first."""
    return [
        ReserveReport(
            vessel=one.vessel.id,
            held_l=one.held_m3 / LITRE_M3,
            daily_l=one.daily_m3 / LITRE_M3,
            days=one.days,
            herds=[demand.herd.id for demand in one.herds],
        )
        for one in reserves(design, shown_scenario(design))
    ]
