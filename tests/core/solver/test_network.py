"""The network solver: outside values, convergence from anywhere, and what must hold of every network."""

import copy
import math
from dataclasses import replace
from typing import Any

import fluids
import fluids.friction
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from examples import Document, changed, network, worked_example
from leadsman.core.base.units import GRAVITY_MS2
from leadsman.core.design.file import read_design
from leadsman.core.report.steady import SolveReport, solve_report
from leadsman.core.solver.gradient import Start, control_rows
from leadsman.core.steady.case import Case, case_of
from leadsman.core.steady.network_model import NetworkModel
from leadsman.core.steady.solve import model_of, solve
from networks import random_network
from properties import seeds

NU_10C = 1.30629e-6


def solved(document: Document, **how: Any) -> SolveReport:
    return solve_report(solve(read_design(document), **how), how.get("friction", "darcy"))


def heads(document: Document, **how: Any) -> dict[str, float]:
    """The heads with every pipe full."""
    state = solve(read_design(document), **how)
    flow = state.solved.full
    assert state.converged
    assert flow.converged
    return {node: head for node in state.heads_m if (head := flow.head_m(node)) is not None}


def colebrook_loss_m(flow_m3s: float, bore_m: float, length_m: float, roughness_m: float, k: float = 0.0) -> float:
    """An independent Darcy–Weisbach loss, for Re above 4,000 or below 2,000."""
    velocity = flow_m3s / (math.pi * bore_m**2 / 4)
    reynolds = velocity * bore_m / NU_10C
    factor = 64 / reynolds if reynolds < 2000 else fluids.friction.Colebrook(reynolds, roughness_m / bore_m, tol=-1)
    return (factor * length_m / bore_m + k) * velocity**2 / (2 * GRAVITY_MS2)


def test_the_formats_example_agrees_with_its_independent_solution() -> None:
    report = solved(worked_example())
    flows = {name: line.flow_lpm for name, line in report.lines.items()}
    assert flows == pytest.approx({"main": 42.30, "spur": 36.30, "drip-feed": 6.00}, rel=5e-4)
    assert report.nodes["header"].head_m == pytest.approx(270.600)
    assert report.nodes["fork"].head_m == pytest.approx(265.226, abs=0.001)
    assert report.outlets["low-valve"].head_m == pytest.approx(258.370, abs=0.001)
    assert report.outlets["drip"].head_m == pytest.approx(263.749, abs=0.001)
    pressures = [report.nodes["fork"].pressure_kpa, *(report.outlets[o].pressure_kpa for o in ("low-valve", "drip"))]
    assert pressures == pytest.approx([137.5, 107.5, 141.7], abs=0.06)
    assert [report.outlets[o].state for o in ("low-valve", "drip", "washout")] == ["running", "running", "shut"]


# --- textbook networks -----------------------------------------------------------------------------------------------


def test_three_reservoirs_agree_with_a_bisection_on_the_junction() -> None:
    tanks = {"high": (40.0, 600.0, 0.0536), "middle": (30.0, 300.0, 0.0426), "low": (10.0, 500.0, 0.0426)}
    document = network(
        tanks={name: level for name, (level, _, _) in tanks.items()}, places={"fork": 0.0},
        lines=[(name, "fork", bore * 1000, length) for name, (_, length, bore) in tanks.items()],
    )  # fmt: skip

    def flow_in(head_m: float, name: str) -> float:
        level, length, bore = tanks[name]
        drop = level - head_m
        if drop == 0.0:
            return 0.0
        size = brentq(lambda q: colebrook_loss_m(q, bore, length, 7e-6) - abs(drop), 1e-12, 1.0, xtol=1e-14)
        return math.copysign(size, drop)

    head_m = brentq(lambda h: sum(flow_in(h, name) for name in tanks), 12.0, 39.0, xtol=1e-10)
    report = solved(document)
    assert report.nodes["fork"].head_m == pytest.approx(head_m, abs=1e-5)
    for number, name in enumerate(tanks):
        assert report.lines[f"l{number}"].flow_lpm / 60_000 == pytest.approx(flow_in(head_m, name), rel=1e-6)


def test_parallel_pipes_share_a_flow() -> None:
    # 100 m each of 27.2 and 20.4 mm at 0.7 L/s in all: 3.505 m, split 0.4802/0.2198 (recomputed with fluids 1.3.1)
    document = network(
        tanks={"tank": 20.0}, places={"end": 0.0}, draws={"end": 42.0},
        lines=[("tank", "end", 27.2, 100.0), ("tank", "end", 20.4, 100.0)],
    )  # fmt: skip
    report = solved(document)
    assert report.lines["l0"].loss_m == pytest.approx(3.505, abs=0.001)
    assert [report.lines[name].flow_lpm / 60 for name in ("l0", "l1")] == pytest.approx([0.4802, 0.2198], abs=1e-4)


def test_a_loop_closes_its_energy_and_splits_its_flow() -> None:
    # one square loop fed at a corner and drawn at the opposite one: by symmetry half goes each way
    lines = [("tank", "a", 53.6, 10.0), *((x, y, 27.2, 120.0) for x, y in ("ab", "bd", "ac", "cd"))]
    report = solved(network(tanks={"tank": 15.0}, places=dict.fromkeys("abcd", 0.0), lines=lines, draws={"d": 40.0}))
    assert report.lines["l1"].flow_lpm == pytest.approx(20.0, abs=1e-6)
    around = [report.lines[f"l{i}"].loss_m for i in (1, 2, 3, 4)]
    assert around[0] + around[1] - around[2] - around[3] == pytest.approx(0.0, abs=1e-6)


def test_the_two_loop_network_of_alperovits_and_shamir() -> None:
    # Alperovits & Shamir 1977, diameters and heads as printed by Savic & Walters 1997 (both from memory): 1,000 m
    # each, C 130; their constant 10.5088 against ours 10.67 moves the heads by up to 0.5 m
    inch, metre = 25.4, 1000.0
    pairs = [("source", "n2"), ("n2", "n3"), ("n2", "n4"), ("n4", "n5"), ("n4", "n6"), ("n6", "n7"), ("n3", "n5"),
             ("n5", "n7")]  # fmt: skip
    draws_m3h = {"n2": 100, "n3": 100, "n4": 120, "n5": 270, "n6": 330, "n7": 200}
    ground = {"n2": 150.0, "n3": 160.0, "n4": 155.0, "n5": 150.0, "n6": 165.0, "n7": 160.0}
    sizes = [18, 10, 16, 4, 16, 10, 10, 1]
    document = network(
        tanks={"source": 210.0}, places=ground, draws={node: flow / 0.06 for node, flow in draws_m3h.items()},
        lines=[(*pair, size * inch, metre) for pair, size in zip(pairs, sizes, strict=True)],
    )  # fmt: skip
    for line in document["lines"]:
        line["hazen_williams_c"] = 130.0
    found = heads(document, friction="hazen-williams")
    printed = {"n2": 53.25, "n3": 30.46, "n4": 43.45, "n5": 33.81, "n6": 30.44, "n7": 30.55}
    for node, pressure_m in printed.items():
        assert found[node] - ground[node] == pytest.approx(pressure_m, abs=0.6)


def test_a_micro_tube_follows_poiseuille_and_a_short_one_is_not_believed() -> None:
    # 4.0 mm, 10 m, 1 m of head, 20 °C, exit K = 1: 21.84 L/h (Hagen–Poiseuille, recomputed)
    micro = network(tanks={"pot": 1.0}, places={"end": 0.0}, lines=[("pot", "end", 4.0, 10.0)], open_end_mm=4.0)
    micro["site"]["water_c"] = 20
    assert solved(micro).outlets["out"].flow_lpm * 60 == pytest.approx(21.84, rel=0.002)
    short = changed(micro, {"lines.0.length_m": 1.0, "vessels.0.level_m": 2.0, "vessels.0.shape.height_m": 3.0})
    report = solved(short)
    assert report.lines["l0"].reynolds > 4000  # so 64/Re, which would give 442 L/h, is not used
    assert report.outlets["out"].flow_lpm * 60 < 200


def test_a_drip_lateral_agrees_with_marching_up_from_its_last_emitter() -> None:
    count, spacing, bore = 20, 5.0, 0.0136
    last_m = 6.0
    flows, head, flow = [], last_m, 0.0
    for _ in range(count):  # from the end upwards; emitters of 4 L/h at 100 kPa, exponent 0.5
        flows.append(4 / 60 * math.sqrt(head * 999.7 * GRAVITY_MS2 / 1e5))
        flow += flows[-1] / 60_000
        head += 64 * NU_10C * spacing * flow / (bore**2 * math.pi * bore**2 / 4 * 2 * GRAVITY_MS2)
    names = [f"n{i}" for i in range(count)]
    document = network(
        tanks={"tank": head}, places=dict.fromkeys(names, 0.0),
        lines=[(a, b, bore * 1000, spacing) for a, b in zip(["tank", *names], names, strict=False)],
    )  # fmt: skip
    document["outlets"] = [
        {"id": f"e{i}", "place": name, "kind": "emitter", "flow_lpm": 4 / 60, "pressure_kpa": 100}
        for i, name in enumerate(names)
    ]
    report = solved(document)
    assert report.lines["l0"].reynolds < 2000
    assert [report.outlets[f"e{i}"].flow_lpm for i in range(count)] == pytest.approx(flows[::-1], rel=1e-5)


@given(
    st.floats(0.5, 60), st.floats(5, 800), st.sampled_from([4.0, 15.9, 20.4, 34.0, 53.6]), st.floats(0, 30),
    st.sampled_from([0.0, 0.0015, 0.007, 0.05]),
)  # fmt: skip
def test_tank_to_tank_agrees_with_fluids(
    fall_m: float, length_m: float, bore_mm: float, k: float, rough: float
) -> None:
    document = network(tanks={"upper": fall_m, "lower": 0.0}, lines=[("upper", "lower", bore_mm, length_m)])
    document["lines"][0] |= {"fittings": [{"k": k}], "roughness_mm": rough}
    line = solved(document).lines["l0"]
    if not 2000 < line.reynolds < 4000:  # between, no two bridges agree, and none should
        lost = colebrook_loss_m(line.flow_lpm / 60_000, bore_mm / 1000, length_m, rough / 1000, k)
        assert lost == pytest.approx(fall_m, rel=2e-4)


# --- convergence -----------------------------------------------------------------------------------------------------


def test_a_solution_with_its_states_is_the_better_start_and_comes_to_the_same_answer() -> None:
    steps = {"flows": 0, "states": 0}
    for seed in range(60):
        model = model_of(read_design(random_network(seed)))
        cases, solver = model.loader.cases([case_of(model.layout.design)]), model.plumbing.solver
        once = solver.solve(cases)
        flows = Start(flows_m3s=once.flows_m3s)
        for kind, start in (
            ("flows", flows),
            ("states", replace(flows, control_state=once.control_state, shut=once.shut)),
        ):
            again = solver.solve(cases, start)
            steps[kind] += int(again.iterations[0])
            assert again.flows_m3s == pytest.approx(once.flows_m3s, rel=1e-6, abs=1e-9), (seed, kind)
    assert steps["states"] < 0.9 * steps["flows"]


@pytest.mark.parametrize("hundred", seeds(0, 6))
def test_random_networks_converge_from_anywhere_to_one_answer(hundred: int) -> None:
    for seed in range(100 * hundred, 100 * hundred + 100):
        design = read_design(random_network(seed))
        model = model_of(design)
        cases = model.loader.cases([case_of(design)])
        usual = model.plumbing.network.guess_m3s  # 0.3 m/s in every pipe
        wild = np.random.default_rng(seed).uniform(-2, 2, len(usual)) * usual
        found = [
            model.plumbing.solver.solve(cases, Start(flows_m3s=flows)) for flows in (0 * usual, usual, -usual, wild)
        ]
        live = np.append(~cases.dead[0], np.ones(model.plumbing.network.fixed, dtype=bool))
        for one in found:
            assert one.converged[0], seed
            assert one.iterations[0] <= 60
            assert one.mass_error_m3s[0] <= 1e-9
            assert one.energy_error_m[0] <= 1e-6
            assert np.abs(one.heads_m - found[0].heads_m)[0][live].max() <= 1e-6, seed


@pytest.mark.parametrize("seed", seeds(0, 40))
def test_mass_balances_at_every_place_and_energy_along_every_line(seed: int) -> None:
    """Worked out from the flows and heads alone, apart from the solver's own residuals."""
    document = random_network(seed)
    flow = solve(read_design(document)).solved.full
    net = dict.fromkeys((place["id"] for place in document["places"]), 0.0)
    for line in document["lines"]:
        q = flow.line_flow_m3s(line["id"])
        for end, sign in ((line["from"], -1), (line["to"], 1)):
            if end in net:
                net[end] += sign * q
        bore, plain = line["bore_mm"] / 1000, "inline" not in line and "pump" not in line
        reynolds = abs(q) * 4 / (math.pi * bore * NU_10C)
        if plain and q != 0.0 and not 2000 < reynolds < 4000:
            lost = colebrook_loss_m(
                abs(q), bore, line["length_m"], line["roughness_mm"] / 1000, line["fittings"][0]["k"]
            )
            drop = (flow.head_m(line["from"]) or 0.0) - (flow.head_m(line["to"]) or 0.0)
            assert abs(drop) == pytest.approx(lost, rel=1e-4, abs=1e-6)
    for outlet in document["outlets"]:
        q = flow.outlet_flow_m3s(outlet["id"])
        net[outlet["place"]] -= q
        if outlet["kind"] == "emitter" and q > 0.0:
            ground = next(place["ground_m"] for place in document["places"] if place["id"] == outlet["place"])
            over_m = (flow.outlet_head_m(outlet["id"]) or 0.0) - ground - outlet["height_m"]
            law = outlet["flow_lpm"] * (over_m * 999.7 * GRAVITY_MS2 / 1e5) ** outlet["exponent"]
            assert q * 60_000 == pytest.approx(law, rel=1e-4, abs=1e-6)
    assert max(map(abs, net.values())) <= 1e-9


# --- what must hold of every network ---------------------------------------------------------------------------------

SEEDS = seeds(0, 36)


@pytest.mark.parametrize("seed", SEEDS)
def test_raising_a_tank_lowers_no_head(seed: int) -> None:
    document = random_network(seed)
    before = heads(document)
    for vessel in document["vessels"]:
        raised = copy.deepcopy(document)
        next(one for one in raised["vessels"] if one["id"] == vessel["id"])["stand_m"] += 3.0
        after = heads(raised)
        assert min(after[node] - head for node, head in before.items()) >= -1e-6


@pytest.mark.parametrize("seed", SEEDS)
def test_widening_a_line_of_a_tree_never_lowers_the_head_below_it(seed: int) -> None:
    document = random_network(seed, parts=False)
    document["vessels"] = [vessel | {"level_m": 1.0} for vessel in document["vessels"] if vessel["id"] == "t0"]
    tree = [line for line in document["lines"] if line["id"] == "l0" or line["from"].startswith("p")]
    seen: set[str] = set()  # one line into each place: what is left is a tree down from its tank
    document["lines"] = [x for x in sorted(tree, key=lambda x: x["from"]) if not (x["to"] in seen or seen.add(x["to"]))]  # type: ignore[func-returns-value]
    document["lines"] = [line for line in document["lines"] if line["to"] != "p0" or line["id"] == "l0"]
    before = heads(document)
    for index, line in enumerate(document["lines"]):
        after = heads(changed(document, {f"lines.{index}.bore_mm": line["bore_mm"] * 1.3}))
        if line["to"] in before:
            assert after[line["to"]] >= before[line["to"]] - 1e-6


@pytest.mark.parametrize("seed", SEEDS)
def test_a_shift_of_the_datum_and_the_order_of_the_document_change_nothing(seed: int) -> None:
    document = random_network(seed)
    before = heads(document)
    other = copy.deepcopy(document)
    for place in other["places"]:
        place["ground_m"] += 1234.5
    for key in ("places", "vessels", "lines", "outlets"):
        other[key].reverse()
    after = heads(other)
    assert after.keys() == before.keys()
    assert max(abs(after[node] - 1234.5 - head) for node, head in before.items()) <= 1e-6


@pytest.mark.parametrize("seed", SEEDS)
def test_shut_is_as_good_as_absent(seed: int) -> None:
    document = random_network(seed)
    for kind, index in (("lines", 0), ("lines", -1), ("outlets", 0)):
        shut, absent = copy.deepcopy(document), copy.deepcopy(document)
        shut[kind][index]["shut"] = True
        del absent[kind][index]
        with_it, without = heads(shut), heads(absent)
        for node, head in without.items():
            assert with_it[node] == pytest.approx(head, abs=1e-6)


@pytest.mark.parametrize("seed", SEEDS)
def test_a_line_cut_in_two_is_the_same_line(seed: int) -> None:
    document = random_network(seed)
    before = heads(document)
    for index, line in enumerate(document["lines"][:4]):
        if "inline" in line or "pump" in line:
            continue
        cut = copy.deepcopy(document)
        cut["places"].append({"id": "joint", "east_m": 0, "north_m": 0, "ground_m": 90.0})
        half = line["length_m"] / 2
        cut["lines"][index] |= {"to": "joint", "length_m": half}
        cut["lines"].append({**line, "id": "rest", "from": "joint", "length_m": half, "fittings": []})
        after = heads(cut)
        assert max(abs(after[node] - head) for node, head in before.items()) <= 1e-6


def test_a_large_network_gives_each_case_of_a_batch_the_answer_that_it_has_by_itself() -> None:
    places = {f"p{i}": 20.0 - 0.1 * i for i in range(160)}
    lines = [(f"p{i - 1}" if i else "hill", f"p{i}", 34.0, 20.0) for i in range(160)]
    document = network(tanks={"hill": 40.0}, places=places, lines=lines, open_end_mm=12.0)
    document["outlets"].append({"id": "mid", "place": "p40", "kind": "open_end", "height_m": 0.0, "bore_mm": 9.0})
    model = model_of(read_design(document))
    assert not model.plumbing.solver.matrix.dense
    case = case_of(read_design(document), all_open=True)
    cases = [case, *(case.with_only(outlet_id) for outlet_id in case.openings), case.with_nothing_drawing()]
    together = model.full_flows(cases)
    for one, flow in zip(cases, together, strict=True):
        alone = model.full_flows([one])[0]
        assert alone.converged
        assert flow.heads_m == pytest.approx(alone.heads_m, abs=1e-9)
    assert _own_responses(model, case, [40, 159]) == pytest.approx(
        _by_drawing_a_little(model, case, ("p40", "p159")), rel=1e-3
    )


def _own_responses(model: NetworkModel, case: Case, nodes: Any) -> Any:
    loaded, solver = model.loader.cases([case]), model.plumbing.solver
    solution = solver.solve(loaded)
    _, slopes = solver.link_losses(loaded, solution.flows_m3s)
    rows = control_rows(model.plumbing.network, solution.control_state, slopes)
    numbers = np.array([model.plumbing.junctions[f"p{node}"] for node in nodes])
    return solver.matrix.own_responses(1.0 / slopes, np.where(loaded.dead, 1.0, 1e-14), rows, numbers)


def _by_drawing_a_little(model: NetworkModel, case: Case, places: tuple[str, ...]) -> list[float]:
    loaded, solver = model.loader.cases([case]), model.plumbing.solver
    rises = []
    for place in places:
        heads = []
        for sign in (1.0, -1.0):
            draw = loaded.draw_m3s.copy()
            draw[0, model.plumbing.junctions[place]] += sign * 1e-7
            heads.append(solver.solve(replace(loaded, draw_m3s=draw)).heads_m[0, model.plumbing.junctions[place]])
        rises.append((heads[1] - heads[0]) / 2e-7)
    return rises
