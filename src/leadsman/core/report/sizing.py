"""JSON of sizing: the cheapest plan part by part, what had to hold, why it is not cheaper, and more for more money."""

from typing import Any, Literal

from leadsman.core.base.unit_system import System
from leadsman.core.base.units import MINUTE_S
from leadsman.core.base.wording import Quantity, say
from leadsman.core.catalogue import float_valves, parts, pipes
from leadsman.core.design import Design, FloatValveOutlet, labels
from leadsman.core.design.change import with_part
from leadsman.core.design.cost import pipe_price
from leadsman.core.design.file import write_design
from leadsman.core.design.price_book import price_of
from leadsman.core.physics.water import water_at
from leadsman.core.report.base import QuantityReport, Report, Words, quantity_report, spoken, words
from leadsman.core.sizing.choices import rise_price_per_m
from leadsman.core.sizing.curve import Curve, Point
from leadsman.core.sizing.size import Sized, laid_in
from leadsman.core.sizing.wanted import ALONE, TOGETHER, Must
from leadsman.core.sizing.why import quantity


class SizedPiece(Report):
    product: str
    length_m: float


class WhyReport(Report):
    """Why a part is not of its next cheaper choice."""

    part: str
    choice: str
    where: str
    reason: Words


class AddedReport(Report):
    """A vent or a reducer put into a line."""

    line: str
    at_m: float
    product: str


class SizeReport(Report):
    """A sized plan; `proven_gap` is by what share of its cost a cheaper one may at most exist: 0 where none does."""

    cost: float
    lines: dict[str, list[SizedPiece]]
    valves: dict[str, str]
    rises_m: dict[str, float]
    filters: dict[str, str]
    added: list[AddedReport]
    proven_gap: float
    why: list[WhyReport]


def size_report(sized: Sized) -> SizeReport:
    """Return what sizing found."""
    return SizeReport(
        cost=round(sized.cost, 6),
        lines={
            line: [SizedPiece(product=piece.product_id, length_m=piece.length_m) for piece in pieces]
            for line, pieces in sized.lines.items()
        },
        valves=sized.valves,
        rises_m=sized.rises_m,
        filters=sized.filters,
        added=[AddedReport(line=one.line, at_m=round(one.at_m, 2), product=one.product_id) for one in sized.added],
        proven_gap=sized.proven_gap,
        why=[WhyReport(part=one.part, choice=one.choice, where=one.where, reason=words(one.told)) for one in sized.why],
    )


def printed_size(report: SizeReport, design: Design, system: System) -> str:
    """Return a sized plan as text."""

    def long(length_m: float) -> str:
        return spoken([QuantityReport(value=length_m, unit="m", digits=1)], system)

    rows = [
        f"{line:24} " + ", then ".join(f"{long(piece.length_m)} of {piece.product}" for piece in pieces)
        for line, pieces in report.lines.items()
    ]
    rows += [f"{outlet:24} {valve or 'as it is'}" for outlet, valve in report.valves.items()]
    rows += [f"{line:24} filter: {name or 'as it is'}" for line, name in report.filters.items()]
    rows += [f"{one.line:24} {one.product} at {long(one.at_m)}" for one in report.added]
    rows += [f"{vessel:24} {long(rise_m)} higher" for vessel, rise_m in report.rises_m.items() if rise_m > 0.0]
    proven = "proven" if report.proven_gap == 0.0 else f"no plan is cheaper by more than {report.proven_gap:.1%}"
    rows.append(f"cost {report.cost:,.2f} {design.site.currency}, {proven}")
    return "\n".join(rows)


class SizedRow(Report):
    """One part of a sized plan: what it is of now and then, what that costs, and why it is not cheaper."""

    part: str
    name: str
    kind: Literal["line", "outlet", "filter", "added", "vessel"]
    now: Words
    then: Words
    price: float | None
    changed: bool
    why: Words | None


class RequiredRow(Report):
    """What had to hold: of what, in which case, what is required and what the plan has; whose figure it is."""

    where: str
    name: str
    case: str
    needs: QuantityReport
    has: QuantityReport | None
    given: Literal["stated", "demand"]


class SizedPlanReport(Report):
    """A sized plan as it is shown and taken: `cost_now` is what its lines and valves as they are cost, where known.

    With `is_change` what is laid costs nothing, and the cost is that of what is changed.
    """

    cost: float
    cost_now: float | None
    is_change: bool
    currency: str
    proven_gap: float
    tries: int
    rows: list[SizedRow]
    required: list[RequiredRow]
    document: dict[str, Any]


class CurvePointReport(Report):
    """The cheapest plan for a share of every required flow, or with a tank so much higher [m]."""

    at: float
    plan: SizedPlanReport


class CurveReport(Report):
    """The cheapest plans from little flow to most, why it ends there, and the one that is sure; or why none is."""

    points: list[CurvePointReport]
    ends: str = ""
    surely: SizedPlanReport | None = None
    surely_not: str = ""


def curve_report(design: Design, curve: Curve, vessel: str | None = None) -> CurveReport:
    """Return the cheapest plans from little flow to most, and the one that is sure; or over the height of a vessel."""
    return CurveReport(
        points=[CurvePointReport(at=one.at, plan=_of_point(design, one, vessel)) for one in curve.points],
        ends=curve.ends,
        surely=None if curve.surely is None else sized_plan_report(design, curve.surely),
        surely_not=curve.surely_not,
    )


def _of_point(design: Design, point: Point, vessel_id: str | None) -> SizedPlanReport:
    if vessel_id is None:
        return sized_plan_report(design, point.sized)
    stand_m = next(vessel.stand_m for vessel in design.vessels if vessel.id == vessel_id)
    return sized_plan_report(with_part(design, "vessels", vessel_id, {"stand_m": stand_m + point.at}), point.sized)


def sized_plan_report(design: Design, sized: Sized) -> SizedPlanReport:
    """Return a sized plan part by part."""
    names, why = labels(design), {one.part: words(one.told) for one in sized.why}
    rows = [
        *_lines(design, sized, names),
        *_valves(design, sized, names),
        *_filters(design, sized, names),
        *_stands(design, sized, names),
        *_added(sized, names),
    ]
    costs = [0.0 if _keeps(design) else _cost_now(design, row.part, row.kind) for row in rows]
    density = water_at(design.site.water_c).density_kgm3
    has = dict(zip(sized.musts, sized.has, strict=False))
    return SizedPlanReport(
        cost=round(sized.cost, 2),
        cost_now=None if None in costs else round(sum(cost or 0.0 for cost in costs), 2),
        is_change=_keeps(design),
        currency=design.site.currency,
        proven_gap=sized.proven_gap,
        tries=sized.tries,
        rows=[
            row.model_copy(update={"why": why.get(f"filter {row.part}" if row.kind == "filter" else row.part)})
            for row in rows
        ],
        required=[
            _required(design, must, names, has.get(must), density) for must in sized.musts if must.given != "limit"
        ],
        document=write_design(laid_in(design, sized)),
    )


def _required(design: Design, must: Must, names: dict[str, str], has: float | None, density: float) -> RequiredRow:
    cases = {case.id: case.name or case.id for case in design.scenarios}
    case = {TOGETHER: "all open", ALONE: "alone"}.get(must.when) or f"in {cases[must.when]}"
    needs = must.flow_m3s if must.flow_m3s is not None else must.pressure_m or 0.0
    fills = "" if must.fills_s is None else f", to fill in {must.fills_s / MINUTE_S:g} min"
    return RequiredRow(
        where=must.where,
        name=names[must.where],
        case=f"{case}{', surely' if must.surely else ''}{fills}",
        needs=quantity_report(quantity(must, needs / (must.times if must.fills_s is None else 1.0), density)),
        has=None if has is None else quantity_report(quantity(must, has, density)),
        given="demand" if must.given == "demand" else "stated",
    )


def _lines(design: Design, sized: Sized, names: dict[str, str]) -> list[SizedRow]:
    lines, own = {line.id: line for line in design.lines}, {pipe.product_id: pipe for pipe in design.own_pipes}
    sold_pipes = {**pipes(), **own}
    prices = {pipe.product_id: price_of(design, pipe) for pipe in sold_pipes.values()}
    if design.sizing is not None:
        prices |= {product.id: product.price_per_m for product in design.sizing.products}

    def called(product_id: str) -> str:
        return sold_pipes[product_id].name if product_id in sold_pipes else product_id

    found = []
    for line_id, pieces in sized.lines.items():
        line = lines[line_id]
        now = [line.product] if line.product else [run.product for run in line.runs]
        bore = say("bore {}", Quantity(value=line.bore_mm or 0.0, unit="mm"))
        metres = [
            say("{}{} of {}", "then " if at else "", Quantity(value=one.length_m, unit="m", digits=0),
                called(one.product_id))
            for at, one in enumerate(pieces)
        ]  # fmt: skip
        known = [prices.get(piece.product_id) for piece in pieces]
        names_then = [piece.product_id for piece in pieces]
        found.append(
            SizedRow(
                part=line_id, name=names[line_id], kind="line",
                now=words(bore) if not now else [", then ".join(called(name) for name in now)],
                then=[called(pieces[0].product_id)]
                if len(pieces) == 1
                else [part for one in metres for part in (*words(one), " ")],
                price=0.0 if _keeps(design) and names_then == now else None if None in known else
                round(sum((price or 0.0) * piece.length_m for price, piece in zip(known, pieces, strict=True)), 2),
                changed=names_then != now, why=None,
            )
        )  # fmt: skip
    return found


def _valves(design: Design, sized: Sized, names: dict[str, str]) -> list[SizedRow]:
    outlets = {outlet.id: outlet for outlet in design.outlets if isinstance(outlet, FloatValveOutlet)}
    found = []
    for outlet_id, product_id in sized.valves.items():
        valve, sold = outlets[outlet_id].valve, float_valves().get(product_id)
        now = float_valves().get(valve.product or "")
        kv = words(say("Kv {}", Quantity(value=valve.kv_m3h, unit="m³/h")))
        changed = sold is not None and valve.product != product_id
        found.append(
            SizedRow(
                part=outlet_id, name=names[outlet_id], kind="outlet", now=[now.name] if now else kv,
                then=[sold.name] if sold else kv,
                price=price_of(design, sold) if sold and (changed or not _keeps(design)) else 0.0, changed=changed,
                why=None,
            )
        )  # fmt: skip
    return found


def _filters(design: Design, sized: Sized, names: dict[str, str]) -> list[SizedRow]:
    found, keeps = [], _keeps(design)
    lines = {line.id: line for line in design.lines}
    for line_id, product_id in sized.filters.items():
        there = next(part for part in lines[line_id].inline if part.kind == "filter")
        now, sold = parts().get(there.product or ""), parts().get(product_id)
        kv = words(say("Kv {}", Quantity(value=there.kv_m3h or 0.0, unit="m³/h")))
        changed = sold is not None and there.product != product_id
        price = price_of(design, sold) if sold is not None else 0.0
        found.append(
            SizedRow(
                part=line_id, name=f"Filter of {names[line_id]}", kind="filter", now=[now.name] if now else kv,
                then=[sold.name] if sold else kv, price=price if changed or not keeps else 0.0, changed=changed,
                why=None,
            )
        )  # fmt: skip
    return found


def _added(sized: Sized, names: dict[str, str]) -> list[SizedRow]:
    return [
        SizedRow(
            part=one.line, name=names[one.line], kind="added", now=["–"],
            then=words(say("{} at {}", parts()[one.product_id].name, Quantity(value=one.at_m, unit="m", digits=0))),
            price=one.price, changed=True, why=None,
        )
        for one in sized.added
    ]  # fmt: skip


def _keeps(design: Design) -> bool:
    """Return whether what the plan has costs nothing."""
    return design.sizing is not None and design.sizing.laid


def _stands(design: Design, sized: Sized, names: dict[str, str]) -> list[SizedRow]:
    vessels = {vessel.id: vessel for vessel in design.vessels}
    prices = {one.vessel: rise_price_per_m(design, one) for one in design.sizing.stands} if design.sizing else {}
    return [
        SizedRow(
            part=vessel_id, name=names[vessel_id], kind="vessel",
            now=words(say("stand {}", Quantity(value=vessels[vessel_id].stand_m, unit="m"))),
            then=words(say("stand {}", Quantity(value=vessels[vessel_id].stand_m + rise_m, unit="m"))),
            price=round(rise_m * prices.get(vessel_id, 0.0), 2), changed=rise_m > 0.0, why=None,
        )
        for vessel_id, rise_m in sized.rises_m.items()
    ]  # fmt: skip


def _cost_now(design: Design, part_id: str, kind: str) -> float | None:
    """Return what a part as it is costs; None where that is not known."""
    if kind == "line":
        return pipe_price(design, next(line for line in design.lines if line.id == part_id))
    if kind == "filter":
        there = [part.product for line in design.lines if line.id == part_id for part in line.inline
                 if part.kind == "filter"]  # fmt: skip
        sieve = parts().get(there[0] or "")
        return 0.0 if sieve is None else price_of(design, sieve)
    if kind == "outlet":
        outlet = next(outlet for outlet in design.outlets if outlet.id == part_id)
        valve = float_valves().get(outlet.valve.product or "") if isinstance(outlet, FloatValveOutlet) else None
        return 0.0 if valve is None else price_of(design, valve)
    return 0.0
