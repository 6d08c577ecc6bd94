"""Thirty years by day on a made-up farm, against a plain loop that asks for every herd and source on every day."""

from collections.abc import Iterator
from datetime import date

import numpy as np

from bench.designs import tree
from bench.measure import Result, at_least, at_most, median_s
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import DAY_S, LITRE_M3
from leadsman.core.design import Design, RainInflow, Scenario, SpringInflow
from leadsman.core.design.file import read_design, write_design
from leadsman.core.farm.daily_weather import DailyWeather
from leadsman.core.farm.demand import per_head_lpd
from leadsman.core.farm.inflow import daily_m3
from leadsman.core.farm.rain import plan_area_m2
from leadsman.core.farm.spring import flow_through_year_m3s
from leadsman.core.farm.supply import StoreSeason
from leadsman.standins.weather import daily_series

FIRST = date(1995, 1, 1)
HERDS = {"growing cattle": 300, "lactating cow": 409, "ewe in milk": 60, "horse": 500, "goat in milk": 60, "goose": 5}


def farm(years: int) -> Design:
    """Return six herds, four sources and five tanks in a chain, with made-up weather of some years."""
    document = write_design(tree(24, 6))
    tank = document["vessels"][0]
    for number in range(1, 5):
        document["vessels"].append({**tank, "id": f"tank{number}"})
        link = {"id": f"link{number}", "from": f"tank{number}", "to": "tank" if number == 1 else f"tank{number - 1}"}
        document["lines"].append({**link, "length_m": 4.0, "bore_mm": 40.0, "roughness_mm": 0.01})
    document["herds"] = [
        {"id": f"h{i}", "class": animal, "head": 10 + 5 * i, "weight_kg": kg, "outlet": outlet["id"]}
        for i, ((animal, kg), outlet) in enumerate(zip(HERDS.items(), document["outlets"], strict=True))
    ]
    timed = (("2020-03-01", 200), ("2020-09-01", 420))
    dated = [{"volume_l": 10, "time_s": seconds, "date": day} for day, seconds in timed]
    document["inflows"] = [
        {"id": "spring", "kind": "spring", "fills": "tank", "timings": dated},
        {"id": "roof", "kind": "rain", "fills": "tank1", "area_m2": 220, "first_flush_l": 90},
        {"id": "well", "kind": "pump", "fills": "tank2", "flow_lpm": 12, "hours_per_day": 3},
        {"id": "haul", "kind": "haul", "fills": "tank3", "trip_l": 900, "trip_min": 40, "trips_per_week": 2},
    ]
    series = daily_series("mild lowland", FIRST, years, 5)
    weather = {"from": FIRST.isoformat(), "rain_mm": series.rain_mm, "most_c": series.most_c, "least_c": series.least_c}
    return read_design({**document, "season": {"weather": weather}})


def results(years: int = 30) -> Iterator[Result]:
    """Yield how much longer the plain loop takes over the same days, whether both agree, and the time of the curve."""
    design = farm(years)
    found: list[StoreSeason] = []

    def season() -> None:
        analysis = Analysis(design)
        analysis.__dict__["_solved"] = solved
        made = analysis.store_season
        assert made is not None
        assert made.cautious.days_share[0] >= 0.0
        found[:] = [made]

    solved = Analysis(design)._solved
    taken = median_s(season, 5)
    weather = found[0].weather
    volumes: list[float] = []

    def loop() -> None:
        volumes[:] = plain_loop(design, weather, found[0].capacity_m3, found[0].start_m3)

    slower = median_s(loop, 3) / taken
    apart = float(np.abs(np.array(volumes) - found[0].cautious.volumes_m3[:, 0]).max())
    curve = median_s(lambda: found[0]._shares(found[0].sizes_m3), 3)
    note = f"{years} years in {taken * 1e3:.0f} ms; aims 100 ms and 50"
    yield at_least("season: a plain loop over the same days over ours", slower, 12.0, note)
    yield at_most("season: volumes of the two [m3]", apart, 1e-9)
    yield Result("season: a curve of 40 sizes [ms]", curve * 1e3, note="aim 1,000")


def plain_loop(design: Design, weather: DailyWeather, capacity_m3: float, start_m3: float) -> list[float]:
    """Return the store's volume at each day's end [m3], everything asked for day by day."""
    volume, volumes, wet, case = start_m3, [], False, Scenario(id="day")
    for day in range(weather.days):
        air_c = min(max(round(float(weather.most_c[day]) * 10.0) / 10.0, -40.0), 50.0)
        demand = sum(herd.head * per_head_lpd(herd, air_c) for herd in design.herds) * LITRE_M3
        rain, come = float(weather.rain_mm[day]), 0.0
        for inflow in design.inflows:
            if isinstance(inflow, RainInflow):
                ran = max(rain - inflow.first_loss_mm, 0.0) / 1000.0 * plan_area_m2(inflow) * inflow.coefficient
                come += ran if wet else max(ran - inflow.first_flush_l * LITRE_M3, 0.0)
            elif isinstance(inflow, SpringInflow):
                come += float(flow_through_year_m3s(inflow, weather.year_day[day : day + 1])[0]) * DAY_S
            else:
                come += daily_m3(inflow, case)
        wet = rain >= 0.1
        volume = min(volume + come, capacity_m3) - min(volume, demand)
        volumes.append(volume)
    return volumes
