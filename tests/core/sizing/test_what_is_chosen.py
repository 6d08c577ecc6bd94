"""What else is chosen and must hold: valves, stands, cases, limits, locks, the shed, two tanks, and surely."""

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from examples import Document, one_line
from forks import PIPES, enumerated, farm, problem
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.wording import plain
from leadsman.core.catalogue import float_valves, pipes
from leadsman.core.design.edit.deleting import delete_parts
from leadsman.core.design.edit.model import DeleteParts
from leadsman.core.design.file import read_design, write_design
from leadsman.core.sizing.laid import laid_out
from leadsman.core.sizing.problem import NothingFits
from leadsman.core.sizing.size import Sized, size
from leadsman.core.sizing.slots import AS_IT_IS
from leadsman.core.steady.solve import solve
from leadsman.demo import tamsel_ridge


def sized(document: Document) -> Sized | None:
    try:
        return size(read_design(document), most_tries=400)
    except NothingFits:
        return None


@pytest.mark.parametrize("seed", range(6))
def test_with_valves_and_stands_the_cheapest_is_that_of_all_combinations(
    seed: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    document = farm(seed, ends=1 + seed % 2)
    document["sizing"] |= {"valves": True, "stands": [{"vessel": "tank0", "most_m": 1.0, "price_per_m": 45.0}]}
    document["outlets"] = [{**one, "valve": {**one["valve"], "kv_m3h": 0.3}} for one in document["outlets"]]
    least = enumerated(document)
    monkeypatch.setattr("leadsman.core.sizing.size.MOST_ENUMERATED", 2_000)
    found = sized(document)
    assert (found is None) == (least is None)
    if found is not None and least is not None:
        assert found.cost == pytest.approx(least)
        assert found.proven_gap == 0.0
        assert set(found.valves.values()) <= {AS_IT_IS, *float_valves()}


@pytest.mark.parametrize("seed", range(8))
def test_two_tanks_that_feed_one_line_are_proven_too(seed: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """Without going through all plans: the lines between the tanks are, and behind them it is a tree."""
    document = farm(seed, tanks=2, ends=2)
    least = enumerated(document)
    monkeypatch.setattr("leadsman.core.sizing.size.MOST_ENUMERATED", 60)
    found = sized(document)
    assert (found is None) == (least is None)
    if found is not None and least is not None:
        assert found.cost == pytest.approx(least)
        assert found.proven_gap == 0.0
        assert found.tries < 3**4 * 4


@given(seed=st.integers(0, 10_000), rise_m=st.floats(0.3, 3.0))
@settings(max_examples=8, deadline=None)
def test_cost_never_rises_where_more_may_be_chosen(seed: int, rise_m: float) -> None:
    document = farm(seed)
    before = sized(document)
    stands = [{"vessel": "tank0", "most_m": rise_m, "price_per_m": 30.0}]
    after = sized({**document, "sizing": {**document["sizing"], "stands": stands}})
    if before is not None:
        assert after is not None
        assert after.cost <= before.cost + 1e-6


def test_what_may_be_higher_never_makes_the_demonstration_dearer() -> None:
    """Nothing is proven there within so few plans: two tanks of one main, each on a stand of its own."""
    document = write_design(tamsel_ridge())
    stands = [{"vessel": tank, "most_m": 1.0, "price_per_m": 900.0} for tank in ("chambers", "east-chamber")]
    raised = size(read_design({**document, "sizing": {"stands": stands}}), most_tries=1)
    assert raised.cost <= size(tamsel_ridge()).cost + 1e-6


def test_a_tank_is_not_raised_out_of_reach_of_what_feeds_it() -> None:
    """A spring box just above the tank feeds it: the line stays as it is, and the tank goes only so high."""
    document = farm(6, ends=1)
    document["sizing"]["products"] = []
    document["places"] = [*document["places"], {"id": "spring", "east_m": 0, "north_m": 40, "ground_m": 131.5}]
    box = {**document["vessels"][0], "id": "box", "place": "spring", "level_m": 0.5}
    document["vessels"] = [*document["vessels"], box]
    document["lines"] = [{key: value for key, value in line.items() if key not in ("bore_mm", "roughness_mm")}
                         | {"product": "pe100-sdr17-32"} for line in document["lines"]]  # fmt: skip
    feed = {**document["lines"][0], "id": "feed", "from": "box", "to": "tank0", "length_m": 40.0}
    document["lines"] = [*document["lines"], feed]
    document["inflows"] = [{"id": "rill", "kind": "spring", "fills": "box", "claimed_lpm": 9.0}]
    document["requirements"][0]["flow_lpm"] = 40.0
    document["outlets"][0]["valve"]["kv_m3h"] = 6.0
    document["sizing"] = {"stands": [{"vessel": "tank0", "most_m": 6.0, "price_per_m": 0.01}]}
    found = sized(document)
    assert found is not None
    assert "feed" not in found.lines
    plan = laid_out(read_design(document), found.lines, {}, found.rises_m)
    flow = Analysis(plan).state.flow
    assert flow.line_flow_m3s("feed") * 60_000 >= 9.0 * (1 - 1e-6)
    higher = laid_out(read_design(document), found.lines, {}, {"tank0": found.rises_m["tank0"] + 2.0})
    assert Analysis(higher).state.flow.line_flow_m3s("feed") * 60_000 < 9.0


def test_a_tank_is_raised_only_as_far_as_pays() -> None:
    document = farm(4, ends=1)
    stands = [{"vessel": "tank0", "most_m": 2.0, "price_per_m": 0.01}]
    cheap = sized({**document, "sizing": {**document["sizing"], "stands": stands}})
    dear = sized({**document, "sizing": {**document["sizing"], "stands": [{**stands[0], "price_per_m": 9_000.0}]}})
    assert cheap is not None
    assert dear is not None
    assert dear.rises_m == {"tank0": 0.0}
    assert cheap.cost <= dear.cost


@pytest.mark.parametrize("asked", [{}, {"alone": True}, {"case": "rest"}])
def test_a_flow_is_required_in_its_own_case(asked: Document) -> None:
    """What an outlet needs alone, or in a case that shuts the other, is less pipe than beside the other."""
    document = farm(0)
    document["scenarios"] = [{"id": "rest", "shut": ["o0"]}]
    document["requirements"] = [{"outlet": "o0", "flow_lpm": 4.0}, {"outlet": "o1", "flow_lpm": 14.0, **asked}]
    found = sized(document)
    assert found is not None
    plan = laid_out(read_design(document), found.lines, {}, {})
    alone = solve(plan.model_copy(update={"outlets": [one for one in plan.outlets if one.id == "o1"]}), all_open=True)
    together = solve(plan, all_open=True)
    judged = alone if asked else together
    assert judged.outlets["o1"].flow_m3s * 60_000 >= 14.0 * (1 - 1e-6)
    beside = sized({**document, "requirements": [document["requirements"][0], {"outlet": "o1", "flow_lpm": 14.0}]})
    assert beside is not None
    assert found.cost <= beside.cost
    if asked:
        assert found.cost < beside.cost
        assert any("alone" in plain(one.told) or "in rest" in plain(one.told) for one in found.why if one.where == "o1")


def test_a_trough_full_again_in_time_needs_the_flow_that_fills_it() -> None:
    document = farm(1, ends=1)
    shape = {"kind": "box", "length_m": 2.0, "width_m": 0.6, "height_m": 0.5}
    document["vessels"] = [*document["vessels"], {"id": "trough", "place": "p0", "role": "trough", "shape": shape,
                                                     "level_m": 0.05}]  # fmt: skip
    document["outlets"][0]["fills"] = "trough"
    document["requirements"] = [{"outlet": "o0", "refill_min": 28.0}]
    found = sized(document)
    assert found is not None
    refill = Analysis(laid_out(read_design(document), found.lines, {}, {})).refills["o0"]
    assert refill is not None
    assert refill.time_s is not None
    assert refill.time_s / 60.0 <= 28.0 * 1.01
    assert found.why  # and with the next narrower pipe it takes longer
    slower = Analysis(laid_out(read_design(document), found.lines | {found.why[0].part: _narrower(found)}, {}, {}))
    assert (slower.refills["o0"].time_s or np.inf) / 60.0 > 28.0 * 0.99


def _narrower(found: Sized) -> list[Any]:
    (piece,) = found.lines[found.why[0].part]
    return [type(piece)(product_id=found.why[0].choice, length_m=piece.length_m)]


def test_where_no_flow_is_stated_the_demand_of_the_peak_hour_counts() -> None:
    document = one_line()
    herd = {"id": "herd", "class": "growing cattle", "head": 600, "weight_kg": 300.0,
            "outlet": document["outlets"][0]["id"]}  # fmt: skip
    document |= {"requirements": [], "herds": [herd]}
    (must,) = [must for must in problem(document).musts if must.given == "demand"]
    assert must.flow_m3s is not None
    daily_l = Analysis(read_design(document)).herds[0].daily_l
    assert daily_l / 24.0 < must.flow_m3s * 3_600_000 < daily_l
    found = size(read_design(document))
    assert any("take at the peak" in plain(one.told) for one in found.why)


def test_water_runs_no_faster_than_its_limit() -> None:
    document = farm(0, ends=1)
    document["vessels"][0]["stand_m"] = 20.0
    document["requirements"][0]["flow_lpm"] = 6.0
    free = sized(document)
    slow = sized({**document, "sizing": {**document["sizing"], "most_ms": 1.5}})
    assert free is not None
    assert slow is not None
    speeds = [solve(laid_out(read_design(document), one.lines, {}, {}), all_open=True).lines for one in (free, slow)]
    fastest = [max(line.velocity_ms for line in lines.values()) for lines in speeds]
    assert fastest[0] > 1.5 >= fastest[1]
    assert slow.cost > free.cost
    assert any("faster than" in plain(one.told) for one in slow.why)


def test_no_high_point_is_left_in_suction() -> None:
    """Over a rise just behind the tank the line before it has to be wide, however much head there is at the end."""
    document = farm(5, ends=1)
    document["lines"] = [line | ({"length_m": 90.0} if line["id"] == "draw0" else {}) for line in document["lines"]]
    flat = sized(document)
    document["lines"][0]["points"] = [[0, 130], [60, 129.2], [90, 118]]
    humped = sized(document)
    assert flat is not None
    assert humped is not None
    assert humped.cost > flat.cost
    over = Analysis(laid_out(read_design(document), humped.lines, {}, {})).state.flow.over_pipe_m
    assert over.min() > -1e-3
    narrow = Analysis(laid_out(read_design(document), flat.lines, {}, {})).state.flow.over_pipe_m
    assert narrow.min() < 0.0
    assert any("above its pressure line" in plain(one.told) for one in humped.why)


def test_pipes_that_do_not_hold_the_pressure_are_not_chosen() -> None:
    shallow = one_line(**{"requirements.0.flow_lpm": 6})
    tank_at = shallow["vessels"][0]["place"]
    deep = {**shallow, "places": [{**place, "ground_m": place["ground_m"] + 70.0 * (place["id"] == tank_at)}
                                  for place in shallow["places"]]}  # fmt: skip
    (weak,), (strong,) = (size(read_design(one)).lines["line"] for one in (shallow, deep))
    assert (pipes()[weak.product_id].class_bar or 0.0) <= (pipes()[strong.product_id].class_bar or 0.0)
    choices = problem(deep).lines[0].choices
    assert all((pipes()[one.product_id].class_bar or 0.0) * 100.0 > 700.0 for one in choices)


def test_what_is_in_the_shed_is_used_first() -> None:
    document = one_line(**{"requirements.0.flow_lpm": 18})
    bought = size(read_design(document))
    (piece,) = bought.lines["line"]
    wider = problem(document).lines[0].choices[-1]
    assert pipes()[wider.product_id].coil_m is None  # it is sold by the metre
    owned = size(read_design({**document, "shed": [{"product": wider.product_id, "count": 500.0}]}))
    assert owned.cost == 0.0
    assert owned.lines["line"][0].product_id == wider.product_id
    # a pipe that is sold by the roll is counted by rolls, as in the shopping list
    roll_m = pipes()[piece.product_id].coil_m or 1.0
    assert roll_m < piece.length_m
    half = size(read_design({**document, "shed": [{"product": piece.product_id, "count": 1.0}]}))
    assert half.cost == pytest.approx(bought.cost * (piece.length_m - roll_m) / piece.length_m)


@pytest.mark.parametrize("checked", [False, True])
def test_with_a_shed_no_plan_is_called_proven_that_a_cheaper_one_beats(
    checked: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """With a check valve no program is written down, and the bound may not count what is in the shed."""
    document = farm(2)
    document["lines"] = [{key: value for key, value in line.items() if key not in ("bore_mm", "roughness_mm")}
                         | {"product": "pe100-sdr17-32"} for line in document["lines"]]  # fmt: skip
    del document["sizing"]
    if checked:
        document["lines"][0]["inline"] = [{"kind": "check_valve", "at_m": 1, "k": 2.4}]
    document["shed"] = [{"product": "pe100-sdr17-50", "count": 0.8}, {"product": "pe100-sdr17-40", "count": 0.6}]
    least = enumerated(document)
    monkeypatch.setattr("leadsman.core.sizing.size.MOST_ENUMERATED", 0)
    found = size(read_design(document), most_tries=1)
    assert least is not None
    assert found.cost * (1.0 - found.proven_gap) <= least + 1e-6 <= found.cost + 2e-6


def test_what_is_kept_stays_and_is_named_where_it_stands_in_the_way() -> None:
    document = farm(3)
    document["requirements"] = [{"outlet": "o0", "flow_lpm": 5.0}, {"outlet": "o1", "flow_lpm": 5.0}]
    whole = sized(document)
    assert whole is not None
    kept = {**document["sizing"], "keep": ["draw0"]}
    assert "draw0" not in size(read_design({**document, "sizing": kept})).lines
    document["lines"][0]["bore_mm"] = 6.0
    with pytest.raises(NothingFits, match="draw0 is kept as it is: freed, something would fit"):
        size(read_design({**document, "sizing": kept}))
    with pytest.raises(DesignFaults) as all_kept:
        size(read_design({**document, "sizing": {"keep": [line["id"] for line in document["lines"]]}}))
    assert [fault.path for fault in all_kept.value.faults] == ["/sizing/keep"]


def test_surely_means_at_the_worse_end_of_what_heights_leave() -> None:
    document = farm(6, ends=1)
    document["places"] = [{**place, "height_error_m": 1.5} for place in document["places"]]
    document["sizing"]["products"] = PIPES
    document["requirements"][0]["flow_lpm"] = 9.0
    likely = sized(document)
    document["requirements"][0]["surely"] = True
    surely = sized(document)
    assert likely is not None
    assert surely is not None
    assert surely.cost >= likely.cost
    analysis = Analysis(laid_out(read_design(document), surely.lines, {}, {}))
    found = analysis.flow_range(analysis.fed_outlets[0])
    assert found is not None
    assert found.worst * 60_000 >= 9.0 * 0.999


def test_a_valve_gets_the_pressure_that_it_opens_at() -> None:
    """Whatever flow is required: one that asks for pressure needs more pipe, or another valve where that may be."""
    document = farm(3, ends=1)
    document["requirements"][0]["flow_lpm"] = 3.0
    document["sizing"]["products"] = PIPES
    document["outlets"][0]["valve"]["kv_m3h"] = 1.2
    gentle = sized(document)
    document["outlets"][0]["valve"]["min_pressure_kpa"] = 70.0
    asking = sized(document)
    assert gentle is not None
    assert asking is not None
    assert asking.cost > gentle.cost
    state = solve(laid_out(read_design(document), asking.lines, {}, {}), all_open=True)
    over_m = (state.outlets["o0"].head_m or 0.0) - document["places"][-1]["ground_m"] - 0.5
    assert over_m * 9.80665 * 0.9997 >= 70.0 * (1 - 1e-4)
    assert any("less than its valve opens at" in plain(one.told) for one in asking.why)
    document["outlets"][0]["valve"]["min_pressure_kpa"] = 900.0
    with pytest.raises(NothingFits, match="less than its valve opens at"):
        size(read_design(document))
    other = sized({**document, "sizing": {**document["sizing"], "valves": True}})
    assert other is not None
    assert other.valves["o0"] != AS_IT_IS
    assert float_valves()[other.valves["o0"]].min_kpa < 900.0


def test_a_valve_that_no_list_has_stays_where_it_does_and_costs_nothing() -> None:
    document = farm(3, ends=1)
    document["requirements"][0]["flow_lpm"] = 3.0
    fixed = sized(document)
    found = sized({**document, "sizing": {**document["sizing"], "valves": True}})
    assert fixed is not None
    assert found is not None
    assert (found.cost, found.valves) == (fixed.cost, {"o0": AS_IT_IS})
    plan = laid_out(read_design(document), found.lines, found.valves, {})
    assert plan.outlets == read_design(document).outlets


def test_an_empty_tank_and_money_without_prices_are_told_as_such() -> None:
    document = farm(3, ends=1)
    document["vessels"][0]["level_m"] = 0.0
    with pytest.raises(NothingFits, match="no water gets to o0") as none:
        size(read_design(document))
    assert "less at" not in str(none.value)
    with pytest.raises(DesignFaults, match="in EUR: those of the catalogue are in USD"):
        size(read_design(one_line(**{"requirements.0.flow_lpm": 6, "site.currency": "EUR"})))


def test_where_several_lack_each_is_named_and_less_of_all_would_do() -> None:
    document = farm(3)
    document["requirements"] = [{"outlet": f"o{n}", "flow_lpm": 60.0 + 10.0 * n} for n in range(2)]
    with pytest.raises(NothingFits) as none:
        size(read_design(document))
    told = str(none.value)
    assert all(f"L/min less at o{n}" in told for n in range(2))
    lacks = [float(part.split(" L/min less")[0].split()[-1]) for part in told.split(" and ")]
    first = told.split("less at ")[1].split()[0]
    wanted = sorted(document["requirements"], key=lambda one: one["outlet"] != first)
    for one, by in zip(wanted, lacks, strict=True):
        one["flow_lpm"] -= by + 0.06
    assert sized(document) is not None


def test_pipes_that_are_listed_are_laid_in_every_line() -> None:
    document = farm(2)
    document["places"] = [*document["places"], {"id": "end", "east_m": 5, "north_m": 90, "ground_m": 90.0}]
    document["vessels"] = [*document["vessels"], {**document["vessels"][0], "id": "other", "place": "end"}]
    spur = {**document["lines"][0], "id": "spur", "from": "other", "to": "end"}
    document["lines"] = [*document["lines"], spur]
    found = sized(document)
    assert found is not None
    assert found.lines["spur"][0].product_id == PIPES[0]["id"]


def test_where_no_line_leads_it_is_said() -> None:
    document = farm(1, ends=1)
    document["places"] = [*document["places"], {"id": "far", "east_m": 900, "north_m": 0, "ground_m": 100.0}]
    document["outlets"] = [*document["outlets"], {**document["outlets"][0], "id": "lone", "place": "far"}]
    document["requirements"] = [*document["requirements"], {"outlet": "lone", "flow_lpm": 3.0}]
    with pytest.raises(NothingFits, match="no line leads to lone"):
        size(read_design(document))


@pytest.mark.parametrize(
    ("sizing", "path"),
    [
        ({"stands": [{"vessel": "nobody", "most_m": 1, "price_per_m": 9}]}, "/sizing/stands/0/vessel"),
        ({"keep": ["nobody"]}, "/sizing/keep/0"),
        ({"keep": ["tank0"], "stands": [{"vessel": "tank0", "most_m": 1, "price_per_m": 9}]}, "/sizing"),
    ],
)
def test_choices_that_contradict_or_name_nothing_are_refused(sizing: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design({**farm(1), "sizing": sizing})
    assert [fault.path for fault in refused.value.faults] == [path]


def test_deleted_parts_leave_the_choices() -> None:
    document = farm(1)
    document["scenarios"] = [{"id": "rest"}]
    document["requirements"] = [*document["requirements"], {"outlet": "o0", "flow_lpm": 3.0, "case": "rest"}]
    document["sizing"] |= {"keep": ["leg0", "o1"], "stands": [{"vessel": "tank0", "most_m": 1, "price_per_m": 9}]}
    delete_parts(document, DeleteParts(kind="delete_parts", parts=["o1"]))
    assert document["sizing"]["keep"] == ["leg0"]
    read_design(document)


def test_the_demonstration_is_proven_and_its_parts_are_sized_apart() -> None:
    found = size(tamsel_ridge())
    assert found.proven_gap == 0.0
    assert "weir-feed" not in found.lines  # nothing is required of it: it stays as it is
    asked = {must.where: must.flow_m3s for must in found.musts if must.flow_m3s is not None and must.fills_s is None}
    stated = {one.outlet: (one.flow_lpm or 0.0) / 60_000 for one in tamsel_ridge().requirements if one.outlet}
    assert asked == pytest.approx(stated)
    plan = laid_out(tamsel_ridge(), found.lines, found.valves, found.rises_m)
    refill = Analysis(plan).refills["low-valve"]
    assert refill is not None
    assert (refill.time_s or np.inf) <= 23 * 60 * 1.001
    state = solve(plan, all_open=True)
    for wanted in plan.requirements:
        if wanted.outlet is not None and wanted.flow_lpm is not None:
            assert state.outlets[wanted.outlet].flow_m3s * 60_000 >= wanted.flow_lpm * (1 - 1e-6)
