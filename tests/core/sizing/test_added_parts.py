"""Filters, vents and reducers in the choice, and the cheapest change of what is laid already."""

from typing import Any

import pytest

from examples import LOCKED, Document, changed, one_line
from forks import enumerated, farm
from leadsman.core.analysis.analysis import Analysis
from leadsman.core.base.wording import plain
from leadsman.core.catalogue import parts, pipes
from leadsman.core.design.file import read_design
from leadsman.core.report.sizing import sized_plan_report
from leadsman.core.sizing.size import Sized, laid_in, size
from leadsman.core.steady.solve import solve

SIEVE = {"kind": "filter", "at_m": 2.0, "kv_m3h": 0.4}


def filtered(seed: int, kv_m3h: float = 0.4) -> Document:
    """A fork with a filter of its own before each trough."""
    document = farm(seed)
    document["sizing"] |= {"parts": True}
    for line in document["lines"][1:]:
        line["inline"] = [{**SIEVE, "kv_m3h": kv_m3h}]
    return document


def holds(document: Document, found: Sized) -> bool:
    """Whether everything required holds in a sized plan, solved again from its document."""
    state = solve(laid_in(read_design(document), found), all_open=True)
    return all(
        state.outlets[one["outlet"]].judged_flow_m3s >= one["flow_lpm"] / 6e4 * (1.0 - 1e-4)
        for one in document["requirements"]
    )


@pytest.mark.parametrize("seed", range(4))
def test_with_filters_the_cheapest_is_that_of_all_combinations(seed: int) -> None:
    document = filtered(seed)
    least = enumerated(document)
    assert least is not None
    found = size(read_design(document))
    assert found.cost == pytest.approx(least)
    assert found.proven_gap == 0.0
    assert holds(document, found)


def test_what_may_be_another_filter_never_makes_a_plan_dearer() -> None:
    document = filtered(0, kv_m3h=1.5)
    kept = size(read_design(changed(document, {"sizing.parts": False})))
    assert size(read_design(document)).cost <= kept.cost + 1e-9


def test_a_filter_that_takes_too_much_is_exchanged_and_it_is_said_why() -> None:
    document = filtered(2, kv_m3h=0.12)
    document["sizing"]["keep"] = ["draw0", "leg1"]
    document["requirements"] = document["requirements"][:1]
    found = size(read_design(document))
    sold = parts()[found.filters["leg0"]]
    inline = next(line.inline for line in laid_in(read_design(document), found).lines if line.id == "leg0")
    assert (inline[0].product, inline[0].kv_m3h) == (sold.product_id, sold.kv_m3h)
    why = next(one for one in found.why if one.part == "filter leg0")
    assert plain(why.told).startswith("The filter of leg0 with ")
    row = next(row for row in sized_plan_report(read_design(document), found).rows if row.kind == "filter")
    assert (row.changed, row.price, row.why is not None) == (True, sold.price, True)


def test_a_filter_that_is_kept_stays_as_it_is() -> None:
    document = filtered(1, kv_m3h=2.5)
    document["sizing"]["keep"] = ["leg0"]
    assert set(size(read_design(document)).filters) <= {"leg1"}
    whole = size(read_design(document))
    inline = next(line.inline for line in laid_in(read_design(document), whole).lines if line.id == "leg0")
    assert inline[0].kv_m3h == 2.5


LAID = {"sizing": {"laid": True}}


def test_what_is_laid_costs_nothing_and_where_all_is_well_nothing_is_changed() -> None:
    document = one_line(**LAID, **{"requirements.0.flow_lpm": 18.0, "requirements.0.refill_min": None})
    found = size(read_design(document))
    (piece,) = found.lines["line"]
    assert (found.cost, piece.product_id) == (0.0, document["lines"][0]["product"])
    report = sized_plan_report(read_design(document), found)
    assert report.is_change
    assert [row.changed for row in report.rows] == [False]


def test_the_cheapest_change_is_that_of_all_combinations_and_no_dearer_than_all_new() -> None:
    asks: Document = {"requirements.0.flow_lpm": 40.0, "requirements.0.refill_min": None}
    document = one_line(**LAID, **asks)
    change, new = size(read_design(document)), size(read_design(one_line(**asks)))
    assert 0.0 < change.cost == enumerated(document)
    assert change.cost <= new.cost
    assert change.lines["line"][0].product_id != document["lines"][0]["product"]


@pytest.mark.parametrize("seed", range(3))
def test_of_two_lines_the_one_that_is_laid_wide_enough_stays(seed: int) -> None:
    document = farm(seed)
    document["sizing"] = {"laid": True}
    for line in document["lines"]:
        del line["bore_mm"], line["roughness_mm"]
        line["product"] = "pe100-sdr17-32"
    document["lines"][1]["product"] = "pe100-sdr11-20"
    found = size(read_design(document))
    assert found.cost == pytest.approx(enumerated(document))
    assert found.proven_gap == 0.0
    assert holds(document, found)


def test_a_pipe_that_does_not_hold_its_pressure_is_no_choice_though_it_is_laid() -> None:
    deep: Document = {"places.1.ground_m": 10.0, "lines.0.points": [], "lines.0.product": "pe100-sdr17-32"}
    document = one_line(**LAID, **deep, **{"requirements.0.flow_lpm": 5.0, "requirements.0.refill_min": None})
    found = size(read_design(document))
    assert (pipes()[found.lines["line"][0].product_id].class_kpa or 0.0) > 1_080.0
    assert found.cost > 0.0


PARTS = {"sizing": {"parts": True}, "requirements.0.refill_min": None}


def test_vents_are_put_where_air_would_block_the_first_water_and_nowhere_else() -> None:
    document = one_line(**LOCKED, **PARTS, **{"requirements.0.flow_lpm": 5.0})
    found = size(read_design(document))
    assert {parts()[one.product_id].kind for one in found.added} == {"vent"}
    without = size(read_design(changed(document, {"sizing": {}})))
    assert found.cost == pytest.approx(without.cost + sum(one.price for one in found.added))
    assert Analysis(laid_in(read_design(document), without)).first_waters["valve"].margin_m < 0.0
    assert Analysis(laid_in(read_design(document), found)).first_waters["valve"].margin_m > 0.0
    rows = [row for row in sized_plan_report(read_design(document), found).rows if row.kind == "added"]
    assert [row.part for row in rows] == ["line"] * len(found.added)
    straight = size(read_design(one_line(**PARTS, **{"requirements.0.flow_lpm": 5.0})))
    assert straight.added == ()


STRONG = {"family": "made up", "wall_mm": 2.0, "roughness_mm": 0.01}
OWN = [
    {**STRONG, "product_id": "weak", "name": "Weak pipe", "outer_mm": 32.0, "class_bar": 4.0, "price_per_m": 0.5},
    {**STRONG, "product_id": "strong", "name": "Strong pipe", "outer_mm": 32.0, "class_bar": 16.0, "price_per_m": 2.0},
]


def steep(**prices: float) -> Document:
    """A steep line that stays as it is, then 400 m on level ground, under 60 m of water; what parts cost as given."""
    return one_line(**{
        "requirements.0.refill_min": None, "own_pipes": OWN, "places.1.ground_m": 60.0, "requirements.0.flow_lpm": 5.0,
        "places.2": {"id": "foot", "east_m": 100, "north_m": 0, "ground_m": 60.0},
        "lines.0.product": "strong", "lines.0.length_m": 120.0, "lines.0.points": [], "lines.0.to": "foot",
        "lines.1": {"id": "level", "from": "foot", "to": "valve", "product": "strong", "length_m": 400.0},
        "sizing": {"parts": True, "keep": ["line"]},
        "prices": [{"product": product.replace("_", "-"), "price": price} for product, price in prices.items()],
    })  # fmt: skip


def test_a_reducer_is_put_in_where_weak_pipe_behind_it_saves_more_than_it_costs() -> None:
    document = steep(reducer_1=52.0)
    found = size(read_design(document))
    (reducer,) = found.added
    assert parts()[reducer.product_id].kind == "reducer"
    assert found.lines["level"][0].product_id == "weak"
    assert found.cost == pytest.approx(0.5 * 400.0 + reducer.price)
    plan = laid_in(read_design(document), found)
    assert solve(plan, all_open=True).outlets["valve"].judged_flow_m3s * 6e4 >= 5.0
    assert size(read_design(changed(document, {"sizing.parts": False}))).cost == pytest.approx(2.0 * 400.0)


def test_a_reducer_that_costs_more_than_it_saves_is_left_out() -> None:
    dear: Any = {f"reducer_{name}": 601.0 for name in ("0.5", "0.75", "1")}
    found = size(read_design(steep(**dear)))
    assert found.added == ()
    assert found.cost == pytest.approx(800.0)
    cheaper: Any = {f"reducer_{name}": 599.0 for name in ("0.5", "0.75", "1")}
    assert size(read_design(steep(**cheaper))).cost == pytest.approx(799.0)
