"""What each failure costs until the next look, and the reserve at each drinker, against a farm worked out by hand."""

from typing import Any

import pytest

from examples import Document
from leadsman.core.analysis.failure_survey import LONGEST_S, Measure, failure_survey
from leadsman.core.analysis.no_refill import no_refill
from leadsman.core.analysis.reserve import reserves
from leadsman.core.base.wording import plain
from leadsman.core.dayrun.run import AS_IT_STANDS
from leadsman.core.design import Design
from leadsman.core.design.change import patched
from leadsman.core.design.file import read_design, write_design
from leadsman.demo import tamsel_ridge

BOX: Document = {"kind": "box", "length_m": 2.0, "width_m": 1.0, "height_m": 1.0}
TROUGH: Document = {"kind": "box", "length_m": 1.0, "width_m": 0.5, "height_m": 0.5}


def farm(look_h: float = 12.0, **changes: Any) -> Design:
    """A tank of 1,600 L that nothing fills; two full troughs below it, one on a thick line, one on a thin one."""
    valve = {"kv_m3h": 1.2, "closes_at_m": 0.4, "band_m": 0.05}
    return read_design(
        {
            "format": "leadsman-design", "version": 1, "name": "Survey",
            "site": {"name": "Tamsel Ridge", "look_every_h": look_h, "currency": "USD"},
            "places": [
                {"id": "top", "east_m": 0, "north_m": 0, "ground_m": 115.0},
                {"id": "near", "east_m": 100, "north_m": 0, "ground_m": 100.0},
                {"id": "far", "east_m": 0, "north_m": 100, "ground_m": 100.0},
            ],
            "vessels": [
                {"id": "tank", "place": "top", "shape": BOX, "level_m": 0.8},
                {"id": "near-trough", "role": "trough", "place": "near", "shape": TROUGH, "level_m": 0.4},
                {"id": "far-trough", "role": "trough", "place": "far", "shape": TROUGH, "level_m": 0.4},
            ],
            "lines": [
                {"id": "thick", "from": "tank", "to": "near", "length_m": 101.0, "product": "pe100-sdr17-32"},
                {"id": "thin", "from": "tank", "to": "far", "length_m": 101.0, "bore_mm": 6.0, "roughness_mm": 0.01},
            ],
            "outlets": [
                {"id": "near-valve", "kind": "float_valve", "place": "near", "fills": "near-trough", "valve": valve},
                {"id": "far-valve", "kind": "float_valve", "place": "far", "fills": "far-trough", "valve": valve},
            ],
            "herds": [
                {"id": "ewes", "class": "ewe in milk", "head": 40, "weight_kg": 70, "intake_lpd": 5.0,
                 "outlet": "near-valve"},
                {"id": "rams", "class": "ewe in milk", "head": 10, "weight_kg": 90, "intake_lpd": 4.0,
                 "outlet": "far-valve"},
            ],
            **changes,
        }
    )  # fmt: skip


def test_a_stuck_valve_loses_what_the_trough_cannot_hold_and_the_thick_line_loses_the_whole_tank() -> None:
    survey = failure_survey(farm(), None)
    cost = {(one.kind, one.where): one.cost for one in survey.failures}
    assert survey.look_s == 12 * 3600.0
    # all of the tank: 1,600 L, less the room above the float in the trough (0.1 m of 0.5 m2) and what is drunk of it
    assert cost["stuck_open", "near-valve"].lost_m3 == pytest.approx(1.6, abs=0.2)
    assert cost["hose_off", "thick"].lost_m3 == pytest.approx(1.6, abs=0.02)
    assert cost["hose_off", "thick"].dry_where == "tank"
    assert cost["stuck_open", "far-valve"].lost_m3 < cost["stuck_open", "near-valve"].lost_m3
    lost = [one.cost for one in survey.failures]
    assert lost == sorted(lost, key=lambda one: (-one.animal_hours, -one.lost_m3))


def test_the_loss_grows_with_the_time_between_looks_until_the_tank_is_empty() -> None:
    lost = [
        next(one.cost.lost_m3 for one in failure_survey(farm(hours), None).failures if one.where == "thin")
        for hours in (1.0, 2.0, 12.0, 72.0)
    ]
    assert lost == sorted(lost)
    assert lost[1] == pytest.approx(2.0 * lost[0], rel=0.05)
    assert lost[-1] == pytest.approx(1.6 - 0.2, abs=0.05)  # the ewes drink for a day before it is empty


def test_a_limiter_keeps_most_of_the_tank_and_a_divided_tank_half_of_it() -> None:
    wanted = [{"outlet": "near-valve", "flow_lpm": 1.0}]
    survey = failure_survey(farm(requirements=wanted), None)
    worst = next(one for one in survey.failures if (one.kind, one.where) == ("stuck_open", "near-valve"))
    told = {plain(one.told): one for one in worst.measures}
    limited = told["A flow limiter of 1.0 L/min before near-valve"]
    assert limited.price == 14.0
    assert limited.cost.lost_m3 == pytest.approx(0.72, abs=0.15)  # 12 h at 1 L/min, less what fits into the trough
    divided = told["Half of tank kept behind a shut tap"]
    assert divided.cost.lost_m3 == pytest.approx(worst.cost.lost_m3 - 0.8, abs=0.02)
    assert all(one.cost.lost_m3 < worst.cost.lost_m3 for one in worst.measures)


def test_a_thinner_pipe_helps_where_the_look_comes_before_the_tank_is_empty_and_not_after() -> None:
    def thinner(look_h: float) -> list[Measure]:
        (tank, *troughs) = write_design(farm())["vessels"]
        large = {**tank, "shape": {**BOX, "length_m": 15.0}}  # 12,000 L: some two hours through the thick line
        survey = failure_survey(farm(look_h, vessels=[large, *troughs]), None)
        off = next(one for one in survey.failures if (one.kind, one.where) == ("hose_off", "thick"))
        return [one for one in off.measures if plain(one.told).startswith("thick in")]

    (early,) = thinner(1.0)
    assert early.patch[0]["path"] == "/lines/0/product"
    assert early.price is not None
    assert thinner(12.0) == []


def test_a_progress_that_refuses_ends_the_survey() -> None:
    class Enough(Exception):
        pass

    shares: list[float] = []

    def progress(share: float) -> None:
        shares.append(share)
        if share > 0.2:
            raise Enough

    with pytest.raises(Enough):
        failure_survey(farm(), None, progress)
    assert shares == sorted(shares)
    assert shares[-1] < 0.5


def test_the_reserve_is_what_stands_below_the_float_over_what_the_animals_there_drink() -> None:
    """Two troughs of 0.5 m2 whose floats shut at 0.4 m: 200 L for 200 L a day, and for 40."""
    near, far = reserves(farm(), AS_IT_STANDS)
    assert [near.vessel.id, far.vessel.id] == ["near-trough", "far-trough"]
    assert [near.held_m3, near.days, far.held_m3, far.days] == pytest.approx([0.2, 1.0, 0.2, 5.0])


def test_nipples_leave_water_that_nobody_can_drink() -> None:
    drum = {"id": "far-trough", "role": "trough", "place": "far", "shape": TROUGH, "level_m": 0.4,
            "nipples": 6, "nipples_m": 0.1, "over_nipples_m": 0.1}  # fmt: skip
    vessels = [*farm().model_dump(mode="json", by_alias=True, exclude_unset=True)["vessels"][:2], drum]
    far = next(one for one in reserves(farm(vessels=vessels), AS_IT_STANDS) if one.vessel.id == "far-trough")
    assert far.held_m3 == pytest.approx(0.5 * (0.4 - 0.2))


def test_the_demonstration_s_worst_is_its_main_and_all_that_can_fail_is_there() -> None:
    design = tamsel_ridge()
    survey = failure_survey(design, None)
    floats = [outlet.id for outlet in design.outlets if outlet.kind == "float_valve" and outlet.fills]
    assert {one.where for one in survey.failures} == {*floats, *(line.id for line in design.lines)}
    assert (survey.failures[0].kind, survey.failures[0].where) == ("hose_off", "head-main")
    assert survey.left_out == 0


@pytest.mark.parametrize(("level_m", "days"), [(0.8, 8.0 + 1.0), (0.3, 3.0 + 1.0)])
def test_with_no_source_it_lasts_as_long_as_tank_and_trough_hold_what_the_ewes_drink(
    level_m: float, days: float
) -> None:
    """The ewes take 200 L a day, and the rams none here: so many days of the tank, and one of the trough."""
    tank, *troughs = write_design(farm())["vessels"]
    spring = {"id": "spring", "kind": "spring", "fills": "tank", "claimed_lpm": 1.0}
    ewes = write_design(farm())["herds"][:1]
    design = farm(vessels=[{**tank, "level_m": level_m}, *troughs], inflows=[spring], herds=ewes)
    found = no_refill(design, None, LONGEST_S).first
    assert found is not None
    where, lasts_s = found
    assert where == "near-trough"
    assert lasts_s / 86_400.0 == pytest.approx(days, abs=0.6)  # animals drink by day


def test_what_lasts_a_fortnight_is_said_to_last() -> None:
    tank, *troughs = write_design(farm())["vessels"]
    large = {**tank, "shape": {**BOX, "length_m": 40.0}}
    assert no_refill(farm(vessels=[large, *troughs]), None, LONGEST_S).first is None


def joined(**changes: Any) -> Design:
    """The same, with a second tank that the first one fills; nothing keeps its water from coming back."""
    base = write_design(farm())
    tank = {"id": "second", "place": "side", "shape": BOX, "level_m": 0.7}
    side = {"id": "side", "east_m": 60, "north_m": 0, "ground_m": 114.9}
    link = {"id": "link", "from": "near", "to": "second", "length_m": 60.0, "product": "pe100-sdr17-32"}
    return farm(
        places=[*base["places"], side],
        vessels=[*base["vessels"], tank],
        lines=[*base["lines"], {**link, **changes}],
    )


def test_a_check_valve_keeps_the_water_of_a_second_tank_where_a_stuck_valve_would_drain_it() -> None:
    survey = failure_survey(joined(), None)
    stuck = next(one for one in survey.failures if (one.kind, one.where) == ("stuck_open", "near-valve"))
    told = [plain(measure.told) for measure in stuck.measures]
    measure = stuck.measures[told.index("A check valve at the beginning of link")]
    assert stuck.cost.lost_m3 - measure.cost.lost_m3 == pytest.approx(1.4, abs=0.2)  # what the second tank holds
    assert measure.price
    mended = patched(joined(), measure.patch)
    assert [part.kind for part in mended.lines[-1].inline] == ["check_valve"]
    with_one = joined(inline=[{"kind": "check_valve", "at_m": 0.5}])
    again = failure_survey(with_one, None)
    assert not any("check valve" in plain(m.told) for one in again.failures for m in one.measures)
    failed = next(one for one in again.failures if one.kind == "check_valve_failed")
    assert failed.where == "link"
