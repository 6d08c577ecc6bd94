"""What is bought, put into a line: it takes there what its own row says, whatever the line's bore."""

from typing import Any

import pytest

from examples import one_line
from leadsman.core.base.errors import UnknownName
from leadsman.core.catalogue import FittingProduct, fittings, parts
from leadsman.core.design.file import read_design
from leadsman.core.design.fitted import fitted
from leadsman.core.design.line_pipe import line_lumps
from leadsman.core.physics.fittings import crane_full_turbulence_factor, minor_loss_per_flow2, sudden_contraction_k
from leadsman.core.physics.fittings import sudden_expansion_k as expansion_k
from leadsman.core.physics.water import water_at

OWN = FittingProduct.model_validate({"product_id": "own-t", "name": "Tight elbow", "times_ft": 30.0, "bore_mm": 18.0})


def taken(told: dict[str, Any], **changes: Any) -> float:
    """What the line's fittings and parts take over flow squared, with what was told put in."""
    put = {"lines.0.fittings": [told["fitting"]]} if "fitting" in told else {"lines.0.inline": [told["part"]]}
    design = read_design(one_line(**{"lines.0.inline": [], **changes, **put}))
    return sum(lump.per_flow2 for lump in line_lumps(design.lines[0], "/lines/0", water_at(10.0)))


@pytest.mark.parametrize("product", ["pe100-sdr13.6-32", "pe-cid-1", "pvc-sch40-0.75"])
def test_a_part_takes_what_its_own_bore_does(product: str) -> None:
    design = read_design(one_line(**{"lines.0.product": product}))
    bore_m = design.pipe(product).bore_m
    tap = parts()["ball-tap-0.5"]  # 15 mm: narrower than all of these
    k = 3 * crane_full_turbulence_factor(0.015) + sudden_contraction_k(bore_m, 0.015) + expansion_k(0.015, bore_m)
    told = fitted(design, "line", part=tap)
    assert told["part"]["kind"] == "isolating_valve"
    assert taken(told, **{"lines.0.product": product}) == pytest.approx(minor_loss_per_flow2(k, 0.015), rel=1e-3)


def test_what_is_told_by_kv_keeps_it_and_a_reducer_its_setting() -> None:
    design = read_design(one_line())
    assert fitted(design, "line", part=parts()["screen-filter-1"])["part"]["kv_m3h"] == 10.0
    reducer = fitted(design, "line", part=parts()["reducer-0.75"])["part"]
    assert (reducer["kind"], reducer["outlet_kpa"]) == ("reducer", 200.0)
    assert "k" not in fitted(design, "line", part=parts()["air-vent-0.5"])["part"]
    foot = fitted(design, "line", part=parts()["foot-valve-1"])["part"]
    assert (foot["kind"], foot["product"]) == ("check_valve", "foot-valve-1")


def test_a_fitting_of_one_s_own_goes_by_its_figures_and_one_that_ships_by_its_name() -> None:
    design = read_design(one_line())
    assert fitted(design, "line", fittings()["elbow-90"]) == {"fitting": {"product": "elbow-90"}}
    told = fitted(design, "line", OWN)
    assert told["fitting"]["bore_mm"] == 18.0
    k, on_m = OWN.loss(0.0272)
    assert taken(told) == pytest.approx(minor_loss_per_flow2(k, on_m), rel=1e-4)
    wide = OWN.model_copy(update={"bore_mm": 40.0})
    assert fitted(design, "line", wide)["fitting"] == {
        "k": pytest.approx(30 * crane_full_turbulence_factor(0.04), rel=1e-3), "bore_mm": 40.0,
    }  # fmt: skip


def test_no_line_no_fitting() -> None:
    with pytest.raises(UnknownName):
        fitted(read_design(one_line()), "nowhere", fittings()["elbow-90"])
