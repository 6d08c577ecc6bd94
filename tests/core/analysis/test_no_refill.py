"""For how long animals have water once every source is lost: by hand, and beside what a store holds over its demand."""

import pytest

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.no_refill import no_refill, with_floats_shut
from leadsman.core.base.units import DAY_S
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import verdict
from leadsman.core.report.workbench import rest_report

# twenty head take 590 L a day, of which a tank of pi m2 gives what stands over its outlet
LITTLE: Document = {"vessels.0.level_m": 0.4, "vessels.0.outlet_m": 0.1, "herds.0.drinking": {"pattern": "near"}}


def lasts_days(changes: Document, wanted_days: float = 9.0) -> float:
    wanted: Document = {"requirements.1.days_in_hand": wanted_days}
    analysis = Analysis(read_design(one_line(**{**changes, **wanted})), over_time=True)
    lasts = analysis.lasts(analysis.systems[0])
    assert lasts is not None
    return lasts.days


def by_hand_days(level_m: float, closes_m: float) -> float:
    """Store and full trough over what is drunk, as if animals drank evenly: they drink by day, to half a day."""
    store = 3.14159265 * (level_m - 0.1)
    trough = 2.0 * 0.5 * (closes_m - 0.0025)
    return (store + trough) / 0.590


@pytest.mark.parametrize("level_m", [0.2, 0.4, 0.7])
def test_it_lasts_as_long_as_tank_and_trough_hold_what_is_drunk(level_m: float) -> None:
    changes = {**LITTLE, "vessels.0.level_m": level_m}
    closes_m = read_design(one_line()).outlets[0].valve.closes_at_m  # type: ignore[union-attr]
    assert lasts_days(changes) == pytest.approx(by_hand_days(level_m, closes_m), abs=0.5)


def test_a_pond_that_is_filled_first_leaves_the_animals_less() -> None:
    """A second float, open and low, takes the tank's water in a few hours: the demand of a day says nothing of it."""
    basin: Document = {
        "places.2": {"id": "low", "east_m": 100, "north_m": 0, "ground_m": 95},
        "vessels.2": {"id": "pond", "role": "pond", "place": "low", "level_m": 0.2,
                      "shape": {"kind": "box", "length_m": 6, "width_m": 3, "height_m": 0.6}},
        "lines.1": {"id": "to-pond", "from": "tank", "to": "pond-tap", "product": "pe100-sdr13.6-32", "length_m": 105},
        "outlets.1": {"id": "pond-tap", "place": "low", "kind": "open_end", "fills": "pond", "height_m": 0.6,
                      "bore_mm": 20},
    }  # fmt: skip
    with_pond = Analysis(read_design(one_line(**{**LITTLE, **basin})), over_time=True)
    held_over_need = with_pond.balance.days_in_hand
    lasts = with_pond.lasts(with_pond.systems[0])
    assert held_over_need is not None
    assert lasts is not None
    assert lasts.days < 0.75 * held_over_need
    assert lasts.first is not None
    assert lasts.first.id == "trough"
    found = next(finding for finding in judge(with_pond) if finding.code == "days-in-hand")
    assert found.value == pytest.approx(lasts.days)
    number = next(number for number in verdict(with_pond, [found]).numbers if number.key == "days")
    assert number.value is not None
    assert number.value.value == pytest.approx(lasts.days)
    report = rest_report(with_pond)
    assert report.lasts is not None
    assert report.lasts.first == "trough"


def test_what_lasts_longer_than_it_was_looked_at_is_said_by_what_the_store_holds() -> None:
    assert lasts_days({}, wanted_days=1.0) == pytest.approx(5.32, abs=0.01)
    assert lasts_days({}, wanted_days=8.0) == pytest.approx(5.32 + 0.5, abs=0.6)  # the trough's own water besides


def test_a_mob_that_empties_its_trough_for_an_hour_is_not_without_refill() -> None:
    mob: Document = {"herds.0.head": 120, "herds.0.drinking": {"pattern": "mob", "within_min": 20, "visits": 1}}
    found = no_refill(read_design(one_line(**mob)), None, 1.0 * DAY_S)
    assert found.first is None


def test_floats_are_shut_at_first_whatever_the_document_says_of_their_vessels() -> None:
    design = with_floats_shut(read_design(one_line()))
    tank, trough = design.vessels
    assert trough.level_m == read_design(one_line()).outlets[0].valve.closes_at_m  # type: ignore[union-attr]
    assert tank.level_m == 1.0
