"""The stand-in height service by itself: what it answers, and how it is told to fail."""

import pytest
from flask.testing import FlaskClient

from leadsman.standins.height_service import MOST_POINTS, Behaviour, create_service
from leadsman.standins.hill import LATITUDE_DEG, LONGITUDE_DEG


@pytest.fixture
def behaviour() -> Behaviour:
    return Behaviour(delay_s=0.0)


@pytest.fixture
def service(behaviour: Behaviour) -> FlaskClient:
    return create_service(behaviour).test_client()


ZERO = [LONGITUDE_DEG, LATITUDE_DEG]


def test_it_is_up_and_gives_a_height_with_its_error_and_its_source(service: FlaskClient) -> None:
    assert service.get("/health").get_json() == {"status": "up"}
    told = service.post("/heights", json={"points": [ZERO, [0.0, 0.0]]}).get_json()
    assert 260.0 < told["heights_m"][0] < 275.0
    assert told["heights_m"][1] is None
    assert told["error_m"] == 0.6
    assert "made up" in told["source"]
    assert service.post("/heights", json={"points": []}).get_json()["heights_m"] == []


def test_it_is_told_how_to_fail_and_refuses_what_it_does_not_know(service: FlaskClient, behaviour: Behaviour) -> None:
    told = service.put("/mode", json={"mode": "down", "delay_s": 0}).get_json()
    assert told == {"mode": "down", "delay_s": 0.0}
    assert service.post("/heights", json={"points": [ZERO]}).status_code == 503
    refused = service.put("/mode", json={"mode": "asleep"})
    assert refused.status_code == 400
    assert "down" in refused.get_json()["error"]
    assert behaviour.mode == "down"
    service.put("/mode", json={"mode": "fine"})
    assert service.post("/heights", json={"points": [ZERO]}).status_code == 200
    assert service.post("/heights", json={"points": [ZERO] * (MOST_POINTS + 1)}).status_code == 429


def test_the_same_place_has_the_same_height_every_time(service: FlaskClient) -> None:
    asked = {"points": [[LONGITUDE_DEG + step * 1e-4, LATITUDE_DEG - step * 2e-4] for step in range(20)]}
    first, again = (service.post("/heights", json=asked).get_json()["heights_m"] for _ in range(2))
    assert first == again
    assert len(set(first)) > 15
