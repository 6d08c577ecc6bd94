"""The two schools of feeding a trough, in the document's units."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.schools import schools
from leadsman.core.base.units import LITRE_M3, lpm_from_m3s
from leadsman.core.report.base import Report
from leadsman.core.report.watering import WateringReport, watering_report


class SchoolReport(Report):
    """One valve: how the mob fares with it, and what is lost when it sticks open until the next look, 12 hours."""

    title: str
    kv_m3h: float
    alone_lpm: float
    watering: WateringReport | None
    lost_l: float
    empties_store: bool


class SchoolsReport(Report):
    outlet: str
    schools: list[SchoolReport]


def schools_report(analysis: Analysis, outlet_id: str) -> SchoolsReport:
    """Return the trough of an outlet with a smaller valve, its own and a larger one."""
    return SchoolsReport(
        outlet=outlet_id,
        schools=[
            SchoolReport(
                title=school.title,
                kv_m3h=school.kv_m3h,
                alone_lpm=lpm_from_m3s(school.alone_m3s),
                watering=watering_report(school.watering) if school.watering else None,
                lost_l=school.lost_m3 / LITRE_M3,
                empties_store=school.empties_store,
            )
            for school in schools(analysis, outlet_id)
        ],
    )
