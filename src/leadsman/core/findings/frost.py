"""What the frost of a plan does: lines that freeze, what bleeding takes, water that stays, ice in tanks and troughs."""

from collections.abc import Iterator
from functools import partial
from typing import Any

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S, LITRE_M3, MINUTE_S, lpm_from_m3s
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import Vessel, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, drains, that_end
from leadsman.core.winter.line_frost import LineFrost
from leadsman.core.winter.vessel_ice import VesselIce
from leadsman.core.winter.winter import SourceInFrost, Winter, winter

LASTS = Question.HOW_LONG_DOES_IT_LAST
OVER_DEPTH_M = 0.1  # below the frost, to be sure; ours, no source
FOAM_MM, LAGGED_MM = 19.0, 50.0  # foam around pipes and on tanks as it is sold: typical, from memory
LEAST_HELD_L = 0.3  # less in a low point freezes and finds room; ours, no source


@judgement("line-freezes", "A line freezes", LASTS, at_rest=True)
def line_freezes(analysis: Analysis) -> Iterator[Finding]:
    """Yield the line that freezes first, where nothing keeps it open and it is not drained; it tells of the others."""
    found = winter(analysis)
    if found is None or found.frost.drained:
        return
    frozen = [one for one in found.freezing if one.line.id not in _kept_open(analysis, found)]
    if not frozen:
        return
    first, more = frozen[0], f", and {len(frozen) - 1} more" if len(frozen) > 1 else ""
    cold = Quantity(value=found.frost.air_c, unit="°C", digits=0)
    yield Finding(
        severity=Severity.FIX,
        where=first.line.id,
        value=first.cold_s / MINUTE_S,
        limit=found.frost.days * DAY_S / MINUTE_S,
        unit="min",
        headline=say("{} freezes {} after its water stands still{}", label(first.line), duration(first.cold_s), more),
        why=(*_where_first(first), *say("At {} its water is then at 0 °C. ", cold), *_bled_too_cold(found)),
        try_remedies=partial(_kept_from_freezing, analysis, found, frozen),
    )


def _kept_open(analysis: Analysis, found: Winter) -> set[str]:
    """Return the lines in which what is left running stays above 0 °C to its end."""
    runs = {one.outlet.id for one in found.bleeds if one.asked_c is not None and one.asked_c >= 0.0}
    ways = [route for outlet in runs if (route := analysis.routes[outlet]) is not None]
    return {leg.line.id for route in ways for leg in route.legs}


def _where_first(first: LineFrost) -> Wording:
    if first.riser is not None:
        return say("It freezes first where it comes out of the ground at {}. ", first.riser)
    if first.reached_s > 0.0:
        cover = Quantity(value=first.line.cover_m, unit="m")
        return say("Frost is down at its {} of cover after {}. ", cover, duration(first.reached_s))
    return say("It lies in the open. ")


def _bled_too_cold(found: Winter) -> Wording:
    cold = [one for one in found.bleeds if one.asked_c is not None and one.asked_c < 0.0]
    if not cold:
        return say("Bury it below the frost, leave enough running, or drain it.")
    running = Quantity(value=lpm_from_m3s(cold[0].asked_m3s), unit="L/min", digits=2)
    if cold[0].least_m3s is None:
        return say("The {} at {} freeze on the way, and so does any flow: the source is too cold.",
                   running, label(cold[0].outlet))  # fmt: skip
    least = Quantity(value=lpm_from_m3s(cold[0].least_m3s), unit="L/min", digits=2)
    if cold[0].is_too_much:
        return say("The {} that {} passes at most freeze on the way: it takes {}. Foam, deeper pipe or draining.",
                   running, label(cold[0].outlet), least)  # fmt: skip
    return say("The {} that run at {} freeze on the way: it takes {}.", running, label(cold[0].outlet), least)


def _kept_from_freezing(analysis: Analysis, found: Winter, frozen: list[LineFrost]) -> list[Remedy]:
    numbers = {line.id: number for number, line in enumerate(analysis.document.lines)}
    depth_m = round(found.depth_m + OVER_DEPTH_M, 2)
    bury = [_at(numbers[one.line.id], "cover_m", depth_m) for one in frozen if one.line.cover_m < depth_m]
    lag = [_at(numbers[one.line.id], "lagging_mm", FOAM_MM) for one in frozen if one.line.lagging_mm < FOAM_MM]
    running = [
        {"outlet": one.outlet.id, "flow_lpm": round(1.05 * lpm_from_m3s(one.least_m3s) + 0.005, 2)}
        for one in found.bleeds
        if one.least_m3s and found.bled_at_once
    ]
    deep = Quantity(value=depth_m, unit="m")
    candidates = [
        Candidate(say("buried {} deep, risers lagged", deep), [*bury, *lag]) if bury else None,
        Candidate(say("water left running at {} outlets", str(len(running))),
                  [{"op": "add", "path": "/frost/bleeds", "value": running}]) if running else None,
        Candidate(say("drained before the frost"), [{"op": "add", "path": "/frost/drained", "value": True}]),
    ]  # fmt: skip
    where = frozen[0].line.id
    told = [one for one in candidates if one is not None]
    return that_end(analysis, told, line_freezes, where, "then it does not freeze")


def _at(number: int, key: str, value: Any) -> dict[str, Any]:
    return {"op": "add", "path": f"/lines/{number}/{key}", "value": value}


@judgement("bleed-over-source", "What is bled is more than the source gives", LASTS, at_rest=True)
def bleed_over_source(analysis: Analysis) -> Iterator[Finding]:
    """Yield each source from which more is bled than is left of what comes in; where nothing is, more than could be."""
    found = winter(analysis)
    if found is None or found.frost.drained:
        return
    for source in found.sources:
        if source.is_short:
            yield _over_source(analysis, found, source, source.spare_m3 or 0.0)


def _over_source(analysis: Analysis, found: Winter, source: SourceInFrost, spare_m3: float) -> Finding:
    bled, spare = (Quantity(value=cubic / LITRE_M3, unit="L/d") for cubic in (source.bled_m3 or 0.0, spare_m3))
    frozen = [one.line.id for one in found.freezing if one.line.lagging_mm < FOAM_MM]
    numbers = {line.id: number for number, line in enumerate(analysis.document.lines)}
    lag = Candidate(
        say("{} of foam around its lines", Quantity(value=FOAM_MM, unit="mm")),
        [_at(numbers[line_id], "lagging_mm", FOAM_MM) for line_id in frozen],
    )
    headline = say("What keeps the lines of {} open is {}, and {} can be spared", label(source.vessel), bled, spare)
    return Finding(
        severity=Severity.FIX if source.by_plan else Severity.WATCH,
        where=source.vessel.id,
        value=bled.value,
        limit=spare.value,
        unit="L/d",
        headline=headline,
        why=say(
            "What is left running is lost to the animals: once the store is empty the lines freeze too. Foam, deeper "
            "pipe or draining takes less."
        ),
        try_remedies=partial(that_end, analysis, [lag] if lag.patch else [], bleed_over_source, source.vessel.id,
                             "then what comes in is enough"),
    )  # fmt: skip


@judgement("undrained-dip", "Water stays in a drained line", LASTS, at_rest=True)
def undrained_dip(analysis: Analysis) -> Iterator[Finding]:
    """Yield each line that is to be drained before the frost and keeps water in low points, all ends open."""
    found = winter(analysis)
    if found is None or not found.frost.drained:
        return
    for line in analysis.document.lines:
        held = [one for one in found.held_in(line.id) if one.litres >= LEAST_HELD_L]
        if not held:
            continue
        litres = Quantity(value=sum(one.litres for one in held), unit="L", digits=1)
        worst = max(held, key=lambda one: one.litres)
        more = f", and {len(held) - 1} more" if len(held) > 1 else ""
        yield Finding(
            severity=Severity.FIX,
            where=line.id,
            value=litres.value,
            limit=LEAST_HELD_L,
            unit="L",
            headline=say("{} stay in {} when it is drained", litres, label(line)),
            why=say(
                "The low point at {}{} has no way out that does not rise: with all ends open it stays full, freezes "
                "and splits.",
                Quantity(value=worst.low_m, unit="m", digits=0),
                more,
            ),
            try_remedies=partial(
                lambda line, spots: that_end(
                    analysis, drains(analysis, line, spots), undrained_dip, line.id, "then it runs empty"
                ),
                line,
                [one.low_m for one in held],
            ),
            spot=(line.id, worst.low_m),
        )


@judgement("ice-closes-outlet", "Ice closes the outlet of a vessel", LASTS, at_rest=True)
def ice_closes_outlet(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel that lines leave whose outlet ice reaches; watch where it does in the worst case alone."""
    found = winter(analysis)
    left = {line.from_ for line in analysis.document.lines}
    for one in found.vessels if found is not None else ():
        closed_s = one.likely.closed_s or one.worst.closed_s
        if one.vessel.id not in left or closed_s is None or found is None:
            continue
        thick = Quantity(value=one.likely.top_m, unit="m")
        after = say("{} after the frost begins", duration(closed_s))
        yield Finding(
            severity=Severity.FIX if one.likely.closed_s is not None else Severity.WATCH,
            where=one.vessel.id,
            value=one.likely.top_m,
            limit=max(0.0, one.vessel.level_m - one.vessel.outlet_m),
            unit="m",
            headline=say("Ice closes the outlet of {} ", label(one.vessel)) + after,
            why=say(
                "At its end the ice on top is {} thick, {} to {} by sun, wind and clear nights; the outlet lies {} "
                "over the floor. A lid, foam, a lower outlet or water drawn every day keeps it open.",
                thick,
                Quantity(value=one.best.top_m, unit="m"),
                Quantity(value=one.worst.top_m, unit="m"),
                Quantity(value=one.vessel.outlet_m, unit="m"),
            ),
            try_remedies=partial(_covered, analysis, one.vessel, ice_closes_outlet),
        )


@judgement("core-used-up", "What stays liquid in a vessel is less than a day's need", LASTS, at_rest=True)
def core_used_up(analysis: Analysis) -> Iterator[Finding]:
    """Yield each vessel from which something is drawn that is ice before the frost ends, or nearly so."""
    found = winter(analysis)
    for one in found.vessels if found is not None else ():
        if one.lacks(one.worst) and one.likely.empty_s is None:  # drawn empty is no matter of ice
            yield _used_up(analysis, one)


def _used_up(analysis: Analysis, one: VesselIce) -> Finding:
    litres, drawn = (Quantity(value=cubic / LITRE_M3, unit="L") for cubic in (one.likely.core_m3, one.drawn_m3))
    return Finding(
        severity=Severity.FIX if one.lacks(one.likely) else Severity.WATCH,
        where=one.vessel.id,
        value=litres.value,
        limit=drawn.value,
        unit="L",
        headline=say("{} of {} stay liquid at the frost's end", litres, label(one.vessel)),
        why=say(
            "{} are drawn of it in a day. By sun, wind and clear nights it may be {} to {}: the ice is what is known "
            "least. Break the ice daily and look: animals die within days without water.",
            drawn,
            Quantity(value=one.worst.core_m3 / LITRE_M3, unit="L"),
            Quantity(value=one.best.core_m3 / LITRE_M3, unit="L"),
        ),
        try_remedies=partial(_covered, analysis, one.vessel, core_used_up),
    )


def _covered(analysis: Analysis, vessel: Vessel, judge: Any) -> list[Remedy]:
    """Return a lid, and a lid with foam, where they help."""
    number = [one.id for one in analysis.document.vessels].index(vessel.id)
    lid = {"op": "add", "path": f"/vessels/{number}/lid", "value": True}
    foam = {"op": "add", "path": f"/vessels/{number}/lagging_mm", "value": LAGGED_MM}
    thick = Quantity(value=LAGGED_MM, unit="mm")
    candidates = [Candidate(say("a lid"), [lid]), Candidate(say("a lid and {} of foam", thick), [lid, foam])]
    return that_end(analysis, candidates, judge, vessel.id, "then enough stays liquid")
