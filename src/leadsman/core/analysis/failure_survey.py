"""What each failure would cost until the next look, and what would have made it cost less."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from leadsman.core.analysis.no_refill import first_dry_s
from leadsman.core.base.array import Floats
from leadsman.core.base.units import HOUR_S, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue import parts, pipes
from leadsman.core.catalogue.product import PartKind
from leadsman.core.dayrun.run import DayRun, day_run
from leadsman.core.dayrun.story import Story, story_of
from leadsman.core.design import (
    CheckValveFailed,
    Design,
    FloatValveOutlet,
    HoseOff,
    InlinePart,
    Line,
    Scenario,
    StuckOpen,
    Vessel,
    label,
)
from leadsman.core.design.change import with_part
from leadsman.core.design.line_pipe import line_reaches
from leadsman.core.design.price_book import in_site_money, price_of
from leadsman.core.steady.way import STILL_BELOW_M3S

EVENT = "surveyed"
LONGEST_S = 14 * 24 * HOUR_S
WORST_HELPED = 3  # for the worst of them it is worked out what would help
MOST_SURVEYED = 120
LIMITER_PRICE = 14.0  # typical, US dollars, from memory, rough
LIMITER_SHARE = 0.5  # of what it passes, where nothing is wanted of it; ours, no source
LESS_BY = 0.98  # of the loss: what saves less than that helps nobody
SAME_S = 60.0  # no earlier than so is no sooner
SHORT_H = 0.5  # animal hours that count
LEAST_OF_BORE = 0.8  # of the pipe, that a part for it has
CHECKED_AT_M = 0.5


@dataclass(frozen=True, kw_only=True)
class Cost:
    """What a failure costs until the next look, beyond the run in which nothing fails.

    `lost_m3` is lost unused, `dry_s` when the first store or trough is dry that else is not (None: none is),
    `animal_hours` what animals wait for water, at the vessels in `short`.
    """

    lost_m3: float
    dry_s: float | None
    dry_where: str | None
    animal_hours: float
    short: list[str]


@dataclass(frozen=True, kw_only=True)
class Measure:
    """What would make a failure cost less: in words, what it then costs, its price; `patch` where it can be tried."""

    told: Wording
    cost: Cost
    price: float | None
    patch: list[dict[str, Any]]


@dataclass(frozen=True, kw_only=True)
class Failure:
    """One thing that fails just after a look, and what it costs; `kind` as of events."""

    kind: str
    where: str
    cost: Cost
    measures: list[Measure]


@dataclass(frozen=True, kw_only=True)
class FailureSurvey:
    """Every failure, the worst first: most animal hours, then most water lost. `left_out` could not be run."""

    look_s: float
    failures: list[Failure]
    left_out: int


def failure_survey(
    design: Design, scenario: Scenario | None, progress: Callable[[float], None] = lambda _: None
) -> FailureSurvey:
    """Return what each float valve stuck open, line that comes off and failed check valve costs until the next look.

    Each fails at midnight, just after a look, all vessels as the document has them; the design's own events do not
    happen. Looks more than a fortnight apart count as a fortnight.

    Args:
        progress: called with how far it is, 0 to 1; an exception in it ends the survey.
    Raises: as `day_run`.
    """
    return _Survey(design, scenario, progress).result()


@dataclass(frozen=True)
class _Ran:
    """An event that was run: what it cost, and what each outlet and line passed at its start [m3/s]."""

    event: StuckOpen | HoseOff | CheckValveFailed
    cost: Cost
    outlets_m3s: Floats
    lines_m3s: Floats


class _Survey:
    def __init__(self, design: Design, scenario: Scenario | None, progress: Callable[[float], None]) -> None:
        self.design = design.model_copy(update={"events": []})
        self.scenario, self.progress = scenario, progress
        self.look_s = min(design.site.look_every_h * HOUR_S, LONGEST_S)
        self.done, self.all = 0, 1
        self.quiet = self._run(self.design)

    def result(self) -> FailureSurvey:
        events = list(self._events())
        left_out = max(0, len(events) - MOST_SURVEYED)
        events = events[:MOST_SURVEYED]
        self.all = 1 + len(events) + 3 * min(WORST_HELPED, len(events))
        ran = [one for event in events if (one := self._ran(self.design, event)) is not None]
        ran.sort(key=lambda one: (-one.cost.animal_hours, -one.cost.lost_m3))
        failures = [
            Failure(
                kind=one.event.kind,
                where=one.event.where,
                cost=one.cost,
                measures=list(self._measures(one)) if number < WORST_HELPED else [],
            )
            for number, one in enumerate(ran)
        ]
        return FailureSurvey(look_s=self.look_s, failures=failures, left_out=left_out)

    def _events(self) -> Iterator[StuckOpen | HoseOff | CheckValveFailed]:
        for outlet in self.design.outlets:
            if isinstance(outlet, FloatValveOutlet) and outlet.fills is not None and not outlet.shut:
                yield StuckOpen(id=EVENT, kind="stuck_open", where=outlet.id, at_s=0.0)
        for line in self.design.lines:
            if not line.shut:
                yield HoseOff(id=EVENT, kind="hose_off", where=line.id, at_s=0.0)
        for line in self.design.lines:
            if not line.shut and any(part.kind == "check_valve" for part in line.inline):
                yield CheckValveFailed(id=EVENT, kind="check_valve_failed", where=line.id, at_s=0.0)

    def _run(self, design: Design) -> tuple[DayRun, Story]:
        def watch(time_s: float) -> None:
            self.progress(min((self.done + time_s / self.look_s) / self.all, 1.0))

        run = day_run(design, self.look_s, [0.0, self.look_s], self.scenario, watch=watch)
        self.done += 1
        return run, story_of(design, run, self.look_s)

    def _ran(self, design: Design, event: StuckOpen | HoseOff | CheckValveFailed) -> _Ran | None:
        """Return what an event costs beyond the run in which nothing fails; None where its run has no answer."""
        run, story = self._run(design.model_copy(update={"events": [event]}))
        plain, calm = self.quiet
        if run.why or plain.why:
            return None
        dried = first_dry_s(plain.events)
        dry = [
            (time_s, where)
            for where, time_s in first_dry_s(run.events).items()
            if time_s < dried.get(where, float("inf")) - SAME_S
        ]
        hours = _animal_hours(story)
        usual = _animal_hours(calm)
        more = {vessel: spent - usual.get(vessel, 0.0) for vessel, spent in hours.items()}
        first = min(dry, default=(None, None))
        cost = Cost(
            lost_m3=max(story.lost_m3 - calm.lost_m3, 0.0),
            dry_s=first[0],
            dry_where=first[1],
            animal_hours=max(sum(hours.values()) - sum(usual.values()), 0.0),
            short=[vessel for vessel, extra in more.items() if extra > SHORT_H],
        )
        return _Ran(event, cost, run.outlets_m3s[0], run.lines_m3s[0])

    def _measures(self, failed: _Ran) -> Iterator[Measure]:
        """Yield what would make a failure cost less, the best first."""
        tried = [
            Measure(told=told, cost=ran.cost, price=price, patch=patch)
            for told, changed, price, patch in self._changes(failed)
            if (ran := self._ran(changed, failed.event)) is not None
        ]
        helps = [one for one in tried if _less(one.cost, failed.cost)]
        yield from sorted(helps, key=lambda one: (one.cost.animal_hours, one.cost.lost_m3))

    def _changes(self, failed: _Ran) -> Iterator[tuple[Wording, Design, float | None, list[dict[str, Any]]]]:
        lines = {line.id: line for line in self.design.lines}
        outlet = next((one for one in self.design.outlets if one.id == failed.event.where), None)
        if isinstance(outlet, FloatValveOutlet):
            yield from self._limited(outlet, float(failed.outlets_m3s[self.design.outlets.index(outlet)]))
        last = lines.get(failed.event.where) or (outlet and _last_line(self.design, outlet.id, outlet.place))
        if last:
            yield from self._thinner(last)
        if not isinstance(failed.event, CheckValveFailed):
            yield from self._checked(failed)
        yield from self._divided()

    def _limited(
        self, outlet: FloatValveOutlet, passes_m3s: float
    ) -> Iterator[tuple[Wording, Design, float | None, list[dict[str, Any]]]]:
        """Yield a flow limiter before a valve: of the flow wanted of it, else of half of what it passes."""
        passes = lpm_from_m3s(passes_m3s)
        wanted = [one.flow_lpm for one in self.design.requirements if one.outlet == outlet.id and one.flow_lpm]
        limit = min(wanted, default=LIMITER_SHARE * passes)
        if not 0.0 < limit < LESS_BY * passes:
            return
        valve = outlet.valve.model_copy(update={"kv_m3h": outlet.valve.kv_m3h * limit / passes})
        told = say("A flow limiter of {} before {}", Quantity(value=limit, unit="L/min"), label(outlet))
        price = in_site_money(self.design, LIMITER_PRICE)
        yield told, with_part(self.design, "outlets", outlet.id, {"valve": valve}), price, []

    def _thinner(self, line: Line) -> Iterator[tuple[Wording, Design, float | None, list[dict[str, Any]]]]:
        """Yield the next thinner pipe of the same family in a line."""
        product = self.design.pipe(line.product) if line.product else None
        if product is None:
            return
        narrower = [one for one in pipes().values() if one.family == product.family and one.bore_m < product.bore_m]
        if not narrower:
            return
        thin = max(narrower, key=lambda one: (one.bore_m, -(one.price_per_m or 0.0)))
        index = self.design.lines.index(line)
        metre = price_of(self.design, thin)
        price = None if metre is None else round(metre * line.pipe_length_m, 2)
        told = say("{} in {}", label(line), thin.name)
        patch = [{"op": "replace", "path": f"/lines/{index}/product", "value": thin.product_id}]
        yield told, with_part(self.design, "lines", line.id, {"product": thin.product_id}), price, patch

    def _checked(self, failed: _Ran) -> Iterator[tuple[Wording, Design, float | None, list[dict[str, Any]]]]:
        """Yield a check valve in each line in which the failure has the water run back."""
        for index, line in enumerate(self.design.lines):
            ran_back = failed.lines_m3s[index] < -STILL_BELOW_M3S
            if not ran_back or line.id == failed.event.where or line.siphon:
                continue
            at_m = min(CHECKED_AT_M, line.pipe_length_m / 2.0)
            part = InlinePart(kind="check_valve", at_m=at_m)
            told = say("A check valve at the beginning of {}", label(line))
            number = len(line.inline)
            patch = [{"op": "add", "path": f"/lines/{index}/inline/{number}" if number else f"/lines/{index}/inline",
                      "value": {"kind": "check_valve", "at_m": at_m} if number else [
                          {"kind": "check_valve", "at_m": at_m}]}]  # fmt: skip
            changed = with_part(self.design, "lines", line.id, {"inline": [*line.inline, part]})
            yield told, changed, self._part_price("check_valve", line), patch

    def _divided(self) -> Iterator[tuple[Wording, Design, float | None, list[dict[str, Any]]]]:
        """Yield half of the largest store kept behind a tap that is shut."""
        store = next((one for one in self.design.vessels if one.id == self.quiet[1].store), None)
        if store is None or store.level_m <= store.outlet_m:
            return
        halfway = with_part(self.design, "vessels", store.id, {"outlet_m": (store.level_m + store.outlet_m) / 2.0})
        told = say("Half of {} kept behind a shut tap", label(store))
        yield told, halfway, self._tap_price(store), []

    def _tap_price(self, store: Vessel) -> float | None:
        """Return the price of an isolating valve of the bore of the line that the store gives to."""
        line = next((one for one in self.design.lines if store.id in (one.from_, one.to)), None)
        return None if line is None else self._part_price("isolating_valve", line)

    def _part_price(self, kind: PartKind, line: Line) -> float | None:
        """Return the price of a part of a kind of the bore of a line."""
        bore_mm = 1e3 * line_reaches(line, "/lines", self.design.own_pipes)[0].bore_m
        sold = [one for one in parts().values() if one.kind == kind and one.bore_mm and one.price]
        wide = [one for one in sold if one.bore_mm and one.bore_mm >= LEAST_OF_BORE * bore_mm] or sold
        cheapest = min(wide, key=lambda one: (one.bore_mm or 0.0, one.price or 0.0), default=None)
        return None if cheapest is None else price_of(self.design, cheapest)


def _last_line(design: Design, outlet_id: str, place_id: str) -> Line | None:
    """Return the line that an outlet hangs on, where it is the only one there."""
    own = [line for line in design.lines if outlet_id in (line.from_, line.to)]
    there = own or [line for line in design.lines if place_id in (line.from_, line.to)]
    return there[0] if len(there) == 1 else None


def _animal_hours(story: Story) -> dict[str, float]:
    spent: dict[str, float] = {}
    for one in story.waiting:
        spent[one.vessel] = spent.get(one.vessel, 0.0) + one.animal_hours
    return spent


def _less(cost: Cost, than: Cost) -> bool:
    if than.animal_hours > SHORT_H and cost.animal_hours > than.animal_hours + SHORT_H:
        return False
    fewer = cost.animal_hours < LESS_BY * than.animal_hours - SHORT_H
    return fewer or cost.lost_m3 < LESS_BY * than.lost_m3
