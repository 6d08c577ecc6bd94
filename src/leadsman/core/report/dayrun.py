"""A run over time as JSON: levels, flows, what happened in plain words."""

from typing import NamedTuple

from leadsman.core.base.array import Floats
from leadsman.core.base.units import LITRE_M3, lpm_from_m3s
from leadsman.core.base.wording import plain
from leadsman.core.dayrun.happening import looks_s
from leadsman.core.dayrun.record import Watch
from leadsman.core.dayrun.run import DayRun, day_run, times_to_tell
from leadsman.core.dayrun.story import Happening, Story, Weight, clock, story_of
from leadsman.core.design import Design
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.reserve import ReserveReport, reserve_reports
from leadsman.core.steady.case import shown_scenario

TOLD_ON_SCREEN, FEWEST_TOLD = 289, 97  # every five minutes of a day; of large plans every quarter of an hour
MOST_FIGURES = 100_000  # in one answer


class Digits(NamedTuple):
    """Digits behind the point of what is told: of levels and heads [m], and of flows [L/min]."""

    level: int
    flow: int


EXACT, ON_SCREEN = Digits(6, 5), Digits(4, 3)


class EventReport(Report):
    """Something that happened: when [s], what kind of thing, to which part, in words with the time of day."""

    time_s: float
    kind: str
    where: str
    text: str


class HappeningReport(Report):
    """The same for the page: in words of which the figures can be shown in other units, and how bad it is."""

    time_s: float
    kind: str
    where: str
    told: Words
    weight: Weight


class WaitingReport(Report):
    """Animals that find no water: a herd, the vessel, how many, from when to when [s]."""

    herd: str
    vessel: str
    head: int
    from_s: float
    to_s: float


class DaySummary(Report):
    """A run in one sentence and a few figures.

    `lost_l` is what left unused; the least that the stores of the lowest system held above their outlets
    [L], at a time [s], of the most; `store` is the largest of them.
    """

    sentence: Words
    weight: Weight
    lost_l: float
    store: str | None
    least_store_l: float
    least_at_s: float
    most_store_l: float
    animal_hours: float
    waiting: list[WaitingReport]


class DayRunReport(Report):
    """Levels [m] of vessels, flows [L/min] of outlets and lines and heads [m] of places and outlets at times [s].

    `beside_lpm` is what sources bring and herds, ponds, draws and leaks take, by id. `mass_error` is what is
    missing in the balance, as a share of the throughput; `over_l` what ran over, `escaped_l` what came out at each
    event, `lacking_l` what was wanted of a vessel and not there; `reserves` only for the page. Where the network
    has no solution the run ends, at `ended_s`, with all that came before.
    """

    times_s: list[float]
    levels_m: dict[str, list[float]]
    flows_lpm: dict[str, list[float]]
    heads_m: dict[str, list[float]]
    beside_lpm: dict[str, list[float]]
    events: list[EventReport]
    happenings: list[HappeningReport]
    looks_s: list[float]
    over_l: dict[str, float]
    escaped_l: dict[str, float]
    lacking_l: dict[str, float]
    summary: DaySummary
    reserves: list[ReserveReport] = []
    mass_error: float
    ended_s: float | None = None
    why: str = ""


def asked_day(design: Design, hours: float, *, with_events: bool = True, watch: Watch = lambda _: None) -> DayRunReport:
    """Run a design from midnight on in the case that it shows, and tell it at evenly spread times.

    Args:
        hours: 0.01 to 2,160 [h].
        with_events: whether the design's events happen.
        watch: as for `day_run`.
    Raises: as `day_run`.
    """
    parts = len(design.vessels) + len(design.outlets) + len(design.lines) + len(design.places)
    told = max(FEWEST_TOLD, min(TOLD_ON_SCREEN, MOST_FIGURES // max(parts, 1)))
    length_s, times_s = times_to_tell(hours, None, told)
    design = design if with_events else design.model_copy(update={"events": []})
    run = day_run(design, length_s, times_s, shown_scenario(design), watch=watch)
    report = day_run_report(design, run, length_s, ON_SCREEN)
    return report.model_copy(update={"reserves": reserve_reports(design)})


def day_run_report(design: Design, run: DayRun, length_s: float, digits: Digits = EXACT) -> DayRunReport:
    """Return a run as JSON holds it."""
    flows = {outlet.id: run.outlets_m3s[:, number] for number, outlet in enumerate(design.outlets)}
    flows |= {line.id: run.lines_m3s[:, number] for number, line in enumerate(design.lines)}
    story = story_of(design, run, length_s)
    return DayRunReport(
        times_s=run.times_s.tolist(),
        levels_m={
            vessel.id: [round(level, digits.level) for level in run.levels_m[:, number].tolist()]
            for number, vessel in enumerate(design.vessels)
        },
        flows_lpm={key: _lpm(row, digits) for key, row in flows.items()},
        heads_m={
            part.id: [round(head, digits.level) for head in heads.tolist()]
            for parts, rows in ((design.places, run.places_m), (design.outlets, run.ends_m))
            for part, heads in zip(parts, rows.T, strict=True)
        },
        beside_lpm={key: _lpm(row, digits) for key, row in run.beside_m3s.items()},
        events=[_event(happening) for happening in story.happenings],
        happenings=[
            HappeningReport(
                time_s=round(happening.time_s, 3),
                kind=happening.kind,
                where=happening.where,
                told=words(happening.told),
                weight=happening.weight,
            )
            for happening in story.happenings
        ],
        looks_s=looks_s(design, length_s),
        over_l=_litres(design, run.over_m3),
        escaped_l={key: round(volume / LITRE_M3, 3) for key, volume in run.escaped_m3.items()},
        lacking_l=_litres(design, run.lacking_m3),
        summary=_summary(story),
        mass_error=run.mass_error,
        ended_s=run.ended_s,
        why=run.why,
    )


def _lpm(flows_m3s: Floats, digits: Digits) -> list[float]:
    return [round(lpm_from_m3s(flow), digits.flow) + 0.0 for flow in flows_m3s.tolist()]


def _litres(design: Design, volumes_m3: Floats) -> dict[str, float]:
    return {
        vessel.id: round(volume / LITRE_M3, 3)
        for vessel, volume in zip(design.vessels, volumes_m3.tolist(), strict=True)
        if volume > 0.0
    }


def _event(happening: Happening) -> EventReport:
    return EventReport(
        time_s=round(happening.time_s, 3),
        kind=happening.kind,
        where=happening.where,
        text=f"{clock(happening.time_s)} {plain(happening.told)}",
    )


def _summary(story: Story) -> DaySummary:
    return DaySummary(
        sentence=words(story.sentence),
        weight=story.weight,
        lost_l=story.lost_m3 / LITRE_M3,
        store=story.store,
        least_store_l=story.least_store_m3 / LITRE_M3,
        least_at_s=story.least_at_s,
        most_store_l=story.most_store_m3 / LITRE_M3,
        animal_hours=sum(one.animal_hours for one in story.waiting),
        waiting=[
            WaitingReport(
                herd=one.herd, vessel=one.vessel, head=one.head, from_s=round(one.from_s, 1), to_s=round(one.to_s, 1)
            )
            for one in story.waiting
        ],
    )
