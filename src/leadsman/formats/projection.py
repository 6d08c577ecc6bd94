"""Coordinates: the site's own plane in metres, degrees on WGS 84, and the projected systems of the EPSG list.

The plane is a transverse Mercator of scale 1 about the anchor, so that metres on it are metres on the ground: within
a millionth over the ten kilometres of any farm. Through pyproj; no grids are fetched.
"""

from collections.abc import Sequence
from functools import cache

import numpy as np
import pyproj
from pyproj.exceptions import CRSError, ProjError
from pyproj.network import set_network_enabled  # type: ignore[attr-defined]  # its door, not in its __all__

from leadsman.core.design import Anchor
from leadsman.core.survey.survey_file import LOCAL, WGS84, refuse

set_network_enabled(False)

FARTHEST_M = 100_000.0  # of anything of one farm from its anchor
Pairs = Sequence[tuple[float, float]]


class Plane:
    """The site's plane about an anchor: metres east and north of it."""

    def __init__(self, anchor: Anchor) -> None:
        self.anchor = anchor
        self._projection = pyproj.Proj(
            proj="tmerc", lat_0=anchor.latitude_deg, lon_0=anchor.longitude_deg, k=1, ellps="WGS84", units="m"
        )

    def metres(self, degrees: Pairs) -> list[tuple[float, float]]:
        """Return east and north [m] of longitudes and latitudes [degrees].

        Raises:
            DesignFaults: a point is too far from the anchor to be of one farm.
        """
        if not degrees:
            return []
        longitude, latitude = np.array(degrees, dtype=float).T
        east, north = self._projection(longitude, latitude, errcheck=False)
        found = list(zip(east.tolist(), north.tolist(), strict=True))
        far = max((abs(e) + abs(n) for e, n in found), default=0.0)
        if not far <= FARTHEST_M:
            raise refuse("coordinates", "too_far", _told(far), f"within {FARTHEST_M / 1000:g} km of the plan")
        return found

    def degrees(self, metres: Pairs) -> list[tuple[float, float]]:
        """Return longitudes and latitudes [degrees] of east and north [m]."""
        if not metres:
            return []
        east, north = np.array(metres, dtype=float).T
        longitude, latitude = self._projection(east, north, inverse=True)
        return list(zip(longitude.tolist(), latitude.tolist(), strict=True))


def _told(far_m: float) -> str:
    if not far_m < 4e7:
        return "points on the other side of the globe"
    return f"points {far_m / 1000:,.0f} km from the plan (another projection, or latitude and longitude swapped?)"


def to_degrees(pairs: Pairs, system: str) -> list[tuple[float, float]]:
    """Return longitudes and latitudes of coordinates in a system: "wgs84" or an EPSG code.

    Raises:
        DesignFaults: no such system, or coordinates that it does not hold.
    """
    if system == WGS84 or not pairs:
        return list(pairs)
    try:
        first, second = np.array(pairs, dtype=float).T
        x, y = transformer(system).transform(first, second, errcheck=True)
    except ProjError as error:
        raise refuse("coordinates", "off_the_map", str(error)[:100], f"coordinates of {system}") from None
    return list(zip(x.tolist(), y.tolist(), strict=True))


@cache
def transformer(system: str) -> pyproj.Transformer:
    """Return the way from a system to longitude and latitude on WGS 84.

    Raises:
        DesignFaults: there is no such system.
    """
    if system == LOCAL:
        raise refuse("system", "no_system", "local metres", "a system of the globe")
    try:
        crs = pyproj.CRS.from_user_input(system)
    except CRSError:
        raise refuse("system", "no_system", repr(system)[:60], "an EPSG code, as EPSG:25832") from None
    if not (crs.is_projected or crs.is_geographic) or crs.is_geocentric:
        raise refuse("system", "no_system", crs.name[:60], "a system of coordinates on a map or in degrees")
    return pyproj.Transformer.from_crs(crs, "EPSG:4326", always_xy=True)
