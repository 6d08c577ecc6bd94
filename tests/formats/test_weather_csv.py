"""Daily weather from tables: what is read, and what is refused with its line."""

import csv
import io

import pytest

from leadsman.core.base.fault import DesignFaults
from leadsman.formats.weather_csv import read_weather_csv

PLAIN = "date,rain_mm,max_c,min_c\n2026-05-01,0,18.5,6\n2026-05-02,4.2,15,7.5\n"


@pytest.mark.parametrize(
    "text",
    [
        PLAIN,
        "\ufeffDate;Rain;TMAX_C;TMIN_C\r\n2026-05-01;0;18,5;6\r\n2026-05-02;4,2;15;7,5\r\n",
        "min_c\tdate\train_mm\tmax_c\n6\t2026-05-01\t0\t18.5\n7.5\t2026-05-02\t4.2\t15\n\n",
    ],
    ids=["commas", "semicolons and decimal commas", "tabs in another order"],
)
def test_tables_in_several_forms_are_the_same_weather(text: str) -> None:
    weather = read_weather_csv(text, "gauge")
    assert (weather.from_, weather.source) == ("2026-05-01", "gauge")
    assert (weather.rain_mm, weather.most_c, weather.least_c) == ([0.0, 4.2], [18.5, 15.0], [6.0, 7.5])


def test_rain_alone_is_enough() -> None:
    out = io.StringIO()
    csv.writer(out).writerows([["day", "rain"], ["2026-05-01", 3], ["2026-05-02", 0]])
    assert read_weather_csv(out.getvalue()).rain_mm == [3.0, 0.0]


@pytest.mark.parametrize(
    ("text", "where", "found"),
    [
        ("", "", "nothing"),
        ("date,temp\n2026-05-01,3\n", "line 1", "date, temp"),
        ("date,rain\n", "line 2", "nothing"),
        ("date,rain\n01/05/2026,3\n", "line 2", "01/05/2026"),
        ("date,rain\n2026-05-01,3\n2026-05-03,1\n", "line 3", "2026-05-03"),
        ("date,rain\n2026-05-01,wet\n", "line 2", "wet"),
        ("date,rain\n2026-05-01\n", "line 2", ""),
        ("date,rain\n2026-05-01,-3\n", "/rain_mm/0", "-3.0"),
        ("date,rain\n2026-05-01,nan\n", "/rain_mm/0", "nan"),
    ],
)
def test_a_table_with_a_fault_is_refused_with_its_line(text: str, where: str, found: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_weather_csv(text)
    first = refused.value.faults[0]
    assert (first.path, first.found) == (where, found)
