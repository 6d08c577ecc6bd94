"""Tracks and profiles: what matters is kept, what is short-lived goes, and the line's ends stay on their places."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import one_line
from leadsman.core.base.errors import OutOfRange
from leadsman.core.design.file import read_design
from leadsman.core.design.layout import Layout
from leadsman.core.survey.line_profile import profile_from_heights, profile_from_walk, stations
from leadsman.core.survey.track import SMOOTHED_OVER_M, thinned, track_profile, turning_points


def hilly(at: np.ndarray) -> np.ndarray:
    return 240.0 - 0.02 * at + 6.0 * np.sin(at / 110.0) + 1.5 * np.sin(at / 60.0)


def walked(points: int, noise_m: float, jitter_m: float, seed: int = 3) -> list[tuple[float, float, float]]:
    """A made-up walk of 1,600 m due east with the errors of a hand-held receiver."""
    rng = np.random.default_rng(seed)
    at = np.linspace(0.0, 1_600.0, points)
    east, north = at + rng.normal(0, jitter_m, points), rng.normal(0, jitter_m, points)
    return list(zip(east.tolist(), north.tolist(), (hilly(at) + rng.normal(0, noise_m, points)).tolist(), strict=True))


def test_a_track_of_eight_thousand_points_keeps_its_high_points_and_low_points_in_a_few_dozen() -> None:
    told = track_profile(walked(8_000, 0.6, 0.4), error_m=5.0)
    assert len(told.at_m) < 60
    assert told.plan_m == pytest.approx(1_600.0, rel=0.005)  # the jitter of 8,000 steps does not add up
    true = np.linspace(0.0, 1_600.0, 8_000)
    turning = [true[number] for number in turning_points(hilly(true), 1.0)]
    kept = np.array(told.at_m) * 1_600.0 / told.plan_m
    for at in turning:
        nearest = int(np.argmin(np.abs(kept - at)))
        assert abs(kept[nearest] - at) < SMOOTHED_OVER_M
        assert told.height_m[nearest] == pytest.approx(float(hilly(np.array(at))), abs=0.5)
    assert told.error_m == 5.0  # smoothing takes out what is short-lived, not what was said of the source
    assert 0.6 < told.noise_m < 2.4
    assert track_profile(walked(8_000, 6.0, 0.4), error_m=0.5).error_m > 0.5  # nor is it better than its own noise


@pytest.mark.parametrize(
    ("points", "jitter_m", "within"),
    [(3_000, 5.0, 0.01), (1_500, 5.0, 0.01), (300, 5.0, 0.02), (150, 5.0, 0.02), (60, 5.0, 0.03), (1_500, 0.4, 0.005)],
)
def test_the_jitter_of_a_receiver_does_not_make_a_walk_longer(points: int, jitter_m: float, within: float) -> None:
    """Of 3,000 points that jump by 5 m each way the rough length is 20 times that of the walk."""
    lengths = [track_profile(walked(points, 2.5, jitter_m, seed), error_m=5.0).plan_m for seed in range(5)]
    assert np.mean(lengths) == pytest.approx(1_600.0, rel=within)


def test_a_walk_that_winds_keeps_its_length_where_the_receiver_is_good() -> None:
    """Bends of 80 m from one to the next, 12 m to each side: near miss of what is jitter."""
    at = np.arange(0.0, 1_000.0, 1.0)
    aside = 12.0 * np.sin(2.0 * np.pi * at / 80.0)
    true = float(np.sum(np.hypot(np.diff(at), np.diff(aside))))
    noise = np.random.default_rng(5).normal(0.0, 0.1, (2, len(at)))
    bends = list(zip((at + noise[0]).tolist(), (aside + noise[1]).tolist(), [100.0] * len(at), strict=True))
    assert track_profile(bends, error_m=1.0).plan_m == pytest.approx(true, rel=0.1)


@given(st.lists(st.floats(-50, 50), min_size=2, max_size=200), st.floats(0.01, 5))
def test_what_is_kept_stands_within_the_tolerance_of_all_that_was_there(heights: list[float], most: float) -> None:
    at, height = np.arange(len(heights), dtype=float), np.array(heights)
    turning = turning_points(height, most)
    kept = thinned(at, height, most, turning)
    assert kept[0] == 0
    assert kept[-1] == len(heights) - 1
    assert set(turning) <= set(kept)
    assert np.abs(np.interp(at, at[kept], height[kept]) - height).max() <= most + 1e-9
    swings = np.abs(np.diff(height[turning]))
    assert (swings >= most - 1e-9).all()
    rises = np.sign(np.diff(height[turning]))
    assert (rises[1:] != rises[:-1]).all()  # high and low points in turn


def test_a_straight_slope_is_left_as_it_is_and_standing_still_counts_for_nothing() -> None:
    slope = [(float(at), 0.0, 100.0 - 0.1 * at) for at in range(400)]
    standing = [(200.0, 0.05 * (n % 2), 80.0) for n in range(500)]
    told = track_profile([*slope[:201], *standing, *slope[201:]], error_m=0.1)
    assert told.at_m == pytest.approx([0.0, 399.0], abs=0.01)
    assert told.height_m == pytest.approx([100.0, 60.1], abs=0.02)
    assert told.slope_m == pytest.approx(399.0 * 1.01**0.5, rel=1e-4)
    with pytest.raises(OutOfRange):
        track_profile([(0.0, 0.0, 1.0), (0.1, 0.0, 1.0)], 1.0)


LAYOUT = Layout(read_design(one_line()))
LINE = LAYOUT.lines["line"]


@pytest.mark.parametrize("backwards", [False, True])
def test_a_walk_past_both_ends_fills_a_lines_points_and_meets_its_places(backwards: bool) -> None:
    """The walk begins before the line and ends after it, on heights 47 m too high at one end and 48 at the other."""
    at = np.arange(-30.0, 231.0, 1.0)
    true = np.interp(at, [-30, 0, 70, 140, 200, 230], [123, 120, 112, 116, 101, 99])
    points = [(float(x), 0.0, float(h + 47.0 + x / 200.0)) for x, h in zip(at, true, strict=True)]
    told = profile_from_walk(LAYOUT, LINE, points[::-1] if backwards else points, 3.0)
    assert told.points[0] == (0.0, 120.0)
    assert told.points[-1] == (LINE.pipe_length_m, 101.0)
    assert told.raised_m == pytest.approx((-47.0, -48.0), abs=0.6)
    assert told.tilt_m == pytest.approx(1.0, abs=0.7)
    high_point = max(told.points[1:-1], key=lambda pair: pair[1] if pair[0] > 100 else 0)
    assert high_point[0] == pytest.approx(140 / 200 * LINE.pipe_length_m, abs=10)
    assert high_point[1] == pytest.approx(116, abs=0.8)
    assert not told.is_as_before


def test_points_that_somebody_chose_are_not_smoothed_away() -> None:
    points = [(0.0, 0.0, 120.0), (70.0, 0.0, 112.0), (140.0, 0.0, None), (200.0, 0.0, 101.0)]
    told = profile_from_walk(LAYOUT, LINE, points, 0.1)
    ground = 112.0 + (101.0 - 112.0) / 2  # between its neighbours in the list
    assert told.points == [(0.0, 120.0), (73.5, 112.0), (147.0, ground), (210.0, 101.0)]


def test_heights_along_a_line_are_taken_at_even_steps() -> None:
    pairs = stations(LAYOUT, LINE)
    assert pairs[0] == (0.0, 0.0)
    assert pairs[-1] == (200.0, 0.0)
    heights = [120.0 - 19.0 * x / 200.0 for x, _ in pairs]
    assert profile_from_heights(LAYOUT, LINE, heights, 0.6).points == [(0.0, 120.0), (210.0, 101.0)]
