"""Which pipe a line is laid in, and where."""

from leadsman.core.catalogue import PipeProduct
from leadsman.core.design import Design, Line


def pipes_of(design: Design, line: Line) -> list[tuple[PipeProduct, float]]:
    """Return a line's products with the length of each [m]; none where its pipe is given by its bore alone."""
    if line.runs:
        return [(design.pipe(run.product), run.length_m) for run in line.runs]
    return [(design.pipe(line.product), line.pipe_length_m)] if line.product else []


def pipe_at(design: Design, line: Line, at_m: float) -> PipeProduct | None:
    """Return the product that lies at a distance along a line [m]; None where its pipe is given by its bore alone."""
    end_m = 0.0
    pipes = pipes_of(design, line)
    for product, length_m in pipes:
        end_m += length_m
        if at_m <= end_m:
            return product
    return pipes[-1][0] if pipes else None
