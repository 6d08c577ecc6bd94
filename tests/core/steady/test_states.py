"""States with their reasons: valves, pumps, reducers, tanks that give and take, air, and networks without an answer."""

import numpy as np
import pytest

from examples import Document, changed, network, one_line, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.ranges import Answer, CornerSearch, all_answers, ranges
from leadsman.core.analysis.running import TOGETHER
from leadsman.core.analysis.sensitivity import Outputs
from leadsman.core.analysis.uncertainty import rows_of
from leadsman.core.base.errors import CoreError, OutOfRange
from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.steady.answer import SteadyState
from leadsman.core.steady.case import case_of, scenario_named
from leadsman.core.steady.solve import model_of, solve, solve_cases, solve_with
from networks import random_network
from properties import seeds

PA_PER_M = 999.7 * GRAVITY_MS2


def state_of(document: Document, **how) -> SteadyState:  # type: ignore[no-untyped-def]
    return solve(read_design(document), **how)


def two_tanks(**changes: object) -> Document:
    """A high and a low tank joined at a fork, with an open end below it."""
    lines = [("high", "fork", 34.0, 100.0), ("low", "fork", 34.0, 100.0), ("fork", "end", 27.2, 50.0)]
    base = network(tanks={"high": 30.0, "low": 20.0}, places={"fork": 5.0, "end": 0.0}, lines=lines, open_end_mm=8.0)
    return changed(base, changes)


def test_the_higher_of_two_tanks_fills_the_lower_until_a_check_valve_forbids_it() -> None:
    free = state_of(two_tanks())
    assert free.lines["l1"].flow_m3s < 0.0
    held = state_of(two_tanks(**{"lines.1.inline": [{"kind": "check_valve", "at_m": 50}]}))
    assert held.lines["l1"].state == "pressed_shut"
    assert "check valve is held closed" in plain(held.lines["l1"].reason)
    assert held.outlets["out"].flow_m3s > free.outlets["out"].flow_m3s


def test_a_tank_at_its_outlet_gives_nothing_and_still_takes() -> None:
    low_level = {"vessels.1.level_m": 0.3, "vessels.1.outlet_m": 0.3}
    taking = state_of(two_tanks(**low_level))
    assert taking.lines["l1"].flow_m3s < 0.0
    refused = state_of(two_tanks(**low_level, **{"lines.1.inline": [{"kind": "check_valve", "at_m": 50}]}))
    assert refused.lines["l1"].flow_m3s == 0.0
    alone = state_of(two_tanks(**low_level, **{"lines.0.shut": True}))
    assert alone.outlets["out"].state == "dry"
    assert plain(alone.outlets["out"].reason) == "low is down to its outlet and gives nothing"
    assert alone.heads_m["fork"] is None


def test_a_tank_that_a_float_fills_feeds_its_own_line() -> None:
    base = network(
        tanks={"top": 50.0, "broken": 20.0}, places={"valve-place": 20.0, "end": 0.0}, open_end_mm=8.0,
        lines=[("top", "valve-place", 27.2, 200.0), ("broken", "end", 27.2, 100.0)],
    )  # fmt: skip
    base["outlets"].append(
        {"id": "float", "place": "valve-place", "kind": "float_valve", "fills": "broken", "height_m": 0.5,
         "valve": {"kv_m3h": 1.0, "closes_at_m": 1.5, "band_m": 0.2}}
    )  # fmt: skip
    state = state_of(base)
    assert state.outlets["float"].flow_m3s > 0.0
    assert state.outlets["out"].head_m is not None
    assert state.outlets["out"].head_m < 20.0  # the tank breaks the pressure of the 50 m


# --- reducers --------------------------------------------------------------------------------------------------------


def reduced(kpa: float, **changes: object) -> SteadyState:
    document = network(tanks={"tank": 60.0}, places={"end": 0.0}, lines=[("tank", "end", 27.2, 200.0)], open_end_mm=8.0)
    document["lines"][0] |= {
        "inline": [{"kind": "reducer", "at_m": 80.0, "outlet_kpa": kpa}],
        "points": [[0, 59], [80, 30], [200, 0]],
    }
    return state_of(changed(document, changes))


def test_a_reducer_holds_its_pressure_where_it_sits() -> None:
    state = reduced(50.0)
    # behind it stands 30 m + 50 kPa; the rest is the same as a tank of that height before 120 m of pipe
    tank = 30.0 + 50_000 / PA_PER_M
    same = state_of(
        network(tanks={"tank": tank}, places={"end": 0.0}, lines=[("tank", "end", 27.2, 120.0)], open_end_mm=8.0)
    )
    assert state.outlets["out"].flow_m3s == pytest.approx(same.outlets["out"].flow_m3s, rel=1e-6)
    assert plain(state.lines["l0"].reason) == "its reducer holds 50.0 kPa"


def test_a_reducer_that_gets_less_stands_open_and_one_backwards_lets_nothing_by() -> None:
    opened, plain_line = reduced(900.0), reduced(50.0, **{"lines.0.inline": []})
    assert opened.outlets["out"].flow_m3s == pytest.approx(plain_line.outlets["out"].flow_m3s, rel=1e-6)
    assert "stands open" in plain(opened.lines["l0"].reason)
    turned = {"lines.0.from": "end", "lines.0.to": "tank", "lines.0.points": []}
    assert reduced(50.0, **turned).outlets["out"].state == "dry"


def test_shut_water_behind_a_reducer_keeps_its_setting() -> None:
    state = reduced(50.0, **{"outlets.0.shut": True})
    assert state.heads_m["end"] == pytest.approx(30.0 + 50_000 / PA_PER_M)


# --- pumps -----------------------------------------------------------------------------------------------------------

CURVE = [[0.0, 40.0], [60.0, 30.0], [120.0, 5.0]]


def lifted(pump: Document, **changes: object) -> SteadyState:
    document = network(tanks={"pond": 0.0, "tower": 25.0}, lines=[("pond", "tower", 34.0, 150.0)])
    return state_of(changed(document, {"lines.0.pump": pump, **changes}))


def test_a_pump_runs_where_its_curve_meets_the_line() -> None:
    state = lifted({"curve": CURVE})
    line = state.lines["l0"]
    flow_lpm = line.flow_m3s * 60_000
    pipe_m = float(state.flow.losses_of_lines_m[0, 0])
    lift = np.interp(flow_lpm, [q for q, _ in CURVE], [h for _, h in CURVE])
    assert lift == pytest.approx(25.0 + pipe_m, rel=1e-6)
    assert line.loss_m == pytest.approx(-25.0)
    assert "lifts it 25.00 m" in plain(line.reason)


def test_a_pump_of_given_flow_gives_it_and_one_too_weak_gives_nothing() -> None:
    assert lifted({"flow_lpm": 45.0}).lines["l0"].flow_m3s * 60_000 == pytest.approx(45.0)
    weak = lifted({"curve": [[0.0, 20.0], [60.0, 1.0]]}).lines["l0"]
    assert (weak.state, weak.flow_m3s) == ("pressed_shut", 0.0)
    assert "more than it can" in plain(weak.reason)


def test_a_pump_of_given_flow_lifts_its_line_as_its_curve_would() -> None:
    """Heads along the line, past a high point above the tower: those of a pump whose curve gives the same."""
    high_point = {"lines.0.points": [[0, 0.0], [60, 27.0], [150, 25.0]], "lines.0.fittings": [{"k": 4.0}]}
    curved = lifted({"curve": CURVE}, **high_point)
    flow_lpm = curved.lines["l0"].flow_m3s * 60_000
    given = lifted({"flow_lpm": flow_lpm}, **high_point)
    assert given.flow.point_heads_m == pytest.approx(curved.flow.point_heads_m, abs=1e-6)
    assert given.solved.suctions == curved.solved.suctions == ()
    higher = lifted({"flow_lpm": flow_lpm}, **{**high_point, "lines.0.points": [[0, 0.0], [60, 40.0], [150, 25.0]]})
    assert higher.solved.suctions != ()  # near miss: a high point over the pressure line still draws air in


def test_a_trough_teed_off_a_rising_line_takes_its_share() -> None:
    lines = [("pond", "tee", 34.0, 80.0), ("tee", "tower", 34.0, 80.0)]
    document = network(tanks={"pond": 0.0, "tower": 25.0}, places={"tee": 5.0}, lines=lines, open_end_mm=6.0)
    document["lines"][0]["pump"] = {"flow_lpm": 50.0}
    state = state_of(document)
    assert state.outlets["out"].flow_m3s + state.lines["l1"].flow_m3s == pytest.approx(50 / 60_000)
    without = state_of(
        changed(document, {"lines.0.pump": None, "lines.0.inline": [{"kind": "check_valve", "at_m": 1}]})
    )
    assert without.lines["l1"].flow_m3s < 0.0  # the tower drains back to the tee


NO_ANSWER = [
    ({"lines.0.pump": {"flow_lpm": 9.0}, "lines.0.to": "end"}, "forces 9.0 L/min into a part that no water can leave"),
    ({"lines.0.pump": {"flow_lpm": 9.0}, "lines.0.from": "end", "lines.0.to": "tower", "vessels.0.level_m": 0.0},
     None),
]  # fmt: skip


@pytest.mark.parametrize(("changes", "why"), NO_ANSWER, ids=["dead end", "no water"])
def test_a_network_without_an_answer_says_why(changes: Document, why: str | None) -> None:
    document = network(tanks={"pond": 0.0, "tower": 25.0}, places={"end": 3.0}, lines=[("pond", "tower", 34.0, 150.0)])
    state = state_of(changed(document, changes))
    if why is None:  # nothing reaches the pump: it runs dry, which is an answer
        assert state.converged
        assert state.lines["l0"].state == "cut_off"
    else:
        assert not state.converged
        assert not state.feasible
        assert why in plain(state.why)
        assert set(state.heads_m.values()) == {None}


BAD_PARTS = [
    ({"lines.0.inline": [{"kind": "reducer", "at_m": 3}]}, "/lines/0/inline/0"),
    ({"lines.0.inline": [{"kind": "vent", "at_m": 3, "outlet_kpa": 4}]}, "/lines/0/inline/0"),
    ({"lines.0.pump": {}}, "/lines/0/pump"),
    ({"lines.0.pump": {"curve": [[0, 9], [5, 9]]}}, "/lines/0/pump/curve"),
    ({"lines.0.pump": {"curve": [[0, 9], [5, 3]], "flow_lpm": 3}}, "/lines/0/pump"),
    ({"scenarios": [{"id": "s", "open": ["gone"]}]}, "/scenarios/0/open/0"),
    ({"scenarios": [{"id": "s", "levels_m": {"gone": 1}}]}, "/scenarios/0/levels_m/gone"),
    ({"scenarios": [{"id": "s", "open": ["line"], "shut": ["line"]}]}, "/scenarios/0"),
]


@pytest.mark.parametrize(("changes", "path"), BAD_PARTS, ids=[path for _, path in BAD_PARTS])
def test_bad_parts_are_refused_by_path(changes: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(**changes))
    assert path in [fault.path for fault in refused.value.faults]


# --- cases -----------------------------------------------------------------------------------------------------------


def test_all_states_of_one_call_are_what_each_gives_by_itself() -> None:
    design = read_design(changed(worked_example(), {"outlets.2.shut": False}))
    analysis = Analysis(design)
    assert set(analysis.states) == {TOGETHER, "low-valve", "drip", "washout"}
    for outlet in design.outlets:
        alone = model_of(design)
        by_itself = solve_cases(alone, {"x": case_of(design, all_open=True).with_only(outlet.id)})["x"]
        together = analysis.states[outlet.id]
        assert together.outlets[outlet.id].flow_m3s == pytest.approx(by_itself.outlets[outlet.id].flow_m3s, rel=1e-9)
        others = [other for other in design.outlets if other.id != outlet.id]
        assert all(together.outlets[other.id].state == "shut" for other in others)
        assert together.outlets[outlet.id].flow_m3s >= analysis.state.outlets[outlet.id].flow_m3s - 1e-9


def test_a_scenario_opens_shuts_sets_levels_and_warms_the_water() -> None:
    scenario = {"id": "flush", "name": "Flushing", "open": ["washout"], "shut": ["low-valve", "drip-feed"],
                "levels_m": {"header": 0.5}, "water_c": 30}  # fmt: skip
    design = read_design(changed(worked_example(), {"scenarios": [scenario]}))
    state = solve(design, scenario=scenario_named(design, "Flushing"))
    assert state.outlets["washout"].state == "running"
    assert plain(state.outlets["low-valve"].reason) == "shut in this case"
    assert state.lines["drip-feed"].state == "shut"
    assert state.heads_m["header"] == pytest.approx(269.5)
    assert state.water.temperature_c == 30
    with pytest.raises(CoreError, match="no scenario"):
        scenario_named(design, "nobody")
    over = read_design(changed(worked_example(), {"scenarios": [{"id": "s", "levels_m": {"header": 9}}]}))
    with pytest.raises(OutOfRange) as refused:
        solve(over, scenario=over.scenarios[0])
    assert refused.value.path == "/scenarios/0/levels_m/header"


def test_a_valve_is_judged_to_open_with_the_others_drawing() -> None:
    greedy = {"outlets.1": {"id": "gush", "place": "fork", "kind": "open_end", "bore_mm": 25},
              "outlets.2": None, "lines.2": None, "outlets.0.valve.min_pressure_kpa": 60}  # fmt: skip
    document = changed(worked_example(), greedy)
    together = state_of(document).outlets["low-valve"]
    assert together.state == "shut"
    assert "needs 6.12 m of head to open" in plain(together.reason)
    alone = Analysis(read_design(document)).states["low-valve"].outlets["low-valve"]
    assert alone.state == "running"


def test_a_valve_that_stays_shut_leaves_the_others_what_they_have_without_it() -> None:
    thirsty = {"outlets.0.valve.min_pressure_kpa": 300, "outlets.2.shut": False}
    design = read_design(changed(worked_example(), thirsty))
    model, case = model_of(design), case_of(design, all_open=True)
    states, also = solve_with(model, {"as asked": case, "alone": case.with_only("low-valve")}, [case])
    assert states["as asked"].outlets["low-valve"].state == "shut"
    assert states["alone"].outlets["low-valve"].state == "shut"
    without = solve_cases(model_of(design), {"x": case.with_shut("low-valve")})["x"]
    for outlet_id in ("drip", "washout"):
        told = states["as asked"].outlets[outlet_id]
        assert told.flow_m3s == pytest.approx(without.outlets[outlet_id].flow_m3s, rel=1e-9)
    # a case that is asked for beside is solved as it stands, its valve open
    assert also[0].outlet_flow_m3s("low-valve") > 0.0


CASES = [
    ({"shut": ["low-valve"]}, {"low-valve": "shut", "drip": "running"}),
    ({"shut": ["spur"]}, {"low-valve": "dry", "drip": "running"}),
    ({"open": ["washout"]}, {"washout": "running"}),
    ({"levels_m": {"header": 0.0}}, {"low-valve": "dry", "drip": "dry"}),
    ({"shut": ["main"]}, {"low-valve": "dry", "drip": "dry"}),
]


@pytest.mark.parametrize(("scenario", "states"), CASES, ids=[str(case[0]) for case in CASES])
def test_the_case_shown_is_the_one_that_is_judged(scenario: Document, states: Document) -> None:
    document = changed(worked_example(), {"scenarios": [{"id": "case", **scenario}], "shown_for": "case"})
    analysis = Analysis(read_design(document))
    told = {outlet_id: answer.state.value for outlet_id, answer in analysis.state.outlets.items()}
    assert {key: told[key] for key in states} == states
    drawing = {outlet.id for outlet in analysis.fed_outlets}
    assert drawing == {outlet_id for outlet_id, state in told.items() if state != "shut"}
    wanted = {outlet.id for outlet in analysis.fed_outlets} | {TOGETHER}
    assert set(analysis.states) == wanted
    assert set(analysis.wanted_flows) == wanted


def test_warmer_water_in_a_case_runs_a_little_faster() -> None:
    cases = [{"id": "cold", "water_c": 4.0}, {"id": "warm", "water_c": 28.0}]
    flows = {}
    for name in ("cold", "warm"):
        document = changed(worked_example(), {"scenarios": cases, "shown_for": name})
        analysis = Analysis(read_design(document))
        assert analysis.model.water.temperature_c == {"cold": 4.0, "warm": 28.0}[name]
        flows[name] = analysis.state.outlets["low-valve"].flow_m3s
    assert 1.0 < flows["warm"] / flows["cold"] < 1.1


def test_an_outlet_that_the_others_starve_says_so() -> None:
    gush = {"outlets.1": {"id": "gush", "place": "fork", "kind": "open_end", "bore_mm": 34}, "lines.2": None,
            "places.2.ground_m": 258.0}  # fmt: skip
    starved = state_of(changed(worked_example(), gush)).outlets["low-valve"]
    assert starved.state == "dry"
    assert "what the others draw" in plain(starved.reason)


def test_a_fixed_draw_that_starves_makes_the_whole_state_infeasible() -> None:
    state = state_of(changed(worked_example(), {"places.1.draw_lpm": 300.0}))
    assert not state.feasible
    assert "does not get" in plain(state.why)


def test_hazen_williams_reads_low_and_is_not_compared_below_re_4000() -> None:
    darcy, other = state_of(worked_example()), state_of(worked_example(), friction="hazen-williams")
    ratio = darcy.lines["main"].hazen_williams_ratio
    assert ratio is not None
    assert 0.83 < ratio < 0.91  # 9 to 17 % low for these pipes at 10 °C
    assert other.outlets["low-valve"].flow_m3s > darcy.outlets["low-valve"].flow_m3s
    slow = state_of(changed(worked_example(), {"outlets.1.flow_lpm": 2.0}))
    assert slow.lines["drip-feed"].hazen_williams_ratio is None


# --- air -------------------------------------------------------------------------------------------------------------


def test_one_suction_branch_spares_the_other_and_both_answers_are_given() -> None:
    lines = [("tank", "fork", 53.6, 20.0), ("fork", "over", 27.2, 100.0), ("over", "low", 27.2, 100.0),
             ("fork", "side", 20.4, 100.0)]  # fmt: skip
    document = network(tanks={"tank": 20.0}, places={"fork": 15.0, "over": 18.9, "low": 0.0, "side": 10.0}, lines=lines)
    document["outlets"] = [
        {"id": "far", "place": "low", "kind": "open_end", "bore_mm": 20},
        {"id": "near", "place": "side", "kind": "open_end", "bore_mm": 10},
    ]
    state = state_of(document)
    below = state.outlets["far"].below_atmospheric
    assert below is not None
    assert (below.line_id, below.at_m) == ("l1", 100.0)
    assert below.open_m3s < (below.full_pipe_m3s or 0.0)
    assert state.outlets["far"].judged_flow_m3s == below.open_m3s
    assert state.outlets["near"].below_atmospheric is None
    assert state.solved.used.head_m("over") == pytest.approx(18.9, abs=1e-6)  # the water stands open there
    # the open answer is that of a tank whose line ends at the high point
    cut = network(tanks={"tank": 20.0}, places={"fork": 15.0, "over": 18.9, "side": 10.0}, lines=[*lines[:2], lines[3]])
    cut["outlets"] = [{"id": "far", "place": "over", "kind": "open_end", "bore_mm": 2000}, document["outlets"][1]]
    assert state_of(cut).outlets["far"].flow_m3s == pytest.approx(below.open_m3s, rel=1e-6)


def test_a_fixed_draw_behind_a_high_point_gets_what_comes_over_it() -> None:
    document = network(
        tanks={"tank": 20.0}, places={"over": 19.5, "low": 0.0},
        lines=[("tank", "over", 20.4, 100.0), ("over", "low", 20.4, 100.0)],
    )  # fmt: skip
    document["outlets"] = [{"id": "drip", "place": "low", "kind": "fixed", "flow_lpm": 20.0}]
    answer = state_of(document).outlets["drip"]
    assert answer.below_atmospheric is not None
    assert 0.0 < answer.judged_flow_m3s < 20 / 60_000
    gentle = state_of(changed(document, {"outlets.0.flow_lpm": 1.0})).outlets["drip"]
    assert gentle.below_atmospheric is None


# --- ranges ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("seed", seeds(200, 10))
def test_a_thousand_draws_lie_between_worst_and_best(seed: int) -> None:
    state = state_of(random_network(seed, most_places=8))
    flow = state.solved.used
    answers = all_answers(flow)
    found = ranges(flow, answers)
    search = CornerSearch([(flow, answer) for answer in answers])
    figures = rows_of(search.intervals, np.random.default_rng(seed).random((1000, len(search.columns))))
    cases = flow.model.loader.cases([flow.case] * 1000, figures)
    solution = flow.model.plumbing.solver.solve(cases)
    assert solution.converged.all()
    for row, answer in enumerate(answers):
        own = Outputs(**{name: np.repeat(column[row : row + 1], 1000) for name, column in vars(search.outputs).items()})
        drawn = own.values(solution, figures)
        one = found[answer]
        assert one.worst <= one.likely <= one.best
        assert drawn.min() >= one.worst - 1e-7, answer
        assert drawn.max() <= one.best + 1e-7, answer


def test_an_outlets_worst_case_has_its_own_height_high_and_its_siblings_low() -> None:
    document = changed(worked_example(), {
        "places.0.height_error_m": 0.0, "places.2.height_error_m": 0.5, "places.3.height_error_m": 0.5,
        "outlets.1": {"id": "drip", "place": "nursery", "kind": "open_end", "height_m": 0.3, "bore_mm": 12},
    })  # fmt: skip
    state = state_of(document)
    search = CornerSearch([(state.flow, Answer("outlet_flow", "low-valve"))])
    _, moves = search.solved(np.array([0]), search.likely_share[None])
    by_figure = dict(zip(search.columns, moves[0], strict=True))
    assert by_figure["place_rise_m", 2] < 0.0 < by_figure["place_rise_m", 3]
    found = search.ranges()[0]
    assert found is not None
    assert found.worst < found.likely < found.best
    assert {cause.kind for cause in found.causes[:2]} <= {"kv_factor", "level_rise_m", "place_rise_m"}
