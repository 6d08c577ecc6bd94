"""What each part of a plan may be: pipes of a line's family, float valves, filters, rises of a tank."""

from collections.abc import Iterator

import numpy as np

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.pressure_limit import limit_pa, pipe_temperature_c, products_of, stands_in_pa, stands_on_pa
from leadsman.core.base.fault import DesignFaults, Fault
from leadsman.core.base.units import kpa_from_pa, pa_from_head_m
from leadsman.core.catalogue import float_valves, parts, pipes
from leadsman.core.design import Design, FloatValveOutlet, Line
from leadsman.core.design.price_book import price_of
from leadsman.core.design.site_costs import stand_price_per_m
from leadsman.core.design.sizing import SizingStand
from leadsman.core.sizing.slots import (
    AS_IT_IS,
    FilterChoice,
    PipeChoice,
    SizedFilter,
    SizedValve,
    StandChoice,
    ValveChoice,
    rising_filters,
    rising_pipes,
    rising_valves,
)

STAND_STEP_M = 0.25  # in which stands are tried; ours, no source


def pipes_of_family(analysis: Analysis, line: Line, rise_m: float, any_class: bool = False) -> tuple[PipeChoice, ...]:
    """Return the priced pipes of a line's family that hold what stands in it, every tank at its brim and raised.

    Pipes whose class is not known are among them only where the line's own is one of them. With `any_class`, those too
    that do not hold it.
    """
    design, products = analysis.design, products_of(analysis.design, line)
    if not products:
        return ()
    now, keeps = products[0], design.sizing is not None and design.sizing.laid
    if keeps and line.runs:
        return ()  # of several pipes: it stays
    stands_pa = stands_in_pa(analysis, line) + pa_from_head_m(rise_m, analysis.model.water.density_kgm3)
    pipe_c = pipe_temperature_c(analysis)
    found = []
    for pipe in (*design.own_pipes, *pipes().values()):
        is_laid = keeps and pipe.product_id == line.product
        price = 0.0 if is_laid else price_of(design, pipe)
        if pipe.family != now.family or price is None:
            continue
        limit = limit_pa(pipe, pipe_c)
        holds = limit >= stands_pa if limit is not None else pipe.class_kpa is None and now.class_kpa is None
        if holds or any_class:
            choice = PipeChoice(
                product_id=pipe.product_id, bore_m=pipe.bore_m, roughness_m=pipe.roughness_m, price_per_m=price,
                is_laid=is_laid,
            )  # fmt: skip
            found.append(choice)
    return rising_pipes(found)


def valves_of(analysis: Analysis, kept: set[str], rise_m: float, any_class: bool = False) -> Iterator[SizedValve]:
    """Yield each float valve that may be another: those that close against what stands on them, from the cheapest.

    A valve that is no product with a price may stay, at no cost. With `any_class`, those too that do not close.
    """
    design, density = analysis.design, analysis.model.water.density_kgm3
    keeps = design.sizing is not None and design.sizing.laid
    for outlet in design.outlets:
        if not isinstance(outlet, FloatValveOutlet) or outlet.shut or outlet.id in kept:
            continue
        stands = stands_on_pa(analysis, outlet)
        stands_kpa = kpa_from_pa((stands or 0.0) + pa_from_head_m(rise_m, density))
        now, choices = outlet.valve, list[ValveChoice]()
        for valve in float_valves().values():
            is_laid = keeps and valve.product_id == now.product
            price = 0.0 if is_laid else price_of(design, valve)
            if price is not None and (any_class or valve.max_kpa is None or valve.max_kpa >= stands_kpa):
                choice = ValveChoice(
                    product_id=valve.product_id, kv_m3h=valve.kv_m3h, least_kpa=valve.min_kpa, price=price,
                    is_laid=is_laid,
                )  # fmt: skip
                choices.append(choice)
        if now.product not in {choice.product_id for choice in choices}:  # one that is not sold here is there already
            own = ValveChoice(product_id=AS_IT_IS, kv_m3h=now.kv_m3h, least_kpa=now.min_pressure_kpa, price=0.0)
            choices.append(own)
        if len(choices) > 1:
            yield SizedValve(outlet=outlet, choices=rising_valves(choices))


def filters_of(design: Design, lines: list[Line], keeps: bool) -> Iterator[SizedFilter]:
    """Yield each sized line with one filter that may be another: those of the catalogue with a price and a Kv.

    One that is no product with a price may stay, at no cost.
    """
    for line in lines:
        there = [part for part in line.inline if part.kind == "filter"]
        if len(there) != 1 or there[0].kv_m3h is None:
            continue
        now, choices = there[0], list[FilterChoice]()
        for part in parts().values():
            is_laid = keeps and part.product_id == now.product
            price = 0.0 if is_laid else price_of(design, part)
            if part.kind == "filter" and part.kv_m3h is not None and price is not None:
                choice = FilterChoice(product_id=part.product_id, kv_m3h=part.kv_m3h, price=price, is_laid=is_laid)
                choices.append(choice)
        if now.product not in {choice.product_id for choice in choices}:
            choices.append(FilterChoice(product_id=AS_IT_IS, kv_m3h=now.kv_m3h or 0.0, price=0.0))
        if len(rising := rising_filters(choices)) > 1:
            yield SizedFilter(line=line, choices=rising)


def rises_of(most_m: float, price_per_m: float) -> tuple[StandChoice, ...]:
    steps = [*np.arange(0.0, most_m, STAND_STEP_M).tolist(), most_m]
    return tuple(StandChoice(rise_m=rise_m, price=rise_m * price_per_m) for rise_m in steps)


def rise_price_per_m(design: Design, stand: SizingStand) -> float:
    """Return what a metre of stand costs: as said, else by the site's costs.

    Raises:
        DesignFaults: neither says, in the site's currency.
    """
    if stand.price_per_m is not None:
        return stand.price_per_m
    index = design.sizing.stands.index(stand) if design.sizing else 0
    vessel = next(vessel for vessel in design.vessels if vessel.id == stand.vessel)
    price = stand_price_per_m(design, vessel).price
    if price is None:
        fault = Fault(
            path=f"/sizing/stands/{index}/price_per_m", code="not_allowed", found="no price",
            allowed=f"a price in {design.site.currency}",
        )  # fmt: skip
        raise DesignFaults([fault])
    return price
