"""One fitting, or a short thin piece, that takes more than its part of the head."""

from collections.abc import Iterator
from functools import partial

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.narrow import Neck, worst_neck
from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.base.wording import Quantity, say
from leadsman.core.catalogue import fittings, parts
from leadsman.core.design import OutletBase, label
from leadsman.core.design.fitted import part_document
from leadsman.core.findings.registry import Finding, Question, Remedy, Severity, judgement
from leadsman.core.findings.remedies import Candidate, Ladder, larger_pipe, that_raise_flow

QUARTER = 0.25  # of the fall; ours, no source
MOST_TRIED = 3


@judgement("neck", "One fitting or narrow piece takes more than a quarter of the head", Question.HOW_FAST)
def neck(analysis: Analysis) -> Iterator[Finding]:
    """Yield, for each running outlet, the fitting, part or short thin piece that takes more than a quarter of its fall.

    What several outlets have in common is said of the one of them that it takes most from.
    """
    found: dict[tuple[str, tuple[str, int]], tuple[float, OutletBase, Neck, float]] = {}
    for outlet in analysis.fed_outlets if analysis.state.converged else ():
        route = analysis.routes[outlet.id]
        if route is None or analysis.answer(outlet).judged_flow_m3s <= 0.0:
            continue
        surface_m = analysis.model.layout.floor_m(route.vessel) + analysis.standing.levels_m[route.vessel.id]
        fall_m = surface_m - analysis.model.layout.outlet_height_m(outlet)
        neck = worst_neck(analysis, outlet)
        if neck is None or fall_m <= 0.0:
            continue
        key, share = (neck.leg.line.id, neck.part), neck.loss_m / fall_m
        if share > QUARTER and (key not in found or share > found[key][0]):
            found[key] = share, outlet, neck, fall_m
    for share, outlet, neck, fall_m in found.values():
        yield Finding(
            severity=Severity.FIX if share > 2 * QUARTER else Severity.WATCH,
            where=outlet.id,
            value=neck.loss_m,
            limit=QUARTER * fall_m,
            unit="m",
            headline=say("One narrow place takes {} of the head to {}", f"{100 * share:.0f} %", label(outlet)),
            why=say(
                "The {} on {} takes {} of the {} of fall with all running: it throttles the line. Keep it if that is "
                "intended, to lose little when a valve sticks.",
                neck.name,
                label(neck.leg.line),
                Quantity(value=neck.loss_m, unit="m"),
                Quantity(value=fall_m, unit="m"),
            ),
            try_remedies=partial(_wider, analysis, outlet, neck),
            spot=(neck.leg.line.id, neck.at_m),
        )


def _wider(analysis: Analysis, outlet: OutletBase, narrow: Neck) -> list[Remedy]:
    return that_raise_flow(analysis, outlet, _candidates(analysis, narrow))


def _candidates(analysis: Analysis, narrow: Neck) -> Iterator[Candidate | Ladder]:
    line, (kind, number) = narrow.leg.line, narrow.part
    path = f"/lines/{analysis.design.lines.index(line)}/{kind}/{number}"
    bore_m = analysis.model.reaches_of_line(line.id)[0].bore_m
    if kind == "runs":
        yield larger_pipe(analysis, line)
        return
    if kind == "inline":
        now = line.inline[number]
        alike = [
            same_kind
            for same_kind in parts().values()
            if same_kind.inline_kind == now.kind and same_kind.product_id != now.product
        ]
        for product in sorted(alike, key=lambda same_kind: -(same_kind.bore_mm or 0.0))[:MOST_TRIED]:
            part = part_document(product, now.at_m, bore_m)
            yield Candidate(say("{} instead", product.name), [{"op": "replace", "path": path, "value": part}])
        return
    fitting = line.fittings[number]
    if fitting.bore_mm is not None:
        yield Candidate(say("{} as wide as the pipe", narrow.name), [{"op": "remove", "path": f"{path}/bore_mm"}])
    product_now = fittings().get(fitting.product or "")
    if product_now is not None and product_now.bore_mm is not None:
        plain = {"k": round(product_now.loss(product_now.bore_mm * MILLIMETRE_M)[0], 3), "count": fitting.count}
        text = say("a joint as wide as the pipe instead of {}", narrow.name)
        yield Candidate(text, [{"op": "replace", "path": path, "value": plain}])
