"""JSON of comparisons: parts and ways of doing it side by side."""

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.errors import UnknownName
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.design import OutletBase
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import tightest_outlet
from leadsman.core.parts.compare.all import comparisons
from leadsman.core.report.base import Report, Words, words


class ComparedRowReport(Report):
    """One part or one way of doing it; `is_now` where the plan has it so."""

    name: str
    cells: list[Words]
    is_now: bool


class ComparedReport(Report):
    """One question with its answers side by side, and what the figures rest on."""

    key: str
    title: str
    columns: list[str]
    rows: list[ComparedRowReport]
    notes: list[Words]


class ComparisonsReport(Report):
    """Every comparison of a plan; `outlet` is the one that taps, troughs and hoses are compared at."""

    outlet: str
    bucket_l: float
    comparisons: list[ComparedReport]


def comparisons_report(analysis: Analysis, outlet_id: str | None, bucket_l: float) -> ComparisonsReport:
    """Return every comparison, at an outlet, else at the one that is tightest.

    Raises:
        UnknownName: the design has no such outlet.
        DesignFaults: it has no outlet that runs.
    """
    outlet = _outlet(analysis, outlet_id)
    return ComparisonsReport(
        outlet=outlet.id,
        bucket_l=bucket_l,
        comparisons=[
            ComparedReport(
                key=one.key,
                title=one.title,
                columns=one.columns,
                rows=[
                    ComparedRowReport(name=row.name, cells=[words(cell) for cell in row.cells], is_now=row.is_now)
                    for row in one.rows
                ],
                notes=[words(note) for note in one.notes],
            )
            for one in comparisons(analysis, outlet, bucket_l)
        ],
    )


def _outlet(analysis: Analysis, outlet_id: str | None) -> OutletBase:
    outlets = {outlet.id: outlet for outlet in analysis.fed_outlets}
    if outlet_id is not None:
        if outlet_id not in outlets:
            raise UnknownName("outlet that runs", outlet_id, list(outlets), "/outlet")
        return outlets[outlet_id]
    tightest = tightest_outlet(analysis, judge(analysis, at_rest=False)) or next(iter(outlets.values()), None)
    if tightest is None:
        allowed = "an outlet that runs: taps, troughs and hoses are compared at one"
        raise DesignFaults([Fault(path="/document/outlets", code="nothing_runs", found="none", allowed=allowed)])
    return tightest
