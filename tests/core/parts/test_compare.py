"""Parts and schools side by side: figures worked out another way, what is monotone, what every plan gets."""

import math

import fluids
import pytest
from flask.testing import FlaskClient

from examples import one_line
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import Quantity, Wording, plain
from leadsman.core.catalogue import parts, rows, vessels
from leadsman.core.catalogue.material import material_of, materials
from leadsman.core.design import Design
from leadsman.core.design.file import read_design, write_design
from leadsman.core.parts.compare.all import comparisons
from leadsman.core.parts.compare.comparison import ComparedRow, Comparison
from leadsman.core.parts.compare.taps import taps
from leadsman.demo import tamsel_ridge


def compared(design: Design, outlet: str, bucket_l: float = 20.0) -> dict[str, Comparison]:
    analysis = Analysis(design)
    at = next(one for one in analysis.fed_outlets if one.id == outlet)
    return {one.key: one for one in comparisons(analysis, at, bucket_l)}


def figure(cell: Wording) -> float:
    """The first quantity of a cell, else its text as a number."""
    quantities = [part.value for part in cell if isinstance(part, Quantity)]
    return quantities[0] if quantities else float(plain(cell).split()[0].replace(",", ""))


def row(comparison: Comparison, name: str) -> ComparedRow:
    return next(one for one in comparison.rows if name in one.name)


def test_the_demonstration_gets_every_comparison_and_each_row_a_cell_for_each_column() -> None:
    found = compared(tamsel_ridge(), "ewe-valve")
    assert list(found) == [
        "taps", "troughs", "tanks", "surface-or-trench", "many-or-few", "hose-or-pipe", "substitutes",
        "seen-or-enclosed", "sun-or-dark",
    ]  # fmt: skip
    for comparison in found.values():
        assert comparison.rows
        assert comparison.notes
        assert all(len(one.cells) == len(comparison.columns) for one in comparison.rows)


@pytest.mark.parametrize("product_id", ["ball-tap-0.5", "gate-tap-1", "spigot-0.75"])
def test_seconds_for_a_bucket_by_an_independent_library(product_id: str) -> None:
    """One pipe from a tank whose water stands 20.4 m over its end, a tap, and the jet's own head."""
    analysis = Analysis(read_design(one_line(**{"lines.0.inline": [], "lines.0.fittings": []})))
    (outlet,) = analysis.fed_outlets
    found = taps(analysis, outlet, 20.0)
    assert found is not None
    product = parts()[product_id]
    told = next(one for one in found.rows if one.name == product.name)
    bores = [end.bore_m for end in product.end_list] + ([product.bore_mm / 1e3] if product.bore_mm else [])
    bore, density = min(bores), analysis.state.water.density_kgm3
    (pipe,) = analysis.model.reaches_of_line("line")
    surface_m = analysis.model.layout.surface_m(analysis.design.vessels[0])
    fall_m = surface_m - analysis.model.layout.outlet_height_m(outlet)

    def needs_m(flow_m3s: float) -> float:
        velocity = flow_m3s / (math.pi / 4.0 * pipe.bore_m**2)
        reynolds = fluids.Reynolds(V=velocity, D=pipe.bore_m, nu=analysis.state.water.kinematic_viscosity_m2s)
        friction = fluids.friction.Colebrook(reynolds, pipe.roughness_m / pipe.bore_m)
        jet = flow_m3s / (math.pi / 4.0 * bore**2)
        if product.kv_m3h is not None:
            tap_m = (flow_m3s * 3600.0 / product.kv_m3h) ** 2 * 1e5 / density / 9.80665
        else:
            tap_m = (product.line_k(pipe.bore_m) or 0.0) * velocity**2 / 2.0 / 9.80665
        return friction * pipe.length_m / pipe.bore_m * velocity**2 / 2.0 / 9.80665 + tap_m + jet**2 / 2.0 / 9.80665

    low, high = 1e-6, 0.1
    for _ in range(100):
        middle = (low + high) / 2.0
        low, high = (middle, high) if needs_m(middle) < fall_m else (low, middle)
    assert figure(told.cells[2]) == pytest.approx(0.02 / low, rel=2e-3)
    assert figure(told.cells[1]) == pytest.approx(low * 60_000.0, rel=2e-3)


def test_a_larger_bucket_takes_as_much_longer() -> None:
    analysis = Analysis(read_design(one_line()))
    small, large = taps(analysis, analysis.fed_outlets[0], 10.0), taps(analysis, analysis.fed_outlets[0], 25.0)
    assert small is not None
    assert large is not None
    for one, other in zip(small.rows, large.rows, strict=True):
        assert one.name == other.name
        assert figure(other.cells[2]) == pytest.approx(2.5 * figure(one.cells[2]))


def test_troughs_hold_what_their_sizes_say_and_cost_by_the_year() -> None:
    found = compared(read_design(one_line()), "valve")["troughs"]
    told = row(found, "Light plastic trough, 1.5 m")
    product = vessels()["trough-light-1.5"]
    litres = 1.5 * 0.55 * 0.45 * 1e3
    assert figure(told.cells[0]) == pytest.approx(litres)
    herd = Analysis(read_design(one_line())).herds[0]
    assert plain(told.cells[1]) == f"{100.0 * litres / herd.daily_l:.0f} %"
    assert figure(told.cells[4]) == pytest.approx((product.price or 0.0) / 10.0)
    assert "cracks" in plain(told.cells[5])
    assert "a liner" in plain(row(found, "tyre").cells[6])


def test_every_vessel_of_the_catalogue_is_of_a_material_that_has_a_source() -> None:
    assert all(material_of(product_id) for product_id in vessels())
    assert {one.source_id for one in materials().values()} <= {one["source_id"] for one in rows("pipe")} | {"typical"}
    used = {one.name for product_id in vessels() if (one := material_of(product_id))}
    assert used == set(materials())


@pytest.mark.parametrize(("cover_m", "trench_m"), [(0.0, 0.0), (0.3, 210.0)])
def test_trench_hours_and_slack_by_hand(cover_m: float, trench_m: float) -> None:
    now, surface, trench = compared(read_design(one_line(**{"lines.0.cover_m": cover_m})), "valve")[
        "surface-or-trench"
    ].rows
    assert figure(now.cells[0]) == trench_m
    assert figure(surface.cells[0]) == 0.0
    assert figure(trench.cells[0]) == 210.0
    assert plain(trench.cells[1]) == f"{210.0 * 10.15 / 60.0:.0f} h, {210.0 * 10.15 / 60.0 * 0.6:.0f} h"
    assert figure(trench.cells[2]) == 840.0
    assert figure(surface.cells[3]) == pytest.approx(0.2e-3 * 40.0 * 210.0)
    assert figure(surface.cells[4]) == pytest.approx(math.pi / 4.0 * 0.0272**2 * 210.0 * 1e3, rel=1e-6)


def test_hoses_are_tried_in_the_plan_and_wider_ones_never_give_less() -> None:
    found = compared(tamsel_ridge(), "goose-valve")["hose-or-pipe"]
    now = next(one for one in found.rows if one.is_now)
    assert now.name == "1/2 in garden hose"
    own = Analysis(tamsel_ridge()).state.outlets["goose-valve"].judged_flow_m3s * 60_000.0
    assert figure(now.cells[0]) == pytest.approx(own, rel=1e-6)
    assert figure(row(found, "5/8 in garden hose").cells[0]) > figure(now.cells[0])
    assert figure(row(found, "3/8 in air hose").cells[0]) < figure(now.cells[0])
    assert figure(now.cells[3]) == pytest.approx(118 * 1.72 / 5.0, abs=0.5)


def test_a_stand_in_is_laid_in_all_its_lines_and_solved() -> None:
    found = compared(tamsel_ridge(), "goose-valve")["substitutes"]
    told = {plain(one.cells[0]): one for one in found.rows if one.name == "50 mm PE100 SDR 13.6"}
    document = write_design(tamsel_ridge())
    for line in document["lines"]:
        if line.get("product") == "pe100-sdr13.6-50":
            line["product"] = "pe100-sdr13.6-40"
    thin = Analysis(read_design(document))
    low = thin.state.outlets["low-valve"].judged_flow_m3s * 60_000.0
    assert f"Low trough valve {low:.1f} L/min" in plain(told["40 mm PE100 SDR 13.6"].cells[3])
    assert "Low trough" not in plain(told["63 mm PE100 SDR 13.6"].cells[3])
    length_m = sum(line["length_m"] for line in document["lines"] if line.get("product") == "pe100-sdr13.6-40")
    assert plain(told["40 mm PE100 SDR 13.6"].cells[2]) == f"{length_m * (1.5 - 2.31):+,.0f} USD"


def test_a_float_under_a_lid_loses_for_a_week_and_never_more_than_there_is() -> None:
    seen, guarded, enclosed = compared(tamsel_ridge(), "goose-valve")["seen-or-enclosed"].rows
    assert figure(seen.cells[1]) == figure(guarded.cells[1]) < figure(enclosed.cells[1])
    assert "the store is empty" in plain(enclosed.cells[1])
    document = write_design(tamsel_ridge())
    document["site"]["look_every_h"] = 168
    weekly = compared(read_design(document), "goose-valve")["seen-or-enclosed"].rows
    assert figure(weekly[0].cells[1]) == figure(weekly[2].cells[1])


def test_open_tanks_lose_what_the_day_takes() -> None:
    document = write_design(tamsel_ridge())
    for case in document["scenarios"]:
        case["et0_mm_d"] = 6.0
    found = compared(read_design(document), "goose-valve")["sun-or-dark"]
    # weir box, butt, two chambers, mat tank
    surface = 1.1 * 0.8 + math.pi / 4.0 * 1.3**2 + 2.0 * 1.5 + 2.0 * 1.0 + 0.6 * 0.4
    assert figure(found.rows[0].cells[0]) == pytest.approx(surface)
    assert figure(found.rows[0].cells[1]) == pytest.approx(1.05 * 6.0 * surface)


def test_pigs_and_hens_may_have_nipples_and_geese_may_not() -> None:
    herd = {"id": "mob", "class": "laying hen", "head": 95, "outlet": "valve"}
    _, nipples = compared(read_design(one_line(**{"herds": [herd]})), "valve")["trough-or-nipples"].rows
    assert plain(nipples.cells[1]) == "10"  # ten hens to one, by the directive
    assert "trough-or-nipples" not in compared(read_design(one_line(**{"herds": []})), "valve")
    assert "trough-or-nipples" not in compared(tamsel_ridge(), "goose-valve")


def test_the_api_takes_the_tightest_outlet_and_refuses_what_is_not_there(client: FlaskClient) -> None:
    asked = {"document": write_design(tamsel_ridge())}
    answer = client.post("/api/analyses/parts/comparisons", json=asked).get_json()
    assert answer["outlet"] == "goose-valve"
    refused = client.post("/api/analyses/parts/comparisons", json={**asked, "outlet": "nowhere"})
    assert refused.status_code == 422
    assert refused.get_json()["faults"][0]["path"] == "/outlet"
    assert client.post("/api/analyses/parts/comparisons", json={**asked, "bucket_l": 0}).status_code == 422
    empty = {**write_design(read_design(one_line())), "outlets": [], "lines": [], "herds": [], "requirements": []}
    nothing = client.post("/api/analyses/parts/comparisons", json={"document": empty})
    assert nothing.status_code == 422
    assert "an outlet that runs" in nothing.get_json()["faults"][0]["limit"]
