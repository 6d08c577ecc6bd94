"""The invented hill farm Tamsel Ridge: demonstration data, all of it made up."""

import json
from datetime import date
from importlib.resources import files

from leadsman.core.design import Design
from leadsman.core.design.change import patched
from leadsman.core.design.file import read_design
from leadsman.core.survey.relief import Relief, mesh_over, relief_over
from leadsman.standins.hill import heights_on_plan_m
from leadsman.standins.weather import daily_series

FIRST_DAY, SEED = date(2026, 1, 1), 26


def tamsel_ridge() -> Design:
    """Return the demonstration design: the ridge's lines, and a year of made-up weather with a hot spell."""
    document = json.loads((files("leadsman.demo") / "tamsel-ridge.json").read_bytes())
    year = daily_series("mild lowland", FIRST_DAY, 1, SEED, hot_spell_year=1)
    weather = {
        "from": FIRST_DAY.isoformat(),
        "rain_mm": year.rain_mm,
        "most_c": year.most_c,
        "least_c": year.least_c,
        "source": f"made up: mild lowland, 1 year with a hot spell, seed {SEED}",
    }
    return read_design({**document, "season": {"weather": weather}})


def tamsel_ridge_in_winter(design: Design) -> Design:
    """Return the demonstration design as it goes through a frost: its lines drained, its weir box lagged."""
    return patched(design, json.loads((files("leadsman.demo") / "winter.json").read_bytes()))


def tamsel_relief(design: Design) -> Relief:
    """Return the made-up hill under the demonstration design as a height model."""
    west, south, step, spots = mesh_over(design)
    heights = heights_on_plan_m(spots.reshape(-1, 2)).reshape(spots.shape[:2])
    return relief_over(design, (west, south), step, heights, "made up: the invented hill of Tamsel Ridge")
