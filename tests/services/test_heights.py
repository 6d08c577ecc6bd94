"""The client of the height service against the stand-in, in every way that it fails."""

import socket
import time
from collections.abc import Iterator

import pytest

from leadsman.core.design.layout import Layout
from leadsman.core.survey.line_profile import stations
from leadsman.demo import tamsel_ridge
from leadsman.formats.placed import anchor_of
from leadsman.formats.projection import Plane
from leadsman.services.heights import BATCH, HeightsUnavailable, ask_heights
from leadsman.standins.height_service import Behaviour, Mode, create_service
from leadsman.standins.hill import ERROR_M, LATITUDE_DEG, LONGITUDE_DEG
from serving import serving

RIDGE = tamsel_ridge()
PLANE = Plane(anchor_of(RIDGE))


@pytest.fixture(scope="module")
def behaviour() -> Behaviour:
    return Behaviour(delay_s=0.0)


@pytest.fixture(scope="module")
def address(behaviour: Behaviour) -> Iterator[str]:
    with serving(create_service(behaviour)) as found:
        yield found


def test_the_hill_is_the_demonstrations_within_the_error_that_it_says(address: str, behaviour: Behaviour) -> None:
    behaviour.mode = "fine"
    anchor = anchor_of(RIDGE)
    assert (anchor.latitude_deg, anchor.longitude_deg) == (LATITUDE_DEG, LONGITUDE_DEG)
    told = ask_heights(address, PLANE.degrees([(place.east_m, place.north_m) for place in RIDGE.places]))
    assert told.error_m == ERROR_M
    off = [height - place.ground_m for height, place in zip(told.heights_m, RIDGE.places, strict=True) if height]
    assert len(off) == len(RIDGE.places)
    assert 0.05 < max(map(abs, off)) <= ERROR_M  # not the plan's own heights, nor farther off than it says
    main = Layout(RIDGE).lines["head-main"]
    along = [
        height for height in ask_heights(address, PLANE.degrees(stations(Layout(RIDGE), main))).heights_m if height
    ]
    low_point, high_point = min(along[30:60]), max(along[50:70])
    assert high_point - low_point > 1.5  # the high point that the plan knows of
    beyond = ask_heights(address, PLANE.degrees([(5_000.0, 0.0)]))
    assert beyond.heights_m == [None]


def test_more_points_than_a_batch_come_back_in_their_order(address: str, behaviour: Behaviour) -> None:
    behaviour.mode = "fine"
    pairs = PLANE.degrees([(float(at % 500), float(at // 5 - 300)) for at in range(BATCH + 40)])
    told = ask_heights(address, pairs).heights_m
    assert told[-1] == ask_heights(address, pairs[-1:]).heights_m[0]
    assert len(told) == BATCH + 40


@pytest.mark.parametrize(
    ("mode", "why"),
    [("down", "answers 503"), ("refusing", "answers 429"), ("garbled", "cannot be read"),
     ("too few", "4 heights for 5"), ("times", "as a height")],
)  # fmt: skip
def test_every_way_of_failing_is_said_in_words(address: str, behaviour: Behaviour, mode: Mode, why: str) -> None:
    behaviour.mode = mode
    with pytest.raises(HeightsUnavailable, match=why):
        ask_heights(address, [(-31.2, 46.5)] * 5)


def test_a_slow_service_is_waited_for_so_long_and_a_silent_one_not_at_all(address: str, behaviour: Behaviour) -> None:
    behaviour.mode, behaviour.delay_s = "fine", 1.5
    began = time.monotonic()
    with pytest.raises(HeightsUnavailable, match=r"within 0\.3 seconds"):
        ask_heights(address, [(-31.2, 46.5)], wait_s=0.3)
    assert time.monotonic() - began < 1.2
    behaviour.delay_s = 0.0
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        port = taken.getsockname()[1]
    with pytest.raises(HeightsUnavailable, match="nothing answers"):
        ask_heights(f"http://127.0.0.1:{port}", [(-31.2, 46.5)])
    behaviour.mode = "gaps"
    assert ask_heights(address, [(-31.2, 46.5)] * 3).heights_m[1] is None
