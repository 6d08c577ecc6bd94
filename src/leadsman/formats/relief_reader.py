"""A height model for under the plan, read from a grid file."""

from typing import Annotated

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from leadsman.core.design import Design
from leadsman.core.report.background import ReliefReport, relief_report
from leadsman.core.survey.relief import mesh_over, relief_over
from leadsman.core.survey.survey_file import LOCAL, refuse
from leadsman.formats.height_grid import HeightGrid
from leadsman.formats.placed import anchor_of
from leadsman.formats.projection import Plane
from leadsman.formats.survey_reader import read_survey


class ReliefAsked(BaseModel):
    """A design, and what its user says of the grid file that goes with it."""

    model_config = ConfigDict(extra="forbid")

    document: Design
    name: Annotated[str, Field(min_length=1, max_length=120)]
    system: Annotated[str, Field(max_length=60)] | None = None


def read_relief(data: bytes, asked: ReliefAsked) -> ReliefReport:
    """Return the part of a height grid that lies under a design.

    Raises:
        DesignFaults: it is no grid, does not say in what coordinates it is, or lies beside the plan.
    """
    grid = read_survey(data, asked.name)
    if not isinstance(grid, HeightGrid):
        raise refuse("", "not_a_grid", grid.format, "an ESRI ASCII grid or a GeoTIFF")
    system = asked.system or grid.system
    if system is None:
        raise refuse("/system", "no_system", "a grid that does not say its coordinates",
                     "local, wgs84 or an EPSG code")  # fmt: skip
    west, south, step, spots = mesh_over(asked.document)
    metres = [(float(east), float(north)) for east, north in spots.reshape(-1, 2)]
    degrees = metres if system == LOCAL else Plane(anchor_of(asked.document)).degrees(metres)
    heights = grid.at(degrees, metres, system).reshape(spots.shape[:2])
    if np.isnan(heights).all():
        raise refuse("coordinates", "too_far", "a grid beside the plan", "a grid of the ground that the plan lies on")
    return relief_report(relief_over(asked.document, (west, south), step, heights, asked.name))
