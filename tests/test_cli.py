"""The commands that need no server: output, exit codes, and what they leave alone."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from examples import Document, one_line
from leadsman.cli import main

PROJECT = Path(__file__).parents[1]


def run(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str, str]:
    code = main(words)
    captured = capsys.readouterr()
    return code, captured.out, captured.err


@pytest.fixture
def file(tmp_path: Path):  # type: ignore[no-untyped-def]
    def write(document: Document | str) -> str:
        path = tmp_path / "design.json"
        path.write_text(document if isinstance(document, str) else json.dumps(document))
        return str(path)

    return write


def test_solve_prints_the_contract(capsys, file) -> None:  # type: ignore[no-untyped-def]
    code, out, _ = run(capsys, "solve", file(one_line()), "--json")
    answer = json.loads(out)
    assert code == 0
    assert set(answer) >= {"converged", "feasible", "reason", "friction", "lines", "nodes", "outlets", "section"}
    assert {"flow_lpm", "velocity_ms", "loss_m", "state"} <= set(answer["lines"]["line"])
    assert set(answer["nodes"]["tank"]) == {"head_m", "pressure_kpa"}
    assert {"flow_lpm", "pressure_kpa", "head_m", "state", "reason"} <= set(answer["outlets"]["valve"])


def test_all_open_opens_a_floats_valve_but_not_a_shut_one(capsys, file) -> None:  # type: ignore[no-untyped-def]
    full = one_line(**{"vessels.1.level_m": 0.55})
    assert json.loads(run(capsys, "solve", file(full), "--json")[1])["outlets"]["valve"]["state"] == "shut"
    answer = json.loads(run(capsys, "solve", file(full), "--all-open", "--json")[1])
    assert answer["outlets"]["valve"]["state"] == "running"
    shut = one_line(**{"outlets.0.shut": True})
    assert json.loads(run(capsys, "solve", file(shut), "--all-open", "--json")[1])["outlets"]["valve"]["flow_lpm"] == 0


def test_a_section_prints_every_surveyed_point(capsys, file) -> None:  # type: ignore[no-untyped-def]
    points = json.loads(run(capsys, "solve", file(one_line()), "--section", "line", "--json")[1])["section"]["points"]
    assert [point["at_m"] for point in points] == [0.0, 70.0, 140.0, 210.0]
    assert {"head_m", "shut_head_m", "pressure_kpa", "shut_kpa", "velocity_ms", "mark"} <= set(points[0])
    assert points[0]["head_m"] > points[-1]["head_m"]
    code, out, _ = run(capsys, "solve", file(one_line()), "--section", "line")
    assert code == 0
    assert "section of line" in out
    code, _, err = run(capsys, "solve", file(one_line()), "--section", "lime")
    assert (code, "line" in err) == (2, True)


def test_a_range_is_about_the_answer_it_is_printed_with(capsys, file) -> None:  # type: ignore[no-untyped-def]
    answer = json.loads(run(capsys, "solve", file(one_line()), "--range", "--json")[1])
    flow, found = answer["outlets"]["valve"]["flow_lpm"], answer["ranges"]["outlets"]["valve"]["flow_lpm"]
    assert found["worst"] < found["likely"] < found["best"]
    assert found["likely"] == pytest.approx(flow)
    assert "…" in run(capsys, "solve", file(one_line()), "--range")[1]


def test_a_scenario_is_found_by_its_name_or_refused(capsys, file) -> None:  # type: ignore[no-untyped-def]
    document = one_line(**{"scenarios.1": {"id": "night", "name": "At night", "shut": ["valve"]}})
    for name in ("night", "At night"):
        answer = json.loads(run(capsys, "solve", file(document), "--scenario", name, "--json")[1])
        assert answer["outlets"]["valve"]["state"] == "shut"
    code, _, err = run(capsys, "solve", file(document), "--scenario", "nigth")
    assert (code, "night" in err) == (2, True)


def test_the_other_school_is_used_when_named_and_not_believed_when_slow(capsys, file) -> None:  # type: ignore[no-untyped-def]
    flows = [
        json.loads(run(capsys, "solve", file(one_line()), "--friction", school, "--json")[1])["lines"]["line"]
        for school in ("darcy", "hazen-williams")
    ]
    assert flows[1]["flow_lpm"] > flows[0]["flow_lpm"]  # it reads less friction for these pipes
    assert 0.80 < flows[0]["hazen_williams_ratio"] < 0.95
    slow = one_line(**{"outlets.0.valve.kv_m3h": 0.02})
    assert "does not hold below Re 4,000" in run(capsys, "solve", file(slow), "--friction", "hazen-williams")[1]
    answer = json.loads(run(capsys, "solve", file(slow), "--json")[1])
    assert answer["lines"]["line"]["hazen_williams_ratio"] is None


def test_a_network_without_an_answer_is_exit_3_with_the_reason(capsys, file) -> None:  # type: ignore[no-untyped-def]
    ends = {"id": "rise", "from": "tank", "to": "dead"}
    rise = {**ends, "product": "pe100-sdr17-32", "length_m": 50, "pump": {"flow_lpm": 5}}
    place = {"id": "dead", "east_m": 0, "north_m": 0, "ground_m": 90}
    document = one_line(**{"places.2": place, "lines.1": rise})
    code, out, _ = run(capsys, "solve", file(document))
    assert code == 3
    assert "no answer: " in out
    answer = json.loads(run(capsys, "solve", file(document), "--json")[1])
    assert (answer["converged"], answer["feasible"]) == (False, False)
    assert answer["reason"]
    assert run(capsys, "check", file(document))[0] == 3
    code, out, _ = run(capsys, "dayrun", file(document))
    assert code == 3
    assert "The run ends at 00:00: the network has no solution there" in out


def test_a_day_run_prints_the_contract(capsys, file) -> None:  # type: ignore[no-untyped-def]
    draw = {"vessel": "tank", "from_s": 0.0, "to_s": 7_200.0, "flow_lpm": 400.0}
    code, out, _ = run(capsys, "dayrun", file(one_line(draws=[draw])), "--hours", "2", "--at", "0,300,600", "--json")
    answer = json.loads(out)
    assert code == 0
    assert set(answer) >= {"times_s", "levels_m", "flows_lpm", "events", "mass_error"}
    assert answer["times_s"] == [0.0, 300.0, 600.0]
    assert {key: len(row) for key, row in answer["levels_m"].items()} == {"tank": 3, "trough": 3}
    assert set(answer["flows_lpm"]) == {"valve", "line"}
    assert answer["mass_error"] < 1e-6
    assert {"time_s", "kind", "where", "text"} == set(answer["events"][0])
    steady = json.loads(run(capsys, "solve", file(one_line()), "--json")[1])["outlets"]["valve"]["flow_lpm"]
    assert answer["flows_lpm"]["valve"][0] == pytest.approx(steady, rel=1e-4)
    text = run(capsys, "dayrun", file(one_line(draws=[draw])), "--hours", "2")[1]
    assert "tank is empty" in text
    assert "00:" in text


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["--hours", "2184"], "allowed is 0.01 to 2160"),
        (["--hours", "0"], "--hours"),
        (["--at", "10,late"], "--at/1"),
        (["--at", "-1"], "allowed is 0 to 86400"),
        (["--scenario", "none"], "no scenario is called"),
    ],
)
def test_a_day_run_that_cannot_be_is_exit_2_with_what_is_allowed(capsys, file, words, said) -> None:  # type: ignore[no-untyped-def]
    code, out, err = run(capsys, "dayrun", file(one_line()), *words)
    assert (code, out) == (2, "")
    assert said in err


def test_check_prints_the_contract(capsys, file) -> None:  # type: ignore[no-untyped-def]
    code, out, _ = run(capsys, "check", file(one_line(**{"requirements.0.flow_lpm": 45})), "--json")
    answer = json.loads(out)
    finding = answer["findings"][0]
    assert code == 0
    assert {"code", "severity", "where", "value", "limit", "unit", "reason", "remedies"} <= set(finding)
    assert set(finding["remedies"][0]) >= {"text", "patch", "effect", "price"}
    assert "flow-below-wanted" in answer["checked"]
    numbers = {number["key"]: number for number in answer["verdict"]["numbers"]}
    assert numbers["spare"]["value"]["value"] == pytest.approx(1440.0 - 590.0, rel=1e-3)
    assert numbers["days"]["value"]["value"] == pytest.approx(5.32, abs=0.01)
    printed = run(capsys, "check", file(one_line(**{"requirements.0.flow_lpm": 45})))[1]
    assert "Lasts with no refill: 5.3 days; 2.0 days wanted" in printed
    assert "Supply to spare: 850 L a day" in printed
    assert "try line in 40 mm PE100 SDR 13.6: gives " in printed
    remedies = [remedy for finding in answer["findings"] for remedy in finding["remedies"]]
    assert all(set(remedy) >= {"text", "patch", "effect", "price"} for remedy in remedies)
    for remedy in remedies:
        assert f"{remedy['text']}: {remedy['effect']} ({remedy['price']:.2f} USD)" in printed


@pytest.mark.parametrize(
    ("units", "flow", "remedy", "never"),
    [
        ("metric", " L/min ", "a pressure reducer set to 50.0 kPa before it", ("gal", "psi")),
        ("us", " gal/min ", "a pressure reducer set to 7.3 psi before it", ("L/min", "kPa", " m ")),
        ("imperial", " imp gal/min ", "a pressure reducer set to 7.3 psi before it", ("L/min", "kPa", " m ")),
    ],
)
def test_what_is_printed_comes_in_the_units_asked_for(capsys, file, units, flow, remedy, never) -> None:  # type: ignore[no-untyped-def]
    document = file(one_line(**{"outlets.0.valve.max_pressure_kpa": 100, "outlets.0.valve.min_pressure_kpa": 150}))
    _, solved, _ = run(capsys, "solve", document, "--units", units, "--section", "line", "--range")
    _, checked, _ = run(capsys, "check", document, "--units", units)
    assert flow in solved
    assert remedy in checked
    assert not [unit for unit in never if unit in solved + checked.rsplit("\n", 2)[0]]


def test_json_stays_in_the_documents_units(capsys, file) -> None:  # type: ignore[no-untyped-def]
    document = file(one_line())
    assert run(capsys, "solve", document, "--json", "--units", "us") == run(capsys, "solve", document, "--json")


def test_a_day_of_the_calendar_shuts_where_no_herd_is(capsys, file) -> None:  # type: ignore[no-untyped-def]
    moved = {"id": "r", "herd": "mob", "from": "2026-05-01", "to": "2026-05-31", "outlets": ["other"]}
    second = {"id": "other", "place": "end", "kind": "open_end", "bore_mm": 9, "height_m": 0.5}
    day = {"id": "may", "air_c": 20.0, "date": "2026-05-09"}
    document = one_line(**{"lines.0.to": "end", "outlets.1": second, "calendar": [moved], "scenarios.1": day})
    asked = {}
    for scenario in ("day", "may"):
        answer = json.loads(run(capsys, "solve", file(document), "--scenario", scenario, "--json")[1])
        asked[scenario] = {one: told["state"] for one, told in answer["outlets"].items()}
    assert asked == {"day": {"valve": "running", "other": "running"}, "may": {"valve": "shut", "other": "running"}}


@pytest.mark.parametrize(
    ("document", "said"),
    [
        (one_line(**{"lines.0.bore_mm": -1, "vessels.0.place": "gone"}), ["/lines/0/bore_mm", "/vessels/0/place"]),
        ('{"places": [NaN', ["not JSON"]),
        ("z" * 10_000_000, ["at most"]),
        (one_line(**{"lines.0.roughness_mm": 3.0}), ["relative roughness"]),
    ],
    ids=["two faults", "cut", "10 MB", "too rough"],
)
@pytest.mark.parametrize("command", ["solve", "check", "dayrun"])
def test_a_bad_file_is_exit_2_with_every_fault(capsys, file, command, document, said) -> None:  # type: ignore[no-untyped-def]
    code, out, err = run(capsys, command, file(document), "--json")
    assert (code, out) == (2, "")
    for words in said:
        assert words in err


def test_a_file_that_is_not_there_is_exit_2(capsys) -> None:  # type: ignore[no-untyped-def]
    code, _, err = run(capsys, "solve", "/no/such/file.json")
    assert code == 2
    assert "/no/such/file.json" in err


def test_solving_and_checking_load_no_server_and_no_database() -> None:
    script = (
        "import sys; from leadsman.cli import main; code = main(['check', 'src/leadsman/demo/tamsel-ridge.json']); "
        "assert code == 0; heavy = {'flask', 'psycopg', 'scipy'} & set(sys.modules); assert not heavy, heavy"
    )
    environment = {**os.environ, "PYTHONPATH": str(PROJECT / "src")}
    done = subprocess.run([sys.executable, "-c", script], cwd=PROJECT, env=environment, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
