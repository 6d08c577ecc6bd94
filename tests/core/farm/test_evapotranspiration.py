"""Reference evapotranspiration against the paper's own examples and an independent library."""

from datetime import date

import numpy as np
import pytest
import refet
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.base.errors import OutOfRange
from leadsman.core.farm.evapotranspiration import (
    DayWeather,
    extraterrestrial_mjm2,
    hargreaves_mm,
    penman_monteith_mm,
    saturation_kpa,
    wind_at_two_metres_ms,
)

BRUSSELS = DayWeather(12.3, 21.5, 63.0, 84.0, wind_at_two_metres_ms(2.78, 10.0), 9.25)


def test_the_papers_examples_come_out_as_printed() -> None:
    # FAO 56, from memory: examples 3, 8, 14, 18 and 20
    assert (saturation_kpa(15.0) + saturation_kpa(24.5)) / 2.0 == pytest.approx(2.39, abs=0.005)
    assert extraterrestrial_mjm2(-20.0, date(2015, 9, 3)) == pytest.approx(32.2, abs=0.05)
    assert wind_at_two_metres_ms(3.2, 10.0) == pytest.approx(2.4, abs=0.05)
    assert penman_monteith_mm(BRUSSELS, 50.80, 100.0, date(2015, 7, 6)) == pytest.approx(3.88, abs=0.005)
    assert hargreaves_mm(14.8, 26.6, 45.72, date(2015, 7, 15)) == pytest.approx(5.03, abs=0.005)


@given(
    st.floats(-5, 25), st.floats(1, 18), st.floats(20, 60), st.floats(5, 40), st.floats(0.5, 8), st.floats(0.1, 0.95),
    st.floats(-55, 55), st.floats(0, 2000), st.integers(1, 365),
)  # fmt: skip
def test_it_agrees_with_an_independent_library(
    least: float, spread: float, dry: float, moister: float, wind: float, sun: float, latitude: float,
    altitude: float, number: int,
) -> None:  # fmt: skip
    day = date.fromordinal(date(2015, 1, 1).toordinal() + number - 1)
    hours = (
        sun
        * 24.0
        / np.pi
        * np.arccos(-np.tan(np.radians(latitude)) * np.tan(0.409 * np.sin(2 * np.pi / 365 * number - 1.39)))
    )
    weather = DayWeather(least, least + spread, dry, min(100.0, dry + moister), wind, float(hours))
    vapour = (saturation_kpa(least) * weather.most_humidity_percent + saturation_kpa(least + spread) * dry) / 200.0
    solar = (0.25 + 0.5 * sun) * extraterrestrial_mjm2(latitude, day)
    library = refet.Daily(
        tmin=least, tmax=least + spread, ea=vapour, rs=solar, uz=wind, zw=2.0, elev=altitude, lat=latitude,
        doy=number, method="asce",
    ).eto()  # fmt: skip
    assert penman_monteith_mm(weather, latitude, altitude, day) == pytest.approx(float(library[0]), abs=0.06, rel=0.01)


@pytest.mark.parametrize(("least", "most", "latitude"), [(20, 10, 45), (10, 20, 80), (float("nan"), 20, 45)])
def test_a_day_that_cannot_be_is_refused(least: float, most: float, latitude: float) -> None:
    with pytest.raises(OutOfRange):
        hargreaves_mm(least, most, latitude, date(2026, 7, 1))
