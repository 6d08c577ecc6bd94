"""What herds, plants and ponds need on each day of a weather, by the grazing calendar."""

from collections.abc import Callable
from datetime import date, timedelta
from functools import partial

import numpy as np

from leadsman.core.base.array import Floats
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.units import LITRE_M3
from leadsman.core.design import Crop, Design, Herd, Scenario
from leadsman.core.farm.daily_weather import DailyWeather
from leadsman.core.farm.demand import per_head_lpd
from leadsman.core.farm.evapotranspiration import hargreaves_series_mm
from leadsman.core.farm.grazing import outlets_on, stops_of
from leadsman.core.farm.growing import DRIP_SHARE, other_demands
from leadsman.core.farm.herd import calf_lpd
from leadsman.core.farm.intake import COLDEST_C, HOTTEST_C
from leadsman.core.farm.moving import movings

STEP_C = 0.1  # temperatures are told to a tenth of a degree


Serves = Callable[[str], bool]


def season_demand_m3(
    design: Design, weather: DailyWeather, flows_lpm: dict[str, float], serves: Serves | None = None
) -> Floats:
    """Return what is needed on each day [m3], shape (days,): of animals by the day's greatest heat.

    Args:
        flows_lpm: what each outlet gives [L/min], for crops that are watered by the minute.
        serves: whether what is needed at an outlet or a vessel counts, by its id; all does where None.
    Raises: as `herd_demands` and `other_demands` do.
    Source: heads times litres each, day by day; of all else as `other_demands`.
    >>> from leadsman.core.design import Site, Weather
    >>> from leadsman.core.farm.daily_weather import daily_weather
    >>> geese = Herd.model_validate({"id": "h", "class": "geese", "head": 30, "outlet": "o", "intake_lpd": 1.5})
    >>> weather = daily_weather(Weather.model_validate({"from": "2031-05-01", "rain_mm": [0.0, 4.0]}))
    >>> farm = Design.model_construct(herds=[geese], site=Site(name="Tamsel Ridge"))
    >>> season_demand_m3(farm, weather, {}).round(6).tolist()
    [0.045, 0.045]
    """
    litres = np.zeros(weather.days)
    for index, herd in enumerate(design.herds):
        here = _share_here(design, herd, weather, serves)
        if np.any(here):
            litres += here * _heads(herd, weather) * _per_head_l(herd, weather, f"/herds/{index}")
        if herd.calves:
            litres += here * herd.calves * _in_heat(weather, calf_lpd)
    return np.asarray((litres + _others_l(design, weather, flows_lpm, serves)) * LITRE_M3)


def needed_at_some_time(design: Design) -> set[str]:
    """Return the outlets and vessels at which something is needed on some day: where herds go, plants and ponds are."""
    stops = {stop.outlet for rotation in design.calendar for stop in stops_of(design, rotation)}
    stops |= {herd.outlet for herd in design.herds} | {crop.outlet for crop in design.crops}
    return stops | {pond.vessel for pond in design.ponds}


def _share_here(design: Design, herd: Herd, weather: DailyWeather, serves: Serves | None) -> Floats:
    """Return which share of the places where a herd drinks on each day count [-]."""
    if serves is None:
        return np.ones(weather.days)
    if not any(rotation.herd == herd.id for rotation in design.calendar):
        return np.full(weather.days, float(serves(herd.outlet)))
    days = (weather.day(number).isoformat() for number in range(weather.days))
    stops = [outlets_on(design, herd, day) for day in days]
    return np.array([sum(serves(outlet) for outlet in here) / len(here) for here in stops])


def _heads(herd: Herd, weather: DailyWeather) -> Floats:
    return _stepped(float(herd.head), [(count.from_, float(count.head)) for count in herd.counts], weather)


def _stepped(first: float, steps: list[tuple[str, float]], weather: DailyWeather) -> Floats:
    """Return a figure that changes from days on, for each day."""
    values = np.full(weather.days, first)
    for since, value in steps:
        values[max((date.fromisoformat(since) - weather.first).days, 0) :] = value
    return values


def _per_head_l(herd: Herd, weather: DailyWeather, path: str) -> Floats:
    """Return what one animal drinks on each day [L]."""
    return _in_heat(weather, partial(per_head_lpd, herd, path=path))


def _in_heat(weather: DailyWeather, litres_of: Callable[[float], float]) -> Floats:
    """Return litres that go with a day's heat [°C] for each day; each temperature that comes is asked about once."""
    steps, which = np.unique(np.round(weather.most_c / STEP_C).astype(int), return_inverse=True)
    airs_c = np.clip(steps * STEP_C, COLDEST_C, HOTTEST_C).tolist()
    return np.array([litres_of(air_c) for air_c in airs_c])[which]


def _others_l(design: Design, weather: DailyWeather, flows_lpm: dict[str, float], serves: Serves | None) -> Floats:
    """Return what plants and ponds need and carried troughs throw away on each day [L]."""
    counts = serves or (lambda _: True)
    crops = [crop for crop in design.crops if counts(crop.outlet)]
    steady = [crop for crop in crops if not crop.over_season and crop.area_m2 is None]
    ponds = [loss for loss in design.ponds if counts(loss.vessel)]
    still = design.model_copy(update={"crops": steady, "ponds": ponds, "calendar": []})
    each_day = sum((demand.daily_l for demand in other_demands(still, Scenario(id="day"), flows_lpm)), 0.0)
    litres = np.full(weather.days, each_day)
    for crop in crops:
        if crop.over_season and crop.plants is not None:
            steps = [(step.from_, step.litres_each_lpd) for step in crop.over_season]
            litres += crop.plants * _stepped(crop.litres_each_lpd or 0.0, steps, weather)
        elif crop.area_m2 is not None:
            litres += _by_area_l(design, crop, weather)
    if design.calendar and any(vessel.portable for vessel in design.vessels):
        litres += [
            sum(
                moving.thrown_l
                for moving in movings(design, (weather.first + timedelta(days=number)).isoformat())
                if counts(moving.outlet)
            )
            for number in range(weather.days)
        ]
    return litres


def _by_area_l(design: Design, crop: Crop, weather: DailyWeather) -> Floats:
    """Return what a crop needs by its area and each day's temperatures [L]."""
    if design.site.latitude_deg is None:
        raise OutOfRange("latitude of the site [degrees]", float("nan"), -66.0, 66.0, "/site/latitude_deg")
    et0 = hargreaves_series_mm(weather.least_c, weather.most_c, design.site.latitude_deg, weather.year_day)
    area, factor = crop.area_m2 or 0.0, crop.crop_factor or 0.0
    return et0 * factor * area / (crop.applied_share or DRIP_SHARE)
