"""Doses: exact measures, the water that is there, strength day by day by another way of working it out."""

from fractions import Fraction
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pint import UnitRegistry
from scipy.integrate import solve_ivp

from leadsman.core.base.errors import OutOfRange, UnknownName
from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.measures import GRAMS, METRIC_SPOONS, MILLILITRES, US_SPOONS, in_base, spoons
from leadsman.core.findings.registry import judge
from leadsman.core.growing.dosing import Dose, doses
from leadsman.core.growing.mixing import mixed_to
from leadsman.core.growing.strength import PotWater, dose_that_keeps, dosed_pot
from leadsman.core.report.dosing import mixed_report
from systems import farm, judged, line

PINT = {
    "tsp": "teaspoon", "tbsp": "tablespoon", "fl oz": "fluid_ounce", "cup": "cup", "pint": "pint", "quart": "quart",
    "gallon": "gallon", "mL": "milliliter", "L": "liter", "g": "gram", "kg": "kilogram", "oz": "ounce", "lb": "pound",
}  # fmt: skip


@pytest.mark.parametrize("measure", sorted(PINT))
def test_measures_are_exact(measure: str) -> None:
    registry: Any = UnitRegistry(non_int_type=Fraction)
    base = "gram" if measure in GRAMS else "milliliter"
    told = (1 * registry.Unit(PINT[measure])).to(base).magnitude
    assert {**MILLILITRES, **GRAMS}[measure] == pytest.approx(float(told), rel=1e-12)


@pytest.mark.parametrize(
    ("teaspoons", "found"),
    [
        (20, [(6.0, "tbsp"), (2.0, "tsp")]),  # ten times two teaspoons: 0.417 of a cup, and not 0.6
        (48, [(1.0, "cup")]),
        (15, [(5.0, "tbsp")]),  # ten times one and a half: 0.3125 of a cup, and not half
        (1.5, [(1.5, "tsp")]),
        (0.1, []),
    ],
)
def test_spoons_add_up_to_the_dose(teaspoons: float, found: list[tuple[float, str]]) -> None:
    assert spoons(in_base(teaspoons, "tsp")) == found


@given(millilitres=st.floats(0.0, 5_000.0), metric=st.booleans())
def test_spoons_are_never_off_by_more_than_an_eighth_of_the_smallest(millilitres: float, metric: bool) -> None:
    measures = METRIC_SPOONS if metric else US_SPOONS
    made = sum(count * float(MILLILITRES[measure]) for count, measure in spoons(millilitres, measures))
    assert abs(made - millilitres) <= float(MILLILITRES[measures[-1]]) / 8 + 1e-9


@pytest.mark.parametrize("seed", range(12))
def test_strength_goes_as_the_mass_balance_says(seed: int) -> None:
    chance = np.random.default_rng(seed)
    pot = PotWater(
        holds_l=chance.uniform(20.0, 900.0), drunk_lpd=chance.uniform(0.0, 90.0), air_lpd=chance.uniform(0.0, 20.0),
        taken_share=chance.uniform(0.0, 1.5),
    )  # fmt: skip
    begins, comes, days = chance.uniform(0.0, 3.0), chance.uniform(0.0, 3.0), chance.uniform(0.0, 30.0)

    def flows(_: float, mass: np.ndarray) -> np.ndarray:
        taken = pot.taken_share * mass / pot.holds_l * pot.drunk_lpd
        return (pot.drunk_lpd + pot.air_lpd) * comes - taken

    run = solve_ivp(flows, (0.0, days), [begins * pot.holds_l], rtol=1e-8, atol=1e-8)
    assert pot.fed(begins, comes, days) == pytest.approx(run.y[0, -1] / pot.holds_l, rel=1e-5)


@pytest.mark.parametrize("every", [1.0, 3.5, 14.0])
def test_a_dosed_pot_settles_into_its_cycle_and_its_mean_is_what_was_asked(every: float) -> None:
    pot = PotWater(holds_l=120.0, drunk_lpd=14.0, air_lpd=2.0, taken_share=0.8)
    strength = 1.0
    for _ in range(400):
        strength = pot.fed(strength, 0.0, every) + 1.0
    cycle = dosed_pot(pot, every, 1.0)
    assert cycle is not None
    assert strength == pytest.approx(cycle.most)
    keeps = dose_that_keeps(pot, every) or 0.0
    held = dosed_pot(pot, every, keeps)
    assert held is not None
    between = [pot.fed(held.most, 0.0, at) for at in np.linspace(0.0, every, 4_001)]
    assert np.trapezoid(between, dx=every / 4_000) / every == pytest.approx(1.0, abs=1e-4)


def test_what_nothing_takes_from_grows_for_ever_and_nonsense_is_refused() -> None:
    pot = PotWater(holds_l=100.0, drunk_lpd=10.0, air_lpd=1.0, taken_share=0.0)
    assert dosed_pot(pot, 7.0, 1.0) is None
    assert dose_that_keeps(pot, 7.0) is None
    assert pot.fed(1.0, 1.0, 10.0) == pytest.approx(1.0 + 11.0 / 100.0 * 10.0)
    for refused in (
        lambda: pot.fed(-1.0, 1.0, 1.0),
        lambda: dosed_pot(pot, 0.0, 1.0),
        lambda: dosed_pot(pot, 7.0, 0.0),
    ):
        with pytest.raises(OutOfRange):
            refused()


DOSING = {"id": "feed", "vessel": "a", "amount": 2.0, "measure": "tsp", "per_l": 20.0}


def grown(dosing: dict[str, Any], need_lpd: float = 20.0, **changes: Any) -> dict[str, Any]:
    """A tank over a row of ten buckets of 20 L, filled to 0.4 m of half a metre."""
    document = farm([line("ax", "a", "x")], {"a": 120.0}, {"x": 100.0})
    document["vessels"].append({
        "id": "row", "place": "at-x", "role": "bucket_row", "count": 10, "level_m": 0.4,
        "shape": {"kind": "upright_cylinder", "diameter_m": 0.25, "height_m": 0.5}})  # fmt: skip
    document["outlets"][0]["fills"] = "row"
    document |= {"herds": [], "crops": [{"id": "plants", "outlet": "x", "litres_lpd": need_lpd}], "dosings": [dosing]}
    return document | changes


def one(document: dict[str, Any]) -> Dose:
    (found,) = doses(judged(document))
    return found


def test_a_dose_is_for_the_water_that_is_there() -> None:
    """3,000 L in the tank: 150 times two teaspoons, in a row of 10 buckets of 19.6 L below a float at 0.4 m."""
    dose = one(grown(DOSING))
    assert dose.water_l == pytest.approx(3_000.0)
    assert dose.amount.base == pytest.approx(300 * 4.92892159375)
    assert dose.amount.us_spoons == [(6.0, "cup"), (4.0, "tbsp")]
    pot = one(grown({**DOSING, "vessel": "row", "into": "pot"}))
    assert pot.water_l == pytest.approx(10 * 1_000 * np.pi / 4 * 0.25**2 * 0.4)
    assert pot.row is not None


def test_both_schools_on_one_row() -> None:
    tank = one(grown(DOSING))
    assert tank.cycle is None
    assert tank.by_day[0] == 1.0
    assert tank.by_day == sorted(tank.by_day)  # plants leave a fifth behind, the air all of it: it grows
    pot = one(grown({**DOSING, "vessel": "row", "into": "pot", "every_days": 7.0}))
    assert pot.cycle is not None
    assert pot.cycle.most - pot.cycle.least == pytest.approx(1.0)
    assert pot.drifts


def test_each_way_is_told_beside_the_other_whichever_is_taken() -> None:
    """By hand: 20 L a day at 2 tsp in 20 L are 14 tsp a week; 196 L of pots are 19.6 tsp every five days."""
    tank, pot = (one(grown({**DOSING, "every_days": 5.0, **into}))
                 for into in ({}, {"vessel": "row", "into": "pot"}))  # fmt: skip
    assert tank.schools == pot.schools
    reservoir, pots = tank.schools
    assert (reservoir.least, reservoir.most) == tank.strengths
    assert (pots.least, pots.most) == pot.strengths
    assert reservoir.dose == tank.amount
    assert pots.dose == pot.amount
    assert reservoir.per_week.base == pytest.approx(14 * 4.92892159375)
    assert pots.per_week.base == pytest.approx(196.35 / 20 * 2 * 7 / 5 * 4.92892159375, rel=1e-3)
    assert one(grown(DOSING, crops=[])).schools == ()
    unused = one(grown({**DOSING, "taken_share": 0.0, "vessel": "row", "into": "pot"})).schools[1]
    assert (unused.least, unused.most) == (None, None)  # nobody takes it: it grows with each dose


@pytest.mark.parametrize(
    ("dosing", "need_lpd", "found"),
    [
        ({**DOSING, "taken_share": 1.0, "air_share": 0.0}, 60.0, False),
        ({**DOSING, "taken_share": 0.72, "air_share": 0.0}, 60.0, True),
        ({**DOSING, "vessel": "row", "into": "pot", "every_days": 14.0}, 60.0, True),
        ({**DOSING, "vessel": "row", "into": "pot", "every_days": 1.0, "share": 0.22}, 60.0, False),
        ({**DOSING, "vessel": "row", "into": "pot", "every_days": 1.0, "share": 0.5}, 60.0, True),
    ],
)
def test_strength_that_strays_is_told_with_what_steadies_it(
    dosing: dict[str, Any], need_lpd: float, found: bool
) -> None:
    told = judge(judged(grown(dosing, need_lpd)), codes=["strength-drifts"])
    assert bool(told) is found
    for finding in told:
        assert [remedy.enough for remedy in finding.remedies] == [True]


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"amount": None}, "/dosings/0/amount"),
        ({"amount": 0.0}, "/dosings/0/amount"),
        ({"measure": "pinch"}, "/dosings/0/measure"),
        ({"per_l": 0.0}, "/dosings/0/per_l"),
        ({"vessel": "gone"}, "/dosings/0/vessel"),
        ({"air_share": 1.0}, "/dosings/0/air_share"),
    ],
)
def test_a_dose_that_cannot_be_is_refused_by_name(change: dict[str, Any], path: str) -> None:
    dosing = {key: value for key, value in {**DOSING, **change}.items() if value is not None}
    with pytest.raises(DesignFaults) as refused:
        judged(grown(dosing))
    assert path in [fault.path for fault in refused.value.faults]


@given(
    water=st.floats(1.0, 5_000.0), room=st.floats(0.0, 5_000.0), now=st.floats(0.0, 3.0), wanted=st.floats(0.05, 3.0)
)
def test_what_is_mixed_has_the_strength_that_was_wanted_or_it_is_said_what_can_be(
    water: float, room: float, now: float, wanted: float
) -> None:
    weakest = now * water / (water + room)
    if wanted < weakest * 0.999999:
        with pytest.raises(OutOfRange, match="allowed is") as refused:
            mixed_to(water, room, now, wanted)
        assert refused.value.low == pytest.approx(weakest)
    elif wanted > weakest * 1.000001:
        mixed = mixed_to(water, room, now, wanted)
        assert (now * water + mixed.dose_for_l) / (water + mixed.plain_l) == pytest.approx(wanted, rel=1e-6)
        assert mixed.plain_l <= room + 1e-6


def test_what_a_recipe_s_water_needs_is_told_in_its_own_measure() -> None:
    document = grown({**DOSING, "measure": "g"})
    told = mixed_report(judged(document), "feed", 0.4, 1.0)
    assert told.plain_l is None
    assert told.dose is not None
    assert told.dose.value == pytest.approx(0.6 * 300.0)
    assert told.dose.unit == "g"
    assert mixed_report(judged(document), "feed", 1.1, 1.0).plain_l == pytest.approx(300.0)
    with pytest.raises(OutOfRange):
        mixed_report(judged(document), "feed", 2.0, 1.0)  # 3,000 L, and 1,000 L of room
    with pytest.raises(UnknownName):
        mixed_report(judged(document), "gone", 1.0, 1.0)


def test_a_level_above_the_brim_is_refused() -> None:
    document = grown(DOSING)
    document["vessels"][0]["level_m"] = 2.5
    with pytest.raises(DesignFaults) as refused:
        judged(document)
    assert [fault.path for fault in refused.value.faults] == ["/vessels/0/level_m"]
