"""Two valves on one trough fill it together."""

import pytest

from examples import Document, changed, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.design.file import read_design

MOB = {"pattern": "mob", "within_min": 5, "visits": 2, "rate_lpm": 10, "width_m": 0.6}
WIDE = {"vessels.0.shape.diameter_m": 40.0}  # its level hardly falls
SECOND = {"id": "second", "place": "end", "kind": "float_valve", "fills": "trough", "height_m": 0.6,
          "valve": {"kv_m3h": 3.0, "closes_at_m": 0.5, "band_m": 0.05}}  # fmt: skip
OWN_LINE: Document = {
    "outlets.1": SECOND,
    "lines.1": {"id": "other", "from": "tank", "to": "second", "product": "pe100-sdr13.6-32", "length_m": 210.0},
}
ON_A_TEE: Document = {
    "outlets.1": SECOND, "lines.0.to": "tee", "places.2": {"id": "tee", "east_m": 199, "north_m": 0, "ground_m": 101},
    "lines.0.length_m": 209,
    "lines.0.points": [], "lines.1": {"id": "a", "from": "tee", "to": "valve", "product": "pe100-sdr13.6-32",
                                      "length_m": 1.0},
    "lines.2": {"id": "b", "from": "tee", "to": "second", "product": "pe100-sdr13.6-32", "length_m": 1.0},
}  # fmt: skip


def analysis(*changes: Document, **more: object) -> Analysis:
    document = one_line(**WIDE, **{"lines.0.points": [], "herds.0.drinking": MOB, "herds.0.head": 60}, **more)
    for change in changes:
        document = changed(document, change)
    return Analysis(read_design(document))


def test_on_lines_of_their_own_two_alike_fill_in_half_the_time() -> None:
    alone, both = analysis().refills["valve"], analysis(OWN_LINE).refills
    assert alone.time_s is not None
    assert both["valve"].time_s == pytest.approx(alone.time_s / 2.0, rel=1e-4)
    assert both["second"] is both["valve"]
    assert both["valve"].volume_m3 == pytest.approx(alone.volume_m3)


def test_where_the_pipe_has_no_more_to_give_a_second_valve_does_little() -> None:
    alone = analysis().refills["valve"].time_s or 0.0
    shared = analysis(ON_A_TEE).refills["valve"].time_s or 0.0
    assert 0.5 * alone < shared < alone
    thin = {"lines.0.product": "pe100-sdr11-20"}
    assert 0.9 * (analysis(thin).refills["valve"].time_s or 0.0) < (
        analysis(ON_A_TEE, thin).refills["valve"].time_s or 0.0
    )


def test_it_is_full_where_the_last_of_them_closes() -> None:
    low, high = analysis(OWN_LINE), analysis(OWN_LINE, {"outlets.1.valve.closes_at_m": 0.55})
    assert low.refills["valve"].full_level_m == pytest.approx(0.4975)
    assert high.refills["valve"].full_level_m == pytest.approx(0.5475)
    stepped, level, step = 0.0, 0.1, 0.0005  # the same in small steps of level, both valves on the network each time
    while level < 0.5475:
        middle = min(level + step / 2.0, 0.5475)
        case = high.standing.with_openings(
            {"valve": min(1.0, max(0.0, (0.5 - middle) / 0.05)), "second": min(1.0, (0.55 - middle) / 0.05)}
        )
        (solved,) = high.model.solve([case])
        stepped += (
            min(step, 0.5475 - level) * 1.0 / sum(solved.used.outlet_flow_m3s(outlet) for outlet in ("valve", "second"))
        )
        level += step
    assert high.refills["valve"].time_s == pytest.approx(stepped, rel=2e-3)


def test_a_mob_drinks_what_both_bring_and_its_trough_is_judged_once() -> None:
    (one,), (two,) = analysis().waterings, analysis(OWN_LINE).waterings
    assert one.run is not None
    assert two.run is not None
    assert [outlet.id for outlet in two.outlets] == ["valve", "second"]
    assert two.run.lowest_m3 > one.run.lowest_m3
    assert (two.run.recovered_s or 0.0) < (one.run.recovered_s or 0.0)
    at_both = [
        {"id": "b", "class": "growing cattle", "weight_kg": 273, "head": 60, "outlet": "second", "drinking": MOB}
    ]
    (shared,) = analysis(OWN_LINE, {"herds.1": at_both[0]}).waterings
    assert [visit.demand.herd.id for visit in shared.visits] == ["mob", "b"]
    assert sum(visit.mob.places for visit in shared.visits) == two.visits[0].mob.places
