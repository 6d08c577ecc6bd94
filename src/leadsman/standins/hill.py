"""The made-up hill of Tamsel Ridge: heights between the points of hill.csv, with a ripple that no survey knows of."""

import csv
from functools import cache
from importlib.resources import files

import numpy as np
import pyproj
from scipy.interpolate import RBFInterpolator

from leadsman.core.base.array import Floats

LATITUDE_DEG, LONGITUDE_DEG = 46.5, -31.2  # its east 0, north 0: in the middle of an ocean, as no farm is
REACH_M = 600.0  # how far from there it is known
RIPPLE_M = 0.25
ERROR_M = 0.6  # what the service says of itself


@cache
def _surface() -> RBFInterpolator:
    with (files("leadsman.standins") / "hill.csv").open(encoding="utf-8") as text:
        rows = [(float(row["east_m"]), float(row["north_m"]), float(row["height_m"])) for row in csv.DictReader(text)]
    points = np.array(rows)
    return RBFInterpolator(points[:, :2], points[:, 2], kernel="thin_plate_spline")


def heights_m(degrees: Floats) -> Floats:
    """Return the hill's heights [m] at longitudes and latitudes, shape (points, 2); NaN beyond its edge."""
    plane = pyproj.Proj(proj="tmerc", lat_0=LATITUDE_DEG, lon_0=LONGITUDE_DEG, k=1, ellps="WGS84")
    east, north = (np.asarray(axis) for axis in plane(degrees[:, 0], degrees[:, 1]))
    return heights_on_plan_m(np.stack([east, north], axis=1))


def heights_on_plan_m(metres: Floats) -> Floats:
    """Return the hill's heights [m] at east and north [m] of its middle, shape (points, 2); NaN beyond its edge."""
    inside = (np.abs(metres) <= REACH_M).all(axis=1)
    found = np.full(len(metres), np.nan)
    if inside.any():
        near = metres[inside]
        ripple = RIPPLE_M * np.sin(near[:, 0] / 17.0 + 1.0) * np.cos(near[:, 1] / 23.0)
        found[inside] = _surface()(near) + ripple
    return found
