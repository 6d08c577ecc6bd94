"""The simulated level sensor and its client: each planted fault comes through, and no bad answer gets any further."""

import threading
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from itertools import pairwise

import pytest
from flask.testing import FlaskClient
from werkzeug.serving import make_server

from examples import one_line
from leadsman.api.routes import SETTINGS
from leadsman.core.field.level_series import Store, series_findings
from leadsman.services.levels import LevelsUnavailable, ask_levels
from leadsman.settings import Settings
from leadsman.standins.level_service import Behaviour, Mode, create_service, simulated

FIGURES = {"full_m": 2.0, "area_m2": 4.0, "comes_lph": 100.0, "drawn_lpd": 1_500.0, "start_m": 1.0}


@pytest.fixture
def behaviour() -> Behaviour:
    return Behaviour()


@pytest.fixture
def address(behaviour: Behaviour) -> Iterator[str]:
    server = make_server("127.0.0.1", 0, create_service(behaviour), threaded=True)
    running = threading.Thread(target=server.serve_forever)
    running.start()
    yield f"http://127.0.0.1:{server.server_port}/"
    server.shutdown()
    running.join()
    server.server_close()


def test_levels_come_every_ten_minutes_and_the_same_for_the_same_question(address: str) -> None:
    figures: dict[str, str | float] = {"vessel": "tank", "days": 2, "until": "2031-06-20T09:00:00+00:00"}
    one, other = ask_levels(address, figures), ask_levels(address, figures)
    assert one == other
    assert len(one.readings) == 2 * 144
    assert all(b[0] - a[0] == timedelta(minutes=10) for a, b in pairwise(one.readings))


@pytest.mark.parametrize(("mode", "said"), [("down", "answers 503"), ("garbled", "cannot be read")])
def test_what_is_no_answer_is_said(behaviour: Behaviour, address: str, mode: Mode, said: str) -> None:
    behaviour.mode = mode
    with pytest.raises(LevelsUnavailable, match=said):
        ask_levels(address, {"vessel": "tank"})


def test_nothing_there_is_said() -> None:
    with pytest.raises(LevelsUnavailable, match="nothing answers"):
        ask_levels("http://127.0.0.1:1", {"vessel": "tank"})


@pytest.mark.parametrize("minutes", [*range(0, 300, 20), *range(300, 1440, 120)])
def test_a_valve_that_passes_is_told_at_every_hour_and_a_line_that_is_well_at_none(minutes: int) -> None:
    """While a night has just begun, it is the night before that says so."""
    until = datetime(2031, 6, 20, tzinfo=UTC) + timedelta(minutes=minutes)
    figures = {"full_m": 1.9, "area_m2": 3.14, "comes_lph": 0.0, "drawn_lpd": 590.0, "start_m": 1.0}
    store = Store(area_m2=3.14, most_m3s=1e-3, comes_m3s=None, full_m=1.9)

    def codes(mode: Mode) -> set[str]:
        return {one.code for one in series_findings(simulated("tank", mode, until, 4.0, figures), store, until)}

    assert codes("passing") == {"passes-at-night"}
    assert codes("fine") == set()


@pytest.mark.parametrize(
    ("mode", "code"),
    [
        ("fine", None), ("silent", "silent"), ("stuck", "stuck"), ("jumping", "jumping"),
        ("wrong clock", "wrong-clock"), ("passing", "passes-at-night"), ("pump stays on", "pump-stays-on"),
    ],
)  # fmt: skip
def test_a_planted_fault_reaches_the_page(
    client: FlaskClient, behaviour: Behaviour, address: str, mode: Mode, code: str | None
) -> None:
    set_up: Settings = client.application.extensions[SETTINGS]
    client.application.extensions[SETTINGS] = Settings(**{**vars(set_up), "level_service_url": address})
    document = one_line()
    document["vessels"][0]["overflow_m"] = 1.9
    if mode == "pump stays on":
        document["inflows"] = [{"id": "well", "kind": "pump", "fills": "tank", "flow_lpm": 20.0, "hours_per_day": 4.0,
            "cut_in_m": 1.0, "cut_out_m": 1.8}]  # fmt: skip
    made = client.post("/api/designs", json={"document": document}).get_json()
    behaviour.mode = mode
    asked = {"document": document, "vessel": "tank"}
    told = client.post(f"/api/designs/{made['design_id']}/levels", json=asked).get_json()
    assert told["trouble"] is None
    assert [one["code"] for one in told["findings"]] == ([code] if code else [])
    if mode in ("fine", "passing"):
        midnight, level_m = told["since"]
        asked_then = {"document": document, "vessel": "tank", "midnight": midnight, "level_m": level_m}
        run = client.post(f"/api/designs/{made['design_id']}/levels/expected", json=asked_then).get_json()["expected"]
        assert len(run) > 10
        assert run[0] == [midnight, pytest.approx(level_m)]
        assert datetime.fromisoformat(run[-1][0]) - datetime.fromisoformat(midnight) == timedelta(days=1)
    behaviour.mode = "down"
    told = client.post(f"/api/designs/{made['design_id']}/levels", json=asked).get_json()
    assert "answers 503" in told["trouble"]
    unknown = client.post(f"/api/designs/{made['design_id']}/levels", json=asked | {"vessel": "lake"})
    assert unknown.status_code == 422


def test_the_stand_in_fades_as_it_is_told() -> None:
    until = datetime(2031, 6, 20, 9, 0, tzinfo=UTC)
    fine, fading = (simulated("tank", mode, until, 6.0, FIGURES) for mode in ("fine", "fading"))
    assert fine[-1][1] > fading[-1][1]
