"""Height grids, ESRI ASCII and GeoTIFF, through rasterio: read with limits, heights taken between the cells."""

import warnings
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import rasterio
from affine import Affine
from numpy.typing import NDArray
from pyproj.enums import TransformDirection
from rasterio._err import CPLE_BaseError
from rasterio.errors import NotGeoreferencedWarning, RasterioError
from rasterio.io import MemoryFile

from leadsman.core.base.array import Floats
from leadsman.core.base.fault import DesignFaults
from leadsman.core.survey.survey_file import LEAST_HEIGHT_M, LOCAL, MOST_HEIGHT_M, WGS84, refuse
from leadsman.formats.projection import transformer

MOST_CELLS = 36_000_000
DRIVERS = {"AAIGrid": "ESRI ASCII grid", "GTiff": "GeoTIFF"}


@dataclass(frozen=True, kw_only=True)
class HeightGrid:
    """A raster of heights [m]; NaN where it has none. `system` as in `SurveyFile`, None where the file says nothing."""

    format: str
    system: str | None
    heights_m: NDArray[np.float32]
    transform: Affine

    @property
    def step(self) -> float:
        """The width of a cell, in the grid's own units: metres, or degrees."""
        return float(np.hypot(self.transform.a, self.transform.d))

    def at(self, degrees: Sequence[tuple[float, float]], metres: Sequence[tuple[float, float]], system: str) -> Floats:
        """Return heights between the cells' centres [m], NaN outside and beside cells without one.

        Args:
            degrees, metres: the same points as longitude and latitude, and on the site's plane.
            system: which the grid is in: "local", "wgs84" or an EPSG code.
        Source: bilinear interpolation.
        """
        pairs = metres if system == LOCAL else degrees
        x, y = (np.array(axis, dtype=float) for axis in zip(*pairs, strict=True))
        if system not in (LOCAL, WGS84):
            x, y = transformer(system).transform(x, y, direction=TransformDirection.INVERSE)
        column, row = ~self.transform @ (x, y)
        return self._between(np.asarray(column) - 0.5, np.asarray(row) - 0.5)

    def _between(self, column: Floats, row: Floats) -> Floats:
        rows, columns = self.heights_m.shape
        found = np.full(len(column), np.nan)
        inside = (column >= 0) & (row >= 0) & (column <= columns - 1) & (row <= rows - 1)
        c, r = column[inside], row[inside]
        c0 = np.minimum(c.astype(int), max(columns - 2, 0))
        r0 = np.minimum(r.astype(int), max(rows - 2, 0))
        c1, r1 = np.minimum(c0 + 1, columns - 1), np.minimum(r0 + 1, rows - 1)
        fc, fr = c - c0, r - r0
        total = np.zeros(len(c))
        for rr, cc, weight in ((r0, c0, (1 - fc) * (1 - fr)), (r0, c1, fc * (1 - fr)), (r1, c0, (1 - fc) * fr),
                               (r1, c1, fc * fr)):  # fmt: skip
            total += np.where(weight > 0.0, weight * self.heights_m[rr, cc], 0.0)  # beside a gap without a part in it
        found[inside] = total
        return found


def read_height_grid(data: bytes, suffix: str) -> HeightGrid:
    """Return the heights of an ESRI ASCII grid (suffix "asc") or a GeoTIFF ("tif").

    Raises:
        DesignFaults: it is neither, has more than one band, too many cells, or no heights in it.
    """
    try:
        with (
            warnings.catch_warnings(action="ignore", category=NotGeoreferencedWarning),  # it is said below
            rasterio.Env(GDAL_DISABLE_READDIR_ON_OPEN="EMPTY_DIR", GDAL_CACHEMAX=64, CPL_DEBUG=False),
            MemoryFile(data, filename=f"grid.{suffix}") as memory,
            memory.open(driver="AAIGrid" if suffix == "asc" else "GTiff") as dataset,
        ):
            if dataset.count != 1:
                raise refuse("", "too_many_bands", f"{dataset.count} bands", "one band of heights")
            if dataset.width * dataset.height > MOST_CELLS:
                found = f"{dataset.width:,} x {dataset.height:,} cells"
                raise refuse("", "too_large", found, f"at most {MOST_CELLS:,} cells: cut out the farm")
            band = dataset.read(1, masked=True)
            if band.dtype.kind not in "iuf":
                raise refuse("", "no_heights", f"cells of {band.dtype}", "numbers")
            transform, system, driver = dataset.transform, _system(dataset), dataset.driver
    except DesignFaults:
        raise
    except (RasterioError, CPLE_BaseError, MemoryError, ValueError) as error:
        raise refuse("", "not_a_grid", str(error).splitlines()[0][:120] if str(error) else "no grid",
                     "an ESRI ASCII grid or a GeoTIFF") from None  # fmt: skip
    heights = np.ma.filled(band.astype(np.float32), np.nan)
    heights[~np.isfinite(heights)] = np.nan
    if transform.is_identity or transform.determinant == 0.0:
        raise refuse("", "no_position", "a picture without a position", "a grid that says where it lies")
    if np.isnan(heights).all():
        raise refuse("", "no_heights", "no cell with a height", "heights")
    low, high = float(np.nanmin(heights)), float(np.nanmax(heights))
    if not LEAST_HEIGHT_M <= low <= high <= MOST_HEIGHT_M:
        raise refuse("heights", "no_height", f"{low:g} to {high:g} m", f"{LEAST_HEIGHT_M:g} to {MOST_HEIGHT_M:g} m")
    return HeightGrid(format=DRIVERS[driver], system=system, heights_m=heights, transform=transform)


def _system(dataset: rasterio.DatasetReader) -> str | None:
    if dataset.crs is None:
        return None
    code = dataset.crs.to_epsg()
    if code == 4326:
        return WGS84
    return f"EPSG:{code}" if code else str(dataset.crs.to_wkt())
