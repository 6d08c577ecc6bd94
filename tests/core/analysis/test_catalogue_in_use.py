"""Everything that ships in the catalogue can be put into a plan, and does there what its row says."""

from itertools import pairwise
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.choices import laid_in
from leadsman.core.catalogue import FittingProduct, PipeProduct, fittings, float_valves, parts, pipes, vessels
from leadsman.core.catalogue.thread import END_FAMILIES, End, joint, threads
from leadsman.core.design.file import read_design, write_design
from leadsman.core.design.fitted import fitted
from leadsman.core.steady.solve import solve
from properties import examples


def flow_lpm(**changes: Any) -> float:
    state = solve(read_design(one_line(**changes)))
    assert state.converged
    return state.outlets["valve"].judged_flow_m3s * 60_000


BARE = flow_lpm()


@pytest.mark.parametrize("product_id", sorted(pipes()))
def test_every_pipe_can_be_laid(product_id: str) -> None:
    design = laid_in(read_design(one_line()), "line", pipes()[product_id])
    assert read_design(write_design(design)).lines[0].product == product_id
    flow = solve(design).outlets["valve"].judged_flow_m3s * 60_000
    assert (flow > BARE) == (pipes()[product_id].bore_m > 0.0272 + 2e-4) or abs(flow / BARE - 1.0) < 0.05


@pytest.mark.parametrize("product_id", sorted(fittings()))
def test_every_fitting_takes_something_or_nothing_and_never_gives(product_id: str) -> None:
    told = fitted(read_design(one_line()), "line", fittings()[product_id])["fitting"]
    one, five = (flow_lpm(**{"lines.0.fittings": [{**told, "count": count}]}) for count in (1, 5))
    assert five <= one <= BARE * (1.0 + 1e-9)
    if fittings()[product_id].loss(0.0272)[0] > 0.05:
        assert five < one < BARE


@pytest.mark.parametrize("product_id", sorted(parts()))
def test_every_part_can_sit_in_a_line(product_id: str) -> None:
    product = parts()[product_id]
    told = fitted(read_design(one_line()), "line", part=product)["part"]
    flow = flow_lpm(**{"lines.0.inline": [told]})
    if product.kind in ("vent", "drain"):
        assert flow == pytest.approx(BARE, rel=1e-9)
    elif product.kind != "reducer":  # which at the head of the line holds back nothing
        assert 0.0 < flow < BARE


@pytest.mark.parametrize("product_id", sorted(float_valves()))
def test_every_float_valve_fills_the_trough_where_it_opens(product_id: str) -> None:
    product = float_valves()[product_id]
    valve = {"kv_m3h": product.kv_m3h, "closes_at_m": 0.5, "band_m": product.band_m, "product": product_id,
             "min_pressure_kpa": product.min_kpa, "max_pressure_kpa": product.max_kpa}  # fmt: skip
    analysis = Analysis(read_design(one_line(**{"outlets.0.valve": valve})))
    assert analysis.state.outlets["valve"].judged_flow_m3s > 0.0  # 190 kPa are enough for all of them
    refill = analysis.refills["valve"]
    assert refill.full_level_m == pytest.approx(0.5 - 0.05 * product.band_m)


def test_more_kv_never_gives_less() -> None:
    kvs = sorted(valve.kv_m3h for valve in float_valves().values())
    flows = [flow_lpm(**{"outlets.0.valve.kv_m3h": kv}) for kv in kvs]
    assert all(less <= more for less, more in pairwise(flows))


@pytest.mark.parametrize("product_id", sorted(vessels()))
def test_every_vessel_can_stand_on_a_plan(product_id: str) -> None:
    product = vessels()[product_id]
    made = {"id": "new", "role": product.role, "place": "end", "shape": product.shape, "level_m": 0.0,
            "product": product_id, "empty_kg": product.empty_kg}  # fmt: skip
    design = read_design(one_line(**{"vessels.2": made}))
    assert design.vessels[2].brim_m > 0.0
    assert write_design(design)["vessels"][2] == made


ENDS = [End(family=family, size=size, bore_m=0.02) for family in END_FAMILIES for size in ("1/2", "3/4", "1")]


def test_what_screws_together_is_of_one_size_male_in_female_and_has_a_seal() -> None:
    joined = [(one, other) for one in ENDS for other in ENDS if joint(one, other)]
    assert joined
    for one, other in joined:
        assert one.size == other.size
        assert {one.family[-1], other.family[-1]} == {"m", "f"}
        assert joint(one, other) == joint(other, one)
    families = {frozenset((one.thread, other.thread)) for one, other in joined}
    assert families == {frozenset(pair) for pair in (("npt",), ("bspt",), ("bspp",), ("nh",), ("bspp", "bspt"))}


def test_threads_that_start_together_and_do_not_seal_are_close_and_not_equal() -> None:
    """½ and ¾ NPT and BSP have the same turns to the inch, and another angle: they start, and leak."""
    for size, apart_mm in (("1.2", 0.4), ("3.4", 0.25)):
        one, other = threads()[f"npt-{size}"], threads()[f"bspt-{size}"]
        assert one.per_inch == other.per_inch
        assert one.angle_deg != other.angle_deg
        assert 0.0 < abs(one.outer_m - other.outer_m) * 1000 < apart_mm


diameters = st.floats(min_value=6.0, max_value=200.0)


@given(outer_mm=diameters, share=st.floats(min_value=0.02, max_value=0.3))
@examples(50)
def test_a_pipe_of_one_s_own_has_the_bore_that_its_walls_leave(outer_mm: float, share: float) -> None:
    wall_mm = round(outer_mm * share, 2) or 0.1
    pipe = PipeProduct.model_validate({"product_id": "own-x", "name": "X", "family": "F", "outer_mm": outer_mm,
                                       "wall_mm": wall_mm, "roughness_mm": 0.007})  # fmt: skip
    assert pipe.bore_m * 1000 == pytest.approx(outer_mm - 2 * wall_mm, abs=6e-4)
    assert pipe.mean_bore_m == pipe.bore_m
    assert pipe.aged_roughness_m == pipe.roughness_m
    assert (pipe.class_kpa, pipe.modulus_pa, pipe.is_own) == (None, None, True)


@given(
    own_mm=st.floats(min_value=5.0, max_value=60.0),
    line_mm=st.floats(min_value=5.0, max_value=60.0),
    times=st.floats(min_value=0.0, max_value=100.0),
)
@examples(60)
def test_an_insert_takes_more_the_narrower_it_is_in_its_line(own_mm: float, line_mm: float, times: float) -> None:
    fitting = FittingProduct.model_validate({"product_id": "own-f", "name": "F", "times_ft": times, "bore_mm": own_mm})
    k, on_m = fitting.loss(line_mm / 1000)
    wider, _ = fitting.loss(line_mm / 1000 * 1.5)
    assert on_m == pytest.approx(own_mm / 1000)
    assert 0.0 <= k <= wider + 1e-12
    if own_mm >= line_mm:  # no narrower than the line: only the bend counts
        alone = FittingProduct.model_validate({"product_id": "own-f", "name": "F", "times_ft": times})
        assert k == pytest.approx(alone.loss(own_mm / 1000)[0])
