"""What a plan needs beside pipe, joints and valves: roofs' gutters, stands, sleeves, marks, taps in walls, spares."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Literal

from leadsman.core.base.units import GRAVITY_MS2, LITRE_M3, lpm_from_m3s, m_from_mm
from leadsman.core.base.wording import Quantity, Wording, say
from leadsman.core.catalogue import float_valves
from leadsman.core.design import (
    Design,
    FloatValveOutlet,
    Line,
    PumpInflow,
    RainInflow,
    RamInflow,
    RamSource,
    SpringInflow,
    Vessel,
    label,
)
from leadsman.core.design.layout import Layout
from leadsman.core.design.site_costs import stand_price_per_m
from leadsman.core.design.store import full_kg
from leadsman.core.farm.overflow import STORM_MM_H
from leadsman.core.farm.rain import plan_area_m2, storm_m3s
from leadsman.core.parts.chain import coupling
from leadsman.core.parts.hole import holes
from leadsman.core.parts.laid_pipe import pipe_at
from leadsman.core.parts.roll import Rolls
from leadsman.core.parts.taps import taps_of
from leadsman.core.physics.fittings import bore_area_m2
from leadsman.core.physics.gutter import downpipe_m3s, half_round_gutter_m3s

GUTTERS_MM = (75.0, 100.0, 112.0, 125.0, 150.0, 200.0)  # half-round, usual widths, typical, from memory
DOWNPIPES_MM = (50.0, 68.0, 80.0, 100.0, 125.0, 150.0)  # usual bores, typical, from memory
FLUSH_PIPE_MM = 100.0  # of a first-flush diverter; ours
BEARING_PA = 75_000.0  # of firm ground under a footing, cautious; typical, from memory
SLEEVE_SHARE = 1.5  # of the pipe's outer diameter: it slides in and can be drawn out; ours
STAND = "stand-"  # begins the rows of stands
SLACK_M = 3.0  # of a short hose to a trough that is moved: common practice, no source
MARKED = ("vent", "drain", "tap_point", "filter", "reducer")  # found again in the grass only with a mark
# US dollars, typical, rough, from memory
MARK_PRICE, SLEEVE_PRICE, NIPPLE_PRICE, GUTTER_PRICE, WASHER_PRICE, GROMMET_PRICE = 1.5, 3.0, 4.0, 6.0, 3.0, 1.0

Shop = Literal["pipe", "fittings", "taps and valves", "troughs and tanks", "sundries"]


@dataclass(kw_only=True)
class Accessory:
    """One thing that is bought: so many pieces or metres; price in US dollars of one, None where nobody knows.

    `in_site_money` tells that the price is in the site's money.

    `details` say what size it has to be and why.
    """

    product_id: str
    name: str
    shop: Shop
    count: float
    unit: Literal["piece", "m"] = "piece"
    price: float | None = None
    in_site_money: bool = False
    where: list[str] = field(default_factory=list)
    details: list[Wording] = field(default_factory=list)


def accessories(design: Design, cut: Sequence[Rolls]) -> list[Accessory]:
    """Return what a design needs beside pipe, joints, valves and vessels."""
    return [
        *_roofs(design), *_other_sources(design),
        *(each for vessel in design.vessels for each in _vessel(design, vessel)),
        *_sleeves(design), *_grommets(design), *_marks(design, list(cut)), *_spares(design, cut),
    ]  # fmt: skip


def slack_of_hoses(design: Design) -> dict[str, Wording]:
    """Return, by the id of its line, that a hose to a trough that is moved has little slack for that."""
    layout, found = Layout(design), dict[str, Wording]()
    for line in design.lines:
        outlet = layout.outlets.get(line.to)
        vessel = layout.vessels.get((outlet.fills if outlet else None) or "")
        if vessel is None or vessel.portable is None:
            continue
        start, end = (layout.place_of_end(each) for each in (line.from_, line.to))
        straight_m = math.dist((start.east_m, start.north_m), (end.east_m, end.north_m))
        spare_m = line.pipe_length_m - straight_m
        if spare_m < SLACK_M:
            found[line.id] = say(
                "{} has {} of slack for moving its trough; some {} are usual (common practice, no source)",
                label(line), _metres(max(spare_m, 0.0)), _metres(SLACK_M),
            )  # fmt: skip
    return found


def _roofs(design: Design) -> Iterator[Accessory]:
    """Yield gutter, downpipe and first-flush diverter of each roof, sized for its storm."""
    for roof in design.inflows:
        if not isinstance(roof, RainInflow):
            continue
        storm = roof.storm_mm_h or STORM_MM_H
        flow = storm_m3s(plan_area_m2(roof), roof.coefficient, storm)
        rain = Quantity(value=storm, unit="mm rain")
        carries = (Quantity(value=lpm_from_m3s(flow), unit="L/min"), rain)
        gutter = next((mm for mm in GUTTERS_MM if half_round_gutter_m3s(m_from_mm(mm)) >= flow), None)
        pipe = next((mm for mm in DOWNPIPES_MM if downpipe_m3s(m_from_mm(mm)) >= flow), None)
        told = "{} wide or more, half-round: it has to carry {} at {} an hour (EN 12056-3, from memory)"
        none = "more than one: it has to carry {} at {} an hour, over the largest of {}"
        yield Accessory(
            product_id=f"gutter-{roof.id}", name=f"Gutter for {label(roof)}", shop="sundries",
            count=roof.length_m or 1.0, unit="m" if roof.length_m else "piece",
            price=GUTTER_PRICE if roof.length_m else None, where=[roof.id],
            details=[say(told, _mm(gutter), *carries) if gutter else say(none, *carries, _mm(GUTTERS_MM[-1]))],
        )  # fmt: skip
        down = "bore of {} or more: it has to carry {} at {} an hour, a third full (EN 12056-3, from memory)"
        yield Accessory(
            product_id=f"downpipe-{roof.id}", name=f"Downpipe for {label(roof)}", shop="sundries", count=1.0,
            where=[roof.id],
            details=[say(down, _mm(pipe), *carries) if pipe else say(none, *carries, _mm(DOWNPIPES_MM[-1]))],
        )  # fmt: skip
        if roof.first_flush_l > 0.0:
            long_m = roof.first_flush_l * LITRE_M3 / (bore_area_m2(m_from_mm(FLUSH_PIPE_MM)))
            leg = say(
                "{} of pipe of {} hold {}; with a cap to clean it and a slow weep",
                _metres(long_m), _mm(FLUSH_PIPE_MM), Quantity(value=roof.first_flush_l, unit="L"),
            )  # fmt: skip
            yield Accessory(
                product_id=f"first-flush-{roof.id}", name=f"First-flush diverter for {label(roof)}", shop="sundries",
                count=1.0, where=[roof.id], details=[leg],
            )  # fmt: skip


def _other_sources(design: Design) -> Iterator[Accessory]:
    """Yield the parts of springs, pumps and rams: what of them is bought depends on the place."""
    for inflow in design.inflows:
        name = label(inflow)
        if isinstance(inflow, SpringInflow):
            yield Accessory(
                product_id=f"source-{inflow.id}", name=f"Collector of {name}", shop="sundries", count=1.0,
                where=[inflow.id], details=[say("slotted pipe in washed gravel, with a screen that a hand gets to")],
            )  # fmt: skip
        elif isinstance(inflow, PumpInflow):
            switches = [say("with float switches")] if inflow.cut_in_m is not None else []
            yield Accessory(
                product_id=f"source-{inflow.id}", name=f"Pump of {name}", shop="sundries", count=1.0,
                where=[inflow.id], details=switches,
            )  # fmt: skip
        elif isinstance(inflow, RamInflow):
            yield _ram(inflow.id, name)
    for source in design.pressure_sources:
        if isinstance(source, RamSource):
            yield _ram(source.id, label(source))
    for line in design.lines:
        if line.pump is not None:
            yield Accessory(
                product_id=f"pump-{line.id}", name=f"Pump in {label(line)}", shop="sundries", count=1.0, where=[line.id]
            )


def _ram(part_id: str, name: str) -> Accessory:
    return Accessory(
        product_id=f"source-{part_id}", name=f"Ram pump of {name}, with its drive pipe", shop="sundries", count=1.0,
        where=[part_id],
    )  # fmt: skip


def _vessel(design: Design, vessel: Vessel) -> Iterator[Accessory]:
    """Yield what a vessel needs: stand and footing, overflow, links, taps in its wall, nipples."""
    name = label(vessel)
    if vessel.stand_m > 0.0 and vessel.gives_water:
        load_kg, metre = full_kg(vessel), stand_price_per_m(design, vessel)
        footing_m2 = load_kg * GRAVITY_MS2 / BEARING_PA
        carries = say(
            "{} high, to carry {} full; footing of {} or more, level, on firm ground ({} kPa, cautious, from memory): "
            "someone competent decides",
            _metres(vessel.stand_m), Quantity(value=load_kg, unit="kg"),
            Quantity(value=footing_m2, unit="m²", digits=2), f"{BEARING_PA / 1e3:.0f}",
        )  # fmt: skip
        yield Accessory(
            product_id=f"{STAND}{vessel.id}", name=f"Stand for {name}", shop="troughs and tanks", count=1.0,
            price=None if metre.price is None else metre.price * vessel.stand_m, in_site_money=True,
            where=[vessel.id], details=[carries],
        )  # fmt: skip
    if vessel.overflow_mm is not None:
        wide = say("bore {}", _mm(vessel.overflow_mm))
        yield Accessory(
            product_id=f"overflow-{vessel.id}", name=f"Overflow of {name}", shop="fittings", count=float(vessel.count),
            where=[vessel.id], details=[wide],
        )  # fmt: skip
    if vessel.count > 1:
        bore = [say("bore {}", _mm(vessel.link_mm))] if vessel.link_mm else []
        yield Accessory(
            product_id=f"link-{vessel.id}", name=f"Link between {name}, with a fitting through each wall",
            shop="fittings", count=vessel.count - 1.0, where=[vessel.id], details=bore,
        )  # fmt: skip
    for number, tap in enumerate(vessel.taps):
        height = say("{} over the floor", Quantity(value=tap.at_m, unit="m", digits=2))
        bore = [say("bore {}", _mm(tap.bore_mm))] if tap.bore_mm else []
        yield Accessory(
            product_id=f"wall-tap-{vessel.id}-{number + 1}", name=f"{tap.name} in the wall of {name}, with its fitting",
            shop="taps and valves", count=1.0, where=[vessel.id], details=[height, *bore],
        )  # fmt: skip
    if vessel.nipples:
        yield Accessory(
            product_id=f"nipples-{vessel.id}", name=f"Nipple drinkers of {name}", shop="troughs and tanks",
            count=float(vessel.nipples), price=NIPPLE_PRICE, where=[vessel.id],
        )  # fmt: skip


def _sleeves(design: Design) -> Iterator[Accessory]:
    """Yield the sleeve of each crossing: a larger pipe that the line slides through."""
    for line in design.lines:
        for number, crossing in enumerate(line.crossings):
            pipe = pipe_at(design, line, crossing.at_m)
            outer_mm = pipe.outer_mm if pipe else (line.bore_mm or 20.0) * 1.25
            under = say("bore {} or more, under {}", _mm(outer_mm * SLEEVE_SHARE), crossing.name or "the crossing")
            yield Accessory(
                product_id=f"sleeve-{line.id}-{number + 1}", name=f"Sleeve for {label(line)}", shop="pipe",
                count=min(crossing.wide_m, line.pipe_length_m - crossing.at_m), unit="m", price=SLEEVE_PRICE,
                where=[line.id], details=[under],
            )  # fmt: skip


def _grommets(design: Design) -> Iterator[Accessory]:
    """Yield a rubber grommet for each tube that passes a wall."""
    vessels = [hole.vessel.id for hole in holes(design, []) if hole.by_grommet]
    if vessels:
        yield Accessory(
            product_id="grommets", name="Rubber grommet for a tube through a wall", shop="fittings",
            count=float(len(vessels)), price=GROMMET_PRICE, where=list(dict.fromkeys(vessels)),
            details=[say("for the tube that passes; its groove is what the hole is drilled to")],
        )  # fmt: skip


def marks_of(design: Design, layout: Layout, line: Line, cut: list[Rolls]) -> int:
    """Return how many marks a line needs: at taps, vents, drains and filters, and at both sides of each crossing."""
    parts = sum(part.kind in MARKED for part in line.inline)
    return parts + len(taps_of(design, layout, line, cut)) + 2 * len(line.crossings)


def _marks(design: Design, cut: list[Rolls]) -> Iterator[Accessory]:
    layout = Layout(design)
    found = {line.id: marks for line in design.lines if (marks := marks_of(design, layout, line, cut))}
    if found:
        tall = say("taller than the grass gets: at taps, vents, drains, filters and both sides of crossings")
        yield Accessory(
            product_id="marks", name="Marker stake", shop="sundries", count=float(sum(found.values())),
            price=MARK_PRICE, where=list(found), details=[tall],
        )  # fmt: skip


def _spares(design: Design, cut: Sequence[Rolls]) -> Iterator[Accessory]:
    """Yield spares for the first mend on a Sunday: of each pipe a joiner, of each kind of valve a washer."""
    for rolls in cut:
        pipe, chain = rolls.product, coupling(rolls.product)
        if chain is not None:
            prices = [link.product.price for link in chain.links]
            yield Accessory(
                product_id=f"spare-joiner-{pipe.product_id}", name=f"Spare joiner for {pipe.spoken}", shop="fittings",
                count=1.0, price=None if None in prices else sum(price or 0.0 for price in prices),
            )  # fmt: skip
    kinds = {one.valve.product for one in design.outlets if isinstance(one, FloatValveOutlet)} - {None}
    for product_id in sorted(kinds, key=str):
        valve = float_valves().get(str(product_id))
        yield Accessory(
            product_id=f"spare-washer-{product_id}", shop="taps and valves", count=1.0, price=WASHER_PRICE,
            name=f"Spare washer and seat for {valve.spoken if valve else product_id}",
        )  # fmt: skip


def _mm(value_mm: float) -> Quantity:
    return Quantity(value=value_mm, unit="mm", digits=0)


def _metres(value_m: float) -> Quantity:
    return Quantity(value=value_m, unit="m", digits=1)
