"""What each choice of pipe or valve would do, worked out before it is taken."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.leak import Leak, leak_of
from leadsman.core.analysis.pressure_limit import limit_pa, pipe_temperature_c, stands_on_pa, strain
from leadsman.core.base.units import pa_from_kpa
from leadsman.core.catalogue import FloatValveProduct, PipeProduct, float_valves, pipes
from leadsman.core.design import Design, FloatValveOutlet, Line, OutletBase
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.price_book import price_of
from leadsman.core.steady.solve import solve_with

NARROWEST, WIDEST = 0.5, 2.2  # of the bore that a line has: what is offered beside it; ours, no source
NO_NECK_KV_M3H = 1e4  # a valve that takes next to nothing: what the pipe before it passes by itself


@dataclass(frozen=True, kw_only=True)
class PipeChoice:
    """A line in another pipe: what it is good for at its temperature [Pa], whether it holds what stands, its price.

    `flows_m3s` is what each outlet that is asked about then gets, all drawing; `limit_pa` None where no class is known,
    `holds` None where that, or what stands, is not known.
    """

    product: PipeProduct
    limit_pa: float | None
    holds: bool | None
    price: float | None
    flows_m3s: list[float]


@dataclass(frozen=True, kw_only=True)
class ValveChoice:
    """Another float valve at an outlet that draws by itself: flow [m3/s], its share of what the pipe could pass [-].

    `opens` and `shuts` tell whether what stands on it is within its least and greatest pressure, `fills_s` how long the
    vessel takes (None: it never fills, or there is none), `leak` what it loses stuck open.
    """

    product: FloatValveProduct
    opens: bool
    opens_surely: bool
    shuts: bool
    flow_m3s: float
    share: float | None
    fills_s: float | None
    leak: Leak | None
    price: float | None


@dataclass(frozen=True, kw_only=True)
class ValveChoices:
    """What stands on the valve when all is shut [Pa], what the pipe could pass by itself [m3/s], and every choice."""

    stands_pa: float | None
    pipe_m3s: float
    choices: list[ValveChoice]


def pipe_choices(
    analysis: Analysis, line: Line, outlets: Sequence[OutletBase], own: Sequence[PipeProduct] = ()
) -> Iterator[PipeChoice]:
    """Yield what a line in every pipe of about its size would do to some outlets, by family and bore.

    Args:
        own: rows of the user's own, besides the catalogue's and the design's.
    """
    now_m = analysis.model.reaches_of_line(line.id)[0].bore_m
    known = {candidate.product_id: candidate for candidate in (*own, *analysis.design.own_pipes, *pipes().values())}
    about = [candidate for candidate in known.values() if NARROWEST * now_m <= candidate.bore_m <= WIDEST * now_m]
    worst, pipe_c = strain(analysis, line), pipe_temperature_c(analysis)
    for product in sorted(
        about, key=lambda candidate: (candidate.family, candidate.bore_m, candidate.class_kpa or 0.0)
    ):
        analysis.check_cancelled()
        laid = Analysis(
            laid_in(analysis.document, line.id, product), together_only=True, check_cancelled=analysis.check_cancelled
        )
        limit = limit_pa(product, pipe_c)
        holds = None if limit is None or worst is None else worst.pressure_pa <= limit
        metre = price_of(analysis.design, product)
        price = None if metre is None else round(metre * line.pipe_length_m, 2)
        flows = [laid.state.outlets[outlet.id].judged_flow_m3s for outlet in outlets]
        yield PipeChoice(product=product, limit_pa=limit, holds=holds, price=price, flows_m3s=flows)


def laid_in(design: Design, line_id: str, product: PipeProduct) -> Design:
    """Return a design with a line in another pipe; a row of the user's own goes with it."""
    document = write_design(design)
    line = next(candidate for candidate in document["lines"] if candidate["id"] == line_id)
    for key in ("bore_mm", "roughness_mm", "runs"):
        length = sum(run["length_m"] for run in line["runs"]) if key == "runs" and line.get("runs") else None
        line.pop(key, None)
        if length is not None:
            line.setdefault("length_m", length)
    line["product"] = product.product_id
    listed = document.get("own_pipes", [])
    if product.is_own and all(listed_row["product_id"] != product.product_id for listed_row in listed):
        document["own_pipes"] = [*listed, product.model_dump(exclude_none=True)]
    return read_design(document)


def valve_choices(analysis: Analysis, outlet: FloatValveOutlet, own: Sequence[FloatValveProduct] = ()) -> ValveChoices:
    """Return what every float valve would do at an outlet that draws by itself."""
    stands = stands_on_pa(analysis, outlet)
    pipe_m3s = _with_valve(analysis, outlet, {"kv_m3h": NO_NECK_KV_M3H, "min_pressure_kpa": 0.0})[0]
    known = {candidate.product_id: candidate for candidate in (*own, *float_valves().values())}
    found = []
    for product in sorted(known.values(), key=lambda candidate: (candidate.principle, candidate.kv_m3h)):
        analysis.check_cancelled()
        figures = {"kv_m3h": product.kv_m3h, "min_pressure_kpa": product.min_kpa}
        flow, after, changed = _with_valve(analysis, outlet, {**figures, "band_m": product.band_m})
        refill = after.refill(changed) if flow > 0.0 else None
        most_kpa = product.closes_against_kpa(analysis.model.water.density_kgm3)
        found.append(
            ValveChoice(
                product=product,
                opens=stands is None or stands >= pa_from_kpa(product.min_kpa),
                opens_surely=stands is None or stands >= pa_from_kpa(product.sure_kpa or product.min_kpa),
                shuts=stands is None or most_kpa is None or stands <= pa_from_kpa(most_kpa),
                flow_m3s=flow,
                share=flow / pipe_m3s if pipe_m3s > 0.0 else None,
                fills_s=refill.time_s if refill else None,
                leak=leak_of(analysis, outlet, flow),
                price=price_of(analysis.design, product),
            )
        )
    return ValveChoices(stands_pa=stands, pipe_m3s=pipe_m3s, choices=found)


def _with_valve(
    analysis: Analysis, outlet: FloatValveOutlet, figures: dict[str, float]
) -> tuple[float, Analysis, FloatValveOutlet]:
    """Return what an outlet gives alone with another valve [m3/s], and the design with that valve."""
    document = write_design(analysis.document)
    told = next(candidate for candidate in document["outlets"] if candidate["id"] == outlet.id)
    told["valve"] = {**told["valve"], **figures}
    told["valve"]["band_m"] = min(told["valve"]["band_m"], told["valve"]["closes_at_m"])
    for key in ("max_pressure_kpa", "sure_pressure_kpa"):
        told["valve"].pop(key, None)
    after = Analysis(read_design(document), together_only=True)
    case = after.standing.with_only(outlet.id)
    states, _ = solve_with(after.model, {outlet.id: case}, [])
    changed = next(candidate for candidate in after.design.outlets if candidate.id == outlet.id)
    if not isinstance(changed, FloatValveOutlet):
        raise TypeError(outlet.id)
    return states[outlet.id].outlets[outlet.id].judged_flow_m3s, after, changed
