"""Steady flow of one line: the format's example, inverse cases, states with their reasons, the section."""

import math

import fluids
import fluids.friction
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from examples import Document, changed, one_line, worked_example
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.design.file import read_design
from leadsman.core.report.steady import SolveReport, solve_report
from leadsman.core.steady.solve import solve


def solved(document: Document) -> SolveReport:
    return solve_report(solve(read_design(document)))


def analysed(document: Document) -> Analysis:
    return Analysis(read_design(document))


def test_example_with_only_its_main_and_valve_agrees_with_an_independent_solution() -> None:
    document = worked_example()
    document["lines"][2]["shut"] = True
    report = solved(document)

    def gap(flow: float) -> float:
        lost = 0.0
        for length, bore, k in ((224.0, 0.034, 1.8), (130.0, 0.0272, 0.0)):
            velocity = flow / (math.pi * bore**2 / 4)
            factor = fluids.friction.Colebrook(velocity * bore / 1.30629e-6, 7e-6 / bore, tol=-1)
            lost += (factor * length / bore + k) * velocity**2 / (2 * GRAVITY_MS2)
        return 270.6 - lost - (246.9 + 0.5) - (flow * 3600 / 2.1) ** 2 * 1e5 / (999.7 * GRAVITY_MS2)

    flow = brentq(gap, 1e-5, 1e-2, xtol=1e-12) * 60000
    assert report.converged
    assert report.outlets["low-valve"].state == "running"
    assert report.outlets["low-valve"].flow_lpm == pytest.approx(flow, rel=1e-3)
    assert report.lines["main"].flow_lpm == pytest.approx(report.outlets["low-valve"].flow_lpm)
    assert report.lines["spur"].flow_lpm == pytest.approx(report.outlets["low-valve"].flow_lpm)
    assert report.outlets["drip"].state == "dry"
    assert not report.feasible  # a draw that is to be had nowhere
    assert report.outlets["washout"].state == "shut"
    assert report.nodes["header"].head_m == pytest.approx(270.6)


def test_example_with_only_its_drip_agrees_with_the_contract() -> None:
    # the contract's own independent solver: fork 270.471, drip 268.994 (0.02 m)
    document = worked_example()
    document["outlets"][0]["shut"] = True
    report = solved(document)
    assert report.nodes["fork"].head_m == pytest.approx(270.471, abs=0.001)
    assert report.outlets["drip"].head_m == pytest.approx(268.994, abs=0.001)
    assert report.outlets["drip"].pressure_kpa == pytest.approx((268.994 - 249.3) * 9.8037, rel=0.001)
    assert report.outlets["low-valve"].head_m == pytest.approx(report.nodes["fork"].head_m)


def open_end(fall_m: float, pieces: list[tuple[str | float, float]], k: float = 0.0) -> Document:
    """A tank, one line of pieces (bore in mm, length), and an end wide enough to lose nothing."""
    document = one_line(
        **{"places.1.ground_m": 121.0 - fall_m, "lines.0.points": [], "herds": [], "inflows": [], "requirements": []}
    )
    places = [{"id": f"j{i}", "east_m": 0, "north_m": 0, "ground_m": 100} for i in range(len(pieces) - 1)]
    document["places"] += places
    ends = ["tank", *[place["id"] for place in places], "valve"]
    document["lines"] = [
        {"id": f"l{i}", "from": ends[i], "to": ends[i + 1], "bore_mm": bore, "roughness_mm": 0.007, "length_m": length}
        for i, (bore, length) in enumerate(pieces)
    ]
    document["lines"][0]["fittings"] = [{"k": k}]
    document["outlets"] = [{"id": "valve", "place": "end", "kind": "open_end", "bore_mm": 2000}]
    return document


@pytest.mark.parametrize(
    ("fall_m", "pieces", "k", "lps"),
    [  # Darcy–Weisbach with Colebrook solved for the flow, recomputed with fluids 1.3.1, 10 °C
        (5.0, [(27.2, 200.0)], 0.0, 0.3964),
        (5.0, [(27.2, 200.0)], 1.5, 0.3948),
        (16.493, [(27.2, 120.0), (20.4, 80.0)], 0.0, 0.5),
    ],
)
def test_flow_for_a_given_fall(fall_m: float, pieces: list[tuple[str | float, float]], k: float, lps: float) -> None:
    report = solved(open_end(fall_m, pieces, k))
    assert report.outlets["valve"].flow_lpm / 60 == pytest.approx(lps, rel=0.002)
    assert sum(line.loss_m for line in report.lines.values()) == pytest.approx(fall_m, abs=1e-3)


def test_runs_are_the_same_as_lines_in_series() -> None:
    products = ("pe100-sdr13.6-50", "pe100-sdr17-32")
    runs = one_line(**{"lines.0.product": None, "lines.0.runs": [{"product": p, "length_m": 105.0} for p in products]})
    series = one_line()
    series["places"].append({"id": "joint", "east_m": 1, "north_m": 1, "ground_m": 110})
    series["lines"] = [
        {"id": "a", "from": "tank", "to": "joint", "product": products[0], "length_m": 105.0},
        {"id": "b", "from": "joint", "to": "valve", "product": products[1], "length_m": 105.0},
    ]
    assert solved(runs).outlets["valve"].flow_lpm == pytest.approx(solved(series).outlets["valve"].flow_lpm, rel=1e-9)


def test_a_line_drawn_backwards_has_the_same_flow_against_its_sign() -> None:
    forwards = solved(one_line())
    points = [[0, 101], [70, 108], [140, 112], [210, 120]]
    backwards = solved(one_line(**{"lines.0.from": "valve", "lines.0.to": "tank", "lines.0.points": points}))
    assert backwards.lines["line"].flow_lpm == pytest.approx(-forwards.lines["line"].flow_lpm, rel=1e-9)
    assert backwards.lines["line"].loss_m == pytest.approx(-forwards.lines["line"].loss_m, rel=1e-9)
    assert backwards.outlets["valve"].head_m == pytest.approx(forwards.outlets["valve"].head_m)


@given(
    st.floats(0.2, 40), st.floats(5, 800), st.sampled_from([4.0, 15.9, 20.4, 34.0, 53.6]),
    st.floats(0.05, 20), st.floats(0, 30),
)  # fmt: skip
def test_what_is_lost_and_needed_adds_up_to_the_fall(
    fall_m: float, length_m: float, bore_mm: float, kv: float, k: float
) -> None:
    document = one_line(
        **{
            "places.1.ground_m": 120.4 - fall_m,
            "lines.0.points": [],
            "lines.0.length_m": length_m,
            "lines.0.bore_mm": bore_mm,
            "lines.0.fittings": [{"k": k}],
            "outlets.0.valve.kv_m3h": kv,
        }
    )
    report = solved(document)
    flow = report.outlets["valve"].flow_lpm
    valve_m = (flow * 0.06 / kv) ** 2 * 1e5 / (999.7 * GRAVITY_MS2)
    assert report.converged
    assert flow > 0
    assert report.lines["line"].loss_m + valve_m == pytest.approx(fall_m, abs=1e-4)


STATES = [
    ({"outlets.0.shut": True}, "shut", "shut by hand"),
    ({"vessels.1.level_m": 0.55}, "shut", "is full"),
    ({"outlets.0.valve.min_pressure_kpa": 900}, "shut", "needs"),
    ({"places.1.ground_m": 130.0, "lines.0.points": []}, "dry", "above the water"),
    ({"lines.0.shut": True}, "dry", "cut off"),
    ({"vessels.0.outlet_m": 1.0}, "dry", "down to its outlet"),
    ({"lines.0.inline": [{"kind": "check_valve", "at_m": 3}], "lines.0.from": "valve", "lines.0.to": "tank",
      "lines.0.points": []}, "dry", "cut off"),
]  # fmt: skip


@pytest.mark.parametrize(("changes", "state", "reason"), STATES, ids=[reason for _, _, reason in STATES])
def test_an_outlet_that_does_not_run_says_why(changes: Document, state: str, reason: str) -> None:
    outlet = solved(one_line(**changes)).outlets["valve"]
    assert (outlet.state, outlet.flow_lpm) == (state, 0.0)
    assert reason in outlet.reason


def test_a_cut_off_node_has_no_head() -> None:
    document = worked_example()
    document["lines"][0]["shut"] = True
    report = solved(document)
    assert report.nodes["fork"].head_m is None
    assert report.outlets["low-valve"].head_m is None
    assert report.lines["spur"].state == "cut_off"


def test_a_fixed_draw_below_its_least_pressure_is_short_and_the_state_not_feasible() -> None:
    document = worked_example()
    document["outlets"][0]["shut"] = True
    document["outlets"][1]["min_pressure_kpa"] = 250
    report = solved(document)
    assert report.outlets["drip"].state == "short"
    assert not report.feasible


def test_a_fixed_draw_above_its_water_is_short_and_not_dry() -> None:
    document = changed(worked_example(), {"outlets.0.shut": True, "outlets.1.height_m": 30.0})
    assert solved(document).outlets["drip"].state == "short"


def test_an_emitter_passes_its_law() -> None:
    # 4 L/h at 100 kPa, exponent 0.5: 1.789 L/h at 20 kPa (by hand); a pipe so wide that it loses nothing
    document = open_end(20.0 / 9.8037, [(500.0, 10.0)])
    document["outlets"] = [{"id": "valve", "place": "end", "kind": "emitter", "flow_lpm": 4 / 60, "pressure_kpa": 100}]
    assert solved(document).outlets["valve"].flow_lpm * 60 == pytest.approx(1.789, abs=0.001)


def test_grade_along_the_line_falls_from_the_tank_to_the_valve() -> None:
    analysis = analysed(one_line(**{"lines.0.fittings": [{"k": 4.0}]}))
    outlet = analysis.design.outlets[0]
    points = analysis.section(outlet)
    heads = [point.running_head_m for point in points if point.running_head_m is not None]
    assert len(heads) == len(points)
    assert heads == sorted(heads, reverse=True)
    assert heads[0] < 121.0  # the fittings at the start are passed
    assert heads[-1] == pytest.approx(analysis.answer(outlet).head_m)
    assert [point.shut_head_m for point in points] == pytest.approx([121.0] * 4)
    middle = points[1]
    assert middle.shut_pa == pytest.approx((121.0 - 112.0) * 999.7 * GRAVITY_MS2, rel=1e-4)
    assert (points[0].pipe_m, points[-1].pipe_m) == (120.0, 101.6)


def test_margin_is_what_is_left_over_the_valves_need_at_the_wanted_flow() -> None:
    analysis = analysed(one_line(**{"requirements.0.flow_lpm": 30.0}))
    taken = analysis.sounding(analysis.design.outlets[0])
    assert taken is not None
    need_m = (30 * 0.06 / 3.0) ** 2 * 1e5 / (999.7 * GRAVITY_MS2)
    factor = fluids.friction.Colebrook(5e-4 / (math.pi * 0.0272**2 / 4) * 0.0272 / 1.30629e-6, 7e-6 / 0.0272)
    pipe_m = factor * 210 / 0.0272 * (5e-4 / (math.pi * 0.0272**2 / 4)) ** 2 / (2 * GRAVITY_MS2)
    assert taken.margin_m == pytest.approx(121.0 - 101.6 - pipe_m - need_m, rel=1e-3)


def test_at_a_high_point_above_the_grade_the_smaller_flow_counts() -> None:
    high_point = {"lines.0.points": [[0, 120], [70, 119.5], [140, 105], [210, 101]], "outlets.0.valve.kv_m3h": 8.0}
    below = solved(one_line(**high_point)).outlets["valve"].below_atmospheric
    assert below is not None
    assert below.used == "open_to_air"
    assert below.open_lpm < (below.full_pipe_lpm or 0)
    # the flow that just reaches the high point open to air: 70 m take 1.5 m
    assert below.open_lpm / 60 == pytest.approx(0.3653, rel=0.01)
    siphon = solved(one_line(**high_point, **{"lines.0.siphon": True})).outlets["valve"].below_atmospheric
    assert siphon is not None
    assert siphon.used == "full_pipe"


def test_below_vapour_pressure_the_full_pipe_flow_is_withheld() -> None:
    deep = {
        "lines.0.points": [[0, 120], [70, 120.5], [140, 90], [210, 60]],
        "places.1.ground_m": 60.0,
        "outlets.0.valve.kv_m3h": 50.0,
        "lines.0.siphon": True,
    }
    outlet = solved(one_line(**deep)).outlets["valve"]
    assert outlet.below_atmospheric is not None
    assert outlet.below_atmospheric.full_pipe_lpm is None
    assert outlet.flow_lpm == outlet.below_atmospheric.open_lpm
