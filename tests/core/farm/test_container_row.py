"""Rows of containers at one level, fed through a pot; and vessels filled while nobody looks."""

from math import pi

import pytest

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design.file import read_design

BUCKET = {"kind": "upright_cylinder", "diameter_m": 0.3, "height_m": 0.4}
STEPS = [{"from": "2026-06-01", "closes_at_m": 0.3}, {"from": "2026-07-01", "closes_at_m": 0.2}]
LITRES_PER_M = pi * 0.3**2 / 4 * 1000


def row(day: str | None = None, changes: Document | None = None) -> Analysis:
    """A control pot with twelve buckets joined to it, their floor 5 cm under the pot's; made up."""
    document = one_line(**{
        "vessels.1": {"id": "pot", "role": "chamber", "place": "end", "shape": BUCKET, "level_m": 0.2, "stand_m": 0.05},
        "vessels.2": {"id": "row", "role": "bucket_row", "place": "end", "shape": BUCKET, "count": 12, "level_m": 0.25},
        "lines.1": {"id": "link", "from": "pot", "to": "row", "bore_mm": 13, "roughness_mm": 0.01, "length_m": 2},
        "outlets.0.fills": "pot", "outlets.0.valve.closes_at_m": 0.35, "outlets.0.valve.steps": STEPS,
        "crops": [{"id": "vines", "outlet": "valve", "plants": 24, "litres_each_lpd": 0.5,
                   "over_season": [{"from": "2026-06-15", "litres_each_lpd": 2.0}]}],
        "requirements.0.refill_min": None, "herds": [],
        **({"scenarios.0.date": day} if day else {}), **(changes or {}),
    })  # fmt: skip
    return Analysis(read_design(document))


@pytest.mark.parametrize(
    ("day", "pot_m", "row_m", "demand_lpd"),
    [(None, 0.35, 0.4, 12.0), ("2026-05-31", 0.35, 0.4, 12.0), ("2026-06-01", 0.3, 0.35, 12.0),
     ("2026-06-15", 0.3, 0.35, 48.0), ("2026-08-01", 0.2, 0.25, 48.0)],
)  # fmt: skip
def test_what_a_row_holds_and_needs_on_a_day(day: str | None, pot_m: float, row_m: float, demand_lpd: float) -> None:
    analysis = row(day)
    (one,) = analysis.container_rows
    assert [vessel.id for vessel in one.vessels] == ["pot", "row"]
    assert one.containers == 12
    assert one.holds_m3 * 1000 == pytest.approx(LITRES_PER_M * (pot_m + 12 * row_m))
    assert one.demand_m3_per_day * 1000 == pytest.approx(demand_lpd)
    assert one.days_held == pytest.approx(one.holds_m3 * 1000 / demand_lpd)
    assert one.gets_m3_per_day == pytest.approx(analysis.states["valve"].outlets["valve"].judged_flow_m3s * 86_400)


def test_each_step_of_the_level_says_what_goes_out_of_the_row() -> None:
    (one,) = row().container_rows
    changes = [level.change_m3 * 1000 for level in one.levels]
    assert changes == [0.0, pytest.approx(-13 * 0.05 * LITRES_PER_M), pytest.approx(-13 * 0.1 * LITRES_PER_M)]
    assert [level.since for level in one.levels] == [None, "2026-06-01", "2026-07-01"]


def test_the_float_of_the_day_is_the_one_that_is_solved() -> None:
    # at 0.25 m the valve, set to close at 0.2 from July on, is shut; before, it runs
    level = {"vessels.1.level_m": 0.25, "outlets.0.valve.band_m": 0.02}
    for day, opening in (("2026-06-10", 1.0), ("2026-07-10", 0.0)):
        outlet = row(day, level).design.outlets[0]
        assert outlet.kind == "float_valve"
        assert min(1.0, max(0.0, (outlet.valve.closes_at_m - 0.25) / 0.02)) == opening


def test_a_row_behind_a_shut_line_is_not_of_it() -> None:
    assert row(changes={"lines.1.shut": True}).container_rows == []


@pytest.mark.parametrize(
    ("changes", "path"),
    [
        ({"outlets.0.valve.steps": STEPS[::-1]}, "/outlets/0/valve"),
        ({"crops.0.over_season": [{"from": "2026-06-15", "litres_each_lpd": 2.0}] * 2}, "/crops/0"),
        ({"crops.0": {"id": "c", "outlet": "valve", "litres_lpd": 4.0, "over_season": [
            {"from": "2026-06-15", "litres_each_lpd": 2.0}]}}, "/crops/0"),
    ],
)  # fmt: skip
def test_steps_out_of_order_are_refused(changes: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        row(changes=changes)
    assert any(fault.path.startswith(path) for fault in refused.value.faults)


@pytest.mark.parametrize(("bore_mm", "lost_mm_d"), [(20, 0.0), (12, 0.0), (4, 60.0)])
def test_filled_while_nobody_looks(bore_mm: float, lost_mm_d: float) -> None:
    """0.5 m3 of box, 0.4 m3 of it to be filled; then all that comes and is not lost runs over."""
    end = {"id": "valve", "place": "end", "kind": "open_end", "fills": "trough", "height_m": 0.6, "bore_mm": bore_mm}
    pond = {"vessel": "trough", "evaporation_mm_d": lost_mm_d / 2, "seepage_mm_d": lost_mm_d / 2}
    changes = {"outlets.0": end, "ponds": [pond], "requirements.0": {"outlet": "valve", "flow_lpm": 1}, "herds": []}
    analysis = Analysis(read_design(one_line(**changes)))
    (one,) = analysis.unattended_fills
    net = analysis.states["valve"].outlets["valve"].judged_flow_m3s - lost_mm_d / 1000 * 1.0 / 86_400
    assert one.over_m3s == pytest.approx(net)
    assert one.full_s == pytest.approx(0.5 / net, rel=1e-4)


def test_a_pond_that_loses_more_than_comes_in_never_gets_full() -> None:
    pond = {"vessel": "trough", "discharge_lpd": 1e6}
    changes = {"vessels.1.role": "pond", "ponds": [pond], "herds": []}
    (one,) = Analysis(read_design(one_line(**changes))).unattended_fills
    assert (one.full_s, one.over_m3s, one.has_float) == (None, 0.0, True)
