"""What each line's pipe is good for at its own temperature, and where it is strained most."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from leadsman.core.analysis.running import Running
from leadsman.core.base.units import pa_from_head_m, pa_from_kpa
from leadsman.core.catalogue import PipeProduct
from leadsman.core.design import Design, Line, OutletBase
from leadsman.core.physics.pressure_class import share_of_class, table_of


@dataclass(frozen=True, kw_only=True)
class Strain:
    """Where a line is strained most [m], by what surveyed point; what stands there and what its pipe is good for [Pa].

    `pipe_c` is the temperature of the pipe [°C]; `warm` tells that it takes something of the class.
    """

    number: int
    at_m: float
    pressure_pa: float
    limit_pa: float
    pipe_c: float
    warm: bool


def pipe_temperature_c(running: Running) -> float:
    """Return the temperature of the pipe in the chosen case [°C]: that of the water where nothing is said."""
    told = running.scenario.pipe_c
    return running.model.water.temperature_c if told is None else told


def limit_pa(product: PipeProduct, pipe_c: float) -> float | None:
    """Return what a pipe is good for [Pa] at a temperature [°C].

    None where its class is not known, or it is hotter than what is published for it.
    """
    share = share_of_class(table_of(product.family), pipe_c)
    return None if product.class_kpa is None or share is None else pa_from_kpa(product.class_kpa) * share


def hottest_c(product: PipeProduct) -> float:
    """Return the temperature [°C] up to which it is known what a pipe holds."""
    return table_of(product.family)[-1][0]


def products_of(design: Design, line: Line) -> list[PipeProduct]:
    """Return the products that a line is made of; none where its pipe is given by its bore alone."""
    names = [run.product for run in line.runs] or ([line.product] if line.product else [])
    return [design.pipe(name) for name in names]


def products_at(design: Design, line: Line, at_m: float) -> list[PipeProduct]:
    """Return the products that a point of a line lies on: where two meet, both."""
    if not line.runs:
        return [design.pipe(line.product)] if line.product else []
    found, end_m = [], 0.0
    for run in line.runs:
        start_m, end_m = end_m, end_m + run.length_m
        if start_m <= at_m <= end_m:
            found.append(design.pipe(run.product))
    return found


def strain(running: Running, line: Line, between_m: tuple[float, float] | None = None) -> Strain | None:
    """Return where a line is strained most, all shut and every vessel at its brim.

    None where its pipe has no class, or nothing stands in it.

    Args:
        between_m: the part of the line that is looked at, by distances along it [m]; all of it where None.
    """
    pipe_c, density = pipe_temperature_c(running), running.model.water.density_kgm3
    worst: Strain | None = None
    for number, at_m, over_m in _standing_m(running, line, between_m):
        for product in products_at(running.design, line, at_m):
            limit = limit_pa(product, pipe_c)
            if limit is None:
                continue
            pressure = pa_from_head_m(over_m, density)
            warm = limit < pa_from_kpa(product.class_kpa or 0.0)
            if worst is None or pressure / limit > worst.pressure_pa / worst.limit_pa:
                worst = Strain(number=number, at_m=at_m, pressure_pa=pressure, limit_pa=limit, pipe_c=pipe_c, warm=warm)
    return worst


def stands_in_pa(running: Running, line: Line) -> float:
    """Return the most that stands in a line [Pa], all shut and every vessel at its brim; 0 where nothing does."""
    over_m = max((over_m for _, _, over_m in _standing_m(running, line, None)), default=0.0)
    return max(0.0, pa_from_head_m(over_m, running.model.water.density_kgm3))


def _standing_m(
    running: Running, line: Line, between_m: tuple[float, float] | None
) -> Iterator[tuple[int, float, float]]:
    """Yield where a line is looked at: a surveyed point, the distance along the line, and the head over its pipe [m].

    Between two distances: each surveyed point, and the two ends with the head of the point beside them.
    """
    flow, along = running.brimful, running.model.along
    numbers = along.of_line[line.id] if flow else range(0)
    heads = {number: head_m for number in numbers if flow and (head_m := flow.point_head_m(number)) is not None}
    points = [along.points[number] for number in numbers]
    low, high = between_m or (0.0, line.pipe_length_m)
    for number, head_m in heads.items():
        point = along.points[number]
        if low <= point.at_m <= high:
            yield number, point.at_m, head_m - point.pipe_m
    for end_m in between_m or ():
        pipe_m = float(np.interp(end_m, [point.at_m for point in points], [point.pipe_m for point in points]))
        inside = [number for number in heads if low <= along.points[number].at_m <= high] or list(heads)
        if inside:
            nearest = min(inside, key=lambda number: abs(along.points[number].at_m - end_m))
            yield nearest, end_m, heads[nearest] - pipe_m


def stands_on_pa(running: Running, outlet: OutletBase) -> float | None:
    """Return what stands on an outlet [Pa], all shut and every vessel at its brim; None where no water gets to."""
    head_m = running.brimful.outlet_head_m(outlet.id) if running.brimful else None
    if head_m is None:
        return None
    over_m = head_m - running.model.layout.outlet_height_m(outlet)
    return pa_from_head_m(over_m, running.model.water.density_kgm3)


def limits_pa(running: Running) -> dict[str, float]:
    """Return what each line's pipe is good for [Pa], the least along it; lines without a class are left out."""
    found = {}
    pipe_c = pipe_temperature_c(running)
    for line in running.design.lines:
        limits = [limit_pa(product, pipe_c) for product in products_of(running.design, line)]
        known = [limit for limit in limits if limit is not None]
        if known:
            found[line.id] = min(known)
    return found
