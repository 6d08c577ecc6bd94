"""What the herds need on the day shown, in the document's units."""

from collections.abc import Iterator

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S, HOUR_S, LITRE_M3, MINUTE_S, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, plain, say
from leadsman.core.catalogue import sources
from leadsman.core.catalogue.livestock import animals
from leadsman.core.design import label
from leadsman.core.farm.container_row import ContainerRow
from leadsman.core.farm.demand import HerdDemand
from leadsman.core.farm.grazing import GENERAL_KIND, walking_limit_m
from leadsman.core.farm.growing import OtherDemand
from leadsman.core.farm.herd import CALF_KG
from leadsman.core.farm.unattended import UnattendedFill
from leadsman.core.farm.watering_spells import Spell
from leadsman.core.report.base import Report, Words, words


class HerdReport(Report):
    """One herd on the day shown; published, rule by weight and allowance are null for a class of the user's own."""

    id: str
    head: int
    outlets: list[str]
    paddocks: list[str]
    per_head_lpd: float
    daily_l: float
    own_figure: bool
    published_lpd: float | None
    notes: list[Words]
    milk_kgd: float | None
    source: str
    counts_feed_water: bool
    by_weight_lpd: float | None
    by_weight_source: str | None
    humid_lpd: float


class OtherReport(Report):
    """What a crop or a pond needs, or a trough that is moved throws away, and how that is found."""

    kind: str
    id: str
    name: str
    where: str
    daily_l: float
    how: str
    how_words: Words
    herd: str | None


class LevelReport(Report):
    """What a row of containers holds from a day on; null `since` before the first step."""

    since: str | None
    closes_at_m: float
    holds_l: float
    change_l: float


class RowReport(Report):
    """Containers at one level: what they hold on the day, need and get in a day, and the levels over the season."""

    outlet: str
    vessels: list[str]
    containers: int
    holds_l: float
    demand_lpd: float
    gets_lpd: float
    days_held: float | None
    levels: list[LevelReport]


class UnattendedReport(Report):
    """A vessel filled by an outlet left open; null where it never gets full."""

    vessel: str
    outlet: str
    flow_lpm: float
    full_min: float | None
    over_l_per_h: float
    has_float: bool
    by_design: bool
    lost_lpd: float
    sinks: bool


class SpellReport(Report):
    """A zone of a timer, or a float that calls: minutes from midnight, over 1,440 past it."""

    outlet: str
    part: str
    since_min: float
    until_min: float


class TimerReport(Report):
    timer: str
    spells: list[SpellReport]


class SeasonReport(Report):
    """The grazing calendar day by day: stops and paddocks of each herd, and what is asked of each outlet [L/d]."""

    days: list[str]
    stops: dict[str, list[list[str]]]
    paddocks: dict[str, list[list[str]]]
    asked_lpd: dict[str, list[float]]


class DemandReport(Report):
    air_c: float
    humid: bool
    date: str | None
    walk_limit_m: float | None
    scenario: str
    herds: list[HerdReport]
    others: list[OtherReport]
    daily_l: float
    season: SeasonReport
    hours_l: dict[str, list[float]]
    rows: list[RowReport]
    unattended: list[UnattendedReport]
    timers: list[TimerReport]
    calls: list[SpellReport]


def _walk_limit_m(analysis: Analysis) -> float | None:
    """Return how far from water animals are kept on the day shown [m]: of those that graze, or of all, the least."""
    day, southern = analysis.scenario.date, analysis.design.site.is_southern
    if day is None:
        return None
    herds = analysis.design.herds
    grazing = {rotation.herd for rotation in analysis.design.calendar}
    kinds = [herd.animal for herd in herds if herd.id in grazing] or [herd.animal for herd in herds] or [GENERAL_KIND]
    return min(walking_limit_m(animal, day, southern=southern) for animal in kinds)


def demand_report(analysis: Analysis) -> DemandReport:
    """Return what the herds need."""
    case = analysis.scenario
    return DemandReport(
        air_c=case.air_c,
        humid=case.humid,
        date=case.date,
        walk_limit_m=_walk_limit_m(analysis),
        scenario=label(case),
        herds=[_herd(demand) for demand in analysis.herds],
        others=[_other(other) for other in analysis.other_demands],
        daily_l=analysis.daily_l,
        hours_l=analysis.hours_of_cases,
        season=SeasonReport(**vars(analysis.season)),
        rows=[_row(row) for row in analysis.container_rows],
        unattended=[_unattended(fill) for fill in analysis.unattended_fills],
        timers=[TimerReport(timer=timer.id, spells=[_spell(s) for s in own]) for timer, own in analysis.timer_runs],
        calls=[_spell(call) for call in analysis.float_calls] if analysis.design.timers else [],
    )


def _herd(demand: HerdDemand) -> HerdReport:
    intake = demand.intake
    return HerdReport(
        id=demand.herd.id,
        head=demand.head,
        outlets=demand.outlets,
        paddocks=demand.paddocks,
        per_head_lpd=demand.per_head_lpd,
        daily_l=demand.daily_l,
        own_figure=demand.herd.intake_lpd is not None,
        published_lpd=intake.published.litres_per_day if intake else None,
        notes=[words(note) for note in _notes(demand)],
        milk_kgd=intake.milk_kgd if intake else None,
        source=_source(intake.published.source_id, intake.published.note) if intake else "your own figure",
        counts_feed_water=bool(intake and intake.counts_feed_water),
        by_weight_lpd=intake.by_weight_lpd if intake else None,
        by_weight_source=_source(rule.source_id, rule.note) if (rule := intake and intake.by_weight_rule) else None,
        humid_lpd=intake.humid_lpd if intake else 0.0,
    )


# classes in milk of which no yield is counted
IN_MILK = {name for name, kind in animals().items() if ("milk" in name or "lactating" in name) and not kind.gives_milk}


def _notes(demand: HerdDemand) -> Iterator[Wording]:
    """Yield what is to be known of a herd's figure: what it was carried on to, and what calves have of it."""
    if demand.calves_l > 0.0:
        calf, litres = Quantity(value=CALF_KG, unit="kg"), Quantity(value=demand.calves_l, unit="L/d")
        yield say("Of it {} are for the calves, each counted as one of {} (our own figure).", litres, calf)
    intake = demand.intake
    if intake and intake.milk_kgd is None and demand.herd.animal in IN_MILK:
        yield say("Milk is not counted: what is published for the class goes by heat and weight.")
    if intake and intake.published.scaled:
        weight = Quantity(value=intake.weight_kg, unit="kg")
        yield say("Not published for {}: scaled from the nearest weight by its power of 0.75.", weight)
    if intake and intake.published.beyond:
        yield say("Hotter than the table goes: carried on at its steepest rise.")


def _other(other: OtherDemand) -> OtherReport:
    return OtherReport(
        kind=other.kind,
        id=other.part_id,
        name=other.name,
        where=other.where,
        daily_l=other.daily_l,
        how=plain(other.how),
        how_words=words(other.how),
        herd=other.herd,
    )


def _row(row: ContainerRow) -> RowReport:
    return RowReport(
        outlet=row.outlet.id,
        vessels=[vessel.id for vessel in row.vessels],
        containers=row.containers,
        holds_l=row.holds_m3 / LITRE_M3,
        demand_lpd=row.demand_m3_per_day / LITRE_M3,
        gets_lpd=row.gets_m3_per_day / LITRE_M3,
        days_held=row.days_held,
        levels=[
            LevelReport(
                since=level.since,
                closes_at_m=level.closes_at_m,
                holds_l=level.holds_m3 / LITRE_M3,
                change_l=level.change_m3 / LITRE_M3,
            )
            for level in row.levels
        ],
    )


def _unattended(fill: UnattendedFill) -> UnattendedReport:
    return UnattendedReport(
        vessel=fill.vessel.id,
        outlet=fill.outlet.id,
        flow_lpm=lpm_from_m3s(fill.inflow_m3s),
        full_min=None if fill.full_s is None else fill.full_s / MINUTE_S,
        over_l_per_h=fill.over_m3s * HOUR_S / LITRE_M3,
        has_float=fill.has_float,
        by_design=fill.by_design,
        lost_lpd=fill.lost_m3s * DAY_S / LITRE_M3,
        sinks=fill.sinks,
    )


def _spell(spell: Spell) -> SpellReport:
    return SpellReport(outlet=spell.outlet, part=spell.part_id, since_min=spell.since, until_min=spell.until)


def _source(source_id: str, note: str) -> str:
    source = sources()[source_id]
    year = f" {source.year}" if source.year else ""
    return f"{source.author}{year}, {source.title} ({note})"
