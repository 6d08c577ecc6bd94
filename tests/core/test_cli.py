"""The commands that need no server: output, exit codes, and what they leave alone."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest

from examples import Document, one_line
from leadsman.cli import main

PROJECT = Path(__file__).parents[2]


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


def test_check_prints_the_contract(capsys, file) -> None:  # type: ignore[no-untyped-def]
    code, out, _ = run(capsys, "check", file(one_line(**{"requirements.0.flow_lpm": 45})), "--json")
    answer = json.loads(out)
    finding = answer["findings"][0]
    assert code == 0
    assert {"code", "severity", "where", "value", "limit", "unit", "reason", "remedies"} <= set(finding)
    assert set(finding["remedies"][0]) >= {"text", "patch", "effect", "price"}
    assert "flow-below-wanted" in answer["checked"]


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
@pytest.mark.parametrize("command", ["solve", "check"])
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
