"""Drawings of floats: heights drawn to scale as the model has them, words in the reader's units, text never markup."""

from itertools import pairwise
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.unit_system import System
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.report.setting import SettingReport, settings_report
from leadsman.demo import tamsel_ridge
from leadsman.formats.drawing.canvas import GREYS, length_text, spread
from leadsman.formats.drawing.setting import setting_drawing
from properties import examples

SVG = "{http://www.w3.org/2000/svg}"


def drawn(
    design: Design, vessel: str, system: System = "metric", name: str = ""
) -> tuple[SettingReport, ElementTree.Element]:
    report = settings_report(Analysis(design))
    setting = next(one for one in report.settings if one.vessel == vessel)
    return setting, ElementTree.fromstring(setting_drawing(setting, name or vessel, system, GREYS))


def circles(root: ElementTree.Element) -> list[tuple[float, float, float]]:
    return [tuple(float(one.attrib[key]) for key in ("cx", "cy", "r")) for one in root.iter(f"{SVG}circle")]  # type: ignore[misc]


@pytest.mark.parametrize("vessel", ["low-trough", "goose-pan", "mat-tank"])
def test_what_is_drawn_stands_where_the_model_has_it(vessel: str) -> None:
    setting, root = drawn(tamsel_ridge(), vessel)
    (one,) = setting.floats
    assert one.pin is not None
    assert one.shut is not None
    assert one.open is not None
    assert one.hole_m is not None
    wide_open, shut, pin, hole = circles(root)
    per_m = (shut[1] - pin[1]) / (one.pin[1] - one.shut[1])
    assert per_m > 100.0
    assert (wide_open[1] - shut[1]) / per_m == pytest.approx(one.shut[1] - one.open[1], abs=2e-4)
    assert (shut[0] - pin[0]) / per_m == pytest.approx(one.shut[0] - one.pin[0], abs=2e-4)
    assert 2e3 * shut[2] / per_m == pytest.approx(one.float_mm, abs=0.5)
    assert (pin[1] - hole[1]) / per_m == pytest.approx(one.hole_m - one.pin[1], abs=2e-4)


@pytest.mark.parametrize(("system", "words"), [
    ("metric", ["closes 130 mm", "overflow 240 mm", "cable hole 210 mm", "least for Mat pump 70 mm", "260 mm up"]),
    ("us", ["closes 5 1/8 in", "overflow 9 1/2 in", "cable hole 8 1/4 in", "least for Mat pump 2 3/4 in"]),
])  # fmt: skip
def test_heights_in_words(system: System, words: list[str]) -> None:
    _, root = drawn(tamsel_ridge(), "mat-tank", system)
    written = [one.text for one in root.iter(f"{SVG}text")]
    assert all(word in written for word in words)


def test_what_people_type_is_written_and_nothing_more() -> None:
    document = write_design(tamsel_ridge())
    tank = next(vessel for vessel in document["vessels"] if vessel["id"] == "mat-tank")
    nasty = '<script>alert(1)</script>"&'
    tank["taps"] = [{"name": nasty, "at_m": 0.02}]
    _, root = drawn(read_design(document), "mat-tank", name=nasty)
    assert not list(root.iter(f"{SVG}script"))
    assert any(nasty in (one.text or "") for one in root.iter(f"{SVG}text"))


@examples(200)
@given(st.lists(st.floats(0.0, 500.0), min_size=1, max_size=12))
def test_words_keep_apart_and_in_order(wanted: list[float]) -> None:
    wanted = sorted(wanted)
    placed = spread(wanted, 14.0, 0.0, 500.0)
    assert all(after - before >= 14.0 - 1e-9 for before, after in pairwise(placed))
    assert placed[-1] <= 500.0
    if all(after - before >= 14.0 for before, after in pairwise(wanted)):
        assert placed == wanted


@examples(200)
@given(st.floats(0.0, 3.0))
def test_inches_in_eighths_are_within_a_sixteenth(metres: float) -> None:
    told = length_text(metres, "us").removesuffix(" in").split()
    inches = sum(float(part) if "/" not in part else int(part.split("/")[0]) / int(part.split("/")[1]) for part in told)
    assert abs(inches * 0.0254 - metres) <= 0.0254 / 16.0 + 1e-9
