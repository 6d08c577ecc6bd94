"""Mobs at troughs: against a simulation animal by animal, small steps of the whole network, and what must hold."""

import heapq
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, changed, one_line, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.schools import schools
from leadsman.core.base.errors import OutOfRange, UnknownName
from leadsman.core.base.integrator import run_until
from leadsman.core.catalogue.livestock import animals
from leadsman.core.design import Herd
from leadsman.core.design.file import read_design
from leadsman.core.farm.drinking import habit_of, mob_of, near_water, rim_m
from leadsman.core.farm.steadiness import steady_kg
from leadsman.core.physics.vessel import Prism, level_m
from leadsman.core.report.workbench import analysis_report, rest_report
from leadsman.core.steady.solve import solve
from properties import examples

MOB = {"pattern": "mob", "within_min": 5, "visits": 2, "rate_lpm": 10, "width_m": 0.6}


def herd_at(trough: Document | None = None, **herd: Any) -> Document:
    changes = {f"herds.0.{key}": value for key, value in herd.items()}
    changes |= {f"vessels.1.{key}": value for key, value in (trough or {}).items()}
    return one_line(**{"herds.0.drinking": MOB, "requirements.0.refill_min": None, **changes})


def lake(**herd: Any) -> Document:
    """A mob at a trough that holds more than all could drink, 400 m of whose edge they can stand at."""
    return changed(herd_at({"rim_m": 400.0}, **herd), {"vessels.1.shape.length_m": 200.0, "vessels.1.shape.width_m": 5})


@pytest.mark.parametrize(
    ("heads", "within_min", "places"),
    [(60, 1, 6), (200, 10, 10), (400, 20, 25), (90, 15, 90), (300, 0.5, 4), (1, 5, 1)],
)
def test_a_mob_with_water_enough_is_served_as_a_queue_says(heads: int, within_min: float, places: int) -> None:
    drinking = {**MOB, "within_min": within_min, "width_m": 1.0}
    document = changed(lake(head=heads, drinking=drinking), {"vessels.1.rim_m": float(places)})
    (visit,) = Analysis(read_design(document)).waterings[0].visits
    free, last, longest = [0.0] * places, 0.0, 0.0
    for number in range(heads):
        came = (number + 1) / heads * within_min * 60.0
        room = max(came, heapq.heappop(free))
        last = room + visit.mob.draught_m3 / visit.mob.drinks_m3s
        longest = max(longest, room - came)
        heapq.heappush(free, last)
    assert visit.run.served_s == pytest.approx(last, abs=0.01)
    assert visit.run.longest_wait_s == pytest.approx(longest, abs=0.01)


def mob_of_37(full_l: float, inflow_lpm: float = 20.0) -> Any:
    """37 head that come within 2.5 minutes, each taking 20 L in 2: all of 740 L is wanted within 4.5 minutes."""
    drinking = {"pattern": "mob", "within_min": 2.5, "visits": 2, "rate_lpm": 10, "width_m": 0.5}
    own = {"intake_lpd": 40.0, "head": 37, "drinking": drinking}
    # 10 m2 of water under a float over 60 m of head, whose band of 1 mm lets it pass 20 L/min nearly to the last
    kv = inflow_lpm * 0.06 / (60.0 * 9.80665 * 0.9997 / 100.0) ** 0.5
    shape = {"shape.length_m": 20.0, "shape.width_m": 0.5, "rim_m": 20.0}
    document = changed(herd_at(shape, **own), {
        "outlets.0.valve.kv_m3h": kv, "outlets.0.valve.band_m": 0.001, "outlets.0.valve.closes_at_m": full_l / 10_000,
        "places.0.ground_m": 159.6, "lines.0.product": None, "lines.0.bore_mm": 80,
        "lines.0.roughness_mm": 0.007, "lines.0.points": [],
        "vessels.1.level_m": 0.0,
    })  # fmt: skip
    return Analysis(read_design(document)).waterings[0]


def test_37_head_empty_a_trough_that_holds_573_litres() -> None:
    """740 L are wanted in 4.5 minutes and 573 + 90 are there: the last waits until the valve has brought the rest."""
    run = (watering := mob_of_37(573.0)).run
    assert watering.visits[0].mob.heads == 37
    assert run.runs_empty
    assert run.lowest_level_m == pytest.approx(0.0, abs=1e-4)
    assert watering.visits[0].run.served_s == pytest.approx((740.0 - 573.0) / 20.0 * 60.0, rel=0.01)


def test_of_a_trough_that_holds_700_the_last_has_drunk_when_it_has_taken_its_draught() -> None:
    run = (watering := mob_of_37(700.0)).run
    assert not run.runs_empty
    assert watering.visits[0].run.served_s == pytest.approx(4.5 * 60.0, abs=0.1)
    assert run.lowest_m3 * 1000 == pytest.approx(42.9, abs=0.5)  # as in steps of 0.02 s; the float opens over 10 L
    assert run.recovered_s == pytest.approx((740.0 - 0.01 * 700.0) / 20.0 * 60.0, rel=0.02)


def test_on_the_network_a_trough_falls_and_recovers_as_in_small_steps() -> None:
    """Each animal for itself, in steps of a fifth of a second, the network solved anew in every twentieth."""
    one = Analysis(read_design(document := herd_at(head=60, outlet="valve"))).waterings[0]
    assert one.run is not None
    mob, shape, step = one.visits[0].mob, Prism(1.0, 0.6), 0.2
    volume, steps, lowest, came, flow_m3s = one.run.full_m3, 0, one.run.full_m3, 0.0, 0.0
    drunk = [0.0] * int(mob.heads)
    recovered = None
    while recovered is None:
        time = steps * step
        if steps % 20 == 0:
            state = solve(read_design(changed(document, {"vessels.1.level_m": level_m(shape, volume)})))
            flow_m3s = state.outlets["valve"].flow_m3s
        there = [i for i, had in enumerate(drunk) if (i + 1) / mob.heads * mob.within_s <= time + step / 2
                 and had < mob.draught_m3 - 1e-9]  # fmt: skip
        at_rim = there[: int(mob.places)]
        brings = step * flow_m3s
        wants = [min(step * mob.drinks_m3s, mob.draught_m3 - drunk[i]) for i in at_rim]
        share = min(1.0, (volume + brings) / sum(wants)) if wants else 1.0
        for i, want in zip(at_rim, wants, strict=True):
            drunk[i] += share * want
        volume += brings - share * sum(wants)
        came += brings
        steps += 1
        lowest = min(lowest, volume)
        if time > mob.within_s and volume >= 0.99 * one.run.full_m3:
            recovered = time
    assert one.run.lowest_m3 == pytest.approx(lowest, abs=0.005 * one.run.full_m3)
    assert one.run.recovered_s == pytest.approx(recovered, rel=0.01)
    taken = float((np.diff(one.run.times_s) * one.run.inflow_m3s[:-1]).sum())
    assert taken == pytest.approx(came, rel=0.01)


def test_two_mobs_on_one_network_take_water_from_one_another() -> None:
    herds = [
        {"id": f"herd{number}", "class": "growing cattle", "weight_kg": 300, "head": 120, "outlet": outlet,
         "drinking": MOB}
        for number, outlet in enumerate(("low-valve", "high-valve"))
    ]  # fmt: skip
    second = {
        "outlets.1": {**worked_example()["outlets"][0], "id": "high-valve", "place": "nursery", "fills": "high-trough"},
        "vessels.2": {**worked_example()["vessels"][1], "id": "high-trough", "place": "nursery"},
        "lines.2.to": "high-valve", "herds": herds,
    }  # fmt: skip
    both = Analysis(read_design(changed(worked_example(), second))).waterings
    alone = Analysis(read_design(changed(worked_example(), {**second, "herds": herds[:1]}))).waterings
    assert [one.outlet.id for one in both] == ["low-valve", "high-valve"]
    together = both[0].run
    assert together is not None
    assert alone[0].run is not None
    assert together.lowest_m3 <= alone[0].run.lowest_m3 + 1e-6


@given(st.integers(1, 400), st.floats(0.6, 30), st.floats(1.0, 3.0), st.floats(1, 40))
@examples(25)
def test_a_wider_rim_never_lengthens_the_wait(heads: int, rim: float, wider: float, within_min: float) -> None:
    drinking = {**MOB, "within_min": within_min}
    runs = []
    for length in (rim, rim * wider):
        document = herd_at({"rim_m": length}, head=heads, drinking=drinking)
        document["vessels"][1]["shape"].update(length_m=20.0, width_m=5.0)  # water enough
        runs.append(Analysis(read_design(document)).waterings[0].visits[0].run)
    assert runs[1].longest_wait_s <= runs[0].longest_wait_s + 0.01
    assert runs[1].left_waiting_share <= runs[0].left_waiting_share + 1e-9


def test_what_a_herd_leaves_open_comes_from_its_class_or_is_marked_ours() -> None:
    herd = Herd.model_validate({"id": "a", "class": "bull", "head": 3, "outlet": "o", "drinking": {"pattern": "mob",
                                "visits": 3}})  # fmt: skip
    habit = habit_of(herd)
    assert habit.width_m == animals()["bull"].rim_m
    assert "visits" not in habit.assumed
    assert {"share", "rate_lpm", "width_m"} <= set(habit.assumed)
    assert 8 / 60_000 <= habit.drinks_m3s <= 20 / 60_000  # cattle drink 8 to 20 L/min: rough, from memory


def test_room_at_the_rim_is_all_round_or_what_is_said_or_a_nipple_each() -> None:
    vessel = read_design(one_line()).vessels[1]
    assert rim_m(vessel) == pytest.approx(5.0)
    assert rim_m(replace_vessel(vessel, rim_m=1.3)) == 1.3
    habit = habit_of(Herd.model_validate({"id": "a", "class": "bull", "head": 3, "outlet": "o"}))
    assert mob_of(10, 40.0, replace(habit, width_m=0.6), 1.3).places == 2
    assert mob_of(10, 40.0, habit, 0.0, nipples=7).places == 7


def replace_vessel(vessel: Any, **changes: Any) -> Any:
    return vessel.model_copy(update=changes)


def test_near_water_the_busiest_hours_take_what_the_flow_does_not_bring() -> None:
    drinking = {"pattern": "near", "daylight_h": 10, "peak_factor": 3}
    bulls = {"id": "a", "class": "bull", "head": 3, "outlet": "o", "drinking": drinking}
    habit = habit_of(Herd.model_validate(bulls))
    near = near_water(2.0, habit, 5 / 60_000, 0.4)
    assert near.peak_m3s * 60_000 == pytest.approx(3 * 2000 / 600)
    assert near.taken_m3 == pytest.approx((10 - 5) * 120 / 1000)
    assert near.runs_empty
    assert not near_water(2.0, habit, 11 / 60_000, 0.4).runs_empty


def test_herds_of_which_nothing_is_said_are_not_judged() -> None:
    assert Analysis(read_design(one_line())).waterings == []
    assert Analysis(read_design(herd_at(head=0))).waterings == []


def test_of_the_two_schools_the_larger_valve_serves_sooner_and_loses_more() -> None:
    analysis = Analysis(read_design(herd_at(head=60)))
    small, drawn, large = schools(analysis, "valve")
    assert small.alone_m3s < drawn.alone_m3s < large.alone_m3s
    assert small.lost_m3 <= drawn.lost_m3 <= large.lost_m3
    served = [one.watering.visits[0].run.served_s or 1e9 for one in (small, drawn, large) if one.watering]
    assert served[0] > served[1] + 60.0
    assert served[1] > served[2] - 5.0  # with water enough only the rim counts
    assert drawn.watering is not None
    assert drawn.watering.visits[0].run == analysis.waterings[0].visits[0].run
    there = 3.1416 * 1.0 + 10 / 600 * 43_200 / 1000  # a tank of 2 m across at 1 m, and half a day of its spring
    assert large.lost_m3 == pytest.approx(min(large.alone_m3s * 43_200, there), rel=1e-3)
    assert large.empties_store is (large.alone_m3s * 43_200 > there)
    with pytest.raises(UnknownName):
        schools(analysis, "tank")


def test_two_herds_at_one_trough_share_its_rim_by_their_heads() -> None:
    second = {"id": "bulls", "class": "bull", "head": 10, "weight_kg": 700, "outlet": "valve", "drinking": MOB}
    one = Analysis(read_design(herd_at(head=30, **{}) | {"herds": [*herd_at(head=30)["herds"], second]})).waterings[0]
    places = {visit.demand.herd.id: visit.mob.places for visit in one.visits}
    assert places == {"mob": 6, "bulls": 2}
    assert one.run is not None
    drunk = sum(visit.mob.heads * visit.mob.draught_m3 for visit in one.visits)
    came = float((np.diff(one.run.times_s) * one.run.inflow_m3s[:-1]).sum())
    left = one.run.full_m3 * (1.0 - 0.99)
    assert came == pytest.approx(drunk, abs=left + 0.02 * drunk)


def test_a_herd_near_water_and_a_mob_at_one_trough_are_each_judged_in_their_way() -> None:
    near = {"id": "calves", "class": "growing cattle", "head": 8, "weight_kg": 200, "outlet": "valve",
            "drinking": {"pattern": "near"}}  # fmt: skip
    document = herd_at(head=30)
    document["herds"].append(near)
    one = Analysis(read_design(document)).waterings[0]
    assert [visit.demand.herd.id for visit in one.visits] == ["mob"]
    assert [demand.herd.id for demand, *_ in one.near] == ["calves"]
    report = rest_report(Analysis(read_design(document)))
    watering = report.watering[0]
    assert watering.visits[0].heads == 30
    assert watering.near[0].peak_lpm > 0.0
    assert watering.trace is not None
    lengths = {len(trace) for trace in vars(watering.trace).values()}
    assert len(lengths) == 1
    assert watering.trace.levels_m[0] == pytest.approx(watering.full_level_m)
    assert min(watering.trace.levels_m) == pytest.approx(watering.lowest_level_m, abs=1e-9)


def test_nipples_serve_one_each_and_a_stuck_source_is_never_full_again() -> None:
    birds = {"id": "mob", "class": "laying hen", "head": 60, "outlet": "valve",
             "drinking": {"pattern": "mob", "visits": 4, "within_min": 30}}  # fmt: skip
    document = herd_at({"nipples": 8, "shape.length_m": 0.5, "shape.width_m": 0.4}) | {"herds": [birds]}
    one = Analysis(read_design(document)).waterings[0]
    assert one.visits[0].mob.places == 8
    assert one.visits[0].mob.drinks_m3s * 60_000 == pytest.approx(0.06)
    shut = changed(document, {"lines.0.shut": True})
    stuck = Analysis(read_design(shut)).waterings[0].run
    assert stuck is not None
    assert stuck.recovered_s is None
    assert stuck.lowest_m3 == pytest.approx(stuck.full_m3 - 60 * one.visits[0].mob.draught_m3, rel=0.02)


def test_no_remedy_is_tried_and_no_mob_let_drink_for_an_edit(monkeypatch: pytest.MonkeyPatch) -> None:
    document = herd_at(head=60, **{})
    document["requirements"][0]["flow_lpm"] = 60

    def never(*_: Any) -> None:
        raise AssertionError("this takes longer than an edit may")

    for module, name in (("findings.remedies", "changed"), ("analysis.analysis", "waterings")):
        monkeypatch.setattr(f"leadsman.core.{module}.{name}", never)
    report = analysis_report(Analysis(read_design(document)))
    assert [finding.remedies for finding in report.findings] == [None] * len(report.findings)
    with pytest.raises(AssertionError):
        rest_report(Analysis(read_design(document)))


def test_the_integrator_tells_every_step_and_none_is_longer_than_asked() -> None:
    told: list[float] = []

    def rate(state: np.ndarray) -> np.ndarray:
        return np.array([-0.01 * state[0]])

    reached = run_until(
        rate, [1.0], lambda s: float(s[0]) - 0.2, 1e3, 1.0, 0.0, [1e-6], 7.0, lambda s: told.append(float(s[0]))
    )
    assert reached.happened
    assert reached.time_s == pytest.approx(100.0 * np.log(5.0), rel=1e-6)
    assert np.diff(reached.times_s).max() <= 7.0 + 1e-9
    assert reached.states[:, 0] == pytest.approx(np.exp(-0.01 * reached.times_s), abs=1e-5)
    assert told == pytest.approx(reached.states[:-1, 0])
    again = run_until(rate, [1.0], lambda s: float(s[0]) - 0.2, 50.0, 1.0, 0.0, [1e-6])
    assert not again.happened
    assert again.time_s == 50.0


SIZES: dict[str, tuple[Document, Document]] = {
    "a larger valve": ({"outlets.0.valve.kv_m3h": 0.4}, {"outlets.0.valve.kv_m3h": 1.2}),
    "a longer trough": ({"vessels.1.shape.length_m": 1.5}, {"vessels.1.shape.length_m": 3.0}),
    "fewer heads": ({"herds.0.head": 90}, {"herds.0.head": 45}),
    "more time to come": ({"herds.0.drinking.within_min": 3.0}, {"herds.0.drinking.within_min": 40.0}),
    "smaller draughts": ({"herds.0.drinking.visits": 2}, {"herds.0.drinking.visits": 4}),
    "a higher tank": ({"places.0.ground_m": 112.0, "lines.0.points": []}, {}),
}


@pytest.mark.parametrize("what", SIZES)
def test_what_should_help_a_trough_helps_it(what: str) -> None:
    worse, better = SIZES[what]
    document = herd_at({"rim_m": 4.0}, head=70)
    lows, highs = (Analysis(read_design(changed(document, change))).waterings[0].run for change in (worse, better))
    assert lows is not None
    assert highs is not None
    assert highs.lowest_m3 / highs.full_m3 >= lows.lowest_m3 / lows.full_m3 - 1e-3
    if what not in ("more time to come", "a longer trough"):  # those take longer to be done with, and to fill
        assert (highs.recovered_s or 1e9) <= (lows.recovered_s or 1e9) + 30.0


@given(st.integers(1, 300), st.floats(1, 60), st.floats(1, 8), st.floats(0.05, 3.0), st.floats(0.6, 12.0))
@examples(25)
def test_a_run_never_leaves_what_is_possible(
    heads: int, within_min: float, visits: float, kv_m3h: float, rim: float
) -> None:
    drinking = {**MOB, "within_min": within_min, "visits": visits}
    document = changed(herd_at({"rim_m": rim}, head=heads, drinking=drinking), {"outlets.0.valve.kv_m3h": kv_m3h})
    one = Analysis(read_design(document)).waterings[0]
    run = one.run
    assert run is not None
    (visit,) = one.visits
    assert -1e-9 <= run.lowest_level_m <= float(run.levels_m.max()) + 1e-9
    assert float(run.levels_m.max()) <= 0.5 + 1e-6  # it closes at its level
    assert (run.inflow_m3s >= -1e-6).all()
    assert (run.waiting >= -1e-9).all()
    assert (run.drinking <= visit.mob.places + 1e-9).all()
    assert (run.waiting + run.drinking <= heads + 1e-9).all()
    assert 0.0 <= visit.run.left_waiting_share <= 1.0
    if visit.run.served_s is not None:
        least = visit.mob.draught_m3 / visit.mob.drinks_m3s
        assert visit.run.served_s >= 0.5 * min(least, visit.mob.within_s)
        assert visit.run.served_s <= run.times_s[-1] + 1e-6


def test_a_herd_that_moves_in_the_day_is_let_drink_at_each_stop() -> None:
    """Twice the visits for twice the stops: each draught is the smaller, and every trough is judged."""
    second = {"id": "other", "place": "end", "kind": "float_valve", "fills": "pan", "height_m": 0.6,
              "valve": {"kv_m3h": 3.0, "closes_at_m": 0.15, "band_m": 0.05}}  # fmt: skip
    pan = {"id": "pan", "role": "trough", "place": "end", "level_m": 0.1,
           "shape": {"kind": "box", "length_m": 2.0, "width_m": 0.5, "height_m": 0.2}}  # fmt: skip
    moved = {"id": "r", "herd": "mob", "from": "2026-05-01", "outlets": ["valve", "other"], "days_each": 0.5}
    changes = {
        "lines.0.to": "end", "outlets.1": second, "vessels.2": pan, "calendar": [moved],
        "scenarios.0.date": "2026-05-10", "herds.0.drinking": {**MOB, "visits": 1}, "herds.0.head": 80,
    }  # fmt: skip
    served = Analysis(read_design(one_line(**changes))).waterings
    assert {one.outlet.id for one in served} == {"valve", "other"}
    staying = Analysis(read_design(one_line(**{**changes, "calendar": []}))).waterings
    assert [one.outlet.id for one in staying] == ["valve"]
    whole = staying[0].visits[0].mob.draught_m3
    assert all(one.visits[0].mob.draught_m3 == pytest.approx(whole / 2) for one in served)
    by_trough = {one.outlet.id: one for one in served}
    assert by_trough["other"].run is not None
    assert by_trough["valve"].run is not None
    assert by_trough["other"].run.lowest_level_m < by_trough["valve"].run.lowest_level_m


@pytest.mark.parametrize("over_m", [0.0, 0.1, 0.2])
def test_water_under_nipples_is_not_drunk(over_m: float) -> None:
    drum = {"nipples": 6, "nipples_m": 0.1, "over_nipples_m": over_m}
    document = herd_at(drum, head=200, drinking={**MOB, "rate_lpm": 20, "within_min": 1})
    (one,) = Analysis(read_design(changed(document, {"outlets.0.valve.kv_m3h": 0.2}))).waterings
    assert one.run is not None
    assert one.run.runs_empty
    assert one.visits[0].mob.places == 6
    assert one.run.lowest_level_m == pytest.approx(0.1 + over_m, abs=0.02)
    assert one.over_nipples_m == pytest.approx(one.run.lowest_level_m - 0.1)


@pytest.mark.parametrize(
    ("animal_kg", "rim", "base", "wanted"),
    [(400.0, 0.5, 0.5, 120.0), (400.0, 0.2, 0.8, 120.0), (400.0, 0.6, 0.4, 180.0), (0.0, 1.0, 1.0, 0.0)],
)
def test_what_a_trough_must_weigh_to_stand(animal_kg: float, rim: float, base: float, wanted: float) -> None:
    # moments: the push at the rim against the weight at half the base; sliding: against half the weight
    assert steady_kg(animal_kg, rim, base) == pytest.approx(wanted)


def test_weight_that_makes_no_sense_is_refused() -> None:
    with pytest.raises(OutOfRange):
        steady_kg(100.0, 0.5, float("nan"))
