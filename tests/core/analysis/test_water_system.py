"""Systems of a plan: what is joined, which store comes to which drinker, and how long that lasts."""

from typing import Any

import pytest

from examples import Document
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.leak import leak_of
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge
from leadsman.core.findings.verdict import verdict
from leadsman.core.report.yearly import yearly_report
from leadsman.core.steady.solve import solve
from networks import random_network
from systems import APART, farm, judged, line


def told(analysis: Analysis) -> list[tuple[set[str], set[str]]]:
    return [({store.id for store in of.stores}, {outlet.id for outlet in of.outlets}) for of in analysis.systems]


def test_two_systems_share_nothing_and_the_verdict_is_on_the_worst() -> None:
    analysis = judged(farm(APART))
    assert told(analysis) == [({"a"}, {"x"}), ({"b"}, {"y"})]
    assert [day.days_in_hand for day in analysis.balances] == pytest.approx([3000 / 400, 3000 / 1000])
    assert [day.spare_m3_per_day * 1000 for day in analysis.balances] == pytest.approx([720 - 400, 720 - 1000])
    short = [finding for finding in judge(analysis) if finding.code == "demand-over-refill"]
    assert [finding.where for finding in short] == ["b"]
    assert "to b: 1000 L a day against 720 L a day" in plain(short[0].headline)
    numbers = {number.key: number for number in verdict(analysis, judge(analysis)).numbers}
    assert numbers["days"].value is not None
    assert numbers["days"].value.value == pytest.approx(3.0)
    assert plain(numbers["days"].title) == "b, no refill"


@pytest.mark.parametrize(
    ("joint", "together"),
    [
        ({}, True),
        ({"shut": True}, False),
        ({"inline": [{"kind": "isolating_valve", "at_m": 1.0}]}, True),
    ],
)
def test_an_open_line_between_them_makes_them_one(joint: dict[str, Any], together: bool) -> None:
    shut = joint.pop("shut", False)
    document = farm([*APART, line("ab", "a", "b", **joint)])
    if shut:
        document["scenarios"][0]["shut"] = ["ab"]
    analysis = judged(document)
    assert len(analysis.systems) == (1 if together else 2)
    if together:
        assert analysis.balance.days_in_hand == pytest.approx(6000 / 1400)
        assert plain(verdict(analysis, judge(analysis)).numbers[2].title) == "Lasts with no refill"


def test_water_comes_past_a_check_valve_one_way_only() -> None:
    check = {"inline": [{"kind": "check_valve", "at_m": 1.0}]}
    (system,) = judged(farm([*APART, line("ab", "a", "b", **check)])).systems
    assert {store: set(outlets) for store, outlets in system.down_to_m.items()} == {"a": {"x", "y"}, "b": {"y"}}


@pytest.mark.parametrize(("ground_m", "adds_l"), [(97.0, 0.0), (98.9, 0.0), (99.5, 1000.0), (110.0, 3000.0)])
def test_of_a_second_tank_that_counts_which_stands_over_the_drinker(ground_m: float, adds_l: float) -> None:
    """Its water, 1.5 m deep, counts down to the float at 100.5 m: 0, 0, 0.5 m and all of it; full it is 2 m deep."""
    document = farm([line("ax", "a", "x"), line("bx", "b", "x")], {"a": 120.0, "b": ground_m}, {"x": 100.0})
    analysis = judged(document)
    assert analysis.balance.usable_m3 * 1000 == pytest.approx(3000.0 + adds_l)
    assert [store.id for store in analysis.sources_of_outlets] == (["a", "b"] if ground_m > 98.5 else ["a"])
    assert len(analysis.feeding_inflows) == (2 if ground_m > 98.5 else 1)


def test_of_one_tank_the_higher_trough_says_how_long_it_lasts() -> None:
    analysis = judged(farm([line("ax", "a", "x"), line("ay", "a", "y")], {"a": 120.0}, {"x": 120.3, "y": 100.0}))
    assert analysis.balance.usable_m3 == pytest.approx(2.0 * (1.5 - 0.8))
    assert analysis.balance.days_in_hand == pytest.approx(1.4 / 1.4)  # all draw on it meanwhile
    low, high = (leak_of(analysis, analysis.model.layout.outlets[outlet]) for outlet in ("y", "x"))
    assert low is not None
    assert high is not None
    assert low.empty_s is not None
    assert high.empty_s is not None
    assert low.flow_m3s * low.empty_s > high.flow_m3s * high.empty_s  # a leak low down takes the rest too


@pytest.mark.parametrize(
    ("more", "usable_l"),
    [
        ({"points": [[0, 120.0], [50, 121.0], [100, 100.0]]}, 1000.0),
        ({"points": [[0, 120.0], [50, 121.0], [100, 100.0]], "siphon": True}, 3000.0),
        ({"points": [[0, 120.0], [50, 121.0], [100, 100.0]], "points_error_m": 0.6}, 3000.0),
        ({"points": [[0, 120.0], [50, 121.0], [100, 100.0]], "cover_m": 0.4}, 1800.0),
        ({"points": [[0, 120.0], [50, 119.0], [100, 100.0]]}, 3000.0),
    ],
)
def test_what_stands_below_a_high_point_on_the_way_does_not_come(more: dict[str, Any], usable_l: float) -> None:
    analysis = judged(farm([line("ax", "a", "x", **more)], {"a": 120.0}, {"x": 100.0}))
    assert analysis.balance.usable_m3 * 1000 == pytest.approx(usable_l)


def test_a_pump_lifts_what_stands_low_and_a_float_hands_on_what_stands_high() -> None:
    curve = {"pump": {"curve": [[0, 40], [60, 10]]}}
    lifted = judged(farm([line("ax", "a", "x"), line("ba", "b", "a", **curve)], {"a": 120.0, "b": 90.0}, {"x": 100.0}))
    assert lifted.balance.usable_m3 == pytest.approx(6.0)
    document = farm([line("ay", "a", "y"), line("bx", "b", "x")], {"a": 120.0, "b": 115.0}, {"x": 100.0, "y": 117.0})
    document["outlets"][1]["fills"] = "b"
    document["herds"] = document["herds"][:1]
    handed = judged(document)
    assert told(handed) == [({"a", "b"}, {"x", "y"})]
    assert handed.systems[0].down_to_m["a"]["x"] == pytest.approx(117.5)
    assert handed.balance.usable_m3 == pytest.approx(6.0)


@pytest.mark.parametrize("seed", range(40))
def test_a_store_reaches_what_the_solver_gives_water_from_it(seed: int) -> None:
    """No other vessel there, one outlet draws: it gets water where the level is over what is said, and else not."""
    document = random_network(seed, parts=False)
    for part in (*document["lines"], *document["places"]):
        part.pop("height_error_m", None)
    analysis = judged(document)
    for system in analysis.systems:
        for store in system.stores:
            floor = analysis.model.layout.floor_m(store)
            for outlet_id, down_to in system.down_to_m[store.id].items():
                low = max(down_to - floor, store.outlet_m)
                for level, wet in ((low + 0.3, True), (low - 0.02, False)):
                    if 0.0 < level < store.brim_m:
                        assert gets_water(document, store.id, level, outlet_id) in (wet, None), (outlet_id, level)


def gets_water(document: Document, store: str, level_m: float, outlet_id: str) -> bool | None:
    """None where the solver has no answer: one in a hundred of these plans, whose lines rise and fall by 40 m."""
    others = {vessel["id"] for vessel in document["vessels"]} - {store}
    alone = {
        "vessels": [{**vessel, "level_m": level_m} for vessel in document["vessels"] if vessel["id"] == store],
        "lines": [line for line in document["lines"] if not others & {line["from"], line["to"]}],
        "outlets": [{**outlet, "shut": outlet["id"] != outlet_id} for outlet in document["outlets"]],
    }
    state = solve(read_design({**document, **alone}), all_open=True)
    return state.outlets[outlet_id].judged_flow_m3s > 1e-9 if state.converged else None


def test_a_season_is_run_for_each_system_and_the_driest_is_told() -> None:
    document = farm(APART)
    document["season"] = {"weather": {"from": "2031-05-01", "rain_mm": [0.0] * 60}}
    analysis = judged(document)
    dry = [float(season.cautious.days_share[0]) for season in analysis.store_seasons]
    # b: of 3,000 L and 720 a day, 1,000 stand there on eight mornings, then on none
    assert dry == pytest.approx([1.0, 8 / 60])
    assert analysis.dry_season is not None
    assert analysis.dry_season[0].name == "b"
    moved = {"id": "m", "herd": "herd-y", "from": "2031-05-06", "to": "2031-12-31", "outlets": ["x"]}
    analysis = judged({**document, "calendar": [moved]})
    needs = [season.demand_m3 * 1000 for season in analysis.store_seasons]
    assert needs[0][:7].tolist() == pytest.approx([400] * 5 + [1400] * 2)
    assert needs[1][:7].tolist() == pytest.approx([1000] * 5 + [0] * 2)


@pytest.mark.parametrize("weather", [None, {"from": "2031-05-01", "rain_mm": [0.0] * 60}])
def test_a_year_counts_the_metered_water_of_every_system(weather: Any) -> None:
    """Both tanks on mains: x needs 400 L a day, y 1,000 of which its mains give no more than 900."""
    document = farm(APART)
    document["inflows"] = [
        {"id": f"mains-{tank}", "kind": "mains", "fills": tank, "flow_lpm": flow_lpm, "air_gap": True}
        for tank, flow_lpm in (("a", 1.0), ("b", 0.625))
    ]
    if weather:
        document["season"] = {"weather": weather}
    assert yearly_report(judged(document)).metered_l == pytest.approx(1_300.0 * 365.25)
