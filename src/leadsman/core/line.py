"""What a line is made of: its pieces of pipe and its fittings, as numbers."""

from collections.abc import Iterator

from leadsman.core.catalogue import fitting_product, pipe_product
from leadsman.core.design import Line
from leadsman.core.errors import DesignFaults, Fault
from leadsman.core.fittings import crane_full_turbulence_factor, kv_loss_per_flow2, minor_loss_per_flow2
from leadsman.core.pipe import Pipe
from leadsman.core.units import m_from_mm
from leadsman.core.water import Water


def line_reaches(line: Line, path: str) -> list[Pipe]:
    """Return the pieces of pipe of a line from its `from` end; explicit figures override the product's.

    Raises:
        UnknownName: a product is not in the catalogue.
    """
    if line.runs:
        products = [pipe_product(run.product, f"{path}/runs/{i}/product") for i, run in enumerate(line.runs)]
        return [
            Pipe(run.length_m, product.bore_m, product.roughness_m)
            for run, product in zip(line.runs, products, strict=True)
        ]
    named = pipe_product(line.product, f"{path}/product") if line.product else None
    bore = m_from_mm(line.bore_mm) if line.bore_mm is not None else named.bore_m if named else 0.0
    rough = m_from_mm(line.roughness_mm) if line.roughness_mm is not None else named.roughness_m if named else 0.0
    return [Pipe(line.pipe_length_m, bore, rough)]


def line_lumps(line: Line, path: str, water: Water) -> Iterator[tuple[float, float]]:
    """Yield distance [m] from the line's `from` end and loss over flow squared [s2/m5] of each fitting and part.

    Fittings have no place of their own: they are counted at the `from` end.
    """
    line_bore_m = line_reaches(line, path)[0].bore_m
    for index, fitting in enumerate(line.fittings):
        bore = m_from_mm(fitting.bore_mm) if fitting.bore_mm else line_bore_m
        if fitting.product:
            product = fitting_product(fitting.product, f"{path}/fittings/{index}/product")
            coefficient = (
                product.k if product.k is not None else crane_full_turbulence_factor(bore) * (product.times_ft or 0.0)
            )
        else:
            coefficient = fitting.k or 0.0
        yield 0.0, fitting.count * minor_loss_per_flow2(coefficient, bore)
    for part in line.inline:
        if part.kind == "reducer":
            raise not_solved_yet(f"{path}/inline/{line.inline.index(part)}", "a pressure reducer", "lines without one")
        if part.k is not None:
            yield part.at_m, minor_loss_per_flow2(part.k, line_bore_m)
        if part.kv_m3h is not None:
            yield part.at_m, kv_loss_per_flow2(part.kv_m3h, water.density_kgm3)


def not_solved_yet(path: str, found: str, allowed: str) -> DesignFaults:
    """Return the refusal of a lawful design that this version cannot solve."""
    return DesignFaults([Fault(path, "not_solved_yet", found, f"{allowed}, in this version")])
