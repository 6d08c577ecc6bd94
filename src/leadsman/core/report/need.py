"""What the herds need on the day shown, in the document's units."""

from leadsman.core.analysis import Analysis
from leadsman.core.catalogue import sources
from leadsman.core.design import label
from leadsman.core.growing import OtherNeed
from leadsman.core.need import HerdNeed
from leadsman.core.report.base import Report


class HerdReport(Report):
    """One herd on the day shown; published, practice and allowance are null for a class of the user's own."""

    id: str
    head: int
    outlets: list[str]
    per_head_lpd: float
    daily_l: float
    own_figure: bool
    published_lpd: float | None
    beyond_table: bool
    source: str
    counts_feed_water: bool
    practice_low_lpd: float | None
    practice_high_lpd: float | None
    humid_lpd: float


class OtherReport(Report):
    """What a crop or a pond needs, and how that is found."""

    kind: str
    id: str
    name: str
    where: str
    daily_l: float
    how: str


class SeasonReport(Report):
    """The grazing calendar day by day: stops of each herd, and what is asked of each outlet [L/d]."""

    days: list[str]
    stops: dict[str, list[list[str]]]
    asked_lpd: dict[str, list[float]]


class NeedReport(Report):
    air_c: float
    humid: bool
    date: str | None
    scenario: str
    herds: list[HerdReport]
    others: list[OtherReport]
    daily_l: float
    season: SeasonReport
    hours_l: dict[str, list[float]]


def need_report(analysis: Analysis) -> NeedReport:
    """Return what the herds need."""
    case = analysis.scenario
    return NeedReport(
        air_c=case.air_c,
        humid=case.humid,
        date=case.date,
        scenario=label(case),
        herds=[_herd(need) for need in analysis.herds],
        others=[_other(one) for one in analysis.other_needs],
        daily_l=analysis.daily_l,
        hours_l=analysis.hours_of_cases,
        season=SeasonReport(**vars(analysis.season)),
    )


def _herd(need: HerdNeed) -> HerdReport:
    intake = need.intake
    practice = intake.practice_lpd if intake else None
    return HerdReport(
        id=need.herd.id,
        head=need.head,
        outlets=need.outlets,
        per_head_lpd=need.per_head_lpd,
        daily_l=need.daily_l,
        own_figure=need.herd.intake_lpd is not None,
        published_lpd=intake.published.litres_per_day if intake else None,
        beyond_table=bool(intake and intake.published.beyond),
        source=_source(intake.published.source_id, intake.published.note) if intake else "your own figure",
        counts_feed_water=bool(intake and intake.counts_feed_water),
        practice_low_lpd=practice[0] if practice else None,
        practice_high_lpd=practice[1] if practice else None,
        humid_lpd=intake.humid_lpd if intake else 0.0,
    )


def _other(one: OtherNeed) -> OtherReport:
    return OtherReport(kind=one.kind, id=one.part_id, name=one.name, where=one.where, daily_l=one.daily_l, how=one.how)


def _source(source_id: str, note: str) -> str:
    source = sources()[source_id]
    year = f" {source.year}" if source.year else ""
    return f"{source.author}{year}, {source.title} ({note})"
