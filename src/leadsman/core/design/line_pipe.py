"""What a line is made of: its pieces of pipe and its fittings, as numbers."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from leadsman.core.base.units import m_from_mm
from leadsman.core.catalogue import PipeProduct, fitting_product, pipe_product
from leadsman.core.design import Line
from leadsman.core.physics.fittings import kv_loss_per_flow2, minor_loss_per_flow2
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import Water


def line_reaches(line: Line, path: str, own: Iterable[PipeProduct] = ()) -> list[Pipe]:
    """Return the pieces of pipe of a line from its `from` end; explicit figures override the product's.

    Args:
        own: the design's own products, which go before the catalogue's.
    Raises:
        UnknownName: a product is in neither.
    """
    if line.runs:
        products = [pipe_product(run.product, f"{path}/runs/{i}/product", own) for i, run in enumerate(line.runs)]
        return [
            Pipe(length_m=run.length_m, bore_m=product.bore_m, roughness_m=product.roughness_m)
            for run, product in zip(line.runs, products, strict=True)
        ]
    named = pipe_product(line.product, f"{path}/product", own) if line.product else None
    bore = m_from_mm(line.bore_mm) if line.bore_mm is not None else named.bore_m if named else 0.0
    rough = m_from_mm(line.roughness_mm) if line.roughness_mm is not None else named.roughness_m if named else 0.0
    return [Pipe(length_m=line.pipe_length_m, bore_m=bore, roughness_m=rough)]


class Lump(NamedTuple):
    """A loss at a distance [m] from the line's `from` end: head over flow squared [s2/m5].

    `on_bore` tells that it goes with the line's own bore (K on it), not with a bore or Kv of its own.
    """

    at_m: float
    per_flow2: float
    on_bore: bool


def line_lumps(line: Line, path: str, water: Water, own: Iterable[PipeProduct] = ()) -> Iterator[Lump]:
    """Yield the loss of each fitting and part. Fittings have no place of their own: they count at the `from` end."""
    if not line.fittings and not line.inline:
        return
    line_bore_m = line_reaches(line, path, own)[0].bore_m
    for index, fitting in enumerate(line.fittings):
        given_m = m_from_mm(fitting.bore_mm) if fitting.bore_mm else line_bore_m
        coefficient, bore = fitting.k or 0.0, given_m
        if fitting.product:
            coefficient, bore = fitting_product(fitting.product, f"{path}/fittings/{index}/product").loss(given_m)
        on_bore = fitting.bore_mm is None and bore == line_bore_m
        yield Lump(0.0, fitting.count * minor_loss_per_flow2(coefficient, bore), on_bore)
    for part in line.inline:
        if part.k is not None:
            yield Lump(part.at_m, minor_loss_per_flow2(part.k, line_bore_m), True)
        if part.kv_m3h is not None:
            yield Lump(part.at_m, kv_loss_per_flow2(part.kv_m3h, water.density_kgm3), False)
