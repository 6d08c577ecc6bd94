"""Coordinates and lengths against an independent geodesy library."""

import math

import pytest
from geographiclib.geodesic import Geodesic
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Anchor
from leadsman.formats.projection import Plane, to_degrees

EARTH = Geodesic.WGS84


@given(st.floats(-79, 83), st.floats(-179, 179), st.floats(1, 8_000), st.floats(0, 360))
def test_metres_on_the_plane_are_metres_on_the_ground(
    latitude: float, longitude: float, far: float, way: float
) -> None:
    plane = Plane(Anchor(latitude_deg=latitude, longitude_deg=longitude))
    there = EARTH.Direct(latitude, longitude, way, far)
    ((east, north),) = plane.metres([(there["lon2"], there["lat2"])])
    assert math.hypot(east, north) == pytest.approx(far, rel=1e-6)
    turned = math.radians(way) - math.atan2(east, north)
    assert math.sin(turned) == pytest.approx(0.0, abs=1e-5)
    assert math.cos(turned) > 0.0
    ((lon, lat),) = plane.degrees([(east, north)])
    assert EARTH.Inverse(lat, lon, there["lat2"], there["lon2"])["s12"] < 1e-4


@given(st.floats(-4_000, 4_000), st.floats(-4_000, 4_000), st.floats(-4_000, 4_000), st.floats(-4_000, 4_000))
def test_lengths_between_any_two_points_of_a_farm_are_true(a: float, b: float, c: float, d: float) -> None:
    plane = Plane(Anchor(latitude_deg=46.5, longitude_deg=-31.2))
    (one, other) = plane.degrees([(a, b), (c, d)])
    true = EARTH.Inverse(one[1], one[0], other[1], other[0])["s12"]
    assert math.hypot(a - c, b - d) == pytest.approx(true, rel=1e-6, abs=1e-5)


# the central meridian and the equator of a UTM zone, and a point of it worked out by hand with geographiclib
@pytest.mark.parametrize(
    ("system", "pair", "longitude", "latitude"),
    [("EPSG:32625", (500_000.0, 0.0), -33.0, 0.0), ("EPSG:4326", (-31.2, 46.5), -31.2, 46.5),
     ("EPSG:32725", (500_000.0, 10_000_000.0), -33.0, 0.0)],
)  # fmt: skip
def test_projected_systems_are_turned_into_degrees(
    system: str, pair: tuple[float, float], longitude: float, latitude: float
) -> None:
    ((x, y),) = to_degrees([pair], system)
    assert (x, y) == pytest.approx((longitude, latitude), abs=1e-9)


def test_a_meridian_of_a_utm_zone_has_its_length_times_the_scale() -> None:
    ((_, latitude),) = to_degrees([(500_000.0, 5_149_000.0)], "EPSG:32625")
    assert EARTH.Inverse(0, -33, latitude, -33)["s12"] * 0.9996 == pytest.approx(5_149_000.0, rel=1e-8)


@pytest.mark.parametrize("system", ["EPSG:999999", "nonsense", "EPSG:4978", "local"])
def test_a_system_that_is_none_is_refused(system: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        to_degrees([(1.0, 2.0)], system)
    assert refused.value.faults[0].path == "system"
