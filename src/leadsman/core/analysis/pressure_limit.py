"""What each line's pipe is good for at its own temperature, and where it is strained most."""

from dataclasses import dataclass

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
    """Return what a pipe is good for [Pa] at a temperature [°C]; None where its class is not known.

    Over the last temperature of its table it is taken for what it is there.
    """
    if product.class_kpa is None:
        return None
    table = table_of(product.family)
    share = share_of_class(table, pipe_c)
    return pa_from_kpa(product.class_kpa) * (table[-1][1] if share is None else share)


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


def strain(running: Running, line: Line) -> Strain | None:
    """Return where a line is strained most, all shut and every vessel at its brim.

    None where its pipe has no class, or nothing stands in it.
    """
    flow, along, density = running.brimful, running.model.along, running.model.water.density_kgm3
    pipe_c = pipe_temperature_c(running)
    worst: Strain | None = None
    for number in along.of_line[line.id] if flow else ():
        point, head_m = along.points[number], flow.point_head_m(number) if flow else None
        for product in products_at(running.design, line, point.at_m) if head_m is not None else ():
            limit = limit_pa(product, pipe_c)
            if limit is None:
                continue
            pressure = pa_from_head_m((head_m or 0.0) - point.pipe_m, density)
            warm = limit < pa_from_kpa(product.class_kpa or 0.0)
            if worst is None or pressure / limit > worst.pressure_pa / worst.limit_pa:
                worst = Strain(
                    number=number, at_m=point.at_m, pressure_pa=pressure, limit_pa=limit, pipe_c=pipe_c, warm=warm
                )
    return worst


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
        names = [run.product for run in line.runs] or ([line.product] if line.product else [])
        limits = [limit_pa(running.design.pipe(name), pipe_c) for name in names]
        known = [limit for limit in limits if limit is not None]
        if known:
            found[line.id] = min(known)
    return found
