"""Heights: the published level book, clinometer and barometer examples, and what must hold of every book."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.base.errors import OutOfRange
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import StaffReading
from leadsman.core.design.file import read_design
from leadsman.core.report.ground import book_reports
from leadsman.core.survey.field_height import barometric_rise_m, clinometer_sight, weighed_m, without_drift_m
from leadsman.core.survey.level_book import graduation_slip, reduced_book, suspects

# point, back, mid, fore, rise, level: recomputed by hand; bench mark 100.000
BOOK: list[tuple[str, float | None, float | None, float | None, float | None, float]] = [
    ("BM", 1.532, None, None, None, 100.000), ("A", None, 1.101, None, 0.431, 100.431),
    ("B", None, 2.345, None, -1.244, 99.187), ("TP1", 0.875, None, 2.012, 0.333, 99.520),
    ("C", None, 1.640, None, -0.765, 98.755), ("TP2", 2.118, None, 1.554, 0.086, 98.841),
    ("D", None, 1.006, None, 1.112, 99.953), ("BM", None, None, 0.967, 0.039, 99.992),
]  # fmt: skip
READINGS = [StaffReading(name=name, back_m=back, mid_m=mid, fore_m=fore) for name, back, mid, fore, *_ in BOOK]


def test_the_level_book_is_reduced_to_its_printed_levels() -> None:
    book = reduced_book(READINGS, 100.0, 100.0)
    for point, (*_, rise, level) in zip(book.points, BOOK, strict=True):
        assert point.level_m == pytest.approx(level, abs=5e-4)
        assert point.rise_m == (None if rise is None else pytest.approx(rise, abs=5e-4))
    assert (book.back_sum_m, book.fore_sum_m) == pytest.approx((4.525, 4.533))
    assert book.sums_agree
    assert book.misclosure_m == pytest.approx(-0.008)
    assert [point.collimation_m for point in book.points[:4]] == pytest.approx([101.532] * 4)
    assert book.allowed_m(0.4) == pytest.approx(0.0076, abs=5e-5)  # fails by a hair
    assert book.allowed_m(0.4, 20.0) == pytest.approx(0.0126, abs=5e-5)  # passes
    adjusted = [point.adjusted_m for point in book.points]
    assert adjusted[0] == 100.0
    assert adjusted[-1] == pytest.approx(100.0)
    assert adjusted[3] == pytest.approx(99.520 + 0.008 / 3)


@given(st.lists(st.tuples(st.floats(0.1, 4), st.lists(st.floats(0.1, 4), max_size=3), st.floats(0.1, 4)), min_size=1,
                max_size=8), st.floats(-100, 3000))  # fmt: skip
def test_every_book_checks_itself_and_both_methods_agree(
    setups: list[tuple[float, list[float], float]], start_m: float
) -> None:
    readings = [StaffReading(back_m=setups[0][0])]
    for number, (_, mids, fore) in enumerate(setups):
        readings += [StaffReading(mid_m=mid) for mid in mids]
        following = setups[number + 1][0] if number + 1 < len(setups) else None
        readings.append(StaffReading(fore_m=fore, back_m=following))
    book = reduced_book(readings, start_m, start_m)
    assert book.sums_agree
    levels = [point.level_m for point in book.points]
    by_rise = start_m
    for point, level in zip(book.points, levels, strict=True):
        by_rise += point.rise_m or 0.0
        assert by_rise == pytest.approx(level, abs=1e-9)
    assert levels[-1] - start_m == pytest.approx(sum(back - fore for back, _, fore in setups), abs=1e-9)
    assert book.points[-1].adjusted_m == pytest.approx(start_m, abs=1e-9)


def test_two_swapped_digits_are_named() -> None:
    wrong = [one.model_copy(update={"back_m": 0.785}) if one.name == "TP1" else one for one in READINGS]
    book = reduced_book(wrong, 100.0, 99.992)
    assert book.misclosure_m == pytest.approx(-0.09)
    assert (3, "back_m", 0.875) in suspects(wrong, book.misclosure_m or 0.0)
    assert suspects(READINGS, 0.0004) == []
    assert graduation_slip(-0.103) == 0.1
    assert graduation_slip(0.3) is None


@pytest.mark.parametrize(
    "readings",
    [
        [{"fore_m": 1.0}], [{"back_m": 1.0, "mid_m": 1.0}], [{"back_m": 1.0}, {}],
        [{"back_m": 1.0}, {"fore_m": 1.0}, {"mid_m": 1.0}], [{"back_m": 1.0}, {"back_m": 1.0}],
    ],
)  # fmt: skip
def test_a_book_that_cannot_be_reduced_is_refused(readings: list[Document]) -> None:
    with pytest.raises(DesignFaults):
        read_design(one_line(books=[{"id": "b", "readings": readings}]))


def test_a_reading_at_a_place_that_is_not_there_is_refused() -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(books=[{"id": "b", "readings": [{"place": "gone", "back_m": 1.0}]}]))
    assert [fault.path for fault in refused.value.faults] == ["/books/0/readings/0/place"]


def test_a_book_of_the_design_begins_at_its_places_height_and_closes_on_it() -> None:
    readings = [{"place": "top", "back_m": 0.4}, {"place": "end", "fore_m": 3.9, "back_m": 3.2},
                {"place": "top", "fore_m": 0.29}]  # fmt: skip
    (book,) = book_reports(read_design(one_line(books=[{"id": "b", "readings": readings, "length_km": 0.4}])))
    assert [point.level_m for point in book.points] == pytest.approx([120.0, 116.5, 119.41])
    assert book.misclosure_m == pytest.approx(-0.59)
    assert book.allowed_m == pytest.approx(0.0076, abs=5e-5)
    assert [point.adjusted_m for point in book.points] == pytest.approx([120.0, 116.795, 120.0])
    open_ended = book_reports(read_design(one_line(books=[{"id": "b", "readings": readings[:2]}])))[0]
    assert (open_ended.misclosure_m, open_ended.allowed_m) == (None, None)
    assert book_reports(read_design(one_line(books=[{"id": "b"}])))[0].points == []


def test_clinometer_paces_and_barometer() -> None:
    steep = clinometer_sight(100.0, 10.0)
    assert (steep.plan_m, steep.rise_m) == pytest.approx((98.481, 17.365), abs=5e-4)
    paced = clinometer_sight(60 * 0.75, 6.0)
    assert (paced.plan_m, paced.rise_m) == pytest.approx((44.753, 4.704), abs=5e-4)
    assert paced.rise_error_m == pytest.approx(0.780, abs=2e-3)
    assert clinometer_sight(45.0, 6.0, 0.0, 0.1).rise_error_m == pytest.approx(0.4704, abs=1e-4)
    assert barometric_rise_m(1013.25, 1012.25, 15.0) == pytest.approx(8.33, abs=0.01)
    with pytest.raises(OutOfRange):
        clinometer_sight(45.0, 95.0)
    with pytest.raises(OutOfRange):
        barometric_rise_m(float("nan"), 1000.0, 15.0)


def test_drift_is_taken_out_by_coming_back() -> None:
    assert without_drift_m([0, 10, 30, 40], [50.0, 57.0, 61.0, 52.0]) == pytest.approx([50.0, 56.5, 59.5, 50.0])
    with pytest.raises(OutOfRange):
        without_drift_m([5, 5], [1.0, 2.0])


@given(st.lists(st.tuples(st.floats(90, 110), st.floats(0.01, 5)), min_size=1, max_size=6))
def test_two_ways_are_weighed_by_their_errors(ways: list[tuple[float, float]]) -> None:
    height, error = weighed_m(ways)
    heights = [one for one, _ in ways]
    assert min(heights) - 1e-9 <= height <= max(heights) + 1e-9
    assert error > 0.0
    if max(heights) - min(heights) < 1e-6:
        assert error <= min(each for _, each in ways) + 1e-9


def test_a_good_way_outweighs_a_bad_one_and_a_contradiction_is_not_hidden() -> None:
    height, error = weighed_m([(100.0, 0.05), (100.4, 0.5)])
    assert height == pytest.approx(100.004, abs=1e-3)
    assert error < 0.05
    torn, wide = weighed_m([(100.0, 0.1), (103.0, 0.1)])
    assert torn == pytest.approx(101.5)
    assert wide == pytest.approx(1.5)


# Ghilani and Wolf, Elementary Surveying, the notes of a level circuit in feet, from memory: point, back, fore,
# elevation, adjusted. Sums 40.24 and 40.21, misclosure 0.03 ft, and 0.02 ft times the root of 7 set-ups would pass.
CIRCUIT: list[tuple[str, float | None, float | None, float, float]] = [
    ("BM Mil", 1.33, None, 2053.18, 2053.18), ("TP1", 0.22, 8.37, 2046.14, 2046.14),
    ("TP2", 0.96, 7.91, 2038.45, 2038.44), ("TP3", 0.46, 11.72, 2027.69, 2027.68),
    ("BM Oak", 11.95, 8.71, 2019.44, 2019.42), ("TP4", 12.55, 2.61, 2028.78, 2028.76),
    ("TP5", 12.77, 0.68, 2040.65, 2040.62), ("BM Mil", None, 0.21, 2053.21, 2053.18),
]  # fmt: skip
FOOT_M = 0.3048


def test_a_textbooks_circuit_closes_as_printed_and_is_adjusted_by_its_set_ups() -> None:
    def metres(feet: float | None) -> float | None:
        return None if feet is None else feet * FOOT_M

    readings = [StaffReading(name=name, back_m=metres(back), fore_m=metres(fore)) for name, back, fore, *_ in CIRCUIT]
    book = reduced_book(readings, 2053.18 * FOOT_M, 2053.18 * FOOT_M)
    assert book.back_sum_m / FOOT_M == pytest.approx(40.24)
    assert book.fore_sum_m / FOOT_M == pytest.approx(40.21)
    assert book.misclosure_m is not None
    assert book.misclosure_m / FOOT_M == pytest.approx(0.03)
    for point, (*_, elevation, adjusted) in zip(book.points, CIRCUIT, strict=True):
        assert point.level_m / FOOT_M == pytest.approx(elevation, abs=5e-3)
        assert point.adjusted_m / FOOT_M == pytest.approx(adjusted, abs=6e-3)
