"""When the front of the water gets where: a closed form, an independent integration, and what never turns round."""

import math

import fluids
import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.base.errors import OutOfRange
from leadsman.core.physics.front import Stretch, front_times_s
from properties import examples

NU = 1.3e-6


def stretch(length_m: float, end_m: float, bore_mm: float = 26.0) -> Stretch:
    return Stretch(length_m=length_m, bore_m=bore_mm / 1e3, roughness_m=7e-6, end_m=end_m)


def velocity_ms(head_m: float, length_m: float, bore_m: float) -> float:
    """The velocity at which a length takes a head, by an independent library's friction factor."""
    velocity = 1.0
    for _ in range(200):
        factor = fluids.friction.friction_factor(fluids.Reynolds(V=velocity, D=bore_m, nu=NU), 7e-6 / bore_m)
        velocity = 0.5 * velocity + 0.5 * math.sqrt(2.0 * 9.80665 * bore_m * head_m / (factor * length_m))
    return velocity


def test_down_an_even_slope_from_a_full_start_the_front_runs_at_one_speed() -> None:
    """The head grows as the length does: their ratio, and so the speed, stays."""
    (time_s,) = front_times_s(100.0, 100.0, [stretch(300.0, 91.0)], NU)
    assert time_s == pytest.approx(300.0 / velocity_ms(9.0, 300.0, 0.026), rel=2e-3)


def test_along_level_ground_it_slows_as_its_friction_at_each_place_says() -> None:
    (time_s,) = front_times_s(103.0, 100.0, [stretch(200.0, 100.0)], NU)
    begin_m = 0.02  # there the speed is without bound; that little takes no time
    found, at = 0.0, begin_m
    while at < 200.0:
        step = min(0.25, 200.0 - at)
        found += step / velocity_ms(3.0, at + step / 2.0, 0.026)
        at += step
    assert time_s == pytest.approx(found, rel=0.01)


def test_it_stops_where_the_ground_stands_over_the_source() -> None:
    times = front_times_s(100.0, 99.0, [stretch(50.0, 95.0), stretch(50.0, 101.0), stretch(50.0, 90.0)], NU)
    assert times[0] is not None
    assert times[1:] == [None, None]


def test_past_a_high_point_no_more_comes_than_runs_over_it() -> None:
    over = [stretch(100.0, 99.0), stretch(200.0, 60.0)]
    times = front_times_s(100.0, 99.5, over, NU)
    flow = velocity_ms(1.0, 100.0, 0.026)
    straight = front_times_s(100.0, 99.5, [stretch(100.0, 98.99), stretch(200.0, 60.0)], NU)
    assert times[1] is not None
    assert straight[1] is not None
    up = front_times_s(100.0, 98.0, over, NU)  # now the first stretch rises to a high point
    assert up[0] is not None
    assert up[1] is not None
    assert up[1] - up[0] >= 200.0 / flow * 0.999
    assert up[1] > straight[1]


@examples(60)
@given(st.floats(1.0, 40.0), st.floats(0.2, 5.0), st.floats(12.0, 60.0))
def test_more_head_and_a_wider_pipe_bring_it_sooner(head_m: float, more_m: float, bore_mm: float) -> None:
    def arrives(surface_m: float, bore: float) -> float:
        (time_s,) = front_times_s(surface_m, 0.0, [stretch(150.0, 0.0, bore)], NU)
        assert time_s is not None
        return time_s

    assert arrives(head_m + more_m, bore_mm) < arrives(head_m, bore_mm)
    assert arrives(head_m, bore_mm * 1.3) < arrives(head_m, bore_mm)


def test_times_rise_along_the_way_and_do_not_hang_on_how_it_is_cut() -> None:
    ends = [97.0, 96.0, 97.5, 92.0, 90.0]
    times = front_times_s(100.0, 99.0, [stretch(60.0, end) for end in ends], NU)
    known = [time for time in times if time is not None]
    assert known == sorted(known)
    whole = front_times_s(100.0, 100.0, [stretch(300.0, 85.0)], NU)[-1]
    cut = front_times_s(100.0, 100.0, [stretch(100.0, 95.0), stretch(100.0, 90.0), stretch(100.0, 85.0)], NU)[-1]
    assert whole == pytest.approx(cut, rel=5e-3)


def test_nonsense_is_refused() -> None:
    with pytest.raises(OutOfRange):
        front_times_s(1.0, 0.0, [stretch(1.0, 0.0)], float("nan"))
