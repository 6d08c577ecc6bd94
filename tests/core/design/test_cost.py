"""What a change costs: only what has to be bought for it, and nothing where nobody knows."""

from typing import Any

import pytest

from examples import Document, one_line
from leadsman.core.catalogue import float_valves, pipes
from leadsman.core.design.cost import price_of_change
from leadsman.core.design.file import read_design

OWN = {"product_id": "own-p", "name": "P", "family": "PE", "outer_mm": 40.0, "wall_mm": 3.0, "roughness_mm": 0.007,
       "price_per_m": 2.5}  # fmt: skip
VALVE = {"product": "full-flow-0.75", "kv_m3h": 7.4, "closes_at_m": 0.5, "band_m": 0.05}


def price(changes: Document, before: Document | None = None) -> float | None:
    return price_of_change(read_design(one_line(**(before or {}))), read_design(one_line(**changes)))


@pytest.mark.parametrize(
    ("changes", "expected"),
    [
        ({}, 0.0),
        ({"lines.0.product": "pe100-sdr13.6-40"}, 210 * (pipes()["pe100-sdr13.6-40"].price_per_m or 0.0)),
        ({"lines.0.length_m": 211.0}, pipes()["pe100-sdr13.6-32"].price_per_m),  # one metre more of the same
        ({"lines.0.length_m": 209.0}, 0.0),  # what is left over is not counted
        ({"lines.0.fittings": [{"product": "compression-coupling-32", "count": 3}]}, 15.0),
        ({"lines.0.fittings": [{"k": 1.4}]}, None),  # nobody knows what that is
        ({"lines.0.inline.0": {"kind": "vent", "at_m": 3.0, "product": "air-vent-0.5"}}, 15.0),
        ({"outlets.0.valve": VALVE}, float_valves()["full-flow-0.75"].price),
        ({"outlets.0.valve.kv_m3h": 4.0}, None),
        ({"outlets.0.valve.closes_at_m": 0.4}, 0.0),  # the float bent down
        ({"vessels.0.stand_m": 1.0}, None),  # a stand costs what it costs
        ({"vessels.1.product": "trough-light-1.5"}, 120.0),
        ({"own_pipes": [OWN], "lines.0.product": "own-p"}, 525.0),
        ({"site.currency": "NZD", "lines.0.product": "pe100-sdr13.6-40"}, None),  # the catalogue's are another money
        ({"site.currency": "NZD", "own_pipes": [OWN], "lines.0.product": "own-p"}, 525.0),
        ({"lines.0.runs": [{"product": "pe100-sdr13.6-32", "length_m": 110.0},
                           {"product": "pe100-sdr13.6-40", "length_m": 100.0}], "lines.0.product": None},
         100 * (pipes()["pe100-sdr13.6-40"].price_per_m or 0.0)),
    ],
)  # fmt: skip
def test_only_what_is_to_be_bought_is_priced(changes: dict[str, Any], expected: float | None) -> None:
    found = price(changes)
    assert found == (None if expected is None else pytest.approx(expected, abs=0.006))
