"""A walked track becomes a pipe: on a new site, between known places, up and down, and what is asked first."""

import math
import random
from typing import Any

import pytest

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.fault import DesignFaults
from leadsman.core.design import Design
from leadsman.core.design.file import write_design
from leadsman.core.design.start import new_design
from leadsman.core.report.survey_import import ImportReport
from leadsman.formats.importing import ImportAsked, import_survey

LATITUDE, LONGITUDE = 46.51, -31.21
METRE_DEG = 1.0 / 111_320.0
Point = tuple[float, float, float]


def gpx(points: list[Point], name: str = "Walk to the flat") -> bytes:
    """A track of east, north and height [m] about an invented spot in the sea."""
    scale = METRE_DEG / math.cos(math.radians(LATITUDE))
    told = "".join(
        f'<trkpt lat="{LATITUDE + north * METRE_DEG:.9f}" lon="{LONGITUDE + east * scale:.9f}">'
        f"<ele>{h:.3f}</ele></trkpt>"
        for east, north, h in points
    )
    return (
        f'<gpx version="1.1" creator="made up"><trk><name>{name}</name><trkseg>{told}</trkseg></trk></gpx>'
    ).encode()


def walk(fall_m: float = 12.0, noise_m: float = 0.0, seed: int = 3) -> list[Point]:
    """A walk east, then north-east, over a rise in the middle; every 3 m, its heights off by some noise."""
    chance = random.Random(seed)
    points = []
    for number in range(134):
        along = 3.0 * number
        east, north = (along, 0.0) if along < 200.0 else (200.0 + 0.6 * (along - 200.0), 0.8 * (along - 200.0))
        height = 300.0 - fall_m * along / 399.0 + 4.0 * math.sin(math.pi * along / 399.0 * 2.0) ** 2
        points.append((east, north, height + chance.uniform(-noise_m, noise_m)))
    return points


def site() -> Design:
    return new_design("Tamsel Ridge", "tank", "Hill tank", 100.0)


def asked(data: bytes, design: Design, **said: Any) -> ImportReport:
    return import_survey(
        data, ImportAsked.model_validate({"document": write_design(design), "name": "walk.gpx", **said})
    )


def imported(data: bytes, design: Design | None = None, **said: Any) -> Design:
    report = asked(data, design or site(), **{"datum": "differences", "position": (0, "start"), **said})
    assert report.document is not None, report.questions
    return report.document


def test_on_a_new_site_it_is_asked_which_point_of_the_file_is_which_place() -> None:
    report = asked(gpx(walk()), site())
    assert report.questions == ["position"]
    assert report.tie_points == ["Walk to the flat: start", "Walk to the flat: end"]
    tied = asked(gpx(walk()), site(), position=(0, "start"))
    assert (tied.questions, len(tied.tracks)) == ([], 1)  # nothing is chosen yet to become anything
    east, north = tied.tracks[0][0]
    assert math.hypot(east, north) < 0.5


def test_a_track_from_the_tank_becomes_a_pipe_with_its_profile_and_a_trough_that_runs() -> None:
    design = imported(gpx(walk()), walks={0: "new trough"})
    (line,) = design.lines
    assert (line.name, line.from_) == ("Walk to the flat", "source")
    along = math.fsum(math.dist(a, b) for a, b in zip(walk(), walk()[1:], strict=False))
    assert line.length_m == pytest.approx(along, rel=0.01)
    end = next(place for place in design.places if place.id != "start")
    assert end.ground_m == pytest.approx(100.0 - 12.0, abs=0.3)  # the tank's height stands, though the phone said 300
    assert (end.east_m, end.north_m) == pytest.approx((200.0 + 0.6 * 199.0, 0.8 * 199.0), abs=1.0)
    heights = [ground for _, ground in line.points]
    assert max(heights) > 101.0  # the rise on the way is in the profile
    corner = min(line.way, key=lambda spot: math.dist(spot, (200.0, 0.0)))
    assert math.dist(corner, (200.0, 0.0)) < 6.0
    assert Analysis(design).state.outlets[line.to].judged_flow_m3s > 0.0


def test_a_track_without_a_trough_ends_in_a_junction_to_go_on_from() -> None:
    design = imported(gpx(walk()), walks={0: "new"})
    (line,) = design.lines
    assert line.to in {place.id for place in design.places}
    assert not design.outlets


def test_noise_on_every_height_makes_the_pipe_hardly_longer() -> None:
    still, noisy = (imported(gpx(walk(noise_m=noise)), walks={0: "new"}).lines[0] for noise in (0.0, 3.0))
    assert noisy.length_m == pytest.approx(still.length_m, rel=0.02)


def test_a_track_walked_uphill_ends_at_the_tank_and_carries_the_other_height() -> None:
    design = imported(gpx(walk()[::-1]), walks={0: "new"}, position=(1, "start"))
    (line,) = design.lines
    begin = next(place for place in design.places if place.id != "start")
    assert (line.from_, line.to) == (begin.id, "source")
    assert begin.ground_m == pytest.approx(88.0, abs=0.3)


def test_heights_above_the_plan_s_own_datum_stand_as_they_are() -> None:
    design = imported(
        gpx(walk()), new_design("Tamsel Ridge", "tank", "Hill tank", 300.0), datum="site", walks={0: "new"}
    )
    end = next(place for place in design.places if place.id != "start")
    assert end.ground_m == pytest.approx(288.0, abs=0.3)


def test_relative_heights_that_meet_no_place_are_asked_about() -> None:
    away = [(east + 500.0, north, height) for east, north, height in walk()]
    anchored = imported(gpx(walk()), walks={0: "skip"})
    data = gpx(away)
    report = asked(data, anchored, datum="differences", walks={0: "new"})
    assert (report.questions, report.document) == (["common place"], None)
    assert asked(data, anchored, walks={0: "new"}).questions == ["datum"]
    assert asked(data, anchored, datum="site", walks={0: "new"}).document is not None


def test_a_walk_is_no_trough_of_nothing() -> None:
    with pytest.raises(DesignFaults):
        asked(gpx(walk()), site(), position=(0, "start"), spots={0: "new trough"})


def test_a_series_of_points_becomes_a_pipe_only_where_it_is_said() -> None:
    table = "name,east,north,height\n" + "".join(
        f"peg {number},{100 * number},0,{100.0 - 4.0 * number}\n" for number in range(4)
    )
    report = asked(
        table.encode(), site(), name="pegs.csv", system="local", datum="site", spots=dict.fromkeys(range(4), "skip")
    )
    assert [walk.of for walk in report.walks] == ["skip"]
    made = asked(
        table.encode(), site(), name="pegs.csv", system="local", datum="site", walks={0: "new trough"}
    ).document
    assert made is not None
    (line,) = made.lines
    assert line.from_ == "source"
    assert line.length_m == pytest.approx(3 * math.hypot(100.0, 4.0), abs=0.2)
    assert Analysis(made).state.outlets[line.to].judged_flow_m3s > 0.0
