"""What one animal of a herd drinks in a day: by table, equation or guide, beside common practice."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate

from leadsman.core.base.errors import OutOfRange, UnknownName, require_between
from leadsman.core.catalogue.livestock import (
    Animal,
    IntakeRow,
    WeightRule,
    animals,
    equation_rows,
    intake_rows,
    weight_rules,
)
from leadsman.core.farm.intake import COLDEST_C, HOTTEST_C, cow_dry_matter_kgd, holter_urban_dry, meyer, murphy

HUMID_FROM_C, HUMID_SHARE = 25.0, 0.10  # our own allowance for a humid day in heat, no source
USUAL_SODIUM_GD = 40.0  # a default, typical, from memory
USUAL_FEED_DRY_PERCENT, USUAL_PROTEIN_PERCENT = 50.0, 13.0  # defaults, typical, from memory
USUAL_MILK_KGD = 25.0  # of a dairy cow in milk of which nothing is said; a default, typical, from memory
METABOLIC = 0.75  # Kleiber 1932, from memory: what an animal turns over goes with its weight to this power
LIGHTEST_CATTLE_KG, HEAVIEST_CATTLE_KG = 30.0, 1_200.0  # from a calf at foot to the heaviest bull
HEAT_LIKE = "growing cattle"  # the table that has the most temperatures
CALF_KG = 100.0  # of a calf at foot; ours, no source
DRY_COW_FROM_C = 10.0  # above it a dry cow's demand rises in heat; ours, no source


@dataclass(frozen=True, kw_only=True)
class Published:
    """Daily intake of one animal [L/d] as published.

    `beyond` where it is carried on above the hottest figure, `scaled` where it is to another weight than published.
    """

    litres_per_day: float
    beyond: bool
    source_id: str
    note: str
    scaled: bool = False


@dataclass(frozen=True, kw_only=True)
class Intake:
    """What to plan on for one animal [L/d]: the larger of what is published for its class and a guide's rule by weight.

    `by_weight_lpd` is what that rule gives in this heat, None where none is for the class; `humid_lpd` what is added on
    a humid day. `weight_kg` and `milk_kgd` are what it is counted for, the second None for a class of which no yield is
    counted.
    """

    planned_lpd: float
    published: Published
    by_weight_lpd: float | None
    by_weight_rule: WeightRule | None
    humid_lpd: float
    counts_feed_water: bool
    weight_kg: float
    milk_kgd: float | None


@dataclass(frozen=True, kw_only=True)
class Condition:
    """What moves an animal's intake beside its class: weight [kg], milk [kg/d], dry matter of its feed [%].

    Where weight or milk are None, what is usual for the class is taken.
    """

    weight_kg: float | None = None
    milk_kgd: float | None = None
    feed_dry_percent: float = USUAL_FEED_DRY_PERCENT


def daily_intake(animal: str, condition: Condition, air_c: float, *, humid: bool = False, path: str = "") -> Intake:
    """Return what to plan on for one animal in a day; never less in heat.

    Args:
        animal: class, as `animals` lists them.
        air_c: temperature of the air [°C], −40 to 50.
        humid: a humid day: a tenth more from 25 °C upwards.
        path: JSON pointer of the herd, for the error.
    Raises:
        UnknownName: no such class.
        OutOfRange: weight, milk or temperature outside its limits: cattle of 30 to 1,200 kg.
    """
    if animal not in animals():
        raise UnknownName("class of animal", animal, list(animals()), f"{path}/class")
    kind = animals()[animal]
    require_between("air temperature [°C]", air_c, COLDEST_C, HOTTEST_C)
    weight = kind.usual_kg if condition.weight_kg is None else condition.weight_kg
    if kind.species == "cattle" and not LIGHTEST_CATTLE_KG <= weight <= HEAVIEST_CATTLE_KG:
        raise OutOfRange("weight_kg", weight, LIGHTEST_CATTLE_KG, HEAVIEST_CATTLE_KG, f"{path}/weight_kg")
    milk = _milk_kgd(kind, condition)
    found = _published(kind, weight, milk or 0.0, condition.feed_dry_percent, air_c)
    published = max(found, key=lambda intake: intake.litres_per_day)
    rules = [rule for rule in weight_rules() if rule.animal == animal and rule.from_c <= air_c]
    rule = max(rules, key=lambda one: one.litres_per_kg, default=None)
    by_weight = rule.litres_per_kg * weight if rule else None
    planned = max(published.litres_per_day, by_weight or 0.0)
    with_humid = planned * (1.0 + HUMID_SHARE) if humid and air_c >= HUMID_FROM_C else planned
    return Intake(
        planned_lpd=with_humid,
        published=published,
        by_weight_lpd=by_weight,
        by_weight_rule=rule,
        humid_lpd=with_humid - planned,
        counts_feed_water=kind.counts_feed_water,
        weight_kg=weight,
        milk_kgd=milk,
    )


def calf_lpd(air_c: float) -> float:
    """Return what a calf at foot drinks of water beside its milk, to plan on [L/d].

    Source: the table of growing cattle, scaled to a calf of 100 kg: our own rule, on the larger side.
    >>> round(calf_lpd(21.1), 1)
    14.0
    """
    return daily_intake(HEAT_LIKE, Condition(weight_kg=CALF_KG), air_c).planned_lpd


def _milk_kgd(kind: Animal, condition: Condition) -> float | None:
    """Return the milk that is counted [kg/d]: what is said, else what is usual; None where none is counted."""
    if kind.way != "equation":
        return None
    usual = USUAL_MILK_KGD if kind.gives_milk else 0.0
    return usual if condition.milk_kgd is None else condition.milk_kgd


def _published(kind: Animal, weight_kg: float, milk_kgd: float, dry_percent: float, air_c: float) -> list[Published]:
    """Return what is published for the class; where there are two equations, both."""
    match kind.way:
        case "table":
            return [_by_table(kind, weight_kg, air_c)]
        case "guide":
            rise = (kind.high_lpd - kind.low_lpd) / (kind.high_c - kind.low_c)
            litres = kind.low_lpd + rise * max(0.0, air_c - kind.low_c)
            return [
                Published(
                    litres_per_day=litres * (weight_kg / kind.usual_kg) ** METABOLIC,
                    beyond=air_c > kind.high_c,
                    scaled=weight_kg != kind.usual_kg,
                    source_id=kind.source_id,
                    note=f"{kind.locator}; {kind.note}",
                )
            ]
        case "equation":
            rows = [row for row in equation_rows() if row.animal == kind.name]
            return [
                Published(
                    litres_per_day=_by_equation(row.equation, weight_kg, milk_kgd, dry_percent, air_c),
                    beyond=False,
                    source_id=row.source_id,
                    note=row.note,
                )
                for row in rows
            ]


def _by_equation(equation: str, weight_kg: float, milk_kgd: float, dry_percent: float, air_c: float) -> float:
    eaten = cow_dry_matter_kgd(weight_kg, milk_kgd)
    match equation:
        case "murphy":  # the day's least temperature is not known: the day's own errs on the larger side
            return murphy(eaten, milk_kgd, USUAL_SODIUM_GD, air_c)
        case "meyer":
            return meyer(air_c, milk_kgd, weight_kg, USUAL_SODIUM_GD)
        case "holter_urban_dry":  # it knows no heat: beside it, what heat does to the cattle of the table
            return holter_urban_dry(dry_percent, eaten, USUAL_PROTEIN_PERCENT) * _heat_share(air_c)
    raise UnknownName("equation", equation, [row.equation for row in equation_rows()])


def _heat_share(air_c: float) -> float:
    """Return how many times as much cattle of the table drink in a heat as at 10 °C [-], 1 or more; our own rule."""
    table = animals()[HEAT_LIKE]
    cool, hot = (_by_table(table, table.usual_kg, air).litres_per_day for air in (DRY_COW_FROM_C, air_c))
    return max(1.0, hot / cool)


def _by_table(kind: Animal, weight_kg: float, air_c: float) -> Published:
    """Read the table: straight lines between rows of weight and of temperature.

    Each row counts for every hotter one too; colder than the first counts as the first; hotter than the last is
    carried on at the steepest rise of the table and marked. A weight outside the class's rows is scaled from the
    nearest by metabolic weight and marked.
    """
    rows = [row for row in intake_rows() if row.animal == kind.name]
    weights = sorted({row.weight_kg for row in rows})
    nearest = min(max(weight_kg, weights[0]), weights[-1])
    by_weight = [_at_temperature([row for row in rows if row.weight_kg == weight], air_c) for weight in weights]
    litres = interpolated(nearest, weights, by_weight) * (weight_kg / nearest) ** METABOLIC
    return Published(
        litres_per_day=litres,
        scaled=weight_kg != nearest,
        beyond=air_c > max(row.air_c for row in rows),
        source_id=rows[0].source_id,
        note=rows[0].note,
    )


def _at_temperature(rows: list[IntakeRow], air_c: float) -> float:
    temperatures = [row.air_c for row in rows]
    litres = list(accumulate((row.intake_lpd for row in rows), max))
    if air_c <= temperatures[-1]:
        return interpolated(air_c, temperatures, litres)
    rises = [(litres[i] - litres[i - 1]) / (temperatures[i] - temperatures[i - 1]) for i in range(1, len(litres))]
    return litres[-1] + max(rises) * (air_c - temperatures[-1])


def interpolated(x: float, xs: Sequence[float], ys: Sequence[float]) -> float:
    """Return y at x on straight lines between points whose x rise; the end values hold beyond the ends.

    >>> interpolated(15.0, [10.0, 20.0], [30.0, 50.0])
    40.0
    """
    if x <= xs[0] or len(xs) == 1:
        return ys[0]
    if x >= xs[-1]:
        return ys[-1]
    upper = bisect_right(xs, x)
    share = (x - xs[upper - 1]) / (xs[upper] - xs[upper - 1])
    return ys[upper - 1] + share * (ys[upper] - ys[upper - 1])
