"""Lengths of lines: pipe, plan and straight way, and what was counted along the ground, each with its error."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.base.errors import OutOfRange
from leadsman.core.design import Distance, PaceCount
from leadsman.core.design.file import read_design
from leadsman.core.design.layout import Layout
from leadsman.core.survey.line_length import LineLength, line_lengths
from leadsman.core.survey.paces import USUAL_PACE_M, counted_length, pace_of, plan_m, slope_m

PACE = pace_of(PaceCount(over_m=80.0, counts=[110.0, 106.0]))

# what was counted, its length [m] and the half-width of its error [m], worked out by hand
COUNTED: list[tuple[Document, float, float]] = [
    ({"kind": "posts", "count": 12, "each_m": 7.0}, 84.0, 84.0 * 0.02),
    ({"kind": "posts", "count": 12, "each_m": 7.0, "over_m": 3.0}, 87.0, 84.0 * 0.02 + 3.0 * 0.005),
    ({"kind": "rolls", "count": 2, "each_m": 120.0}, 240.0, 2.4),
    ({"kind": "tape", "over_m": 61.5}, 61.5, 0.3075),
    ({"kind": "track", "over_m": 200.0}, 200.0, 6.0),
    ({"kind": "paces", "count": 54}, 40.0, 40.0 * 0.02),
]


@pytest.mark.parametrize(("told", "length", "error"), COUNTED)
def test_a_count_is_a_length_along_the_ground_with_its_error(told: Document, length: float, error: float) -> None:
    found = counted_length(Distance.model_validate({"id": "d", "line": "line", **told}), PACE)
    assert found.slope_m == pytest.approx(length)
    assert found.error_m == pytest.approx(error)


@pytest.mark.parametrize(
    ("counts", "share"), [([100.0], 0.05), ([100.0, 100.0], 0.02), ([90.0, 110.0], 0.1), ([99.0, 101.0, 100.0], 0.02)]
)
def test_a_pace_is_as_good_as_its_counts_agree_and_never_better_than_paces_are(
    counts: list[float], share: float
) -> None:
    pace = pace_of(PaceCount(over_m=75.0, counts=counts))
    assert pace.error_share == pytest.approx(share)
    assert pace.length_m == pytest.approx(75.0 * len(counts) / sum(counts))
    assert pace_of(None).length_m == USUAL_PACE_M


# slope and plan of the check values: 100 m at 10 degrees, 1000 m on plan with 120 m of drop
def test_slope_and_plan_lengths_are_kept_apart() -> None:
    assert plan_m(100.0, 100.0 * math.sin(math.radians(10.0))) == pytest.approx(98.481, abs=5e-4)
    assert slope_m(1000.0, 120.0) == pytest.approx(1007.17, abs=5e-3)
    with pytest.raises(OutOfRange):
        plan_m(10.0, 10.1)


@given(st.floats(0, 1e4), st.floats(-1e3, 1e3))
def test_plan_and_slope_are_each_others_way_back(plan: float, rise: float) -> None:
    assert plan_m(slope_m(plan, rise), rise) == pytest.approx(plan, abs=1e-3)
    assert slope_m(plan, rise) >= plan


def only(document: Document) -> LineLength:
    (found,) = line_lengths(Layout(read_design(document)))
    return found


@pytest.mark.parametrize(
    ("east_m", "length_m", "short"),
    [(200.0, 210.0, False), (200.0, 200.9, False), (200.0, 198.8, True), (0.0, 210.0, False), (0.0, 18.82, False),
     (0.0, 18.80, True)],
)  # fmt: skip
def test_a_pipe_has_to_reach_from_end_to_end_by_the_slope(east_m: float, length_m: float, short: bool) -> None:
    """The ends are 19 m apart in height: straight 200.9 m where they are 200 m apart on plan."""
    document = one_line()
    document["places"][1]["east_m"] = east_m
    document["lines"][0] |= {"length_m": length_m, "points": []}
    found = only(document)
    assert found.straight_m == pytest.approx(math.hypot(east_m, 19.0))
    assert found.is_too_short is short


def test_the_length_on_plan_is_that_of_every_slope_between_its_points() -> None:
    document = one_line()
    document["lines"][0]["points"] = [[0, 120], [50, 90], [100, 130], [210, 101]]
    found = only(document)
    by_hand = math.sqrt(50**2 - 30**2) + math.sqrt(50**2 - 40**2) + math.sqrt(110**2 - 29**2)
    assert found.plan_m == pytest.approx(by_hand)
    assert (found.ways, found.weighed) == ([], None)


def test_counts_that_disagree_are_weighed_and_the_error_told_is_what_lies_between_them() -> None:
    counted = [{"id": "a", "line": "line", "kind": "tape", "over_m": 210.0},
               {"id": "b", "line": "line", "kind": "posts", "count": 40, "each_m": 6.0}]  # fmt: skip
    found = only(one_line(distances=counted))
    assert found.weighed is not None
    weights = 1.05**-2, 4.8**-2
    assert found.weighed.slope_m == pytest.approx((210 * weights[0] + 240 * weights[1]) / sum(weights))
    assert found.weighed.error_m == pytest.approx(15.0)
