"""Containers that stay behind the level that the float of their row keeps."""

from collections.abc import Callable, Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import MILLIMETRE_M, MINUTE_S
from leadsman.core.base.wording import Quantity, Wording, duration, say
from leadsman.core.design import Vessel, label
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, Ladder, that_help
from leadsman.core.growing.row_chain import RowChain, row_chain
from leadsman.core.growing.row_season import keeps_up
from leadsman.core.parts.setting import length

LAG_S = 4 * 3600.0  # three lags level a row to within a twentieth: a night of twelve hours; ours, no source
FEWEST_WITH_MIDDLE = 3
TUBES_MM = (6.0, 9.0, 13.0, 16.0, 20.0, 25.0, 32.0, 40.0, 50.0)


@judgement("pot-lags", "A container stays behind the level of its row", Question.HOW_FAST)
def pot_lags(analysis: Analysis) -> Iterator[Finding]:
    """Yield each row of which the last container stands at under half its depth on the mean, or lags over 4 hours."""
    for row in analysis.container_rows:
        chain = row_chain(analysis, row)
        if chain is None:
            continue
        lag = duration(chain.lag_s)
        name, depth_m = spot_name(chain, chain.last), float(chain.depths_m[chain.last])
        mean_m, peak_m = chain.lowest_m
        slowest, share = chain.slowest
        if not keeps_up(chain):
            yield Finding(
                severity=Severity.FIX,
                where=row.vessels[0].id,
                value=max(0.0, mean_m) / MILLIMETRE_M,
                limit=depth_m / 2.0 / MILLIMETRE_M,
                unit="mm",
                headline=say("{} stands {} under the float's level", name, length(depth_m - max(0.0, mean_m))),
                why=say(
                    "Its tubes bring what plants take only with that fall: {} of water are left in it on the mean of "
                    "the day and {} when they take most, and {} at the float's level; half of that is wanted (our own "
                    "rule). Wider tubes, or water that comes in at the middle of the row, help.",
                    length(max(0.0, mean_m)), length(max(0.0, peak_m)), length(depth_m),
                ),
                try_remedies=partial(_remedies, analysis, row.outlet.id, _depth_share, 0.5, _deeper),
            )  # fmt: skip
        elif chain.lag_s > LAG_S:
            yield Finding(
                severity=Severity.WATCH,
                where=row.vessels[0].id,
                value=chain.lag_s / MINUTE_S,
                limit=LAG_S / MINUTE_S,
                unit="min",
                headline=say("{} lags {} behind the float's level", name, lag),
                why=say(
                    "A change of level, or a dose in the first container, takes about three times as long to reach it: "
                    "longer than a night (our own rule). {} of it comes of {}. Measure strength and level there, "
                    "not at the float.",
                    f"{share:.0%}",
                    "the links between containers" if slowest is None else label(slowest),
                ),
                try_remedies=partial(_remedies, analysis, row.outlet.id, _sooner, -LAG_S, _lag),
            )


def spot_name(chain: RowChain, number: int) -> Wording:
    """Return what a container of a chain is called: its vessel, and which of its number."""
    spot = chain.spots[number]
    assert spot is not None, "a joint holds nothing and is never the last"
    vessel, of_count = spot
    return say(f"Container {of_count} of {{}}", label(vessel)) if vessel.count > 1 else say("{}", label(vessel))


def _depth_share(chain: RowChain) -> float:
    return chain.lowest_m[0] / max(float(chain.depths_m[chain.last]), MILLIMETRE_M)


def _sooner(chain: RowChain) -> float:
    return -chain.lag_s


def _deeper(share: float) -> Wording:
    return say("then {} of its depth is left in the last", f"{max(0.0, share):.0%}")


def _lag(minus_s: float) -> Wording:
    return say("then the last lags {}", duration(-minus_s))


def _remedies(
    analysis: Analysis,
    outlet_id: str,
    of_chain: Callable[[RowChain], float],
    enough: float,
    effect: Callable[[float], Wording],
) -> list[Remedy]:
    """Return wider tubes, or water that comes in at the middle, where they bring the last container nearer."""

    def measure(after: Analysis) -> float | None:
        row = next((one for one in after.container_rows if one.outlet.id == outlet_id), None)
        chain = row_chain(after, row) if row is not None else None
        return of_chain(chain) if chain is not None else None

    row = next(one for one in analysis.container_rows if one.outlet.id == outlet_id)
    members = {vessel.id for vessel in row.vessels}
    links = [(number, one) for number, one in enumerate(analysis.document.vessels) if one.id in members]
    links = [(number, one) for number, one in links if one.count > 1]
    tubes = [
        (number, line)
        for number, line in enumerate(analysis.document.lines)
        if line.from_ in members and line.to in members and line.bore_mm is not None
    ]
    middle = [
        Candidate(
            say("water that comes in at the middle of {}", label(vessel)),
            [{"op": "add", "path": f"/vessels/{number}/fed_at", "value": "middle"}],
        )
        for number, vessel in links
        if vessel.fed_at == "end" and vessel.count >= FEWEST_WITH_MIDDLE
    ]
    wider_links = [Ladder(_wider([(f"/vessels/{n}/link_mm", v.link_mm or 0.0)], _links_of(v))) for n, v in links]
    wider_tubes = [Ladder(_wider([(f"/lines/{n}/bore_mm", t.bore_mm or 0.0)], say("{}", label(t)))) for n, t in tubes]
    every = [(f"/vessels/{n}/link_mm", v.link_mm or 0.0) for n, v in links]
    every += [(f"/lines/{n}/bore_mm", t.bore_mm or 0.0) for n, t in tubes]
    all_of_them = [Ladder(_wider(every, say("all tubes of the row")))] if len(every) > 1 else []
    return that_help(analysis, [*middle, *wider_links, *wider_tubes], measure, effect, enough, all_of_them)


def _links_of(vessel: Vessel) -> Wording:
    return say("the links of {}", label(vessel))


def _wider(bores_mm: list[tuple[str, float]], name: Wording) -> list[Candidate]:
    """Return a candidate for each width of tube: all that are narrower get it."""
    return [
        Candidate(
            say("a bore of {} for {}", Quantity(value=bore, unit="mm"), name),
            [{"op": "replace", "path": path, "value": bore} for path, now in bores_mm if now < bore],
        )
        for bore in TUBES_MM
        if any(now < bore for _, now in bores_mm)
    ]
