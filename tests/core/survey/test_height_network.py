"""Heights by several ways: worked examples, datums fitted by common places, and what must hold of every network."""

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from examples import Document, one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.analysis.flow_check import flow_checks
from leadsman.core.analysis.next_reading import LEVELLED_M, next_readings
from leadsman.core.base.fault import DesignFaults
from leadsman.core.base.wording import plain
from leadsman.core.design.file import read_design
from leadsman.core.design.layout import Layout
from leadsman.core.findings.registry import judge
from leadsman.core.report.ground import ground_report
from leadsman.core.report.measuring import measuring_report
from leadsman.core.survey.height_network import heights
from leadsman.core.survey.line_length import line_lengths
from leadsman.core.survey.paces import pace_of
from leadsman.core.survey.sight import observed
from leadsman.demo import tamsel_ridge

TOP, END = 120.0, 101.0  # grounds of one_line's places


def farm(*sights: Document, **more: object) -> Document:
    """The one-line design with a third place and sights."""
    document = one_line(sights=[{"id": f"s{number}", **sight} for number, sight in enumerate(sights)], **more)
    top, end = document["places"][:2]
    document["places"] = [
        top,
        end,
        {"id": "bend", "east_m": 40, "north_m": 0, "ground_m": 110.0, "height_from": "satellite"},
    ]
    return document


def hose(of: str, to: str, *setups: tuple[float, float], **more: object) -> Document:
    read = [{"from_m": a, "to_m": b} for a, b in setups]
    return {"kind": "hose_level", "from": of, "to": to, "setups": read, **more}


def spot(place: str, height_m: float, error_m: float, source: str = "phone", datum: str = "differences") -> Document:
    return {"kind": "satellite", "place": place, "height_m": height_m, "error_m": error_m, "source": source,
            "datum": datum}  # fmt: skip


# (sight, rise, half-width of its error, how they were worked out)
RISES: list[tuple[Document, list[tuple[float, float]], str]] = [
    (hose("top", "end", (0.3, 1.9), (0.2, 1.6)), [(-3.0, 0.01 * 2**0.5)], "sum of the falls; errors by squares"),
    (hose("top", "end", (0.3, 1.9), error_each_m=0.05), [(-1.6, 0.05)], "one set-up"),
    ({"kind": "clinometer", "from": "end", "to": "top", "legs": [{"angle_deg": 10.0, "slope_m": 100.0}]},
     [(17.365, 1.719)], "100 m at 10°: rise 17.365, a degree of error 98.481 x 0.017453"),
    ({"kind": "clinometer", "from": "end", "to": "top", "legs": [{"angle_deg": 6.0, "paces": 60}]},
     [(4.704, (0.7811**2 + 0.4704**2) ** 0.5)], "60 paces of 0.75 m at 6°: 4.704; a degree 0.78, a tenth of a pace"),
    ({"kind": "barometer", "air_c": 15.0, "error_m": 0.5, "readings": [
        {"place": "top", "minute": 0, "pressure_hpa": 1013.25}, {"place": "end", "minute": 10, "pressure_hpa": 1012.25},
        {"place": "top", "minute": 20, "pressure_hpa": 1013.25}]}, [(8.33, 0.5 * 2**0.5)], "1 hPa is 8.33 m"),
    ({"kind": "barometer", "error_m": 0.5, "readings": [
        {"place": "top", "minute": 0, "height_m": 50.0}, {"place": "end", "minute": 15, "height_m": 36.0},
        {"place": "bend", "minute": 30, "height_m": 44.0}, {"place": "top", "minute": 60, "height_m": 54.0}]},
     [(-15.0, 0.5 * 2**0.5), (-8.0, 0.5 * 2**0.5)], "4 m of drift in an hour, by the minute"),
]  # fmt: skip


@pytest.mark.parametrize(("sight", "rises", "how"), RISES, ids=[how for *_, how in RISES])
def test_a_sight_says_its_rise_and_its_error(sight: Document, rises: list[tuple[float, float]], how: str) -> None:
    found = observed(read_design(farm(sight)))
    assert [one.rise_m for one in found] == pytest.approx([rise for rise, _ in rises], abs=6e-3), how
    assert [one.error_m for one in found] == pytest.approx([error for _, error in rises], abs=2e-3), how


@pytest.mark.parametrize(
    "sight",
    [hose("top", "end") | {"setups": [{"from_m": 1.0, "to_m": 1.2}, {"from_m": 1.0}]},
     spot("end", 0.0, 1.0) | {"height_m": None},
     {"kind": "clinometer", "from": "end", "to": "top", "legs": [{"paces": 60}]},
     {"kind": "clinometer", "from": "end", "to": "top", "legs": [{"angle_deg": 4.0}]},
     {"kind": "barometer", "readings": [{"place": "top", "minute": 0, "height_m": 1.0}, {"place": "end", "minute": 1},
                                        {"place": "top", "minute": 2, "height_m": 1.0}]},
     {"kind": "timed_flow", "outlet": "valve", "volume_l": 20.0}],
)  # fmt: skip
def test_what_is_not_read_yet_says_nothing(sight: Document) -> None:
    analysis = Analysis(read_design(farm(sight, bench="top")))
    assert (observed(analysis.design), analysis.heights.places, flow_checks(analysis)) == ([], [], [])
    assert ground_report(analysis).sights[0].rises == []


@pytest.mark.parametrize(
    ("counted", "says"),
    [({"kind": "posts", "count": 4}, 0), ({"kind": "posts", "each_m": 5}, 0), ({"kind": "tape"}, 0),
     ({"kind": "posts", "count": 4, "each_m": 5}, 1), ({"kind": "paces", "count": 4}, 1),
     ({"kind": "rolls", "over_m": 3}, 1)],
)  # fmt: skip
def test_a_count_says_something_once_all_of_it_is_read(counted: Document, says: int) -> None:
    document = farm()
    document["distances"] = [{"id": "d", "line": "line", **counted}]
    (line,) = line_lengths(Layout(read_design(document)))
    assert len(line.ways) == says
    assert (line.weighed is not None) == bool(says)


def test_two_ways_are_weighted_by_their_errors_and_both_are_shown() -> None:
    design = read_design(farm(hose("top", "end", (0.0, 0.1), error_each_m=0.1), spot("end", 121.0, 0.2),
                              spot("top", 120.0, 1e-3), bench="top"))  # fmt: skip
    (end,) = [place for place in heights(design).places if place.place_id == "end"]
    # by hand: 119.9 ± 0.1 and 121.0 ± 0.2 weigh 100 to 25
    assert end.height_m == pytest.approx((119.9 * 100 + 121.0 * 25) / 125, abs=1e-3)
    assert [way.height_m for way in end.ways] == pytest.approx([119.9, 121.0], abs=2e-3)
    assert [way.weight for way in end.ways] == pytest.approx([0.8, 0.2])
    assert end.disagree
    assert end.error_m > 0.0894  # more than the weights alone say: the ways are too far apart


def test_a_source_with_its_own_datum_is_lifted_by_common_places_and_never_mixed_in() -> None:
    shifted = [spot("top", TOP + 47.0, 1.0), spot("end", END + 47.0, 1.0), spot("bend", 111.0 + 47.0, 1.0)]
    level = hose("top", "end", *[(0.0, (TOP - END) / 8)] * 8, error_each_m=0.01)
    found = heights(read_design(farm(*shifted, level, bench="top")))
    assert [(source.source, source.places) for source in found.sources] == [("phone", 3)]
    assert found.sources[0].raised_m == pytest.approx(-47.0, abs=0.01)
    bend = next(place for place in found.places if place.place_id == "bend")
    assert bend.height_m == pytest.approx(111.0, abs=0.01)
    alone = heights(read_design(farm(spot("bend", 157.0, 1.0), bench="top")))
    assert (alone.places, alone.sources, alone.unjoined) == ([], [], ["bend"])  # nothing in common: no height
    on_site = heights(read_design(farm(spot("bend", 104.0, 1.0, datum="site"), bench="top")))
    assert [place.height_m for place in on_site.places] == [104.0]
    by_plan = heights(read_design(farm(spot("end", END + 47.0, 1.0), spot("bend", 158.0, 1.0))))
    assert by_plan.sources[0].raised_m == pytest.approx(-47.0)  # the plan's own height of the end is the common place


@given(st.lists(st.tuples(st.sampled_from(["top", "end", "bend"]), st.sampled_from(["top", "end", "bend"]),
                          st.floats(0.01, 2.0)), min_size=1, max_size=12), st.integers(0, 9))  # fmt: skip
def test_readings_without_mistakes_give_back_the_true_heights(net: list[tuple[str, str, float]], seed: int) -> None:
    noise = np.random.default_rng(seed).uniform(-1.0, 1.0, size=2)
    true = {"top": TOP, "end": TOP + noise[0], "bend": TOP + noise[1]}
    sights = [hose(a, b, (0.5, round(0.5 + true[a] - true[b], 9)), error_each_m=error) for a, b, error in net if a != b]
    found = heights(read_design(farm(*sights, bench="top")))
    for place in found.places:
        assert place.height_m == pytest.approx(true[place.place_id], abs=1e-6)
        assert all(abs(way.apart_m) < 1e-6 for way in place.ways)
        assert sum(way.weight for way in place.ways) == pytest.approx(1.0)
        from_bench = [way.observed.error_m for way in place.ways if "top" in (way.observed.from_id, way.observed.to_id)]
        assert 0.0 < place.error_m <= min(from_bench, default=100.0) + 1e-9
        assert not place.disagree


def test_what_hangs_on_a_place_says_nothing_of_it_and_large_networks_are_quick_to_weigh() -> None:
    """A chain from the bench, every fourth place also tied by a phone: found by brute force, place by place."""
    names = ["top", "end", "bend", *(f"p{n}" for n in range(12))]
    document = farm()
    document["places"] += [{"id": name, "east_m": 0, "north_m": 0, "ground_m": 110.0, "height_from": "phone"}
                           for name in names[3:]]  # fmt: skip
    chain = [hose(a, b, (0.5, 0.6)) for a, b in pairwise(names)]
    phone = [spot(name, 157.0, 2.0) for name in names[2::4]]
    document["sights"] = [{"id": f"s{n}", **one} for n, one in enumerate([*chain, *phone])]
    found = {one.place_id: {way.observed.part_id for way in one.ways} for one in heights(read_design(document)).places}
    for name, ways in found.items():
        rest = [
            sight
            for sight in document["sights"]
            if name not in (sight.get("from"), sight.get("to"), sight.get("place"))
        ]
        others = {place.place_id for place in heights(read_design({**document, "sights": rest, "bench": "top"})).places}
        others |= {"top"} | ({"phone"} if any(one.get("place") in others for one in rest) else set())
        told = {sight["id"] for sight in document["sights"]
                if name in (sight.get("from"), sight.get("to"), sight.get("place"))
                and ({sight.get("from"), sight.get("to"), sight.get("source")} - {name, None}) <= others}  # fmt: skip
        assert ways == told, name


def test_a_book_takes_part_with_its_misclosure_as_error() -> None:
    readings = [{"place": "top", "back_m": 0.4}, {"place": "end", "fore_m": 3.9, "back_m": 3.2},
                {"place": "top", "fore_m": -0.29}]  # fmt: skip
    (one,) = observed(read_design(farm(books=[{"id": "b", "readings": readings}])))
    assert (one.from_id, one.to_id, one.way) == ("top", "end", "book")
    assert one.rise_m == pytest.approx(-3.495)
    assert one.error_m == pytest.approx(0.01)


def test_paces_posts_and_rolls_are_held_against_the_pipe() -> None:
    counts = {"over_m": 90.0, "counts": [118.0, 121.0, 124.0]}
    counted = [{"id": "a", "line": "line", "kind": "posts", "count": 9, "each_m": 8.0},
               {"id": "b", "line": "line", "kind": "paces", "count": 100}]  # fmt: skip
    design = read_design(farm(distances=counted, pace=counts))
    (length,) = line_lengths(Analysis(design).model.layout)
    assert [one.slope_m for _, one in length.ways] == pytest.approx([72.0, 100 * 90 / 121])
    assert [one.error_m for _, one in length.ways] == pytest.approx([1.44, 100 * 90 / 121 * 3 / 121])
    assert length.weighed is not None
    assert 72.0 < length.weighed.slope_m < 100 * 90 / 121
    assert not pace_of(None).is_counted
    report = ground_report(Analysis(design))
    assert report.pace.length_m == pytest.approx(90 / 121)
    assert [one.kind for one in report.lengths[0].counted] == ["posts", "paces"]


@pytest.mark.parametrize(
    ("more", "path"),
    [
        ({"sights": [{"id": "s", **hose("top", "gone", (0, 0))}]}, "/sights/0/to"),
        ({"sights": [{"id": "s", **hose("top", "top", (0, 0))}]}, "/sights/0"),
        ({"sights": [{"id": "s", "kind": "clinometer", "from": "top", "to": "end", "legs": [
            {"paces": 3, "slope_m": 3}]}]}, "/sights/0/legs/0"),
        ({"sights": [{"id": "s", "kind": "satellite", "place": "top", "height_m": 9, "error_m": 1, "source": "x"}]},
         "/sights/0/datum"),
        ({"sights": [{"id": "s", "kind": "barometer", "readings": [
            {"place": "top", "minute": 0, "height_m": 1}, {"place": "end", "minute": 5, "height_m": 1},
            {"place": "end", "minute": 9, "height_m": 1}]}]}, "/sights/0"),
        ({"distances": [{"id": "d", "line": "no", "kind": "tape", "over_m": 4}]}, "/distances/0/line"),
        ({"bench": "nowhere"}, "/bench"),
    ],
)  # fmt: skip
def test_a_reading_that_says_nothing_is_refused_where_it_stands(more: Document, path: str) -> None:
    with pytest.raises(DesignFaults) as refused:
        read_design(one_line(**more))
    assert [fault.path for fault in refused.value.faults] == [path]


def test_what_to_measure_next_keeps_its_promise() -> None:
    """The range after the reading, foretold from the sensitivities, is what the solver finds with the better figure."""
    design = tamsel_ridge()
    analysis = Analysis(design)
    listed = next_readings(analysis)
    turning = [one for one in listed if one.turns]
    assert [one.turns for one in listed] == sorted((one.turns for one in listed), reverse=True)
    assert {one.outlet_id for one in turning} == {"low-valve", "ewe-valve", "mat-valve"}
    for one in [one for one in listed if one.kind == "height"][:5]:
        places = [
            place.model_copy(update={"height_error_m": LEVELLED_M}) if place.id == one.part_id else place
            for place in design.places
        ]
        again = Analysis(design.model_copy(update={"places": places}))
        outlet = again.model.layout.outlets[one.outlet_id]
        found = again.flow_range(outlet)
        assert found is not None
        width = one.before[1] - one.before[0]
        assert found.worst == pytest.approx(one.after[0], abs=0.03 * width), one
        assert found.best == pytest.approx(one.after[1], abs=0.03 * width), one
    assert measuring_report(analysis).next[0].settles


def test_a_height_of_unknown_quality_counts_as_good_to_a_metre() -> None:
    document = one_line()
    for place in document["places"]:
        place.pop("height_error_m", None)
    listed = next_readings(Analysis(read_design(document)))
    assert {one.part_id: one.is_stated for one in listed if one.kind == "height"} == {"top": False, "end": False}


@pytest.mark.parametrize("true_rise_m", [0.0, -2.0, 1.5])
def test_a_timed_flow_finds_the_height_that_would_give_it(true_rise_m: float) -> None:
    """The flow of the same plan with the outlet's place higher by so much is read back as that height."""
    document = farm()
    document["places"][1]["ground_m"] += true_rise_m
    truly = Analysis(read_design(document))
    outlet = truly.fed_outlets[0]
    flow = truly.flows_alone_m3s[outlet.id]
    timed = {"kind": "timed_flow", "outlet": outlet.id, "volume_l": flow * 1000 * 60, "time_s": 60.0}
    (check,) = flow_checks(Analysis(read_design(farm(timed))))
    assert check.higher_m == pytest.approx(true_rise_m, abs=0.02)
    assert check.least_m is None or check.least_m < true_rise_m
    assert check.most_m is None or check.most_m > true_rise_m
    assert check.error_m3s == pytest.approx(flow / 60.0)
    assert check.agrees == (check.planned.worst <= flow + flow / 60 and flow - flow / 60 <= check.planned.best)


def names_wrong(*sights: Document) -> str:
    analysis = Analysis(read_design(farm(*sights, bench="top")))
    return next(plain(finding.why) for finding in judge(analysis) if finding.code == "heights-disagree")


def test_the_reading_that_is_out_is_named_whatever_error_is_claimed_of_it() -> None:
    """A hose level good to 5 cm, they say, and two heights good to half a metre; one of the three is 3 m off."""
    near = [spot("end", 121.0, 0.5, datum="site"), spot("end", 121.2, 0.5, datum="site")]
    wrong_hose = hose("top", "end", (0.0, 1.9), error_each_m=0.05)
    assert "the hose level says 118.10 m is wrong: all the others say 121.10 m" in names_wrong(wrong_hose, *near)
    right_hose = hose("top", "end", (1.1, 0.0), error_each_m=0.05)
    one_out = [near[0], {**spot("end", 124.1, 0.5, datum="site"), "kind": "contour"}]
    assert "the contour map says 124.10 m is wrong: all the others say 121.1" in names_wrong(right_hose, *one_out)


def test_of_two_readings_none_is_named() -> None:
    told = names_wrong(hose("top", "end", (0.0, 0.1), error_each_m=0.1), spot("end", 121.0, 0.2, datum="site"))
    assert "which of them is wrong is not clear" in told


@pytest.mark.parametrize("seed", range(8))
def test_what_the_others_say_is_what_they_say_without_it(seed: int) -> None:
    """Each reading left out in turn and the rest adjusted anew; and of one moved by 5 m it is the one named."""
    random = np.random.default_rng(seed)
    true = {"top": TOP, "end": TOP + random.uniform(-5, 5), "bend": TOP + random.uniform(-5, 5)}
    ends = [("top", "end"), ("end", "bend"), ("bend", "top"), ("top", "end"), ("bend", "end"), ("top", "bend")]
    errors = random.uniform(0.05, 0.4, len(ends))
    noise = random.normal(0.0, errors / 2.0)
    wrong = int(random.integers(len(ends)))
    noise[wrong] += 5.0
    sights = [
        {**hose(a, b, *[(2.5, 2.5 + (true[a] - true[b] - noise[i]) / 8)] * 8, error_each_m=errors[i] / 8**0.5),
         "id": f"s{i}"}
        for i, (a, b) in enumerate(ends)
    ]  # fmt: skip
    whole = heights(read_design(farm(*sights, bench="top")))
    for place in whole.places:
        for way in place.ways:
            rest = heights(read_design(farm(*(s for s in sights if s["id"] != way.observed.part_id), bench="top")))
            level = {"top": TOP} | {other.place_id: other.height_m for other in rest.places}
            rises = level[way.observed.to_id] - level[way.observed.from_id or ""]
            off = way.observed.rise_m - rises
            assert way.off_m == pytest.approx(off if way.observed.to_id == place.place_id else -off, abs=1e-6)
        if any(way.observed.part_id == f"s{wrong}" for way in place.ways):
            assert [way.observed.part_id for way in place.suspects] == [f"s{wrong}"]
