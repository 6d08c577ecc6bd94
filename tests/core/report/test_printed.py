"""What `solve` prints for reading: nothing that matters is left out, and warnings stand where they belong."""

from examples import Document, changed, one_line, worked_example
from leadsman.core.design.file import read_design
from leadsman.core.report.printed import printed
from leadsman.core.report.ranges import ranges_report
from leadsman.core.report.steady import solve_report
from leadsman.core.steady.solve import solve

HIGH_POINT = {"lines.0.points": [[0, 120], [70, 119.5], [140, 105], [210, 101]], "outlets.0.valve.kv_m3h": 8.0}


def text_of(document: Document, friction: str = "darcy", section: str | None = None, *, ranged: bool = False) -> str:
    state = solve(read_design(document), all_open=True, friction=friction)
    report = solve_report(state, friction, section)  # type: ignore[arg-type]
    if ranged:
        report.ranges = ranges_report(state)
    return printed(report)


def test_every_outlet_and_line_has_its_line_with_state_flow_and_reason() -> None:
    text = text_of(worked_example())
    for words in ("low-valve", "running", "36.30 L/min", "washout", "shut by hand", "main", "42.30 L/min"):
        assert words in text
    assert "Hazen–Williams reads 0." in text
    assert "not feasible" not in text


def test_a_suction_line_gives_both_answers_and_which_counts() -> None:
    text = text_of(one_line(**HIGH_POINT))
    assert "suction at 70 m of line" in text
    assert "L/min full" in text
    assert "with air in" in text
    assert "count on the one with air in" in text
    siphon = text_of(one_line(**HIGH_POINT, **{"lines.0.siphon": True}))
    assert "count on the full pipe" in siphon


def test_a_section_marks_what_lies_below_atmospheric_and_where_no_water_gets_to() -> None:
    lines = text_of(one_line(**HIGH_POINT), section="line").splitlines()
    assert any("below atmospheric" in line for line in lines)
    dry = text_of(one_line(**{"lines.0.shut": True, "places.1.ground_m": 100.0}), section="line")
    heads = [line.split()[3] for line in dry.split("section of line")[1].splitlines()[1:5]]
    assert heads == ["121.00", "–", "–", "–"]  # shut at its start: only the tank's own side has water


def test_ranges_stand_below_with_worst_first() -> None:
    text = text_of(one_line(), ranged=True)
    figures = next(line for line in text.splitlines() if line.startswith("valve") and line.endswith("L/min"))
    worst, likely, best = (float(word) for word in figures.removesuffix("L/min").split()[1::2])
    assert worst < likely < best


def test_a_state_that_is_not_feasible_says_so_last() -> None:
    text = text_of(changed(worked_example(), {"outlets.1.min_pressure_kpa": 400}))
    assert text.splitlines()[-1].startswith("not feasible: ")
