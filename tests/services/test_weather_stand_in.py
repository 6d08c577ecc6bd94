"""Made-up weather: seasons by the side of the equator."""

from datetime import date

import numpy as np
import pytest

from leadsman.services.weather import Climate
from leadsman.standins.weather import CLIMATES, daily_series


@pytest.mark.parametrize("climate", list(CLIMATES))
def test_south_of_the_equator_the_seasons_are_half_a_year_on(climate: Climate) -> None:
    means = {}
    for southern in (False, True):
        series = daily_series(climate, date(2031, 1, 1), 4, 7, southern=southern)
        month = np.array(
            [day.astype(object).month for day in np.datetime64(series.first) + np.arange(len(series.most_c))]
        )
        means[southern] = [float(np.mean(np.array(series.most_c)[month == number])) for number in (1, 7)]
    assert means[False][1] > means[False][0] + 5.0
    assert means[True][0] > means[True][1] + 5.0
    assert means[True][0] == pytest.approx(means[False][1], abs=2.5)
