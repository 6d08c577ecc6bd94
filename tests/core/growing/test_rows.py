"""Rows of containers behind thin tubes: lags, levelling and drops by other ways; the season added up day by day."""

from datetime import date, timedelta
from math import pi
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design
from leadsman.core.growing.levelling import LEVEL_SHARE, levelling
from leadsman.core.growing.row_chain import RowChain, row_chain
from leadsman.core.growing.row_season import keeps_up, row_season, row_serves
from leadsman.core.physics.container_chain import ContainerChain
from leadsman.core.physics.pipe import Pipe
from leadsman.core.physics.water import water_at
from leadsman.core.report.row_season import row_seasons_report
from leadsman.core.steady.solve import solve
from systems import judged

POT = {"kind": "upright_cylinder", "diameter_m": 0.3, "height_m": 0.4}
STEPS = [{"from": "2026-06-15", "litres_each_lpd": 2.0}, {"from": "2026-07-01", "litres_each_lpd": 0.0}]
COLD_M2S = water_at(10.0).kinematic_viscosity_m2s


def row_document(**changes: Any) -> Document:
    """A control pot with six pots in a chain of 6 mm tube, all on one floor; made up."""
    return one_line(**{
        "vessels.1": {"id": "pot", "role": "chamber", "place": "end", "shape": POT, "level_m": 0.2},
        "vessels.2": {"id": "row", "role": "bucket_row", "place": "end", "shape": POT, "count": 6, "level_m": 0.25,
                      "link_mm": 6, "link_m": 0.4},
        "lines.1": {"id": "link", "from": "pot", "to": "row", "bore_mm": 6, "roughness_mm": 0.0015, "length_m": 2},
        "outlets.0.fills": "pot", "outlets.0.valve.closes_at_m": 0.35, "herds": [],
        "outlets.0.valve.steps": [{"from": "2026-06-20", "closes_at_m": 0.25}],
        "crops": [{"id": "vines", "outlet": "valve", "plants": 12, "litres_each_lpd": 0.5, "over_season": STEPS}],
        "requirements.0.refill_min": None, **changes,
    })  # fmt: skip


def chain_of(**changes: Any) -> RowChain:
    analysis = judged(row_document(**changes))
    (row,) = analysis.container_rows
    found = row_chain(analysis, row)
    assert found is not None
    return found


@st.composite
def trees(draw: st.DrawFn) -> ContainerChain:
    count = draw(st.integers(2, 9))
    bores = st.floats(0.003, 0.02)
    return ContainerChain(
        tuple(draw(st.floats(0.01, 2.0)) for _ in range(count)),
        tuple(draw(st.integers(0, number - 1)) for number in range(1, count)),
        tuple(Pipe(length_m=draw(st.floats(0.1, 5.0)), bore_m=draw(bores), roughness_m=0.0) for _ in range(count - 1)),
        1.2e-6,
    )


@given(chain=trees())
def test_lags_are_those_of_the_network_of_resistances(chain: ContainerChain) -> None:
    """The lag behind a slow ramp solves conductances times lag = surfaces, the first held: by one linear system."""
    count = len(chain.areas_m2)
    conductance = np.zeros((count, count))
    for number, (parent, tube) in enumerate(zip(chain.parents, chain.tubes, strict=True), 1):
        each = pi * 9.80665 * tube.bore_m**4 / (128 * 1.2e-6 * tube.length_m)
        conductance[[number, parent], [number, parent]] += each
        conductance[number, parent] -= each
        conductance[parent, number] -= each
    lags = np.linalg.solve(conductance[1:, 1:], np.array(chain.areas_m2)[1:])
    assert chain.lags_s()[1:] == pytest.approx(lags, rel=1e-6)


@given(chain=trees(), head_mm=st.floats(0.01, 500.0))
def test_flow_at_a_head_loses_that_head(chain: ContainerChain, head_mm: float) -> None:
    levels = np.zeros(len(chain.areas_m2))
    levels[1:] = -head_mm / 1000.0
    flow = chain.flows_m3s(levels)[0]
    head = levels[chain.parents[0]] - levels[1]
    lost_m, _ = chain.tubes[0].friction_loss_m(float(flow), 1.2e-6)
    assert lost_m == pytest.approx(head, rel=2e-3)


def test_what_stands_below_the_float_is_what_the_solver_of_networks_says() -> None:
    """The same row as a line of junctions with fixed draws."""
    chain = chain_of(**{"crops.0.litres_each_lpd": 20.0})
    draw_lpm = 12 * 20.0 / 1440 / 6
    places = [{"id": f"p{n}", "east_m": n, "north_m": 0, "ground_m": 100.0, "draw_lpm": draw_lpm} for n in range(6)]
    tube = {"bore_mm": 6, "roughness_mm": 0.0015}
    lines = [{"id": "feed", "from": "tank", "to": "p0", "length_m": 2.0, **tube}]
    lines += [{"id": f"l{n}", "from": f"p{n}", "to": f"p{n + 1}", "length_m": 0.4, **tube} for n in range(5)]
    document = one_line(places=[*one_line()["places"], *places], lines=lines, vessels=one_line()["vessels"][:1],
                        outlets=[], herds=[], requirements=[])  # fmt: skip
    heads = solve(read_design(document)).heads_m
    drops = [(heads["tank"] or 0.0) - (heads[f"p{n}"] or 0.0) for n in range(6)]
    assert chain.chain.drops_m(chain.taken_m3s)[1:] == pytest.approx(drops, rel=1e-3)


def test_one_pot_fills_as_one_store_behind_one_resistance() -> None:
    chain = chain_of(**{"vessels.2.count": 1, "lines.1.bore_mm": 3})  # laminar throughout
    over_time, lag_s = levelling(chain), chain.lag_s
    assert over_time.level_s == pytest.approx(lag_s * np.log(1 / LEVEL_SHARE), rel=0.01)
    depth = float(chain.depths_m[1])
    assert over_time.depths_m[:, 1] == pytest.approx(depth * (1 - np.exp(-over_time.times_s / lag_s)), abs=1e-3)


@pytest.mark.parametrize("bore_mm", [6.0, 20.0])
def test_levelling_is_what_another_integrator_with_another_inverse_says(bore_mm: float) -> None:
    """Flows by root finding on the pipe's loss, laminar and turbulent, and Runge-Kutta instead of LSODA."""
    chain = chain_of(**{"vessels.2.count": 2, "vessels.2.link_mm": bore_mm, "lines.1.bore_mm": bore_mm})
    tubes, areas = chain.chain.tubes, chain.chain.areas_m2

    def through(tube: Pipe, head_m: float) -> float:
        if abs(head_m) < 1e-9:
            return 0.0
        most = tube.area_m2 * 10.0
        return float(np.sign(head_m)) * float(
            brentq(lambda flow: tube.friction_loss_m(flow, COLD_M2S)[0] - abs(head_m), 0.0, most, xtol=1e-14)
        )

    def rate(_: float, depths: np.ndarray) -> list[float]:
        first, second = through(tubes[0], 0.35 - depths[0]), through(tubes[1], depths[0] - depths[1])
        return [(first - second) / areas[1], second / areas[2]]

    over_time = levelling(chain)
    found = solve_ivp(rate, (0.0, float(over_time.times_s[-1])), [0.0, 0.0], t_eval=over_time.times_s, rtol=1e-6,
                      max_step=float(over_time.times_s[-1]) / 50)  # fmt: skip
    assert over_time.depths_m[:, 1] == pytest.approx(found.y[0], abs=2e-3)
    assert over_time.depths_m[:, 2] == pytest.approx(found.y[1], abs=2e-3)


def test_an_empty_container_on_a_higher_floor_gives_nothing_on() -> None:
    document = row_document(**{"vessels.2.count": 1, "vessels.3": {"id": "sunk", "role": "bucket_row", "place": "end",
        "shape": POT, "stand_m": -0.2, "level_m": 0.1}, "lines.2": {"id": "on", "from": "row", "to": "sunk",
        "bore_mm": 6, "roughness_mm": 0.0015, "length_m": 1.0}})  # fmt: skip
    analysis = judged(document)
    (row,) = analysis.container_rows
    chain = row_chain(analysis, row)
    assert chain is not None
    assert float(levelling(chain).depths_m.min()) > -1e-3


@pytest.mark.parametrize("litres", [4.0, 40.0])
def test_the_least_of_a_day_is_what_a_day_run_through_comes_to(litres: float) -> None:
    """A pot behind one tube, its plants drinking as a half sine from six to eighteen, to the third day."""
    chain = chain_of(**{"vessels.2.count": 1, "lines.1.bore_mm": 4, "crops.0.litres_each_lpd": litres / 12})
    taken, area, lag_s = float(chain.taken_m3s[1]), chain.chain.areas_m2[1], chain.lag_s

    def rate(time_s: float, drop: np.ndarray) -> np.ndarray:
        sine = np.sin(2 * pi * (time_s / 86_400 - 0.25))
        return np.asarray(taken * pi * max(0.0, sine) / area - drop / lag_s)

    ran = solve_ivp(rate, (0.0, 3 * 86_400), [0.0], max_step=600, t_eval=np.linspace(2 * 86_400, 3 * 86_400, 200))
    mean_m, least_m = chain.lowest_m
    depth_m = float(chain.depths_m[1])
    assert depth_m - float(ran.y[0].mean()) == pytest.approx(mean_m, abs=0.03 * (depth_m - mean_m))
    assert depth_m - float(ran.y[0].max()) == pytest.approx(least_m, abs=0.12 * (depth_m - least_m))


@pytest.mark.parametrize("changes", [{"vessels.2.link_mm": 8}, {"lines.1.bore_mm": 8}, {"vessels.2.fed_at": "middle"},
                                     {"vessels.2.count": 5}, {"lines.1.length_m": 1}])  # fmt: skip
def test_wider_shorter_and_nearer_never_lags_longer(changes: Document) -> None:
    assert chain_of(**changes).lag_s < chain_of().lag_s


def test_unknown_tubes_are_not_judged() -> None:
    analysis = judged(row_document(**{"vessels.2.link_m": None}))
    (row,) = analysis.container_rows
    assert row_chain(analysis, row) is None
    report = row_seasons_report(analysis).rows[0]
    assert (report.levelling, report.by_tubes) == (None, None)
    assert report.by_float


def test_the_season_adds_up_day_by_day() -> None:
    analysis = judged(row_document())
    (row,) = analysis.container_rows
    season = row_season(analysis, row)
    assert season is not None
    assert (season.weeks[0].begins, season.weeks[-1].begins) == ("2026-05-18", "2026-06-29")  # to the end of June
    each = {date(2026, 5, 18) + timedelta(days=n): 12 * (0.5 if n < 28 else 2.0) for n in range(44)}
    given = 7 * 0.1 * pi * 0.3**2 / 4 * 1000  # by lowering seven containers by 0.1 m, in the week of June 20
    assert sum(week.taken_l for week in season.weeks) == pytest.approx(sum(each.values()))
    assert season.needed_l == pytest.approx(sum(each.values()) - given)
    assert [week.closes_at_m for week in season.weeks][-2:] == [0.25, 0.25]
    assert season.lasts_to is None  # 6,283 L
    assert season.weeks[-1].left_l == pytest.approx(season.reservoir_l - season.needed_l)


def test_a_small_reservoir_lasts_to_the_day_on_which_it_is_used_up() -> None:
    analysis = judged(row_document(**{"vessels.0.shape.diameter_m": 0.5, "outlets.0.valve.steps": []}))
    (row,) = analysis.container_rows
    season = row_season(analysis, row)
    assert season is not None
    left, day = season.reservoir_l, date(2026, 5, 18)
    while left >= (use := 12 * (0.5 if day < date(2026, 6, 15) else 2.0)):
        left, day = left - use, day + timedelta(days=1)
    assert season.lasts_to == (day - timedelta(days=1)).isoformat()


@pytest.mark.parametrize(("bore_mm", "litres"), [(4.0, 20.0), (6.0, 60.0), (3.0, 3.0)])
def test_the_most_containers_that_tubes_serve_is_found_by_trying_each(bore_mm: float, litres: float) -> None:
    changes: Document = {"vessels.2.link_mm": bore_mm, "outlets.0.valve.steps": [], "crops.0.over_season": []}
    each = litres / 6

    def works(count: int) -> bool:
        return keeps_up(chain_of(**changes, **{"vessels.2.count": count, "crops.0.litres_each_lpd": each * count / 12}))

    analysis = judged(row_document(**changes, **{"crops.0.litres_each_lpd": litres / 12}))
    (row,) = analysis.container_rows
    most = row_serves(analysis, row, row_season(analysis, row)).by_tubes
    assert most is not None
    assert works(most)
    assert not works(most + 1)


def test_hours_of_air_are_told() -> None:
    analysis = Analysis(read_design(row_document(**{"vessels.2.air_min_per_h": 20})))
    assert row_seasons_report(analysis).rows[0].air_h == pytest.approx(8.0)
