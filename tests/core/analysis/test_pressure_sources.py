"""Rams, mains and wells with a pressure tank on the network: published figures, hand calculations, and over time."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import MAINS, RAM_AT_FOOT, RAM_LINE, WELL, Document, changed
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.source_duty import source_duties
from leadsman.core.base.units import lpm_from_m3s
from leadsman.core.design.file import read_design
from leadsman.core.findings.registry import judge
from leadsman.core.report.pressure_source import pressure_source_reports
from leadsman.core.steady.solve import solve
from properties import examples
from runs import HOUR_S, run

G = 9.80665
LOW_SHUT: Document = {"outlets.0.shut": True}


def ram_to(lift_m: float, fall_m: float, drive_lpm: float = 60.0, efficiency: float = 0.6) -> float:
    """Return what a ram delivers through a wide pipe to an open end so high over it [L/min]."""
    wide = {f"lines.{number}.bore_mm": 200 for number in (0, 1)} | {"outlets.1.bore_mm": 200}
    source = {**RAM_AT_FOOT, "fall_m": fall_m, "drive_lpm": drive_lpm, "efficiency": efficiency}
    up = {"pressure_sources.0": source, "places.2.ground_m": 199.0 + lift_m, "places.1.ground_m": 200.1}
    state = solve(read_design(changed(RAM_LINE, {**LOW_SHUT, **wide, **up})))
    assert state.converged
    return float(lpm_from_m3s(state.outlets["fill"].flow_m3s))


# q = 0.6 · 60 · H / h, as printed for rams (Watt 1975, from memory)
@pytest.mark.parametrize(("fall_m", "lift_m", "delivered_lpm"), [(2, 20, 3.6), (2, 40, 1.8), (3, 15, 7.2)])
def test_a_ram_delivers_on_the_network_what_is_published(fall_m: float, lift_m: float, delivered_lpm: float) -> None:
    assert ram_to(lift_m, fall_m) == pytest.approx(delivered_lpm, rel=4e-3)


def test_a_ram_gives_nothing_over_25_times_its_fall_and_never_more_than_drives_it() -> None:
    assert ram_to(49.0, 2.0) == pytest.approx(0.6 * 60 * 2 / 49, rel=0.02)
    assert ram_to(51.0, 2.0) == 0.0
    assert ram_to(0.2, 2.0, efficiency=0.9) <= 60.0 * (1.0 + 1e-6)


@examples(40)
@given(
    fall_m=st.floats(0.5, 6.0),
    drive_lpm=st.floats(5.0, 400.0),
    efficiency=st.floats(0.2, 0.8),
    ratio=st.floats(1.5, 23.0),
)
def test_what_a_ram_gives_times_its_lift_is_its_power(
    fall_m: float, drive_lpm: float, efficiency: float, ratio: float
) -> None:
    delivered = ram_to(ratio * fall_m, fall_m, drive_lpm, efficiency)
    assert delivered * ratio * fall_m <= efficiency * drive_lpm * fall_m * 1.005
    assert (
        delivered * ratio * fall_m >= efficiency * drive_lpm * fall_m * 0.9
    )  # less friction and what lies on its bore


def test_the_low_outlet_takes_all_until_its_float_shuts_then_the_water_climbs() -> None:
    open_, shut = (solve(read_design(changed(RAM_LINE, more))) for more in ({}, LOW_SHUT))
    assert open_.outlets["fill"].flow_m3s == 0.0 < open_.outlets["low"].flow_m3s
    assert lpm_from_m3s(shut.outlets["fill"].flow_m3s) == pytest.approx(0.6 * 60 * 2 / 20, rel=0.01)


def test_climb_drain_back_and_waste_by_hand() -> None:
    (duty,) = source_duties(Analysis(read_design(RAM_LINE)))
    area = math.pi * 0.020**2
    climb = {climb.outlet.id: climb for climb in duty.climbs}["fill"]
    assert climb.lift_m == pytest.approx(20.0)
    assert climb.holds_m3 == pytest.approx(area * (40.3 + 61.6), rel=1e-6)
    assert climb.climb_s == pytest.approx(area * 101.9 / (3.6 / 60_000), rel=0.01)
    (back,) = duty.drain_backs
    over = (220.0 - 205.5 - 0.1) / 15.0 * 61.6  # of the upper line over the low float; 10 cm are not counted
    assert back.takes_all
    assert back.volume_m3 == pytest.approx(area * over, rel=1e-3)
    assert back.again_s == pytest.approx(area * over / (3.6 / 60_000), rel=0.01)
    assert duty.ram is not None
    assert lpm_from_m3s(duty.ram.drive_m3s) == pytest.approx(60.0)


def test_a_ram_over_a_day_fills_the_trough_first_then_the_tank_to_its_overflow() -> None:
    hours = 36.0
    done = run(read_design(RAM_LINE), hours, 721)
    assert done.mass_error < 1e-6
    low, fill = (done.outlets_m3s[:, number] for number in (0, 1))
    waits = done.times_s < 60.0 * 0.9 * 2.0 * 0.6 * 0.25 * 1000 / 12.0  # at under 13 L/min the trough takes over 20 min
    assert (fill[waits] == 0.0).all()
    climbing = done.times_s > HOUR_S
    assert lpm_from_m3s(fill[climbing].mean()) == pytest.approx(3.6, rel=0.02)
    assert (low[climbing] * 60_000 < 0.05).all()
    # the tank holds 1.4 m more to its overflow
    full_s = math.pi * 1.0 * 1.4 / fill[climbing].mean()
    (over,) = [event.time_s for event in done.events if event.kind == "overflows"]
    assert over == pytest.approx(full_s, rel=0.05)
    (given_m3,) = [volume for name, volume in done.beside_m3.items() if name == "ram"]
    assert given_m3 == pytest.approx(float(done.passed_m3.sum()), rel=1e-9)


def test_a_source_that_is_lost_and_comes_back_brings_nothing_meanwhile() -> None:
    lost: Document = {"id": "l", "kind": "source_lost", "where": "ram", "at_s": 4 * HOUR_S, "until_s": 9 * HOUR_S}
    kept, missed = (run(read_design(changed(RAM_LINE, {"events": events})), 20, 201) for events in ([], [lost]))
    away = (missed.times_s >= 4 * HOUR_S) & (missed.times_s < 9 * HOUR_S)
    assert (missed.beside_m3s["ram"][away] == 0.0).all()
    assert (missed.beside_m3s["ram"][~away] > 0.0).all()
    # 3.6 L/min for five hours, and the hair that the float stands lower
    assert kept.beside_m3["ram"] - missed.beside_m3["ram"] == pytest.approx(3.6 * 300 / 1000, rel=0.01)
    assert missed.mass_error < 1e-6


def tap_on(source: Document, bore_mm: float = 200.0, more: Document | None = None) -> Document:
    """A source under pressure with an open end beside it, on pipe so wide that it takes nothing."""
    return changed(
        RAM_LINE,
        {
            "pressure_sources.0": source, "lines.1": None, "lines.0.from": source["id"], "lines.0.to": "out",
            "lines.0.length_m": 1.0, "lines.0.bore_mm": bore_mm, "vessels": [],
            "outlets": [{"id": "out", "place": "foot", "kind": "open_end", "bore_mm": bore_mm}], **(more or {}),
        },
    )  # fmt: skip


def test_a_gauged_source_goes_through_both_its_points() -> None:
    free = solve(read_design(tap_on(MAINS)))
    assert lpm_from_m3s(free.outlets["out"].flow_m3s) == pytest.approx(45.0, rel=2e-3)  # 15 L in 20 s, wide open
    still = solve(read_design(tap_on(MAINS, more={"outlets.0.shut": True, "places.0.draw_lpm": 0.0})))
    head_m = still.shut.outlet_head_m("out")
    assert head_m is not None
    assert (head_m - 200.0) * G * 0.9997 == pytest.approx(320.0, abs=0.2)
    # a well timed with 40 kPa still on its gauge: 20 L in 30 s there, by the pressure that its pump lets it fall to
    drawn = tap_on(WELL, more={"outlets": [{"id": "out", "place": "foot", "kind": "fixed", "flow_lpm": 40.0}]})
    state = solve(read_design(drawn))
    assert ((state.outlets["out"].head_m or 0.0) - 200.0) * G * 0.9997 == pytest.approx(40.0, abs=0.3)


def test_joined_wells_add_flow_not_pressure() -> None:
    twin = {**WELL, "id": "twin"}
    line = {"id": "second", "from": "twin", "to": "foot", "bore_mm": 200, "roughness_mm": 0.007, "length_m": 1.0}
    at_place: Document = {"lines.0.to": "foot"}
    one = read_design(tap_on(WELL, 25.0, at_place))
    two = read_design(tap_on(WELL, 25.0, {**at_place, "pressure_sources.1": twin, "lines.1": line}))
    alone, joined = solve(one), solve(two)
    assert joined.shut.head_m("foot") == pytest.approx(alone.shut.head_m("foot"), abs=1e-6)
    assert joined.outlets["out"].flow_m3s > 1.5 * alone.outlets["out"].flow_m3s
    assert joined.lines["second"].flow_m3s == pytest.approx(joined.lines["up"].flow_m3s, rel=0.2)


def test_a_pressure_tank_is_judged_at_its_cut_out_and_counted_on_at_its_cut_in() -> None:
    analysis = Analysis(read_design(tap_on(WELL, more={"outlets.0.shut": True})))
    assert analysis.brimful is not None
    standing, least = analysis.brimful.outlet_head_m("out"), analysis.state.shut.outlet_head_m("out")
    assert standing is not None
    assert least is not None
    assert (standing - 200.0) * G * 0.9997 == pytest.approx(360.0, abs=0.3)
    assert (least - 200.0) * G * 0.9997 == pytest.approx(240.0, abs=0.3)


def test_timed_trials_say_what_a_ram_does_and_which_tuning_was_best() -> None:
    trials = [
        {"waste": {"volume_l": 18.8, "time_s": 20.0}, "delivery": {"volume_l": 1.2, "time_s": 20.0}, "lift_m": 20.0},
        {"waste": {"volume_l": 19.0, "time_s": 20.0}, "delivery": {"volume_l": 1.0, "time_s": 20.0}, "lift_m": 20.0},
    ]
    tuned = changed(RAM_LINE, {"pressure_sources.0.drive_lpm": None, "pressure_sources.0.trials": trials})
    (report,) = pressure_source_reports(Analysis(read_design(tuned)))
    assert report.ram is not None
    assert [trial.is_best for trial in report.ram.trials] == [True, False]
    assert report.ram.trials[0].efficiency == pytest.approx(0.6)
    assert report.ram.trials[0].rankine == pytest.approx(0.574, abs=5e-4)
    assert report.ram.efficiency == pytest.approx(0.5)  # the last one counts
    assert report.ram.waste_shut_lpm == pytest.approx(60.0)
    assert report.least_lpm == pytest.approx(0.5 * 60 * 2 / 20, rel=0.01)


SOLD = {"lines.0.product": "pe100-sdr17-32", "lines.0.bore_mm": None, "lines.0.roughness_mm": None}
NO_WAY_OUT: Document = {
    "outlets.1": {"id": "fill", "place": "top", "kind": "float_valve", "fills": "tank", "height_m": 1.0,
                  "valve": {"kv_m3h": 4.0, "closes_at_m": 0.9, "band_m": 0.05}},
}  # fmt: skip
PAIRS: list[tuple[str, Document, Document]] = [
    ("ram-has-no-way-out", NO_WAY_OUT, {}),
    ("ram-lifts-too-high", {"places.2.ground_m": 223.1}, {"places.2.ground_m": 222.9}),
    ("drive-pipe-length", {"pressure_sources.0.drive_mm": 50, "pressure_sources.0.drive_length_m": 7.4},
     {"pressure_sources.0.drive_mm": 50, "pressure_sources.0.drive_length_m": 7.6}),
    ("drive-pipe-length", {"pressure_sources.0.drive_mm": 50, "pressure_sources.0.drive_length_m": 50.1},
     {"pressure_sources.0.drive_mm": 50, "pressure_sources.0.drive_length_m": 49.9}),
    ("backflow", {"pressure_sources.0": {**MAINS, "id": "ram"}},
     {"pressure_sources.0": {**MAINS, "id": "ram", "backflow": "preventer"}}),
    ("no-check-valve", {}, {"lines.1.inline": [{"kind": "check_valve", "at_m": 0.5}]}),
    # the pipe's class is 1,000 kPa: the pump cuts out over it, though the gauge shows less
    ("class-exceeded", {**SOLD, "pressure_sources.0": {**WELL, "id": "ram", "cut_out_kpa": 1_010}},
     {**SOLD, "pressure_sources.0": {**WELL, "id": "ram", "cut_out_kpa": 990}}),
    ("dry-outlet", {"places.2.ground_m": 260}, {}),  # it is the lower float's turn first, and told so
]  # fmt: skip


@pytest.mark.parametrize(("code", "found", "not_found"), PAIRS, ids=[f"{i}-{pair[0]}" for i, pair in enumerate(PAIRS)])
def test_found_and_a_hair_away_not_found(code: str, found: Document, not_found: Document) -> None:
    codes = [
        {finding.code for finding in judge(Analysis(read_design(changed(RAM_LINE, more))))}
        for more in (found, not_found)
    ]
    assert code in codes[0]
    assert code not in codes[1]


def test_what_a_ram_brings_counts_as_supply_and_its_line_as_no_store() -> None:
    document = changed(RAM_LINE, {"herds": [{"id": "h", "outlet": "low", "class": "growing cattle", "head": 6}]})
    analysis = Analysis(read_design(document))
    assert analysis.brings_m3["ram"] == pytest.approx(3.6 * 1.44, rel=0.01)  # L/min to m3/d
    (system,) = analysis.systems
    assert system.usable_m3(system.outlets[0], system.levels_m) == 0.0
    assert analysis.balance.refill_m3_per_day == pytest.approx(3.6 * 1.44, rel=0.01)
    assert not np.isinf(analysis.balance.usable_m3)
