"""What more flow costs, being sure, and a higher tank: each plan holds, and costs go the way that they must."""

import pytest

from forks import PIPES, farm
from leadsman.core.base.errors import UnknownName
from leadsman.core.design.file import read_design
from leadsman.core.sizing.curve import over_stand, trade_off
from leadsman.core.sizing.laid import laid_out
from leadsman.core.steady.solve import solve


def test_more_flow_costs_more_until_nothing_fits_and_surely_costs_no_less() -> None:
    document = farm(6)
    document["places"] = [{**place, "height_error_m": 0.8} for place in document["places"]]
    document["sizing"]["products"] = PIPES
    curve = trade_off(read_design(document))
    costs = [point.sized.cost for point in curve.points]
    assert len(costs) > 2
    assert costs == sorted(costs)
    assert [point.at for point in curve.points] == sorted(point.at for point in curve.points)
    for point in curve.points:
        plan = solve(laid_out(read_design(document), point.sized.lines, {}, {}), all_open=True)
        for wanted in document["requirements"]:
            least = wanted["flow_lpm"] * point.at * (1 - 1e-6)
            assert plan.outlets[wanted["outlet"]].flow_m3s * 60_000 >= least
    assert "less at" in curve.ends
    likely = next(point.sized.cost for point in curve.points if point.at >= 1.0)
    assert curve.surely is not None
    assert curve.surely.cost >= likely


def test_a_higher_tank_saves_pipe_and_below_some_height_nothing_fits() -> None:
    document = farm(6)
    document["vessels"][0]["stand_m"] = -18.0
    curve = over_stand(read_design(document), "tank0", 24.0)
    assert curve.ends  # as it stands it is too low
    assert curve.points[0].at > 0.0
    costs = [point.sized.cost for point in curve.points]
    assert len(costs) > 1
    assert costs == sorted(costs, reverse=True)
    with pytest.raises(UnknownName):
        over_stand(read_design(document), "nobody", 2.0)
