"""The livestock tables hang together, and what is planned lies within what people see."""

import pytest

from leadsman.core.base.errors import OutOfRange
from leadsman.core.catalogue.livestock import animals, equation_rows, intake_rows, weight_rules
from leadsman.core.farm.herd import Condition, daily_intake
from leadsman.core.farm.intake import cow_dry_matter_kgd, holter_urban_dry, meyer, murphy

GUIDES = [name for name, animal in animals().items() if animal.way == "guide"]


def test_every_class_has_what_its_way_needs_and_only_that() -> None:
    tabled, equated = {row.animal for row in intake_rows()}, {row.animal for row in equation_rows()}
    for name, animal in animals().items():
        assert (animal.way == "table") is (name in tabled)
        assert (animal.way == "equation") is (name in equated)
        if animal.way == "guide":
            assert 0.0 < animal.low_lpd <= animal.high_lpd
            assert animal.low_c < animal.high_c
        assert 0.0 < animal.rim_m < 1.5
        assert 0.0 < animal.drinks_m3s * 60_000 <= 20.0
    assert {rule.animal for rule in weight_rules()} <= set(animals())
    # 1 and 2 US gal for each 100 lb
    assert {round(rule.litres_per_kg, 3) for rule in weight_rules()} == {
        round(gallons * 3.785411784 / 45.359237, 3) for gallons in (1, 2)
    }


@pytest.mark.parametrize(
    ("animal", "condition", "air_c", "low", "high"),
    [  # bounds of what is seen: common practice, no source, and guides from memory
        ("lactating cow", Condition(weight_kg=550.0), 33.0, 76.0, 114.0),
        ("pregnant cow", Condition(weight_kg=409.0), 2.0, 30.0, 38.0),
        ("goat dry", Condition(), 20.0, 3.0, 8.0),
        ("goat in milk", Condition(), 20.0, 8.0, 15.0),
        ("ewe dry", Condition(), 20.0, 4.0, 8.0),
        ("pig weaner", Condition(), 20.0, 1.0, 3.0),
        ("pig grower", Condition(), 20.0, 3.0, 6.0),
        ("pig finisher", Condition(), 20.0, 6.0, 10.0),
        ("sow dry", Condition(), 20.0, 10.0, 20.0),
        ("sow in milk", Condition(), 20.0, 20.0, 40.0),
        ("boar", Condition(), 20.0, 10.0, 17.0),
        ("laying hen", Condition(), 20.0, 0.2, 0.25),
        ("duck", Condition(), 20.0, 0.5, 1.0),
        ("dairy cow in milk", Condition(weight_kg=600.0, milk_kgd=30.0), 15.0, 70.0, 120.0),
        ("dairy cow dry", Condition(weight_kg=600.0), 15.0, 25.0, 60.0),
    ],
)
def test_what_is_planned_lies_within_what_people_see(
    animal: str, condition: Condition, air_c: float, low: float, high: float
) -> None:
    assert low <= daily_intake(animal, condition, air_c).planned_lpd <= high


@pytest.mark.parametrize("animal", GUIDES)
def test_a_guide_runs_straight_between_its_ends_and_is_marked_beyond(animal: str) -> None:
    kind = animals()[animal]
    middle = daily_intake(animal, Condition(), (kind.low_c + kind.high_c) / 2.0).published
    assert middle.litres_per_day == pytest.approx((kind.low_lpd + kind.high_lpd) / 2.0)
    assert not middle.beyond
    cold, hot = (daily_intake(animal, Condition(), air).published for air in (-20.0, kind.high_c + 5.0))
    assert cold.litres_per_day == kind.low_lpd
    assert hot.beyond
    assert hot.litres_per_day > kind.high_lpd
    assert not daily_intake(animal, Condition(), 20.0).counts_feed_water


def test_the_equations_give_their_papers_examples() -> None:
    # from memory of the papers named in each function
    assert murphy(20, 30, 40, 15) == pytest.approx(94.59, abs=0.005)
    assert meyer(15, 30, 600, 40) == pytest.approx(86.63, abs=0.005)
    assert holter_urban_dry(50, 10, 13) == pytest.approx(29.93, abs=0.005)
    assert cow_dry_matter_kgd(600, 30) == pytest.approx(18.0)
    assert meyer(-30, 0, 100, 0) == 0.0  # never less than nothing


@pytest.mark.parametrize(
    "call",
    [
        lambda: murphy(-1, 30, 40, 15), lambda: murphy(20, 300, 40, 15), lambda: murphy(20, 30, float("nan"), 15),
        lambda: meyer(60, 30, 600, 40), lambda: meyer(15, 30, 9000, 40), lambda: holter_urban_dry(120, 10, 13),
        lambda: holter_urban_dry(50, 10, 90), lambda: daily_intake("horse", Condition(), 51.0),
    ],
)  # fmt: skip
def test_figures_that_no_cow_has_are_refused(call: object) -> None:
    with pytest.raises(OutOfRange):
        call()  # type: ignore[operator]


def test_wetter_feed_and_more_milk_move_the_demand_as_they_should() -> None:
    wet, dry = (
        daily_intake(
            "dairy cow dry", Condition(weight_kg=600.0, milk_kgd=0.0, feed_dry_percent=share), 15.0
        ).planned_lpd
        for share in (20.0, 80.0)
    )
    assert wet < dry
    few, much = (
        daily_intake("dairy cow in milk", Condition(weight_kg=600.0, milk_kgd=milk), 15.0).planned_lpd
        for milk in (5.0, 45.0)
    )
    assert few < much
