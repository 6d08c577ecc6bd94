"""JSON of what a plan is made of: rows to buy, joints with their chains and seals, rolls, laying sheets."""

import math
from typing import Any

from leadsman.core.base.units import MILLIMETRE_M
from leadsman.core.base.wording import say
from leadsman.core.design import Design
from leadsman.core.design.price_book import asked_for, price_of
from leadsman.core.parts.chain import Chain
from leadsman.core.parts.connection import Connection, ends_told, why_unknown
from leadsman.core.parts.hole import PRACTICE, Hole, bits, holes
from leadsman.core.parts.in_line import JointsInLines, joints_in_lines
from leadsman.core.parts.laying import LayingSheet, laying_sheets
from leadsman.core.parts.mate import Mate
from leadsman.core.parts.parts_list import PartsList, Row, parts_list
from leadsman.core.parts.work_plan import WorkStep, work_plan
from leadsman.core.report.base import Report, Words, words
from leadsman.core.report.whole_cost import WholeCostReport, whole_cost_report


class PartRowReport(Report):
    """One thing that is bought; `total` is of what is left to buy, null where no price is known.

    `paid` says from which shop the price is, and when; it is "" where it is a typical one. Where used ones are bought,
    the price may be of a used one.
    """

    product_id: str
    name: str
    shop: str
    unit: str
    count: float
    owned: float
    to_buy: float
    price: float | None
    total: float | None
    paid: str
    where: list[str]
    assumed: list[str]
    details: list[Words]
    roll_m: float | None
    weight_kg: float | None


class WorkStepReport(Report):
    """One step of the work with hours for one person and for two; both 0 where it only waits."""

    told: Words
    counted: Words
    one_h: float
    two_h: float
    is_later: bool


class LinkReport(Report):
    product_id: str
    name: str
    bore_mm: float
    price: float | None


class MateReport(Report):
    """How two ends join: what seals them, why, and how tight."""

    seal: str
    why: str
    tighten: str


class ChainReport(Report):
    """Adapters in order, how each pair joins (one more than adapters), and the least bore on the way."""

    links: list[LinkReport]
    mates: list[MateReport]
    price: float | None
    narrowest_mm: float


class ConnectionReport(Report):
    """One connection; where its chain is null, `trouble` says why. `own` are products that the joint itself needs."""

    id: str
    first: str
    second: str
    line: str | None
    at_m: float | None
    place: str | None
    start: str
    goal: str
    own: list[str]
    assumed: list[str]
    chain: ChainReport | None
    wider: ChainReport | None
    trouble: str


class RollReport(Report):
    """One pipe product: metres needed, rolls of what length, what is left over, and what all of it weighs [kg]."""

    product_id: str
    name: str
    needed_m: float
    roll_m: float | None
    count: int
    offcut_m: float
    joins: int
    weight_kg: float | None


class StopReport(Report):
    """Something to do along a line; spaces between posts are null where nobody has said how far apart they stand."""

    at_m: float
    kind: str
    told: Words
    spaces: int | None
    beyond_m: float | None
    paces: float


class LayingReport(Report):
    line: str
    length_m: float
    counted_pace: bool
    stops: list[StopReport]


class HoleReport(Report):
    """A hole through a vessel's wall [mm; its middle in m over the floor]; null where nobody has said or measured.

    `thread_mm` is over the thread by its standard; `troubles` are in words.
    """

    id: str
    vessel: str
    product_id: str
    what: str
    thread_mm: float | None
    across_mm: float | None
    long_mm: float | None
    wall_mm: float | None
    bit_mm: float | None
    at_m: float | None
    troubles: list[Words]


class BitReport(Report):
    bit_mm: float
    holes: int


class InLineReport(Report):
    """What makes the lines have the fittings of their joints; `left_out` joints belong to no line."""

    patch: list[dict[str, Any]]
    text_words: Words
    left_out: int


class PartsReport(Report):
    """What a plan needs; `price` as far as prices are known, `unpriced` how many rows have none.

    `in_line` is null where the lines have the fittings of all their joints, so the figures are with them.
    `weight_kg` is what pipe and vessels to buy weigh, as far as that is known; `unweighed` vessels are not in it.
    """

    rows: list[PartRowReport]
    connections: list[ConnectionReport]
    rolls: list[RollReport]
    laying: list[LayingReport]
    currency: str
    price: float
    unpriced: int
    unsolved: int
    in_line: InLineReport | None
    holes: list[HoleReport]
    bits: list[BitReport]
    hole_practice: list[str]
    weight_kg: float
    unweighed: int
    work: list[WorkStepReport]
    whole: WholeCostReport


def parts_report(design: Design) -> PartsReport:
    """Return what a design needs, with its joints and laying sheets."""
    needed = parts_list(design)
    drilled = holes(design, needed.connections)
    return PartsReport(
        rows=[_row(design, row) for row in needed.rows],
        connections=[_connection(design, one) for one in needed.connections],
        rolls=_rolls(needed),
        laying=[_laying(sheet) for sheet in laying_sheets(design, needed.rolls)],
        currency=design.site.currency,
        price=round(needed.price, 2),
        unpriced=len(needed.unpriced),
        unsolved=len(needed.unsolved),
        in_line=_in_line(joints_in_lines(design, needed.connections, needed.rolls)),
        holes=[_hole(hole) for hole in drilled],
        bits=[BitReport(bit_mm=bit_mm, holes=count) for bit_mm, count in bits(drilled)],
        hole_practice=list(PRACTICE),
        weight_kg=round(needed.weight_kg, 1),
        unweighed=sum(
            row.shop == "troughs and tanks" and row.weight_kg is None and row.to_buy > 0 for row in needed.rows
        ),
        work=[_work(step) for step in work_plan(design, needed.connections, needed.rolls, drilled)],
        whole=whole_cost_report(design, needed),
    )


def _work(step: WorkStep) -> WorkStepReport:
    return WorkStepReport(
        told=words(step.told),
        counted=words(step.counted),
        one_h=round(step.one_h, 2),
        two_h=round(step.two_h, 2),
        is_later=step.is_later,
    )


def _hole(hole: Hole) -> HoleReport:
    return HoleReport(
        id=hole.hole_id,
        vessel=hole.vessel.id,
        product_id=hole.product.product_id,
        what=hole.product.name,
        thread_mm=None if hole.thread_mm is None else round(hole.thread_mm, 1),
        across_mm=hole.stem.across_mm if hole.stem else None,
        long_mm=hole.stem.long_mm if hole.stem else None,
        wall_mm=hole.vessel.wall_mm,
        bit_mm=hole.bit_mm,
        at_m=None if hole.at_m is None else round(hole.at_m, 3),
        troubles=[words(one) for one in hole.troubles],
    )


def _in_line(found: JointsInLines | None) -> InLineReport | None:
    if found is None:
        return None
    text = say("every joint with its own bore, {} fittings in {} lines", str(found.count), str(found.lines))
    return InLineReport(patch=found.patch, text_words=words(text), left_out=found.left_out)


def _paid(design: Design, row: Row) -> str:
    """Return the shop and the day of a row's price; "" where it is not from the price book."""
    if row.price is None:
        return ""
    each = row.price / (row.roll_m or 1.0)
    asked = next((one for one in asked_for(design, row.product_id) if math.isclose(one.price, each)), None)
    if asked is None:
        return ""
    return ", ".join(filter(None, (asked.shop or "price book", asked.date, "used" if asked.used else "")))


def _row(design: Design, row: Row) -> PartRowReport:
    return PartRowReport(
        product_id=row.product_id,
        name=row.name,
        shop=row.shop,
        unit=row.unit,
        count=round(row.count, 1),
        owned=row.owned,
        to_buy=round(row.to_buy, 1),
        price=row.price,
        total=None if row.total is None else round(row.total, 2),
        paid=_paid(design, row),
        where=row.where,
        assumed=row.assumed,
        details=[words(one) for one in row.details],
        roll_m=row.roll_m,
        weight_kg=None if row.weight_kg is None else round(row.weight_kg, 1),
    )


def _connection(design: Design, one: Connection) -> ConnectionReport:
    start, goal = ends_told(one)
    return ConnectionReport(
        id=one.connection_id,
        first=one.first,
        second=one.second,
        line=one.line,
        at_m=one.at_m,
        place=one.place,
        start=start,
        goal=goal,
        own=[product.name for product in one.extra],
        assumed=list(one.assumed),
        chain=_chain(design, one.chain),
        wider=_chain(design, one.wider),
        trouble="" if one.chain else "no chain of adapters joins them" if one.lacks_chain else why_unknown(one),
    )


def _chain(design: Design, chain: Chain | None) -> ChainReport | None:
    if chain is None:
        return None
    prices = [price_of(design, link.product) for link in chain.links]
    return ChainReport(
        links=[
            LinkReport(
                product_id=link.product.product_id,
                name=link.product.name,
                bore_mm=round(min(link.back.bore_m, link.on.bore_m) / MILLIMETRE_M, 1),
                price=price,
            )
            for link, price in zip(chain.links, prices, strict=True)
        ],
        mates=[_mate(mate) for mate in chain.mates],
        price=None if None in prices else sum(price or 0.0 for price in prices),
        narrowest_mm=round(chain.narrowest_m / MILLIMETRE_M, 1),
    )


def _mate(mate: Mate) -> MateReport:
    return MateReport(seal=mate.seal, why=mate.why, tighten=mate.tighten)


def _rolls(needed: PartsList) -> list[RollReport]:
    return [
        RollReport(
            product_id=rolls.product.product_id,
            name=rolls.product.name,
            needed_m=rolls.length_m,
            roll_m=rolls.roll_m,
            count=rolls.count,
            offcut_m=rolls.offcut_m,
            joins=len(rolls.joins),
            weight_kg=None if rolls.weight_kg is None else round(rolls.weight_kg, 1),
        )
        for rolls in needed.rolls
    ]


def _laying(sheet: LayingSheet) -> LayingReport:
    return LayingReport(
        line=sheet.line.id,
        length_m=sheet.length_m,
        counted_pace=sheet.counted_pace,
        stops=[
            StopReport(
                at_m=round(stop.at_m, 2),
                kind=stop.kind,
                told=words(stop.told),
                spaces=stop.spaces,
                beyond_m=None if stop.beyond_m is None else round(stop.beyond_m, 2),
                paces=round(stop.paces, 1),
            )
            for stop in sheet.stops
        ],
    )
